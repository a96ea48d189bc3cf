"""Thermostats in a day: what they look at, when an on/off one turns, what a dimming or pulse one gives.

On/off ones read a probe that lags two minutes and swing over their hysteresis; they are looked ahead for by the minute.
Dimming and pulse ones give what brings their probe to the set point within a quarter of an hour.
"""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate.case import EnclosureCase
from husbandry.climate.modes import LONGEST, Modes
from husbandry.climate.network import Network
from husbandry.climate.probes import direct_rises, probe_row

Floats = NDArray[np.float64]

AGREED: Final = 1e-3  # between thermostats that disturb one another, of a duty
HORIZON: Final = 15  # minutes within which a proportional thermostat brings its probe to the set point
PROBE_HEAT: Final = 12.0  # J/K; with its link a lag of two minutes
PROBE_LINK: Final = 0.1  # W/K


@dataclass(frozen=True)
class SwitchOutlook:
    """What a set of on/off states means until a timer changes: what each heater gives, forcing (modes,), and what ends it.

    `ahead` (LONGEST × probes, 2 modes) gives signed readings minute by minute; past `level` (minutes × probes,) one turns.
    """

    given: Floats
    forcing: Floats
    ahead: Floats
    level: Floats


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


@dataclass(frozen=True)
class LookAhead:
    """What thermostats see coming: the probes' readings over the next minutes, and at the horizon.

    `inputs` (modes, heaters and sun) is the forcing at full power; of the on/off ones `ahead` (LONGEST × probes, 2 modes) and
    `probes_of_room` (minutes, probes), of the others `horizon` (smooth, 2 modes), `gain` (smooth, smooth) in K and
    `horizon_of_room` (1440, smooth).
    """

    held: Thermostats
    inputs: Floats
    ahead: Floats
    probes_of_room: Floats
    horizon: Floats
    smooth_inputs: Floats
    gain: list[list[float]]
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
        smooth_inputs = np.ascontiguousarray(inputs[:, held.smooth])
        return cls(
            held,
            inputs,
            ahead.reshape(LONGEST * len(held.cycling), 2 * modes.rates.size),
            np.concatenate([at_end, at_end[:LONGEST]]),
            np.concatenate([state, forced], axis=1),
            smooth_inputs,
            (forced @ smooth_inputs + np.diag(held.direct[held.smooth])).tolist(),
            of_room[:, :n] @ held.rows[held.smooth].T,
        )

    def outlook(self, on: tuple[bool, ...], most: Floats, wanted: list[float]) -> SwitchOutlook:
        """Return what these on/off states mean while each heater and the sun may give `most` and probes should read `wanted`."""
        probes = len(on)
        given = most.copy()
        given[self.held.smooth] = 0.0
        for state, index in zip(on, self.held.cycling, strict=True):
            given[index] = most[index] if state else 0.0
        # Each looks for the end of what it does now: too warm while on, too cold while off; a cooler the other way.
        up = [state != self.held.cools[index] for state, index in zip(on, self.held.cycling, strict=True)]
        sign = np.array([1.0 if rising else -1.0 for rising in up])
        bound = [
            wanted[index] + (0.5 if rising else -0.5) * self.held.heaters[index].hysteresis_k if most[index] else np.inf
            for rising, index in zip(up, self.held.cycling, strict=True)
        ]
        level = np.where(np.isinf(bound), np.inf, sign * bound) - sign * self.probes_of_room
        width = self.ahead.shape[1]
        ahead = (self.ahead.reshape(LONGEST, probes, width) * sign[:, None]).reshape(LONGEST * probes, width)
        return SwitchOutlook(given, self.inputs @ given, ahead, level.ravel())

    def of_smooth(self, given: Floats) -> Floats | float:
        """The forcing (modes,) of the dimming and pulse thermostats' heaters."""
        return self.smooth_inputs.dot(given[self.held.smooth]) if self.held.smooth else 0.0

    def with_smooth(self, fresh: Floats, before: Floats) -> Floats:
        """Return what is given anew, with the dimming and pulse thermostats' heaters as they were."""
        given = fresh.copy()
        given[self.held.smooth] = before[self.held.smooth]
        return given

    def dim(self, reach: Floats, given: Floats, most: Floats, wanted: list[float], clock: int) -> None:
        """Set what the dimming and pulse thermostats give until the next look; they act in turn until they agree.

        `reach` (2 modes,) is the state and the forcing of everything else.
        """
        smooth, gain = self.held.smooth, self.gain
        coming = self.horizon_of_room[(clock + HORIZON) % len(self.horizon_of_room)]
        still = (self.horizon.dot(reach) + coming).tolist()
        duty = {index: float(given[index]) for index in smooth}
        for _ in range(1 if len(smooth) == 1 else 6):
            moved = 0.0
            for at, index in enumerate(smooth):
                reading = still[at]
                for other, column in enumerate(smooth):
                    if other != at:
                        reading += gain[at][other] * duty[column]
                own = gain[at][at]
                share = (wanted[index] - reading) / own if abs(own) > 1e-9 else 0.0
                share = min(max(share, 0.0), most[index])
                moved = max(moved, abs(share - duty[index]))
                duty[index] = share
            if moved < AGREED:
                break
        for index, share in duty.items():
            given[index] = share
