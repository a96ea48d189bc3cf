"""How much ground it takes: litres by material, bags and buckets, what it weighs dry and wet, the water it wants.

A layer is given as it lies: settled. From the bag it is looser, by the share its materials lose when they are pressed.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from math import ceil
from typing import Final

from husbandry.furnishing.mixes import Mix, ground_stuff, recipes

BAGS_L: Final = (5.0, 10.0, 25.0, 50.0)  # sizes ground is sold in (trade)
FEW_BAGS: Final = 3
KEPT_DAMP: Final = 0.6  # of field capacity, where ground is kept damp below (estimate)
SETTLES_FROM_M: Final = 0.05
SETTLE_DAYS: Final = 3  # for ground of one's own that is kept damp (common practice)
SHARES_ALIKE: Final = 0.08
GRAIN: Final = 1e-6


@dataclass(frozen=True)
class Heap:
    """A layer's ground: `settled_l` as it lies, `loose_l` as it comes from the bag, of which `parts_l` by material.

    `dry_kg` is its mass dry, `field_l` the water that brings it to field capacity, `kept_l` the water in it as it is kept.
    """

    settled_l: float
    loose_l: float
    parts_l: dict[Mix, float]
    dry_kg: float
    field_l: float
    kept_l: float

    @property
    def kg(self) -> float:
        """Its mass as it is kept."""
        return self.dry_kg + self.kept_l


def heap(settled_l: float, parts: Mapping[Mix, float], *, pressed: float | None = None, damp: bool = False) -> Heap:
    """Return what a layer of ground takes.

    Parameters
    ----------
    settled_l
        Its volume as it lies, L.
    parts
        Parts by volume of its materials; they need not add up to one.
    pressed
        The share of its loose depth that is lost when it settles; by its materials where None.
    damp
        Whether it is kept damp.

    Returns
    -------
    Heap, in L and kg.

    Raises
    ------
    ValueError
        The parts add up to nothing.

    References
    ----------
    Parts by volume over their sum; densities and field capacities of data/mixes.toml (common tables, from memory).
    """
    whole = sum(parts.values())
    if whole <= 0:
        raise ValueError("the parts add up to nothing")
    stuff, shares = ground_stuff(), {material: amount / whole for material, amount in parts.items() if amount > 0}
    lost = sum(share * stuff[material].pressed for material, share in shares.items()) if pressed is None else pressed
    loose_l = settled_l / (1 - lost)
    parts_l = {material: share * loose_l for material, share in shares.items()}
    dry_kg = settled_l * sum(share * stuff[material].dry_kg_l for material, share in shares.items())
    field_l = settled_l * sum(share * stuff[material].field_l_l for material, share in shares.items())
    return Heap(settled_l, loose_l, parts_l, dry_kg, field_l, KEPT_DAMP * field_l if damp else 0.0)


def together(heaps: Iterable[Heap]) -> Heap:
    """Return several heaps as one."""
    found, parts = list(heaps), dict[Mix, float]()
    for one in found:
        for material, litres in one.parts_l.items():
            parts[material] = parts.get(material, 0.0) + litres
    names = ("settled_l", "loose_l", "dry_kg", "field_l", "kept_l")
    sums = {name: sum(getattr(one, name) for one in found) for name in names}
    return Heap(sums["settled_l"], sums["loose_l"], parts, sums["dry_kg"], sums["field_l"], sums["kept_l"])


def filled(litres: float, size_l: float) -> int:
    """Return how many bags or buckets of `size_l` hold so many litres: whole ones, rounded up.

    Parameters
    ----------
    litres, size_l
        L.

    Returns
    -------
    A count.

    References
    ----------
    Arithmetic; no source outside.
    """
    return ceil(litres / size_l - GRAIN)


def bags(litres: float) -> tuple[int, float]:
    """Return how many bags of which size (L): a few of the size that leaves least over, or many of the largest.

    Parameters
    ----------
    litres
        Loose, as it comes from the bag, L.

    Returns
    -------
    A count and L a bag.

    References
    ----------
    Common practice, no source, for the sizes.
    """
    few = [size for size in BAGS_L if filled(litres, size) <= FEW_BAGS]
    size_l = min(few, key=lambda size: (size * filled(litres, size), -size)) if few else BAGS_L[-1]
    return filled(litres, size_l), size_l


def recipe_of(layers: Iterable[tuple[float, Mapping[Mix, float]]]) -> str:
    """Return the key of the recipe that some layers (depth in m, parts) are made by, from the floor up; "" where none is."""
    given = [(depth_m, parts) for depth_m, parts in layers if depth_m > 0]
    whole_m = sum(depth_m for depth_m, _parts in given)
    for key, recipe in recipes().items():
        if len(recipe.layers) == len(given) and all(
            _alike(layer.parts, parts) and abs(layer.share - depth_m / whole_m) <= SHARES_ALIKE
            for layer, (depth_m, parts) in zip(recipe.layers, given, strict=True)
        ):
            return key
    return ""


def _alike(one: Mapping[Mix, float], other: Mapping[Mix, float]) -> bool:
    first, second = ({name: value / sum(parts.values()) for name, value in parts.items() if value > 0} for parts in (one, other))
    return first.keys() == second.keys() and all(abs(first[name] - second[name]) < SHARES_ALIKE / 4 for name in first)


def settle_days(recipe: str, depth_m: float, *, damp: bool) -> int:
    """Return how many days a new ground settles before an animal goes in: by its recipe, else by whether it was wetted.

    Parameters
    ----------
    recipe
        A key of `recipes`, or "".
    depth_m
        How deep it is, m.
    damp
        Whether it was wetted.

    Returns
    -------
    Days.

    References
    ----------
    Common practice, no source.
    """
    if recipe in recipes():
        return recipes()[recipe].settle_days
    return SETTLE_DAYS if damp and depth_m >= SETTLES_FROM_M else 0
