"""Making accounts: by an administrator at the terminal, or by whoever was invited."""

from datetime import datetime, timedelta
from typing import Final

from django.db import transaction
from django.utils.translation import gettext as _

from ridgeback.accounts.models import AccountInvitation, Keeper
from ridgeback.rooms.models import Membership, Room
from ridgeback.web.tokens import digest_of, new_token

BACKEND: Final = "django.contrib.auth.backends.ModelBackend"
INVITED_FOR: Final = timedelta(days=7)


@transaction.atomic
def add(username: str, password: str | None = None, *, administrator: bool = False, room_name: str = "") -> Keeper:
    """Make an account with a room of its own. Without a password it cannot sign in until a reset link was followed."""
    keeper = Keeper(username=username, is_staff=administrator)
    keeper.set_password(password)
    keeper.save()
    longest = Room._meta.get_field("name").max_length or 80
    named = room_name or _("%(name)s's room") % {"name": username[: longest - 20]}
    room = Room.objects.create(name=named[:longest])
    Membership.objects.create(room=room, keeper=keeper, role=Membership.Role.OWNER)
    return keeper


def invite(name: str, by: Keeper, now: datetime) -> str:
    """Invite somebody to have an account; return the token, which is told once."""
    token = new_token()
    AccountInvitation.objects.create(name=name, sha256=digest_of(token), made_by=by, made_at=now, until=now + INVITED_FOR)
    return token


def invitation_of(token: str, now: datetime) -> AccountInvitation | None:
    """The invitation of a token that is still good."""
    good = AccountInvitation.objects.filter(used_at__isnull=True, ended_at__isnull=True, until__gt=now)
    return good.filter(sha256=digest_of(token)).first()


@transaction.atomic
def take_up(found: AccountInvitation, username: str, password: str, now: datetime) -> Keeper | None:
    """Make the account of who was invited; None where somebody was faster with the same address."""
    mine = AccountInvitation.objects.filter(pk=found.pk, used_at__isnull=True, ended_at__isnull=True)
    return add(username, password) if mine.update(used_at=now) else None
