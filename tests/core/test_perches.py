"""Places an animal gets up to, gaps it gets into, doors that open: what is read there, and what mends it."""

import math
from typing import Any

import numpy as np
import pytest

from husbandry.animal.subject import subject_of
from husbandry.assess.assess import NO_DAYS, Depth, assess
from husbandry.assess.planting import transpired_g
from husbandry.assess.result import Assessment
from husbandry.assess.vetting import applied, vetted
from husbandry.assess.views import burn_reaches_m, hide_states, perch_states
from husbandry.assessment import Severity, Verdict
from husbandry.furnishing.plants import leaf_m2, plants
from husbandry.furnishing.things import kinds, mass_kg
from husbandry.inputs.climate_case import enclosure_case
from husbandry.inputs.perches import indices_on
from husbandry.inputs.takes import plants_taken, things_taken
from husbandry.plan.geometry import surface_m
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.reading import read_data
from husbandry.species.book import find
from tests.core.test_furniture import found_in, mended, with_things
from tests.plans import TODAY, assessed_as, codes, document


def tall(species: str, *things: dict[str, Any], **changes: Any) -> HabitatPlan:
    """A tall planted glass tank for a climber, with a lamp and a tube on its mesh."""
    held = {"kind": "dimming", "set_c": 32.0, "probe": "basking-surface"}
    lamp = {"kind": "reflector-flood", "watts": 50.0, "x_m": 0.2, "height_m": 0.9, "guarded": True, "thermostat": held}
    base: dict[str, Any] = {
        "species": species,
        "schools": {},
        "animal": {"length_m": 0.2, "mass_kg": 0.08},
        "enclosure": {"kind": "glass", "length_m": 0.6, "width_m": 0.45, "height_m": 0.9, "lid": "mesh"},
        "platform": None,
        "hides": [],
        "bowl": None,
        "heaters": [lamp],
        "uv_lamps": [{"kind": "slim-6", "tube_m": 0.55, "x_m": 0.3, "height_m": 0.93, "fitted": "2026-10-01"}],
    }
    made = document(**(base | changes))
    return read_data(made | {"things": list(things)})


BRANCH: dict[str, Any] = {"kind": "branch", "x_m": 0.2, "length_m": 0.3, "width_m": 0.03, "height_m": 0.03, "basking": True}
SLATE: dict[str, Any] = {"kind": "slate", "y_m": 0.25, "length_m": 0.22, "width_m": 0.22, "height_m": 0.04, "basking": True}


def read(found: Assessment, key: str, season: str = "") -> float:
    value = next(item.value for item in found.quantities if item.key == key and item.season == season)
    assert value is not None
    return value


# ---- warmth, UV and light at each place ----


@pytest.mark.parametrize("watts", [50.0, 75.0, 100.0])
def test_a_second_place_just_where_the_first_is_reads_as_the_first_does(watts: float) -> None:
    """The network's own basking surface is the reference: it is solved, the second is worked out from what was found."""
    made = with_things({**SLATE, "x_m": 0.26}, heaters__0__watts=watts, platform__y_m=0.25)
    found = assessed_as(made)
    for season in ("summer", "winter"):
        assert read(found, "place_2_surface", season) == pytest.approx(
            next(q.value for q in found.quantities if q.key == "basking_surface" and q.season == season and q.phase == "day"),
            abs=0.6,
        )
    assert read(found, "place_2_uv") == pytest.approx(read(found, "uv_back"), rel=1e-6)
    assert read(found, "place_2_lux") == pytest.approx(read(found, "place_1_lux"), rel=1e-6)


def test_away_from_the_lamp_a_place_is_cooler_darker_and_gets_less_uv() -> None:
    near, far = (assessed_as(with_things({**SLATE, "x_m": x_m})) for x_m in (0.5, 1.05))
    for key, season in (("place_2_surface", "winter"), ("place_2_uv", ""), ("place_2_lux", "")):
        assert read(far, key, season) < read(near, key, season)


def test_a_place_near_under_the_lamp_burns_and_its_button_mends_it() -> None:
    tower = {**SLATE, "kind": "stone", "base": "ground", "footing": True, "x_m": 0.27, "length_m": 0.15, "height_m": 0.24}
    sides = {"platform__x_m": 0.5, "platform__y_m": 0.25, "heaters__0__x_m": 0.36}
    made = with_things(tower, uv_lamps=[], schools={"uvb": "none"}, **sides)
    finding = found_in(made, "space.place_hot")
    assert finding is not None
    assert "space.place_hot" not in codes(mended(made, "space.place_hot"))


def test_a_branch_close_under_the_tube_is_too_strong_and_comes_down() -> None:
    high = {**BRANCH, "up_m": 0.45, "y_m": 0.22}
    close = {**BRANCH, "basking": False, "x_m": 0.35, "up_m": 0.75, "y_m": 0.22}
    made = tall("red-eyed-tree-frog", high, close, animal__length_m=0.06, animal__mass_kg=0.012)
    finding = found_in(made, "space.place_strong")
    assert finding is not None
    assert finding.subject == "things.1"
    subject = subject_of(made, find(made.species), TODAY)
    assert finding.parameters["value"].value >= indices_on(made, subject.body, TODAY, [(0.35, 0.22, 0.85)])[0] - 0.01
    assert "space.place_strong" not in codes(mended(made, "space.place_strong"))


# ---- reach and steps ----


def test_a_perch_in_the_air_is_out_of_reach_until_a_branch_leads_there() -> None:
    made = tall("veiled-chameleon", {**BRANCH, "up_m": 0.6, "y_m": 0.22})
    assert found_in(made, "space.out_of_reach").parameters["value"].value == pytest.approx(0.6)
    after = mended(made, "space.out_of_reach")
    assert "space.out_of_reach" not in codes(after)


def test_what_walks_up_glass_reaches_every_perch() -> None:
    for species in ("giant-day-gecko", "red-eyed-tree-frog"):
        assert found_in(tall(species, {**BRANCH, "up_m": 0.6, "y_m": 0.22}), "space.out_of_reach") is None


def test_a_branch_from_the_ground_leads_to_the_next() -> None:
    steep = {**BRANCH, "basking": False, "x_m": 0.3, "y_m": 0.22, "length_m": 0.5, "slope_deg": -60.0, "up_m": 0.22}
    made = tall("veiled-chameleon", {**BRANCH, "up_m": 0.45, "y_m": 0.22}, steep)
    assert found_in(made, "space.out_of_reach") is None


def test_a_tortoise_topples_from_a_step_of_half_its_shell_but_not_from_a_low_one_nor_a_sheer_one() -> None:
    animal = {"animal__length_m": 0.12, "animal__mass_kg": 0.4, "schools": {}}

    def step(height_m: float) -> HabitatPlan:
        stone = {"kind": "stone", "x_m": 0.6, "y_m": 0.3, "length_m": 0.15, "width_m": 0.12, "height_m": height_m}
        return with_things(stone | {"base": "ground", "footing": True}, species="hermanns-tortoise", platform=None, **animal)

    assert found_in(step(0.03), "space.topples") is None
    assert found_in(step(0.06), "space.topples").parameters["high"].value == pytest.approx(0.036)
    assert found_in(step(0.2), "space.topples") is None
    assert "space.topples" not in codes(mended(step(0.06), "space.topples"))


# ---- gaps, doors, cover ----


@pytest.mark.parametrize(
    ("at", "width_m", "length_m", "code"),
    [
        ("cable", 0.012, 0.35, "space.gap_out"),
        ("cable", 0.012, 1.2, None),
        ("cable", 0.016, 1.2, "space.gap_sticks"),
        ("background", 0.02, 0.35, "space.gap_sticks"),
        ("background", 0.06, 0.35, "space.gap_hides"),
    ],
)
def test_a_gap_does_to_a_hatchling_what_it_does_not_to_an_adult(at: str, width_m: float, length_m: float, code: str | None) -> None:
    """A hatchling corn snake is a centimetre thick and gets out by a hole of twelve millimetres (common practice, no source)."""
    made = with_things(
        species="corn-snake",
        schools={},
        animal__length_m=length_m,
        animal__mass_kg=0.02,
        enclosure__gaps=[{"at": at, "width_m": width_m}],
    )
    found = {item for item in codes(assessed_as(made)) if item.startswith("space.gap_")}
    assert found == ({code} if code else set())
    if code:
        assert not {item for item in codes(mended(made, code)) if item.startswith("space.gap_")}


def test_ground_over_the_lip_of_a_door_is_banked_up_towards_the_back() -> None:
    made = with_things(enclosure__opens="front", enclosure__sill_m=0.05)
    assert found_in(made, "space.ground_over_sill") is not None
    profile, before = find(made.species), assessed_as(made)
    finding = next(item for item in vetted(made, profile, before).findings if item.code == "space.ground_over_sill")
    assert finding.remedy is not None
    after = read_data(applied(made, finding.remedy.changes))
    assert surface_m(after, 0.6, 0.0) <= 0.05
    assert surface_m(after, 0.6, 0.25) == pytest.approx(0.07)
    assert found_in(with_things(enclosure__opens="front", enclosure__sill_m=0.08), "space.ground_over_sill") is None
    assert found_in(with_things(enclosure__opens="top", enclosure__sill_m=0.05), "space.ground_over_sill") is None


def test_what_leans_on_a_door_is_taken_away_from_it() -> None:
    cave = {"kind": "cave", "x_m": 0.6, "y_m": 0.1, "length_m": 0.2, "width_m": 0.2, "height_m": 0.12}
    made = with_things(cave, enclosure__opens="front", enclosure__sill_m=0.08)
    assert found_in(made, "space.in_doorway") is not None
    assert "space.in_doorway" not in codes(mended(made, "space.in_doorway"))
    assert found_in(with_things(cave, enclosure__opens="top"), "space.in_doorway") is None


def test_glass_on_all_sides_is_covered_and_a_lit_hide_darkened() -> None:
    hide = {"kind": "hide", "x_m": 0.6, "y_m": 0.3, "length_m": 0.18, "height_m": 0.09, "dark": False}
    made = with_things(hide, enclosure__kind="glass")
    assert {"space.seen_all_round", "space.lit_hide"} <= codes(assessed_as(made))
    assert "space.seen_all_round" not in codes(mended(made, "space.seen_all_round"))
    assert "space.lit_hide" not in codes(mended(made, "space.lit_hide"))
    panel = {"kind": "background", "x_m": 0.6, "y_m": 0.48, "length_m": 1.2, "width_m": 0.03, "height_m": 0.4}
    side = {**panel, "x_m": 0.02, "y_m": 0.25, "length_m": 0.45, "turn_deg": 90.0}
    assert "space.seen_all_round" not in codes(assessed_as(with_things(panel, side, enclosure__kind="glass")))


def test_what_drinks_drops_is_misted_twice_a_day() -> None:
    made = tall("veiled-chameleon", {**BRANCH, "up_m": 0.3, "y_m": 0.22})
    finding = found_in(made, "moisture.no_drops")
    assert finding.severity is Severity.WRONG
    assert len(finding.remedy.changes[0].value) == 2
    assert found_in(tall("veiled-chameleon", misting__grams_per_day=50.0), "moisture.no_drops") is None
    assert found_in(tall("corn-snake"), "moisture.no_drops") is None
    # A gecko that takes its water from a dish too goes less well without drops, and not thirsty.
    assert found_in(tall("giant-day-gecko"), "moisture.no_drops").severity is Severity.ADVICE
    assert found_in(tall("green-anole"), "moisture.no_drops").severity is Severity.WRONG


# ---- filters and pumps ----


def turtle(**changes: Any) -> Assessment:
    made = document(
        **{
            "species": "musk-turtle",
            "schools": {},
            "animal": {"length_m": 0.1, "mass_kg": 0.2},
            "pool": {"x_m": 0.6, "length_m": 1.2, "depth_m": 0.3, "filtered": True, **changes},
        }
    )
    read_plan = read_data(made)
    return assess(read_plan, find(read_plan.species), TODAY, depth=NO_DAYS)


def test_a_filter_moves_its_water_so_often_and_holds_ammonia_only_after_weeks() -> None:
    """A filter holds from the fourth to the eighth week (trade); 600 L an hour through 180 L are 3.3 times (by hand)."""
    assert read(turtle(filter_m3_h=0.6), "filter_turnover") == pytest.approx(600 / 180, rel=0.05)
    assert {"water.filter_slow"} <= codes(turtle(filter_m3_h=0.1))
    assert {"water.filter_fast"} <= codes(turtle(filter_m3_h=3.0))
    young, grown = turtle(filter_since="2026-11-10"), turtle(filter_since="2026-01-01")
    assert "water.filter_young" in codes(young)
    assert "water.filter_young" not in codes(grown)
    assert {item.key for item in young.quantities} >= {"ammonia"}
    assert {item.key for item in grown.quantities} >= {"nitrate"}


def test_a_pump_sprays_so_long_and_its_reservoir_lasts_so_many_days() -> None:
    """By hand: 40 g by two nozzles of 80 g a minute take 15 s; 4 L at 80 g a day last 50 days."""
    times = [{"at": "08:30", "grams": 40}, {"at": "19:00", "grams": 40}]
    pump = {"nozzles": 2, "nozzle_g_min": 80.0, "reservoir_m3": 0.004}
    found = assessed_as(with_things(misting__times=times, mister=pump))
    assert read(found, "misting_seconds") == pytest.approx(15.0)
    assert read(found, "reservoir") == pytest.approx(50.0)
    small = assessed_as(with_things(misting__times=times, mister=pump | {"reservoir_m3": 0.0001}))
    assert next(item for item in small.quantities if item.key == "reservoir").verdict is Verdict.OUTSIDE
    assert "water.reservoir" in codes(small)


# ---- stones, leaves, tables ----


def test_ten_kilograms_of_granite_take_up_eight_kilojoules_for_a_kelvin() -> None:
    """Granite takes up 790 to 840 J/kgK (common tables, from memory)."""
    stone = {"kind": "stone", "base": "ground", "x_m": 0.9, "y_m": 0.25, "length_m": 0.3, "width_m": 0.2, "height_m": 0.12}
    made = with_things(stone, platform=None)
    kg = mass_kg(kinds()["stone"], "stone", (0.3, 0.2, 0.12))
    assert 790 <= sum(enclosure_case(made).stored_j_k) / kg <= 840
    assert enclosure_case(with_things(platform=None)).stored_j_k == ()


def test_stones_keep_the_evening_warm_and_the_morning_cool_and_change_no_mean() -> None:
    stones = [
        {
            "kind": "stone",
            "base": "ground",
            "x_m": x_m,
            "y_m": 0.25,
            "length_m": 0.25,
            "width_m": 0.4,
            "height_m": 0.15,
            "footing": True,
        }
        for x_m in (0.55, 0.85)
    ]
    held = {"kind": "none"}
    days = []
    for things in ((), stones):
        made = with_things(*things, heaters__0__thermostat=held, heaters__0__watts=40.0)
        days.append(assess(made, find(made.species), TODAY, depth=Depth(days_of=("winter",))).days["winter"])
    air = [day.cool_air for day in days]
    assert np.ptp(air[1]) < np.ptp(air[0])
    assert air[1].mean() == pytest.approx(air[0].mean(), abs=0.3)


def test_leaves_over_the_basking_place_take_uv_as_a_canopy_does() -> None:
    """Beer's law: leaves of 1.5 over the floor at 0.5 let exp(-0.75) through (Monsi and Saeki 1953, recalled)."""
    leaf = {
        "kind": "fake-plant",
        "base": "wall",
        "x_m": 0.3,
        "y_m": 0.25,
        "length_m": 1.1,
        "width_m": 0.45,
        "height_m": 0.05,
        "up_m": 0.3,
    }
    bare, shaded = (assessed_as(with_things(*things)) for things in ((), (leaf,)))
    assert read(shaded, "uv_back") == pytest.approx(math.exp(-0.75) * read(bare, "uv_back"), rel=0.02)
    assert read(shaded, "uv_dose") == pytest.approx(math.exp(-0.75) * read(bare, "uv_dose"), rel=0.02)


def test_hides_and_perches_are_told_as_the_findings_judge_them() -> None:
    made = with_things(
        {"kind": "hide", "x_m": 0.4, "y_m": 0.38, "length_m": 0.18, "height_m": 0.08},
        {"kind": "hide", "x_m": 1.1, "y_m": 0.38, "length_m": 0.06, "height_m": 0.05},
        {**SLATE, "x_m": 0.7},
    )
    found = assessed_as(made)
    subject = subject_of(made, find(made.species), TODAY)
    warm, cool = hide_states(subject, found.climate, "winter")
    assert warm.day_c > cool.day_c
    assert cool.humidity > warm.humidity
    assert (warm.tight, cool.tight) == (False, True)
    first, second = perch_states(subject, found.quantities, "winter")
    assert first.surface_c == next(item.value for item in found.quantities if item.id == "basking_surface/winter/day")
    assert first.index == read(found, "uv_back")
    assert second.lux == read(found, "place_2_lux")
    assert second.surface_c is not None
    assert second.surface_c < (first.surface_c or 0.0)


def test_a_stronger_lamp_burns_farther_and_a_panel_without_a_beam_hardly() -> None:
    reaches = []
    for watts in (50.0, 100.0, 150.0):
        made = with_things(heaters__0__watts=watts)
        found = assessed_as(made)
        subject = subject_of(made, find(made.species), TODAY)
        reaches.append(burn_reaches_m(subject, enclosure_case(made), found.climate)[0])
    assert reaches == sorted(reaches)
    # Far from its face a lamp's beam thins with the square of the distance: three times the watts burn about √3 as far.
    assert reaches[2] / reaches[0] == pytest.approx(math.sqrt(3.0), rel=0.25)


def test_what_it_takes_counts_what_is_alike_and_plants_by_their_kind() -> None:
    hide = {"kind": "hide", "y_m": 0.4, "length_m": 0.18, "height_m": 0.08}
    fern = {"kind": "plant", "plant": "pothos", "y_m": 0.1, "length_m": 0.2, "width_m": 0.2, "height_m": 0.2}
    made = with_things(
        {**hide, "x_m": 0.4}, {**hide, "x_m": 0.9}, {**fern, "x_m": 0.6}, {**fern, "x_m": 0.8, "potted": True}, platform=None
    )
    assert [(item.kind, item.count) for item in things_taken(made)] == [("hide", 2)]
    (planted,) = plants_taken(made)
    assert (planted.plant, planted.count, planted.potted) == ("pothos", 2, 1)
    assert planted.leaf_m2 == pytest.approx(2 * leaf_m2(plants()["pothos"], 0.2))


def test_plants_drink_more_of_dry_air_than_of_damp_and_outgrow_a_low_tank() -> None:
    """A lit leaf gives off 1 to 4 kg a square metre and a day out of doors, less in still air (textbook of plants, from memory)."""
    grams = []
    for percent in (30.0, 70.0):
        made = with_things(room__winter__humidity_percent=percent, plants="many")
        case = enclosure_case(made)
        grams.append(transpired_g(1.0, case, assessed_as(made).climate, "winter"))
    assert grams[0] > grams[1]
    assert 100 < grams[1] < grams[0] < 2000
    fern = {"kind": "plant", "plant": "pothos", "x_m": 0.8, "y_m": 0.2, "length_m": 0.2, "width_m": 0.2, "height_m": 0.2}
    assert found_in(with_things(fern), "plant.outgrows") is not None
    assert found_in(with_things({**fern, "base": "wall"}), "plant.outgrows") is None


def test_what_stands_before_the_only_basking_place_is_moved_aside() -> None:
    cave = {"kind": "cave", "x_m": 0.26, "y_m": 0.1, "length_m": 0.2, "width_m": 0.15, "height_m": 0.15}
    made = with_things(cave, platform__y_m=0.36)
    assert found_in(made, "space.no_view") is not None
    assert found_in(with_things({**cave, "y_m": 0.42}, platform__y_m=0.2), "space.no_view") is None
    assert "space.no_view" not in codes(mended(made, "space.no_view"))


def test_what_goes_from_front_to_back_does_not_lean_on_the_door() -> None:
    side = {"kind": "background", "x_m": 0.02, "y_m": 0.25, "length_m": 0.5, "width_m": 0.03, "height_m": 0.4, "turn_deg": 90.0}
    divide = {"kind": "partition", "x_m": 0.6, "y_m": 0.25, "length_m": 0.5, "width_m": 0.01, "height_m": 0.3, "turn_deg": 90.0}
    front = {**side, "x_m": 0.6, "y_m": 0.015, "length_m": 1.1, "turn_deg": 0.0}
    for thing, leans in ((side, False), (divide, False), (front, True)):
        made = with_things(thing, enclosure__opens="front", enclosure__sill_m=0.08)
        assert (found_in(made, "space.in_doorway") is not None) is leans


def test_a_hide_is_told_by_night_with_the_damp_of_the_night() -> None:
    hide = {"kind": "hide", "x_m": 0.45, "y_m": 0.38, "length_m": 0.18, "height_m": 0.08}
    made = with_things(hide)
    found = assessed_as(made)
    (state,) = hide_states(subject_of(made, find(made.species), TODAY), found.climate, "winter")
    assert state.night_c < state.day_c
    assert state.night_humidity > state.humidity
