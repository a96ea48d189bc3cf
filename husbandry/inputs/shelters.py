"""What a species hides in, by the words its profile has for it, and how much of that a plan has."""

from collections import Counter
from collections.abc import Sequence
from typing import Final, Literal

from husbandry.plan.habitat import HabitatPlan

Shelter = Literal["warm", "cool", "humid", "hide", "tube", "cave", "stack", "cover", "litter", "ground", "perch"]
LEAFY: Final = {"none": 0, "few": 1, "many": 2, "dense": 3}  # places among plants that are not listed
COVER: Final = ("leaf", "leaves", "plant", "bromeliad", "foliage", "cover", "reed")
GROUND: Final = (" ground", "sand to bury", "loose ground")
PERCH: Final = ("perch", "branch under", "root or branch")
TUBE: Final = ("tube", "hollow", "trunk", "bark")
STACK: Final = ("stack", "stones", "crevice")
CAVE: Final = ("cave", "pipe", "under water")
DAMP: Final = ("humid", "damp", "moist")
HIDES: Final[tuple[Shelter, ...]] = ("warm", "cool", "humid", "hide", "tube", "cave", "stack")


def shelter_of(name: str) -> Shelter:
    """What kind of shelter a profile's words mean."""
    found: Shelter = "hide"
    if "litter" in name:
        found = "litter"
    elif name == "moss" or (any(words in name for words in GROUND) and "hide" not in name):
        found = "ground"
    elif any(words in name for words in COVER):
        found = "cover"
    elif any(words in name for words in PERCH):
        found = "perch"
    elif any(words in name for words in DAMP):
        found = "humid"
    elif any(words in name for words in STACK):
        found = "stack"
    elif any(words in name for words in CAVE):
        found = "cave"
    elif any(words in name for words in TUBE):
        found = "tube"
    elif "warm" in name:
        found = "warm"
    elif "cool" in name:
        found = "cool"
    return found


def missing(plan: HabitatPlan, wanted: Sequence[str]) -> Counter[str]:
    """How many shelters are missing: of "hide" in any form, "cover" of leaves, "litter", "perch"; what the ground is, never is."""
    asked = Counter("hide" if (kind := shelter_of(name)) in HIDES else kind for name in wanted)
    there = {
        "hide": len(plan.hides),
        "cover": sum(thing.good_for("cover") and thing.of.shape == "leaves" for thing in plan.things) + LEAFY[plan.plants],
        "litter": sum(layer.main == "leaf-litter" for layer in plan.ground.layers),
        "perch": sum(thing.good_for("climb") or thing.of.perch is not None for thing in plan.things),
        "ground": asked["ground"],
    }
    return Counter({kind: count - there[kind] for kind, count in asked.items() if count > there[kind]})
