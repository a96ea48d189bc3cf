"""The clock: the only place that asks what time it is. Views take it from here; the core is handed the date."""

from datetime import date, datetime

from django.utils import timezone


def now() -> datetime:
    """The moment, aware."""
    return timezone.now()


def today() -> date:
    """The local date."""
    return timezone.localdate(now())
