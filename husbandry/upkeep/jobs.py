"""The animal room's jobs: what is due when, and how it goes on once something was done, late or left out.

A job keeps to its calendar ("Monday, Wednesday, Friday") or is counted from when it was last done ("every sixty days").
Overdue jobs stand once, today, however many turns were missed.
"""

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
    """Return the job's occurrences from `begin` to `end` (excluded); what is overdue stands on `today`, once."""
    rule = counted_from_done(job)
    stop = end if job.until is None else min(end, job.until + timedelta(days=1))
    slack = timedelta(days=job.slack_days)
    turns = dates(rule, begin - slack, stop + slack)
    if job.season is not None:
        turns = [day for day in turns if job.season.holds(day)]
    found: list[Due] = []
    name = job.id
    overdue = _overdue(job, rule, today)
    if overdue is not None and begin <= today < stop:
        found.append(Due(today, name, overdue, None, True))
    if last_done := job.last_done:
        turns = [day for day in turns if day > last_done]
    after = today if overdue is not None else None
    if not moves and not job.times and (not weekdays or not job.slack_days):
        # Most jobs by far: nothing to move.
        found += [Due(day, name, day) for day in turns if begin <= day < stop and (after is None or day > after)]
        return found
    for placed in share(turns, weekdays, job.slack_days):
        day = today if placed.due >= today > placed.day else placed.day
        day = moves.get(day, day)
        if begin <= day < stop and (after is None or day > after):
            found += [Due(day, name, placed.due, at) for at in job.times or (None,)]
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
