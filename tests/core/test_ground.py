"""Ground by the litre, the bag and the kilogram, in layers and areas; documents of before."""

import math
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from husbandry.assess.vetting import applied
from husbandry.design.parts import take_recipe
from husbandry.furnishing.crew import crew
from husbandry.furnishing.ground import bags, filled, heap, recipe_of, together
from husbandry.furnishing.mixes import ground_stuff, recipes
from husbandry.inputs.climate_case import enclosure_case
from husbandry.inputs.grounds import ground_bill
from husbandry.plan.changes import ground_damp, ground_depth, one_ground
from husbandry.plan.editing import apply
from husbandry.plan.geometry import surface_m
from husbandry.plan.habitat import FORMAT, HabitatPlan
from husbandry.plan.older import upgraded
from husbandry.plan.reading import PlanProblems, read_data
from tests.plans import assessed_as, codes, document, document_before, plan

MIX = st.dictionaries(st.sampled_from(sorted(ground_stuff())), st.floats(0.01, 20), min_size=1, max_size=5)


def floor(length_m: float, width_m: float, height_m: float, ground: dict[str, Any]) -> HabitatPlan:
    """An enclosure with nothing in it but its ground."""
    box = {"kind": "plywood", "length_m": length_m, "width_m": width_m, "height_m": height_m, "lid": "solid"}
    return read_data(document(enclosure=box, heaters=[], uv_lamps=[], hides=[], platform=None, bowl=None) | {"ground": ground})


def test_the_litres_of_a_five_foot_floor() -> None:
    """Common practice, no source: 5 ft by 2½ ft, 3 in deep, is 88.5 L."""
    found = ground_bill(floor(5 * 0.3048, 2.5 * 0.3048, 0.6, one_ground("gravel", 3 * 0.0254)))
    assert found.whole.settled_l == pytest.approx(88.5, abs=0.05)


@pytest.mark.parametrize(
    ("parts", "litres"),
    [({"soil": 1, "sand": 1.5, "clay": 0.2}, (37.0, 55.6, 7.4)), ({"soil": 1, "sand": 1, "clay": 0.2}, (45.5, 45.5, 9.1))],
)
def test_parts_by_volume_of_a_square_metre(parts: dict[str, float], litres: tuple[float, ...]) -> None:
    """Common practice, no source: 100 L at 1 : 1.5 : 0.2 and at 1 : 1 : 0.2."""
    found = heap(100.0, parts, pressed=0.0)  # type: ignore[arg-type]
    assert tuple(found.parts_l.values()) == pytest.approx(litres, abs=0.06)


def test_layered_desert_ground_of_thirty_centimetres_weighs_what_the_trade_says() -> None:
    """Common practice, no source: 300 L on a square metre, 360 to 480 kg; a week to settle."""
    made = take_recipe(floor(1.0, 1.0, 0.8, one_ground("sand", 0.3)), "layered-desert")
    found = ground_bill(made)
    assert found.whole.settled_l == pytest.approx(300.0, abs=0.5)
    assert 360 <= found.whole.kg <= 480
    assert found.kg_m2 == pytest.approx(found.whole.kg, rel=1e-6)
    assert (found.beds[0].recipe, found.beds[0].settle_days) == ("layered-desert", 7)
    assert made.ground.depth_m == pytest.approx(0.3)


def test_juvenile_tortoise_ground_in_bags() -> None:
    """Common practice, no source: 1.5 by 0.75 m, 7 to 8 cm of coir and topsoil 4 : 1; from the bag it is looser than it lies."""
    found = ground_bill(take_recipe(floor(1.5, 0.75, 0.6, one_ground("coir", 0.075)), "tortoise"))
    assert found.whole.settled_l == pytest.approx(84.4, abs=0.1)
    assert found.whole.loose_l > found.whole.settled_l
    assert found.whole.parts_l["coir"] == pytest.approx(4 * found.whole.parts_l["soil"])
    assert filled(found.whole.parts_l["coir"], 50.0) == 2


@pytest.mark.parametrize(("material", "damp", "kg_l"), [("sand", False, 1.6), ("soil", True, 1.2), ("coir", True, 0.3)])
def test_what_a_litre_weighs(material: Any, damp: bool, kg_l: float) -> None:
    """Common practice, no source: dry sand, moist soil and coir on the stand."""
    assert heap(1.0, {material: 1.0}, damp=damp).kg == pytest.approx(kg_l, rel=0.12)


@given(litres=st.floats(0.1, 5000), size=st.floats(0.5, 200))
def test_bags_hold_it_and_one_less_would_not(litres: float, size: float) -> None:
    count = filled(litres, size)
    assert count * size >= litres * (1 - 1e-5)
    assert (count - 1) * size < litres


@given(MIX, st.floats(0.1, 2000), st.booleans())
def test_a_mix_is_all_of_its_parts_and_no_more(parts: dict[Any, float], litres: float, damp: bool) -> None:
    found = heap(litres, parts, damp=damp)
    assert math.fsum(found.parts_l.values()) == pytest.approx(found.loose_l)
    assert found.loose_l >= litres
    assert found.kept_l <= found.field_l
    twice = together([found, found])
    assert twice.kg == pytest.approx(2 * found.kg)


def test_parts_of_nothing_and_a_material_named_twice_are_refused() -> None:
    with pytest.raises(ValueError, match="nothing"):
        heap(1.0, {"sand": 0.0})
    for parts, code in (([{"material": "sand", "parts": 0}], "parts_of_nothing"), ([{"material": "sand"}] * 2, "part_twice")):
        with pytest.raises(PlanProblems) as refused:
            read_data(document() | {"ground": {"layers": [{"parts": parts, "depth_m": 0.1}]}})
        assert code in {problem.code for problem in refused.value.problems}


def test_an_area_has_its_own_ground_and_takes_it_from_the_floor() -> None:
    """A dug-in half: a part of the floor suffices where the species only digs in a part."""
    deep = {"x_m": 0.9, "y_m": 0.25, "length_m": 0.6, "width_m": 0.5, "layers": one_ground("soil", 0.3)["layers"]}
    made = floor(1.2, 0.5, 0.6, one_ground("sand", 0.05) | {"areas": [deep]})
    found = ground_bill(made)
    assert [bed.heaps[0].settled_l for bed in found.beds] == pytest.approx([15.0, 90.0])
    assert (surface_m(made, 0.2, 0.25), surface_m(made, 0.9, 0.25)) == (0.05, 0.3)


@pytest.mark.parametrize(
    ("change", "code"),
    [
        ({"rise_right_m": 0.3}, "slope_bares_floor"),
        ({"areas": [{"x_m": 1.0, "y_m": 0.25, "length_m": 0.6, "width_m": 0.5}]}, "area_outside"),
        ({"areas": [{"x_m": 0.5, "y_m": 0.25, "length_m": 0.6, "width_m": 0.5}] * 2}, "areas_overlap"),
    ],
)
def test_ground_that_cannot_lie_so_is_refused(change: dict[str, Any], code: str) -> None:
    base = one_ground("soil", 0.1)
    for area in change.get("areas", ()):
        area["layers"] = base["layers"]
    with pytest.raises(PlanProblems) as refused:
        read_data(document() | {"ground": base | change})
    assert code in {problem.code for problem in refused.value.problems}


def test_a_slope_adds_on_one_side_what_it_takes_on_the_other() -> None:
    level = floor(1.2, 0.5, 0.6, one_ground("soil", 0.1))
    sloped = floor(1.2, 0.5, 0.6, one_ground("soil", 0.1) | {"rise_right_m": 0.08, "rise_back_m": 0.04})
    assert ground_bill(sloped).whole.settled_l == pytest.approx(ground_bill(level).whole.settled_l)
    assert (surface_m(sloped, 0.0, 0.25), surface_m(sloped, 1.2, 0.25), surface_m(sloped, 0.6, 0.5)) == pytest.approx(
        (0.06, 0.14, 0.12)
    )


def test_what_stands_on_the_floor_takes_its_room_from_the_ground() -> None:
    bare = floor(1.2, 0.5, 0.6, one_ground("soil", 0.1))
    stone = {"kind": "stone", "x_m": 0.6, "length_m": 0.2, "width_m": 0.2, "height_m": 0.15}
    held = [read_data(bare.model_dump(mode="json") | {"things": [stone | {"base": base}]}) for base in ("floor", "ground")]
    litres = [ground_bill(made).whole.settled_l for made in (bare, *held)]
    assert litres[0] - litres[1] == pytest.approx(1000 * 0.2 * 0.2 * 0.1)
    assert litres[2] == litres[0]


def test_every_recipe_is_known_again_and_its_parts_add_up() -> None:
    for key, recipe in recipes().items():
        assert sum(layer.share for layer in recipe.layers) == pytest.approx(1.0)
        depth_m = (recipe.least_m + recipe.most_m) / 2
        assert recipe_of((layer.share * depth_m, layer.parts) for layer in recipe.layers) in (key, "arid-mix")


def test_deeper_and_damper_keep_the_layers() -> None:
    made = take_recipe(plan(), "layered-desert")
    before = made.model_dump(mode="json")
    deeper = read_data(apply(before, ground_depth(made, 0.27)))
    assert deeper.ground.depth_m == pytest.approx(0.27)
    assert deeper.ground.layers[0].depth_m == pytest.approx(0.135, abs=1e-3)
    dry = read_data(apply(before, ground_damp(made, damp=False)))
    assert not dry.ground.damp
    again = read_data(apply(dry.model_dump(mode="json"), ground_damp(dry, damp=True)))
    assert [layer.damp for layer in again.ground.layers] == [True, True, False]


# ---- documents of before ----


def test_a_document_of_before_means_what_it_meant() -> None:
    made = read_data(document_before(platform={"kind": "branch", "x_m": 0.3, "length_m": 0.4, "height_m": 0.25}))
    assert made.format == FORMAT
    assert (made.ground.kind, made.ground.depth_m, made.ground.damp) == ("soil", 0.07, False)
    assert [thing.kind for thing in made.things] == ["branch", "hide", "humid-hide", "hide", "bowl"]
    assert made.platform is not None
    assert made.platform.top_m == pytest.approx(0.25)
    assert made.bowl is not None
    assert made.bowl.diameter_m == 0.11
    again = read_data(made.model_dump(mode="json"))
    assert again == made


@pytest.mark.parametrize(
    "broken", [{"hides": "many"}, {"hides": [3]}, {"platform": "stone"}, {"ground": []}, {"ground": {}}, {"bowl": {"x_m": True}}]
)
def test_a_broken_document_of_before_is_refused_in_its_own_words(broken: dict[str, Any]) -> None:
    with pytest.raises(PlanProblems) as refused:
        read_data(document_before() | broken)
    (name,) = broken
    assert {problem.path.partition(".")[0] for problem in refused.value.problems} == {name}


def test_what_is_of_today_is_left_alone() -> None:
    today = document()
    assert upgraded(today, FORMAT)[0]["things"] == today["things"]


# ---- a living ground ----


def test_a_crew_wants_damp_ground_and_litter_and_the_buttons_give_both() -> None:
    """Common practice, no source: isopods and springtails dry out, and starve without leaves."""
    made = read_data(document() | {"ground": one_ground("soil", 0.07) | {"living": True}})
    asked = {item.code: item for item in assessed_as(made).findings if item.code.startswith("ground.crew")}
    assert set(asked) == {"ground.crew_dry", "ground.crew_hungry"}
    for item in asked.values():
        assert item.remedy is not None
        made = read_data(applied(made, item.remedy.changes))
    assert not any(code.startswith("ground.crew") for code in codes(assessed_as(made)))
    assert made.ground.damp
    assert made.ground.layers[-1].main == "leaf-litter"


def test_a_crew_by_the_litre() -> None:
    """Common practice, no source: half an isopod to a litre of damp ground, two centimetres of leaves."""
    damp, dry = crew(60.0, 0.6, damp=True), crew(60.0, 0.6, damp=False)
    assert (damp.isopods, damp.litter_l) == (30, pytest.approx(12.0))
    assert dry.isopods < damp.isopods
    assert (dry.springtails_ml, damp.springtails_ml) == (0.0, 180.0)
    assert crew(1.0, 0.05, damp=True).isopods == 10


# ---- the ground in the climate ----


def layered(*layers: tuple[str, float], **more: Any) -> HabitatPlan:
    lies = [{"parts": [{"material": kind}], "depth_m": depth_m} for kind, depth_m in layers]
    return read_data(document() | {"ground": {"layers": lies, **more}})


def test_one_material_in_two_layers_is_one_ground_to_the_climate() -> None:
    whole, split = (assessed_as(layered(*layers)) for layers in ((("soil", 0.07),), (("soil", 0.03), ("soil", 0.04))))
    for one, other in zip(whole.quantities, split.quantities, strict=True):
        if one.season and one.value is not None:
            assert other.value == pytest.approx(one.value, abs=0.02), one.id


def test_layers_pass_heat_in_series_and_beds_side_by_side_in_parallel() -> None:
    """By hand: 5 cm of dry sand (0.3 W/mK) on 5 cm of coir (0.08) pass 0.126; half coir, half sand side by side 0.19."""
    (bed, *_rest) = enclosure_case(layered(("coir", 0.05), ("sand", 0.05))).beds
    assert bed.conductivity == pytest.approx(0.1 / (0.05 / 0.08 + 0.05 / 0.3))
    half = {"x_m": 0.6, "y_m": 0.125, "length_m": 1.2, "width_m": 0.25, "layers": one_ground("sand", 0.1)["layers"]}
    (beside, *_more) = enclosure_case(layered(("coir", 0.1), areas=[half])).beds
    assert beside.conductivity == pytest.approx((0.08 + 0.3) / 2)
    assert beside.depth_m == pytest.approx(0.1)


def test_a_deep_half_is_felt_where_it_lies() -> None:
    deep = {"x_m": 0.9, "y_m": 0.25, "length_m": 0.6, "width_m": 0.5, "layers": one_ground("sand", 0.2)["layers"]}
    beds = enclosure_case(layered(("sand", 0.05), areas=[deep])).beds
    assert [bed.depth_m for bed in beds] == pytest.approx([0.05, 0.05, 0.125, 0.2, 0.2])
    sloped = enclosure_case(layered(("sand", 0.1), rise_right_m=0.1)).beds
    assert [bed.depth_m for bed in sloped] == pytest.approx([0.06, 0.08, 0.1, 0.12, 0.14])
    assert enclosure_case(layered(("sand", 0.1))).beds == ()


def test_a_dry_layer_on_top_keeps_the_damp_below_in() -> None:
    """Penman 1940 (recalled): vapour comes through the dry layer by diffusion, the slower the thicker it is."""
    damp = {"parts": [{"material": "sandy-loam"}], "depth_m": 0.1, "damp": True}
    covered = {"layers": [damp, {"parts": [{"material": "sand"}], "depth_m": 0.05}]}
    bare, under = (read_data(document() | {"ground": ground}) for ground in ({"layers": [damp]}, covered))
    assert [enclosure_case(made).dry_top_m for made in (bare, under)] == pytest.approx([0.0125, 0.0625])
    humid = [assessed_as(made).quantity("cool_humidity", "winter", "day").value for made in (bare, under)]
    assert humid[1] < humid[0] - 3


BOUGHT = [(21.0, 1, 25.0), (9.0, 1, 10.0), (14.0, 3, 5.0), (83.0, 2, 50.0), (400.0, 8, 50.0)]


@pytest.mark.parametrize(("litres", "count", "size_l"), BOUGHT)
def test_a_few_bags_leave_least_over_and_much_comes_in_large_ones(litres: float, count: int, size_l: float) -> None:
    """By hand: of 5, 10, 25 and 50 L, no more than three of a kind until only the largest will do."""
    assert bags(litres) == (count, size_l)
