"""The steady periodic state of an enclosure as it was found, and what is read of it by day and by night."""

from dataclasses import dataclass, replace
from functools import cached_property
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import basking, humidity, spread
from husbandry.climate.duty_cycles import Coupled, Duties, Readings, runs, solve_duties
from husbandry.climate.linearising import Coefficients
from husbandry.climate.nodes import LEVELS, ZONES
from husbandry.climate.phases import hottest_stretch
from husbandry.climate.states import DAY_AND_NIGHT, Climate, Spread, Start, SteadyState
from husbandry.climate.steady_problem import SteadyProblem

Floats = NDArray[np.float64]

LEAST_BEYOND_PA: Final = 5.0
LEAST_HOURS: Final = 1e-9


@dataclass(frozen=True)
class PhaseReading:
    """How the day or the night is read: each phase's share (phases,) of it, and by season that of the basking surface's hottest
    stretch (seasons, phases), the phase at whose end the air is `hottest` (once heaters have warmed up), and the `main` one.

    The main phase's end stands for the whole: by day the one in which basking is hottest, by night the last.
    """

    shares: Floats
    surface: Floats
    hottest: tuple[int, ...]
    main: tuple[int, ...]


@dataclass(frozen=True)
class SteadyStates:
    """The solution of a problem, for its whole batch, with its `coefficients` there; `node_c` (B, n) are the ends of the phases."""

    problem: SteadyProblem
    coefficients: Coefficients
    node_c: Floats
    vapour: humidity.Vapour
    duties: Duties
    coupled: Coupled

    def start(self) -> Start:
        """Where a further search may begin; of the unvaried states alone."""
        problem, found = self.problem, self.coefficients
        return Start(
            problem.seasons,
            problem.phases,
            problem.network.nodes,
            found.changes_h / problem.vary.air_changes,
            found.h_conv,
            found.h_rad,
            self.node_c,
            self.vapour.latent_w,
            self.vapour.slope,
            np.concatenate(self.duties),
            self.coupled.modes,
            self.vapour.pressure_pa,
        )

    @cached_property
    def reads(self) -> tuple[PhaseReading, PhaseReading]:
        """How the day and the night are read: each phase by its end, the surface by day by the hottest phases of the light."""
        problem, nodes = self.problem, self.problem.network.nodes
        every, found = range(len(problem.seasons)), []
        warmest = [self._warmest_air(season) for season in every]
        for lit in (True, False):
            hours = np.array([max(phase.hours, LEAST_HOURS) * (phase.lit is lit) for phase in problem.phases])
            shares = hours / hours.sum()
            own = [at for at, part in enumerate(hours) if part]
            if lit:
                surface = np.stack([hottest_stretch(problem.phases, self._levels(nodes.spot, season)) for season in every])
                main = tuple(int(stretch.argmax()) for stretch in surface)
            else:
                surface, main = np.tile(shares, (len(every), 1)), (own[-1],) * len(every)
            hottest = tuple(max(own, key=warmest[season].__getitem__) for season in every)
            found.append(PhaseReading(shares, surface, hottest, main))
        return found[0], found[1]

    @cached_property
    def _cooler(self) -> Floats | None:
        """By how many K the unvaried air at the end of each phase is cooler once heaters have warmed up, (phases, seasons, air).

        None where no heater works on from one phase into the next: nothing of its first hours then stands apart.
        """
        coupled, each = self.coupled, slice(None, None, self.problem.varied)
        if not runs(coupled.most, coupled.wanted, coupled.held):
            return None
        middle = replace(
            coupled,
            base=coupled.base[:, each],
            rise=coupled.rise[:, each],
            most=coupled.most[:, each],
            wanted=coupled.wanted[:, each],
        )
        duties = self.duties[:, each]
        less = middle.ends(duties) - middle.at_rest(duties, self.problem.hours)
        return np.asarray(less[..., self.problem.network.nodes.air])

    def _warmest_air(self, season: int) -> list[float]:
        """The warmest air at the end of each phase of a season, once its heaters have warmed up, unvaried, °C."""
        ends = self._unvaried(season)[:, self.problem.network.nodes.air]
        return (ends if self._cooler is None else ends - self._cooler[:, season]).max(axis=1).tolist()

    def _of_hottest(self, read: PhaseReading) -> Floats:
        """By how many K the air is cooler where it is hottest, by season, for the whole batch (seasons, 1, air)."""
        if self._cooler is None:
            return np.zeros((len(read.hottest), 1, 1))
        return np.stack([self._cooler[phase, season] for season, phase in enumerate(read.hottest)])[:, None]

    def _functionals(self, read: PhaseReading) -> Floats:
        """The rows (phases, seasons, k, n) over the phases' steady states: the places, then the air at its hottest."""
        problem, modes, nodes = self.problem, self.coupled.modes, self.problem.network.nodes
        everywhere = np.eye(nodes.count)
        rows = modes.functionals(problem.places, np.tensordot(read.shares, modes.ends, axes=(0, 1)))
        of_surface = np.stack([np.tensordot(part, modes.ends[season], axes=1) for season, part in enumerate(read.surface)])
        rows[:, :, nodes.air_count] = modes.functionals(everywhere[[nodes.spot]], of_surface)[:, :, 0]
        of_air = np.stack([modes.ends[season, phase] for season, phase in enumerate(read.hottest)])
        return np.concatenate([rows, modes.functionals(everywhere[nodes.air], of_air)], axis=2)

    def _read_c(self, read: PhaseReading) -> Floats:
        """What the same rows read of the phases' ends as they were found, (seasons × variations, k)."""
        problem, nodes = self.problem, self.problem.network.nodes
        ends = self.node_c.reshape(len(problem.phases), len(problem.seasons), problem.varied, nodes.count)
        found = np.tensordot(read.shares, ends, axes=1) @ problem.places.T
        found[:, :, nodes.air_count] = np.einsum("sp,psv->sv", read.surface, ends[..., nodes.spot])
        air = np.stack([ends[phase, season][:, nodes.air] for season, phase in enumerate(read.hottest)]) - self._of_hottest(read)
        return np.concatenate([found, air], axis=2).reshape(problem.batch, -1)

    def _levels(self, node: int, season: int) -> list[float]:
        """What a node has at the end of each phase of a season, unvaried, °C."""
        return self._unvaried(season)[:, node].tolist()

    def _unvaried(self, season: int) -> Floats:
        """The nodes of the unvaried state at the end of each phase of a season, (phases, n)."""
        return self.node_c[self._row(0, season) :: self.problem.batch]

    def _row(self, phase: int, season: int) -> int:
        """The row of the unvaried state of a phase in a season."""
        return phase * self.problem.batch + season * self.problem.varied

    def _means(self, values: Floats) -> Floats:
        """Values of all phases (B, k) as their means over the day's, then over the night's, (2 × seasons × variations, k)."""
        (rows, columns), phases = values.shape, len(self.problem.phases)
        shares = np.stack([read.shares for read in self.reads])
        means = shares @ values.reshape(phases, rows // phases * columns)
        return means.reshape(2 * (rows // phases), columns)

    @cached_property
    def _vapour_means(self) -> Floats:
        """Vapour pressure, that without condensation, what a gram adds (Pa), and kg/h carried off, as `_means`, (…, 4)."""
        found = self.vapour
        return self._means(np.column_stack([found.pressure_pa, found.unbound_pa, found.per_gram, 3600 * found.carried_kg_s]))

    def predicted(self) -> dict[str, Floats]:
        """Every prediction for the whole batch, (days then nights,)."""
        read_c = np.concatenate([self._read_c(read) for read in self.reads])
        vapour = self._vapour_means
        return self.problem.named(read_c, vapour[:, 0], self._means(np.concatenate(self.duties)), vapour[:, 3])

    def drawn(self) -> dict[str, Floats]:
        """Every prediction for many draws of what is uncertain, (days then nights × seasons, DRAWS).

        What is read is drawn without and per unit of heat; then the thermostats find their duties anew.
        """
        problem, coupled = self.problem, self.coupled
        duties = np.repeat(coupled.most[:, :: problem.varied], spread.DRAWS, axis=1)  # nothing of them is uncertain
        if coupled.held:
            probes = coupled.probes()
            of_heat = probes.gains.reshape(-1, *probes.gains.shape[2:])
            gains = self._draw_each(of_heat)
            drawn = Readings(self._draw_each(probes.still), gains.reshape(*probes.gains.shape[:2], *gains.shape[1:]))
            begin = np.repeat(self.duties[:, :: problem.varied], spread.DRAWS, axis=1)
            duties = solve_duties(drawn, duties, self._draw_each(coupled.wanted), coupled.held, begin)
        pressure, out = self._vapour_drawn()
        read_c = [self._drawn_read(read, duties) for read in self.reads]
        vapour = self._means(np.column_stack([pressure, out]))
        named = problem.named(np.concatenate(read_c), vapour[:, 0], self._means(np.concatenate(duties)), vapour[:, 1])
        return {name: values.reshape(2 * len(problem.seasons), spread.DRAWS) for name, values in named.items()}

    def _drawn_read(self, read: PhaseReading, duties: Duties) -> Floats:
        """Draws of the places of the day or the night, and of the air at its hottest, (seasons × DRAWS, k)."""
        found = self._drawn_reading(self.coupled.read(self._functionals(read))).at(duties)
        air = found[:, -self.problem.network.nodes.air_count :].reshape(len(read.hottest), spread.DRAWS, -1)
        air -= self._of_hottest(read)
        return found

    def _vapour_drawn(self) -> tuple[Floats, Floats]:
        """Draws of the vapour pressure and of what is carried off: what it has over the room's is drawn by its logarithm."""
        problem = self.problem
        of_room = problem.room_pa
        beyond, out = self.vapour.pressure_pa - of_room, 3600 * self.vapour.carried_kg_s
        logarithm = bool(beyond.min() > LEAST_BEYOND_PA)
        parts = (np.log(beyond), of_room, out) if logarithm else (np.log(self.vapour.pressure_pa), of_room, out)
        drawn = [np.concatenate(self._draw_each(problem.by_phase(part))) for part in parts]
        return np.exp(drawn[0]) + (drawn[1] if logarithm else 0.0), drawn[2]

    def _draw(self, values: Floats) -> Floats:
        """Draws of values of the seasons with their variations, (b, …)."""
        return self._draw_each(values[None])[0]

    def _draw_each(self, values: Floats) -> Floats:
        """Draws of the values of each phase, (phases, b, …)."""
        count, seasons, varied = len(values), len(self.problem.seasons), self.problem.varied
        drawn = spread.draws(np.ascontiguousarray(values).reshape(count * seasons, varied, -1))
        return drawn.reshape(count, seasons * spread.DRAWS, *values.shape[2:])

    def _drawn_reading(self, reading: Readings) -> Readings:
        return Readings(self._draw(reading.still), self._draw_each(reading.gains))

    def _of_room(self, phase: int, season: int) -> Floats:
        """Node temperatures at the end of a phase with the room alone, (n,)."""
        problem, modes = self.problem, self.coupled.modes
        everywhere = modes.right[season].sum(axis=1)
        room_c = problem.room_c[[self._row(other, season) for other in range(len(problem.phases))]]
        return np.asarray(modes.left[season] @ (everywhere * (room_c @ modes.ends[season, phase])))

    def climate(self, start: Start) -> Climate:
        """The answer in the caller's terms, with `start` for a further search."""
        predicted, seasons = self.predicted(), self.problem.seasons
        drawn = self.drawn() if self.problem.varied > 1 else {}
        low, high = spread.deciles(np.stack(list(drawn.values()))) if drawn else (np.zeros(0), np.zeros(0))
        steady = {}
        for at, phase in enumerate(DAY_AND_NIGHT):
            for index, season in enumerate(seasons):
                row = at * len(seasons) + index
                spreads = {}
                for place, (name, values) in enumerate(predicted.items()):
                    middle = float(values[row * self.problem.varied])
                    spreads[name] = Spread(middle, *(float(edge[place, row]) if drawn else None for edge in (low, high)))
                draws = {name: values[row] for name, values in drawn.items()}
                steady[season, phase] = self._state(season, phase, spreads, draws)
        return Climate(steady, start)

    def _state(self, season: str, phase: str, spreads: dict[str, Spread], draws: dict[str, Floats]) -> SteadyState:
        """One season's day or night, of the unvaried states: means over it, and the nodes at the end of its main phase."""
        problem, nodes, found = self.problem, self.problem.network.nodes, self.coefficients
        read, index = self.reads[DAY_AND_NIGHT.index(phase)], problem.seasons.index(season)
        main, vapour = read.main[index], self.vapour
        row, of_mean = self._row(main, index), index * problem.varied
        node_c = self.node_c[row]
        pressure, unbound, per_gram, _out = self._vapour_means[DAY_AND_NIGHT.index(phase) * problem.batch + of_mean].tolist()
        return SteadyState(
            season,
            phase,
            spreads,
            draws,
            tuple(float(share) for share in self.duties[main][of_mean]),
            spreads["heat_power"].value,
            tuple(tuple(float(t) for t in level) for level in node_c[nodes.air].reshape(LEVELS, ZONES)),
            tuple(float(t) for t in node_c[nodes.ground_top]),
            node_c,
            pressure,
            unbound,
            per_gram,
            float(found.changes_h[row]),
            float(found.h_conv[row]),
            float(found.h_rad[row]),
            vapour.latent_w[row],
            self._of_room(main, index),
            self._surface_sum(row, self.duties[main][of_mean]),
        )

    def _surface_sum(self, row: int, duty: Floats) -> basking.SurfaceSum:
        net, case, watts, node_c = self.problem.network, self.problem.case, self.problem.watts, self.node_c[row]
        around = basking.Surroundings(
            float(node_c[net.nodes.air] @ net.spot.air),
            float(self.coefficients.seen_c[row]),
            float(node_c[net.nodes.ground_top] @ net.spot.ground),
        )
        return basking.surface_sum(
            float(net.irradiance[row % self.problem.varied] @ (watts * duty)) if watts.size else 0.0,
            float(node_c[net.nodes.spot]),
            around,
            case.spot.side_m,
            case.spot.perch,
        )
