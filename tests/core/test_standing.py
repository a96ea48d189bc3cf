"""What stands where: past the walls, in one another, in the water, under the lamp; the bowl, the lid, quarantine."""

from typing import Any

import pytest

from husbandry.assess.vetting import vetted
from husbandry.assessment import Severity
from husbandry.plan.editing import apply
from husbandry.plan.reading import read_data
from husbandry.species.book import find
from tests.plans import assessed, assessed_as, codes, document, plan

HIDE: dict[str, Any] = {"x_m": 0.5, "length_m": 0.18, "height_m": 0.08}
SNAKE: dict[str, Any] = {
    "species": "corn-snake",
    "schools": {},
    "animal": {"mass_kg": 0.5, "length_m": 1.2},
    "hides": [{"x_m": 0.5, "length_m": 0.25, "height_m": 0.1}],
}
POOL = {"x_m": 0.6, "length_m": 1.2, "depth_m": 0.3}
BOA = {"species": "brazilian-rainbow-boa"}
FROG: dict[str, Any] = {"species": "dart-frog", "schools": {}, "animal": {"length_m": 0.035}, "hides": []}


@pytest.mark.sweep
@pytest.mark.parametrize(
    ("code", "severity", "changes"),
    [
        ("space.open_top", Severity.DANGER, {"enclosure__lid": "open"}),
        ("space.past_wall", Severity.WRONG, {"hides": [HIDE | {"x_m": 1.2, "length_m": 1.0}]}),
        ("space.past_wall", Severity.WRONG, {"platform": {"kind": "slate", "x_m": 0.05, "length_m": 0.4, "height_m": 0.04}}),
        ("space.past_wall", Severity.WRONG, {"bowl": {"x_m": 1.2, "diameter_m": 0.2}}),
        ("space.tall_hide", Severity.WRONG, {"hides": [HIDE | {"height_m": 2.0}]}),
        ("space.overlap_alike", Severity.ADVICE, {"hides": [HIDE | {"y_m": 0.25}, HIDE | {"x_m": 0.55, "y_m": 0.2}]}),
        ("space.in_pool", Severity.WRONG, {"pool": {"x_m": 1.05, "length_m": 0.2, "depth_m": 0.1}}),
        ("space.hide_under_lamp", Severity.DANGER, {"hides": [HIDE | {"x_m": 0.26, "height_m": 0.25}]}),
        ("moisture.bowl_under_lamp", Severity.ADVICE, {"bowl": {"x_m": 0.26, "diameter_m": 0.1}}),
        ("moisture.bowl_small", Severity.ADVICE, SNAKE | {"bowl": {"x_m": 0.9, "diameter_m": 0.06}}),
        (
            "moisture.bowl_small",
            Severity.WRONG,
            SNAKE | BOA | {"bowl": {"x_m": 0.9, "diameter_m": 0.06}},
        ),
        ("moisture.bowl_deep", Severity.DANGER, FROG | {"bowl": {"x_m": 0.9, "diameter_m": 0.1, "depth_m": 0.06}}),
        ("water.below_ground", Severity.WRONG, {"pool": {"x_m": 0.9, "length_m": 0.2, "depth_m": 0.03}}),
        ("ground.quarantine", Severity.WRONG, {"upkeep": {"quarantine_until": "2027-01-10"}}),
    ],
)
def test_what_stands_wrong_is_found_and_its_button_mends_it(code: str, severity: Severity, changes: dict[str, Any]) -> None:
    """Common practice, no source: coil in the bowl, chin out of the water, paper in quarantine, nothing to climb near a lamp."""
    made = plan(**changes)
    profile, before = find(made.species), assessed(**changes)
    finding = next(item for item in before.findings if item.code == code)
    assert finding.severity is severity
    offered = next(item for item in vetted(made, profile, before, only=finding.id).findings if item.id == finding.id)
    assert offered.remedy is not None
    assert offered.remedy.changes
    mended = apply(document(**changes), offered.remedy.changes)
    assert code not in codes(assessed_as(read_data(mended)))


@pytest.mark.parametrize(
    ("code", "changes"),
    [
        ("space.open_top", {"species": "russian-tortoise", "animal": {"mass_kg": 0.6}, "enclosure__lid": "open"}),
        (
            "space.in_pool",
            {"species": "axolotl", "animal": {"length_m": 0.2}, "pool": POOL},
        ),
        ("moisture.bowl_deep", SNAKE | {"bowl": {"x_m": 0.9, "diameter_m": 0.2, "depth_m": 0.1}}),
        ("space.overlap_alike", {"hides": [HIDE, HIDE | {"x_m": 0.55}]}),  # one behind the other
        ("ground.quarantine", {"upkeep": {"quarantine_until": "2026-11-01"}}),
        ("ground.shallow", {"upkeep": {"quarantine_until": "2027-01-10"}, "ground": {"kind": "paper", "depth_m": 0.005}}),
    ],
)
def test_what_is_right_as_it_stands_is_no_finding(code: str, changes: dict[str, Any]) -> None:
    base = {"schools": {}} if "species" in changes else {}
    assert code not in codes(assessed(**(base | changes)))


def test_in_a_tank_a_cave_is_moved_clear_of_the_next_and_no_further() -> None:
    """The water is the floor there, not something in the way: it pushed what was moved to the glass."""
    tank: dict[str, Any] = {
        "species": "axolotl",
        "animal": {"length_m": 0.2},
        "schools": {},
        "bowl": None,
        "platform": None,
        "heaters": [],
    }
    wide = {"length_m": 0.3}
    floor_m = plan().enclosure.length_m
    found = assessed(
        **tank,
        pool={"x_m": floor_m / 2, "length_m": floor_m, "depth_m": 0.3},
        hides=[HIDE | wide | {"x_m": 0.4, "y_m": 0.25}, HIDE | wide | {"x_m": 0.5, "y_m": 0.25}],
    )
    (change,) = next(item.remedy.changes for item in found.findings if item.code == "space.overlap_alike" and item.remedy)
    other_m = 0.5 if change.path == "things.0.x_m" else 0.4
    assert 0.3 <= abs(change.value - other_m) < 0.33


@pytest.mark.parametrize(
    ("kind", "hours", "probe", "set_c"),
    [
        ("reflector-flood", {"on": "08:00", "off": "20:00"}, "warm-air", 24.5),
        ("ceramic-emitter", {"on": "20:00", "off": "08:00"}, "cool-air", 19.5),
    ],
)
def test_a_heater_is_held_by_what_is_wanted_while_it_is_on(kind: str, hours: dict[str, str], probe: str, set_c: float) -> None:
    """A dart frog's air is 23 to 26 °C by day and 18 °C or more by night (the book): a lamp by day held at 19.5 stays dark."""
    heater = {"kind": kind, "watts": 60.0, "x_m": 0.3, "height_m": 0.35} | hours
    found = assessed(**FROG | {"heaters": [heater]})
    (finding,) = (item for item in found.findings if item.code == "heat.no_thermostat")
    assert finding.remedy is not None
    (change,) = finding.remedy.changes
    assert (change.value["probe"], change.value["set_c"]) == (probe, set_c)
