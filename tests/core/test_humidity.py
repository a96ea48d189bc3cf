"""Moisture: one vapour pressure over many temperatures, its sources and its limits."""

from dataclasses import replace

import numpy as np
import pytest

from husbandry.climate import ground
from husbandry.climate.air import dew_point, moved_humidity, relative_humidity, saturation_pressure
from husbandry.climate.case import EnclosureCase, RoomState
from husbandry.climate.humidity import MASS_TRANSFER, humid_hide
from husbandry.climate.steady import solve_steady
from tests.core.test_enclosures import GLASS, PVC
from tests.psychro import psychrolib


def cool_end(case: EnclosureCase, phase: str = "night") -> float:
    return solve_steady(case, spread=False).states["winter", phase].predictions["cool_humidity"].value


def at(percent: float, temperature_c: float = 21.0) -> dict[str, RoomState]:
    return dict.fromkeys(("summer", "winter"), RoomState(temperature_c, temperature_c, percent))


DRY = replace(PVC, bowl_m2=0.0, heaters=(), rooms=at(40.0))


def test_an_empty_unheated_box_has_the_rooms_own_air() -> None:
    assert cool_end(DRY) == pytest.approx(40.0, abs=0.1)


def test_each_source_of_water_makes_it_wetter() -> None:
    bowl = replace(DRY, bowl_m2=0.02, bowl_x_m=0.9)
    assert cool_end(bowl) > cool_end(DRY)
    assert cool_end(replace(bowl, bowl_m2=0.04)) > cool_end(bowl)
    assert cool_end(replace(DRY, misting_kg_per_day=0.05)) > cool_end(DRY)
    assert cool_end(replace(DRY, ground_damp=True)) > cool_end(DRY) + 5


def test_more_air_dries_and_a_damp_room_wets() -> None:
    wet = replace(DRY, ground_damp=True)
    closed, vented = replace(wet, kind="polypropylene", lid="solid"), replace(wet, kind="polypropylene", lid="open")
    assert cool_end(closed) > cool_end(vented) + 10
    assert cool_end(replace(wet, rooms=at(70.0))) > cool_end(replace(wet, rooms=at(40.0)))


def test_heating_the_same_air_dries_it_by_what_the_chart_says() -> None:
    """ASHRAE by PsychroLib: 50 % at 21 °C warmed to the warm end's temperature."""
    heated = solve_steady(replace(GLASS, bowl_m2=0.0, rooms=at(50.0)), spread=False).states["winter", "day"]
    warm_c = heated.predictions["warm_air"].value
    vapour = psychrolib.GetVapPresFromRelHum(21.0, 0.5)
    expected = 100 * psychrolib.GetRelHumFromVapPres(warm_c, vapour)
    assert heated.predictions["warm_humidity"].value == pytest.approx(expected, rel=0.01)


def test_both_ends_hold_the_same_water() -> None:
    state = solve_steady(replace(PVC, ground_damp=True), spread=False).states["winter", "day"].predictions
    warm, cool = state["warm_air"].value, state["cool_air"].value
    assert float(moved_humidity(state["cool_humidity"].value, cool, warm)) == pytest.approx(state["warm_humidity"].value, rel=1e-6)


def test_thirty_five_percent_at_thirty_two_degrees_at_the_other_ends() -> None:
    """35 % at 32 °C is 56 % at 24 °C and 23 % at 40 °C (ASHRAE, by arithmetic)."""
    assert moved_humidity(35.0, 32.0, [24.0, 40.0]) == pytest.approx([56.0, 23.0], abs=0.7)


def test_dew_point_undoes_saturation() -> None:
    temperatures = np.linspace(-5.0, 45.0, 26)
    assert dew_point(saturation_pressure(temperatures)) == pytest.approx(temperatures, abs=1e-6)
    assert relative_humidity(saturation_pressure(20.0), 20.0) == pytest.approx(100.0)


def test_cold_walls_hold_the_humidity_down() -> None:
    """Condensation: in a cold room the pane's dew point is the most the air can carry."""
    soaked = replace(GLASS, ground_damp=True, misting_kg_per_day=3.0, bowl_m2=0.05)
    state = solve_steady(soaked, spread=False).states["winter", "night"]
    assert state.vapour_pa < state.unbound_vapour_pa
    coldest = min(min(row) for row in state.air_c)
    assert float(dew_point(state.vapour_pa)) <= coldest + 0.05


def test_a_humid_hide_lies_between_its_wet_moss_and_the_air_outside() -> None:
    outside = 40.0
    vapour = outside / 100 * saturation_pressure(26.0)
    inside = float(humid_hide(np.array([vapour]), np.array([26.0]))[0])
    assert 80.0 < inside < 100.0  # a closed hide with wet moss: 80 % and more (common practice, no source)
    wetter = float(humid_hide(np.array([1.5 * vapour]), np.array([26.0]))[0])
    assert wetter > inside


def test_still_water_gives_off_less_than_ashraes_still_pool() -> None:
    """The Lewis relation's still air lies below ASHRAE's still pool of 3.6e-5 kg/m²s per kPa (recalled)."""
    ours = MASS_TRANSFER / (461.5 * 298.15) * 1000
    assert 0.4 * 3.6e-5 < ours < 3.6e-5


def test_sand_dampens_the_day_within_eight_centimetres() -> None:
    """Daily damping depth of dry sand, sqrt(2 a / w): 8 cm (Carslaw & Jaeger, recalled)."""
    diffusivity = ground.conductivity("sand", False) / ground.heat_capacity("sand", False)
    assert np.sqrt(2 * diffusivity * 86_400 / (2 * np.pi)) == pytest.approx(0.08, abs=0.005)


@pytest.mark.parametrize("kind", sorted(ground.GROUND))
def test_damp_ground_conducts_and_stores_more(kind: str) -> None:
    assert ground.conductivity(kind, True) > ground.conductivity(kind, False)
    assert ground.heat_capacity(kind, True) > ground.heat_capacity(kind, False)
