"""Day and night as two phases coupled by what stores heat, and the duty cycles at which every thermostat is at rest.

The duty cycles solve a box-constrained complementarity problem: each probe reads its set point, or its heater stands at a bound and
the reading lies on the side that keeps it there. The derivation is in docs/models.md.
"""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

TURNS: Final = 12  # at most, of thermostats that disturb one another, between day and night
SWEEPS: Final = 3
AGREED: Final = 0.002


@dataclass(frozen=True)
class DayNight:
    """Day and night of every batch element: rises (b, n, heaters), temperatures without heat (b, n), limits and wishes.

    `mix` (seasons, n, n) each take the steady day and night to the end of the light and of the dark.
    """

    rows: Floats
    held: list[int]
    direct: Floats
    base: tuple[Floats, Floats]
    rise: tuple[Floats, Floats]
    most: tuple[Floats, Floats]
    wanted: tuple[Floats, Floats]
    mix: tuple[Floats, Floats]

    def _of_seasons(self, values: Floats) -> Floats:
        """Values (b, …) as (seasons, each, …): a season's batch elements stand together and share its mixture."""
        seasons = len(self.mix[0])
        return values.reshape(seasons, len(values) // seasons, *values.shape[1:])

    def ends(self, duties: tuple[Floats, Floats]) -> tuple[Floats, Floats]:
        """Temperatures (b, n) at the end of the light and of the dark."""
        day, night = (
            base + (rise @ duty[:, :, None])[:, :, 0] for base, rise, duty in zip(self.base, self.rise, duties, strict=True)
        )
        apart = self._of_seasons(day - night)
        gone = [(apart @ mix.transpose(0, 2, 1)).reshape(day.shape) for mix in self.mix]
        return night + gone[0], day - gone[1]

    def read(self, rows: Floats) -> tuple["Readings", "Readings"]:
        """What `rows` (k, n) read at the end of the light and of the dark, as straight lines in the duties of both."""
        own = [rows @ mix for mix in self.mix]  # (seasons, k, n)
        other = [rows - part for part in own]
        bases, rises = [self._of_seasons(part) for part in self.base], [self._of_seasons(part) for part in self.rise]
        count, places = len(self.base[0]), len(rows)
        found = []
        for phase in (0, 1):
            still = bases[phase] @ own[phase].transpose(0, 2, 1) + bases[1 - phase] @ other[phase].transpose(0, 2, 1)
            gains = [part[:, None] @ rises[which] for part, which in ((own[phase], phase), (other[phase], 1 - phase))]
            found.append(Readings(still.reshape(count, places), *(gain.reshape(count, places, -1) for gain in gains)))
        return found[0], found[1]

    def probes(self) -> tuple["Readings", "Readings"]:
        """What every heater's own probe reads."""
        places = np.arange(self.direct.size)
        found = self.read(self.rows)
        for reading in found:
            reading.own[:, places, places] += self.direct
        return found

    def duties(self, first: tuple[Floats, Floats], turns: int = TURNS) -> tuple[Floats, Floats]:
        """Mean duties (b, heaters) by day and by night at which every probe reads what is wanted, or the heater's limit."""
        return solve_duties(self.probes(), self.most, self.wanted, self.held, first, turns) if self.held else self.most


@dataclass(frozen=True)
class Readings:
    """`still` (b, k) in °C without heat; (b, k, heaters) K per unit of duty in the `own` phase of the day and the `other`."""

    still: Floats
    own: Floats
    other: Floats

    def at(self, own_duty: Floats, other_duty: Floats) -> Floats:
        """°C (b, k) at duties (b, heaters)."""
        return np.asarray(self.still + (self.own @ own_duty[:, :, None] + self.other @ other_duty[:, :, None])[:, :, 0])


def solve_duties(
    probes: tuple[Readings, Readings],
    most: tuple[Floats, Floats],
    wanted: tuple[Floats, Floats],
    held: list[int],
    first: tuple[Floats, Floats],
    turns: int = TURNS,
) -> tuple[Floats, Floats]:
    """Find the duty cycles at which every thermostat is at rest: a box-constrained complementarity problem.

    Parameters
    ----------
    probes
        What the probes read by day and by night, as straight lines in the duties: without heat (b, k) and per unit of
        duty (b, k, heaters).
    most, wanted
        The duties' upper bounds and the set points, (b, heaters), by day and by night.
    held
        The heaters on thermostats.
    first
        Where to begin.
    turns
        At most so many between day and night.

    Returns
    -------
    Duties (b, heaters) by day and by night: each probe reads what is wanted, or its heater stands at a bound. Projected
    Gauss–Seidel; the derivation is in docs/models.md.

    References
    ----------
    Cottle, Pang and Stone 1992, The Linear Complementarity Problem, chapters 3 and 5 (docs/models.md [5]; recalled).
    """
    problems = [_phase_problem(probes[phase], (most[phase], most[1 - phase]), wanted[phase], held) for phase in (0, 1)]
    found = [np.ascontiguousarray(first[phase][:, held].T) for phase in (0, 1)]
    for problem, duties in zip(problems, found, strict=True):
        duties[[index for index in range(len(held)) if index not in problem.working]] = 0.0
    alone = not all(problem.working for problem in problems) and max(len(problem.working) for problem in problems) == 1
    for _ in range(turns):
        moved = max(problem.sweep(found[phase], found[1 - phase]) for phase, problem in enumerate(problems))
        if moved < AGREED or alone:
            break
    whole = []
    for phase in (0, 1):
        duty = most[phase].copy()
        duty[:, held] = found[phase].T
        whole.append(duty)
    return whole[0], whole[1]


@dataclass(frozen=True)
class _PhaseProblem:
    """One phase's complementarity problem; heaters first, the batch last, so that every step is one long row.

    `lacking` (k, b) in K without the held heaters; K per unit of duty (k, k, b) of this phase and of the other; the bounds (k, b);
    `working` are the heaters whose timer is on: the others have nothing to find there.
    """

    lacking: Floats
    own: Floats
    other: Floats
    limit: Floats
    diagonal: Floats
    working: list[int]

    def sweep(self, duties: Floats, across: Floats) -> float:
        """Let each heater in turn make up what its probe misses, within its bounds; return the largest change of a duty."""
        if not self.working:
            return 0.0
        missing = self.lacking - (self.other * across).sum(axis=1)
        before = duties.copy()
        for _ in range(1 if len(self.working) == 1 else SWEEPS):
            for index in self.working:
                left = missing[index]
                for more in self.working:
                    if more != index:
                        left = left - self.own[index, more] * duties[more]
                duties[index] = np.minimum(np.maximum(left / self.diagonal[index], 0.0), self.limit[index])
        return float(np.abs(duties - before).max())


def _phase_problem(probes: Readings, most: tuple[Floats, Floats], wanted: Floats, held: list[int]) -> _PhaseProblem:
    """State the problem of one phase; `most` are the bounds in this phase and in the other."""
    idle = [index for index in range(most[0].shape[1]) if index not in held]
    free, across = probes.still[:, held], probes.other[:, held]
    if idle:
        free = free + (probes.own[:, held][:, :, idle] @ most[0][:, idle, None])[:, :, 0]
        free = free + (across[:, :, idle] @ most[1][:, idle, None])[:, :, 0]
    own = np.ascontiguousarray(probes.own[:, held][:, :, held].transpose(1, 2, 0))
    limit, gain = np.ascontiguousarray(most[0][:, held].T), own.diagonal().T
    return _PhaseProblem(
        (wanted[:, held] - free).T,
        own,
        np.ascontiguousarray(across[:, :, held].transpose(1, 2, 0)),
        limit,
        np.where(np.abs(gain) < 1e-6, 1e-6, gain),
        [index for index in range(len(held)) if limit[index].any()],
    )


def mixtures(matrix: Floats, capacity: Floats, light_h: float) -> tuple[Floats, Floats]:
    """Return how far the steady day is reached at the end of the light, and the steady night at the end of the dark: (n, n).

    Parameters
    ----------
    matrix
        Conductances between the nodes in W/K, shape (n, n).
    capacity
        Heat capacity of the nodes in J/K, shape (n,).
    light_h
        Hours of light, 0–24.

    Returns
    -------
    Two matrices of shares without unit, shape (n, n).

    References
    ----------
    The periodic solution of a linear system (docs/models.md, The steady periodic state).
    """
    scale = 1 / np.sqrt(capacity)
    rates, modes = np.linalg.eigh(matrix * scale[:, None] * scale[None, :])
    rates = np.maximum(rates, 1e-12)
    light, dark = np.exp(-rates * light_h * 3600), np.exp(-rates * (24 - light_h) * 3600)
    both = 1 - light * dark
    left, right = modes * scale[:, None], modes.T / scale[None, :]
    return (left * ((1 - light) / both)) @ right, (left * ((1 - dark) / both)) @ right
