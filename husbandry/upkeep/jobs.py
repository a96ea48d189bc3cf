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
    `last_done`; else that only tells what is overdue. `slack_days` may be moved either way to a room day. `times` are
    clock times, one occurrence each. `season` limits it to a part of the year. `until` (included) ends it.
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
    overdue = _overdue(job, rule, today)
    if overdue is not None and begin <= today < stop:
        found.append(Due(today, job.id, overdue, None, True))
    for placed in share(turns, weekdays, job.slack_days):
        day = moves.get(placed.day, placed.day)
        if not begin <= day < stop or (overdue is not None and day <= today):
            continue
        if job.times:
            found += [Due(day, job.id, placed.due, at) for at in job.times]
        else:
            found.append(Due(day, job.id, placed.due))
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
