"""Every kind of heater and cooler: where its heat goes, what may hold it, what it must not do; water, sun and fog beside them."""

import math
from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assessment import Finding, Measure, Severity, Verdict
from husbandry.climate import heaters
from husbandry.climate.case import BaskingSpot, EnclosureCase, RoomState, SunCase, WaterCase
from husbandry.climate.contact import HIDE_RESISTANCE, LEAST_BACK_M, MOST_REACH_M, back_temperature, burn_reach_m, mat_contact
from husbandry.climate.day import course
from husbandry.climate.daycourse import room_curve
from husbandry.climate.heat_gains import heat_gains, sun_gains, warm_area
from husbandry.climate.heaters import HEATERS
from husbandry.climate.network import GROUND_TO_AIR
from husbandry.climate.steady import solve_steady
from husbandry.climate.walls import base_u, build_of
from husbandry.species.book import find
from tests.core.test_enclosures import DIMMED, GLASS, MESH, PVC, ROOM_21, flood
from tests.plans import TODAY, assessed, document, plan

MAT = flood(18, 0.3, 0.0, "mat", length_m=0.28)
DEEP = replace(PVC, ground_kind="sand", ground_depth_m=0.10, spot=BaskingSpot(0.25, 0.25, 0.15, "stone"))


def settled(case: EnclosureCase, name: str, season: str = "winter", phase: str = "day") -> float:
    return solve_steady(case, spread=False, seasons=(season,)).states[season, phase].predictions[name].value


def finding(code: str, **changes: Any) -> Finding:
    return next(item for item in assessed(**changes).findings if item.code == code)


def codes(**changes: Any) -> set[str]:
    return {item.code for item in assessed(**changes).findings}


# ---- mats and cables ----


def test_a_mat_is_hidden_heat_that_climbs_with_the_ground_over_it() -> None:
    """Two resistances in parallel: contact rises by q R_up R_down/(R_up + R_down), and deeper ground makes R_up larger."""
    rises = []
    for depth in (0.01, 0.03, 0.06, 0.10):
        case = replace(DEEP, ground_depth_m=depth, heaters=(MAT,))
        contact = mat_contact(case, 0)
        assert contact is not None
        state = solve_steady(case, spread=False, seasons=("winter",)).states["winter", "day"]
        rises.append(float(contact.below @ state.node_c) + contact.contact_rise_k)
    assert rises == sorted(rises)
    assert rises[-1] > rises[0] + 8


def test_a_flat_hide_on_the_mat_makes_it_hotter_still() -> None:
    """The closed form by hand for a mat as large as its zone: q of 18 W on 0.078 m², the hide adding its own resistance."""
    case = replace(DEEP, heaters=(MAT,))
    bare, covered = mat_contact(case, 0), mat_contact(case, 0, covered_by_hide=True)
    assert bare is not None
    assert covered is not None
    assert covered.contact_rise_k > bare.contact_rise_k
    up, down = 0.10 / 0.3 + 1 / GROUND_TO_AIR, 1 / base_u(build_of("foamed-pvc"))
    by_hand = 18 / 0.28**2 * up * down / (up + down)
    assert bare.contact_rise_k < by_hand < 18 / 0.28**2 * (up + HIDE_RESISTANCE)
    assert mat_contact(PVC, 0) is None


@pytest.mark.parametrize("kind", ["mat", "cable", "wall-mat", "tube-heater"])
def test_what_lies_or_hangs_in_the_air_warms_the_air_by_all_its_watts(kind: str) -> None:
    """First law: the enclosure loses what it is given, so the same watts lift the air by much the same, wherever they lie."""
    bare = replace(PVC, heaters=())
    lifted = settled(replace(PVC, heaters=(flood(60, 0.6, 0.1, kind, length_m=0.6),)), "cool_air") - settled(bare, "cool_air")
    airy = settled(replace(PVC, heaters=(flood(60, 0.6, 0.1, "tube-heater", length_m=0.6),)), "cool_air") - settled(
        bare, "cool_air"
    )
    assert 0.35 * airy < lifted < 1.3 * airy


def test_a_mat_without_a_thermostat_is_an_error_and_its_probe_belongs_on_it() -> None:
    mat = {"kind": "mat", "watts": 20.0, "x_m": 0.5, "height_m": 0.01}
    found = finding("heat.no_thermostat", heaters=[document()["heaters"][0], mat])
    assert found.severity is Severity.WRONG
    assert found.remedy is not None
    assert found.remedy.changes[0].value["probe"] == "mat"


def test_a_strong_mat_under_deep_ground_is_found_before_it_cracks_the_glass() -> None:
    mat = {"kind": "mat", "watts": 60.0, "x_m": 0.5, "height_m": 0.01, "length_m": 0.25}
    mat |= {"thermostat": {"kind": "pulse", "set_c": 45.0, "probe": "warm-air"}}
    found = assessed(heaters=[document()["heaters"][0], mat], ground__depth_m=0.12, platform__height_m=0.02)
    item = found.quantity("mat_contact", "winter", "day")
    assert item.verdict is Verdict.DANGEROUS
    assert "heat.mat_hot" in {one.code for one in found.findings}
    held = mat | {"thermostat": {"kind": "pulse", "set_c": 31.0, "probe": "mat"}}
    calm = assessed(heaters=[document()["heaters"][0], held], ground__depth_m=0.12, platform__height_m=0.02)
    assert calm.quantity("mat_contact", "winter", "day").value == pytest.approx(31.0, abs=1.5)


# ---- beams ----


def test_the_narrower_the_beam_the_hotter_the_stone() -> None:
    stones = [settled(replace(PVC, heaters=(flood(75, 0.25, 0.45, kind),)), "basking_surface") for kind in (
        "radiant-panel", "reflector-flood", "halogen-flood", "reflector-spot",
    )]  # fmt: skip
    assert stones == sorted(stones)


def test_several_weaker_lamps_warm_the_back_no_more_than_one_strong_one() -> None:
    """Common practice, no source: spread the same watts along the body, and the hottest back is cooler."""
    one = replace(PVC, heaters=(flood(100, 0.25, 0.35),))
    two = replace(PVC, heaters=(flood(50, 0.15, 0.35), flood(50, 0.35, 0.35)))
    backs = [back_temperature(case, (1.0,) * len(case.heaters), 0.05, 0.4, 30.0, 28.0) for case in (one, two)]
    assert backs[1] < backs[0] - 3


def test_a_back_nearer_to_the_lamp_is_hotter() -> None:
    heights = [back_temperature(PVC, (1.0,), back, 0.3, 30.0, 28.0) for back in (0.01, 0.05, 0.10, 0.15)]
    assert heights == sorted(heights)


@pytest.mark.parametrize("kind", [kind for kind, made in HEATERS.items() if made.place == "over"])
@pytest.mark.parametrize(("watts", "limit_c"), [(15.0, 38.0), (60.0, 45.0), (150.0, 40.0), (250.0, 60.0)])
def test_a_back_burns_as_far_below_a_lamp_as_is_said_and_no_farther(kind: str, watts: float, limit_c: float) -> None:
    """A back on a spot straight below the lamp, moved down by the half centimetre, is too hot down to that reach only."""
    lamp = flood(watts, 0.25, 2.0, kind)
    case = replace(PVC, height_m=2.1, heaters=(lamp,))
    reach_m = burn_reach_m(case, 0, limit_c, 30.0)
    for drop_m in np.arange(0.0125, MOST_REACH_M, 0.005):
        below = replace(case, spot=BaskingSpot(lamp.x_m, lamp.length_m, lamp.height_m - drop_m, "branch", off_m=lamp.off_m))
        too_hot = back_temperature(below, (1.0,), 0.0, LEAST_BACK_M, 30.0, 30.0) > limit_c
        assert drop_m <= reach_m + 0.001 if too_hot else drop_m > reach_m, drop_m


# ---- what may hold what ----

LAMP = document()["heaters"][0]
CONTROLS = [
    ("halogen-flood", "pulse", "heat.wrong_thermostat"),
    ("reflector-spot", "on-off", "heat.wrong_thermostat"),
    ("ceramic-emitter", "dimming", "heat.wrong_thermostat"),
    ("radiant-panel", "dimming", "heat.wrong_thermostat"),
    ("vapour-combined", "dimming", "heat.wrong_thermostat"),
    ("halide-combined", "on-off", "heat.wrong_thermostat"),
]


@pytest.mark.parametrize(("kind", "control", "code"), CONTROLS)
def test_each_kind_is_held_by_what_suits_it(kind: str, control: str, code: str) -> None:
    """Common practice, no source: filaments dim, ceramic and panels pulse or switch, combined lamps only on a timer."""
    thermostat = {"kind": control, "set_c": 33.0, "probe": "basking-surface"}
    assert code in codes(heaters=[LAMP | {"kind": kind, "thermostat": thermostat}])


@pytest.mark.parametrize("kind", sorted(HEATERS.keys() - {"light", "hide-heater", "water-heater", "water-chiller"}))
def test_the_first_control_of_every_kind_is_one_the_review_accepts(kind: str) -> None:
    control = HEATERS[kind].controls[0]
    thermostat = {"kind": "none"} if control == "none" else {"kind": control, "set_c": 31.0, "probe": "warm-air"}
    found = codes(heaters=[LAMP | {"kind": kind, "thermostat": thermostat}])
    assert "heat.wrong_thermostat" not in found
    assert "heat.no_thermostat" not in found


def test_a_lamp_too_strong_for_its_holder_is_a_danger() -> None:
    found = finding("heat.holder", heaters=[LAMP | {"watts": 100.0, "holder": "plastic"}])
    assert found.severity is Severity.DANGER
    assert found.remedy is not None
    assert found.remedy.changes[0].value == 60.0
    assert "heat.holder" not in codes(heaters=[LAMP | {"watts": 60.0, "holder": "plastic"}])


def test_light_by_night_is_found_and_heat_without_light_is_not() -> None:
    always = {"on": "00:00", "off": "00:00"}
    assert "heat.light_at_night" in codes(heaters=[LAMP | always])
    dark = LAMP | always | {"kind": "ceramic-emitter", "thermostat": {"kind": "pulse", "set_c": 28.0, "probe": "warm-air"}}
    assert "heat.light_at_night" not in codes(heaters=[dark])


def test_a_combined_lamp_gives_heat_and_uv_and_both_with_its_watts() -> None:
    """A weaker combined lamp also changes the UV: in proportion to its watts."""
    strong, weak = (
        assessed(uv_lamps=[], heaters=[LAMP | {"kind": "vapour-combined", "watts": watts, "thermostat": {"kind": "none"}}])
        for watts in (160.0, 80.0)
    )
    indices = [found.quantity("uv_back").value or 0.0 for found in (strong, weak)]
    assert indices[0] == pytest.approx(2 * indices[1], rel=1e-6)
    assert indices[1] > 0.5
    old = assessed(
        uv_lamps=[],
        heaters=[LAMP | {"kind": "vapour-combined", "watts": 80.0, "thermostat": {"kind": "none"}, "fitted": "2025-11-24"}],
    )
    assert old.quantity("uv_back").value == pytest.approx(0.7 * indices[1], rel=0.01)


# ---- water ----

TANK = replace(GLASS, lid="open", water=WaterCase(0.45, 0.9, 0.25), heaters=(), rooms=ROOM_21)


def test_a_water_heater_and_a_chiller_hold_what_they_are_set_to() -> None:
    warm = flood(100, 0.45, 0.05, "water-heater", control="on-off", set_c=25.0, probe="water")
    cold = flood(150, 0.45, 0.05, "water-chiller", control="on-off", set_c=17.0, probe="water")
    always: dict[str, Any] = {"on_hour": 0.0, "off_hour": 0.0}
    assert settled(replace(TANK, heaters=(replace(warm, **always),)), "water") == pytest.approx(25.0, abs=0.1)
    assert settled(replace(TANK, heaters=(replace(cold, **always),)), "water") == pytest.approx(17.0, abs=0.1)
    day = course(
        replace(TANK, heaters=(replace(cold, **always),)), solve_steady(replace(TANK, heaters=(replace(cold, **always),))), "winter"
    )
    assert day.water_c is not None
    assert day.water_c.mean() == pytest.approx(17.0, abs=0.6)


def test_a_chiller_has_its_watts_and_an_end() -> None:
    """Trade: ten to fifteen kelvin below what is around it. A strong one holds 20 °C in a room of 32; none freezes a puddle."""
    hot = dict.fromkeys(("summer", "winter"), RoomState(32.0, 32.0, 50.0))
    chiller = flood(150, 0.45, 0.05, "water-chiller", control="on-off", set_c=20.0, probe="water")
    chiller = replace(chiller, on_hour=0.0, off_hour=0.0)
    assert settled(replace(TANK, rooms=hot, heaters=(chiller,)), "water") == pytest.approx(20.0, abs=0.1)
    unheld = replace(chiller, watts=400.0, control="none")
    puddle = replace(TANK, heaters=(unheld,), water=WaterCase(0.2, 0.15, 0.05))
    assert 3.0 < settled(puddle, "water") < 21.0 - 8.0


def test_open_water_stands_below_the_room_and_a_fan_takes_it_further() -> None:
    """Common practice, no source: evaporation alone cools by one to three degrees, a fan by two to four."""
    still = settled(TANK, "water")
    assert TANK.water is not None
    blown = settled(replace(TANK, water=replace(TANK.water, fan=True)), "water")
    assert 18.0 < still < 20.8
    assert 16.5 < blown < still - 0.8


def test_an_axolotl_at_twenty_six_degrees_is_a_finding() -> None:
    pool = {"x_m": 0.6, "length_m": 1.2, "depth_m": 0.3}
    room = {"day_c": 28.0, "night_c": 27.0, "humidity_percent": 60.0}
    made = plan(species="axolotl", animal={"length_m": 0.24}, schools={}, heaters=[], uv_lamps=[], pool=pool, bowl=None,
                platform=None, room={"summer": room, "winter": room})  # fmt: skip
    found = assess(made, find("axolotl"), TODAY, depth=NO_DAYS)
    assert (found.quantity("water_temperature", "summer", "day").value or 0.0) > 25.0
    assert next(item for item in found.findings if item.code == "water.warm").severity is Severity.DANGER


# ---- sun, fog and the room's own hours ----


def test_sun_on_a_small_tank_is_lethal_and_a_little_on_a_large_one_is_not() -> None:
    """Trade: about 160 W come in through the side of a small tank."""
    sun = {"watts": 160, "on": "09:00", "off": "12:00"}
    small = {"enclosure": {"kind": "glass", "length_m": 0.6, "width_m": 0.3, "height_m": 0.36, "lid": "mesh"}, "hides": []}
    small |= {"bowl": None, "heaters": [], "uv_lamps": []}
    found = finding("room.sun_kills", window=sun, **small)
    assert found.severity is Severity.DANGER
    value = found.parameters["value"]
    assert isinstance(value, Measure)
    assert value.value > 40
    assert "room.sun" in codes(window=sun | {"watts": 8})
    assert not {"room.sun", "room.sun_kills"} & codes()


@pytest.mark.parametrize("until", [8.5, 9.0, 10.1, 11.0, 14.0])
def test_a_watt_of_sun_for_an_hour_more_or_less_moves_nothing(until: float) -> None:
    """It parts the hours in which the lamp lifts the stone from those in which it holds it: once up to 5 K of the hottest air."""
    plain = replace(DIMMED, heaters=(replace(DIMMED.heaters[0], on_hour=8.0, off_hour=20.0),), light_on_hour=8.0)
    calm = solve_steady(plain, seasons=("winter",)).states["winter", "day"].predictions["hottest_air"]
    for hours in ((8.0, until), (until, 12.0)):
        sunny = replace(plain, sun=SunCase(1.0, *hours))
        lit = solve_steady(sunny, seasons=("winter",)).states["winter", "day"].predictions["hottest_air"]
        for one, other in ((lit.value, calm.value), (lit.low, calm.low), (lit.high, calm.high)):
            assert one == pytest.approx(other, abs=0.3)


def test_the_sun_warms_while_it_shines() -> None:
    sunny = replace(GLASS, sun=SunCase(100.0, 10.0, 12.0))
    climate = solve_steady(sunny, spread=False, seasons=("summer",))
    plain, lit = (course(case, climate, "summer") for case in (GLASS, sunny))
    gained = lit.warm_air - plain.warm_air
    assert gained[9 * 60 + 30] == pytest.approx(0.0, abs=0.3)
    assert gained[12 * 60 - 2] > 2.0
    assert gained[12 * 60 - 2] == pytest.approx(gained.max(), abs=0.2)


def test_fog_and_mist_make_it_wetter_and_so_much_that_it_drips() -> None:
    dry, foggy = GLASS, replace(GLASS, fogger_kg_per_h=0.03)
    assert settled(foggy, "cool_humidity") > settled(dry, "cool_humidity") + 5
    soaked = replace(
        GLASS, lid="solid", fogger_kg_per_h=0.15, rooms=dict.fromkeys(("summer", "winter"), RoomState(15.0, 12.0, 60.0))
    )
    day = course(soaked, solve_steady(soaked, spread=False), "winter")
    assert day.condensing.any()
    assert day.cool_humidity.max() <= 100.0


def test_the_keepers_own_hours_are_the_rooms() -> None:
    """Hourly means in, hourly means out; and without them a cosine between both that is coldest at five."""
    hourly = tuple(18 + 4 * np.sin(2 * np.pi * (hour - 9) / 24) for hour in range(24))
    hours = np.arange(0, 24, 1 / 60)
    curve = room_curve(RoomState(22.0, 14.0, 50.0, hourly), hours)
    assert curve.reshape(24, 60).mean(axis=1) == pytest.approx(np.array(hourly), abs=0.15)
    plain = room_curve(RoomState(22.0, 14.0, 50.0), hours)
    assert (plain.min(), plain.max()) == pytest.approx((14.0, 22.0), abs=0.01)
    assert hours[plain.argmin()] == pytest.approx(5.0, abs=0.02)


def test_a_probe_that_swings_wider_swings_the_stone_wider() -> None:
    swings = []
    for width in (1.0, 6.0):
        case = replace(DIMMED, heaters=(replace(DIMMED.heaters[0], control="on-off", hysteresis_k=width),))
        day = course(case, solve_steady(case, spread=False), "winter")
        swings.append(float(np.ptp(day.basking_surface[14 * 60 : 19 * 60])))
    assert swings[1] > swings[0] + 2
    assert swings[1] > 5


def test_the_brightest_belongs_over_the_hottest() -> None:
    """Common practice, no source: a bright bar at the cool end draws the animal away from its warmth and UV."""
    bar = {"kind": "plant-led", "watts": 60, "length_m": 0.3, "x_m": 1.0, "height_m": 0.42}
    assert "light.apart" in codes(light_bars=[bar], heaters__0__kind="ceramic-emitter",
                                  heaters__0__thermostat={"kind": "pulse", "set_c": 33.0, "probe": "basking-surface"})  # fmt: skip
    assert "light.apart" not in codes()


def test_a_bars_watts_are_warmth_too() -> None:
    bar = {"kind": "led-bar", "watts": 40, "length_m": 0.8, "x_m": 0.6, "height_m": 0.42}
    plain, lit = (assessed(**changes).quantity("cool_air", "summer", "day").value for changes in ({}, {"light_bars": [bar]}))
    assert plain is not None
    assert lit is not None
    assert lit > plain + 0.3


@pytest.mark.parametrize("gap", [0.05, 0.2, 0.5])
def test_what_radiates_by_the_cosine_enters_an_opening_as_the_view_factor_says(gap: float) -> None:
    """From a small plane to a parallel rectangle over its corner (Howell's catalogue, B-3; from memory), four times."""
    x, y = (np.arange(800) + 0.5) / 800 * 0.9 - 0.45, (np.arange(400) + 0.5) / 400 * 0.45 - 0.225
    field = heaters.irradiance(1.0, 60.0, 0.0, x[:, None], y[None, :], gap)
    a, b = 0.45 / gap, 0.225 / gap
    one, other = math.sqrt(1 + a * a), math.sqrt(1 + b * b)
    corner = (a / one * math.atan(b / one) + b / other * math.atan(a / other)) / (2 * math.pi)
    assert float(field.sum()) * 0.9 * 0.45 / (800 * 400) == pytest.approx(4 * corner, rel=0.01)


def test_a_dome_hung_ever_higher_over_the_mesh_warms_ever_less_inside() -> None:
    """75 W half a metre above the mesh booked 53 % inside; most of what it gives rises past the lid."""
    inside = []
    for gap in (0.0, 0.05, 0.1, 0.2, 0.35, 0.5):
        dome = flood(75.0, 0.3, MESH.height_m + gap)
        case = replace(MESH, heaters=(dome,))
        radiant, rest = heat_gains(case.shell, dome, warm_area(case))
        share = heaters.HEATERS[dome.kind].radiant_share
        inside.append(float(share * radiant.sum() + (1 - share) * rest.sum()))
    assert inside == sorted(inside, reverse=True)
    assert inside[-1] < inside[0] / 4


def test_what_the_sun_gives_is_never_more_than_what_comes_in() -> None:
    for case in (GLASS, MESH, PVC, TANK):
        gains = sun_gains(case.shell, 0.05)
        assert 0.8 < gains.sum() <= 1.0
        assert gains.min() >= 0.0


def test_neither_the_ground_nor_a_pools_water_is_air() -> None:
    dry = replace(PVC, ground_depth_m=0.0)
    assert dry.air_m3 == pytest.approx(PVC.length_m * PVC.width_m * PVC.height_m)
    assert PVC.air_m3 == pytest.approx(dry.air_m3 * (1 - PVC.ground_depth_m / PVC.height_m))
    half = replace(dry, water=WaterCase(PVC.length_m / 4, PVC.length_m / 2, PVC.height_m / 2))
    assert half.air_m3 == pytest.approx(0.75 * dry.air_m3)


def test_a_cool_end_without_a_way_out_endangers_before_the_warm_end_does() -> None:
    """By day and by night: a corn snake in a room of 32 °C has nowhere cooler to go, in one of 26 it has."""
    bare: dict[str, Any] = {"species": "corn-snake", "schools": {}, "animal": {"length_m": 1.3}, "heaters": [], "uv_lamps": []}
    hot, warm = (assessed(**bare, room__summer__day_c=c, room__summer__night_c=c) for c in (32.0, 26.0))
    for phase in ("day", "night"):
        assert hot.quantity("cool_air", "summer", phase).verdict is Verdict.DANGEROUS
        assert hot.quantity("warm_air", "summer", phase).verdict is not Verdict.DANGEROUS
    assert not any(item.verdict is Verdict.DANGEROUS for item in warm.quantities if item.key in ("warm_air", "cool_air"))
