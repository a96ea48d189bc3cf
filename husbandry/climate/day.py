"""A day in minutes: the network stepped through 24 hours with its timers, its thermostats and its water.

The linear part is stepped exactly in its modes (`eigh` of the scaled matrix), from one switch to the next. What is not
linear (air changes by √ΔT, the surface's own losses, latent heat, vapour) is evaluated every few minutes and held as a
correction, sooner after a switch. The room's curve enters through its harmonics, so it costs nothing on the way.
Thermostats read their probe once a minute. On/off ones switch at the ends of their hysteresis, by a probe that lags two
minutes; dimming and pulse ones set, every few minutes, the power that brings their probe to the set point within a quarter
of an hour. Where the corrections overshoot between two evaluations (a lamp almost touching the stone), the day is stepped
once more, minute by minute and with under-relaxed corrections.
"""

from dataclasses import dataclass, field
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import network
from husbandry.climate.air import relative_humidity
from husbandry.climate.case import EnclosureCase, RoomState, running
from husbandry.climate.corrections import Corrections, StiffError
from husbandry.climate.day_water import Moist, first_water
from husbandry.climate.daycourse import MINUTES, DayCourse, harmonics, room_curve
from husbandry.climate.heat_gains import sun_gains
from husbandry.climate.modes import LONGEST, Modes
from husbandry.climate.nodes import Nodes
from husbandry.climate.parameters import Variation
from husbandry.climate.probes import end_weights, warm_side_x
from husbandry.climate.states import Climate, SteadyState
from husbandry.climate.terms import Linear, terms_of
from husbandry.climate.thermostats import PROBE_HEAT, LookAhead, SwitchOutlook, Thermostats
from husbandry.errors import HusbandryError

Floats = NDArray[np.float64]

STILL_K: Final = 0.1  # a correction that moves its node by less than this is held twice as long
COLDEST_C, HOTTEST_C = -45.0, 400.0  # beyond which a day is stepped again with care: a lamp all but on the stone
MOST_STIFFER: Final = 6  # times that the linear system may be made stronger
AFTER_SWITCH: Final = (1, 1, 2, 2, 3, 3, 4, 4, 5, 5, 5, 10)  # and this long after a timer has switched
UNDER_THE_SUN: Final = 4  # minutes at most: it warms everything at once; below an open top, half of LONGEST: vapour soon goes
LEAST_HELD: Final = 5  # minutes, long after a switch
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
    room_list: list[float]
    gain: Floats

    def between(self, clock: int, minutes: int) -> Floats:
        """What the room alone would make of the nodes (n,) halfway through the next `minutes`."""
        return np.asarray((self.of_nodes[clock] + self.of_nodes[(clock + minutes) % MINUTES]) / 2)


@dataclass(frozen=True)
class Propagators:
    """From modes to nodes and back, and what the modes and their forcing come to after whole and half numbers of minutes."""

    to_nodes: Floats
    to_modes: Floats
    whole: Floats
    half: Floats


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
        factors = float(vary.air_changes[0]), float(vary.wetness[0]), float(vary.room_humidity[0])
        self.terms = terms_of(case, net, room, factors, self.linear, matrix.diagonal())
        held = self.thermostats = Thermostats(case, net, float(vary.probe_k[0]))
        probes = len(held.cycling)
        self.capacity = np.append(net.capacity, np.full(probes, PROBE_HEAT))
        self.modes = Modes.of(held.with_probes(matrix), self.capacity)
        lost = np.append(to_room, np.zeros(probes))
        earth = case.outdoors is not None
        self.room = _room_course(self.modes, lost, room, float(vary.room_k[0]), self.nodes.count, earth=earth)
        self.steps = _propagators(self.modes, self.nodes.count)
        self.look_ahead = LookAhead.of(held, self.modes, self.modes.forcing @ _given(case, net, held), self.room.of_all)
        self.start_c = night.node_c - self.room.gain[: self.nodes.count] * night.of_room_c
        self.start_pa = night.vapour_pa
        self.first_minute = round(case.light_on_hour * 60) % MINUTES

    @property
    def nodes(self) -> Nodes:
        return self.net.nodes

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
    return RoomCourse(room_c, total, np.ascontiguousarray(total[:, :count]), room_c.tolist(), gain)


def _propagators(modes: Modes, count: int) -> Propagators:
    size = modes.rates.size
    diagonal = np.arange(size)
    whole = np.zeros((LONGEST + 1, size, 2 * size))
    whole[:, diagonal, diagonal], whole[:, diagonal, size + diagonal] = modes.decay, modes.grown
    half, root = np.zeros_like(whole), np.sqrt(modes.decay)
    half[:, diagonal, diagonal], half[:, diagonal, size + diagonal] = root, (1 - root) / modes.rates
    return Propagators(np.ascontiguousarray(modes.temperature[:count]), np.ascontiguousarray(modes.forcing[:, :count]), whole, half)


class OvershootError(HusbandryError, ArithmeticError):
    """What is held for minutes has overshot: no enclosure is so cold or so hot."""


@dataclass
class Trace:
    """What happened in a run, by segment: where each begins, the modes and their forcing in it, what was given, the vapour."""

    begins: list[int] = field(default_factory=list)
    states: list[Floats] = field(default_factory=list)
    duties: list[Floats] = field(default_factory=list)
    vapour: list[tuple[int, float, float, float, bool]] = field(default_factory=list)


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
        walk = self._walked(start)
        model = self.model
        self.trace = walk.trace
        last = (first + days * MINUTES) % MINUTES
        self.end = model.modes.temperature @ walk.state + model.room.of_all[last], walk.corrections.end()
        moved = np.abs(self.end[0] - start[0])[: model.nodes.count]
        moved[model.nodes.ground_top.stop : model.nodes.ground.stop] = 0.0  # what lies deeper is felt in weeks
        self.drift_k = float(moved.max())

    def _walked(self, start: tuple[Floats, Moist]) -> "_Walk":
        """Step through it all; where what is held swings, with more of it in the linear system; at last minute by minute."""
        for _ in range(MOST_STIFFER):
            try:
                return self._walk(start, careful=False)
            except StiffError as error:
                self.model = self.model.stiffer(error.linear)
            except OvershootError:
                break
        return self._walk(start, careful=True)

    def _walk(self, start: tuple[Floats, Moist], *, careful: bool) -> "_Walk":
        model = self.model
        walk = _Walk(model, self.days, start[1], careful=careful)
        walk.through(model.modes.at(start[0] - model.room.of_all[model.first_minute], model.capacity))
        return walk

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
        begins = np.array(self.trace.begins)
        minute = np.arange(last, last + MINUTES)
        segment = np.searchsorted(begins, minute, side="right") - 1
        first = int(segment[0])
        reaches = np.array(self.trace.states[first:])
        states, forcings = reaches[:, :size], reaches[:, size:]
        within, segment_of = minute - begins[segment] + 1, segment - first
        modal = modes.decay[within] * states[segment_of] + modes.grown[within] * forcings[segment_of]
        order = (model.first_minute + minute + 1) % MINUTES
        node_c = modal @ model.steps.to_nodes.T + model.room.of_nodes[order]
        duty = np.array(self.trace.duties[first:])[segment_of]
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
        at = np.array([item[0] for item in self.trace.vapour])
        before, towards, rate, wet = (np.array([item[k] for item in self.trace.vapour]) for k in (1, 2, 3, 4))
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


class _Walk:
    """The stepping itself: what a step changes. `reach` is the state of the modes and, behind it, the forcing it is under."""

    def __init__(self, model: DayModel, days: int, moist: Moist, *, careful: bool) -> None:
        self.model, self.careful = model, careful
        self.corrections = Corrections(model.terms, moist, careful=careful)
        self.trace = Trace()
        self.events = events_of(model, days)
        self.times = [*sorted(self.events), days * MINUTES]
        usual = LONGEST // 2 if model.terms.air.exchange.top_h else LONGEST
        self.longest = usual if model.case.sun is None else UNDER_THE_SUN
        size, heaters = model.modes.rates.size, len(model.case.heaters)
        self.reach = np.zeros(2 * size)
        self.state, self.forcing = self.reach[:size], self.reach[size:]
        self.correction = self.fresh = np.zeros(size)
        self.on: tuple[bool, ...] = (False,) * len(model.thermostats.cycling)
        self.most, self.wanted, self.given = np.zeros(heaters + 1), [0.0] * heaters, np.zeros(heaters + 1)
        self.outlooks: dict[tuple[int, tuple[bool, ...]], SwitchOutlook] = {}

    def through(self, first: Floats) -> None:
        """Step through all the time there is. Raises OvershootError where what is held overshoots, unless it is careful."""
        times, end = self.times, self.times[-1]
        self.state[:] = first
        outlook: SwitchOutlook | None = None
        minute = index = looked = pace = held_for = step = 0
        clock, turned, wet = self.model.first_minute, False, False
        while minute < end:
            if minute == times[index]:
                self._switch(minute)
                index, looked, pace, outlook = index + 1, minute, 0, None
            if outlook is None:
                outlook = self._outlook(times[index - 1])
                if minute != looked:
                    self._force(outlook)
            if minute == looked:
                step, pace = self._pace(step, pace)
                looked = min(minute + step, times[index])
                before_for, held_for = held_for, looked - minute
                self._look(outlook, (minute, clock, held_for), pace <= len(AFTER_SWITCH), 0 if turned else before_for)
                turned = False
                if wet != self.corrections.segment[3]:  # walls begin to sweat, or have dried
                    wet, pace = not wet, min(pace, 2)
            ahead, turning = self._ahead(outlook, minute, clock, looked - minute)
            if turning is not None:
                self.on = tuple(was != turn for was, turn in zip(self.on, turning, strict=True))
                outlook, turned = None, True
                self.corrections.switched()
            self.state[:] = self.model.steps.whole[ahead].dot(self.reach)
            minute += ahead
            clock = (clock + ahead) % MINUTES

    def _switch(self, minute: int) -> None:
        """A timer, a set point or the light changes."""
        self.most, self.wanted = self.events[minute]
        cycling = self.model.thermostats.cycling
        self.on = tuple(was and self.most[index] > 0 for was, index in zip(self.on, cycling, strict=True))
        self.corrections.switched()

    def _outlook(self, since: int) -> SwitchOutlook:
        """What the on/off thermostats' states mean until a timer changes; the other heaters go on as they went."""
        found = self.outlooks.get((since, self.on))
        if found is None:
            found = self.outlooks[since, self.on] = self.model.look_ahead.outlook(self.on, self.most, self.wanted)
        smooth = self.model.thermostats.smooth
        self.given = self.model.look_ahead.with_smooth(found.given, self.given) if smooth else found.given
        return found

    def _force(self, outlook: SwitchOutlook, correction: Floats | None = None) -> None:
        """Set the forcing: heaters and sun, the correction that is held, and what dims."""
        np.add(outlook.forcing, self.correction if correction is None else correction, out=self.forcing)
        if self.model.thermostats.smooth:
            self.forcing += self.model.look_ahead.of_smooth(self.given)

    def _pace(self, step: int, pace: int) -> tuple[int, int]:
        """The minutes until the next look, and the looks since a switch: few after it, and more where little moves."""
        if self.careful:
            return 1, pace + 1
        if pace < len(AFTER_SWITCH):
            return min(AFTER_SWITCH[pace], self.longest // 2), pace + 1
        return (min(2 * step, self.longest) if self.corrections.change < STILL_K else max(step // 2, LEAST_HELD)), pace + 1

    def _look(self, outlook: SwitchOutlook, at: tuple[int, int, int], soon: bool, before_for: int) -> None:
        """Work the corrections out anew, to be held from a minute and its clock `at` for so long.

        `soon` after a switch much moves; `before_for` is how long the last ones were held, 0 where a thermostat turned since.
        """
        minute, clock, held_for = at
        model, corrections, room = self.model, self.corrections, self.model.room
        to_nodes, to_modes = model.steps.to_nodes, model.steps.to_modes
        nodes = (to_nodes.dot(self.state) + room.of_nodes[clock]).tolist()
        self._tame(nodes)
        halfway_c = room.room_list[(clock + held_for // 2) % MINUTES]
        # Vapour follows within minutes: its balance is that of the middle of the time, as far as it is foreseen.
        self._force(outlook)
        ahead = (to_nodes.dot(model.steps.half[held_for].dot(self.reach)) + room.between(clock, held_for)).tolist()
        looked = corrections.look(nodes, ahead, (room.room_list[clock], halfway_c), clock, held_for)
        before, self.fresh = self.fresh, to_modes.dot(looked)
        self.trace.vapour.append((minute, *corrections.segment))
        if soon:
            # What the middle of the time will need.
            self._force(outlook, self.fresh)
            halfway = (to_nodes.dot(model.steps.half[held_for].dot(self.reach)) + room.between(clock, held_for)).tolist()
            self._tame(halfway)
            self.correction = to_modes.dot(corrections.again(halfway, halfway_c))
        else:
            # Where nothing has switched since, the correction goes on as it went.
            lead = held_for / (2 * before_for) if before_for and not self.careful else 0.0
            self.correction = self.fresh + lead * (self.fresh - before) if lead else self.fresh
        np.add(outlook.forcing, self.correction, out=self.forcing)
        if model.thermostats.smooth:
            self.given = self.given.copy()
            model.look_ahead.dim(self.reach, self.given, self.most, self.wanted, clock)
            self.forcing += model.look_ahead.of_smooth(self.given)

    def _tame(self, nodes: list[float]) -> None:
        if not self.careful and not COLDEST_C < min(nodes) <= max(nodes) < HOTTEST_C:
            raise OvershootError

    def _ahead(self, outlook: SwitchOutlook, minute: int, clock: int, ahead: int) -> tuple[int, list[bool] | None]:
        """How far to step at once, and which on/off thermostats then turn; None where none does."""
        self.trace.begins.append(minute)
        self.trace.states.append(self.reach.copy())
        self.trace.duties.append(self.given)
        probes = len(self.on)
        if not probes:
            return ahead, None
        at = clock * probes
        crossed = outlook.ahead[: ahead * probes].dot(self.reach) > outlook.level[at : at + ahead * probes]
        turning = int(crossed.argmax())
        if not crossed[turning]:
            return ahead, None
        ahead = turning // probes + 1
        return ahead, crossed[(ahead - 1) * probes : ahead * probes].tolist()


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
