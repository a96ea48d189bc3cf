"""The whole book through the whole road: every stage of every species in three standard enclosures, school by school.

What comes out is not a plan to follow; it shows that no profile, stage or school breaks the assessment.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from typing import Any, Final

from husbandry.animal.needs import ADULT_SIZE
from husbandry.assess.assess import Depth, assess
from husbandry.assess.result import Assessment
from husbandry.assessment import Basis
from husbandry.codes import FindingCode
from husbandry.feeding.week_food import GROWTH, LEAN
from husbandry.plan.changes import one_ground
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage
from husbandry.units import DAYS_A_MONTH

# Sizes of the trade: a glass tank under mesh, a front-vented box, a tall screen cage.
ENCLOSURES: Final[dict[str, dict[str, Any]]] = {
    "glass": {"kind": "glass", "length_m": 0.9, "width_m": 0.45, "height_m": 0.45, "lid": "mesh"},
    "front-vented": {"kind": "foamed-pvc", "length_m": 1.2, "width_m": 0.6, "height_m": 0.6, "lid": "solid"},
    "tall screen": {"kind": "mesh", "length_m": 0.6, "width_m": 0.6, "height_m": 1.2, "lid": "mesh"},
}
ROOM: Final = {
    "summer": {"day_c": 25.0, "night_c": 21.0, "humidity_percent": 55.0},
    "winter": {"day_c": 20.0, "night_c": 17.0, "humidity_percent": 45.0},
}


@dataclass(frozen=True)
class Case:
    """One assessment of the survey: `school` is "topic:school" where one is varied, "" for the book's own."""

    species: str
    stage: str
    enclosure: str
    school: str
    plan: HabitatPlan


def cases(profile: Profile, today: date) -> Iterator[Case]:
    """Yield every stage in every enclosure, by the book's schools and then with one varied at a time."""
    varied = [f"{topic}:{school}" for topic, schools in profile.topics().items() for school in schools[1:]]
    for stage in profile.stages:
        for name, box in ENCLOSURES.items():
            for school in ("", *varied, f"size:{ADULT_SIZE}", f"{GROWTH}:{LEAN}"):
                topic, _colon, chosen = school.partition(":")
                document = _document(profile, stage, box, {topic: chosen} if school else {}, today)
                yield Case(profile.id, stage.id, name, school, HabitatPlan.model_validate(document))


def run(case: Case, profile: Profile, today: date) -> Assessment:
    """Assess one case in both seasons, the winter day stepped through."""
    return assess(case.plan, profile, today, depth=Depth(days_of=("winter",)))


def without_basis(found: Assessment) -> list[str]:
    """Name the quantities that do not say where they come from."""
    return [
        item.id
        for item in found.quantities
        if not isinstance(item.basis, Basis) or (item.band is not None and item.band.basis is None)
    ]


# Energy goes by what the enclosure reaches, which here is whatever it is: rations are held against it at the stage's own warmth in
# the tests. All else of the food goes by the book alone.
BY_WARMTH: Final = {FindingCode.DIET_FATTENING, FindingCode.DIET_STARVING}


def at_odds(case: Case, found: Assessment) -> list[str]:
    """Name the findings about food that the book's own ration makes by the book's own schools."""
    if case.school:
        return []
    return [item.code for item in found.findings if item.code.startswith("diet.") and item.code not in BY_WARMTH]


def _document(profile: Profile, stage: Stage, box: dict[str, Any], schools: dict[str, str], today: date) -> dict[str, Any]:
    """A furnished habitat with an animal in the middle of the stage, by the measure that leads it."""
    bounds = stage.bounds(stage.leads)
    assert bounds is not None
    value = 0.8 * (bounds.high or 1.0) if bounds.low is None else 1.3 * bounds.low if bounds.high is None else bounds.middle
    animal: dict[str, Any] = {"count": 1 if choose(profile.together, {}).kind == "alone" else 2}
    if stage.leads == "age":
        animal["hatched"] = date.fromordinal(today.toordinal() - round(value * DAYS_A_MONTH)).isoformat()
    else:
        name, factor = ("mass_kg", 0.001) if stage.leads == "mass" else ("length_m", 0.01)
        animal[name] = value * factor
    top = box["height_m"] if box["lid"] == "mesh" else box["height_m"] - 0.05
    place = 0.25 * box["length_m"]
    wet = profile.habit in ("aquatic", "semi-aquatic")
    return {
        "name": "survey",
        "species": profile.id,
        "animal": animal,
        "schools": schools,
        "room": ROOM,
        "enclosure": box,
        "ground": one_ground(stage.ground.kinds[0].value, 0.05),
        "things": [
            {"kind": "slate", "x_m": place, "length_m": 0.2, "height_m": 0.12 if wet else 0.03, "basking": True},
            {"kind": "humid-hide", "x_m": 0.8 * box["length_m"], "length_m": 0.18, "height_m": 0.09},
            *([] if wet else [{"kind": "bowl", "x_m": 0.6 * box["length_m"], "length_m": 0.12, "height_m": 0.04}]),
        ],
        "pool": {"x_m": 0.75 * box["length_m"], "length_m": 0.5 * box["length_m"], "depth_m": 0.12} if wet else None,
        "misting": {"grams_per_day": 40},
        "heaters": [
            {
                "kind": "halogen-flood",
                "watts": 75,
                "x_m": place,
                "height_m": top,
                "guarded": True,
                "thermostat": {"kind": "dimming", "set_c": 35.0, "probe": "basking-surface"},
            }
        ],
        "uv_lamps": [{"kind": "slim-6", "tube_m": 0.3, "x_m": place, "height_m": top, "fitted": today.isoformat()}],
        "feeding": {"starts": today.isoformat()},
    }
