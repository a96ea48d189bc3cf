"""How large a piece of food may be: always in a named dimension, from a measurement or an estimate, said which.

Estimates of the head follow from body length by form (all "estimate": heads of one form are much alike in shape, and a
ruler across the animal's head replaces them).
"""

import math
from dataclasses import dataclass
from typing import Final

from husbandry.diet.foods import Food
from husbandry.diet.prey import prey_thickness_m, snake_thickness_m


@dataclass(frozen=True)
class Head:
    """Shares of body length by the species' measure: head length, head width, the gap between the eyes (estimates)."""

    length: float
    width: float
    eyes: float


HEADS: Final = {
    "gecko": Head(0.26, 0.19, 0.11),
    "lizard": Head(0.21, 0.15, 0.09),
    "snake": Head(0.035, 0.022, 0.014),
    "tortoise": Head(0.22, 0.16, 0.12),
    "turtle": Head(0.28, 0.2, 0.13),
    "frog": Head(0.32, 0.36, 0.2),
    "salamander": Head(0.16, 0.14, 0.09),
}
# Lizards' and salamanders' widest part over body length, where girth is the limit and they are no snakes (estimate).
WIDEST_SHARE: Final = {"gecko": 0.22, "lizard": 0.24, "tortoise": 0.75, "turtle": 0.75, "frog": 0.5, "salamander": 0.15}


@dataclass(frozen=True)
class SizeLimit:
    """The largest piece: `dimension` of the food ("width" or "length") up to `at_most_m`.

    `by` is what it is measured on ("gap-of-eyes", "head-length", "girth", "mouth", "egg-2", "egg-3"); `measured` tells a
    ruler from an estimate.
    """

    by: str
    dimension: str
    at_most_m: float
    measured: bool


def size_limit(
    by: str, form: str, length_m: float, mass_kg: float | None, total_length_m: float, measured_m: float | None = None
) -> SizeLimit:
    """Return the limit for an animal of this form and body length (m, the species' measure).

    `measured_m` is the keeper's own measurement of what the limit goes by: the gap of the eyes, the head's length, the
    mouth's or the body's width, or for eggs the head's width. Raises KeyError for an unknown rule or form.

    Parameters
    ----------
    by
        A rule: the gap of the eyes, the head's length, the mouth's or the body's width, the egg's.
    form
        The body's form.
    length_m, total_length_m
        The species' measure and the total length, m.
    mass_kg
        Mass, None where it is not known.
    measured_m
        The keeper's own measurement, m.

    Returns
    -------
    SizeLimit in m.

    References
    ----------
    Common practice, no source: prey no longer than the gap between the eyes, or no thicker than the body's widest part.
    """
    dimension = "length" if by == "head-length" else "width"
    heads = {"egg-2": 2.0, "egg-3": 3.0}.get(by, 1.0)
    if measured_m is not None:
        return SizeLimit(by, dimension, measured_m * heads, True)
    head = HEADS[form]
    if by == "girth":
        snake = form == "snake" and mass_kg is not None
        widest = snake_thickness_m(mass_kg or 0.0, total_length_m) if snake else WIDEST_SHARE.get(form, 0.03) * length_m
        return SizeLimit(by, dimension, widest, False)
    share = {"gap-of-eyes": head.eyes, "head-length": head.length, "mouth": head.width, "egg-2": head.width, "egg-3": head.width}
    return SizeLimit(by, dimension, share[by] * length_m * heads, False)


WHOLE_KIND: Final = "egg"  # what nobody cuts to size


# From here on food is far longer than wide and is swallowed lengthwise: thrice as long as a stout insect it weighs the same.
SLENDER: Final = 0.12
WORM_OF_HEAD: Final = 0.5  # how thick a worm may be over the head's length (common practice, no source)


def is_slender(item: Food) -> bool:
    """Tell whether a food is far longer than wide."""
    return item.width_share is not None and item.width_share <= SLENDER


@dataclass(frozen=True)
class FoodPiece:
    """A piece of food: length and width in m, mass in kg."""

    length_m: float
    width_m: float
    mass_kg: float


def largest_piece(item: Food, limit: SizeLimit | None) -> FoodPiece | None:
    """Return the largest piece of a food within the limit, alike in shape to the grown one; None for what has no pieces.

    Eggs come whole, in one size.

    Parameters
    ----------
    item
        The food.
    limit
        That of the animal, None where it has none.

    Returns
    -------
    FoodPiece, in kg and m.

    References
    ----------
    Allometry with equal shape: mass goes with the cube of length.
    """
    if item.length_mm is None or item.mass_g is None or item.width_share is None:
        return None
    length_m, mass_kg = item.length_mm / 1000, item.mass_g / 1000
    shrink = 1.0
    if limit is not None and item.kind != WHOLE_KIND:
        if limit.dimension == "length" and is_slender(item):
            # A worm goes down lengthwise: it is the mouth that it must pass, about as wide as the head is long.
            shrink = min(1.0, WORM_OF_HEAD * limit.at_most_m / (length_m * item.width_share))
        else:
            shrink = min(1.0, limit.at_most_m / (length_m * (1.0 if limit.dimension == "length" else item.width_share)))
    return FoodPiece(length_m * shrink, length_m * item.width_share * shrink, mass_kg * shrink**3)


def too_large(item: Food, mass_kg: float, limit: SizeLimit) -> bool:
    """Tell whether a piece of this mass breaks the limit; furred prey by its thickness.

    Parameters
    ----------
    item
        The food.
    mass_kg
        Of the piece, kg.
    limit
        That of the animal.

    Returns
    -------
    True where it breaks it.

    References
    ----------
    As `size_limit`.
    """
    if item.length_mm is None or item.mass_g is None or item.width_share is None:
        return limit.dimension == "width" and prey_thickness_m(mass_kg) > limit.at_most_m * 1.001
    length_m = item.length_mm / 1000 * (mass_kg * 1000 / item.mass_g) ** (1 / 3)
    across = length_m if limit.dimension == "length" else length_m * item.width_share
    return across > limit.at_most_m * 1.001 and not math.isclose(across, limit.at_most_m)
