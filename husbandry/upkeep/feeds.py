"""The dates of feeds."""

from datetime import date, timedelta


def feed_dates(starts: date, interval_days: int, begin: date, days: int) -> list[date]:
    """Return the feeds from `begin` for `days` days, every `interval_days` counted from `starts` (also before it)."""
    wait = (starts - begin).days % interval_days
    return [begin + timedelta(days=offset) for offset in range(wait, days, interval_days)]
