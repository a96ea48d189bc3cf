"""A day in minutes: the network stepped through 24 hours with its timers, its thermostats and its water.

The linear part is stepped exactly in its modes (`eigh` of the scaled matrix), from one switch to the next. What is not
linear (air changes by √ΔT, the surface's own losses, latent heat, vapour) is evaluated every few minutes and held as a
correction, sooner after a switch. The room's curve enters through its harmonics, so it costs nothing on the way.
Thermostats read their probe once a minute. On/off ones switch at the ends of their hysteresis, by a probe that lags two
minutes; dimming and pulse ones set, every few minutes, the power that brings their probe to the set point within a quarter
of an hour. Where the corrections overshoot between two evaluations (a lamp almost touching the stone), the day is stepped
once more, minute by minute and with under-relaxed corrections.
"""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import network
from husbandry.climate.air import relative_humidity
from husbandry.climate.case import EnclosureCase, RoomState, running
from husbandry.climate.corrections import Held
from husbandry.climate.day_water import Moist, first_water, moist_of, water_of
from husbandry.climate.daycourse import MINUTES, DayCourse, harmonics, room_curve
from husbandry.climate.heat_gains import sun_gains
from husbandry.climate.modes import LONGEST, Modes
from husbandry.climate.nodes import Nodes
from husbandry.climate.openings import unsure
from husbandry.climate.parameters import Variation
from husbandry.climate.probes import end_weights, warm_side_x
from husbandry.climate.states import Climate, SteadyState
from husbandry.climate.terms import Linear, terms_of
from husbandry.climate.thermostats import PROBE_HEAT, LookAhead, Thermostats
from husbandry.climate.walk import ENDED, SWINGS, Events, Record, State, Track, walk

Floats = NDArray[np.float64]

MOST_STIFFER: Final = 6  # times that the linear system may be made stronger
UNDER_THE_SUN: Final = 4  # minutes at most: it warms everything at once; below an open top, half of LONGEST: vapour soon goes
PERIODIC_K: Final = 0.2  # the day repeats itself to this
MOST_DAYS: Final = 4


@dataclass(frozen=True)
class RoomCourse:
    """The day with the room alone, by the minute: the room in °C (1440,), nodes and probes (1440, n + probes), nodes (1440, n).

    `gain` (n + probes,) is by how much each follows a room that does not change: one, but where the earth holds it.
    """

    room_c: Floats
    of_all: Floats
    of_nodes: Floats
    gain: Floats


class DayModel:
    """One enclosure in one season, ready to be stepped through days; nothing in it changes, so that runs may share it.

    `net`'s nodes come first; the probes of on/off thermostats follow them as small nodes of their own.
    """

    def __init__(
        self, case: EnclosureCase, climate: Climate, season: str, vary: Variation | None = None, least: Linear | None = None
    ) -> None:
        self._given = case, climate, season, vary
        case = self.case = case.in_season(season)
        day, night = climate.states[season, "day"], climate.states[season, "night"]
        vary = vary or case.belief.nominal()
        net = self.net = network.build(case, vary)
        room = case.rooms[season]
        self.linear = _usual(net, day, night) if least is None else least
        matrix, to_room = _linear(net, self.linear)
        factors = unsure(case, float(vary.air_changes[0])), float(vary.wetness[0]), float(vary.room_humidity[0])
        self.terms = terms_of(case, net, room, factors, self.linear, matrix.diagonal())
        held = self.thermostats = Thermostats(case, net, float(vary.probe_k[0]))
        probes = len(held.cycling)
        self.capacity = np.append(net.capacity, np.full(probes, PROBE_HEAT))
        self.modes = Modes.of(held.with_probes(matrix), self.capacity)
        lost = np.append(to_room, np.zeros(probes))
        earth = case.outdoors is not None
        self.room = _room_course(self.modes, lost, room, float(vary.room_k[0]), self.nodes.count, earth=earth)
        self.track = self._track()
        self.start_c = night.node_c - self.room.gain[: self.nodes.count] * night.of_room_c
        self.start_pa = night.vapour_pa
        self.first_minute = round(case.light_on_hour * 60) % MINUTES

    @property
    def nodes(self) -> Nodes:
        return self.net.nodes

    def _track(self) -> Track:
        """What is stepped by."""
        modes, n = self.modes, self.nodes.count
        root = np.sqrt(modes.decay)
        forcing = modes.forcing @ _given(self.case, self.net, self.thermostats)
        return Track(
            self.terms,
            np.ascontiguousarray(modes.temperature[:n]),
            np.ascontiguousarray(modes.forcing[:, :n]),
            np.array([modes.decay, modes.grown, root, (1 - root) / modes.rates]),
            np.column_stack([self.room.room_c, self.room.of_nodes]),
            LookAhead.of(self.thermostats, modes, forcing, self.room.of_all),
        )

    def stiffer(self, least: Linear) -> "DayModel":
        """The same, with at least so much in its linear system: what is held between two looks is less, and does not swing."""
        return DayModel(*self._given, least=self.linear.at_least(least))

    def run(self, days: int = 1, start: tuple[Floats, Moist] | None = None) -> "DayRun":
        """Step through `days` from lights-on; without `start` from the steady state of the night."""
        return DayRun(self, days, start)

    def periodic(self) -> DayCourse:
        """Return the day that repeats itself."""
        run = self.run()
        for _ in range(MOST_DAYS - 1):
            if run.drift_k < PERIODIC_K:
                break
            run = run.model.run(start=run.onward())
        return run.course()


def _usual(net: network.Network, day: SteadyState, night: SteadyState) -> Linear:
    """What the linear system has in a usual day: the coefficients of the steady states, and nothing of evaporation."""
    return Linear((day.air_changes_h + night.air_changes_h) / 2, day.h_conv, day.h_rad, (0.0,) * net.nodes.count)


def _linear(net: network.Network, linear: Linear) -> tuple[Floats, Floats]:
    """The conductances (n, n) and those to the room (n,), in W/K."""
    matrices, to_rooms = net.bound(np.array([linear.air_changes_h]), np.array([linear.h_conv]), np.array([linear.h_rad]))
    latent = np.array(linear.latent)
    return matrices[0] + np.diag(latent), to_rooms[0] + latent


def _given(case: EnclosureCase, net: network.Network, held: Thermostats) -> Floats:
    """W into every node and probe (n + probes, heaters + 1) by each heater full on, and last by the sun."""
    n = net.nodes.count
    given = np.zeros((n + len(held.cycling), len(case.heaters) + 1))
    given[:n, :-1] = net.per_watt[0] * np.array([heater.watts for heater in case.heaters])
    given[n:, :-1] += held.felt_at_once()
    if case.sun is not None:
        given[:n, -1] = sun_gains(case.shell, net.spot.area_m2) * case.sun.watts
    return given


def _room_course(modes: Modes, to_room: Floats, room: RoomState, shift_k: float, count: int, *, earth: bool) -> RoomCourse:
    """The periodic solution with the room alone, by the room's harmonics; `count` nodes come first, `earth` may hold them."""
    minutes = np.arange(MINUTES)
    modal = modes.forcing @ to_room
    parts = harmonics(room)
    gain = modes.temperature @ (modal / modes.rates) if earth else np.ones(to_room.size)
    total = np.tile((float(parts[0].real) + shift_k) * gain, (MINUTES, 1))
    for k, part in enumerate(parts[1:], start=1):
        omega = 2 * np.pi * k / 86_400
        shape = modes.temperature @ (modal / (modes.rates + 1j * omega)) * part
        turn = omega * 60 * minutes
        total += np.cos(turn)[:, None] * shape.real - np.sin(turn)[:, None] * shape.imag
    room_c = room_curve(room, minutes / 60) + shift_k
    return RoomCourse(room_c, total, np.ascontiguousarray(total[:, :count]), gain)


@dataclass(frozen=True)
class Trace:
    """What happened in a run, by segment: where each begins, the modes and their forcing in it, what was given; by look the minute,
    the vapour pressure then and towards what it goes (Pa), the rate (1/s), and whether any water condenses.
    """

    begins: NDArray[np.int_]
    states: Floats
    duties: Floats
    vapour: Floats


class DayRun:
    """One stepping through whole days; what happened is kept by segment and unfolded to minutes at the end.

    `end` is where it ends, nodes in °C and water; `drift_k` by how much a node is then off from where it began.
    """

    def __init__(self, model: DayModel, days: int, start: tuple[Floats, Moist] | None) -> None:
        self.model, self.days = model, days
        first = model.first_minute
        if start is None:
            settled_c = model.start_c + model.room.of_nodes[first]
            moist = first_water(model.terms, model.start_pa, settled_c.tolist())
            start = np.append(settled_c, model.thermostats.probes @ settled_c), moist
        self.start = start
        state, moist = self._walked(start)
        last = (first + days * MINUTES) % MINUTES
        model = self.model
        self.end = model.modes.temperature @ state + model.room.of_all[last], moist
        moved = np.abs(self.end[0] - start[0])[: model.nodes.count]
        moved[model.nodes.ground_top.stop : model.nodes.ground.stop] = 0.0  # what lies deeper is felt in weeks
        self.drift_k = float(moved.max())

    def _walked(self, start: tuple[Floats, Moist]) -> tuple[Floats, Moist]:
        """Step through it all; where what is held swings, with more of it in the linear system; at last minute by minute.

        Returns the modes and the water at the end.
        """
        for _ in range(MOST_STIFFER):
            ended, state, water, swings = self._walk(start, careful=False)
            if ended == ENDED:
                return state, water
            if ended != SWINGS or self.model.linear.at_least(swings) == self.model.linear:
                break  # no more of it would help
            self.model = self.model.stiffer(swings)
        _ended, state, water, _swings = self._walk(start, careful=True)
        return state, water

    def _walk(self, start: tuple[Floats, Moist], *, careful: bool) -> tuple[int, Floats, Moist, Linear]:
        """Walk once; how it ended, the modes and the water then, and what the linear system must have where it swings."""
        model, minutes = self.model, self.days * MINUTES
        modal = model.modes.at(start[0] - model.room.of_all[model.first_minute], model.capacity)
        size, n, heaters = modal.size, model.nodes.count, len(model.case.heaters)
        on = np.zeros(len(model.thermostats.cycling), bool)
        state = State(np.append(modal, np.zeros(size)), np.zeros((3, size)), np.zeros((3, n)), on, np.zeros(heaters + 1))
        # Room for a look and a segment every minute: what is not written to takes none.
        reach, given, seen = np.empty((minutes, 2 * size)), np.empty((minutes, heaters + 1)), np.empty((minutes, 5))
        water, record = water_of(model.terms, start[1]), Record(np.empty(minutes, int), reach, given, seen, np.zeros(3 + n))
        held = Held(np.zeros((4, n)), np.zeros(4))
        ended, segments, looks = walk(model.track, _steps(model, self.days, careful=careful), state, water, held, record)
        self.trace = Trace(record.begins[:segments], record.reach[:segments], record.given[:segments], record.looks[:looks])
        air, h_conv, h_rad, *latent = record.swings.tolist()
        return ended, state.reach[:size], moist_of(model.terms, water), Linear(air, h_conv, h_rad, tuple(latent))

    def onward(self) -> tuple[Floats, Moist]:
        """Return where a further day should begin to end where it began: each mode goes on by what it has left."""
        model, modes = self.model, self.model.modes
        gone = 1 - np.exp(-modes.rates * 60 * MINUTES * self.days)
        moved = modes.at(self.end[0] - self.start[0], model.capacity) / gone
        return self.start[0] + modes.temperature @ moved, self.end[1]

    def course(self) -> DayCourse:
        """Unfold the last day to minutes of the clock."""
        model, nodes = self.model, self.model.nodes
        modes, size = model.modes, model.modes.rates.size
        last = (self.days - 1) * MINUTES
        begins = self.trace.begins
        minute = np.arange(last, last + MINUTES)
        segment = np.searchsorted(begins, minute, side="right") - 1
        first = int(segment[0])
        reaches = self.trace.states[first:]
        states, forcings = reaches[:, :size], reaches[:, size:]
        within, segment_of = minute - begins[segment] + 1, segment - first
        modal = modes.decay[within] * states[segment_of] + modes.grown[within] * forcings[segment_of]
        order = (model.first_minute + minute + 1) % MINUTES
        node_c = modal @ model.track.to_nodes.T + model.room.of_nodes[order]
        duty = self.trace.duties[first:][segment_of]
        pressure, condensing = self._vapour(minute)
        # From minutes since lights-on to the clock's.
        index = (order - 1) % MINUTES
        clocked = np.empty(MINUTES, int)
        clocked[index] = np.arange(MINUTES)
        node_c, duty, pressure, condensing = node_c[clocked], duty[clocked], pressure[clocked], condensing[clocked]
        warm, cool = end_weights(model.case, warm_side_x(model.case))
        air = node_c[:, nodes.air]
        warm_air, cool_air = air @ warm, air @ cool
        watts = np.array([heater.watts for heater in model.case.heaters])
        hours = (np.arange(MINUTES) + 1) / 60
        lit = (hours - model.case.light_on_hour - 1 / 120) % 24 < model.case.light_hours
        return DayCourse(
            hours,
            model.room.room_c[(np.arange(MINUTES) + 1) % MINUTES],
            node_c[:, nodes.spot],
            warm_air,
            cool_air,
            air.max(axis=1),
            pressure,
            np.minimum(relative_humidity(pressure, warm_air), 100.0),
            np.minimum(relative_humidity(pressure, cool_air), 100.0),
            condensing,
            duty[:, :-1],
            node_c,
            tuple((duty[:, :-1].sum(axis=0) * watts / 60_000).tolist()),
            self.end[1].water.since(self.start[1].water),
            lit,
            node_c[:, nodes.water] if nodes.watered else None,
        )

    def _vapour(self, minute: NDArray[np.int_]) -> tuple[Floats, NDArray[np.bool_]]:
        at, before, towards, rate, wet = self.trace.vapour.T
        segment = np.searchsorted(at, minute, side="right") - 1
        gone = np.exp(-rate[segment] * 60 * (minute - at[segment] + 1))
        return towards[segment] + (before[segment] - towards[segment]) * gone, wet[segment].astype(bool)


def events_of(model: DayModel, days: int) -> dict[int, tuple[Floats, list[float]]]:
    """Minutes from the start at which a timer, a set point or the light changes: the heaters' limits and set points."""
    case = model.case
    hours = {case.light_on_hour, case.light_off_hour, *(misting.hour for misting in case.mistings)}
    hours |= {hour for heater in case.heaters for hour in (heater.on_hour, heater.off_hour)}
    if case.sun is not None:
        hours |= {case.sun.from_hour, case.sun.to_hour}
    found = {}
    for edge in sorted({(round(hour * 60) - model.first_minute) % MINUTES for hour in hours}):
        hour = ((model.first_minute + edge) % MINUTES + 0.5) / 60 + 1e-6  # edges are whole minutes, hours need not be
        most = [float(running(heater.on_hour, heater.off_hour, hour)) for heater in case.heaters]
        most.append(float(case.sun is not None and running(case.sun.from_hour, case.sun.to_hour, hour)))
        found[edge] = np.array(most), model.thermostats.wanted(day=case.is_day(hour))
    return {edge + day * MINUTES: state for day in range(days) for edge, state in found.items()}


def _steps(model: DayModel, days: int, *, careful: bool) -> Events:
    """The same as arrays, with the end and with how it is stepped."""
    found = sorted(events_of(model, days).items())
    limits = np.zeros((len(found), 2, len(model.case.heaters) + 1))
    for place, (_minute, (most, wanted)) in enumerate(found):
        limits[place, 0], limits[place, 1, :-1] = most, wanted
    usual = LONGEST // 2 if model.terms.airing.exchange.top_h else LONGEST
    longest = usual if model.case.sun is None else UNDER_THE_SUN
    times = np.array([*(minute for minute, _state in found), days * MINUTES], dtype=int)
    return Events(times, limits, model.first_minute, longest, careful)


def course(case: EnclosureCase, climate: Climate, season: str, vary: Variation | None = None) -> DayCourse:
    """Step `case` through the day of `season` that repeats itself; `vary` (one set) in place of the case's own belief.

    Parameters
    ----------
    case, climate, season
        The enclosure, its steady states and the season.
    vary
        One variation of what is uncertain, in place of the middle of what is believed.

    Returns
    -------
    DayCourse: °C, Pa, W by the minute, shape (1440, …).

    References
    ----------
    Exponential stepping of the linear part in its eigenmodes, corrected for the rest (docs/models.md, The day by the minute).
    """
    return DayModel(case, climate, season, vary).periodic()
