"""Finding a species by any of its names, also by a name spelt a little wrong.

Trigrams of words, as database text search has them: the share of the query's three-letter runs that a name holds.
"""

import re
import unicodedata
from functools import lru_cache
from typing import Final

from husbandry.species.profile import Profile

LEAST_LIKENESS: Final = 0.35


def plain_words(text: str) -> str:
    """Lower case, no accents, no signs: "White's tree-frog" → "whites tree frog"."""
    flat = unicodedata.normalize("NFKD", unicodedata.normalize("NFKC", text).casefold())
    kept = "".join(letter for letter in flat if not unicodedata.combining(letter))
    return " ".join(re.sub(r"[’'`]", "", kept).replace("-", " ").split())


@lru_cache(maxsize=8192)
def trigrams(text: str) -> frozenset[str]:
    """The three-letter runs of every word, with its beginning and end marked by blanks."""
    return frozenset(f"  {word} "[k : k + 3] for word in plain_words(text).split() for k in range(len(word) + 1))


def likeness(query: str, name: str) -> float:
    """Return 0–1: the share of the query's trigrams that the name holds; 1 where the name holds the query's own letters."""
    if plain_words(query) in plain_words(name):
        return 1.0
    wanted = trigrams(query)
    return len(wanted & trigrams(name)) / len(wanted) if wanted else 0.0


def names(profile: Profile) -> tuple[str, ...]:
    return (profile.common, profile.scientific, *profile.other_names)


def search(profiles: tuple[Profile, ...], query: str) -> tuple[Profile, ...]:
    """Return the profiles a query means, the likeliest first; all in their order for an empty query."""
    if not plain_words(query):
        return profiles
    scored = [(max(likeness(query, name) for name in names(profile)), profile) for profile in profiles]
    best = max((score for score, _profile in scored), default=0.0)
    # Where some name holds the very letters, what is merely like it is left out.
    least = 1.0 if best == 1.0 else max(LEAST_LIKENESS, 0.7 * best)
    return tuple(profile for score, profile in sorted(scored, key=lambda item: -item[0]) if score >= least)
