"""Frozen prey by class, and the snake's meal: by share of mass, or by girth.

Classes and weights are the trade's (common practice, no source). A rodent's thickness follows from its mass as that of a
body three times as long as thick at 1 g/mL; a snake's girth from its mass and length as that of a cylinder (both estimates,
and said to be estimates wherever they are shown).
"""

import math
from dataclasses import dataclass
from typing import Final

# (class, lightest g, heaviest g); beyond the last the weight itself is the class.
CLASSES: Final = {
    "mouse": (("pinky", 1, 3), ("fuzzy", 3, 7), ("hopper", 7, 12), ("weaner", 12, 18), ("adult", 18, 30)),
    "rat": (
        ("pinky", 3, 8),
        ("fuzzy", 9, 19),
        ("pup", 20, 30),
        ("weaned", 31, 50),
        ("small", 51, 85),
        ("medium", 86, 150),
        ("large", 151, 280),
        ("jumbo", 281, 450),
    ),
    "pinky-mouse": (("pinky", 1, 3),),
    "rabbit": (("kit", 50, 300), ("small", 301, 900), ("medium", 901, 1600), ("large", 1601, 2400), ("jumbo", 2401, 3500)),
    "chick": (("day-old", 30, 45),),
}
MOST_ITEMS: Final = 4  # more pieces than this make no meal of the class
LENGTH_OVER_THICKNESS: Final = 3.0
SNAKE_DENSITY_KG_M3: Final = 1050.0
PREY_DENSITY_KG_M3: Final = 1000.0
# The thickest part of a snake over the mean thickness of its body (estimate).
WIDEST_OVER_MEAN: Final = 1.3


@dataclass(frozen=True)
class PreyClass:
    """One class of frozen prey; masses in kg."""

    animal: str
    name: str
    lightest_kg: float
    heaviest_kg: float

    @property
    def key(self) -> str:
        return f"{self.animal}/{self.name}"

    @property
    def middle_kg(self) -> float:
        return (self.lightest_kg + self.heaviest_kg) / 2

    @property
    def thickness_m(self) -> float:
        return prey_thickness_m(self.middle_kg)


@dataclass(frozen=True)
class Offer:
    """A meal of whole prey: how many of which class, and its mass in kg. `too_thick` where one is thicker than it may be."""

    prey: PreyClass
    count: int
    too_thick: bool = False

    @property
    def mass_kg(self) -> float:
        return self.count * self.prey.middle_kg


def classes(animal: str) -> tuple[PreyClass, ...]:
    """The classes of one prey animal, smallest first; empty for what is not sold by class."""
    return tuple(PreyClass(animal, name, low / 1000, high / 1000) for name, low, high in CLASSES.get(animal, ()))


def find_class(key: str) -> PreyClass:
    """Return the class "mouse/adult"; raises KeyError."""
    animal, _slash, name = key.partition("/")
    for item in classes(animal):
        if item.name == name:
            return item
    raise KeyError(key)


def prey_thickness_m(mass_kg: float) -> float:
    """Return the thickness of a furred prey animal of this mass, an ellipsoid of `LENGTH_OVER_THICKNESS`.

    Parameters
    ----------
    mass_kg
        Mass in kg.

    Returns
    -------
    m.

    References
    ----------
    An ellipsoid as dense as water; the ratio of its axes is an estimate.
    """
    return float((6 * mass_kg / PREY_DENSITY_KG_M3 / math.pi / LENGTH_OVER_THICKNESS) ** (1 / 3))


def snake_thickness_m(mass_kg: float, total_length_m: float) -> float:
    """Estimate a snake's thickness at its widest (m) from mass (kg) and total length (m).

    Parameters
    ----------
    mass_kg
        Mass in kg.
    total_length_m
        Total length in m.

    Returns
    -------
    m.

    References
    ----------
    A cylinder as dense as water; the widest over the mean is an estimate.
    """
    area = mass_kg / SNAKE_DENSITY_KG_M3 / total_length_m
    return WIDEST_OVER_MEAN * math.sqrt(4 * area / math.pi)


def meal_by_share(
    animals: tuple[str, ...],
    low_kg: float,
    high_kg: float,
    *,
    at_most_m: float | None = None,
    in_stock: dict[str, int] | None = None,
) -> tuple[Offer, ...]:
    """Return the meals that weigh between `low_kg` and `high_kg`, best first.

    Best is what lies between by its middle weight, then the fewest pieces, then the nearest to the middle. `in_stock` counts
    what the freezer holds by class key; without it every class is to be had. A piece thicker than `at_most_m` is never offered
    while another will do. Where nothing weighs in between, the nearest meal from below stands alone.

    Parameters
    ----------
    animals
        Kinds of prey.
    low_kg, high_kg
        What the meal may weigh, kg.
    at_most_m
        The thickest piece, m.
    in_stock
        Pieces by class key.

    Returns
    -------
    Offers, best first.

    References
    ----------
    Classes of the trade by weight; common practice, no source.
    """
    middle, found, below = (low_kg + high_kg) / 2, [], []
    for prey in (item for animal in animals for item in classes(animal)):
        have = MOST_ITEMS if in_stock is None else min(in_stock.get(prey.key, 0), MOST_ITEMS)
        thick = at_most_m is not None and prey.thickness_m > at_most_m * 1.001
        for count in range(1, have + 1):
            lightest, heaviest = count * prey.lightest_kg, count * prey.heaviest_kg
            offer = Offer(prey, count, thick)
            if lightest <= high_kg and heaviest >= low_kg and low_kg * 0.85 <= offer.mass_kg <= high_kg * 1.15:
                found.append(offer)
            elif offer.mass_kg < low_kg:
                below.append(offer)

    def worth(item: Offer) -> tuple[bool, bool, int, float]:
        return item.too_thick, not low_kg <= item.mass_kg <= high_kg, item.count, abs(item.mass_kg - middle)

    order = sorted(found, key=worth)
    if order:
        return tuple(order)
    return tuple(sorted(below, key=lambda item: (item.too_thick, -item.mass_kg))[:1])


def meal_by_girth(animals: tuple[str, ...], girth_m: float, *, in_stock: dict[str, int] | None = None) -> tuple[Offer, ...]:
    """Return single pieces no thicker than `girth_m`, the thickest first (a snake's widest part, m).

    Parameters
    ----------
    animals
        Kinds of prey.
    girth_m
        The snake's widest part, m.
    in_stock
        Pieces by class key.

    Returns
    -------
    Offers, the thickest first.

    References
    ----------
    Common practice, no source: as thick as the snake's widest part.
    """
    fitting = [
        Offer(prey, 1)
        for animal in animals
        for prey in classes(animal)
        if prey.thickness_m <= girth_m and (in_stock is None or in_stock.get(prey.key, 0) > 0)
    ]
    return tuple(sorted(fitting, key=lambda item: -item.prey.thickness_m))
