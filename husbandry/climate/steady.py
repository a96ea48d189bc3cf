"""What an enclosure comes to by day and by night, summer and winter, with its spread.

Predictions are those at the end of the light and at the end of the dark of a day that repeats itself. With inputs
constant by day and by night the periodic state is a mixture of the two steady states, exact mode by mode: in light of
L hours a mode of rate λ has gone the part `(1 − a)/(1 − a b)` of the way to the day's steady state, `a = e^{−λL}`,
`b = e^{−λ(24 h − L)}`. Air and stones reach their level in both phases; deep ground and water hardly move from their mean.

Thermostats hold the probe at the set point where their heater can: an on/off and a dimming thermostat have the same mean
duty, which is what is found here. Each uncertain parameter is moved by one standard deviation both ways; what that does
to every prediction makes their spread (`husbandry.climate.spread`).
"""

from dataclasses import dataclass
from functools import cached_property
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import basking, heaters, humidity, network, spread
from husbandry.climate.air import relative_humidity, saturation_pressure
from husbandry.climate.case import EnclosureCase, running
from husbandry.climate.duty_cycles import TURNS, DayNight, Readings, mixtures, solve_duties
from husbandry.climate.network import Network
from husbandry.climate.nodes import LEVELS, ZONES
from husbandry.climate.openings import VIRTUAL_K_PA, AirExchange, exchange_of, virtual_rise
from husbandry.climate.parameters import Variation
from husbandry.climate.probes import direct_rises, probe_row, warm_side_x
from husbandry.climate.states import Climate, Spread, Start, SteadyState

Floats = NDArray[np.float64]

PHASES: Final = ("day", "night")
ROUNDS: Final = 4  # of air changes, the surface's losses and latent heat; each halves what is left and better
ROUNDS_NEAR: Final = 2
TRIAL_K: Final = 0.08  # the same for a trial
LEAST_BEYOND_PA: Final = 5.0
FEW_TURNS: Final = 3
STILL_K: Final = 0.04  # where what is left to move comes to less, by how fast it shrinks, the round is the last
MIXED_ANEW: Final = (0, 2)


def solve_steady(
    case: EnclosureCase,
    *,
    spread: bool = True,
    seasons: tuple[str, ...] = ("summer", "winter"),
    near: Climate | None = None,
) -> Climate:
    """Solve the ends of day and night of `case` in each season.

    Parameters
    ----------
    case
        The enclosure, its heaters and the room it stands in.
    spread
        Whether low and high are worked out; without it they equal the value.
    seasons
        Those that are solved.
    near
        What nearly the same enclosure came to in these seasons: the search begins there.

    Returns
    -------
    The steady periodic states by season and phase, and where a further search may begin.

    References
    ----------
    Cottle, Pang and Stone, The Linear Complementarity Problem, 1992 (docs/models.md [5]; recalled). Incropera and DeWitt,
    Fundamentals of Heat and Mass Transfer (docs/models.md [3]; recalled).
    """
    middle = solved(problem_of(case, seasons, case.belief.nominal()), near.start if near else None)
    if not spread:
        return middle.climate(middle.start())
    # The middle alone first: the varied ones then begin next to their answer.
    return varied(case, seasons, case.belief.both_ways(), middle).climate(middle.start())


def varied(case: EnclosureCase, seasons: tuple[str, ...], vary: Variation, middle: "SteadyStates | None" = None) -> "SteadyStates":
    """Solve many variations of an enclosure at once, from what its `middle` came to.

    Parameters
    ----------
    case, seasons
        The enclosure and the seasons that are solved.
    vary
        Variations of what is uncertain, (variations,).
    middle
        What the unvaried enclosure came to.

    Returns
    -------
    SteadyStates for seasons × variations × 2.

    References
    ----------
    As `solve_steady`.
    """
    middle = middle or solved(problem_of(case, seasons, case.belief.nominal()))
    return solved(problem_of(case, seasons, vary), middle.start(), ROUNDS_NEAR)


def predict(case: EnclosureCase, season: str, near: Climate | None = None) -> dict[str, dict[str, float]]:
    """Solve one season for a trial: every prediction, by phase and name, without its spread; to a tenth of a kelvin.

    Parameters
    ----------
    case, season, near
        As for `solve_steady`, for one season.

    Returns
    -------
    °C, % or W, by "day" and "night" and the names of `SteadyProblem.named`.

    References
    ----------
    As `solve_steady`.
    """
    problem = problem_of(case, (season,), case.belief.nominal())
    found = solved(problem, near.start if near else None, still_k=TRIAL_K).predicted()
    return {phase: {name: float(values[row]) for name, values in found.items()} for row, phase in enumerate(PHASES)}


@dataclass(frozen=True)
class SteadyProblem:
    """What is given: an enclosure in some seasons, in `varied` variations of what is uncertain.

    Order of the batch: all seasons' days with their variations, then all nights. Of shape (B,) `room_c`, `room_pa` (the room's
    vapour pressure) and `given` (kg/s of water); (B, heaters) the duties' limits `most` and the probes' set points `wanted` in °C;
    `rows` (heaters, n) are what the probes read of the nodes, `direct` (heaters,) the K each is warmed by its own heater.
    """

    case: EnclosureCase
    seasons: tuple[str, ...]
    varied: int
    vary: Variation
    network: Network
    room_c: Floats
    room_pa: Floats
    given: Floats
    most: Floats
    wanted: Floats
    rows: Floats
    direct: Floats

    @property
    def batch(self) -> int:
        """How many states there are of day, and as many of night."""
        return self.varied * len(self.seasons)

    @property
    def watts(self) -> Floats:
        return np.array([heater.watts for heater in self.case.heaters])

    def by_phase(self, values: Floats) -> tuple[Floats, Floats]:
        """Days and nights apart."""
        return values[: self.batch], values[self.batch :]

    def of_middles(self, middles: Floats) -> Floats:
        """Values of the unvaried states (phases × seasons, …), repeated for every variation."""
        return np.repeat(middles, self.varied, axis=0)

    def mixes(self, matrix: Floats) -> tuple[Floats, Floats]:
        """The mixtures of each season (seasons, n, n), by the unvaried network of its day and night."""
        pairs = []
        for index in range(len(self.seasons)):
            first = index * self.varied
            mean = (matrix[first] + matrix[self.batch + first]) / 2
            pairs.append(mixtures(mean, self.network.capacity, self.case.light_hours))
        return np.stack([pair[0] for pair in pairs]), np.stack([pair[1] for pair in pairs])

    def coupled(self, base: Floats, rise: Floats, mixes: tuple[Floats, Floats]) -> DayNight:
        """Day and night as they pull at one another, with the thermostats there are."""
        held = [index for index, heater in enumerate(self.case.heaters) if heater.control != "none"]
        by_phase = self.by_phase
        return DayNight(
            self.rows, held, self.direct, by_phase(base), by_phase(rise), by_phase(self.most), by_phase(self.wanted), mixes
        )

    def surface(self, node_c: Floats) -> tuple[Floats, Floats, Floats]:
        """h_conv and h_rad (W/m²K) of the basking surface as it stands, and the temperature it sees."""
        spot, nodes = self.network.spot, self.network.nodes
        surface, air = node_c[:, nodes.spot], node_c[:, nodes.air] @ spot.air
        seen = self.room_c + spot.seen_share * (node_c[:, spot.seen].mean(axis=1) - self.room_c)
        h_conv = basking.plate_convection(surface, air, self.case.spot.side_m)
        return h_conv, basking.radiative_conductance(surface, seen), seen

    def airing(self, node_c: Floats, vapour_pa: Floats) -> humidity.Airing:
        """Air changes per hour, by how much lighter the air inside is: warmer, or moister."""
        rise_k = node_c[:, self.network.nodes.air].mean(axis=1) - self.room_c
        rise_k = virtual_rise(rise_k, vapour_pa - self.room_pa)
        changes, more = self.exchange.at(rise_k), VIRTUAL_K_PA * self.exchange.slope_at(rise_k)
        return humidity.Airing(self.vary.air_changes * changes, self.vary.air_changes * more, vapour_pa)

    @cached_property
    def exchange(self) -> AirExchange:
        return exchange_of(self.case.shell)

    def places(self) -> Floats:
        """The rows over the nodes that predictions are made of: air, surface, then hide and water where there are any."""
        nodes = self.network.nodes
        wanted = [*range(nodes.air.start, nodes.air.stop), nodes.spot]
        wanted += [nodes.hide] * nodes.hiding + [nodes.water] * nodes.watered
        return np.eye(nodes.count)[wanted]

    def named(self, read_c: Floats, pressure: Floats, duty: Floats, vapour_out: Floats) -> dict[str, Floats]:
        """Name what the places of `places` read (B, k), with vapour in Pa, duties (B, heaters) and vapour carried off in kg/h."""
        case, nodes, watts = self.case, self.network.nodes, self.watts
        warm, cool = network.end_weights(case, warm_side_x(case))
        air, more = read_c[:, : nodes.air_count], nodes.air_count + 1
        found = {
            "basking_surface": read_c[:, nodes.air_count],
            "warm_air": air @ warm,
            "cool_air": air @ cool,
            "hottest_air": air.max(axis=1),
            "warm_humidity": np.minimum(relative_humidity(pressure, air @ warm), 100.0),
            "cool_humidity": np.minimum(relative_humidity(pressure, air @ cool), 100.0),
        }
        if nodes.hiding:
            found["humid_hide"] = humidity.humid_hide(pressure, read_c[:, more])
        if nodes.watered:
            found["water"] = read_c[:, more + int(nodes.hiding)]
        found["heat_power"] = duty @ watts if watts.size else np.zeros(len(read_c))
        found["vapour_out"] = vapour_out
        for index, heater in enumerate(case.heaters):
            if heaters.HEATERS[heater.kind].place != "light":
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
    count = vary.losses.size
    repeated = vary.repeated(2 * len(seasons))
    net = network.build(case, repeated)
    states = [(season, phase) for phase in PHASES for season in seasons]
    rooms = [case.rooms[season] for season, _phase in states]
    base = [room.day_c if phase == "day" else room.night_c for room, (_season, phase) in zip(rooms, states, strict=True)]
    lit, wanted = [], []
    for _season, phase in states:
        hour = case.middle_of_day if phase == "day" else (case.middle_of_day + 12.0) % 24.0
        lit.append([float(running(heater.on_hour, heater.off_hour, hour)) for heater in case.heaters])
        wanted.append([heater.set_point(day=phase == "day") for heater in case.heaters])
    shape = (len(states), len(case.heaters))
    rows = np.array([probe_row(case, net.nodes, heater) for heater in case.heaters])
    room_c = np.repeat(np.array(base), count) + repeated.room_k
    percent = np.repeat(np.array([room.humidity_percent for room in rooms]), count)
    return SteadyProblem(
        case,
        seasons,
        count,
        repeated,
        net,
        room_c,
        percent / 100 * saturation_pressure(room_c),
        np.repeat([humidity.given_mean(case.in_season(season)) for season, _phase in states], count),
        np.repeat(np.array(lit).reshape(shape), count, axis=0),
        np.repeat(np.array(wanted).reshape(shape), count, axis=0) - repeated.probe_k[:, None],
        rows.reshape(len(case.heaters), net.nodes.count),
        direct_rises(case),
    )


@dataclass(frozen=True)
class _Guess:
    """Where a search stands: coefficients, latent heat with its slope (B, n), nodes, duties and vapour (B,); `mixes` once known."""

    air_changes: Floats
    h_conv: Floats
    h_rad: Floats
    latent: Floats
    slope: Floats
    node_c: Floats
    duty: tuple[Floats, Floats]
    mixes: tuple[Floats, Floats] | None
    vapour_pa: Floats


def _first(problem: SteadyProblem, near: Start | None) -> _Guess:
    """Begin where nearly the same enclosure stood, else with everything as warm as the room."""
    nodes, usual = problem.network.nodes, problem.exchange.usual_h * problem.vary.air_changes
    count, duty = 2 * problem.batch, problem.by_phase(problem.most)
    if near is None or near.nodes != nodes:
        nothing = np.zeros((count, nodes.count))
        return _Guess(
            usual,
            np.full(count, network.FIRST_H_CONV),
            np.full(count, network.FIRST_H_RAD),
            nothing,
            nothing,
            np.repeat(problem.room_c[:, None], nodes.count, axis=1),
            duty,
            None,
            problem.room_pa,
        )
    rows, of = near.rows(problem.seasons), problem.of_middles
    if near.duty.shape[1] == len(problem.case.heaters):
        duty = problem.by_phase(of(near.duty[rows]))
    seasons = rows[: len(problem.seasons)]
    return _Guess(
        of(near.air_changes[rows]) * problem.vary.air_changes,
        of(near.h_conv[rows]),
        of(near.h_rad[rows]),
        of(near.latent_w[rows]),
        of(near.slope[rows]),
        of(near.node_c[rows]),
        duty,
        (near.mixes[0][seasons], near.mixes[1][seasons]),
        of(near.vapour_pa[rows]),
    )


def solved(problem: SteadyProblem, near: Start | None = None, rounds: int = 0, still_k: float = STILL_K) -> "SteadyStates":
    """Solve a problem: the linear network and the thermostats' duties by turns with what is not linear.

    `rounds` at most, ROUNDS where none are given; the last is the one after which less than `still_k` is left to move.

    Parameters
    ----------
    problem
        What is to be solved.
    near
        Where a nearly like search ended.
    rounds, still_k
        When to stop: after so many rounds, or with less than so many K to move.

    Returns
    -------
    SteadyStates.

    References
    ----------
    Cottle, Pang and Stone, The Linear Complementarity Problem, 1992 (docs/models.md [5]; recalled). The outer rounds are a fixed-
    point iteration (docs/models.md, The steady periodic state).
    """
    rounds = rounds or ROUNDS
    net, watts, case = problem.network, problem.watts, problem.case
    at = _first(problem, near)
    mixed_anew = at.mixes is None
    diagonal, before = np.arange(net.nodes.count), np.inf
    for turn in range(rounds):
        matrix, room = net.bound(at.air_changes, at.h_conv, at.h_rad)
        forced = room * problem.room_c[:, None] + net.outside_w - at.latent + at.slope * at.node_c
        matrix[:, diagonal, diagonal] += at.slope
        solution = np.linalg.solve(matrix, np.concatenate([forced[:, :, None], net.per_watt], axis=2))
        mixes = problem.mixes(matrix) if at.mixes is None or (mixed_anew and turn in MIXED_ANEW) else at.mixes
        phases = problem.coupled(solution[:, :, 0], solution[:, :, 1:] * watts, mixes)
        # What follows moves them again: only the last round goes to the end.
        duty = phases.duties(at.duty, TURNS if turn == rounds - 1 else FEW_TURNS)
        ends = np.concatenate(phases.ends(duty))
        moved = float(np.abs(ends - at.node_c).max())
        still = turn > 0 and _left(moved, before) < still_k
        before = moved
        airing, (h_conv, h_rad, seen_c) = problem.airing(ends, at.vapour_pa), problem.surface(ends)
        vapour = humidity.vapour_pressure(case, ends, problem.room_pa, airing, problem.vary.wetness, problem.given)
        at = _Guess(airing.changes_h, h_conv, h_rad, vapour.latent_w, vapour.slope, ends, duty, mixes, vapour.pressure_pa)
        if still:
            break
    return SteadyStates(problem, airing.changes_h, (h_conv, h_rad), ends, seen_c, vapour, np.concatenate(duty), phases)


@dataclass(frozen=True)
class SteadyStates:
    """The solution of a problem, for its whole batch: `coefficients` are h_conv and h_rad (B,), `seen_c` what the surface sees."""

    problem: SteadyProblem
    air_changes: Floats
    coefficients: tuple[Floats, Floats]
    node_c: Floats
    seen_c: Floats
    vapour: humidity.Vapour
    duty: Floats
    phases: DayNight

    def start(self) -> Start:
        """Where a further search may begin; of the unvaried states alone."""
        problem, (h_conv, h_rad) = self.problem, self.coefficients
        return Start(
            problem.seasons,
            problem.network.nodes,
            self.air_changes / problem.vary.air_changes,
            h_conv,
            h_rad,
            self.node_c,
            self.vapour.latent_w,
            self.vapour.slope,
            self.duty,
            self.phases.mix,
            self.vapour.pressure_pa,
        )

    def predicted(self) -> dict[str, Floats]:
        """Every prediction for the whole batch, (days then nights,)."""
        read_c = self.node_c @ self.problem.places().T
        return self.problem.named(read_c, self.vapour.pressure_pa, self.duty, 3600 * self.vapour.carried_kg_s)

    def drawn(self) -> dict[str, Floats]:
        """Every prediction for many draws of what is uncertain, (days then nights × seasons, DRAWS).

        What the nodes read is drawn without and per unit of heat; then the thermostats find their duties anew.
        """
        problem, phases = self.problem, self.phases
        first = problem.by_phase(self.duty)
        places = self._all_drawn(phases.read(problem.places()))
        most = self._draw(phases.most[0]), self._draw(phases.most[1])
        duty = most
        if phases.held:
            wanted = self._draw(phases.wanted[0]), self._draw(phases.wanted[1])
            begin = [np.repeat(part[:: problem.varied], spread.DRAWS, axis=0) for part in first]
            duty = solve_duties(self._all_drawn(phases.probes()), most, wanted, phases.held, (begin[0], begin[1]))
        read = np.concatenate([places[at].at(duty[at], duty[1 - at]) for at in (0, 1)])
        pressure, out = self._vapour_drawn()
        named = problem.named(read, pressure, np.concatenate(duty), out)
        return {name: values.reshape(2 * len(problem.seasons), spread.DRAWS) for name, values in named.items()}

    def _vapour_drawn(self) -> tuple[Floats, Floats]:
        """Draws of the vapour pressure and of what is carried off: what it has over the room's is drawn by its logarithm."""
        problem = self.problem
        of_room = problem.room_pa
        beyond, out = self.vapour.pressure_pa - of_room, 3600 * self.vapour.carried_kg_s
        logarithm = bool(beyond.min() > LEAST_BEYOND_PA)
        parts = (np.log(beyond), of_room, out) if logarithm else (np.log(self.vapour.pressure_pa), of_room, out)
        both = [np.concatenate([self._draw(phase) for phase in problem.by_phase(part)]) for part in parts]
        return np.exp(both[0]) + (both[1] if logarithm else 0.0), both[2]

    def _draw(self, values: Floats) -> Floats:
        seasons = len(self.problem.seasons)
        drawn = spread.draws(values.reshape(seasons, self.problem.varied, -1))
        return drawn.reshape(seasons * spread.DRAWS, *values.shape[1:])

    def _all_drawn(self, readings: tuple[Readings, Readings]) -> tuple[Readings, Readings]:
        found = [Readings(self._draw(item.still), self._draw(item.own), self._draw(item.other)) for item in readings]
        return found[0], found[1]

    def _of_room(self, phase: int, season: int) -> Floats:
        """Node temperatures at the end of the phase with the room alone, (n,)."""
        problem = self.problem
        first = season * problem.varied
        own, other = (float(problem.room_c[which * problem.batch + first]) for which in (phase, 1 - phase))
        reached = self.phases.mix[phase][season].sum(axis=1)
        return np.asarray(other + reached * (own - other))

    def climate(self, start: Start) -> Climate:
        """The answer in the caller's terms, with `start` for a further search."""
        predicted = self.predicted()
        drawn = self.drawn() if self.problem.varied > 1 else {}
        low, high = spread.deciles(np.stack(list(drawn.values()))) if drawn else (np.zeros(0), np.zeros(0))
        steady = {}
        for at, phase in enumerate(PHASES):
            for index, season in enumerate(self.problem.seasons):
                first = at * self.problem.batch + index * self.problem.varied
                row = at * len(self.problem.seasons) + index
                spreads = {}
                for place, (name, values) in enumerate(predicted.items()):
                    middle = float(values[first])
                    spreads[name] = Spread(middle, *(float(edge[place, row]) if drawn else middle for edge in (low, high)))
                draws = {name: values[row] for name, values in drawn.items()}
                steady[season, phase] = self._state(season, phase, spreads, draws)
        return Climate(steady, start)

    def _state(self, season: str, phase: str, spreads: dict[str, Spread], draws: dict[str, Floats]) -> SteadyState:
        """One season and phase, of the unvaried states."""
        problem, nodes, (h_conv, h_rad) = self.problem, self.problem.network.nodes, self.coefficients
        at, index = PHASES.index(phase), problem.seasons.index(season)
        first = at * problem.batch + index * problem.varied
        node_c = self.node_c[first]
        return SteadyState(
            season,
            phase,
            spreads,
            draws,
            tuple(float(share) for share in self.duty[first]),
            spreads["heat_power"].value,
            tuple(tuple(float(t) for t in row) for row in node_c[nodes.air].reshape(LEVELS, ZONES)),
            tuple(float(t) for t in node_c[nodes.ground_top]),
            node_c,
            float(self.vapour.pressure_pa[first]),
            float(self.vapour.unbound_pa[first]),
            float(self.vapour.per_gram[first]),
            float(self.air_changes[first]),
            float(h_conv[first]),
            float(h_rad[first]),
            self.vapour.latent_w[first],
            self._of_room(at, index),
            self._surface_sum(first),
        )

    def _surface_sum(self, first: int) -> basking.SurfaceSum:
        net, case, watts, node_c = self.problem.network, self.problem.case, self.problem.watts, self.node_c[first]
        around = basking.Surroundings(
            float(node_c[net.nodes.air] @ net.spot.air),
            float(self.seen_c[first]),
            float(node_c[net.nodes.ground_top] @ net.spot.ground),
        )
        return basking.surface_sum(
            float(net.irradiance[first] @ (watts * self.duty[first])) if watts.size else 0.0,
            float(node_c[net.nodes.spot]),
            around,
            case.spot.side_m,
            case.spot.perch,
        )


def _left(moved: float, before: float) -> float:
    """What rounds to come will still move where each moves a constant share of the one `before`; at most what this one did."""
    share = min(moved / before, 0.5) if before > 0 else 0.5
    return moved * share / (1 - share)
