"""Choosing the animal of a new habitat: a species found by any of its names, what it is like, and what the plan will answer."""

import json
from dataclasses import dataclass
from datetime import date
from typing import Any, Final

from django.utils.translation import get_language
from django.utils.translation import gettext as _

from husbandry.animal.body import body_of
from husbandry.animal.needs import enclosure_needs, enough_by
from husbandry.animal.targets import targets
from husbandry.assess.facts import figures_of
from husbandry.assessment import Finding, Measure
from husbandry.plan.changes import one_ground
from husbandry.plan.habitat import Animal, HabitatPlan, RoomCase, RoomClimate
from husbandry.review.figures import doubted
from husbandry.space.sizing import SIDES, holds, sides_for
from husbandry.species.book import find
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage
from ridgeback.book import catalogue, portrait, profiles
from ridgeback.drawing import likeness
from ridgeback.language import rotawords, wording
from ridgeback.language.booktext import book
from ridgeback.language.names import CHOICES
from ridgeback.planner.spacing import size
from ridgeback.units import KeeperUnits

# A first plan to look at, by one press: what is typed for it.
EXAMPLES: Final = (
    (
        "corn-snake",
        {"animal_name": "Marram", "age": "3 years", "mass": "480 g", "name": "Driftwood shelf", "box": "4 x 2 x 2 ft"},
    ),
    ("red-eyed-tree-frog", {"animal_name": "Glasswort", "age": "14 months", "mass": "9 g", "name": "Reed corner", "box": ""}),
    ("russian-tortoise", {"animal_name": "Thrift", "age": "", "mass": "640 g", "name": "Dune yard", "box": "5 ft x 32 in x 18 in"}),
)
FACTS = 9  # of what there is to know of a species, the first
ANY_ROOM = RoomCase(day_c=22.0, night_c=18.0, humidity_percent=50.0)


def found(room_ids: list[int], query: str) -> list[tuple[str, str]]:
    """The species that a name means, the likeliest first: id and what it is called; all of them where nothing is asked."""
    every = profiles.choices(room_ids)
    if not query.strip():
        return every
    if not catalogue.reachable([]).exists():
        catalogue.enter_shipped()  # a database that was never prepared
    known = dict(every)
    hits = catalogue.search(catalogue.reachable(room_ids), query).entries
    return [(entry.species, known[entry.species]) for entry in hits if entry.species in known]


@dataclass(frozen=True)
class Answer:
    """What will come of an animal, before anything is solved: its stage, what decided it, sizes, and what it is kept at.

    `enough_by` says by which school an enclosure is large enough that is not by the book's own; `doubts` are sentences about what
    was typed that its species cannot be.
    """

    stage: str
    decided_by: str
    disputed: bool
    least: str
    better: str
    fits: bool | None
    enough_by: str
    kept: str
    doubts: tuple[str, ...]


def answer(
    profile: Profile, animal: Animal, sides_m: tuple[float, float, float] | None, today: date, units: KeeperUnits
) -> Answer | None:
    """Return what the plan will go by for this animal; None for a profile without sizes."""
    blank = HabitatPlan.model_validate(
        {
            "name": "new",
            "species": profile.id,
            "animal": animal,
            "room": RoomClimate(summer=ANY_ROOM, winter=ANY_ROOM),
            "enclosure": {"kind": "foamed-pvc", "length_m": 1.0, "width_m": 0.5, "height_m": 0.5, "lid": "solid"},
            "ground": one_ground("soil", 0.05),
            "pool": {"x_m": 0.5, "length_m": 1.0, "depth_m": 0.3} if profile.habit == "aquatic" else None,
        }
    )
    body = body_of(blank, profile, today)
    stage = body.decision.stage
    length_m = body.length_m
    if length_m is None and stage.id == profile.stages[-1].id:
        length_m = profile.body.adult(animal.sex).length_cm.middle / 100
    minimum, recommended = enclosure_needs(blank, profile, stage, length_m)
    sides = [sides_for(needs) if set(SIDES) <= set(needs) else None for needs in (minimum, recommended)]
    fits, other = None, ""
    if sides_m is not None and sides[0] is not None:
        fits = holds(sides_m, sides[0], 0.0, profile.habit)
        other = "" if fits else _enough_by(blank, profile, stage, length_m, sides_m)
    return Answer(
        book(stage.name),
        str(CHOICES["decided"][body.decision.decided_by]) if body.decision.decided_by else "",
        body.decision.disputed,
        size(sides[0], units) if sides[0] is not None else "",
        size(sides[1], units) if sides[1] is not None else "",
        fits,
        wording.school(*other.split(":")) if other else "",
        rotawords.kept_at(targets(blank, profile, stage), units),
        tuple(_doubt(item, units) for item in doubted(figures_of(blank, profile, body, today), today.isoformat())),
    )


def _doubt(item: Finding, units: KeeperUnits) -> str:
    """What cannot be, and where a slip explains it, what was likely meant."""
    said = wording.finding(item, units)
    return said if item.remedy is None else f"{said} {wording.remedy(item.remedy, units)}?"


def _enough_by(
    blank: HabitatPlan, profile: Profile, stage: Stage, length_m: float | None, sides_m: tuple[float, float, float]
) -> str:
    """A school of size by which an enclosure is large enough that is not by the book's, else ""."""
    box = dict(zip(("length_m", "width_m", "height_m"), sides_m, strict=True))
    return enough_by(blank.model_copy(update={"enclosure": blank.enclosure.model_copy(update=box)}), profile, stage, length_m)


def like(profile: Profile, units: KeeperUnits) -> dict[str, Any]:
    """What a species is like, beside the choice: names, its grown size as a picture, and the first of what there is to know."""
    picture = likeness.draw(profile.body.form, catalogue.total_cm(profile) / 100)
    return {
        "common": book(profile.common),
        "scientific": profile.scientific,
        # The book's other names are English ones; in another language they would be no names.
        "others": ", ".join(profile.other_names) if (get_language() or "").startswith("en") else "",
        "picture": picture,
        "measure": units.say(Measure(picture["measure_m"], "m")),
        "facts": portrait.facts(profile, units)[:FACTS],
    }


def examples() -> list[dict[str, str]]:
    """Examples for the form: a name, and what to fill in, as JSON."""
    return [{"name": book(find(species).common), "fields": json.dumps({"species": species} | said)} for species, said in EXAMPLES]


def none_found(query: str) -> str:
    """What is said where no species has a name like that."""
    return _("No species in the book is called anything like “%(query)s”.") % {"query": query.strip()[:60]}
