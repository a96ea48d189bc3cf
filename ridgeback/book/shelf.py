"""What the shelf shows: the species that are meant, each with the few numbers one chooses by."""

from dataclasses import dataclass
from typing import Any, Final

from django.http import QueryDict
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from husbandry.species.lookup import Relatives
from husbandry.units import UnitError
from ridgeback.book import catalogue
from ridgeback.book.catalogue import Brief
from ridgeback.units import KeeperUnits, three_sizes, written

GROUPS: Final = {
    "lizard": gettext_lazy("lizards"),
    "snake": gettext_lazy("snakes"),
    "tortoise": gettext_lazy("tortoises"),
    "turtle": gettext_lazy("turtles"),
    "frog": gettext_lazy("frogs"),
    "salamander": gettext_lazy("salamanders"),
}
HABITS: Final = {
    "terrestrial": gettext_lazy("on the ground"),
    "burrowing": gettext_lazy("burrowing"),
    "rock": gettext_lazy("on rock"),
    "semi-arboreal": gettext_lazy("climbing a little"),
    "arboreal": gettext_lazy("in branches"),
    "semi-aquatic": gettext_lazy("half in water"),
    "aquatic": gettext_lazy("in water"),
}
SHOWN: Final = 80  # rows at once; the rest is counted
NAMED: Final = 40  # of those that a name brings: further down they are merely alike
ZONES: Final = {zone: zone for zone in ("1", "2", "3", "4")}
# Length in all of a large grown animal: more than, up to (cm).
SIZES: Final = {
    "small": (gettext_lazy("to a hand's length, 20 cm"), 0.0, 20.0),
    "medium": (gettext_lazy("to an arm's length, 70 cm"), 20.0, 70.0),
    "large": (gettext_lazy("to a person's length, 170 cm"), 70.0, 170.0),
    "giant": (gettext_lazy("longer"), 170.0, 10_000.0),
}
WARMTH: Final = {
    "room": gettext_lazy("at room temperature"),
    "warm": gettext_lazy("in warm air"),
    "heated": gettext_lazy("with a hot spot"),
}
FOOD: Final = {
    "insects": gettext_lazy("live insects"),
    "whole prey": gettext_lazy("thawed whole prey"),
    "plants": gettext_lazy("weeds and leaves"),
    "omnivore": gettext_lazy("insects and greens"),
    "eggs": gettext_lazy("small fresh eggs"),
    "water prey": gettext_lazy("worms, snails, pellets in water"),
    "powder and insects": gettext_lazy("powder diet, some insects"),
}


@dataclass(frozen=True)
class ShelfQuery:
    """What the keeper asks the shelf for; `box_m` is length, width and height of the enclosure one has, None without."""

    query: str = ""
    group: str = ""
    habit: str = ""
    zone: str = ""
    warmth: str = ""
    size: str = ""
    box: str = ""
    box_m: tuple[float, float, float] | None = None
    fault: str = ""

    @classmethod
    def of(cls, query: QueryDict, units: KeeperUnits) -> "ShelfQuery":
        """Read the question; what is not known is not asked."""
        known: dict[str, dict[str, Any]] = {"group": GROUPS, "habit": HABITS, "zone": ZONES, "warmth": WARMTH, "size": SIZES}
        chosen = {name: query.get(name, "") for name, words in known.items() if query.get(name, "") in words}
        box = query.get("box", "").strip()[:60]
        sizes, fault = None, ""
        if box:
            try:
                sizes = three_sizes(box, units)
            except UnitError:
                fault = _("Three sizes, as in “90 × 45 × 45” or “3 ft x 18 in x 18 in”.")
        return cls(query.get("q", "").strip()[:60], box=box, box_m=sizes, fault=fault, **chosen)


@dataclass(frozen=True)
class ShelfRow:
    """One species on the shelf."""

    brief: Brief
    group: Any
    habit: Any
    food: Any
    length: str
    years: str
    size: str
    zone: str
    warm: Any


@dataclass(frozen=True)
class Shelf:
    """The species that answer the question, the likeliest name first, at most so many at once; `more` counts the rest."""

    rows: list[ShelfRow]
    more: int
    warning: str


def look(wanted: ShelfQuery, room_ids: list[int], units: KeeperUnits) -> Shelf:
    """Answer the question from the catalogue."""
    entries = catalogue.reachable(room_ids)
    asked = {"group": wanted.group, "habit": wanted.habit, "zone": wanted.zone, "warmth": wanted.warmth}
    entries = entries.filter(**{name: answer for name, answer in asked.items() if answer})
    if wanted.size:
        entries = catalogue.of_size(entries, *SIZES[wanted.size][1:])
    if wanted.box_m is not None:
        entries = catalogue.fitting(entries, wanted.box_m)
    found = catalogue.search(entries, wanted.query)
    most = NAMED if wanted.query else SHOWN
    shown = [row(Brief(**entry.brief), units) for entry in found.entries[:most]]
    return Shelf(shown, len(found.entries) - len(shown), _warning(found.relatives))


def _warning(kin: Relatives | None) -> str:
    """What must be said when relatives answer for what was asked."""
    if kin is None:
        return ""
    said = {"genus": kin.genus.capitalize(), "asked": kin.asked.capitalize()}
    if not kin.asked:
        return _("%(genus)s is a genus; its species differ. Choose the one you keep.") % said
    return _("The book has no %(asked)s. These are its nearest relatives here: their numbers are not its numbers.") % said


def row(brief: Brief, units: KeeperUnits) -> ShelfRow:
    """Put a species' row into the keeper's words and units."""
    measure = {"snout-vent": _("snout–vent"), "total": _("long"), "shell": _("shell")}[brief.measure]
    low, high = (limit / 100 for limit in brief.length_cm)
    sides = [units.number(side, "m") for side in brief.sides_m]
    return ShelfRow(
        brief,
        GROUPS[brief.group],
        HABITS[brief.habit],
        FOOD[brief.diet],
        f"{units.between(low, high, 'm')} {measure}",
        _("%(low)s–%(high)s years") % {"low": written(brief.years[0]), "high": written(brief.years[1])},
        " × ".join(number for number, _symbol in sides) + f" {sides[0][1]}",
        brief.zone,
        WARMTH[brief.warmth],
    )


def choices(wanted: ShelfQuery) -> list[dict[str, Any]]:
    """The filters, each with its words and what is chosen."""
    asked: list[tuple[str, Any, dict[str, Any]]] = [
        ("group", _("Kind"), GROUPS),
        ("habit", _("Lives"), HABITS),
        ("zone", _("UV zone"), ZONES),
        ("warmth", _("Warmth"), WARMTH),
        ("size", _("Grown, in all"), {code: said for code, (said, _more, _most) in SIZES.items()}),
    ]
    return [
        {"name": name, "label": label, "chosen": getattr(wanted, name), "options": list(words.items())}
        for name, label, words in asked
    ]
