"""Words for foods: classes of frozen prey, size limits, what an intake does."""

from django.utils.translation import gettext_lazy as _

from husbandry.diet.foods import foods
from ridgeback.language.booktext import book

PREY = {
    "mouse": _("mouse"),
    "rat": _("rat"),
    "rabbit": _("rabbit"),
    "chick": _("chick"),
    "pinky-mouse": _("mouse"),
}
PREY_SIZES = {
    "pinky": _("pinky"),
    "fuzzy": _("fuzzy"),
    "hopper": _("hopper"),
    "weaner": _("weaner"),
    "adult": _("adult"),
    "pup": _("pup"),
    "weaned": _("weaned"),
    "small": _("small"),
    "medium": _("medium"),
    "large": _("large"),
    "jumbo": _("jumbo"),
    "kit": _("kit"),
    "day-old": _("day-old"),
}
LIMITS = {
    "gap-of-eyes": _("wider than the gap between its eyes"),
    "head-length": _("longer than its head"),
    "girth": _("thicker than its widest girth"),
    "mouth": _("wider than its mouth"),
    "egg-2": _("thicker than twice its head"),
    "egg-3": _("thicker than three times its head"),
}
INTAKE = {
    "starving": _("starving"),
    "lean": _("lean"),
    "growing": _("enough to grow"),
    "fattening": _("fattening"),
    "unknown": _("unknown"),
}


def prey(key: str) -> str:
    """A class of frozen prey: "mouse, adult"; other food by its name in the table."""
    animal, _slash, size = key.partition("/")
    known = foods().get(animal)
    named = str(PREY.get(animal, book(known.name if known else animal)))
    return f"{named}, {PREY_SIZES.get(size, size)}" if size else book(known.name if known else key)
