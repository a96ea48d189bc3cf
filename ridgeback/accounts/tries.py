"""Tries to sign in, counted by address and by name: who guesses is slowed down, and nobody is locked out for what others try.

django-axes counts one name from one address. Here: many names from one address (spraying), and one name from many addresses.
In the second case those addresses stay open from which that very keeper has signed in before.
"""

import hashlib
from datetime import timedelta
from typing import Final

from django.contrib import messages
from django.contrib.auth import logout
from django.http import HttpRequest
from django.utils.translation import gettext as _

from ridgeback import clock
from ridgeback.accounts.models import Try

WINDOW: Final = timedelta(minutes=15)
MOST_OF_ADDRESS: Final = 30  # wrong tries from one address, whatever the names
MOST_OF_NAME: Final = 40  # wrong tries of one name, wherever from
KNOWN: Final = timedelta(days=90)  # an address is the keeper's own for so long
KEPT: Final = timedelta(days=100)
LINK_WINDOW: Final = timedelta(hours=1)
MOST_LINKS: Final = 3  # letters with a link to one address in an hour
MOST_LINKS_FROM: Final = 10  # asked for from one place
MOST_OLD_PASSWORDS: Final = 5  # wrong old passwords in one session
WRONG: Final = "wrong_old_passwords"


def address_of(request: HttpRequest) -> str:
    """Where a request comes from, as the server says: a proxy's word is taken there or not at all."""
    return str(request.META.get("REMOTE_ADDR", ""))[:64]


def allowed(request: HttpRequest, name: str) -> bool:
    """Tell whether a name may be tried from there now."""
    since, address, digest = clock.now() - WINDOW, address_of(request), _digest(name)
    wrong = Try.objects.filter(at__gte=since, at__lte=clock.now(), good=False)
    if wrong.filter(address=address).count() >= MOST_OF_ADDRESS:
        return False
    if wrong.filter(name=digest).count() < MOST_OF_NAME:
        return True
    return Try.objects.filter(name=digest, address=address, good=True, at__gte=clock.now() - KNOWN).exists()


def may_ask_for_a_link(request: HttpRequest, email: str) -> bool:
    """Count a request for a link by letter; tell whether it may go on: nobody's letter box is filled by others."""
    since, address, digest = clock.now() - LINK_WINDOW, address_of(request), _digest(f"link {email}")
    asked = Try.objects.filter(at__gte=since, at__lte=clock.now())
    if asked.filter(name=digest).count() >= MOST_LINKS or asked.filter(address=f"link {address}"[:64]).count() >= MOST_LINKS_FROM:
        return False
    Try.objects.create(name=digest, address=f"link {address}"[:64], at=clock.now(), good=True)
    return True


def note(request: HttpRequest, name: str, *, good: bool) -> None:
    """Write a try down; old ones go."""
    now = clock.now()
    Try.objects.create(name=_digest(name), address=address_of(request), at=now, good=good)
    Try.objects.filter(at__lt=now - KEPT).delete()


def lost_the_session(request: HttpRequest) -> bool:
    """Count a wrong password that was typed inside a session; whoever guesses at it there is signed out, which this tells."""
    wrong = int(request.session.get(WRONG, 0)) + 1
    request.session[WRONG] = wrong
    if wrong < MOST_OLD_PASSWORDS:
        return False
    logout(request)
    messages.error(request, _("The password was wrong too often, so you were signed out. Sign in again."))
    return True


def _digest(name: str) -> str:
    return hashlib.sha256(name.strip().casefold().encode(errors="replace")).hexdigest()
