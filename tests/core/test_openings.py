"""Air through cracks, vents and an open or mesh top: published relations, and what they make of moist enclosures."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from husbandry.assess.assess import NO_DAYS, assess
from husbandry.climate import walls
from husbandry.climate.case import BaskingSpot, EnclosureCase, MistingCase, RoomState, VentCase
from husbandry.climate.day import course
from husbandry.climate.heat_gains import on_lid
from husbandry.climate.openings import AirExchange, changes_at, exchange_of, level_opening, mesh_share, slope_at, virtual_rise
from husbandry.climate.steady import solve_steady
from husbandry.design.misting_week import NoMisting, mistings
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.geometry import through_mesh
from husbandry.species.book import find
from tests.plans import TODAY, assessed_as, codes, plan
from tests.psychro import psychrolib

ROOM = dict.fromkeys(("summer", "winter"), RoomState(22.0, 22.0, 50.0))
SPOT = BaskingSpot(0.3, 0.2, 0.08, "ground")
TANK = EnclosureCase("glass", "mesh", 0.65, 0.6, 0.45, 0.45, "soil", 0.05, False, SPOT, (), ROOM, 8.0, 20.0)


def changes(rise_k: float, case: EnclosureCase = TANK, **other: object) -> float:
    return changes_at(exchange_of(replace(case, **other).shell), rise_k)  # type: ignore[arg-type]


def test_a_bare_opening_of_60_by_45_cm_changes_the_tanks_air_129_times_an_hour_at_5_k() -> None:
    """Epstein 1988 (recalled): 0.055 √(g D⁵ ΔT/T), with D² = 0.27 m² and the 121.5 L below it."""
    flow = level_opening(0.27, 5.0)
    assert 3600 * flow / TANK.volume_m3 == pytest.approx(129, abs=1)
    assert flow == pytest.approx(0.055 * (9.81 * 0.27**2.5 * 5 / 295) ** 0.5)
    assert level_opening(0.27, -5.0) == 0.0


@given(st.floats(5.0, 35.0), st.floats(0.0, 1.0))
def test_moist_air_is_as_light_as_psychrolib_has_it(celsius: float, humid: float) -> None:
    """Density of moist and dry air of one temperature: what their ratio is, warmer air would have (PsychroLib, ASHRAE 2017)."""
    ratio = psychrolib.GetHumRatioFromRelHum(celsius, humid, 101_325)
    moist, dry = (psychrolib.GetMoistAirDensity(celsius, item, 101_325) for item in (ratio, 0.0))
    vapour_pa = psychrolib.GetVapPresFromRelHum(celsius, humid)
    warmer_k = (celsius + 273.15) * (dry / moist - 1)
    assert float(virtual_rise(np.array(0.0), np.array(vapour_pa))) == pytest.approx(warmer_k, rel=0.08, abs=0.01)


@given(st.floats(0.2, 0.95), st.floats(0.01, 0.04), st.floats(0.002, 0.2))
def test_a_closer_mesh_passes_less_and_none_passes_all(open_share: float, more: float, speed: float) -> None:
    assert 0 < mesh_share(open_share, speed) < mesh_share(open_share + more, speed) < mesh_share(1.0, speed) == 1.0
    assert mesh_share(open_share, speed) < open_share


@given(st.floats(0.0, 40.0), st.floats(0.0, 200.0), st.floats(0.0, 20.0), st.floats(-10.0, 10.0))
def test_the_slope_is_what_a_difference_gives(cracks: float, top: float, swept: float, rise_k: float) -> None:
    exchange, step = AirExchange(cracks, top, swept), 1e-4
    assume(min(abs(abs(rise_k) - 0.6125), abs(rise_k)) > 10 * step)  # where two branches meet it has two slopes
    slope = (changes_at(exchange, rise_k + step) - changes_at(exchange, rise_k - step)) / (2 * step)
    assert slope_at(exchange, rise_k) == pytest.approx(slope, rel=1e-3, abs=1e-3)


def test_cold_air_stays_in_an_open_box_and_warm_air_leaves_it() -> None:
    bare = replace(TANK, lid="open")
    assert changes(5.0, bare) > 100 > 20 > changes(-5.0, bare)


def test_mesh_lies_between_the_estimates_of_the_trade() -> None:
    """Common practice, no source: 8 to 20 air changes an hour under mesh."""
    assert 8 <= changes(0.0) + 0.5 <= changes(5.0) <= 30


@given(st.floats(0.0, 0.9), st.floats(0.02, 0.1), st.floats(0.0, 10.0))
def test_every_further_cover_lets_less_through(covered: float, more: float, rise_k: float) -> None:
    assert changes(rise_k, lid_covered=covered + more) < changes(rise_k, lid_covered=covered)


def test_a_mesh_lid_and_a_vent_below_draw_together() -> None:
    """A chimney: a vent low in the wall under a mesh lid moves more than either (stack flow, ASHRAE Fundamentals; recalled)."""
    low = (VentCase(0.05, 0.01),)
    both = changes(5.0, vents=low)
    assert both > changes(5.0)
    assert both > changes(5.0, lid="solid", vents=low)
    # From the lid's own height nothing is drawn.
    assert both > changes(5.0, vents=(VentCase(0.44, 0.01),))


def test_a_larger_table_changes_relatively_less_through_the_same_height() -> None:
    """Epstein: with D^2.5 for an area of D² the changes of equally high boxes go with √D."""
    small, large = (replace(TANK, lid="open", length_m=side, width_m=side) for side in (0.5, 2.0))
    assert exchange_of(large.shell).top_h == pytest.approx(2 * exchange_of(small.shell).top_h)


def test_the_top_is_a_cavity_of_which_the_floor_has_its_view() -> None:
    """Howell C-11 (recalled): unit squares a unit apart 0.1998, and ten wide at a tenth 0.827."""
    cube = replace(TANK, lid="open", length_m=1.0, width_m=1.0, height_m=1.0, ground_depth_m=0.0)
    assert walls.floor_view(cube) == pytest.approx(0.1998, abs=2e-4)
    assert walls.floor_view(replace(cube, height_m=0.1)) == pytest.approx(0.827, abs=1e-3)


def wet_hours(case: EnclosureCase, limit: float = 95.0) -> float:
    day = course(case, solve_steady(case, spread=False), "winter")
    return float((day.cool_humidity > limit).mean()) * 24


def test_misted_glass_under_mesh_is_wet_for_hours_and_not_for_half_a_day() -> None:
    """Unheated, after 60 g in the morning. Rule of the trade (common practice, no source): it dries between two mistings."""
    misted = replace(TANK, mistings=(MistingCase(8.5, 0.06),))
    free, covered = wet_hours(misted), wet_hours(replace(misted, lid_covered=0.7))
    assert free < 4
    assert covered > free


def test_dry_aspen_in_a_tub_stays_dry() -> None:
    """Hatchling tubs: closed, with dry bedding and a bowl, they stay near the room (common practice, no source)."""
    tub = EnclosureCase(
        "polypropylene", "mesh", 0.5, 0.4, 0.28, 0.2, "aspen", 0.03, False, SPOT, (), ROOM, 8.0, 20.0, bowl_m2=0.004, bowl_x_m=0.3
    )
    found = solve_steady(tub, spread=False).states["winter", "night"].predictions["cool_humidity"].value
    assert 50 < found < 70


def test_much_water_is_not_misted_before_part_of_the_lid_is_covered() -> None:
    """A mesh-topped tank of a species of wet places in a heated, dry room."""
    room = {"day_c": 22.0, "night_c": 20.0, "humidity_percent": 30}
    made = plan(
        species="red-eyed-tree-frog", animal={"length_m": 0.06}, schools={}, enclosure__kind="glass", enclosure__lid="mesh",
        room={"summer": room, "winter": room}, heaters=[], uv_lamps=[],
    )  # fmt: skip
    dry = next(item for item in assess(made, find(made.species), TODAY, depth=NO_DAYS).findings if item.code == "moisture.dry")
    assert dry.remedy is not None
    assert "enclosure.lid_covered" in {change.path for change in dry.remedy.changes}


@pytest.mark.parametrize(("species", "kind", "lid"), [("uromastyx", "glass", "mesh"), ("hermanns-tortoise", "open-table", "open")])
def test_nobody_mists_a_desert_or_an_open_table(species: str, kind: str, lid: str) -> None:
    room = {"day_c": 24.0, "night_c": 20.0, "humidity_percent": 12}
    made = plan(
        species=species, animal={"length_m": 0.15}, schools={}, enclosure__kind=kind, enclosure__lid=lid,
        enclosure__length_m=2.0, enclosure__width_m=1.0, room={"summer": room, "winter": room},
    )  # fmt: skip
    profile = find(species)
    found = assess(made, profile, TODAY, depth=NO_DAYS)
    dry = [item for item in found.findings if item.code == "moisture.dry"]
    assert dry
    for item in dry:
        assert item.remedy is not None
        assert not any(change.path.startswith("misting") for change in item.remedy.changes)
        assert item.remedy.code == "moisture.moisten_room"
    assert mistings(made, found.body.decision.stage, "winter") is NoMisting.DRY_PLACE


@pytest.mark.parametrize("inches", [18, 24, 30, 36, 48])
def test_a_lamp_on_the_mesh_of_a_box_in_inches_is_on_it(inches: int) -> None:
    """Heights are kept to the millimetre, and no box of whole inches is one of whole millimetres."""
    high_m = inches * 0.0254
    lamp = {"kind": "halogen-flood", "watts": 50.0, "x_m": 0.3, "height_m": round(high_m - 0.0004, 3)}
    made = plan(enclosure__height_m=high_m, enclosure__lid="mesh", heaters=[lamp], uv_lamps=[], ground__depth_m=0.03)
    case = enclosure_case(made)
    assert on_lid(case, case.heaters[0])
    assert through_mesh(made, made.heaters[0].height_m)
    assert "heat.unguarded" not in codes(assessed_as(made))
