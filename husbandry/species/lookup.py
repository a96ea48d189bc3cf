"""Names as they are compared, and a genus asked for without one of its species in the book."""

import re
import unicodedata
from dataclasses import dataclass

from husbandry.species.profile import Profile


def plain_words(text: str) -> str:
    """Lower case, no accents, no signs: "White's tree-frog" → "whites tree frog"."""
    flat = unicodedata.normalize("NFKD", unicodedata.normalize("NFKC", text).casefold())
    kept = "".join(letter for letter in flat if not unicodedata.combining(letter))
    return " ".join(re.sub(r"[’'`]", "", kept).replace("-", " ").split())


def names(profile: Profile) -> tuple[str, ...]:
    """Every name a profile goes by."""
    return (profile.common, profile.scientific, *profile.other_names)


def genus(profile: Profile) -> str:
    """The genus, in plain words."""
    return plain_words(profile.scientific).split()[0]


@dataclass(frozen=True)
class Relatives:
    """A genus the book knows, and the species asked for that it does not ("" when only the genus was given)."""

    genus: str
    asked: str


def relatives(query: str, genera: set[str], epithets: set[str]) -> Relatives | None:
    """Tell whether a query names a genus of the book without a species of it that the book has.

    `genera` and `epithets` are plain words of all scientific names. "Varanus komodoensis" and "Varanus sp." are
    such queries; "Varanus exanthematicus" is none.
    """
    words = plain_words(query).split()
    if not words or words[0] not in genera:
        return None
    rest = [word for word in words[1:] if word.rstrip(".") not in ("sp", "spp", "species")]
    if not rest:
        return Relatives(words[0], "")
    return None if any(epithet.startswith(rest[0]) for epithet in epithets) else Relatives(words[0], " ".join(words))
