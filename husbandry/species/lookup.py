"""Names as they are compared, and a genus asked for without one of its species in the book."""

import re
import unicodedata
from dataclasses import dataclass
from itertools import pairwise
from typing import Final

from rapidfuzz.distance import OSA

from husbandry.species.profile import Profile

BEGUN_LETTERS: Final = 4  # so many of a word that is still being typed are compared with a longer word's beginning


def plain_words(text: str) -> str:
    """Lower case, no accents, no signs: "White's tree-frog" → "whites tree frog"."""
    flat = unicodedata.normalize("NFKD", unicodedata.normalize("NFKC", text).casefold())
    kept = "".join(letter for letter in flat if not unicodedata.combining(letter))
    return " ".join(re.sub(r"[’'`]", "", kept).replace("-", " ").split())


def similarity(query: str, name: str) -> float:
    """Tell how near the words of a query come to words of a name, however they stand in it.

    Each word counts by its letters, with the word of the name that is nearest to it: whole, at its beginning, or
    two words that are written as one ("bluetounge", "blue tongued").

    Parameters
    ----------
    query, name
        Plain words.

    Returns
    -------
    float
        0 to 1; 1 where every word of the query is a word of the name.

    References
    ----------
    Optimal string alignment: Damerau, F. J. (1964). A technique for computer detection and correction of spelling errors.
    Communications of the ACM 7(3), 171-176. Most misspelt words differ by one letter that is missing, too much, wrong or
    exchanged with its neighbour.
    """
    parts = name.split()
    parts += ["".join(two) for two in pairwise(parts)]
    asked = query.split()
    near = sum(len(word) * max((_word_similarity(word, part) for part in parts), default=0.0) for word in asked)
    return near / max(sum(map(len, asked)), 1)


def _word_similarity(word: str, part: str) -> float:
    whole = OSA.normalized_similarity(word, part)
    if len(part) <= len(word) or len(word) < BEGUN_LETTERS or word[0] != part[0]:
        return whole
    return max(whole, 0.97 * OSA.normalized_similarity(word, part[: len(word)]))


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
