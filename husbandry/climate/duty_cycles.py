"""The phases of a day coupled by what stores heat, and the duty cycles at which every thermostat is at rest.

The duty cycles solve a box-constrained complementarity problem: each probe reads its set point, or its heater stands at a bound and
the reading lies on the side that keeps it there. The derivation is in docs/models.md.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final, NamedTuple

import numpy as np
from numpy.typing import NDArray

from husbandry.climate.compiled import compiled
from husbandry.climate.phases import PeriodicModes

Floats = NDArray[np.float64]
Duties = Floats  # (phases, b, heaters)

TURNS: Final = 12  # at most, of thermostats that disturb one another, between the phases
SWEEPS: Final = 3
AGREED: Final = 0.002
LEAST_GAIN_K: Final = 1e-6  # of a heater on its own probe: one that warms it by less does nothing there
WARMING_UP_H: Final = 3.0  # after it came on, in which a held heater may still lift what is slow (estimate)
SWIFT_H: Final = 0.5  # what takes less than this stands still where a thermostat holds (estimate)


@dataclass(frozen=True)
class Coupled:
    """The P phases of the day as they pull at one another, for every batch element: the temperatures without heat (P, b, n),
    the rises (P, b, n, heaters), limits and wishes (P, b, heaters).

    `modes` are those of each season; a season's batch elements stand together. `rows` (heaters, n) are what the probes read.
    """

    rows: Floats
    held: list[int]
    direct: Floats
    base: Floats
    rise: Floats
    most: Duties
    wanted: Floats
    modes: PeriodicModes

    def _of_seasons(self, values: Floats) -> Floats:
        """Values (P, b, …) as (P, seasons, each, …): a season's batch elements stand together and share its modes."""
        seasons = len(self.modes.rates)
        return values.reshape(len(values), seasons, values.shape[1] // seasons, *values.shape[2:])

    def steady(self, duties: Duties) -> Floats:
        """The steady state (P, b, n) that each phase goes towards."""
        return self.base + (self.rise @ duties[..., None])[..., 0]

    def ends(self, duties: Duties) -> Floats:
        """Temperatures (P, b, n) at the end of every phase."""
        modal = self._of_seasons(self.steady(duties)) @ self.modes.right.transpose(0, 2, 1)
        reached = np.einsum("saom,osem->asem", self.modes.ends, modal)
        return np.asarray((reached @ self.modes.left.transpose(0, 2, 1)).reshape(self.base.shape))

    def read(self, functionals: Floats) -> "Readings":
        """What rows over the steady states of the phases (P, seasons, k, n) read, as straight lines in all duties."""
        still = (self._of_seasons(self.base) @ functionals.transpose(0, 1, 3, 2)).sum(axis=0)
        gains = functionals[:, :, None] @ self._of_seasons(self.rise)
        batch = self.base.shape[1]
        return Readings(still.reshape(batch, -1), gains.reshape(len(gains), batch, *gains.shape[3:]))

    def probes(self) -> "Readings":
        """What every heater's own probe reads at the end of every phase: (P, b, heaters) and, by the phase of the heat,
        (P, P, b, heaters, heaters).
        """
        modes, plain = self.modes, np.ascontiguousarray
        day = _Day(plain(self.rows), plain(modes.left), plain(modes.right), plain(modes.ends), plain(self.direct))
        return Readings(*_probes(day, plain(self.base), plain(self.rise)))

    def at_rest(self, duties: Duties, hours: Sequence[float]) -> Floats:
        """Temperatures (P, b, n) at the end of every phase, with what is swift at rest under thermostats that hold.

        A phase's duty is its mean: where it holds the hours in which a heater lifts stone and ground, more than is given at its
        end. What is slow stays as it was found; the duties that hold the probes then, and what is swift, are found anew.
        """
        modes = self.modes
        kept = np.exp(-SWIFT_H * modes.rates)[:, None]  # (seasons, 1, m)
        right = modes.right.transpose(0, 2, 1)
        found = np.einsum("saom,osem->asem", modes.ends, self._of_seasons(self.steady(duties)) @ right)
        into = self.rows @ modes.left
        still = (kept * found + (1 - kept) * (self._of_seasons(self.base) @ right)) @ into.transpose(0, 2, 1)
        own = ((1 - kept) * into @ modes.right)[:, None] @ self._of_seasons(self.rise)  # (P, seasons, each, k, heaters)
        count, batch, places = len(duties), *self.wanted.shape[1:]
        gains, phases, at = np.zeros((count, count, batch, places, places)), np.arange(count), np.arange(places)
        gains[phases, phases] = own.reshape(count, batch, places, places)
        gains[phases[:, None], phases[:, None], :, at, at] += self.direct[None, :, None]
        held = solve_duties(Readings(still.reshape(count, batch, places), gains), self.most, self.wanted, self.held, duties)
        held = warmed_up(held, self.most, self.wanted, hours, self.held)
        rested = kept * found + (1 - kept) * (self._of_seasons(self.steady(held)) @ right)
        return np.asarray((rested @ modes.left.transpose(0, 2, 1)).reshape(self.base.shape))

    def duties(self, first: Duties, turns: int = TURNS) -> Duties:
        """Mean duties (P, b, heaters) at which every probe reads what is wanted, or the heater's limit."""
        return solve_duties(self.probes(), self.most, self.wanted, self.held, first, turns) if self.held else self.most


@dataclass(frozen=True)
class Readings:
    """`still` (…, b, k) in °C without heat; `gains` (…, P, b, k, heaters) in K per unit of duty, by the phase of the heat."""

    still: Floats
    gains: Floats

    def at(self, duties: Duties) -> Floats:
        """°C (b, k) at the duties (P, b, heaters) of all phases."""
        return np.asarray(self.still + (self.gains @ duties[..., None])[..., 0].sum(axis=-3))


def solve_duties(probes: Readings, most: Duties, wanted: Floats, held: list[int], first: Duties, turns: int = TURNS) -> Duties:
    """Find the duty cycles at which every thermostat is at rest: a box-constrained complementarity problem.

    Parameters
    ----------
    probes
        What the probes read at the end of each of the day's P phases, as straight lines in the duties: without heat (P, b, k)
        and per unit of duty (P, P, b, k, heaters).
    most, wanted
        The duties' upper bounds and the set points, (P, b, heaters).
    held
        The heaters on thermostats.
    first
        Where to begin.
    turns
        At most so many through the phases.

    Returns
    -------
    Duties (P, b, heaters): each probe reads what is wanted, or its heater stands at a bound. Projected Gauss–Seidel; the
    derivation is in docs/models.md.

    References
    ----------
    Cottle, Pang and Stone 1992, The Linear Complementarity Problem, chapters 3 and 5 (docs/models.md [5]; recalled).
    """
    plain = np.ascontiguousarray
    given = _Asked(plain(probes.still), plain(probes.gains), plain(most), plain(wanted), np.array(held, np.int64))
    return _solved(given, plain(first), turns)


def runs(most: Duties, wanted: Floats, held: list[int]) -> list[tuple[int, list[int]]]:
    """Return every held heater with the phases, in order, that it works through to one set point; runs of one phase are left out.

    Parameters
    ----------
    most, wanted
        The duties' upper bounds and the set points, (P, b, heaters); alike over the batch but for what is uncertain.
    held
        The heaters on thermostats.

    Returns
    -------
    Heaters and their phases.

    References
    ----------
    No source outside.
    """
    found, count = [], len(most)
    for index in held:
        works, sets = most[:, 0, index] > 0, wanted[:, 0, index]
        joined = [bool(works[at] and works[at - 1] and sets[at] == sets[at - 1]) for at in range(count)]  # with the one before
        for begin in (at for at in range(count) if works[at] and not joined[at]):
            run = [begin]
            while joined[(run[-1] + 1) % count]:
                run.append((run[-1] + 1) % count)
            if len(run) > 1:
                found.append((index, run))
    return found


def warmed_up(duties: Duties, most: Duties, wanted: Floats, hours: Sequence[float], held: list[int]) -> Duties:
    """Take from the duties what a thermostat's heater gives only because it has just come on.

    Where timers or the sun part the first hours of a heater from those that follow, it works flat out in them until stone and
    ground are warm; a day that nothing parts hides that in its mean. So that a little sun does not decide what is seen, a heater
    counts in its first hours with no more than it needs in those that follow.

    Parameters
    ----------
    duties, most, wanted
        Duty cycles, their upper bounds and the set points, (P, b, heaters).
    hours
        The phases' hours, in order round the day.
    held
        The heaters on thermostats.

    Returns
    -------
    Duties (P, b, heaters), nowhere more than those given.

    References
    ----------
    An estimate: WARMING_UP_H.
    """
    found = duties.copy()
    for index, run in runs(most, wanted, held):
        since = 0.0
        for place, at in enumerate(run[:-1]):
            since += hours[at]
            if since < WARMING_UP_H:
                found[at, :, index] = np.minimum(found[at, :, index], duties[run[place + 1 :], :, index].max(axis=0))
    return found


class _Day(NamedTuple):
    """What the probes read of a day in modes, as `Coupled` has it: `rows` (k, n) over the nodes, `left` and `right` of shape
    (seasons, n, n), `ends` (seasons, P, P, n), and the K that each is warmed by its own heater, `direct` (k,).
    """

    rows: Floats
    left: Floats
    right: Floats
    ends: Floats
    direct: Floats


@compiled
def _at_ends(day: _Day, season: int, end: int, of: int, place: int, row: Floats) -> None:
    """Write into `row` (n,) what a probe reads at the end of a phase of each node's steady state in the phase `of`."""
    nodes = len(row)
    row[:] = 0.0
    for mode in range(nodes):
        weight = 0.0
        for node in range(nodes):
            weight += day.rows[place, node] * day.left[season, node, mode]
        weight *= day.ends[season, end, of, mode]
        for node in range(nodes):
            row[node] += weight * day.right[season, mode, node]


@compiled
def _probes(day: _Day, base: Floats, rise: Floats) -> tuple[Floats, Floats]:
    """The readings of `Coupled.probes` from temperatures (P, b, n) and rises (P, b, n, heaters)."""
    count, batch, nodes, sources = rise.shape
    places, each = len(day.rows), batch // len(day.left)
    still, gains = np.zeros((count, batch, places)), np.zeros((count, count, batch, places, sources))
    row = np.empty(nodes)
    for end in range(count):
        for of in range(count):
            for place in range(places):
                for b in range(batch):
                    if b % each == 0:
                        _at_ends(day, b // each, end, of, place, row)
                    for node in range(nodes):
                        still[end, b, place] += row[node] * base[of, b, node]
                        for source in range(sources):
                            gains[end, of, b, place, source] += row[node] * rise[of, b, node, source]
                    if end == of:
                        gains[end, of, b, place, place] += day.direct[place]
    return still, gains


class _Asked(NamedTuple):
    """What `solve_duties` is given; the held heaters as whole numbers (held,)."""

    still: Floats
    gains: Floats
    most: Duties
    wanted: Floats
    held: NDArray[np.int64]


class _Problem(NamedTuple):
    """The complementarity problem of all phases; heaters first, the batch last, so that every step is one long row.

    `lacking` (P, k, b) in K without the held heaters; `gains` (P, P, k, k, b) in K per unit of duty, by the phase of the heat; the
    bounds `limit` and the heaters' own gains (P, k, b); `working` (P, k) where a heater's timer is on: elsewhere nothing is found.
    """

    lacking: Floats
    gains: Floats
    limit: Floats
    diagonal: Floats
    working: NDArray[np.bool_]


@compiled
def _sweep(problem: _Problem, found: Floats, phase: int) -> float:
    """Let each heater of a phase in turn make up what its probe misses, within its bounds; return the largest change of a duty.

    `found` are the duties (P, k, b) of every phase; those that do not work are nought.
    """
    count, heaters, batch = found.shape
    missing = problem.lacking[phase].copy()
    for other in range(count):
        for index in range(heaters):
            for more in range(heaters):
                if other != phase and problem.working[other, more]:
                    for b in range(batch):
                        missing[index, b] -= problem.gains[phase, other, index, more, b] * found[other, more, b]
    at_work, moved = problem.working[phase].sum(), 0.0
    before = found[phase].copy()
    for _turn in range(1 if at_work == 1 else SWEEPS):
        for index in range(heaters):
            if problem.working[phase, index]:
                for b in range(batch):
                    left = missing[index, b]
                    for more in range(heaters):
                        if more != index and problem.working[phase, more]:
                            left -= problem.gains[phase, phase, index, more, b] * found[phase, more, b]
                    duty = left / problem.diagonal[phase, index, b]
                    found[phase, index, b] = min(max(duty, 0.0), problem.limit[phase, index, b])
    for index in range(heaters):
        for b in range(batch):
            moved = max(moved, abs(found[phase, index, b] - before[index, b]))
    return moved


@compiled
def _settle(problem: _Problem, found: Floats, turns: int) -> None:
    """Go through the phases at most so often, until no duty moves any more."""
    alone = problem.working.sum() == 1
    for _turn in range(turns):
        moved = 0.0
        for phase in range(len(found)):
            if problem.working[phase].any():
                moved = max(moved, _sweep(problem, found, phase))
        if moved < AGREED or alone:
            break


@compiled
def _stated(given: _Asked) -> _Problem:
    """State the problem of all phases; `most` are the bounds in every phase."""
    count, batch, heaters = given.most.shape
    held = given.held
    idle = np.ones(heaters, np.bool_)
    idle[held] = False
    shape = (count, len(held), batch)
    lacking, limit, diagonal = np.empty(shape), np.empty(shape), np.empty(shape)
    gains, working = np.empty((count, count, len(held), len(held), batch)), np.zeros((count, len(held)), np.bool_)
    for phase in range(count):
        for index in range(len(held)):
            heater = held[index]
            for b in range(batch):
                free = given.still[phase, b, heater]
                for of in range(count):
                    for other in range(heaters):
                        if idle[other]:
                            free += given.gains[phase, of, b, heater, other] * given.most[of, b, other]
                    for more in range(len(held)):
                        gains[phase, of, index, more, b] = given.gains[phase, of, b, heater, held[more]]
                own = gains[phase, phase, index, index, b]
                lacking[phase, index, b] = given.wanted[phase, b, heater] - free
                diagonal[phase, index, b] = own if abs(own) >= LEAST_GAIN_K else LEAST_GAIN_K
                limit[phase, index, b] = given.most[phase, b, heater]
                working[phase, index] |= limit[phase, index, b] != 0.0
    return _Problem(lacking, gains, limit, diagonal, working)


@compiled
def _solved(given: _Asked, first: Duties, turns: int) -> Duties:
    """The duties (P, b, heaters) of `solve_duties`."""
    problem, whole = _stated(given), given.most.copy()
    found = np.zeros_like(problem.limit)
    count, held, batch = problem.limit.shape
    for phase in range(count):
        for index in range(held):
            for b in range(batch):
                if problem.working[phase, index]:
                    found[phase, index, b] = first[phase, b, given.held[index]]
    _settle(problem, found, turns)
    for phase in range(count):
        for index in range(held):
            for b in range(batch):
                whole[phase, b, given.held[index]] = found[phase, index, b]
    return whole
