"""What no keeper feeds, with the reason, which plants must not stand in an enclosure, and where foraged food goes wrong.

Every row is common clinical or trade advice, recalled. `whom` names the diets it holds for, empty for all. Words are made
at the edge from the codes. No list is complete: what one does not know for certain stays outside.
"""

from dataclasses import dataclass
from typing import Final


@dataclass(frozen=True)
class Never:
    """A food by its code, the code of the reason, and the groups of animals it is about ("" for all).

    `stands` tells of a plant that must not grow in an enclosure either, whatever lives there: what is eaten eats it, what is not
    eaten is climbed on, dug at and drunk from.
    """

    food: str
    reason: str
    whom: str = ""
    stands: bool = False


NEVER: Final = (
    Never("avocado", "poison"),
    Never("rhubarb", "poison"),
    Never("onion-garlic", "blood"),
    Never("yew", "poison", stands=True),
    Never("oleander", "poison", stands=True),
    Never("foxglove-lily-of-the-valley", "poison", stands=True),
    Never("rhododendron-azalea", "poison", stands=True),
    Never("laburnum", "poison", stands=True),
    Never("hemlock", "poison", stands=True),
    Never("nightshade", "poison", stands=True),
    Never("box-privet", "poison", stands=True),
    Never("monkshood-larkspur", "poison", stands=True),
    Never("ragwort-buttercup", "poison", stands=True),
    Never("bulbs", "poison", stands=True),
    Never("spurges", "sap", stands=True),
    Never("arums", "needles", stands=True),
    Never("milkweed", "poison", stands=True),
    Never("fireflies", "poison"),
    Never("blister-beetles", "poison"),
    Never("monarchs", "poison"),
    Never("hairy-caterpillars", "hairs"),
    Never("stinging-insects", "stings"),
    Never("toads", "toad-poison", "whole prey"),
    Never("toads", "toad-poison", "insects"),
    Never("toads", "toad-poison", "omnivore"),
    Never("compost-worms", "bitter"),
    Never("manure-worms", "sprays"),
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
STANDING: Final = tuple(item for item in NEVER if item.stands)
FORAGING: Final = ("sure", "sprayed", "roadside", "dogs", "washed", "little")
