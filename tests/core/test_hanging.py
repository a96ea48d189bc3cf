"""Where a further heater hangs: clear of hides, leaves, lamps and the bowl, and out of the water."""

import math
from typing import Any

import pytest

from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assess.vetting import advise, vetted
from husbandry.assessment import Severity, Verdict
from husbandry.codes import FindingCode, RemedyCode
from husbandry.design.first_proposal import propose
from husbandry.furnishing.floor import Footprint, shared_m
from husbandry.inputs.furniture import footprint, under_lamps_of
from husbandry.plan.editing import apply
from husbandry.plan.geometry import top_of, y_of
from husbandry.plan.habitat import Animal, HabitatPlan, RoomCase, RoomClimate
from husbandry.plan.reading import read_data
from husbandry.remedies.hanging import HangingPlace, clear_place, new_heater_place
from husbandry.species.book import find
from tests.plans import TODAY, assessed, codes, document, plan

HIDE: dict[str, Any] = {"kind": "hide", "length_m": 0.3, "width_m": 0.2, "height_m": 0.15}
EMITTER: dict[str, Any] = {"kind": "ceramic-emitter", "watts": 60.0, "guarded": True}
POOL = {"x_m": 0.9, "length_m": 0.4, "depth_m": 0.2}
NEAR_M = 0.2  # a hide so near to a lamp is a second basking place (as for what is climbed on)


def with_heater(made: HabitatPlan, at: dict[str, float]) -> HabitatPlan:
    return read_data(made.model_dump(mode="json") | {"heaters": [EMITTER | at]})


@pytest.mark.parametrize("phase", ["day", "night"])
@pytest.mark.parametrize("lid", ["solid", "mesh"])
@pytest.mark.parametrize("share", [0.2, 0.35, 0.5, 0.65, 0.8])
def test_a_further_heater_hangs_clear_of_what_stands_below_it(phase: str, lid: str, share: float) -> None:
    """Wherever one hide and a bowl stand, the lamp is over no bowl and two hands from the hide."""
    made = plan(
        enclosure__lid=lid,
        heaters=[],
        hides=[HIDE | {"x_m": round(share * 1.2, 3), "y_m": 0.3}],
        bowl={"x_m": round((1 - share) * 1.2, 3), "diameter_m": 0.15},
    )
    place = new_heater_place(made, phase)
    hung = with_heater(made, place.fields(made, "ceramic-emitter"))
    for near in under_lamps_of(hung):
        if near.kind == "bowl":
            assert not near.over
        elif near.kind != "platform":
            assert near.gap_m >= NEAR_M, (place, near)


def test_where_nothing_is_in_the_way_it_hangs_where_it_is_wanted() -> None:
    bare = plan(heaters=[], uv_lamps=[], hides=[], bowl=None)
    place = clear_place(bare, 0.6, 0.4)
    assert (place.x_m, place.y_m, place.height_m) == (0.6, None, 0.4)


def apart_m(lamp: Any, tube: Any, made: HabitatPlan) -> float:
    """From the middle of a lamp's face to a tube along the length."""
    beside = max(abs(lamp.x_m - tube.x_m) - tube.tube_m / 2, 0.0)
    return math.hypot(beside, y_of(made, lamp) - y_of(made, tube), lamp.height_m - tube.height_m)


@pytest.mark.parametrize("species", ["corn-snake", "uromastyx", "central-bearded-dragon", "crested-gecko", "blue-tongued-skink"])
@pytest.mark.parametrize("room_c", [17.0, 22.0])
def test_lamps_and_tubes_of_a_first_plan_do_not_stand_in_one_another(species: str, room_c: float) -> None:
    """Common practice, no source: a tube hangs beside the domes, a dome's radius from the middle of each."""
    case = RoomCase(day_c=room_c, night_c=room_c - 3, humidity_percent=50)
    profile = find(species)
    grown = Animal(length_m=profile.body.adult_length_cm.middle / 100)
    made = propose("First", profile, grown, RoomClimate(summer=case, winter=case), TODAY)
    lamps = [heater for heater in made.heaters if heater.hangs]
    assert made.uv_lamps
    assert all(apart_m(lamp, tube, made) >= 0.119 for lamp in lamps for tube in made.uv_lamps)
    index = assess(made, profile, TODAY, depth=NO_DAYS).quantity("uv_back")
    assert index.verdict is Verdict.INSIDE


def test_where_the_floor_is_full_it_hangs_higher_over_a_mesh() -> None:
    """A box of 30 cm with leaves up its wall: nowhere under the lid is two hands from them."""
    small = plan(
        enclosure={"kind": "glass", "lid": "mesh", "length_m": 0.3, "width_m": 0.3, "height_m": 0.46},
        heaters=[],
        uv_lamps=[],
        platform=None,
        bowl=None,
        hides=[HIDE | {"x_m": 0.15, "y_m": 0.15, "length_m": 0.28, "width_m": 0.28}],
    )
    place = clear_place(small, 0.15, 0.34)
    hung = with_heater(small, place.fields(small, "ceramic-emitter"))
    assert place.height_m > 0.34
    assert all(near.gap_m >= NEAR_M for near in under_lamps_of(hung) if near.kind == "hide")


@pytest.mark.parametrize(
    ("part", "made"),
    [
        ("heaters", {"kind": "tube-heater", "watts": 60.0, "length_m": 0.3, "guarded": True}),
        ("heaters", EMITTER),
        ("uv_lamps", {"kind": "slim-6", "tube_m": 0.3, "fitted": "2026-11-01"}),
    ],
)
@pytest.mark.parametrize(("x_m", "height_m", "in_it"), [(0.9, 0.22, True), (0.9, 0.4, False), (0.2, 0.22, False)])
def test_what_is_electrical_in_the_water_is_a_danger_and_comes_out_of_it(
    part: str, made: dict[str, Any], x_m: float, height_m: float, in_it: bool
) -> None:
    """Common practice, no source: nothing but what is made for water hangs in it, or where it is splashed."""
    habitat = read_data(document(pool=POOL) | {"heaters": [], "uv_lamps": []} | {part: [made | {"x_m": x_m, "height_m": height_m}]})
    profile = find(habitat.species)
    found = assess(habitat, profile, TODAY, depth=NO_DAYS)
    wet = [item for item in found.findings if item.code == FindingCode.HEAT_IN_WATER]
    assert bool(wet) is in_it
    for item in wet:
        assert item.severity is Severity.DANGER
        offered = next(one for one in vetted(habitat, profile, found, only=item.id).findings if one.id == item.id)
        assert offered.remedy is not None
        assert offered.remedy.changes
        after = read_data(apply(habitat.model_dump(mode="json"), offered.remedy.changes))
        assert FindingCode.HEAT_IN_WATER not in codes(assess(after, profile, TODAY, depth=NO_DAYS))


def test_a_tube_heater_stands_on_no_pools_ground() -> None:
    """What hangs is kept out of the water by its place; a tube heater is not said to hang."""
    tube = {"kind": "tube-heater", "watts": 60.0, "length_m": 0.3, "guarded": True, "x_m": 0.9, "height_m": 0.12}
    assert FindingCode.HEAT_IN_WATER in codes(assessed(pool=POOL, heaters=[tube]))


def test_what_is_made_for_water_may_stand_in_it() -> None:
    heater = {"kind": "water-heater", "watts": 25.0, "x_m": 0.9, "height_m": 0.03, "guarded": True}
    held = {"thermostat": {"kind": "on-off", "set_c": 24.0, "probe": "water"}}
    assert FindingCode.HEAT_IN_WATER not in codes(assessed(pool=POOL, heaters=[heater | held]))


@pytest.mark.parametrize("species", ["musk-turtle", "red-eared-slider"])
@pytest.mark.parametrize("room_c", [14.0, 16.0, 19.0])
def test_no_first_plan_puts_a_heater_of_the_air_into_the_water(species: str, room_c: float) -> None:
    """A tube heater stood 14 cm high in 24 cm of water."""
    case = RoomCase(day_c=room_c, night_c=room_c, humidity_percent=50)
    profile = find(species)
    grown = Animal(length_m=profile.body.adult_length_cm.middle / 100)
    made = propose("Tank", profile, grown, RoomClimate(summer=case, winter=case), TODAY)
    assert made.pool is not None
    assert FindingCode.HEAT_IN_WATER not in codes(assess(made, profile, TODAY, depth=NO_DAYS))
    for heater in made.heaters:
        assert "water" in heater.kind or heater.height_m > made.pool.depth_m


@pytest.mark.parametrize("hides", [[], [HIDE | {"x_m": 0.6, "y_m": 0.4}], [HIDE | {"x_m": x, "y_m": 0.4} for x in (0.2, 0.6, 1.0)]])
def test_a_tube_heater_is_fixed_at_the_back_clear_of_what_stands_there_and_of_another(hides: list[dict[str, Any]]) -> None:
    """Common practice, no source: along the back wall behind a guard, a hand over whatever stands below it."""
    made = plan(heaters=[], hides=hides)
    first = HangingPlace(0.6, 0.4).fields(made, "tube-heater")
    tube = EMITTER | {"kind": "tube-heater"} | first
    again = HangingPlace(0.6, 0.4).fields(read_data(made.model_dump(mode="json") | {"heaters": [tube]}), "tube-heater")
    for place in (first, again):
        strip = Footprint(place["x_m"], place["y_m"], place["length_m"], 0.05)
        assert place["y_m"] > made.enclosure.width_m - 0.1
        assert made.ground.depth_m < place["height_m"] < made.enclosure.height_m
        for thing in made.things:
            if shared_m(strip, footprint(made, thing)) > 0:
                assert place["height_m"] >= top_of(made, thing) + 0.1
    apart = abs(first["x_m"] - again["x_m"]) >= (first["length_m"] + again["length_m"]) / 2
    assert apart or abs(first["height_m"] - again["height_m"]) > 0.07  # under this lid there is no more room


# ---- vents ----

WET: dict[str, Any] = {
    "species": "common-boa",
    "schools": {},
    "animal": {"mass_kg": 0.08},
    "enclosure": {"kind": "foamed-pvc", "lid": "solid", "length_m": 0.75, "width_m": 0.45, "height_m": 0.45},
    "ground__kind": "soil",
    "ground__damp": True,
    "hides": [],
    "bowl": {"x_m": 0.56, "diameter_m": 0.11},
}


def test_a_box_too_wet_over_damp_ground_gets_vents_where_dry_ground_would_be_too_dry() -> None:
    """Common practice, no source: before the ground is left to dry, a wet box is aired; more openings, less moisture."""
    made = plan(**WET)
    profile = find(made.species)
    found = advise(made, profile, TODAY, days_of=())
    wet = next(item for item in found.findings if item.code == FindingCode.MOISTURE_WET)
    assert wet.remedy is not None
    assert wet.remedy.code == RemedyCode.MOISTURE_CUT_VENTS
    after = assess(read_data(apply(made.model_dump(mode="json"), wet.remedy.changes)), profile, TODAY, depth=NO_DAYS)
    assert not {FindingCode.MOISTURE_WET, FindingCode.MOISTURE_DRY} & codes(after)
    low, high = wet.remedy.changes[0].value
    assert low["height_m"] > made.ground.depth_m
    assert math.isclose(low["area_m2"], high["area_m2"])
    assert made.ground.depth_m < low["height_m"] < high["height_m"] < made.enclosure.height_m


def test_glass_is_not_cut() -> None:
    glass = WET | {"enclosure": WET["enclosure"] | {"kind": "glass"}}
    made = plan(**glass)
    found = advise(made, find(made.species), TODAY, days_of=())
    assert RemedyCode.MOISTURE_CUT_VENTS not in {item.remedy.code for item in found.findings if item.remedy}
