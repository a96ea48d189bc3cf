"""The problem of the steady periodic state: what is given of an enclosure, for all phases, seasons and variations at once."""

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import heaters, humidity, network
from husbandry.climate.air import relative_humidity, saturation_pressure
from husbandry.climate.case import EnclosureCase, RoomState, running
from husbandry.climate.daycourse import room_curve
from husbandry.climate.duty_cycles import Coupled, Duties
from husbandry.climate.elimination import Given, Linearised
from husbandry.climate.heat_gains import sun_gains
from husbandry.climate.linearising import Coefficients, Room, View, coefficients
from husbandry.climate.network import Network
from husbandry.climate.openings import AirExchange, exchange_of, unsure
from husbandry.climate.parameters import Variation
from husbandry.climate.phases import PeriodicModes, Phase, phases_of
from husbandry.climate.probes import direct_rises, end_weights, own_row, probe_row, warm_side_x

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class SteadyProblem:
    """What is given: an enclosure in some seasons, in `varied` variations of what is uncertain.

    Order of the batch: the first of the day's `phases` in all seasons with their variations, then the next. Of shape (B,) `room_c`,
    `room_pa` (the room's vapour pressure), and those of `sources`; (B, n) `outside_w` W from sun, earth and sky; (B, heaters)
    the duties' limits `most` and the probes' set points `wanted` in °C; `rows` (heaters, n) are what the probes read of the nodes,
    `direct` (heaters,) the K each is warmed by its own heater.
    """

    case: EnclosureCase
    seasons: tuple[str, ...]
    phases: tuple[Phase, ...]
    varied: int
    vary: Variation
    network: Network
    room_c: Floats
    room_pa: Floats
    sources: humidity.Sources
    outside_w: Floats
    most: Floats
    wanted: Floats
    rows: Floats
    direct: Floats

    @property
    def batch(self) -> int:
        """How many states there are of each phase."""
        return self.varied * len(self.seasons)

    @property
    def watts(self) -> Floats:
        return np.array([heater.watts for heater in self.case.heaters])

    @property
    def hours(self) -> tuple[float, ...]:
        return tuple(phase.hours for phase in self.phases)

    def by_phase(self, values: Floats) -> Duties:
        """The phases apart: (phases, batch, …)."""
        return values.reshape(len(self.phases), self.batch, *values.shape[1:])

    def of_middles(self, middles: Floats) -> Floats:
        """Values of the unvaried states (phases × seasons, …), repeated for every variation."""
        return np.repeat(middles, self.varied, axis=0)

    @cached_property
    def given(self) -> Given:
        """What the network's equations are in every round."""
        net = self.network
        return Given(net.conductance, net.to_room, net.vent, net.per_watt, self.outside_w, self.watts, self.room_c)

    def modes(self, at: Linearised) -> PeriodicModes:
        """The modes of each season, by the unvaried network's mean over the day."""
        shares, count = np.array(self.hours) / sum(self.hours), self.network.nodes.count
        matrix, _room = self.network.bound(at.air_changes, at.h_conv, at.h_rad)
        middles = matrix.reshape(len(self.phases), len(self.seasons), self.varied, count, count)[:, :, 0]
        slope = at.slope.reshape(len(self.phases), len(self.seasons), self.varied, count)[:, :, 0]
        means = np.tensordot(shares, middles, axes=1)
        means[:, np.arange(count), np.arange(count)] += np.tensordot(shares, slope, axes=1)
        return PeriodicModes.of(means, self.network.capacity, self.hours)

    def coupled(self, base: Floats, rise: Floats, modes: PeriodicModes) -> Coupled:
        """The phases as they pull at one another, with the thermostats there are."""
        held = [index for index, heater in enumerate(self.case.heaters) if heater.control != "none"]
        by_phase = self.by_phase
        return Coupled(
            self.rows, held, self.direct, by_phase(base), by_phase(rise), by_phase(self.most), by_phase(self.wanted), modes
        )

    def coefficients(self, node_c: Floats, vapour_pa: Floats) -> Coefficients:
        """Air changes and the basking surface's own losses, as they are at temperatures (B, n) and a vapour pressure (B,)."""
        return coefficients(np.ascontiguousarray(node_c), np.ascontiguousarray(vapour_pa), self._room, self.exchange, self._view)

    @cached_property
    def _room(self) -> Room:
        return Room(*(np.ascontiguousarray(each) for each in (self.room_c, self.room_pa, self.vary.air_changes)))

    @cached_property
    def _view(self) -> View:
        spot, nodes = self.network.spot, self.network.nodes
        air = np.ascontiguousarray(spot.air)
        return View(nodes.spot, air, spot.seen.start, spot.seen.stop, float(spot.seen_share), float(self.case.spot.side_m))

    @cached_property
    def exchange(self) -> AirExchange:
        return AirExchange(*map(float, exchange_of(self.case.shell)))

    @cached_property
    def places(self) -> Floats:
        """The rows over the nodes that predictions are made of: air, surface, hides and water where there are any, own probes."""
        nodes = self.network.nodes
        wanted = [*range(nodes.air.start, nodes.air.stop), nodes.spot]
        wanted += [nodes.hide] * nodes.hiding + [nodes.water] * nodes.watered + [nodes.heated_hide] * nodes.heating
        own = [own_row(self.case, nodes, probe) for probe in self.case.probes]
        return np.concatenate([np.eye(nodes.count)[wanted], np.array(own).reshape(len(own), nodes.count)])

    def named(self, read_c: Floats, pressure: Floats, duty: Floats, vapour_out: Floats) -> dict[str, Floats]:
        """Name what the places of `places`, and behind them the air at its hottest, read (B, k), with vapour in Pa, duties
        (B, heaters) and vapour carried off in kg/h.
        """
        case, nodes, watts = self.case, self.network.nodes, self.watts
        warm, cool = end_weights(case, warm_side_x(case))
        air, more = read_c[:, : nodes.air_count], nodes.air_count + 1
        found = {
            "basking_surface": read_c[:, nodes.air_count],
            "warm_air": air @ warm,
            "cool_air": air @ cool,
            "hottest_air": read_c[:, -nodes.air_count :].max(axis=1),
            "warm_humidity": np.minimum(relative_humidity(pressure, air @ warm), 100.0),
            "cool_humidity": np.minimum(relative_humidity(pressure, air @ cool), 100.0),
        }
        if nodes.hiding:
            found["humid_hide"] = humidity.humid_hide(pressure, read_c[:, more])
        if nodes.watered:
            found["water"] = read_c[:, more + int(nodes.hiding)]
        own = more + int(nodes.hiding) + int(nodes.watered) + int(nodes.heating)
        if nodes.heating:
            found["heated_hide"] = read_c[:, own - 1]
        for index in range(len(case.probes)):
            found[f"probe_{index + 1}"] = read_c[:, own + index]
        found["heat_power"] = duty @ watts if watts.size else np.zeros(len(read_c))
        found["vapour_out"] = vapour_out
        for index, heater in enumerate(case.heaters):
            if heaters.HEATERS[heater.kind].place not in ("light", "hide"):
                found[f"duty_{index}"] = 100 * duty[:, index]
        return found


def problem_of(case: EnclosureCase, seasons: tuple[str, ...], vary: Variation) -> SteadyProblem:
    """State the problem of an enclosure in some seasons, with `vary` (variations,) of what is uncertain.

    Parameters
    ----------
    case, seasons
        The enclosure and the seasons that are solved.
    vary
        Variations of what is uncertain, (variations,).

    Returns
    -------
    SteadyProblem.

    References
    ----------
    Cottle, Pang and Stone, The Linear Complementarity Problem, 1992 (docs/models.md [5]; recalled).
    """
    count, phases = vary.losses.size, phases_of(case)
    repeated = vary.repeated(len(phases) * len(seasons))
    repeated = replace(repeated, air_changes=unsure(case.shell, repeated.air_changes))
    net = network.build(case, vary)
    states = [(season, phase) for phase in phases for season in seasons]
    most = [[float(running(heater.on_hour, heater.off_hour, phase.middle)) for heater in case.heaters] for _season, phase in states]
    wanted = [[heater.set_point(day=phase.lit) for heater in case.heaters] for _season, phase in states]
    shape = (len(states), len(case.heaters))
    rows = np.array([probe_row(case, net.nodes, heater) for heater in case.heaters])
    room_c = np.repeat(np.array([_room_c(case.rooms[season], phase) for season, phase in states]), count) + repeated.room_k
    percent = np.repeat(np.array([case.rooms[season].humidity_percent for season, _phase in states]), count)
    outside_w = np.tile(net.outside_w, (len(states), 1))
    if case.sun is not None:
        shines = [case.sun.watts * running(case.sun.from_hour, case.sun.to_hour, phase.middle) for _season, phase in states]
        outside_w = outside_w + np.repeat(np.array(shines), count)[:, None] * sun_gains(case.shell, net.spot.area_m2)
    return SteadyProblem(
        case,
        seasons,
        phases,
        count,
        repeated,
        net,
        room_c,
        np.minimum(percent / 100 * repeated.room_humidity, 1.0) * saturation_pressure(room_c),
        humidity.Sources(
            repeated.wetness,
            np.repeat([humidity.given_mean(case.in_season(season)) for season, _phase in states], count),
            np.repeat([1.0 if phase.lit else humidity.STOMATA_IN_THE_DARK for _season, phase in states], count),
        ),
        outside_w,
        np.repeat(np.array(most).reshape(shape), count, axis=0),
        np.repeat(np.array(wanted).reshape(shape), count, axis=0) - repeated.probe_k[:, None],
        rows.reshape(len(case.heaters), net.nodes.count),
        direct_rises(case),
    )


@lru_cache(maxsize=512)
def _room_c(room: RoomState, phase: Phase) -> float:
    """The room in a phase, °C: the mean of the keeper's own curve over it, else what is said of day or night."""
    if not room.curve_c or not phase.hours:
        return room.day_c if phase.lit else room.night_c
    quarters = phase.from_hour + (np.arange(round(4 * phase.hours) or 1) + 0.5) * phase.hours / (round(4 * phase.hours) or 1)
    return float(room_curve(room, quarters).mean())
