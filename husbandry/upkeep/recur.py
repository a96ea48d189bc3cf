"""Rules of recurrence: pure functions from a rule to the days it falls on.

Every rule counts from its own start by whole steps, never from the occurrence before, so nothing drifts. Months are calendar
months, cut to the last day where a month is too short (31 January + 1 month is 28 or 29 February). The tests hold every
rule against `dateutil`.
"""

from calendar import monthrange
from dataclasses import dataclass
from datetime import date
from functools import lru_cache
from typing import Final, Literal

WHOLE_WEEK: Final = (0, 1, 2, 3, 4, 5, 6)
COMMON_YEAR: Final = 2023
LAST_MONTH: Final = 12 * date.max.year + 11  # counted from the year 0


@dataclass(frozen=True, slots=True)
class EveryDays:
    """Every so many days from `since` on."""

    days: int
    since: date
    kind: Literal["days"] = "days"


@dataclass(frozen=True, slots=True)
class Weekly:
    """On these weekdays (0 is Monday), in every n-th week counted from the week of `since`; never before `since`."""

    weekdays: tuple[int, ...]
    since: date
    every_weeks: int = 1
    kind: Literal["weekly"] = "weekly"


@dataclass(frozen=True, slots=True)
class Monthly:
    """Every so many calendar months after `since`, `since` itself included."""

    months: int
    since: date
    kind: Literal["monthly"] = "monthly"


@dataclass(frozen=True, slots=True)
class Once:
    """On one day."""

    on: date
    kind: Literal["once"] = "once"


Rule = EveryDays | Weekly | Monthly | Once


@dataclass(frozen=True, slots=True)
class Season:
    """A part of each year, first and last day as (month, day), both included; it may run over New Year."""

    first: tuple[int, int]
    last: tuple[int, int]

    @classmethod
    def of_months(cls, first: int, last: int) -> "Season":
        """From the first day of one month to the last of another; one that ends in February takes a 29th along."""
        return cls((first, 1), (last, monthrange(COMMON_YEAR, last)[1]))

    def holds(self, day: date) -> bool:
        """Tell whether a day lies in the season. 29 February belongs to a season that ends on the 28th."""
        now = (2, 28) if (day.month, day.day) == (2, 29) else (day.month, day.day)
        if self.first <= self.last:
            return self.first <= now <= self.last
        return now >= self.first or now <= self.last


def dates(rule: Rule, begin: date, end: date) -> tuple[date, ...]:
    """Return the days from `begin` (included) to `end` (excluded) on which the rule falls, in order.

    Raises ValueError for a rule that can never come round: fewer than one day, week or month, or no weekday.

    Parameters
    ----------
    rule
        The rhythm.
    begin, end
        Days.

    Returns
    -------
    Days in order.

    References
    ----------
    RFC 5545, RRULE; checked against python-dateutil in the tests.
    """
    if end <= begin:
        return ()
    match rule:
        case EveryDays():
            return _every_days(rule, begin, end)
        case Weekly():
            return _weekly(rule, begin, end)
        case Monthly():
            return _monthly(rule, begin, end)
        case Once():
            return (rule.on,) if begin <= rule.on < end else ()


def _every_days(rule: EveryDays, begin: date, end: date) -> tuple[date, ...]:
    if rule.days < 1:
        raise ValueError("a rule needs at least one day")
    since, first = rule.since.toordinal(), max(begin, rule.since).toordinal()
    return _steps(first + (since - first) % rule.days, rule.days, end.toordinal())


@lru_cache(maxsize=512)
def _steps(first: int, step: int, stop: int) -> tuple[date, ...]:
    """The same days for many animals are made once."""
    return tuple(map(date.fromordinal, range(first, stop, step)))


def _weekly(rule: Weekly, begin: date, end: date) -> tuple[date, ...]:
    if rule.every_weeks < 1 or not rule.weekdays or not set(rule.weekdays) <= set(WHOLE_WEEK):
        raise ValueError("a weekly rule needs weekdays 0 to 6, in every week or a number of weeks")
    monday = rule.since.toordinal() - rule.since.weekday()
    first, last = max(begin, rule.since).toordinal(), end.toordinal()
    week = monday + (first - monday) // (7 * rule.every_weeks) * 7 * rule.every_weeks
    found: list[int] = []
    for start in range(week, last, 7 * rule.every_weeks):
        found += [start + weekday for weekday in sorted(set(rule.weekdays)) if first <= start + weekday < last]
    return tuple(map(date.fromordinal, found))


def _monthly(rule: Monthly, begin: date, end: date) -> tuple[date, ...]:
    if rule.months < 1:
        raise ValueError("a rule needs at least one month")
    origin, most = _month(rule.since), min(_month(end), LAST_MONTH)
    step = max((_month(begin) - origin) // rule.months, 0)
    days = (_in_month(month, rule.since.day) for month in range(origin + step * rule.months, most + 1, rule.months))
    return tuple(day for day in days if begin <= day < end and day >= rule.since)


def _month(day: date) -> int:
    """Months since the year 0."""
    return 12 * day.year + day.month - 1


def _in_month(month: int, day: int) -> date:
    """The day of that number in a month, or its last."""
    year, number = divmod(month, 12)
    return date(year, number + 1, min(day, monthrange(year, number + 1)[1]))


def spread_over_week(times: int, allowed: tuple[int, ...] = WHOLE_WEEK) -> tuple[int, ...]:
    """Choose `times` weekdays among those allowed so that the longest gap round the week is as short as can be.

    Twice a week over all days is Monday and Thursday; three times Monday, Wednesday, Friday. Earlier days win among equals.
    More times than days allowed gives all of them; raises ValueError for none.

    Parameters
    ----------
    times
        How often a week.
    allowed
        Weekdays, 0 is Monday.

    Returns
    -------
    Weekdays in order.

    References
    ----------
    Exhaustive search over the week's days.
    """
    days = tuple(sorted(set(allowed)))
    if times < 1 or not days:
        raise ValueError("at least once, on at least one weekday")
    if times >= len(days):
        return days
    best: tuple[int, ...] = ()
    for chosen in _choices(days, times):
        if not best or _gaps(chosen) < _gaps(best):
            best = chosen
    return best


def _choices(days: tuple[int, ...], times: int) -> list[tuple[int, ...]]:
    if times == 0:
        return [()]
    return [(day, *rest) for place, day in enumerate(days) for rest in _choices(days[place + 1 :], times - 1)]


def _gaps(chosen: tuple[int, ...]) -> tuple[int, ...]:
    """The gaps round the week, longest first: the smaller, the more even."""
    return tuple(
        sorted(((later - day) % 7 or 7 for day, later in zip(chosen, (*chosen[1:], chosen[0]), strict=True)), reverse=True)
    )


@lru_cache(maxsize=256)
def shifts(allowed: tuple[int, ...], slack_days: int) -> tuple[int | None, ...]:
    """Return, by weekday, how many days to the nearest weekday allowed within the slack, back first; None where there is none.

    Parameters
    ----------
    allowed
        Weekdays, 0 is Monday.
    slack_days
        Days either way.

    Returns
    -------
    Days by weekday, None where there is none; length 7.

    References
    ----------
    No source outside.
    """
    order = sorted(range(-slack_days, slack_days + 1), key=lambda days: (abs(days), days))
    return tuple(next((days for days in order if (weekday + days) % 7 in allowed), None) for weekday in WHOLE_WEEK)
