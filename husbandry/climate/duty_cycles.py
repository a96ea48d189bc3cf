"""The phases of a day coupled by what stores heat, and the duty cycles at which every thermostat is at rest.

The duty cycles solve a box-constrained complementarity problem: each probe reads its set point, or its heater stands at a bound and
the reading lies on the side that keeps it there. The derivation is in docs/models.md.
"""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate.phases import PeriodicModes

Floats = NDArray[np.float64]
Duties = tuple[Floats, ...]  # by phase, (b, heaters)

TURNS: Final = 12  # at most, of thermostats that disturb one another, between the phases
SWEEPS: Final = 3
AGREED: Final = 0.002


@dataclass(frozen=True)
class Coupled:
    """The phases of the day as they pull at one another, for every batch element: by phase the temperatures without heat (b, n),
    the rises (b, n, heaters), limits and wishes (b, heaters).

    `modes` are those of each season; a season's batch elements stand together. `rows` (heaters, n) are what the probes read.
    """

    rows: Floats
    held: list[int]
    direct: Floats
    base: tuple[Floats, ...]
    rise: tuple[Floats, ...]
    most: Duties
    wanted: tuple[Floats, ...]
    modes: PeriodicModes

    def _of_seasons(self, values: Floats) -> Floats:
        """Values (b, …) as (seasons, each, …): a season's batch elements stand together and share its modes."""
        seasons = len(self.modes.rates)
        return values.reshape(seasons, len(values) // seasons, *values.shape[1:])

    def steady(self, duties: Duties) -> list[Floats]:
        """The steady state (b, n) that each phase goes towards."""
        found = zip(self.base, self.rise, duties, strict=True)
        return [base + (rise @ duty[:, :, None])[:, :, 0] for base, rise, duty in found]

    def ends(self, duties: Duties) -> list[Floats]:
        """Temperatures (b, n) at the end of every phase."""
        into = [self._of_seasons(state) @ self.modes.right.transpose(0, 2, 1) for state in self.steady(duties)]
        back, found = self.modes.left.transpose(0, 2, 1), []
        for phase in range(len(into)):
            reached = sum(modal * self.modes.ends[:, phase, None, other] for other, modal in enumerate(into))
            found.append((reached @ back).reshape(self.base[phase].shape))
        return found

    def read(self, functionals: list[Floats]) -> "Readings":
        """What rows over the steady states of the phases (by phase (seasons, k, n)) read, as straight lines in all duties."""
        count, places = len(self.base[0]), functionals[0].shape[1]
        parts = [self._of_seasons(base) @ rows.transpose(0, 2, 1) for base, rows in zip(self.base, functionals, strict=True)]
        still = np.sum(parts, axis=0)
        gains = [rows[:, None] @ self._of_seasons(rise) for rise, rows in zip(self.rise, functionals, strict=True)]
        return Readings(still.reshape(count, places), tuple(gain.reshape(count, places, gain.shape[-1]) for gain in gains))

    def probes(self) -> tuple["Readings", ...]:
        """What every heater's own probe reads at the end of every phase."""
        places, found = np.arange(self.direct.size), []
        for phase in range(len(self.base)):
            reading = self.read(self.modes.functionals(self.rows, self.modes.ends[:, phase]))
            reading.gains[phase][:, places, places] += self.direct
            found.append(reading)
        return tuple(found)

    def duties(self, first: Duties, turns: int = TURNS) -> Duties:
        """Mean duties (b, heaters) by phase at which every probe reads what is wanted, or the heater's limit."""
        return solve_duties(self.probes(), self.most, self.wanted, self.held, first, turns) if self.held else self.most


@dataclass(frozen=True)
class Readings:
    """`still` (b, k) in °C without heat; by phase (b, k, heaters) K per unit of duty in that phase."""

    still: Floats
    gains: tuple[Floats, ...]

    def at(self, duties: Duties) -> Floats:
        """°C (b, k) at the duties (b, heaters) of all phases."""
        found = self.still
        for gain, duty in zip(self.gains, duties, strict=True):
            found = found + (gain @ duty[:, :, None])[:, :, 0]
        return found


def solve_duties(
    probes: tuple[Readings, ...],
    most: Duties,
    wanted: tuple[Floats, ...],
    held: list[int],
    first: Duties,
    turns: int = TURNS,
) -> Duties:
    """Find the duty cycles at which every thermostat is at rest: a box-constrained complementarity problem.

    Parameters
    ----------
    probes
        What the probes read at the end of each phase of the day, as straight lines in the duties: without heat (b, k) and per
        unit of duty (b, k, heaters).
    most, wanted
        The duties' upper bounds and the set points, (b, heaters), by phase.
    held
        The heaters on thermostats.
    first
        Where to begin.
    turns
        At most so many through the phases.

    Returns
    -------
    Duties (b, heaters) by phase: each probe reads what is wanted, or its heater stands at a bound. Projected
    Gauss–Seidel; the derivation is in docs/models.md.

    References
    ----------
    Cottle, Pang and Stone 1992, The Linear Complementarity Problem, chapters 3 and 5 (docs/models.md [5]; recalled).
    """
    problems = [_phase_problem(reading, phase, most, wanted[phase], held) for phase, reading in enumerate(probes)]
    found = [np.ascontiguousarray(duty[:, held].T) for duty in first]
    for problem, duties in zip(problems, found, strict=True):
        duties[[index for index in range(len(held)) if index not in problem.working]] = 0.0
    at_work = [phase for phase, problem in enumerate(problems) if problem.working]
    alone = len(at_work) == 1 and len(problems[at_work[0]].working) == 1
    for _ in range(turns if at_work else 0):
        moved = max(problems[phase].sweep(found, at_work) for phase in at_work)
        if moved < AGREED or alone:
            break
    whole = []
    for bound, duties in zip(most, found, strict=True):
        duty = bound.copy()
        duty[:, held] = duties.T
        whole.append(duty)
    return tuple(whole)


@dataclass(frozen=True)
class _PhaseProblem:
    """One phase's complementarity problem; heaters first, the batch last, so that every step is one long row.

    `lacking` (k, b) in K without the held heaters; `gains` by phase K per unit of duty (k, k, b); the bounds (k, b) of its
    `phase`; `working` are the heaters whose timer is on: the others have nothing to find there.
    """

    phase: int
    lacking: Floats
    gains: tuple[Floats, ...]
    limit: Floats
    diagonal: Floats
    working: list[int]

    def sweep(self, found: list[Floats], at_work: list[int]) -> float:
        """Let each heater in turn make up what its probe misses, within its bounds; return the largest change of a duty.

        `found` are the duties (k, b) of every phase, of which those `at_work` are not nought.
        """
        missing, own, duties = self.lacking, self.gains[self.phase], found[self.phase]
        for other in at_work:
            if other != self.phase:
                missing = missing - (self.gains[other] * found[other]).sum(axis=1)
        before = duties.copy()
        for _ in range(1 if len(self.working) == 1 else SWEEPS):
            for index in self.working:
                left = missing[index]
                for more in self.working:
                    if more != index:
                        left = left - own[index, more] * duties[more]
                duties[index] = np.minimum(np.maximum(left / self.diagonal[index], 0.0), self.limit[index])
        return float(np.abs(duties - before).max())


def _phase_problem(probes: Readings, phase: int, most: Duties, wanted: Floats, held: list[int]) -> _PhaseProblem:
    """State the problem of one phase; `most` are the bounds in every phase."""
    idle = [index for index in range(most[0].shape[1]) if index not in held]
    free = probes.still[:, held]
    of_held = [gain[:, held] for gain in probes.gains]
    if idle:
        for gain, bound in zip(of_held, most, strict=True):
            free = free + (gain[:, :, idle] @ bound[:, idle, None])[:, :, 0]
    gains = tuple(np.ascontiguousarray(gain[:, :, held].transpose(1, 2, 0)) for gain in of_held)
    limit, own = np.ascontiguousarray(most[phase][:, held].T), gains[phase].diagonal().T
    return _PhaseProblem(
        phase,
        (wanted[:, held] - free).T,
        gains,
        limit,
        np.where(np.abs(own) < 1e-6, 1e-6, own),
        [index for index in range(len(held)) if limit[index].any()],
    )
