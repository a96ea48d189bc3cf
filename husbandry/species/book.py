"""The shipped species: one TOML file each, read once."""

import tomllib
from functools import cache
from importlib import resources

from husbandry.errors import HusbandryError
from husbandry.species.profile import Profile


class UnknownSpeciesError(HusbandryError, LookupError):
    """No shipped profile has this id; `known` lists those there are."""

    def __init__(self, species: str, known: tuple[str, ...]) -> None:
        super().__init__(f"the book has no species {species!r}")
        self.species = species
        self.known = known


@cache
def shipped() -> dict[str, Profile]:
    """All shipped profiles by id, in the order of their common names."""
    folder = resources.files("husbandry.species") / "data"
    profiles = [
        Profile.model_validate(tomllib.loads(item.read_text("utf-8"))) for item in folder.iterdir() if item.name.endswith(".toml")
    ]
    return {profile.id: profile for profile in sorted(profiles, key=lambda profile: profile.common.casefold())}


def find(species: str) -> Profile:
    """Return the shipped profile with this id; raises UnknownSpeciesError."""
    book = shipped()
    if species not in book:
        raise UnknownSpeciesError(species, tuple(book))
    return book[species]
