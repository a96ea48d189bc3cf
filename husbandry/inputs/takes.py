"""What furnishing an enclosure takes: things by kind, material and size, and plants, each with how many and what they weigh."""

from collections.abc import Iterable
from dataclasses import dataclass

from husbandry.furnishing.plants import leaf_m2, plants
from husbandry.furnishing.things import Stuff, mass_kg
from husbandry.plan.geometry import depth_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.things import Thing


@dataclass(frozen=True)
class Taken:
    """So many of one thing: its kind, material and sides (m), and what one weighs (kg); `footings` of them stand on footings."""

    kind: str
    stuff: Stuff
    sides_m: tuple[float, float, float]
    each_kg: float
    count: int
    footings: int


@dataclass(frozen=True)
class TakenPlant:
    """So many plants of a kind ("" where it is not said): how many in pots, their leaves (m²), how tall and wide in a year (m)."""

    plant: str
    count: int
    potted: int
    leaf_m2: float
    tall_m: float | None
    wide_m: float | None


def things_taken(plan: HabitatPlan) -> tuple[Taken, ...]:
    """Return the things of a plan but for its plants, those that are alike together, in the order of the document."""
    alike: dict[tuple[str, Stuff, tuple[float, float, float]], list[Thing]] = {}
    for thing in plan.things:
        if not thing.good_for("plant"):
            sides_m = round(thing.length_m, 3), round(depth_of(plan, thing), 3), round(thing.height_m, 3)
            alike.setdefault((thing.kind, thing.made_of, sides_m), []).append(thing)
    return tuple(
        Taken(kind, stuff, sides_m, mass_kg(found[0].of, stuff, sides_m), len(found), sum(one.footing for one in found))
        for (kind, stuff, sides_m), found in alike.items()
    )


def plants_taken(plan: HabitatPlan) -> tuple[TakenPlant, ...]:
    """Return the plants of a plan by their kind, in the order of the document."""
    by_kind: dict[str, list[Thing]] = {}
    for thing in plan.things:
        if thing.good_for("plant"):
            by_kind.setdefault(thing.plant, []).append(thing)
    return tuple(_plants(plant, found) for plant, found in by_kind.items())


def _plants(plant: str, found: Iterable[Thing]) -> TakenPlant:
    there = list(found)
    kind = plants().get(plant)
    leaves = 0.0 if kind is None else sum(leaf_m2(kind, one.length_m) for one in there)
    tall_m, wide_m = (None, None) if kind is None else (kind.grows_m, kind.wide_m)
    return TakenPlant(plant, len(there), sum(one.potted for one in there), leaves, tall_m, wide_m)
