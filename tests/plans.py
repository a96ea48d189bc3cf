"""Plans to test with: one good habitat, and ways to change it."""

from datetime import date
from functools import lru_cache
from typing import Any

from husbandry.assess.assess import NO_DAYS, Depth, assess
from husbandry.assess.result import Assessment
from husbandry.assessment import Change
from husbandry.plan.editing import apply
from husbandry.plan.habitat import FORMAT, HabitatPlan
from husbandry.plan.older import upgraded
from husbandry.plan.reading import read_data
from husbandry.species.book import find

TODAY = date(2026, 11, 24)


def document(**changes: Any) -> dict[str, Any]:
    """A fat-tailed gecko's plan, as it is written today; keyword `a__b` changes the path a.b of the document of before."""
    return upgraded(document_before(**changes), FORMAT)[0]


def document_before(**changes: Any) -> dict[str, Any]:
    """The same as a document of ridgeback-plan/1: one ground, one basking place, hides and a bowl."""
    room = {"day_c": 22.0, "night_c": 20.0, "humidity_percent": 50.0}
    base: dict[str, Any] = {
        "format": "ridgeback-plan/1",
        "name": "Test shelf",
        "species": "african-fat-tailed-gecko",
        "animal": {"name": "Sedge", "sex": "female", "hatched": "2024-09-01", "mass_kg": 0.058, "length_m": 0.125},
        "schools": {"uvb": "shade"},
        "room": {"summer": room, "winter": dict(room)},
        "enclosure": {"kind": "foamed-pvc", "length_m": 1.2, "width_m": 0.5, "height_m": 0.45, "lid": "solid"},
        "ground": {"kind": "soil", "depth_m": 0.07},
        "platform": {"kind": "slate", "x_m": 0.26, "length_m": 0.22, "height_m": 0.04},
        "hides": [
            {"x_m": 0.5, "length_m": 0.18, "height_m": 0.08},
            {"x_m": 0.74, "length_m": 0.18, "height_m": 0.09, "humid": True},
            {"x_m": 1.04, "length_m": 0.2, "height_m": 0.09},
        ],
        "bowl": {"x_m": 0.89, "diameter_m": 0.11},
        "heaters": [
            {
                "kind": "reflector-flood",
                "watts": 75.0,
                "x_m": 0.26,
                "height_m": 0.4,
                "guarded": True,
                "thermostat": {"kind": "dimming", "set_c": 33.0, "probe": "basking-surface"},
            }
        ],
        "uv_lamps": [{"kind": "wide-5", "tube_m": 0.55, "x_m": 0.36, "height_m": 0.41, "fitted": "2026-10-01"}],
        "feeding": {"starts": "2026-11-01"},
    }
    return apply(base, tuple(Change(path.replace("__", "."), value) for path, value in changes.items()))


def plan(**changes: Any) -> HabitatPlan:
    """The same as a checked plan."""
    return read_data(document_before(**changes))


def assessed(**changes: Any) -> Assessment:
    """The same, assessed on a fixed day."""
    return assessed_as(plan(**changes))


def assessed_as(made: HabitatPlan, depth: Depth = NO_DAYS) -> Assessment:
    """A plan, assessed on that day; nothing that is asked of one assessment changes it, so that a plan is assessed once."""
    return _assessed(made.model_dump_json(), depth)


@lru_cache(maxsize=64)
def _assessed(text: str, depth: Depth) -> Assessment:
    made = HabitatPlan.model_validate_json(text)
    return assess(made, find(made.species), TODAY, depth=depth)


def codes(found: Assessment) -> set[str]:
    """The codes of all findings."""
    return {finding.code for finding in found.findings}


# A ceramic emitter that warms the warm end by day.
DARK_BY_DAY: dict[str, Any] = {
    "kind": "ceramic-emitter",
    "watts": 100.0,
    "x_m": 0.4,
    "height_m": 0.4,
    "guarded": True,
    "thermostat": {"kind": "pulse", "set_c": 29.0, "probe": "warm-air"},
}
