"""What foods hold: feeder insects, whole prey, eggs, plants.

The table is data/foods.toml beside this module, per kg as fed: energy in kcal (metabolisable), calcium and phosphorus in mg,
protein, fat and fibre in g, vitamins A and D3 in IU. All of it is recalled, and every row says from what; a row
without calcium and phosphorus is one whose published figures are doubtful. Vitamin A is retinol; of plants it is what their
carotene is worth to an animal that can make use of it. Pure calcium carbonate is 40.04 % calcium (by its formula).

References: Finke 2002 (Zoo Biology 21:269), Finke 2013 (Zoo Biology 32:27), Barker, Fitzpatrick and Dierenfeld 1998 (Zoo Biology
17:123: vitamin A of insects), Dierenfeld, Alcorn and Jacobsen 2002 (whole prey), USDA National Nutrient Database for Standard
Reference, release 28 (plants, eggs).
"""

import tomllib
from functools import cache
from importlib.resources import files
from typing import Final, Literal

from pydantic import Field

from husbandry.species.leaves import Leaf

WANTED_RATIO: Final = 2.0  # calcium to phosphorus by mass (common clinical advice)
CARBONATE_CALCIUM: Final = 0.4004
KJ_PER_KCAL: Final = 4.184
PLANT_DIGESTED: Final = 0.55  # of a plant's energy that an animal gets out of it (estimate)

Kind = Literal[
    "insect", "worm", "pellet", "rodent", "bird", "egg", "fish", "powder", "seed",
    "hay", "weed", "leaf", "vegetable", "flower", "fruit",
]  # fmt: skip
Trait = Literal[
    "fatty", "thiaminase", "oxalate", "goitrogen", "sugary", "starchy", "watery", "rich", "complete",
]  # fmt: skip
PLANTS: Final[tuple[Kind, ...]] = ("hay", "weed", "leaf", "vegetable", "flower", "fruit")
SMALL_PREY: Final[tuple[Kind, ...]] = ("insect", "worm")
# Bones and all: calcium and vitamins come with the meal.
WHOLE_PREY: Final[tuple[Kind, ...]] = ("rodent", "bird", "fish")


class Food(Leaf):
    """One food, per kg as fed. Length (mm), mass (g) and width over length are of its largest usual piece.

    `calcium_low_mg` and `calcium_high_mg` are what its calcium varies between, where it varies much.
    """

    name: str
    kind: Kind
    kcal: float = Field(gt=0)
    calcium_mg: float | None = None
    calcium_low_mg: float | None = None
    calcium_high_mg: float | None = None
    phosphorus_mg: float | None = Field(default=None, gt=0)
    dry_share: float = Field(gt=0, le=1)
    protein_g: float | None = None
    fat_g: float | None = None
    fibre_g: float | None = None
    vitamin_a_iu: float | None = None
    vitamin_d3_iu: float = 0.0
    length_mm: float | None = None
    mass_g: float | None = None
    width_share: float | None = None
    gut_load: bool = False
    traits: tuple[Trait, ...] = ()

    @property
    def ratio(self) -> float | None:
        """Calcium over phosphorus by mass, None where either is not known."""
        if self.calcium_mg is None or self.phosphorus_mg is None:
            return None
        return self.calcium_mg / self.phosphorus_mg

    @property
    def kj_per_g(self) -> float:
        """Energy the animal gets of it, kJ per g as fed."""
        return self.kcal * KJ_PER_KCAL / 1000 * (PLANT_DIGESTED if self.kind in PLANTS else 1.0)


@cache
def foods() -> dict[str, Food]:
    """Every food by its key, in the order of the table."""
    text = files("husbandry.diet").joinpath("data/foods.toml").read_text(encoding="utf-8")
    return {key: Food.model_validate(row) for key, row in tomllib.loads(text).items()}


def food(key: str) -> Food:
    """Return one food; raises KeyError."""
    return foods()[key]


def is_small_prey(key: str) -> bool:
    """Tell whether a key of the table is prey that powder is put on."""
    known = foods().get(key)
    return known is not None and known.kind in SMALL_PREY


def carbonate_mg_per_g(calcium_mg: float, phosphorus_mg: float, ratio: float = WANTED_RATIO) -> float:
    """Return the mg of calcium carbonate each gram of food needs to reach `ratio`; 0 where it has enough.

    Calcium and phosphorus in mg per kg of food as fed.

    Parameters
    ----------
    calcium_mg, phosphorus_mg
        mg per kg of food as fed.
    ratio
        The ratio of calcium to phosphorus that is wanted.

    Returns
    -------
    mg of calcium carbonate per g of food.

    References
    ----------
    Calcium is 40 % of its carbonate by mass (40.08/100.09, atomic masses).
    """
    return max((ratio * phosphorus_mg - calcium_mg) / CARBONATE_CALCIUM / 1000, 0.0)
