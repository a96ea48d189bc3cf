"""A day in minutes: the network stepped through 24 hours with its timers, its thermostats and its water.

The linear part is stepped exactly in its modes (`eigh` of the scaled matrix), from one switch to the next. What is not
linear (air changes by √ΔT, the surface's own losses, latent heat, vapour) is evaluated every few minutes and held as a
correction, sooner after a switch. The room's curve enters through its harmonics, so it costs nothing on the way.
Thermostats look once a minute: on/off ones swing over their hysteresis through a probe that lags two minutes; dimming and
pulse ones give, every few minutes, what brings their probe to the set point within a quarter of an hour. A day so wild
that what is held overshoots (a lamp all but on the stone) is stepped once more, minute by minute and with less held.
"""

from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import network
from husbandry.climate.air import relative_humidity
from husbandry.climate.case import EnclosureCase, running
from husbandry.climate.daycourse import MINUTES, DayCourse, harmonics, room_curve
from husbandry.climate.modes import LONGEST, Modes
from husbandry.climate.nodes import ZONES
from husbandry.climate.parameters import Variation
from husbandry.climate.probes import warm_side_x
from husbandry.climate.residual import Moist, Residual
from husbandry.climate.settled import Climate
from husbandry.climate.thermostats import PROBE_HEAT, Outlook, Thermostats

Floats = NDArray[np.float64]

STILL_K: Final = 0.1  # a correction that moves its node by less than this is held twice as long
COLDEST_C, HOTTEST_C = -45.0, 400.0  # beyond which a day is stepped again with care: a lamp all but on the stone
AFTER_SWITCH: Final = (1, 1, 2, 3, 5, 5, 10, 10, 10)  # and this long after a timer has switched
PERIODIC_K: Final = 0.2  # the day repeats itself to this
MOST_DAYS: Final = 4


class DayModel:
    """One enclosure in one season, ready to be stepped through days.

    `nodes` are the network's; the probes of on/off thermostats follow them as small nodes of their own.
    """

    def __init__(self, case: EnclosureCase, climate: Climate, season: str, vary: Variation | None = None) -> None:
        case = case.in_season(season)
        self.case, self.season = case, season
        day, night = climate.settled[season, "day"], climate.settled[season, "night"]
        vary = vary or case.belief.nominal()
        net = network.build(case, vary)
        self.net, self.nodes = net, net.nodes
        self.room = case.rooms[season]
        self.room_shift = float(vary.room_k[0])
        changes = np.array([(day.air_changes_h + night.air_changes_h) / 2])
        matrix, room = net.bound(changes, np.array([day.film]), np.array([day.radiation]))
        bound = float(changes[0]), day.film, day.radiation
        factors = float(vary.air_changes[0]), float(vary.wetness[0])
        self.residual = Residual(case, net, self.room, factors, bound, matrix[0].diagonal())
        self.heaters = case.heaters
        self.thermostats = Thermostats(case, net, float(vary.probe_k[0]))
        n, probes = self.nodes.count, len(self.thermostats.cycling)
        self.capacity = np.append(net.capacity, np.full(probes, PROBE_HEAT))
        self.modes = Modes.of(self.thermostats.with_probes(matrix[0]), self.capacity)
        self.to_room = np.append(room[0], np.zeros(probes))
        watts = np.array([heater.watts for heater in self.heaters])
        given = np.zeros((n + probes, len(self.heaters) + 1))
        given[:n, :-1] = net.per_watt[0] * watts
        given[n:, :-1] += self.thermostats.felt_at_once()
        if case.sun is not None:
            # The basking place takes its part of the floor's sun, by its share of the floor.
            on_spot = min(net.spot.area_m2 / (case.length_m * case.width_m), 1.0)
            given[self.nodes.spot, -1] = on_spot * case.sun.watts
            given[self.nodes.ground_top, -1] = (1 - on_spot) * case.sun.watts / ZONES
        self.inputs = self.modes.forcing @ given
        self.start_c = night.node_c - night.of_room_c
        self.start_pa = night.vapour_pa
        self.first_minute = round(case.light_on_hour * 60) % MINUTES
        self._room_response()
        self._looks()

    def _room_response(self) -> None:
        """Node temperatures through the day with the room alone, (1440, n + probes), by its harmonics."""
        minutes = np.arange(MINUTES)
        modal = self.modes.forcing @ self.to_room
        parts = harmonics(self.room)
        total = np.full((MINUTES, self.capacity.size), float(parts[0].real) + self.room_shift)
        for k, part in enumerate(parts[1:], start=1):
            omega = 2 * np.pi * k / 86_400
            shape = self.modes.temperature @ (modal / (self.modes.rates + 1j * omega)) * part
            turn = omega * 60 * minutes
            total += np.cos(turn)[:, None] * shape.real - np.sin(turn)[:, None] * shape.imag
        self.of_room = total
        self.room_c = room_curve(self.room, minutes / 60) + self.room_shift

    def _looks(self) -> None:
        """Steps ahead by the minute, and by half of them; what the thermostats see coming."""
        modes, n = self.modes, self.nodes.count
        self.to_nodes, self.to_modes = np.ascontiguousarray(modes.temperature[:n]), np.ascontiguousarray(modes.forcing[:, :n])
        self.of_room_nodes = np.ascontiguousarray(self.of_room[:, :n])
        self.room_list = self.room_c.tolist()
        size = modes.rates.size
        diagonal = np.arange(size)
        self.steps = np.zeros((LONGEST + 1, size, 2 * size))
        self.steps[:, diagonal, diagonal], self.steps[:, diagonal, size + diagonal] = modes.decay, modes.grown
        self.half_steps = np.zeros_like(self.steps)
        half = np.sqrt(modes.decay)
        self.half_steps[:, diagonal, diagonal], self.half_steps[:, diagonal, size + diagonal] = half, (1 - half) / modes.rates
        self.thermostats.look_ahead(modes, self.inputs, self.of_room)

    def of_room_between(self, clock: int, minutes: int) -> Floats:
        """What the room alone would make of the nodes (n,) halfway through the next `minutes`."""
        return np.asarray((self.of_room_nodes[clock] + self.of_room_nodes[(clock + minutes) % MINUTES]) / 2)

    def run(self, days: int = 1, start: tuple[Floats, Moist] | None = None) -> "Run":
        """Step through `days` from lights-on; without `start` from the settled night."""
        return Run(self, days, start)

    def periodic(self) -> DayCourse:
        """Return the day that repeats itself."""
        run = self.run()
        for _ in range(MOST_DAYS - 1):
            if run.drift_k < PERIODIC_K:
                break
            run = self.run(start=run.onward())
        return run.course()


class WildError(ArithmeticError):
    """What is held for minutes has overshot: no enclosure is so cold or so hot."""


class Run:
    """One stepping through whole days; what happened is kept by segment and unfolded to minutes at the end."""

    def __init__(self, model: DayModel, days: int, start: tuple[Floats, Moist] | None) -> None:
        self.model, self.days = model, days
        try:
            self._go(start, careful=False)
        except (WildError, ValueError, OverflowError):
            self._go(start, careful=True)

    def _go(self, start: tuple[Floats, Moist] | None, *, careful: bool) -> None:
        model, days = self.model, self.days
        model.residual.careful = self.careful = careful
        self.begins: list[int] = []
        self.states: list[Floats] = []
        self.duties: list[Floats] = []
        self.vapour: list[tuple[int, float, float, float, bool]] = []
        self.outlooks: dict[tuple[int, tuple[bool, ...]], Outlook] = {}
        first = model.first_minute
        if start is None:
            settled_c = model.start_c + model.of_room[first, : model.nodes.count]
            node_c = np.append(settled_c, model.thermostats.probes @ settled_c)
            moist = model.residual.first(model.start_pa)
        else:
            node_c, moist = start
        model.residual.begin(moist)
        self.start_water = moist.water
        state = self._step(model.modes.at(node_c - model.of_room[first], model.capacity))
        last = (first + days * MINUTES) % MINUTES
        self.end = model.modes.temperature @ state + model.of_room[last], model.residual.end()
        self.start_c = node_c
        moved = np.abs(self.end[0] - node_c)[: model.nodes.count]
        moved[model.nodes.ground_top.stop : model.nodes.ground.stop] = 0.0  # what lies deeper is felt in weeks
        self.drift_k = float(moved.max())

    def onward(self) -> tuple[Floats, Moist]:
        """Return where a further day should begin to end where it began: each mode goes on by what it has left."""
        model, modes = self.model, self.model.modes
        gone = 1 - np.exp(-modes.rates * 60 * MINUTES * self.days)
        moved = modes.at(self.end[0] - self.start_c, model.capacity) / gone
        return self.start_c + modes.temperature @ moved, self.end[1]

    def _events(self) -> dict[int, tuple[Floats, list[float]]]:
        """Minutes from the start at which a timer, a set point or the light changes: the heaters' limits and set points."""
        model, case = self.model, self.model.case
        hours = {case.light_on_hour, case.light_off_hour, *(misting.hour for misting in case.mistings)}
        hours |= {hour for heater in model.heaters for hour in (heater.on_hour, heater.off_hour)}
        if case.sun is not None:
            hours |= {case.sun.from_hour, case.sun.to_hour}
        found = {}
        for edge in sorted({(round(hour * 60) - model.first_minute) % MINUTES for hour in hours}):
            hour = ((model.first_minute + edge) % MINUTES + 0.5) / 60 + 1e-6  # edges are whole minutes, hours need not be
            most = [float(running(heater.on_hour, heater.off_hour, hour)) for heater in model.heaters]
            most.append(float(case.sun is not None and running(case.sun.from_hour, case.sun.to_hour, hour)))
            found[edge] = np.array(most), model.thermostats.wanted(day=case.is_day(hour))
        return {edge + day * MINUTES: state for day in range(self.days) for edge, state in found.items()}

    def _step(self, first: Floats) -> Floats:
        model, modes = self.model, self.model.modes
        residual, events = model.residual, self._events()
        times = [*sorted(events), self.days * MINUTES]
        held, cycling, smooth = model.thermostats, model.thermostats.cycling, model.thermostats.smooth
        probes, size = len(cycling), modes.rates.size
        forcing_of, temperature, of_room = model.to_modes, model.to_nodes, model.of_room_nodes
        ahead_of = model.steps
        begins, states, duties = self.begins, self.states, self.duties
        on: tuple[bool, ...] = (False,) * probes
        most, wanted, given = np.zeros(len(model.heaters) + 1), [0.0] * len(model.heaters), np.zeros(len(model.heaters) + 1)
        reach = np.zeros(2 * size)  # the state, and the forcing it is under
        state, forcing = reach[:size], reach[size:]
        state[:] = first
        correction = before = np.zeros(size)
        outlook: Outlook | None = None
        minute, place, looked, pace, before_for = 0, 0, 0, 0, 0
        turned_since = False
        end, clock = times[-1], model.first_minute
        while minute < end:
            if minute == times[place]:
                most, wanted = events[minute]
                on = tuple(was and most[index] > 0 for was, index in zip(on, cycling, strict=True))
                place, looked, pace, outlook = place + 1, minute, 0, None
            if outlook is None:
                key = (times[place - 1], on)
                outlook = self.outlooks.get(key)
                if outlook is None:
                    outlook = self.outlooks[key] = held.outlook(on, most, wanted)
                given = held.with_smooth(outlook.given, given) if smooth else outlook.given
                if minute != looked:
                    np.add(outlook.forcing, correction, out=forcing)
                    if smooth:
                        forcing += held.of_smooth(given)
            if minute == looked:
                nodes = (temperature.dot(state) + of_room[clock]).tolist()
                if not self.careful and not COLDEST_C < min(nodes) <= max(nodes) < HOTTEST_C:
                    raise WildError
                if pace < len(AFTER_SWITCH):
                    step = AFTER_SWITCH[pace]
                else:
                    step = min(2 * step, LONGEST) if residual.change < STILL_K else max(step // 2, 10)
                if self.careful:
                    step = 1
                pace += 1
                looked = min(minute + step, times[place])
                held_for = looked - minute
                halfway_c = model.room_list[(clock + held_for // 2) % MINUTES]
                fresh = forcing_of.dot(residual.look(nodes, model.room_list[clock], halfway_c, clock, held_for))
                self.vapour.append((minute, *residual.segment))
                if pace <= len(AFTER_SWITCH):
                    # Much moves just now: what the middle of the time will need.
                    np.add(outlook.forcing, fresh, out=forcing)
                    if smooth:
                        forcing += held.of_smooth(given)
                    halfway = temperature.dot(model.half_steps[held_for].dot(reach)) + model.of_room_between(clock, held_for)
                    correction = forcing_of.dot(residual.again(halfway.tolist(), halfway_c))
                else:
                    # Where nothing has switched since, the correction goes on as it went.
                    lead = 0.0 if turned_since or self.careful else held_for / (2 * before_for)
                    correction = fresh + lead * (fresh - before) if lead else fresh
                before, before_for, turned_since = fresh, held_for, False
                np.add(outlook.forcing, correction, out=forcing)
                if smooth:
                    given = given.copy()
                    held.dim(reach, given, most, wanted, clock)
                    forcing += held.of_smooth(given)
            ahead = looked - minute
            begins.append(minute)
            states.append(reach.copy())
            duties.append(given)
            if probes:
                at = clock * probes
                crossed = outlook.ahead[: ahead * probes].dot(reach) > outlook.level[at : at + ahead * probes]
                turning = int(crossed.argmax())
                if crossed[turning]:
                    ahead = turning // probes + 1
                    turned = crossed[(ahead - 1) * probes : ahead * probes].tolist()
                    on = tuple(was != turn for was, turn in zip(on, turned, strict=True))
                    outlook, turned_since = None, True
            state[:] = ahead_of[ahead].dot(reach)
            minute += ahead
            clock = (clock + ahead) % MINUTES
        return state.copy()

    def course(self) -> DayCourse:
        """Unfold the last day to minutes of the clock."""
        model, nodes = self.model, self.model.nodes
        modes, size = model.modes, model.modes.rates.size
        last = (self.days - 1) * MINUTES
        begins = np.array(self.begins)
        minute = np.arange(last, last + MINUTES)
        segment = np.searchsorted(begins, minute, side="right") - 1
        first = int(segment[0])
        reaches = np.array(self.states[first:])
        states, forcings = reaches[:, :size], reaches[:, size:]
        within, segment_of = minute - begins[segment] + 1, segment - first
        modal = modes.decay[within] * states[segment_of] + modes.grown[within] * forcings[segment_of]
        order = (model.first_minute + minute + 1) % MINUTES
        node_c = modal @ model.to_nodes.T + model.of_room_nodes[order]
        duty = np.array(self.duties[first:])[segment_of]
        pressure, condensing = self._vapour(minute)
        # From minutes since lights-on to the clock's.
        place = (order - 1) % MINUTES
        clocked = np.empty(MINUTES, int)
        clocked[place] = np.arange(MINUTES)
        node_c, duty, pressure, condensing = node_c[clocked], duty[clocked], pressure[clocked], condensing[clocked]
        warm, cool = network.end_weights(model.case, warm_side_x(model.case))
        air = node_c[:, nodes.air]
        warm_air, cool_air = air @ warm, air @ cool
        watts = np.array([heater.watts for heater in model.heaters])
        hours = (np.arange(MINUTES) + 1) / 60
        lit = (hours - model.case.light_on_hour - 1 / 120) % 24 < model.case.light_hours
        return DayCourse(
            hours,
            model.room_c[(np.arange(MINUTES) + 1) % MINUTES],
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
            self.end[1].water.since(self.start_water),
            lit,
            node_c[:, nodes.water] if nodes.watered else None,
        )

    def _vapour(self, minute: NDArray[np.int_]) -> tuple[Floats, NDArray[np.bool_]]:
        at = np.array([item[0] for item in self.vapour])
        before, towards, rate, wet = (np.array([item[k] for item in self.vapour]) for k in (1, 2, 3, 4))
        segment = np.searchsorted(at, minute, side="right") - 1
        gone = np.exp(-rate[segment] * 60 * (minute - at[segment] + 1))
        return towards[segment] + (before[segment] - towards[segment]) * gone, wet[segment].astype(bool)


def course(case: EnclosureCase, climate: Climate, season: str, vary: Variation | None = None) -> DayCourse:
    """Step `case` through the day of `season` that repeats itself; `vary` (one set) in place of the case's own belief."""
    return DayModel(case, climate, season, vary).periodic()
