"""Days to draw from, and the same rules by dateutil."""

from datetime import date, datetime, time

from dateutil.rrule import rrule
from hypothesis import strategies as st

DAYS = st.dates(date(2019, 1, 1), date(2033, 12, 31))
SPANS = st.integers(0, 500)
WEEKDAYS = st.sets(st.integers(0, 6), min_size=1).map(lambda found: tuple(sorted(found)))


def by_rrule(begin: date, end: date, **rule: object) -> tuple[date, ...]:
    """The same rule by dateutil, which follows RFC 5545."""
    found = rrule(until=datetime.combine(end, time()), **rule)  # type: ignore[arg-type]
    return tuple(item.date() for item in found if begin <= item.date() < end)


def start_of(day: date) -> datetime:
    return datetime.combine(day, time())
