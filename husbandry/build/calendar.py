"""A build on the keeper's own days: hand work within their hours, one thing at a time, while what cures goes on by itself.

Of what can be done next the step with the longest way to the end behind it is taken first (list scheduling by critical path; a
heuristic: Kelley 1963, Industrial Scheduling; recalled).
"""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from typing import Final

from husbandry.build.graph import Graph
from husbandry.build.kinds import ANIMAL_IN
from husbandry.build.settings import BuildSettings

LOOK_AHEAD_DAYS: Final = 3 * 366
MOMENT: Final = timedelta(seconds=1)


@dataclass(frozen=True)
class Planned:
    """When a step is worked at, from `begins` to `worked`, and when its wait is over; `done` where it was done by now.

    What takes no hand is done when its wait is over.
    """

    key: str
    begins: datetime
    worked: datetime
    over: datetime
    done: bool = False


@dataclass(frozen=True)
class Timetable:
    """Every step's time in the order of their beginning, the moment the animal moves in, and the steps that decide that."""

    planned: tuple[Planned, ...]
    moves_in: datetime
    deciding: tuple[str, ...]

    def __getitem__(self, key: str) -> Planned:
        return next(one for one in self.planned if one.key == key)

    def beside(self, key: str) -> tuple[str, ...]:
        """What is worked at while a step cures by itself."""
        own = self[key]
        return tuple(
            one.key for one in self.planned if one.key != key and one.worked > one.begins and own.worked <= one.begins < own.over
        )


def timetable(found: Graph, settings: BuildSettings, now: datetime, done: Mapping[str, datetime] | None = None) -> Timetable:
    """Return when each step of a build can be done.

    Parameters
    ----------
    found
        The steps and their order.
    settings
        The keeper's days and hours.
    now
        Nothing that is not done begins before that; local, without a zone.
    done
        When the work of a step was done, by its key.

    Returns
    -------
    Timetable. What is done keeps its time; a wait runs from it.

    References
    ----------
    List scheduling by the longest way to the end (recalled).
    """
    told = done or {}
    tail = _tails(found)
    over: dict[str, datetime] = {}
    planned: dict[str, Planned] = {}
    for step in found.steps:
        if step.key in told:
            at = told[step.key]
            over[step.key] = at + timedelta(hours=step.wait_h)
            planned[step.key] = Planned(step.key, at - timedelta(minutes=step.minutes), at, over[step.key], done=True)
    happened = set(planned)  # what is no plan any more: done, or begun by itself after what was done
    hand = now
    left = [step for step in found.steps if step.key not in told]
    while left:
        open_steps = [step for step in left if all(key in over for key in found.before[step.key])]
        ready = {step.key: _ready(found, over, step.key, now, settings) for step in open_steps}
        # What takes no hand begins by itself.
        free = next((step for step in open_steps if step.minutes == 0), None)
        if free is not None:
            begins = worked = ready[free.key]
            if found.by_itself(free.key) and found.before[free.key] <= happened:
                begins = worked = max(over[key] for key in found.before[free.key])
                happened.add(free.key)
            step = free
        else:
            first, end = _next_slot(min(max(hand, at) for at in ready.values()), settings)
            able = [step for step in open_steps if ready[step.key] <= first]
            fitting = [step for step in able if first + timedelta(minutes=step.minutes) <= end + MOMENT]
            step = max(fitting or able or open_steps, key=lambda one: (tail[one.key], -found.steps.index(one)))
            begins, worked = _at_work(max(first, ready[step.key]), step.minutes, settings)
            hand = worked
        over[step.key] = worked + timedelta(hours=step.wait_h)
        planned[step.key] = Planned(step.key, begins, worked, over[step.key], step.key in happened and over[step.key] <= now)
        left.remove(step)
    rows = tuple(sorted(planned.values(), key=lambda one: (one.begins, found.steps.index(found[one.key]))))
    return Timetable(rows, planned[ANIMAL_IN].begins, _deciding(found, planned))


def _ready(found: Graph, over: Mapping[str, datetime], key: str, now: datetime, settings: BuildSettings) -> datetime:
    at = max([now, *(over[other] for other in found.before[key])])
    if found[key].kind == "quarantine" and settings.quarantine_until is not None:
        return max(at, datetime.combine(settings.quarantine_until, time()))
    return at


def _tails(found: Graph) -> dict[str, float]:
    """The longest way from the begin of each step to the end, h."""
    tail: dict[str, float] = {}
    for step in reversed(found.steps):
        tail[step.key] = step.hours + max((tail[key] for key in found.after(step.key)), default=0.0)
    return tail


def _next_slot(at: datetime, settings: BuildSettings) -> tuple[datetime, datetime]:
    """The first stretch of the keeper's time that is not over at a moment: from that moment on, or from its begin."""
    day = at.date()
    for turn in range(-1, LOOK_AHEAD_DAYS):
        begin, end = _slot(day + timedelta(days=turn), settings)
        if begin is not None and end > at:
            return max(begin, at), end
    raise AssertionError("a week has a day of work")


def _slot(day: date, settings: BuildSettings) -> tuple[datetime | None, datetime]:
    begin = datetime.combine(day, settings.from_clock)
    end = begin + timedelta(minutes=settings.minutes_a_day)
    return (begin if day.weekday() in settings.weekdays else None), end


def _at_work(at: datetime, minutes: float, settings: BuildSettings) -> tuple[datetime, datetime]:
    """When so many minutes of work begin and end: within one day where a day holds them, else gone on with on the next."""
    begins, end = _next_slot(at, settings)
    if minutes <= settings.minutes_a_day and begins + timedelta(minutes=minutes) > end + MOMENT:
        begins, end = _next_slot(end, settings)
    here, left = begins, timedelta(minutes=minutes)
    while here + left > end + MOMENT:
        left -= end - here
        here, end = _next_slot(end, settings)
    return begins, here + left


def _deciding(found: Graph, planned: Mapping[str, Planned]) -> tuple[str, ...]:
    """The steps that decide when the animal moves in, from the last that is not done back: each the one that is over last."""
    way = [ANIMAL_IN]
    while True:
        before = [
            planned[key]
            for key in found.before[way[-1]]
            if not planned[key].done or planned[key].over > planned[way[-1]].begins - MOMENT
        ]
        if not before:
            return tuple(reversed(way))
        way.append(max(before, key=lambda one: (one.over, one.key)).key)
