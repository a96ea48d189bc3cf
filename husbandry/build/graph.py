"""The steps of a build as a graph: what comes before what, the longest way through it, and how long each may wait.

The critical path method: the earliest end of a step is the latest of those before it, plus its own time; what it may wait is what
is left of the longest way to the end (Kelley and Walker 1959, Critical-path planning and scheduling; recalled).
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from husbandry.build.kinds import ANIMAL_IN, steps
from husbandry.build.settings import BuildSettings
from husbandry.build.work import Step, work
from husbandry.errors import HusbandryError
from husbandry.plan.habitat import HabitatPlan


class CircleError(HusbandryError, ValueError):
    """Steps that each come after the other; `names` in the order of the circle."""

    def __init__(self, names: tuple[str, ...]) -> None:
        super().__init__(" → ".join(names))
        self.names = names


@dataclass(frozen=True)
class Graph:
    """Steps in an order in which they can be done, and for each the keys of those right before it."""

    steps: tuple[Step, ...]
    before: Mapping[str, frozenset[str]]

    def __getitem__(self, key: str) -> Step:
        return next(step for step in self.steps if step.key == key)

    def after(self, key: str) -> tuple[str, ...]:
        """The keys of those right after a step, in order."""
        return tuple(step.key for step in self.steps if key in self.before[step.key])

    def by_itself(self, key: str) -> bool:
        """Tell whether a step takes no hand and begins when those before it are over; with none before it somebody begins it."""
        return self[key].minutes == 0 and bool(self.before[key])

    def all_after(self, key: str) -> tuple[str, ...]:
        """The keys of all that a step holds up, in order."""
        held = {key}
        for step in self.steps:
            if self.before[step.key] & held:
                held.add(step.key)
        return tuple(step.key for step in self.steps if step.key in held and step.key != key)

    def without(self, keys: set[str]) -> "Graph":
        """The same without some steps: what came after one of them comes after what was before it."""
        before = {step.key: set(self.before[step.key]) for step in self.steps}
        for step in self.steps:  # in order: what is passed on has been resolved
            for gone in before[step.key] & keys:
                before[step.key] |= before[gone]
            before[step.key] -= keys
        left = tuple(step for step in self.steps if step.key not in keys)
        return Graph(left, {step.key: frozenset(before[step.key]) for step in left})


def graph(plan: HabitatPlan, settings: BuildSettings) -> Graph:
    """Return the steps of a build and what comes before what.

    Parameters
    ----------
    plan, settings
        What is built, and how.

    Returns
    -------
    Graph; its last step is the animal's moving in, and everything else comes before that.

    Raises
    ------
    CircleError
        The keeper's own steps come after one another in a circle.

    References
    ----------
    data/steps.toml; common practice, no source.
    """
    there = [*work(plan, settings), *_own(settings)]
    by_kind: dict[str, list[str]] = {}
    for step in there:
        by_kind.setdefault(step.kind, []).append(step.key)
    before = {step.key: set[str]() for step in there}
    for step in there:
        if step.own:
            continue
        alike = by_kind[step.kind]
        place = alike.index(step.key)
        if place:
            before[step.key].add(alike[place - 1])  # one coat after the other
        else:
            before[step.key] |= {by_kind[kind][-1] for kind in _kinds_before(step.kind, by_kind)}
    for own in settings.own:
        for kind in own.after:
            before[own.name] |= set(by_kind.get(kind, ())[-1:])
        for kind in own.before:
            for key in by_kind.get(kind, ())[:1]:
                before[key].add(own.name)
    for step in there:
        if step.key != ANIMAL_IN:
            before[ANIMAL_IN].add(step.key)
    ordered = _ordered(there, before)
    return Graph(ordered, _reduced(ordered, before))


def _own(settings: BuildSettings) -> list[Step]:
    return [Step(one.name, one.name, one.minutes, "", one.wait_h, own=True) for one in settings.own]


def _kinds_before(kind: str, there: Mapping[str, list[str]]) -> set[str]:
    """The kinds right before one; in place of those that this build has not, what comes before them."""
    found: set[str] = set()
    seen: set[str] = set()
    waiting = list(steps()[kind].after)
    while waiting:
        one = waiting.pop()
        if one in seen:
            continue
        seen.add(one)
        if one in there:
            found.add(one)
        else:
            waiting += steps()[one].after
    return found


def _ordered(there: Sequence[Step], before: Mapping[str, set[str]]) -> tuple[Step, ...]:
    """An order in which they can be done, as near to the given one as there is. Raises CircleError."""
    left, done, found = list(there), set[str](), list[Step]()
    while left:
        step = next((one for one in left if before[one.key] <= done), None)
        if step is None:
            raise CircleError(_circle(left, before))
        left.remove(step)
        done.add(step.key)
        found.append(step)
    return tuple(found)


def _circle(left: Sequence[Step], before: Mapping[str, set[str]]) -> tuple[str, ...]:
    keys = {step.key for step in left}
    way = [left[0].key]
    while True:
        following = sorted(before[way[-1]] & keys)[0]
        if following in way:
            return tuple(reversed([*way[way.index(following) :], following]))
        way.append(following)


def _reduced(ordered: Sequence[Step], before: Mapping[str, set[str]]) -> dict[str, frozenset[str]]:
    """Only those right before a step: not those that come before them anyway."""
    every: dict[str, set[str]] = {}
    for step in ordered:
        every[step.key] = set(before[step.key]).union(*(every[key] for key in before[step.key]))
    return {
        step.key: frozenset(key for key in before[step.key] if not any(key in every[other] for other in before[step.key]))
        for step in ordered
    }


@dataclass(frozen=True)
class CriticalPath:
    """The longest way: hours from the first hand to the animal, the keys along it, and what each step may wait (h).

    `starts_h` is the earliest begin of each, as if there were always time.
    """

    hours: float
    critical: tuple[str, ...]
    slack_h: Mapping[str, float]
    starts_h: Mapping[str, float]


def longest(
    found: Graph, hours: Mapping[str, float] | None = None, not_before_h: Mapping[str, float] | None = None
) -> CriticalPath:
    """Return the critical path of a build.

    Parameters
    ----------
    found
        The graph.
    hours
        What each step still takes, by its key; what is not named takes its own hours.
    not_before_h
        From when on a step can begin at all, h from now.

    Returns
    -------
    CriticalPath, in h: hands are taken to be there at every hour.

    References
    ----------
    Kelley and Walker 1959 (recalled).
    """
    takes = {step.key: step.hours for step in found.steps} | dict(hours or {})
    ends: dict[str, float] = {}
    starts: dict[str, float] = {}
    for step in found.steps:
        first = (not_before_h or {}).get(step.key, 0.0)
        starts[step.key] = max([first, *(ends[key] for key in found.before[step.key])])
        ends[step.key] = starts[step.key] + takes[step.key]
    whole = max(ends.values())
    latest = dict.fromkeys(ends, whole)
    for step in reversed(found.steps):
        for key in found.before[step.key]:
            latest[key] = min(latest[key], latest[step.key] - takes[step.key])
    slack = {key: latest[key] - end for key, end in ends.items()}
    way = [found.steps[-1].key]
    while found.before[way[-1]]:
        way.append(max(sorted(found.before[way[-1]]), key=lambda key: ends[key]))
    return CriticalPath(whole, tuple(reversed(way)), slack, starts)
