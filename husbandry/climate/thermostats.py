"""Thermostats in a day: what they look at, when an on/off one turns, what a dimming or pulse one gives.

On/off ones read a probe that lags two minutes and swing over their hysteresis; they are looked ahead for by the minute.
Dimming and pulse ones give what brings their probe to the set point within a quarter of an hour.
"""

from typing import Final, NamedTuple

import numpy as np
from numpy.typing import NDArray

from husbandry.climate.case import EnclosureCase
from husbandry.climate.compiled import compiled
from husbandry.climate.modes import LONGEST, Modes
from husbandry.climate.network import Network
from husbandry.climate.probes import direct_rises, probe_row
from husbandry.climate.terms import Ints

Floats = NDArray[np.float64]

AGREED: Final = 1e-3  # between thermostats that disturb one another, of a duty
HORIZON: Final = 15  # minutes within which a proportional thermostat brings its probe to the set point
PROBE_HEAT: Final = 12.0  # J/K; with its link a lag of two minutes
PROBE_LINK: Final = 0.1  # W/K


class Thermostats:
    """Those of one enclosure: `cycling` and `smooth` are the indices of the heaters held on/off and in proportion.

    `shift_k` is what every probe reads too high.
    """

    def __init__(self, case: EnclosureCase, net: Network, shift_k: float) -> None:
        self.heaters, self.shift_k = case.heaters, shift_k
        self.cycling = [index for index, heater in enumerate(case.heaters) if heater.control == "on-off"]
        self.smooth = [index for index, heater in enumerate(case.heaters) if heater.control in ("dimming", "pulse")]
        self.rows = np.array([probe_row(case, net.nodes, heater) for heater in case.heaters]).reshape(-1, net.nodes.count)
        self.direct = direct_rises(case)
        self.cools = [bool(column.sum() < 0) for column in net.per_watt[0].T]

    @property
    def probes(self) -> Floats:
        """What the probes of the on/off thermostats read, as rows over the nodes."""
        return self.rows[self.cycling]

    def with_probes(self, matrix: Floats) -> Floats:
        """Return the conductances (n, n) in W/K with the lagging probes as small nodes behind the others."""
        n, probes = len(matrix), len(self.cycling)
        full = np.zeros((n + probes, n + probes))
        full[:n, :n] = matrix
        for at, row in enumerate(self.probes, n):
            full[at, at] += PROBE_LINK
            full[at, :n] -= PROBE_LINK * row
            full[:n, at] -= PROBE_LINK * row
            full[:n, :n] += PROBE_LINK * np.outer(row, row)
        return full

    def felt_at_once(self) -> Floats:
        """W into each lagging probe (probes, heaters) by its own heater full on, where it lies on it."""
        found = np.zeros((len(self.cycling), len(self.heaters)))
        for place, index in enumerate(self.cycling):
            found[place, index] = PROBE_LINK * self.direct[index]
        return found

    def wanted(self, *, day: bool) -> list[float]:
        """What each probe has to read for the animal to have what is set, °C."""
        return [heater.set_point(day=day) - self.shift_k for heater in self.heaters]


class LookAhead(NamedTuple):
    """What thermostats see coming: the probes' readings over the next minutes, and at the horizon; never written to.

    `cycling` and `smooth` are the heaters held on/off and in proportion; `half_k` (heaters,) is half of what they swing over, below
    nought for coolers; `inputs` (modes, heaters and sun) is the forcing at full power. Of the on/off ones `ahead` (LONGEST, probes,
    2 modes) and `probes_of_room` (minutes, probes), of the others `horizon` (smooth, 2 modes), `gain` (smooth, smooth) in K and
    `horizon_of_room` (1440, smooth).
    """

    cycling: Ints
    smooth: Ints
    half_k: Floats
    inputs: Floats
    ahead: Floats
    probes_of_room: Floats
    horizon: Floats
    gain: Floats
    horizon_of_room: Floats

    @classmethod
    def of(cls, held: Thermostats, modes: Modes, inputs: Floats, of_room: Floats) -> "LookAhead":
        """Prepare it; `of_room` (1440, nodes and probes) is what the room alone makes."""
        n = held.rows.shape[1]
        rows, to_nodes = modes.temperature[n:], modes.temperature[:n]
        ahead = np.concatenate([modes.decay[1:, None, :] * rows, modes.grown[1:, None, :] * rows], axis=2)
        at_end = np.roll(of_room[:, n:], -1, axis=0)  # what stands at the end of each minute
        rows = held.rows[held.smooth] @ to_nodes
        decay = np.exp(-modes.rates * 60 * HORIZON)
        state, forced = rows * decay, rows * ((1 - decay) / modes.rates)
        own = np.diag(held.direct[held.smooth])
        return cls(
            np.array(held.cycling, dtype=int),
            np.array(held.smooth, dtype=int),
            np.array(
                [(-0.5 if cools else 0.5) * one.hysteresis_k for one, cools in zip(held.heaters, held.cools, strict=True)], float
            ),
            np.ascontiguousarray(inputs),
            np.ascontiguousarray(ahead),
            np.concatenate([at_end, at_end[:LONGEST]]),
            np.concatenate([state, forced], axis=1),
            np.ascontiguousarray(forced @ inputs[:, held.smooth] + own),
            np.ascontiguousarray(of_room[:, :n] @ held.rows[held.smooth].T),
        )


@compiled
def turns_after(held: LookAhead, reach: Floats, on: NDArray[np.bool_], limits: Floats, clock: int, minutes: int) -> int:
    """Look for the first minute at which an on/off thermostat turns; turn those that do.

    `reach` (2 modes,) is the state and the forcing; `limits` (2, heaters + 1) are what each heater may give and what its probe
    should read. Each looks for the end of what it does now: too warm while on, too cold while off; a cooler the other way.

    Returns the minutes until then below nought, or all of `minutes` where none turns.
    """
    most, wanted = limits[0], limits[1]
    for minute in range(minutes):
        turned = False
        for place in range(on.size):
            heater = held.cycling[place]
            if most[heater] <= 0.0:
                continue
            reading = held.probes_of_room[clock + minute, place]
            for mode in range(reach.size):
                reading += held.ahead[minute, place, mode] * reach[mode]
            edge_k = held.half_k[heater] if on[place] else -held.half_k[heater]
            over = reading - wanted[heater] - edge_k
            if over > 0.0 if edge_k >= 0.0 else over < 0.0:
                turned = True
                on[place] = not on[place]
        if turned:
            return -(minute + 1)
    return minutes


@compiled
def dim(held: LookAhead, reach: Floats, given: Floats, limits: Floats, clock: int) -> None:
    """Set what the dimming and pulse thermostats give until the next look; they act in turn until they agree.

    `reach` (2 modes,) is the state and the forcing of everything else; `limits` (2, heaters + 1) are what each heater may give
    and what its probe should read.
    """
    most, wanted = limits[0], limits[1]
    smooth, gain, count = held.smooth, held.gain, held.smooth.size
    later = (clock + HORIZON) % held.horizon_of_room.shape[0]
    for _ in range(1 if count == 1 else 6):
        moved = 0.0
        for at in range(count):
            reading = held.horizon_of_room[later, at]
            for mode in range(reach.size):
                reading += held.horizon[at, mode] * reach[mode]
            for other in range(count):
                if other != at:
                    reading += gain[at, other] * given[smooth[other]]
            own, heater = gain[at, at], smooth[at]
            share = (wanted[heater] - reading) / own if abs(own) > 1e-9 else 0.0
            share = min(max(share, 0.0), most[heater])
            moved = max(moved, abs(share - given[heater]))
            given[heater] = share
        if moved < AGREED:
            break
