"""What the shelf shows: the species that are meant, each with the few numbers one chooses by."""

from dataclasses import dataclass
from typing import Any, Final

from django.http import QueryDict
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from husbandry.quantities import UnitError, parse
from husbandry.space.sizing import fits, smallest_for_grown
from husbandry.species.book import shipped
from husbandry.species.lookup import search
from husbandry.species.profile import Profile
from ridgeback.units import KeeperUnits

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
ZONES: Final = {zone: zone for zone in ("1", "2", "3", "4")}
WARMTH: Final = {"room": gettext_lazy("at room temperature"), "heated": gettext_lazy("with a hot spot")}
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
class Wanted:
    """What the keeper asks the shelf for; `box_m` is length, width and height of the enclosure one has, None without."""

    query: str = ""
    group: str = ""
    habit: str = ""
    zone: str = ""
    warmth: str = ""
    box: str = ""
    box_m: tuple[float, float, float] | None = None
    fault: str = ""

    @classmethod
    def of(cls, query: QueryDict, units: KeeperUnits) -> "Wanted":
        """Read the question; what is not known is not asked."""
        known: dict[str, dict[str, Any]] = {"group": GROUPS, "habit": HABITS, "zone": ZONES, "warmth": WARMTH}
        chosen = {name: query.get(name, "") for name, words in known.items() if query.get(name, "") in words}
        box = query.get("box", "").strip()[:60]
        sizes, fault = None, ""
        if box:
            try:
                sizes = _three(box, units)
            except UnitError:
                fault = _("Three sizes, as in “90 × 45 × 45” or “3 ft x 18 in x 18 in”.")
        return cls(query.get("q", "").strip()[:60], box=box, box_m=sizes, fault=fault, **chosen)


def _three(text: str, units: KeeperUnits) -> tuple[float, float, float]:
    parts = [part for part in text.lower().replace("×", "x").replace("*", "x").split("x") if part.strip()]
    if len(parts) != 3:
        raise UnitError("not_a_number", text=text)
    length, width, height = (parse(part, units.unit_for("m")) for part in parts)
    return length, width, height


@dataclass(frozen=True)
class Row:
    """One species on the shelf."""

    profile: Profile
    group: Any
    habit: Any
    food: Any
    length: str
    years: str
    size: str
    zone: str
    warm: Any


def room_temperature(profile: Profile) -> bool:
    """Tell whether no stage asks for a basking surface."""
    return all(stage.heat.basking_surface_c is None for stage in profile.stages)


def rows(wanted: Wanted, units: KeeperUnits) -> list[Row]:
    """The species that answer the question, likeliest name first."""
    found = []
    for profile in search(tuple(shipped().values()), wanted.query):
        warmth = "room" if room_temperature(profile) else "heated"
        asked = (
            (wanted.group, profile.group),
            (wanted.habit, profile.habit),
            (wanted.zone, profile.uv_zone.value),
            (wanted.warmth, warmth),
        )
        if any(question and question != answer for question, answer in asked):
            continue
        if wanted.box_m is not None and not fits(profile, *wanted.box_m):
            continue
        found.append(row(profile, units))
    return found


def row(profile: Profile, units: KeeperUnits) -> Row:
    body = profile.body
    measure = {"snout-vent": _("snout–vent"), "total": _("long"), "shell": _("shell")}[body.length_measure]
    low, high = ((limit or body.adult_length_cm.middle) / 100 for limit in (body.adult_length_cm.low, body.adult_length_cm.high))
    length = f"{units.number(low, 'm')[0]}–{' '.join(units.number(high, 'm'))} {measure}"
    sides = [units.number(side, "m") for side in smallest_for_grown(profile)]
    return Row(
        profile,
        GROUPS[profile.group],
        HABITS[profile.habit],
        FOOD[profile.diet],
        length,
        _("%(low)s–%(high)s years") % {"low": f"{body.lifespan_years.low:g}", "high": f"{body.lifespan_years.high:g}"},
        " × ".join(number for number, _symbol in sides) + f" {sides[0][1]}",
        profile.uv_zone.value,
        WARMTH["room" if room_temperature(profile) else "heated"],
    )


def choices(wanted: Wanted) -> list[dict[str, Any]]:
    """The filters, each with its words and what is chosen."""
    asked: list[tuple[str, Any, dict[str, Any]]] = [
        ("group", _("Kind"), GROUPS),
        ("habit", _("Lives"), HABITS),
        ("zone", _("UV zone"), ZONES),
        ("warmth", _("Warmth"), WARMTH),
    ]
    present: dict[str, set[str]] = {"group": {p.group for p in shipped().values()}, "habit": {p.habit for p in shipped().values()}}
    return [
        {
            "name": name,
            "label": label,
            "chosen": getattr(wanted, name),
            "options": [(code, said) for code, said in words.items() if code in present.get(name, set(words))],
        }
        for name, label, words in asked
    ]
