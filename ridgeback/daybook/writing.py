"""How everything is written: one transaction that takes its lock first, and a key by which a second press is known.

An action opens `writing(...)`, looks at what stands *inside* it, and writes. What cannot be is raised as a `Refused`, which rolls
the whole request back; a view that does not put it into words itself leaves that to `ridgeback.refusals`.
"""

import hashlib
import json
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Final

from django.core.exceptions import PermissionDenied
from django.db import transaction
from django.http import HttpRequest

from husbandry.errors import HusbandryError
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook.models import Written
from ridgeback.rooms.access import memberships
from ridgeback.rooms.models import Habitat, Membership, Room

KEPT: Final = timedelta(days=7)  # a page older than that is not pressed again by accident
# A sitter reaches nothing but the round (`ridgeback.sharing.guests`).
WRITES: Final = frozenset({Membership.Role.OWNER, Membership.Role.KEEPER, Membership.Role.SITTER})
UNTOLD: Final = ("csrfmiddlewaretoken",)


class Refused(HusbandryError):
    """A write that was not made. `code` says why, `parameters` go into the sentence."""

    def __init__(self, code: str, **parameters: str) -> None:
        super().__init__(f"{code}: {parameters}")
        self.code, self.parameters = code, parameters


class AlreadyWritten(Refused):
    """The same press of the same button was written before, at `at`; its answer was `answer`, where it was kept."""

    def __init__(self, at: datetime, answer: str = "") -> None:
        super().__init__("already_written")
        self.at, self.answer = at, answer


@dataclass(frozen=True)
class Intent:
    """Who writes, when, and the key of the press; without a key nothing is known of a second one."""

    author: Keeper | None
    at: datetime
    key: str = ""


def intent_of(request: HttpRequest) -> Intent:
    """The intent of a posted form: keyed by who posts what where, with the form's own `once` or the version it began from."""
    keeper = request.user if isinstance(request.user, Keeper) else None
    if not (request.POST.get("once") or request.POST.get("version")):
        return Intent(keeper, clock.now())
    posted = sorted((name, values) for name, values in request.POST.lists() if name not in UNTOLD)
    said = json.dumps([keeper.pk if keeper else 0, request.path, posted])
    return Intent(keeper, clock.now(), hashlib.sha256(said.encode(errors="replace")).hexdigest())


def may_write(author: Keeper | None, room_id: int) -> None:
    """Let only those write who may: a viewer of a room looks. Raises PermissionDenied.

    Without an author it is the program itself, which the demo's beginnings are written by.
    """
    if author is None:
        return
    roles = memberships(author).filter(room=room_id).values_list("role", flat=True)
    if not set(roles) & WRITES:
        raise PermissionDenied


@contextmanager
def writing(intent: Intent, habitats: Iterable[int] = (), room: int | None = None) -> Iterator[dict[int, Habitat]]:
    """Open the transaction of a write and lock the room, then the habitats in the order of their keys.

    Yields the locked habitats by key. Raises AlreadyWritten for a press that was written before, PermissionDenied for a viewer,
    and Habitat.DoesNotExist or Room.DoesNotExist for what has gone meanwhile.
    """
    with transaction.atomic():
        if room is not None:
            Room.objects.select_for_update(no_key=True).get(pk=room)
            may_write(intent.author, room)
        wanted = sorted(set(habitats))
        locked = {
            habitat.pk: habitat for habitat in Habitat.objects.select_for_update(no_key=True).filter(pk__in=wanted).order_by("pk")
        }
        if len(locked) != len(wanted):
            raise Habitat.DoesNotExist
        for room_id in {habitat.room_id for habitat in locked.values()}:
            may_write(intent.author, room_id)
        claim(intent)
        yield locked


def claim(intent: Intent) -> None:
    """Take the key of a press, once; to be called under a lock. Raises AlreadyWritten."""
    if not intent.key:
        return
    if intent.key.startswith("00"):  # now and then, by no clock of its own
        Written.objects.filter(at__lt=intent.at - KEPT).delete()
    found, made = Written.objects.get_or_create(key=intent.key, defaults={"at": intent.at})
    if not made:
        raise AlreadyWritten(found.at, found.answer)


def answered(intent: Intent, answer: str) -> None:
    """Keep where the press led, for the second one to go there too."""
    if intent.key:
        Written.objects.filter(key=intent.key).update(answer=answer[:300])
