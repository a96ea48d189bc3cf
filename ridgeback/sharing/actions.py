"""Who may what in a room, written: invitations, members, sitters. Only an owner does it; the daybook tells it by name."""

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import date
from typing import Final

from django.core.exceptions import PermissionDenied
from django.db import transaction
from django.db.models import Exists, OuterRef, Q, QuerySet
from django.utils.translation import gettext as _

from ridgeback.accounts.models import Keeper
from ridgeback.daybook import log
from ridgeback.daybook.log import About
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent, Refused, writing
from ridgeback.language.told import later
from ridgeback.rooms.access import memberships
from ridgeback.rooms.models import Invitation, Membership, Room, SitterLink
from ridgeback.web.tokens import digest_of, new_token

Role = Membership.Role
GIVEN: Final = (Role.VIEWER, Role.KEEPER, Role.OWNER)  # what one may be invited as, least first


@contextmanager
def _owning(intent: Intent, room: int) -> Iterator[Keeper]:
    """The transaction of an owner's write; yields the owner. Raises PermissionDenied for anybody else."""
    with writing(intent, room=room):
        if intent.author is None or not memberships(intent.author).filter(room=room, role=Role.OWNER).exists():
            raise PermissionDenied
        yield intent.author


def _told(room: int, intent: Intent, what: str) -> None:
    log.write(About(room), Event.Kind.PEOPLE, intent.at, intent.author, {"what": what})


@dataclass(frozen=True)
class Invited:
    """Who is invited, as what, until when the address is good, and until when they stay (None for good)."""

    name: str
    role: str
    until: date
    stays_until: date | None = None


def invite(room: Room, invited: Invited, intent: Intent) -> tuple[Invitation, str]:
    """Make an invitation; its token is told once. Raises AlreadyWritten, PermissionDenied."""
    token = new_token()
    with _owning(intent, room.pk) as owner:
        made = Invitation.objects.create(
            room=room,
            name=invited.name,
            role=invited.role,
            sha256=digest_of(token),
            made_by=owner,
            made_at=intent.at,
            until=invited.until,
            stays_until=invited.stays_until,
        )
        _told(
            room.pk,
            intent,
            later(lambda: _("%(name)s is invited as %(role)s.") % {"name": invited.name, "role": Role(invited.role).label}),
        )
    return made, token


def end_invitation(found: Invitation, intent: Intent) -> None:
    """Take an invitation back."""
    with _owning(intent, found.room_id):
        if Invitation.objects.filter(pk=found.pk, ended_at__isnull=True, used_at__isnull=True).update(ended_at=intent.at):
            _told(found.room_id, intent, later(lambda: _("The invitation of %(name)s is taken back.") % {"name": found.name}))


def good(today: date) -> QuerySet[Invitation]:
    """The invitations that somebody may still take: an owner of their room made them, and is one today."""
    lasting = Q(until__isnull=True) | Q(until__gte=today)
    owners = Membership.objects.filter(lasting, room=OuterRef("room"), keeper=OuterRef("made_by"), role=Role.OWNER)
    waiting = Invitation.objects.filter(ended_at__isnull=True, used_at__isnull=True, until__gte=today, made_by__is_active=True)
    return waiting.filter(Exists(owners))


def invitation_of(token: str, today: date) -> Invitation | None:
    """The invitation of a token that is still good."""
    return good(today).filter(sha256=digest_of(token)).select_related("room", "made_by").first()


def join(found: Invitation, keeper: Keeper, intent: Intent) -> None:
    """Take an invitation: the keeper is a member from now on; who is one today only gains. Raises Refused where it was taken."""
    today = log.day_of(intent.at)
    with transaction.atomic():
        Room.objects.select_for_update(no_key=True).get(pk=found.room_id)
        if not good(today).filter(pk=found.pk).update(used_at=intent.at, used_by=keeper):
            raise Refused("invitation_taken")
        row, made = Membership.objects.get_or_create(
            room_id=found.room_id, keeper=keeper, defaults={"role": found.role, "until": found.stays_until}
        )
        if not made:
            if row.until is not None and row.until < today:  # what one was once is over: it does not come back with a lesser role
                row.role, row.until = found.role, found.stays_until
            else:
                row.role = max(row.role, found.role, key=GIVEN.index)
                row.until = None if row.until is None or found.stays_until is None else max(row.until, found.stays_until)
            row.save(update_fields=["role", "until"])
        _told(
            found.room_id,
            intent,
            later(lambda: _("%(name)s joined as %(role)s.") % {"name": keeper.username, "role": Role(row.role).label}),
        )


def change_member(found: Membership, role: str, until: date | None, intent: Intent) -> None:
    """Let a member do more or less, or until another day. Raises Refused for the last owner, and for who is no member any more."""
    with _owning(intent, found.room_id):
        if role != Role.OWNER or until is not None:
            _keep_an_owner(found)
        if not Membership.objects.filter(pk=found.pk).update(role=role, until=until):
            raise Refused("gone")
        _told(
            found.room_id,
            intent,
            later(lambda: _("%(name)s is %(role)s from now on.") % {"name": found.keeper.username, "role": Role(role).label}),
        )


def remove_member(found: Membership, intent: Intent) -> None:
    """Let somebody go; whoever goes by themselves is no owner's business. Raises Refused for the last owner."""
    by_themselves = intent.author is not None and intent.author.pk == found.keeper_id
    with transaction.atomic():
        if by_themselves:
            Room.objects.select_for_update(no_key=True).get(pk=found.room_id)
            _remove(found, intent)
        else:
            with _owning(intent, found.room_id):
                _remove(found, intent)


def _remove(found: Membership, intent: Intent) -> None:
    _keep_an_owner(found)
    if not Membership.objects.filter(pk=found.pk).delete()[0]:
        raise Refused("gone")
    _told(found.room_id, intent, later(lambda: _("%(name)s is no member any more.") % {"name": found.keeper.username}))


def _keep_an_owner(found: Membership) -> None:
    """Refuse what would leave a room to nobody."""
    others = Membership.objects.filter(room=found.room_id, role=Role.OWNER, until__isnull=True, keeper__is_active=True)
    owns = Membership.objects.filter(pk=found.pk, role=Role.OWNER).exists()  # as it is now, under the room's lock
    if owns and not others.exclude(pk=found.pk).exists():
        raise Refused("last_owner")


@dataclass(frozen=True)
class Sits:
    """Who sits from a day to a day (both included), and whom they call."""

    name: str
    first_day: date
    last_day: date
    call: str = ""


def let_sit(room: Room, who: Sits, intent: Intent) -> tuple[SitterLink, str]:
    """Make a sitter's link; its token is told once. Raises AlreadyWritten, PermissionDenied."""
    token = new_token()
    with _owning(intent, room.pk) as owner:
        keeper = Keeper(username=_free_name(who.name), sits=True)
        keeper.set_unusable_password()
        for name in ("temperature_unit", "length_unit", "mass_unit", "volume_unit", "decimal_mark"):
            setattr(keeper, name, getattr(owner, name))  # they read the units of who asked them
        keeper.save()
        Membership.objects.create(room=room, keeper=keeper, role=Role.SITTER, until=who.last_day)
        made = SitterLink.objects.create(
            room=room,
            keeper=keeper,
            name=who.name,
            sha256=digest_of(token),
            first_day=who.first_day,
            last_day=who.last_day,
            call=who.call,
            made_by=owner,
            made_at=intent.at,
        )
        _told(room.pk, intent, later(lambda: _("%(name)s sits.") % {"name": keeper.username}))
    return made, token


def _free_name(name: str) -> str:
    """A name that nobody has, told from a keeper's."""
    turn = 1
    while True:
        tried = _("%(name)s (sits)") % {"name": name} if turn == 1 else _("%(name)s (sits %(n)s)") % {"name": name, "n": turn}
        if not Keeper.objects.filter(username=tried).exists():
            return tried
        turn += 1


def end_sitting(found: SitterLink, intent: Intent) -> None:
    """End a sitter's link before its last day: they are out at their next press."""
    with _owning(intent, found.room_id):
        if SitterLink.objects.filter(pk=found.pk, ended_at__isnull=True).update(ended_at=intent.at):
            Membership.objects.filter(room=found.room_id, keeper=found.keeper).delete()
            _told(found.room_id, intent, later(lambda: _("%(name)s does not sit any more.") % {"name": found.keeper.username}))


def sitter_of(token: str, today: date) -> SitterLink | None:
    """The sitter's link of a token, where it is not over; it may not have begun."""
    found = SitterLink.objects.filter(sha256=digest_of(token), ended_at__isnull=True, last_day__gte=today)
    return found.select_related("room", "keeper", "made_by").first()
