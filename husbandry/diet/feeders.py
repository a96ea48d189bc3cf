"""What feeder insects hold, and the plain calcium that makes a meal of them right.

Composition per kg as fed after Finke 2002 (Zoo Biology 21) and 2013 (Zoo Biology 32), recalled: energy (metabolisable, kcal),
calcium and phosphorus in mg, protein and fat in g. Pure calcium carbonate is 40.04 % calcium (by its formula).
"""

from dataclasses import dataclass
from typing import Final

WANTED_RATIO: Final = 2.0  # calcium to phosphorus by mass (common clinical advice)
CARBONATE_CALCIUM: Final = 0.4004


@dataclass(frozen=True)
class Feeder:
    """One feeder, per kg as fed: kcal, mg of calcium and phosphorus; protein and fat in g where recalled, else None."""

    kcal: float
    calcium_mg: float
    phosphorus_mg: float
    protein_g: float | None = None
    fat_g: float | None = None


FEEDERS: Final = {
    "cricket": Feeder(1402, 407, 2950, 205, 68),
    "mealworm": Feeder(2056, 169, 2850, 187, 134),
    "superworm": Feeder(2423, 177, 2370, 197, 177),
    "waxworm": Feeder(2747, 243, 1950, 141, 249),
    "earthworm": Feeder(708, 444, 1590, 105, 16),
    "soldier-fly larva": Feeder(1994, 9340, 3560, 175, 140),
}


def calcium_ratio(feeder: Feeder) -> float:
    """Return calcium over phosphorus by mass."""
    return feeder.calcium_mg / feeder.phosphorus_mg


def carbonate_mg_per_g(feeder: Feeder, ratio: float = WANTED_RATIO) -> float:
    """Return the mg of calcium carbonate that must stick to each gram of feeder to reach `ratio`; 0 where it has enough."""
    missing_mg_per_kg = ratio * feeder.phosphorus_mg - feeder.calcium_mg
    return max(missing_mg_per_kg / CARBONATE_CALCIUM / 1000, 0.0)


def named_in(food: str) -> tuple[str, ...]:
    """Return the feeders a meal names, as "crickets or worms" names the cricket."""
    return tuple(name for name in FEEDERS if name.split("-")[0].split()[0] in food)
