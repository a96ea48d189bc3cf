"""What one feed is, for this animal: the stage rule."""

from dataclasses import dataclass
from typing import Final

from husbandry.species.leaves import Range, in_school
from husbandry.species.stage import Feeding, Meal, Supplement

Schools = dict[str, str]
NO_SCHOOLS: Final[Schools] = {}


@dataclass(frozen=True)
class Ration:
    """One part of a feed: a count, a mass in kg, or a portion in words; None where the animal's mass is not known."""

    meal: Meal
    count: tuple[int, int] | None = None
    mass_kg: tuple[float, float] | None = None
    needs_mass: bool = False


def rations(feeding: Feeding, mass_kg: float | None, animals: int = 1, schools: Schools = NO_SCHOOLS) -> tuple[Ration, ...]:
    """Apply the stage's meals to an animal of `mass_kg`; counts are for all `animals` together."""
    found = []
    for meal in in_school(feeding.meals, schools):
        if meal.count_low is not None:
            high = meal.count_high if meal.count_high is not None else meal.count_low
            found.append(Ration(meal, count=(meal.count_low * animals, high * animals)))
        elif meal.mass_share_low_percent is not None:
            if mass_kg is None:
                found.append(Ration(meal, needs_mass=True))
                continue
            high_share = meal.mass_share_high_percent or meal.mass_share_low_percent
            found.append(Ration(meal, mass_kg=(mass_kg * meal.mass_share_low_percent / 100, mass_kg * high_share / 100)))
        else:
            found.append(Ration(meal))
    return tuple(found)


def interval_days(rule: Range, chosen: int | None) -> int:
    """Return the interval in use: the keeper's, else the rule's shorter end rounded up to whole days."""
    if chosen is not None:
        return chosen
    shortest = rule.low if rule.low is not None else rule.high
    return max(1, round(shortest or 1))


def supplements_in_use(feeding: Feeding, *, uvb: bool, schools: Schools = NO_SCHOOLS) -> tuple[Supplement, ...]:
    """Return the products that apply with or without working UVB."""
    return tuple(item for item in in_school(feeding.supplements, schools) if item.uvb in ("either", "with" if uvb else "without"))


# Frozen mice by class: upper mass in g (trade).
MOUSE_CLASSES = (("pinky", 3), ("fuzzy", 7), ("hopper", 12), ("weaner", 18), ("adult", 30))


def mouse_class(mass_kg: tuple[float, float]) -> tuple[str, int]:
    """Return the prey class and how many make up the middle of the range (kg); several adults beyond the largest."""
    middle_g = 500 * (mass_kg[0] + mass_kg[1])
    for name, upper_g in MOUSE_CLASSES:
        if middle_g <= upper_g:
            return name, 1
    return "adult", round(middle_g / 24)
