"""The animal room's jobs: what is due when, and how it goes on once something was done, late or left out.

A job keeps to its calendar ("Monday, Wednesday, Friday") or is counted from when it was last done ("every sixty days").
Overdue jobs stand once, today, however many turns were missed.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, time, timedelta
from typing import Final, NamedTuple

from husbandry.upkeep.batching import share
from husbandry.upkeep.recur import EveryDays, Monthly, Once, Rule, Season, dates

NOTHING_MOVED: Final[dict[date, date]] = {}


@dataclass(frozen=True, slots=True)
class Job:
    """A job of one habitat.

    `key` names it in words, `detail` parts jobs alike ("0" for the first lamp). With `from_done` the next turn is counted from
    `last_done`; else that only tells what is overdue; a day on or before it is done with. `slack_days` may be moved either way
    to a room day. `times` are clock times, one occurrence each. `season` limits it to a part of the year, `until` (included)
    ends it.
    """

    key: str
    rule: Rule
    detail: str = ""
    from_done: bool = False
    last_done: date | None = None
    slack_days: int = 0
    times: tuple[time, ...] = ()
    season: Season | None = None
    until: date | None = None
    why: str = ""

    @property
    def id(self) -> str:
        return f"{self.key}/{self.detail}" if self.detail else self.key


class Due(NamedTuple):
    """A job on a day. `due` is the day its rule gave; earlier than `day` where it is late."""

    day: date
    id: str
    due: date
    at: time | None = None
    late: bool = False


class Run(NamedTuple):
    """A job's occurrences: the days it stands on, and the days its rule gave, one for one."""

    id: str
    days: tuple[date, ...]
    dues: tuple[date, ...]
    at: time | None = None
    late: bool = False

    def each(self) -> Iterator[Due]:
        """One by one."""
        for day, due_on in zip(self.days, self.dues, strict=True):
            yield Due(day, self.id, due_on, self.at, self.late)


def counted_from_done(job: Job) -> Rule:
    """Return the rule as it runs on: from the last time the job was done, where it is counted so."""
    if not job.from_done or job.last_done is None:
        return job.rule
    match job.rule:
        case EveryDays(days=days):
            return EveryDays(days, job.last_done + timedelta(days=days))
        case Monthly(months=months):
            return _months_on(months, job.last_done)
        case _:
            return job.rule


def _months_on(months: int, done: date) -> Monthly:
    following = dates(Monthly(months, done), done + timedelta(days=1), done + timedelta(days=32 * months + 1))
    return Monthly(months, following[0])


def due(
    job: Job, begin: date, end: date, *, today: date, weekdays: tuple[int, ...] = (), moves: dict[date, date] = NOTHING_MOVED
) -> list[Due]:
    """Return the job's occurrences from `begin` to `end` (excluded); what is overdue stands on `today`, once.

    Parameters
    ----------
    job
        The job.
    begin, end
        Days.
    today, weekdays, moves
        As for `feeds`.

    Returns
    -------
    Due in order.

    References
    ----------
    RFC 5545, RRULE, for the rhythm; the rest is common practice.
    """
    return [item for run in runs(job, begin, end, today=today, weekdays=weekdays, moves=moves) for item in run.each()]


def runs(
    job: Job, begin: date, end: date, *, today: date, weekdays: tuple[int, ...] = (), moves: dict[date, date] = NOTHING_MOVED
) -> list[Run]:
    """The same in runs: what needs no moving shares its days with every other job of the rhythm."""
    rule = counted_from_done(job)
    stop = end if job.until is None else min(end, job.until + timedelta(days=1))
    slack = timedelta(days=job.slack_days)
    found: list[Run] = []
    first = begin
    overdue = _overdue(job, rule, today)
    if overdue is not None and overdue not in moves and share([overdue], weekdays, job.slack_days)[0].day >= today:
        overdue = None  # its own day has passed, and the room's day it was set to has not
    if overdue is not None and moves.get(overdue, date.min) >= today:
        # What was set to a day to come is not overdue: it stands there, and the next is counted from when it is done.
        if begin <= moves[overdue] < stop:
            found.append(Run(job.id, (moves[overdue],), (overdue,)))
        first = max(first, moves[overdue] + timedelta(days=1))
    elif overdue is not None:
        if begin <= today < stop:
            found.append(Run(job.id, (today,), (overdue,), None, True))
        first = max(first, today + timedelta(days=1))
    after = job.last_done or date.min
    moving = bool(moves) or (bool(weekdays) and job.slack_days > 0)
    turns = dates(rule, begin - slack, stop + slack) if moving else dates(rule, max(first, after + timedelta(days=1)), stop)
    if job.season is not None:
        season = job.season
        turns = tuple(day for day in turns if season.holds(day))
    days = dues = turns
    if moving:
        placed = share([day for day in turns if day > after], weekdays, job.slack_days)
        moved = ((today if item.due >= today > item.day else item.day, item.due) for item in placed)
        kept = [(moves.get(day, day), due_on) for day, due_on in moved]
        kept = sorted(item for item in kept if first <= item[0] < stop)
        days, dues = tuple(day for day, _due in kept), tuple(due_on for _day, due_on in kept)
    if days:
        found += [Run(job.id, days, dues, at) for at in job.times or (None,)]
    return found


def _overdue(job: Job, rule: Rule, today: date) -> date | None:
    """The day a job fell due and was not done since; only for what is counted from when it was done, and dates set once."""
    if isinstance(rule, Once):
        missed = rule.on < today and (job.last_done is None or job.last_done < rule.on)
        return rule.on if missed else None
    if not job.from_done or job.last_done is None:
        return None
    first = dates(rule, job.last_done, today)
    return first[0] if first else None
