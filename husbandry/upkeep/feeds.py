"""The dates of feeds: by interval, counted from the last meal offered, outside fasts, on room days where the gaps allow."""

from dataclasses import dataclass
from datetime import date, timedelta
from itertools import pairwise
from math import ceil
from typing import Final, NamedTuple

from husbandry.upkeep.batching import share, slack_of
from husbandry.upkeep.recur import EveryDays, Weekly, dates

NOTHING_MOVED: Final[dict[date, date]] = {}


@dataclass(frozen=True, slots=True)
class FastDays:
    """Days without food, first and last included, with the code of the reason."""

    first: date
    last: date
    why: str

    def holds(self, day: date) -> bool:
        return self.first <= day <= self.last


@dataclass(frozen=True, slots=True)
class FeedRule:
    """Feeds every `interval_days` from `starts`, or from the last meal offered once there is one.

    With `weekdays` (0 is Monday) they are on those, in every n-th week counted from the week of `starts`; `interval_days` is
    then the mean gap in whole days.
    """

    interval_days: int
    starts: date
    last_offered: date | None = None
    fasts: tuple[FastDays, ...] = ()
    weekdays: tuple[int, ...] = ()
    every_weeks: int = 1

    @property
    def mean_days(self) -> float:
        """The gap in the long run."""
        return mean_gap(self.weekdays, self.every_weeks) if self.weekdays else float(self.interval_days)

    @property
    def gaps_days(self) -> tuple[int, ...]:
        """The gaps the rule itself makes."""
        days = sorted(set(self.weekdays))
        whole = (*days, days[0] + 7 * self.every_weeks) if days else ()
        return tuple(later - day for day, later in pairwise(whole)) or (self.interval_days,)

    @property
    def least_days(self) -> int:
        """How near to a meal the next may come on weekdays: half the mean gap, or the smallest that was chosen."""
        return min(ceil(self.mean_days / 2), *self.gaps_days)

    @property
    def slack_days(self) -> int:
        """How far a feed may move to a day of the room: not at all from a weekday that was chosen."""
        return 0 if self.weekdays else slack_of(self.interval_days)


def mean_gap(weekdays: tuple[int, ...], every_weeks: int = 1) -> float:
    """The mean days between feeds on weekdays."""
    return 7 * every_weeks / len(set(weekdays))


class Feed(NamedTuple):
    """One feed to come. `due` is where the interval put it: before `day` where it is late, or where a room day is near."""

    day: date
    due: date
    late: bool = False
    moved: bool = False


def feeds(
    rule: FeedRule,
    begin: date,
    end: date,
    *,
    today: date | None = None,
    weekdays: tuple[int, ...] = (),
    moves: dict[date, date] = NOTHING_MOVED,
) -> list[Feed]:
    """Return the feeds from `begin` to `end` (excluded), in order.

    Without a meal on record the days are counted from `starts`, also in the past. Once meals are written down the next is
    counted from the last one offered; where that day has passed unrecorded, one feed is late today and the next is counted
    from it: what was missed is not made up. A feed that falls into a fast comes the day after it, and the count goes on
    from there; on chosen weekdays it is left out, and so is a weekday too near to the last meal. `moves`
    are single feeds the keeper set to another day, by the day they were planned for.

    Parameters
    ----------
    rule
        How the feeds are counted.
    begin, end
        Days.
    today, weekdays, moves
        The keeper's day, the room's weekdays (0 is Monday) and single feeds that were moved.

    Returns
    -------
    Feeds in order.

    References
    ----------
    Common practice, no source.
    """
    slack = rule.slack_days
    late: date | None = None
    first = rule.starts
    if rule.last_offered is not None:
        first = _after(rule, rule.last_offered)
        if today is not None and first < today and not any(fast.holds(today) for fast in rule.fasts):
            planned = share([first], weekdays, slack)[0].day
            moved_to = moves.get(planned, moves.get(first))
            if moved_to is None and planned >= today:
                # Its own day has passed, and the room's day it was set to has not.
                pass
            elif moved_to is not None and moved_to >= today:
                # What the keeper set to a day to come is not late.
                first, moves = moved_to, {day: to for day, to in moves.items() if day not in (planned, first)}
            else:
                late, first = first, today
    elif today is not None:
        begin = max(begin, rule.starts)
    # Turns a little outside may be moved inside.
    due = _turns(rule, first, begin - timedelta(days=slack), end + timedelta(days=slack))
    found: dict[date, Feed] = {}
    for placed in share(due, weekdays, slack):
        is_late = late is not None and placed.due == first
        day = placed.day
        if is_late or (today is not None and placed.due >= today > day):
            day = today or day
        planned, day = day, moves.get(day, day)
        if begin <= day < end and day not in found and not any(fast.holds(day) for fast in rule.fasts):
            found[day] = Feed(day, late if is_late and late is not None else placed.due, is_late, planned != day)
    return [found[day] for day in sorted(found)]


def _after(rule: FeedRule, last: date) -> date:
    """The turn that follows a meal."""
    if not rule.weekdays:
        return last + timedelta(days=rule.interval_days)
    begin = last + timedelta(days=rule.least_days)
    return dates(_weekly(rule), begin, max(begin, rule.starts) + timedelta(days=7 * rule.every_weeks + 7))[0]


def _weekly(rule: FeedRule) -> Weekly:
    return Weekly(rule.weekdays, rule.starts, rule.every_weeks)


def _turns(rule: FeedRule, first: date, begin: date, end: date) -> list[date]:
    """The days by the rule from `first`; one that falls into a fast comes the day after it, and the count with it."""
    if rule.weekdays:
        if rule.last_offered is None:
            return list(dates(_weekly(rule), max(first, begin), end))
        # A late feed stands on any day; the weekdays go on after it.
        late = [first] if begin <= first < end else []
        return late + list(dates(_weekly(rule), max(_after(rule, first), begin), end))
    found: list[date] = []
    step, cursor = timedelta(days=rule.interval_days), first
    for fast in sorted(rule.fasts, key=lambda item: item.first):
        if fast.last < cursor:
            continue
        if fast.first > cursor:
            found += dates(EveryDays(rule.interval_days, cursor), begin, min(end, fast.first))
            cursor += -(-(fast.first - cursor) // step) * step
        if fast.holds(cursor):
            cursor = fast.last + timedelta(days=1)
    found += dates(EveryDays(rule.interval_days, cursor), begin, end)
    return found
