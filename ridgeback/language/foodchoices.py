"""Everything that can be fed, for a choice."""

from husbandry.diet.foods import foods
from husbandry.diet.prey import CLASSES
from ridgeback.language.foodwords import prey


def choices() -> list[tuple[str, str]]:
    """Everything that can be fed, frozen prey by its class."""
    whole = [f"{animal}/{name}" for animal, sizes in CLASSES.items() for name, *_weights in sizes]
    return [(key, prey(key)) for key in [*(key for key in foods() if key not in CLASSES), *whole]]
