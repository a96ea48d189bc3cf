"""What no keeper feeds, with the reason, and where foraged food goes wrong.

Every row is common clinical or trade advice, recalled. `whom` names the diets it holds for, empty for all. Words are made
at the edge from the codes.
"""

from dataclasses import dataclass
from typing import Final


@dataclass(frozen=True)
class Never:
    """A food by its code, the code of the reason, and the groups of animals it is about ("" for all)."""

    food: str
    reason: str
    whom: str = ""


NEVER: Final = (
    Never("avocado", "poison"),
    Never("rhubarb", "poison"),
    Never("onion-garlic", "blood"),
    Never("foxglove-oleander-yew", "poison"),
    Never("ragwort-buttercup", "poison"),
    Never("fireflies", "poison"),
    Never("wild-insects", "sprays"),
    Never("bought-bouquet", "sprays"),
    Never("dog-cat-food", "protein", "plants"),
    Never("bread-pasta-dairy", "gut"),
    Never("citrus", "acid"),
    Never("thiaminase-fish-alone", "thiaminase", "fish"),
    Never("raw-meat-alone", "calcium", "meat"),
    Never("fruit-for-grazers", "sugar", "grazers"),
    Never("spinach-chard-daily", "oxalate", "plants"),
    Never("live-rodents", "bites", "whole prey"),
)
FORAGING: Final = ("sure", "sprayed", "roadside", "dogs", "washed", "little")
