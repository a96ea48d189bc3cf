"""What an enclosure comes to by day and by night, summer and winter, with its spread.

Predictions are those of a day that repeats itself, parted at every switch of light, sun and timers. With inputs constant
in each phase the ends of the phases are weighted means of their steady states, exact mode by mode (`phases`). Air and stones
reach their level in every phase; deep ground and water hardly move from their mean.

Thermostats hold the probe at the set point where their heater can: an on/off and a dimming thermostat have the same mean
duty, which is what is found here. Each uncertain parameter is moved by one standard deviation both ways; what that does
to every prediction makes their spread (`husbandry.climate.spread`).
"""

from dataclasses import dataclass
from typing import Final, Self

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import elimination, humidity, network
from husbandry.climate.case import EnclosureCase
from husbandry.climate.compiled import compiled
from husbandry.climate.duty_cycles import TURNS, Duties
from husbandry.climate.elimination import Linearised
from husbandry.climate.parameters import Variation
from husbandry.climate.phases import PeriodicModes
from husbandry.climate.states import DAY_AND_NIGHT, Climate, Start
from husbandry.climate.steady_problem import SteadyProblem, problem_of
from husbandry.climate.steady_states import SteadyStates

Floats = NDArray[np.float64]

ROUNDS: Final = 4  # of air changes, the surface's losses and latent heat; each halves what is left and better
ROUNDS_NEAR: Final = 2
# Where heat and what carries it off chase each other, a state comes back by nearly as much as it went: from then on it goes half as
# far, and further rounds follow until it moves no more.
SWINGS: Final = 0.7
SWINGS_K: Final = 2.0
SWUNG_OUT_K: Final = 0.5
LEAST_SHARE: Final = 1 / 16
# What was linear near a state says little far from it: after the first round no node goes further at once.
FARTHEST_K: Final = 60.0
MOST_ROUNDS: Final = 32
TRIAL_K: Final = 0.08  # STILL_K for a trial
FEW_TURNS: Final = 3
STILL_K: Final = 0.04  # where what is left to move comes to less, by how fast it shrinks, the round is the last
MODES_ANEW: Final = (0, 2)


def solve_steady(
    case: EnclosureCase,
    *,
    spread: bool = True,
    seasons: tuple[str, ...] = ("summer", "winter"),
    near: Climate | None = None,
) -> Climate:
    """Solve the day and the night of `case` in each season.

    Parameters
    ----------
    case
        The enclosure, its heaters and the room it stands in.
    spread
        Whether low and high are worked out; without it they are None.
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


def varied(case: EnclosureCase, seasons: tuple[str, ...], vary: Variation, middle: SteadyStates | None = None) -> SteadyStates:
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
    return {phase: {name: float(values[row]) for name, values in found.items()} for row, phase in enumerate(DAY_AND_NIGHT)}


@dataclass(frozen=True)
class _Guess:
    """Where a search stands: the state it is made linear at, duties, `modes` once known, and vapour pressure (B,) in Pa."""

    state: Linearised
    duty: Duties
    modes: PeriodicModes | None
    vapour_pa: Floats


def _first(problem: SteadyProblem, near: Start | None) -> _Guess:
    """Begin where nearly the same enclosure stood, else with everything as warm as the room."""
    nodes, usual = problem.network.nodes, problem.exchange.usual_h * problem.vary.air_changes
    count, duty = len(problem.phases) * problem.batch, problem.by_phase(problem.most)
    if near is None or near.nodes != nodes or near.phases != problem.phases:
        nothing, node_c = np.zeros((count, nodes.count)), np.repeat(problem.room_c[:, None], nodes.count, axis=1)
        h_conv, h_rad = np.full(count, network.FIRST_H_CONV), np.full(count, network.FIRST_H_RAD)
        return _Guess(Linearised(usual, h_conv, h_rad, nothing, nothing, node_c), duty, None, problem.room_pa)
    rows, of = near.rows(problem.seasons), problem.of_middles
    if near.duty.shape[1] == len(problem.case.heaters):
        duty = problem.by_phase(of(near.duty[rows]))
    changes = of(near.air_changes[rows]) * problem.vary.air_changes
    others = (near.h_conv, near.h_rad, near.latent_w, near.slope, near.node_c)
    state = Linearised(changes, *(of(values[rows]) for values in others))
    return _Guess(state, duty, near.modes.of_seasons(rows[: len(problem.seasons)]), of(near.vapour_pa[rows]))


def solved(problem: SteadyProblem, near: Start | None = None, rounds: int = 0, still_k: float = STILL_K) -> SteadyStates:
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
    net, case = problem.network, problem.case
    at = _first(problem, near)
    modes_anew, pace = at.modes is None, _Pace.of(at.state.node_c)
    for turn in range(MOST_ROUNDS):
        base, rise = elimination.steady(problem.given, at.state, net.surface, net.order)
        modes = problem.modes(at.state) if at.modes is None or (modes_anew and turn in MODES_ANEW) else at.modes
        phases = problem.coupled(base, rise, modes)
        # What follows moves them again: only the last round goes to the end.
        duty = phases.duties(at.duty, TURNS if turn >= rounds - 1 else FEW_TURNS)
        ends = phases.ends(duty).reshape(-1, net.nodes.count)
        still = pace.stepped(ends - at.state.node_c, still_k)
        last = still or (turn >= rounds - 1 and not pace.swinging)
        if not last:
            ends = at.state.node_c + pace.going(first=turn == 0)
        found = problem.coefficients(ends, at.vapour_pa)
        airing = humidity.Airing(found.changes_h, found.more_h_pa, at.vapour_pa)
        vapour = humidity.vapour_pressure(case, ends, problem.room_pa, airing, problem.sources)
        state = Linearised(found.changes_h, found.h_conv, found.h_rad, vapour.latent_w, vapour.slope, ends)
        at = _Guess(state, duty, modes, vapour.pressure_pa)
        if last:
            break
    return SteadyStates(problem, found, ends, vapour, duty, phases)


@dataclass
class _Pace:
    """How far each state (B,) goes of the way to the next guess: all of it, less where it was there and back, or goes too far."""

    share: Floats
    last_k: Floats  # the step before, (B, n)
    moved_k: Floats  # the most that it moved a node
    swung: NDArray[np.bool_]  # whether it ever went too far, or there and back

    @classmethod
    def of(cls, node_c: Floats) -> Self:
        return cls(np.ones(len(node_c)), np.zeros_like(node_c), np.full(len(node_c), np.inf), np.zeros(len(node_c), bool))

    def stepped(self, step_k: Floats, still_k: float) -> bool:
        """Note a step (B, n); tell whether what is left to move comes to less than `still_k`."""
        before_k = float(self.moved_k.max())  # no finite number before the first step
        self.share, self.swung, self.moved_k = _paced(step_k, self.last_k, self.moved_k, self.share, self.swung)
        self.last_k = step_k
        return bool(np.isfinite(before_k)) and _left(float(self.moved_k.max()), before_k) < still_k

    def going(self, *, first: bool) -> Floats:
        """By how much each node goes now, K (B, n): what is not linear is then looked up where that leads to."""
        step_k = self.share[:, None] * self.last_k
        return step_k if first else np.clip(step_k, -FARTHEST_K, FARTHEST_K)

    @property
    def swinging(self) -> bool:
        """Tell whether a state that swung still moves, or another still moves far."""
        return bool((self.moved_k > np.where(self.swung, SWUNG_OUT_K, SWINGS_K)).any())


@compiled
def _paced(
    step_k: Floats, last_k: Floats, before_k: Floats, share: Floats, swung: NDArray[np.bool_]
) -> tuple[Floats, NDArray[np.bool_], Floats]:
    """The share that each state goes, whether it ever swung, and the most that a step (B, n) moves a node of it."""
    batch, count = step_k.shape
    shares, swings, moved_k = share.copy(), swung.copy(), np.empty(batch)
    for b in range(batch):
        most, along = 0.0, 0.0
        for node in range(count):
            most = max(most, abs(step_k[b, node]))
            along += step_k[b, node] * last_k[b, node]
        far = np.isfinite(before_k[b]) and most > FARTHEST_K
        least_k = SWUNG_OUT_K / 2 if swung[b] else SWINGS_K
        if far:
            shares[b] = min(share[b], 0.5)
        elif along < 0 and most > SWINGS * before_k[b] and most > least_k:
            shares[b] = max(share[b] / 2, LEAST_SHARE)
            swings[b] = True
        swings[b] |= far
        moved_k[b] = most
    return shares, swings, moved_k


def _left(moved: float, before: float) -> float:
    """What rounds to come will still move where each moves a constant share of the one `before`; at most what this one did."""
    share = min(moved / before, 0.5) if before > 0 else 0.5
    return moved * share / (1 - share)
