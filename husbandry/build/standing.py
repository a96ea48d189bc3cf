"""How a build stands: what can be done now, what is held up by what was missed, and whether the animal may move in."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime, time, timedelta
from enum import StrEnum

from husbandry.build.graph import Graph, longest
from husbandry.build.kinds import ANIMAL_IN, TEST_RUN, waits
from husbandry.build.settings import BuildSettings


class Lock(StrEnum):
    """Why the animal may not move in yet."""

    UNDONE = "undone"
    CURING = "curing"
    UNTESTED = "untested"
    QUARANTINE = "quarantine"


@dataclass(frozen=True)
class Locked:
    """One reason: which step, until when it cures (None for what is not done), and whether it gives off what harms."""

    why: Lock
    key: str
    until: datetime | None = None
    fumes: bool = False


@dataclass(frozen=True)
class BuildStanding:
    """What is `open` (can be done now), what cures and until when, what keeps the animal out, and what each open step holds up.

    `slack_h` is what a step may wait before the move-in waits with it.
    """

    open: tuple[str, ...]
    curing: Mapping[str, datetime]
    locks: tuple[Locked, ...]
    holds: Mapping[str, tuple[str, ...]]
    slack_h: Mapping[str, float]

    @property
    def may_move_in(self) -> bool:
        return not self.locks


def standing(
    found: Graph, settings: BuildSettings, done: Mapping[str, datetime], now: datetime, *, test_passed: bool
) -> BuildStanding:
    """Return how a build stands.

    Parameters
    ----------
    found
        The steps and their order.
    settings
        What the keeper said of the build.
    done
        When the work of a step was done, by its key; local, without a zone.
    now
        The moment, local.
    test_passed
        Whether the readings of the test run passed and somebody signed for them.

    Returns
    -------
    BuildStanding. Only what was done counts, and only a wait that is over.

    References
    ----------
    Common practice, no source: nothing moves in before a cure.
    """
    curing, undone, locks = dict[str, datetime](), list[str](), list[Locked]()
    for step in found.steps:
        if step.key == ANIMAL_IN:
            continue
        if step.key not in done and not found.by_itself(step.key):
            undone.append(step.key)
            locks.append(Locked(Lock.UNDONE, step.key))
            continue
        begun = done.get(step.key, _by_itself(found, done, step.key))
        if begun is None:
            continue  # it begins when what is before it is done, and that is locked itself
        over = begun + timedelta(hours=step.wait_h)
        if over > now:
            curing[step.key] = over
            fumes = step.wait in waits() and waits()[step.wait].fumes
            locks.append(Locked(Lock.CURING, step.key, over, fumes))
    if any(step.key == TEST_RUN for step in found.steps) and not test_passed:
        locks.append(Locked(Lock.UNTESTED, TEST_RUN))
    quarantined = settings.quarantine_until is not None and now.date() < settings.quarantine_until
    if quarantined and settings.quarantine_until is not None:
        locks.append(Locked(Lock.QUARANTINE, "quarantine", datetime.combine(settings.quarantine_until, time())))
    open_now = tuple(
        key
        for key in undone
        if all(_is_over(found, done, before, now) for before in found.before[key])
        and not (quarantined and found[key].kind == "quarantine")
    )
    left = {key for key in found.before if key not in done or key in curing}
    slack = _slack_h(found, settings, done, now)
    holds = {key: tuple(other for other in found.all_after(key) if other in left) for key in open_now}
    return BuildStanding(open_now, curing, tuple(locks), holds, slack)


def _slack_h(found: Graph, settings: BuildSettings, done: Mapping[str, datetime], now: datetime) -> Mapping[str, float]:
    """What each step may wait before the move-in waits with it, from now on: what is done takes what it still cures."""
    takes = dict[str, float]()
    for step in found.steps:
        begun = done.get(step.key) or (_by_itself(found, done, step.key) if found.by_itself(step.key) else None)
        if begun is not None:
            takes[step.key] = max(0.0, step.wait_h - (now - begun).total_seconds() / 3600)
    first = dict[str, float]()
    if settings.quarantine_until is not None:
        left = datetime.combine(settings.quarantine_until, time()) - now
        first = {step.key: left.total_seconds() / 3600 for step in found.steps if step.kind == "quarantine"}
    return longest(found, takes, first).slack_h


def _by_itself(found: Graph, done: Mapping[str, datetime], key: str) -> datetime | None:
    """When a step that takes no hand began: when the last of those before it was over; None where one is not done."""
    ends = []
    for before in found.before[key]:
        begun = done.get(before)
        if begun is None and found.by_itself(before):
            begun = _by_itself(found, done, before)
        if begun is None:
            return None
        ends.append(begun + timedelta(hours=found[before].wait_h))
    return max(ends, default=None)


def _is_over(found: Graph, done: Mapping[str, datetime], key: str, now: datetime) -> bool:
    step = found[key]
    begun = done.get(key) if key in done or not found.by_itself(key) else _by_itself(found, done, key)
    return begun is not None and begun + timedelta(hours=step.wait_h) <= now
