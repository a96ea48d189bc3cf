"""What happened to an account, written down for its keeper to read and for nobody to change; told by letter where it matters."""

from typing import Final

from django.conf import settings
from django.core.mail import send_mail
from django.utils.translation import gettext, override
from django.utils.translation import gettext_lazy as _
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from ridgeback import clock
from ridgeback.accounts.models import Happening, Keeper

SAID: Final = {
    "signed-in": _("signed in"),
    "password": _("the password was changed"),
    "link": _("an administrator made a link by which a new password can be set"),
    "letter": _("a link for a new password was sent to the account's e-mail address"),
    "second-on": _("signing in asks for a second factor from now on"),
    "second-off": _("signing in asks for no second factor any more"),
    "codes": _("new recovery codes were made"),
    "recovery": _("a recovery code was used to sign in"),
    "wrong-code": _("the password was right and the code was wrong"),
    "session-ended": _("a device was signed out from another one"),
    "deletion": _("the account was asked to be deleted"),
    "address": _("the e-mail address for letters was changed"),
}
# What a keeper is told of by letter, so that one who did not do it notices.
LETTERS: Final = {"password", "link", "deletion", "second-on", "second-off", "codes", "recovery", "wrong-code", "address"}
SHOWN: Final = 30
# A mail server that is away for a while is tried again: after 5, 25, 125 … seconds.
RETRIES: Final = RetryStrategy(max_attempts=6, exponential_wait=5)


def note(keeper: Keeper, what: str, *, also_to: str = "") -> None:
    """Write down what happened, and have the worker send a letter of it; `also_to` is an address left behind."""
    Happening.objects.create(keeper=keeper, what=what, at=clock.now())
    to = [address for address in (also_to, keeper.email) if address]
    if what in LETTERS and to and settings.MAIL_URL:
        letter.defer(keeper=keeper.pk, what=what, to=to)


@app.task(name="accounts.letter", retry=RETRIES)
def letter(keeper: int, what: str, to: list[str]) -> None:
    """Tell a keeper by letter what happened to the account."""
    found = Keeper.objects.filter(pk=keeper).first()
    if found is not None:
        _send(found, what, to)


def _send(keeper: Keeper, what: str, to: list[str]) -> None:
    with override(keeper.language or settings.LANGUAGE_CODE):
        head = gettext("Ridgeback: a change to your account")
        body = gettext(
            "Of the account %(name)s: %(what)s.\n\nIf that was you, all is well. If it was not, sign in at %(address)s, change the"
            " password and sign out the browsers you do not know; and tell the person who looks after this Ridgeback."
        ) % {"name": keeper.username, "what": SAID[what], "address": settings.ADDRESS}
    send_mail(head, body, None, to)


def of(keeper: Keeper) -> list[tuple[str, Happening]]:
    """What happened last, in words, newest first."""
    rows = Happening.objects.filter(keeper=keeper).order_by("-at", "-id")[:SHOWN]
    return [(str(SAID.get(row.what, row.what)), row) for row in rows]
