"""What the worker clears away each night: nothing of who came from where is kept longer than it is needed."""

from datetime import timedelta
from typing import Final

from axes.models import AccessAttempt, AccessFailureLog, AccessLog
from django.contrib.sessions.models import Session
from procrastinate.contrib.django import app

from ridgeback import clock
from ridgeback.accounts.models import Happening, SignedIn, Try
from ridgeback.accounts.tries import KEPT

ATTEMPTS_KEPT: Final = timedelta(days=30)
HAPPENINGS_KEPT: Final = timedelta(days=730)


@app.periodic(cron="23 3 * * *")
@app.task(name="accounts.clear", queueing_lock="accounts.clear")
def clear(timestamp: int) -> None:
    """Sessions that are over, tries with their addresses, and what happened to accounts two years ago."""
    now = clock.now()
    Session.objects.filter(expire_date__lt=now).delete()
    SignedIn.objects.exclude(session__in=Session.objects.values("session_key")).delete()
    Try.objects.filter(at__lt=now - KEPT).delete()
    AccessAttempt.objects.filter(attempt_time__lt=now - ATTEMPTS_KEPT).delete()
    AccessLog.objects.filter(attempt_time__lt=now - ATTEMPTS_KEPT).delete()
    AccessFailureLog.objects.filter(attempt_time__lt=now - ATTEMPTS_KEPT).delete()
    Happening.objects.filter(at__lt=now - HAPPENINGS_KEPT).delete()
