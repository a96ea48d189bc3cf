"""Whole enclosures: the believable ranges of the trade, conservation, thermostats, the day's course."""

from dataclasses import replace

import numpy as np
import pytest

from husbandry.climate import network
from husbandry.climate.air import AIR_DENSITY, relative_humidity, saturation_pressure
from husbandry.climate.case import BaskingSpot, EnclosureCase, HeaterCase, RoomState
from husbandry.climate.day import course
from husbandry.climate.hang import HangHeight, height_for, surface_at
from husbandry.climate.heaters import HEATERS
from husbandry.climate.parameters import PRIOR
from husbandry.climate.steady import solve_steady
from tests.psychro import psychrolib

ROOM_21 = {season: RoomState(21.0, 21.0, 50.0) for season in ("summer", "winter")}


def flood(watts: float, x_m: float, height_m: float, kind: str = "reflector-flood", **more: object) -> HeaterCase:
    return HeaterCase(kind, watts, x_m, height_m, HEATERS[kind].half_angle_deg, 8.0, 20.0, **more)  # type: ignore[arg-type]


def box(kind: str, lid: str, size: tuple[float, float, float], spot: BaskingSpot, *heaters: HeaterCase) -> EnclosureCase:
    return EnclosureCase(kind, lid, 0.65, *size, "sand", 0.05, False, spot, heaters, ROOM_21, 8.0, 20.0, bowl_m2=0.01)


PVC = box("foamed-pvc", "solid", (1.2, 0.6, 0.6), BaskingSpot(0.25, 0.25, 0.10, "stone"), flood(100, 0.25, 0.40))
GLASS = box("glass", "mesh", (0.9, 0.45, 0.45), BaskingSpot(0.2, 0.15, 0.15, "slate"), flood(75, 0.2, 0.45))
MESH = box("mesh", "mesh", (0.45, 0.45, 0.90), BaskingSpot(0.15, 0.15, 0.70, "branch"), flood(60, 0.15, 0.90))
DIMMED = replace(PVC, heaters=(flood(100, 0.25, 0.40, control="dimming", set_c=41.0),))


# Trade and memory, room 21 °C, no thermostat; the ranges are wide on purpose.
@pytest.mark.parametrize(
    ("case", "warm", "cool", "surface"),
    [(PVC, (32, 40), (23, 27), (42, 58)), (GLASS, (28, 32), (22, 25), (36, 45))],
    ids=["vented PVC with 100 W", "glass and mesh with 75 W"],
)
def test_believable_wholes(
    case: EnclosureCase, warm: tuple[float, float], cool: tuple[float, float], surface: tuple[float, float]
) -> None:
    found = solve_steady(case).states["winter", "day"].predictions
    assert warm[0] <= found["warm_air"].value <= warm[1]
    assert cool[0] <= found["cool_air"].value <= cool[1]
    assert surface[0] <= found["basking_surface"].value <= surface[1]


def test_an_all_mesh_cage_keeps_the_rooms_air_and_a_hot_perch() -> None:
    """Trade and memory: air within 6 K of the room nearly everywhere, perch 32–47 °C."""
    found = solve_steady(MESH).states["winter", "day"]
    levels = np.array(found.air_c)
    assert levels.shape == (2, 5)
    assert levels[0].max() < 23
    assert levels.max() < 21 + 6.5
    assert 32 <= found.predictions["basking_surface"].value <= 47


def test_lights_out_the_box_is_near_the_room_after_two_hours() -> None:
    """Trade: within 5 K of the room after two hours."""
    day = course(PVC, solve_steady(PVC), "winter")
    after_two, after_four = (float(day.nodes[hour * 60 - 1, :5].mean()) - 21.0 for hour in (22, 24))
    assert 0 < after_four < after_two < 5


@pytest.mark.parametrize("case", [PVC, GLASS, MESH, DIMMED])
def test_what_the_heater_gives_is_what_walls_and_air_take(case: EnclosureCase) -> None:
    """First law on the whole network under constant light: heat booked in equals heat lost to the room, and no watt is new."""
    always = replace(case, light_on_hour=8.0, light_off_hour=8.0, bowl_m2=0.0)
    always = replace(always, heaters=tuple(replace(heater, on_hour=0.0, off_hour=0.0) for heater in case.heaters))
    found = solve_steady(always, spread=False).states["winter", "day"]
    net = network.build(always, PRIOR.nominal())
    watts = np.array([heater.watts for heater in case.heaters]) * np.array(found.duty)
    booked = float((net.per_watt[0] @ watts).sum())
    _matrix, room = net.bound(*(np.array([value]) for value in (found.air_changes_h, found.h_conv, found.h_rad)))
    lost = float((room[0] * (found.node_c - 21.0)).sum()) + float(found.latent_w.sum())
    assert booked <= watts.sum() + 1e-9
    # Air changes and the surface's losses are the last round's, one step behind the temperatures.
    assert lost == pytest.approx(booked, rel=0.005)


def test_the_vapour_balance_closes() -> None:
    """Water evaporated from the bowl is water carried off by the air, to the last fixed-point step."""
    found = solve_steady(PVC, spread=False).states["winter", "night"]
    mean = float(np.mean(found.air_c))
    room_e = 0.5 * float(saturation_pressure(21.0))
    more = psychrolib.GetHumRatioFromVapPres(found.vapour_pa, 101_325.0) - psychrolib.GetHumRatioFromVapPres(room_e, 101_325.0)
    carried = AIR_DENSITY * PVC.volume_m3 * found.air_changes_h / 3600 * more
    given_off = 0.003 * PVC.bowl_m2 / (461.5 * (mean + 273.15)) * (float(saturation_pressure(mean - 2.5)) - found.vapour_pa)
    assert carried == pytest.approx(given_off, rel=0.25)
    assert found.vapour_pa > room_e


def test_a_gram_more_a_day_raises_the_vapour_by_what_is_said() -> None:
    """The inverse that remedies use, against the model run again with that water."""
    dry = replace(PVC, bowl_m2=0.0, heaters=())
    before, after = (solve_steady(case).states["winter", "day"] for case in (dry, replace(dry, misting_kg_per_day=0.03)))
    assert after.vapour_pa - before.vapour_pa == pytest.approx(30 * before.vapour_per_gram, rel=1e-6)


def test_no_zone_is_wetter_than_saturated() -> None:
    wet = replace(
        PVC, ground_damp=True, bowl_m2=0.3, misting_kg_per_day=2.0, rooms={s: RoomState(12.0, 8.0, 90.0) for s in ROOM_21}
    )
    for state in solve_steady(wet).states.values():
        coldest = min(min(row) for row in state.air_c)
        assert float(relative_humidity(state.vapour_pa, coldest)) <= 100.5


def test_a_dimming_thermostat_holds_its_surface_and_a_weak_lamp_runs_flat_out() -> None:
    found = solve_steady(DIMMED).states["winter", "day"]
    assert found.predictions["basking_surface"].value == pytest.approx(41.0, abs=0.1)
    assert 0 < found.duty[0] < 1
    weak = replace(PVC, heaters=(flood(25, 0.25, 0.40, control="dimming", set_c=41.0),))
    assert solve_steady(weak).states["winter", "day"].duty == (1.0,)


def test_two_thermostats_that_disturb_each_other_both_hold() -> None:
    both = (*DIMMED.heaters, flood(80, 0.4, 0.5, "ceramic-emitter", control="pulse", set_c=32.5, probe="warm-air"))
    found = solve_steady(replace(DIMMED, heaters=both)).states["winter", "day"].predictions
    assert found["basking_surface"].value == pytest.approx(41.0, abs=0.15)
    assert found["warm_air"].value == pytest.approx(32.5, abs=0.1)


def test_a_day_and_night_thermostat_holds_each_at_its_time() -> None:
    heater = flood(150, 0.25, 0.5, "ceramic-emitter", control="pulse", set_c=30.0, night_set_c=25.0, probe="warm-air")
    case = replace(PVC, heaters=(replace(heater, on_hour=0.0, off_hour=0.0),))
    climate = solve_steady(case)
    assert climate.states["winter", "day"].predictions["warm_air"].value == pytest.approx(30.0, abs=0.1)
    assert climate.states["winter", "night"].predictions["warm_air"].value == pytest.approx(25.0, abs=0.1)
    day = course(case, climate, "winter")
    assert day.warm_air[16 * 60] == pytest.approx(30.0, abs=0.3)
    assert day.warm_air[4 * 60] == pytest.approx(25.0, abs=0.3)


def test_the_spread_holds_the_value_and_a_thermostat_narrows_it() -> None:
    free, held = (solve_steady(case).states["winter", "day"].predictions["basking_surface"] for case in (PVC, DIMMED))
    assert free.low < free.value < free.high
    assert held.high - held.low < 0.7 * (free.high - free.low)


def test_higher_is_never_hotter_and_the_solved_height_gives_the_wanted_surface() -> None:
    surfaces = [surface_at(PVC, (0,), height, "winter") for height in (0.25, 0.35, 0.45, 0.55)]
    assert surfaces == sorted(surfaces, reverse=True)
    height = height_for(PVC, (0,), 42.0, "winter", 0.58).height_m
    assert height is not None
    assert surface_at(PVC, (0,), height, "winter") == pytest.approx(42.0, abs=0.3)
    assert height_for(replace(PVC, heaters=(flood(10, 0.25, 0.4),)), (0,), 45.0, "winter", 0.58) == HangHeight(None)
