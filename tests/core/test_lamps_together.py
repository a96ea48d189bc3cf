"""Two lamps, tubes or compacts over one place are one field: the patch, the lit share, the distances and the remedies."""

from typing import Any

import pytest

from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assessment import Verdict
from husbandry.climate.heaters import Beam, patch_diameter, patch_length
from husbandry.light.ultraviolet import Lamp, distance_for, index_at
from husbandry.plan.editing import apply
from husbandry.plan.equipment import Heater
from husbandry.plan.reading import read_data
from husbandry.species.book import find
from tests.plans import TODAY, assessed, document, plan

FLOOD: dict[str, Any] = {"kind": "reflector-flood", "watts": 60.0, "height_m": 0.4, "guarded": True}
TUBE: dict[str, Any] = {"kind": "slim-6", "tube_m": 0.55, "x_m": 0.36, "height_m": 0.41, "fitted": "2026-10-01"}


def two(apart_m: float, **of_each: Any) -> list[dict[str, Any]]:
    return [FLOOD | {"x_m": 0.26 - apart_m / 2} | of_each, FLOOD | {"x_m": 0.26 + apart_m / 2} | of_each]


def beam(x_m: float) -> Beam:
    return Beam(x_m, 0.3, 30.0, 42.0, 0.095)


def test_the_patch_of_one_lamp_is_its_beams_and_two_run_together_only_when_near() -> None:
    """Rule of the trade (common practice, no source): two lamps side by side warm a longer patch than one."""
    one = patch_diameter(42.0, 0.095, 0.3)
    assert patch_length((beam(0.5),), 0.5) == pytest.approx(one, rel=0.005)
    assert patch_length((beam(0.5), beam(0.5)), 0.5) == pytest.approx(one, rel=0.005)
    near = patch_length((beam(0.4), beam(0.6)), 0.5)
    assert 1.15 * one < near < one + 0.2
    far = patch_length((beam(0.0), beam(3.0)), 0.0)
    assert far == pytest.approx(one, rel=0.02)
    strong = Beam(0.0, 0.3, 300.0, 42.0, 0.095)
    assert patch_length((strong, beam(1.2)), 0.0) == pytest.approx(one, rel=0.05)  # a weak one far off adds nothing


def test_two_lamps_over_one_stone_cover_a_body_that_one_does_not() -> None:
    skink = {"species": "blue-tongued-skink", "animal": {"mass_kg": 0.5, "length_m": 0.46}, "platform__length_m": 0.5}
    lone = assessed(**skink, heaters=[FLOOD | {"x_m": 0.26, "height_m": 0.33}]).quantity("warm_patch")
    both = assessed(**skink, heaters=two(0.18, height_m=0.33)).quantity("warm_patch")
    assert lone.value is not None
    assert both.value is not None
    assert both.value > lone.value + 0.05
    assert both.reason.parameters["lamps"] == 2
    aside = assessed(**skink, heaters=[FLOOD | {"x_m": 0.26, "height_m": 0.33}, FLOOD | {"x_m": 1.0, "height_m": 0.33}])
    assert aside.quantity("warm_patch").value == pytest.approx(lone.value)


@pytest.mark.parametrize("watts", [25.0, 100.0])
def test_the_remedy_moves_holds_and_dims_both(watts: float) -> None:
    begun = document(heaters=two(0.14, watts=watts))
    found = assess(read_data(begun), find("african-fat-tailed-gecko"), TODAY, depth=NO_DAYS)
    finding = next(item for item in found.findings if item.code.startswith("heat.basking_"))
    assert finding.remedy is not None
    paths = {change.path.rpartition(".")[0] for change in finding.remedy.changes}
    assert paths == {"heaters.0", "heaters.1"}
    mended = read_data(apply(begun, finding.remedy.changes))
    after = assess(mended, find("african-fat-tailed-gecko"), TODAY, depth=NO_DAYS)
    assert {heater.thermostat.set_c for heater in mended.heaters} == {33.0}  # type: ignore[union-attr]
    assert not any(item.code.startswith("heat.basking_") for item in after.findings)


def test_the_right_height_of_two_lamps_is_where_both_together_reach_it() -> None:
    pair = plan(heaters=two(0.1, watts=40.0), enclosure__height_m=1.2)
    right = assess(pair, find(pair.species), TODAY, depth=NO_DAYS).quantity("lamp_distance").reason.parameters.get("right")
    assert right is not None
    top_m = pair.ground.depth_m + 0.04
    hung = [Heater(**(FLOOD | {"x_m": lamp.x_m, "watts": 40.0, "height_m": right.value + top_m})) for lamp in pair.heaters]  # type: ignore[union-attr]
    surface = assess(pair.model_copy(update={"heaters": tuple(hung)}), find(pair.species), TODAY, depth=NO_DAYS)
    assert surface.quantity("basking_surface", "winter", "day").value == pytest.approx(33.0, abs=0.4)


def test_tubes_that_burn_together_are_solved_together() -> None:
    lamps = (Lamp("slim-6", 0.55, 0.3, 0.6), Lamp("compact-10", 0.05, 0.5, 0.7))
    distance = distance_for(lamps, 1.0, 0.35)
    assert distance is not None
    assert float(index_at(lamps, 0.35, 0.6 - distance)) == pytest.approx(1.0, rel=2e-3)
    alone = distance_for(lamps[:1], 1.0, 0.35)
    assert alone is not None
    assert distance > alone


def test_two_tubes_too_strong_together_are_hung_right_together() -> None:
    strong = [TUBE | {"kind": "slim-14", "x_m": x_m} for x_m in (0.3, 0.42)]
    changes: dict[str, Any] = {
        "species": "russian-tortoise",
        "animal": {"mass_kg": 0.6, "length_m": 0.14},
        "enclosure": {"kind": "open-table", "length_m": 1.8, "width_m": 0.9, "height_m": 0.9, "lid": "open"},
        "uv_lamps": strong,
        "schools": {},
    }
    found = assessed(**changes)
    assert found.quantity("uv_back").verdict is Verdict.DANGEROUS
    finding = next(item for item in found.findings if item.code == "uv.strong")
    assert finding.remedy is not None
    assert finding.remedy.code == "uv.hang_all_at"
    mended = apply(document(**changes), finding.remedy.changes)
    after = assess(read_data(mended), find("russian-tortoise"), TODAY, depth=NO_DAYS)
    assert after.quantity("uv_back").verdict is Verdict.INSIDE
    assert after.quantity("uv_distance").verdict is Verdict.INSIDE


def test_a_day_in_two_halves_is_a_whole_day_of_uv() -> None:
    """One tube in the morning and one in the afternoon: the hours add, the doses add, neither is counted twice."""
    tortoise: dict[str, Any] = {"species": "russian-tortoise", "animal": {"mass_kg": 0.6, "length_m": 0.14}, "schools": {}}
    halves = [TUBE | {"on": "08:00", "off": "14:00"}, TUBE | {"on": "14:00", "off": "20:00"}]
    split, whole = assessed(**tortoise, uv_lamps=halves), assessed(**tortoise, uv_lamps=[TUBE])
    for key in ("uv_hours", "uv_dose", "uv_back"):
        assert split.quantity(key).value == pytest.approx(whole.quantity(key).value), key


def test_a_lamp_that_warms_as_well_is_not_called_a_tube() -> None:
    vapour = {"kind": "vapour-combined", "watts": 100.0, "x_m": 0.26, "height_m": 0.4, "guarded": True, "fitted": "2026-10-01"}
    found = assessed(uv_lamps=[], heaters=[vapour])
    finding = next(item for item in found.findings if item.code == "uv.strong")
    assert finding.remedy is not None
    assert finding.remedy.code == "uv.weaker_combined"
