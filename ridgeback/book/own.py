"""A room's own profiles: copied from the book, imported, changed. Every write is one transaction and carries its version."""

import re
from datetime import datetime
from typing import Any

from django.db import transaction

from husbandry.errors import HusbandryError
from husbandry.species.profile import OWN_PREFIX, Profile
from husbandry.species.reading import read_data
from ridgeback.accounts.models import Keeper
from ridgeback.book import catalogue
from ridgeback.book.models import OwnProfile
from ridgeback.book.profiles import digest, document_of
from ridgeback.daybook.writing import Intent, Refused, may_write, writing
from ridgeback.rooms.models import Room


class StaleProfileError(HusbandryError):
    """The profile has been changed since the edit began."""


def copy(room: Room, profile: Profile, intent: Intent) -> OwnProfile:
    """Copy a profile into the room under an id of its own. Raises AlreadyWritten."""
    with writing(intent, room=room.pk):
        return _create(room, document_of(profile), profile.id, intent.author, intent.at)


def take_in(room: Room, profile: Profile, intent: Intent) -> OwnProfile:
    """Keep an imported profile; one with the same id is left as it is and the new one gets another. Raises AlreadyWritten."""
    with writing(intent, room=room.pk):
        return _create(room, document_of(profile), "", intent.author, intent.at)


def remove(own: OwnProfile, intent: Intent) -> None:
    """Take an own profile away; plans made with it keep theirs. Raises AlreadyWritten, Refused where it is gone."""
    with writing(intent, room=own.room_id):
        count, _by_kind = OwnProfile.objects.filter(pk=own.pk).delete()
        if not count:
            raise Refused("gone")


def _create(room: Room, document: dict[str, Any], copied_from: str, author: Keeper | None, at: datetime) -> OwnProfile:
    taken = set(OwnProfile.objects.filter(room=room).values_list("species", flat=True))
    document["id"] = free_id(str(document["id"]), taken)
    profile = Profile.model_validate(document)
    own = OwnProfile.objects.create(
        room=room,
        species=profile.id,
        common=profile.common,
        document=document_of(profile),
        sha256=digest(document_of(profile)),
        copied_from=copied_from,
        author=author,
        changed_at=at,
    )
    catalogue.enter(profile, own.sha256, own)
    return own


def free_id(wanted: str, taken: set[str]) -> str:
    """An id that begins as own profiles' do and is not taken yet."""
    stem = OWN_PREFIX + re.sub(r"^(my-)+", "", wanted)[:50]
    tried, number = stem, 2
    while tried in taken:
        tried, number = f"{stem}-{number}", number + 1
    return tried


@transaction.atomic
def save(own_id: int, document: dict[str, Any], version: int, author: Keeper | None, at: datetime) -> OwnProfile:
    """Save an edit that began at `version`. Raises StaleProfileError, or ProfileProblems where it is no profile."""
    own = OwnProfile.objects.select_for_update(no_key=True).get(pk=own_id)
    may_write(author, own.room_id)
    if own.version != version:
        raise StaleProfileError
    profile = read_data(document | {"id": own.species})
    fresh = document_of(profile)
    if fresh == own.document:
        return own
    own.document, own.sha256, own.common = fresh, digest(fresh), profile.common
    own.version, own.author, own.changed_at = own.version + 1, author, at
    own.save()
    catalogue.enter(profile, own.sha256, own)
    return own
