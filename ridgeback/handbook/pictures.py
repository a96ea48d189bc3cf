"""What the handbook shows: drawings as the program itself makes them, of an example, in the reader's language and look."""

from collections.abc import Callable
from datetime import date
from functools import cache
from typing import Final

from django.template.loader import render_to_string
from django.utils.safestring import SafeString, mark_safe
from django.utils.translation import get_language

from husbandry.assess.assess import assess
from husbandry.assess.result import Assessment
from husbandry.design.first_proposal import propose
from husbandry.plan.habitat import Animal, HabitatPlan, RoomCase, RoomClimate
from husbandry.setup_review.review import LOOK
from husbandry.species.book import find
from husbandry.species.profile import Profile
from ridgeback.drawing import marks, section
from ridgeback.handbook.reading import DRAWN, Section
from ridgeback.language import wording
from ridgeback.language.glossary import KEYS, MARKS
from ridgeback.units import METRIC

SPECIES: Final = "african-fat-tailed-gecko"
DAY: Final = date(2026, 1, 15)  # an example's: it changes with no day
ROOM: Final = RoomCase(day_c=21.0, night_c=18.0, humidity_percent=50.0)
SHOWN_MARKS: Final = ("basking_surface", "cool_air", "uv_back")


@cache
def _example() -> tuple[HabitatPlan, Profile, Assessment]:
    profile = find(SPECIES)
    animal = Animal(name="Samphire", hatched=date(2024, 1, 15))
    plan = propose("Mudflat shelf", profile, animal, RoomClimate(summer=ROOM, winter=ROOM), DAY, None)
    return plan, profile, assess(plan, profile, DAY, depth=LOOK)


def _section() -> str:
    plan, profile, found = _example()
    look = section.Look("winter", "day", METRIC, wording.part_names(), plan)
    return render_to_string("handbook/_section.html", {"section": section.draw(plan, profile, found, look)})


def _marks() -> str:
    shown = {one.key: one for one in reversed(_example()[2].quantities) if one.key in SHOWN_MARKS}
    rows = [marks.mark(shown[key], METRIC) for key in SHOWN_MARKS if key in shown]
    return render_to_string("handbook/_marks.html", {"marks": rows})


def _verdicts() -> str:
    shown = [(key, said) for key, said in MARKS.items() if key.startswith("v-")]
    return render_to_string("handbook/_verdicts.html", {"marks": shown})


def _keys() -> str:
    return render_to_string("handbook/_keys.html", {"keys": KEYS})


DRAWINGS: Final[dict[str, Callable[[], str]]] = {"section": _section, "marks": _marks, "verdicts": _verdicts, "keys": _keys}


@cache
def _drawn(name: str, _tongue: str) -> str:
    return DRAWINGS[name]()


def html_of(one: Section) -> SafeString:
    """A section with its drawings. Its text is the program's own."""
    tongue = get_language() or ""
    return mark_safe(DRAWN.sub(lambda match: _drawn(match[1], tongue), one.html))  # Markdown without HTML, our own drawings
