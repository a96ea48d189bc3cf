"""What the worker does for accounts: links by letter, and each night what is kept no longer is cleared away."""

from datetime import timedelta
from typing import Final
from urllib.parse import urljoin

from axes.models import AccessAttempt, AccessFailureLog, AccessLog
from django.conf import settings
from django.contrib.sessions.models import Session
from django.core.mail import send_mail
from django.utils.translation import gettext, override
from procrastinate.contrib.django import app

from ridgeback import clock
from ridgeback.accounts import happened, links
from ridgeback.accounts.models import AccountInvitation, Happening, Keeper, SignedIn, Try
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
    AccountInvitation.objects.filter(until__lt=now - ATTEMPTS_KEPT).delete()


@app.task(name="accounts.forgotten", retry=happened.RETRIES)
def send_link(email: str) -> None:
    """Send a link for a new password to each account that has this address for its letters; where there is none, nothing."""
    for keeper in Keeper.objects.filter(email__iexact=email, is_active=True, sits=False).order_by("pk"):
        with override(keeper.language or settings.LANGUAGE_CODE):
            told = {"name": keeper.username, "link": urljoin(settings.ADDRESS, links.make(keeper))}
            body = gettext(
                "Somebody, you it may be, asked for a new password for the account %(name)s.\n\nSet it here, once, within a day:\n"
                "%(link)s\n\nIf that was not you, do nothing: the password stays as it is."
            )
            send_mail(gettext("Ridgeback: a new password"), body % told, None, [keeper.email])
        happened.note(keeper, "letter")
