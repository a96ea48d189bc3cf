"""Which profile is meant: the shipped book's, a keeper's own, or the one a plan was made with."""

import hashlib
import json
from collections import Counter, OrderedDict
from collections.abc import Callable
from functools import cache
from typing import Any, Final

from django.utils.translation import gettext as _

from husbandry.species.book import UnknownSpeciesError, find, shipped
from husbandry.species.profile import OWN_PREFIX, Profile
from ridgeback.book.models import OwnProfile
from ridgeback.language.booktext import book


def digest(document: dict[str, Any]) -> str:
    """The SHA-256 of a profile's document."""
    return hashlib.sha256(json.dumps(document, sort_keys=True).encode()).hexdigest()


@cache
def shipped_digest(species: str) -> str:
    """The same for a shipped profile; shipped files do not change while the process runs."""
    return digest(document_of(find(species)))


def document_of(profile: Profile) -> dict[str, Any]:
    """The profile as plain JSON."""
    return profile.model_dump(mode="json")


def current(room_id: int, species: str) -> tuple[Profile, str]:
    """Return the profile this id means in a room now, and its digest. Raises UnknownSpeciesError."""
    if not species.startswith(OWN_PREFIX):
        return find(species), shipped_digest(species)
    own = OwnProfile.objects.filter(room_id=room_id, species=species).first()
    if own is None:
        raise UnknownSpeciesError(species, tuple(shipped()))
    return validated(own.sha256, lambda: own.document), own.sha256


def current_digest(room_id: int, species: str) -> str:
    """Return the digest of what this id means in a room now, "" where it means nothing any more."""
    if not species.startswith(OWN_PREFIX):
        return shipped_digest(species) if species in shipped() else ""
    found = OwnProfile.objects.filter(room_id=room_id, species=species).values_list("sha256", flat=True).first()
    return found or ""


_VALIDATED: "OrderedDict[str, Profile]" = OrderedDict()
MOST_HELD: Final = 256


def validated(sha256: str, load: Callable[[], dict[str, Any]]) -> Profile:
    """Return the profile of this digest, read and checked once per process; `load` gives its document."""
    profile = _VALIDATED.get(sha256)
    if profile is None:
        profile = _VALIDATED[sha256] = Profile.model_validate(load())
        while len(_VALIDATED) > MOST_HELD:
            _VALIDATED.popitem(last=False)
    return profile


def kept(sha256: str, species: str, load: Callable[[], dict[str, Any]]) -> Profile:
    """Return the profile with this digest, from the shipped book where it is that one."""
    if species in shipped() and shipped_digest(species) == sha256:
        return find(species)
    return validated(sha256, load)


def choices(room_ids: list[int]) -> list[tuple[str, str]]:
    """Every profile one can plan by in these rooms: id and name, the keepers' own first and told from the book's."""
    own: list[tuple[str, str]] = []
    alike: Counter[str] = Counter()
    for species, common in OwnProfile.objects.filter(room_id__in=room_ids).values_list("species", "common"):
        alike[common] += 1
        told = _("%(name)s (own)") if alike[common] == 1 else _("%(name)s (own, %(n)s)")
        own.append((str(species), told % {"name": common, "n": alike[common]}))
    return [*own, *((profile.id, book(profile.common)) for profile in shipped().values())]
