"""One feed at its real size, for paper: whoever has never fed it lays the food beside the picture.

Prey is drawn as an oval as long and as wide as the piece that is fed; greens as the heap they make, loosely laid.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from math import pi
from typing import Any, Final

from husbandry.diet.foods import PLANTS, foods
from husbandry.diet.prey import LENGTH_OVER_THICKNESS, prey_thickness_m

MOST_DRAWN: Final = 12
GAP_MM: Final = 3.0
PAPER_MM: Final = 180.0
HEAP_G_ML: Final = 0.1  # leaves loosely laid (estimate)
LEAST_MM: Final = 2.0


@dataclass(frozen=True)
class FoodPortion:
    """What a feed holds of one food: whole pieces where it is counted, and grams in all."""

    food: str
    pieces: float | None
    grams: float


def piece_mm(one: FoodPortion) -> tuple[float, float] | None:
    """Return the length and the width of one piece, mm; None for what is not counted.

    Of a food with a usual piece it is that, larger or smaller by the cube root of its mass; else a body thrice as long as thick.
    """
    if not one.pieces or one.grams <= 0:
        return None
    each_g = one.grams / one.pieces
    known = foods().get(one.food)
    if known is not None and known.length_mm and known.mass_g:
        length = known.length_mm * (each_g / known.mass_g) ** (1 / 3)
        return length, length * (known.width_share or 1 / LENGTH_OVER_THICKNESS)
    thick = 1000 * prey_thickness_m(each_g / 1000)
    return thick * LENGTH_OVER_THICKNESS, thick


def heap_mm(one: FoodPortion) -> float | None:
    """Return how wide a heap of leaves is, mm, as half a ball; None for what is no leaf."""
    known = foods().get(one.food)
    if one.pieces or known is None or known.kind not in PLANTS or one.grams <= 0:
        return None
    return 10 * 2 * (one.grams / HEAP_G_ML * 3 / (2 * pi)) ** (1 / 3)


def draw(feed: Iterable[FoodPortion]) -> list[dict[str, Any]]:
    """Return the rows of a picture: each food's ovals with their places and sizes in mm, and how many there are in all."""
    rows = []
    for one in feed:
        sides = piece_mm(one)
        heap = heap_mm(one)
        if sides is None and heap is None:
            continue
        length, width = sides or (heap or 0.0, (heap or 0.0) / 2)
        length, width = max(length, LEAST_MM), max(width, LEAST_MM)
        many = round(one.pieces or 1)
        fits = max(int((PAPER_MM + GAP_MM) / (length + GAP_MM)), 1)
        shown = min(many, MOST_DRAWN, fits)
        rows.append(
            {
                "food": one.food,
                "count": many,
                "all": shown == many,
                "heap": sides is None,
                "length": f"{length:.1f}",
                "width": f"{width:.1f}",
                "rx": f"{length / 2:.1f}",
                "ry": f"{width / 2:.1f}",
                "across": f"{min(shown * (length + GAP_MM), PAPER_MM):.1f}",
                "high": f"{width + 1:.1f}",
                "middle": f"{width / 2 + 0.5:.1f}",
                "places": [f"{length / 2 + place * (length + GAP_MM) + 0.5:.1f}" for place in range(shown)],
            }
        )
    return rows
