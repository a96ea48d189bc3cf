"""Furnish it: everything in its place, nothing in one another, floor left, and what does not fit is named."""

from typing import Any

import pytest
from hypothesis import HealthCheck, Phase, given, settings

from husbandry.animal.subject import subject_of
from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assess.furnished import FREE_LEAST
from husbandry.assess.views import hide_states
from husbandry.assessment import Change, Severity, Verdict
from husbandry.design.first_proposal import propose
from husbandry.design.furnish import Furnished, FurnishStep, furnish
from husbandry.furnishing.floor import past_walls_m
from husbandry.furnishing.things import STUFF
from husbandry.inputs.furniture import footprint, overlaps_of
from husbandry.plan.editing import apply, refit
from husbandry.plan.geometry import foot_m
from husbandry.plan.habitat import Animal, HabitatPlan, RoomCase, RoomClimate
from husbandry.plan.placement import check_places
from husbandry.plan.reading import read_data
from husbandry.species.book import find
from tests.anyplan import documents
from tests.plans import TODAY, plan

ROOM = RoomCase(day_c=21.0, night_c=18.0, humidity_percent=50.0)
TOUCH_M = 1e-9
KINDS = [
    "corn-snake",
    "russian-tortoise",
    "red-eyed-tree-frog",
    "fire-salamander",
    "axolotl",
    "giant-day-gecko",
    "blue-tongued-skink",
]


def furnished(made: HabitatPlan) -> Furnished:
    *steps, last = furnish(made, find(made.species), TODAY)
    assert isinstance(last, Furnished)
    assert all(isinstance(step, FurnishStep) for step in steps)
    return last


def first_plan(species: str, sides_m: tuple[float, float, float] | None = None) -> HabitatPlan:
    profile = find(species)
    animal = Animal(length_m=profile.body.adult_length_cm.middle / 100)
    return propose("One", profile, animal, RoomClimate(summer=ROOM, winter=ROOM), TODAY, sides_m)


@pytest.mark.sweep
@pytest.mark.parametrize("species", KINDS)
def test_a_first_plan_is_furnished_with_everything_and_nothing_stands_in_anything(species: str) -> None:
    found = furnished(first_plan(species))
    assert found.left_out == ()
    assert found.sides_m is None
    assert [item for item in overlaps_of(found.plan) if item.shared_m > TOUCH_M] == []
    assert check_places(found.plan) == []
    profile = find(species)
    after = assess(found.plan, profile, TODAY, depth=NO_DAYS)
    grave = {
        item.code for item in after.findings if item.step == "furniture" and item.severity in (Severity.DANGER, Severity.WRONG)
    }
    assert not grave - {"space.no_warm_hide", "space.no_cool_hide"}
    named = " ".join(hide.value for hide in profile.hides_of(after.body.decision.stage))
    assert any(thing.humid for thing in found.plan.things) is ("humid" in named or "damp" in named)
    if profile.habit != "aquatic":
        assert found.plan.bowl is not None


@pytest.mark.sweep
@pytest.mark.parametrize("species", ["corn-snake", "russian-tortoise"])
def test_what_does_not_fit_is_named_with_a_floor_that_holds_it(species: str) -> None:
    small = first_plan(species, (0.6, 0.4, 0.5))
    found = furnished(small)
    assert found.left_out
    assert found.sides_m is not None
    before = small.model_dump(mode="json")
    changes = Change("enclosure.length_m", found.sides_m[0]), Change("enclosure.width_m", found.sides_m[1])
    assert furnished(read_data(refit(before, apply(before, changes)))).left_out == ()


@pytest.mark.parametrize("species", ["musk-turtle", "axolotl"])
def test_what_a_first_plan_puts_under_water_sinks(species: str) -> None:
    hides = [thing for thing in first_plan(species).things if thing.good_for("hide")]
    assert hides
    assert all(STUFF[hide.made_of].kg_l > 1.0 for hide in hides)


def test_beside_land_a_turtle_hides_in_the_water_and_what_stands_there_stands_on_its_floor() -> None:
    made = first_plan("musk-turtle")
    box = made.enclosure
    half = made.model_copy(
        update={
            "pool": made.pool.model_copy(update={"length_m": 0.6 * box.length_m, "x_m": 0.7 * box.length_m, "depth_m": 0.2}),
            "ground": made.ground.model_copy(update={"layers": (made.ground.layers[0].model_copy(update={"depth_m": 0.18}),)}),
            "things": tuple(thing for thing in made.things if thing.basking),
        }
    )
    done = furnished(half).plan
    hides = [thing for thing in done.things if thing.good_for("hide")]
    assert hides
    for hide in hides:
        assert hide.x_m > 0.4 * box.length_m
        assert foot_m(done, hide) == 0.0
        assert STUFF[hide.made_of].kg_l > 1.0  # it sinks
    # What the button of a missing hide adds stands there as well, and the land's depth is none of the water's bed.
    bare = assess(half, find("musk-turtle"), TODAY, depth=NO_DAYS)
    assert not {"ground.deep", "ground.shallow"} & {item.code for item in bare.findings}
    (added,) = next(item.remedy.changes for item in bare.findings if item.code == "space.hides" and item.remedy)
    assert added.value["x_m"] > 0.4 * box.length_m
    states = hide_states(subject_of(done, find("musk-turtle"), TODAY), assess(done, find("musk-turtle"), TODAY).climate, "winter")
    assert {state.humidity for state in states} == {None}


def test_a_climber_gets_a_perch_where_the_uv_at_its_back_is_right() -> None:
    bare = first_plan("red-eyed-tree-frog").model_copy(update={"things": ()})
    frog = furnished(bare).plan
    perches = [thing for thing in frog.things if thing.kind == "branch"]
    assert any(thing.basking for thing in perches)
    item = assess(frog, find(frog.species), TODAY, depth=NO_DAYS).quantity("uv_back")
    assert item.band is not None
    assert item.verdict is Verdict.INSIDE


def test_an_animal_of_the_branches_has_its_perch_from_the_first_plan_on() -> None:
    """A tree frog does not sit on the floor under its tube."""
    frog = first_plan("red-eyed-tree-frog")
    assert frog.platform is not None
    assert frog.platform.kind == "branch"
    assert assess(frog, find(frog.species), TODAY, depth=NO_DAYS).quantity("uv_back").verdict is Verdict.INSIDE


def test_what_stands_there_is_kept_and_the_basking_place_and_its_lamp_stay() -> None:
    before = plan()
    after = furnished(before).plan
    assert [thing.kind for thing in after.things[: len(before.things)]] == [thing.kind for thing in before.things]
    assert after.platform == before.platform
    assert after.heaters == before.heaters
    assert furnished(after).plan.things == after.things


def test_floor_is_left_to_walk_on() -> None:
    boxes: list[dict[str, Any]] = [
        {"kind": "cave", "x_m": 0.6, "y_m": 0.25, "length_m": 0.3, "width_m": 0.3, "height_m": 0.1} for _ in range(4)
    ]
    crowded = read_data(plan().model_dump(mode="json") | {"things": boxes})
    found = furnished(crowded)
    assert found.left_out
    box = found.plan.enclosure
    placed = [thing for thing in found.plan.things if (thing.x_m, thing.y_m) != (0.6, 0.25)]
    taken = sum(footprint(found.plan, thing).area_m2 for thing in placed)
    assert taken <= (1 - FREE_LEAST) * box.length_m * box.width_m + 1e-6


@pytest.mark.sweep
@settings(
    max_examples=12,
    deadline=None,
    phases=(Phase.explicit, Phase.generate),
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much],
)
@given(documents())
def test_any_plan_is_furnished_without_new_overlaps_and_inside_its_walls(document: dict[str, Any]) -> None:
    made = HabitatPlan.model_validate(document)
    if check_places(made):
        return
    found = furnished(made)
    before = {item.path for item in overlaps_of(made)} | {item.other_path for item in overlaps_of(made)}
    new = range(len(made.things), len(found.plan.things))
    paths = {f"things.{index}" for index in new}
    shared = [item for item in overlaps_of(found.plan) if item.shared_m > TOUCH_M]
    assert [item for item in shared if {item.path, item.other_path} <= paths] == []
    box = found.plan.enclosure
    for index in new:
        thing = found.plan.things[index]
        assert past_walls_m(footprint(found.plan, thing), box.length_m, box.width_m) < 0.01 or f"things.{index}" in before


@pytest.mark.sweep
def test_a_chameleon_is_given_leaves_and_branches_and_no_box_to_hide_in() -> None:
    cage = furnished(first_plan("veiled-chameleon")).plan
    assert not cage.hides
    assert sum(thing.good_for("climb") for thing in cage.things) >= 2
    assert sum(thing.good_for("cover") for thing in cage.things) >= 1
    found = assess(cage, find(cage.species), TODAY, depth=NO_DAYS)
    assert not {"space.hides", "space.out_of_reach", "space.place_hot", "space.place_strong"} & {
        item.code for item in found.findings
    }


@pytest.mark.sweep
@pytest.mark.parametrize("species", ["veiled-chameleon", "russian-tortoise", "african-fat-tailed-gecko", "corn-snake"])
def test_a_mirrored_layout_mirrors_what_is_found(species: str) -> None:
    """Left and right are names: what stands at 0.3 of the length, mirrored, stands at 0.7, and every number stays."""
    made = furnished(first_plan(species)).plan
    document, length_m = made.model_dump(mode="json"), made.enclosure.length_m
    for group in ("things", "heaters", "uv_lamps", "light_bars", "probes"):
        for item in document[group]:
            item["x_m"] = round(length_m - item["x_m"], 6)
            if "slope_deg" in item:
                item["slope_deg"], item["turn_deg"] = -item["slope_deg"], -item["turn_deg"]
    mirrored = read_data(document)
    profile = find(species)
    one, two = (assess(each, profile, TODAY, depth=NO_DAYS) for each in (made, mirrored))
    assert [item.code for item in one.findings] == [item.code for item in two.findings]
    for first, second in zip(one.quantities, two.quantities, strict=True):
        assert first.id == second.id
        if first.value is not None:
            assert second.value == pytest.approx(first.value, rel=0.02, abs=0.15), first.id
