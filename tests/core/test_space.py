"""How large the enclosure must be, and what the plan says of it."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assessment import Verdict
from husbandry.plan.reading import read_data
from husbandry.space.sizing import Box, depends_on_length, needs, short, sides_for
from husbandry.species.book import find
from husbandry.species.stage import Space
from tests.plans import TODAY, assessed, document


def space(*rules: dict[str, object], share: float | None = None) -> Space:
    extra = None if share is None else {"value": share, "basis": "practice"}
    return Space.model_validate({"rules": [{"basis": "practice", **rule} for rule in rules], "extra_animal_share": extra})


FIXED = {"rule": "fixed", "level": "minimum", "length": 90, "width": 45, "height": 30}
BODY = {"rule": "body", "level": "minimum", "length": 4, "width": 3, "height": 2}


def test_a_fixed_rule_is_centimetres_and_a_body_rule_multiples() -> None:
    found = needs(space(FIXED), "minimum", None)
    assert {side: need.size for side, need in found.items()} == pytest.approx({"length": 0.9, "width": 0.45, "height": 0.3})
    found = needs(space(BODY), "minimum", 0.25)
    assert {side: need.size for side, need in found.items()} == pytest.approx({"length": 1.0, "width": 0.75, "height": 0.5})


def test_the_most_demanding_rule_answers_for_each_side_by_itself() -> None:
    both = needs(space(FIXED, BODY), "minimum", 0.2)
    assert both["length"].rule.rule == "fixed"  # 90 over 80 cm
    assert both["width"].rule.rule == "body"  # 60 over 45 cm
    assert both["height"].rule.rule == "body"  # 40 over 30 cm


def test_without_the_length_body_rules_wait_and_say_so() -> None:
    assert needs(space(BODY), "minimum", None) == {}
    assert depends_on_length(space(BODY, FIXED))
    assert not depends_on_length(space(FIXED))


def test_each_further_animal_lengthens_the_enclosure_by_its_share() -> None:
    pair = needs(space(FIXED, share=0.3), "minimum", None, animals=2)
    four = needs(space(FIXED, share=0.3), "minimum", None, animals=4)
    assert pair["length"].size == pytest.approx(0.9 * 1.3)
    assert four["length"].size == pytest.approx(0.9 * 1.9)
    assert four["width"].size == pytest.approx(0.45)


def test_recommended_is_never_less_than_the_minimum() -> None:
    """A body rule may ask a long animal for more than a recommendation in centimetres does."""
    rules = space(BODY, FIXED | {"level": "recommended"})
    assert needs(rules, "recommended", 0.3)["length"].size == pytest.approx(1.2)
    assert needs(rules, "recommended", 0.1)["length"].size == pytest.approx(0.9)


def test_levels_are_kept_apart() -> None:
    rules = space(FIXED, FIXED | {"level": "recommended", "length": 120})
    assert needs(rules, "minimum", None)["length"].size == pytest.approx(0.9)
    assert needs(rules, "recommended", None)["length"].size == pytest.approx(1.2)


@given(length=st.floats(0.05, 0.6), more=st.floats(1.0, 2.0))
def test_a_longer_animal_never_needs_less(length: float, more: float) -> None:
    rules = space(FIXED, BODY)
    smaller, larger = needs(rules, "minimum", length), needs(rules, "minimum", length * more)
    assert all(larger[side].size >= smaller[side].size - 1e-12 for side in smaller)


def test_a_rule_written_the_other_way_round_asks_for_the_same_floor() -> None:
    turned = needs(space(FIXED | {"length": 45, "width": 90}), "minimum", None)
    assert turned["length"].size == pytest.approx(0.9)
    assert turned["width"].size == pytest.approx(0.45)


def test_a_floor_may_be_turned_round_but_not_a_height() -> None:
    """An enclosure's longer side answers for the rule's longer side."""
    turned = assessed(enclosure__length_m=0.5, enclosure__width_m=1.2, heaters=[], uv_lamps=[], hides=[], platform=None, bowl=None)
    assert turned.quantity("enclosure_length").value == pytest.approx(1.2)
    assert turned.quantity("enclosure_length").verdict is Verdict.INSIDE
    low = assessed(enclosure__height_m=0.15, ground__depth_m=0.02, heaters=[], uv_lamps=[], hides=[], platform=None)
    assert low.quantity("enclosure_height").verdict is Verdict.OUTSIDE


@pytest.mark.parametrize(
    ("short_m", "verdict"), [(0.0, Verdict.INSIDE), (0.0009, Verdict.INSIDE), (0.02, Verdict.NEAR), (0.3, Verdict.OUTSIDE)]
)
def test_a_millimetre_is_tolerance_a_little_is_near_and_more_is_too_small(short_m: float, verdict: Verdict) -> None:
    needed = assessed().quantity("enclosure_length").band
    assert needed is not None
    assert needed.low is not None
    bare = {"heaters": [], "uv_lamps": [], "hides": [], "platform": None, "bowl": None}
    found = assessed(schools={"space": "book"}, enclosure__length_m=needed.low - short_m, enclosure__width_m=0.35, **bare)
    assert found.quantity("enclosure_length").verdict is verdict


def test_a_hermanns_tortoise_of_ten_centimetres_needs_eight_by_four_shells() -> None:
    """BML 1997, recalled: eight shell lengths by half of that."""
    table = read_data(
        document(
            species="hermanns-tortoise",
            animal={"length_m": 0.14, "mass_kg": 0.5},
            enclosure={"kind": "open-table", "length_m": 1.2, "width_m": 0.6, "height_m": 0.45, "lid": "open"},
        )
    )
    found = assess(table, find("hermanns-tortoise"), TODAY, depth=NO_DAYS)
    length, width = (found.quantity(f"enclosure_{side}").band for side in ("length", "width"))
    assert length is not None
    assert width is not None
    assert length.low == pytest.approx(8 * 0.14)
    assert width.low == pytest.approx(4 * 0.14)
    assert length.basis.citation.startswith("BML 1997")


def test_litres_are_shown_and_never_judged() -> None:
    """Litres never stand in for floor (common practice, no source)."""
    volume = assessed().quantity("volume")
    assert volume.value == pytest.approx(1.2 * 0.5 * 0.45)
    assert volume.verdict is Verdict.NOT_APPLICABLE


def test_the_ground_is_told_in_litres() -> None:
    """5 × 2.5 ft × 3 in is 88.5 L (common practice, no source)."""
    found = assessed(enclosure__length_m=1.524, enclosure__width_m=0.762, ground__depth_m=0.0762, enclosure__height_m=0.5).quantity(
        "ground_depth"
    )
    litres = found.reason.parameters["litres"]
    assert litres.value * 1000 == pytest.approx(88.5, abs=0.1)  # type: ignore[union-attr]


STRETCH = {"rule": "stretch", "level": "minimum", "stretch": 1.0}
FLOOR = {"rule": "floor", "level": "minimum", "area": 6000}
WATER = {"rule": "volume", "level": "minimum", "litres": 60}


def test_a_snake_can_lie_stretched_along_two_walls() -> None:
    """Length and width together at least its length (a rule of snake keepers; common practice, no source)."""
    wanted = needs(space(FIXED, STRETCH), "minimum", 1.5)
    assert wanted["stretch"].size == pytest.approx(1.5)
    assert short(Box(0.9, 0.45, 0.5), wanted) == ("stretch",)
    assert short(Box(1.05, 0.45, 0.5), wanted) == ()
    assert sides_for(wanted) == pytest.approx((1.05, 0.45, 0.3))
    assert "stretch" not in needs(space(FIXED, STRETCH), "minimum", None)


def test_floor_and_water_are_areas_and_litres_and_grow_with_the_company() -> None:
    wanted = needs(space(FIXED, FLOOR, WATER, share=0.5), "minimum", None, animals=3)
    assert wanted["floor_area"].size == pytest.approx(0.6 * 2)
    assert wanted["water_volume"].size == pytest.approx(0.06 * 2)
    assert wanted["height"].size == pytest.approx(0.3)
    assert set(short(Box(1.8, 0.6, 0.4, water_m3=0.1), wanted)) == {"floor_area", "water_volume"}
    length, width, _height = sides_for(wanted)
    assert length * width >= 1.2 - 1e-9


@given(length=st.floats(0.2, 4.0), width=st.floats(0.2, 2.0), height=st.floats(0.2, 2.0), body=st.floats(0.05, 3.0))
def test_the_sides_worked_out_are_never_short(length: float, width: float, height: float, body: float) -> None:
    """Whatever the rules: an enclosure of the sides they ask for meets them, and growing it keeps it so."""
    wanted = needs(space(FIXED, BODY, STRETCH, FLOOR), "minimum", body)
    sides = sides_for(wanted)
    assert short(Box(*sides), wanted) == ()
    assert short(Box(sides[0] + length, sides[1] + width, sides[2] + height), wanted) == ()


@pytest.mark.parametrize(
    "rule",
    [
        {"rule": "fixed", "level": "minimum", "length": 90, "width": 45},
        {"rule": "stretch", "level": "minimum", "stretch": 1.0, "length": 90},
        {"rule": "volume", "level": "minimum", "area": 60},
        {"rule": "floor", "level": "minimum"},
        {"rule": "fixed", "level": "minimum", "length": -90, "width": 45, "height": 30},
    ],
)
def test_a_rule_says_what_its_kind_says_and_nothing_else(rule: dict[str, object]) -> None:
    with pytest.raises(ValidationError):
        space(rule)


def test_a_rule_for_one_sex_binds_that_sex_and_whoever_is_not_known() -> None:
    rules = space(FIXED, FIXED | {"length": 150, "sex": "male"})
    assert needs(rules, "minimum", None, sex="female")["length"].size == pytest.approx(0.9)
    assert needs(rules, "minimum", None, sex="male")["length"].size == pytest.approx(1.5)
    assert needs(rules, "minimum", None)["length"].size == pytest.approx(1.5)
