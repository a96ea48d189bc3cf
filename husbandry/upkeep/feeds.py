"""The dates of feeds: by interval, counted from the last meal offered, outside fasts, on room days where the gaps allow."""

from dataclasses import dataclass
from datetime import date, timedelta
from typing import Final, NamedTuple

from husbandry.upkeep.batching import share, slack_of
from husbandry.upkeep.recur import EveryDays, dates

NOTHING_MOVED: Final[dict[date, date]] = {}


@dataclass(frozen=True, slots=True)
class Fast:
    """Days without food, first and last included, with the code of the reason."""

    first: date
    last: date
    why: str

    def holds(self, day: date) -> bool:
        return self.first <= day <= self.last


@dataclass(frozen=True, slots=True)
class FeedRule:
    """Feeds every `interval_days` from `starts`, or from the last meal offered once there is one."""

    interval_days: int
    starts: date
    last_offered: date | None = None
    fasts: tuple[Fast, ...] = ()


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
    from there. `moves` are single feeds the keeper set to another day, by the day they were planned for.
    """
    slack = slack_of(rule.interval_days)
    late: date | None = None
    first = rule.starts
    if rule.last_offered is not None:
        first = rule.last_offered + timedelta(days=rule.interval_days)
        if today is not None and first < today and not any(fast.holds(today) for fast in rule.fasts):
            planned = share([first], weekdays, slack)[0].day
            moved_to = moves.get(planned, moves.get(first))
            if moved_to is not None and moved_to >= today:
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


def _turns(rule: FeedRule, first: date, begin: date, end: date) -> list[date]:
    """The days by the interval from `first`; one that falls into a fast comes the day after it, and the count with it."""
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
