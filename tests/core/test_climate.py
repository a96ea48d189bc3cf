"""Air, walls, lamps and surfaces against published equations and reference libraries."""

import math
from dataclasses import replace

import ht
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import dblquad

from husbandry.climate import air, basking, heaters, walls
from tests.core.test_enclosures import GLASS
from tests.psychro import psychrolib


@pytest.mark.sweep
@given(st.floats(5, 45), st.floats(5, 100))
def test_vapour_follows_psychrolib(temperature_c: float, percent: float) -> None:
    """PsychroLib implements ASHRAE Handbook of Fundamentals 2017; the Magnus form lies within 0.3 % of it here."""
    e = percent / 100 * float(air.saturation_pressure(temperature_c))
    assert e == pytest.approx(psychrolib.GetVapPresFromRelHum(temperature_c, percent / 100), rel=0.003)
    dew_point_c = psychrolib.GetTDewPointFromRelHum(temperature_c, percent / 100)
    if dew_point_c > 0:  # below, PsychroLib speaks of frost and we of water
        assert float(air.dew_point(e)) == pytest.approx(dew_point_c, abs=0.08)


def test_saturation_at_twenty_thirty_forty() -> None:
    """Alduchov & Eskridge 1996 (recalled) as worked out in their own form."""
    assert air.saturation_pressure([20, 30, 40]) == pytest.approx([2333.4, 4236.7, 7374.7], abs=0.5)


def test_one_vapour_pressure_reads_differently_at_either_end() -> None:
    """35 % at 32 °C is 56 % at 24 °C and 23 % at 40 °C."""
    assert float(air.moved_humidity(35, 32, 24)) == pytest.approx(56, abs=0.6)
    assert float(air.moved_humidity(35, 32, 40)) == pytest.approx(23, abs=0.6)


def test_panes_after_iso_6946() -> None:
    """4 mm of glass between two rooms, and the single pane to outdoors of EN 673."""
    assert walls.wall_u(walls.build_of("glass")) == pytest.approx(3.79, abs=0.01)
    assert walls.u_value(0.004, 1.0, outside=walls.R_OUTSIDE) == pytest.approx(5.75, abs=0.01)


@pytest.mark.parametrize("half_angle", [20.0, 42.0, 60.0])
def test_a_lamp_radiates_what_it_is_given(half_angle: float) -> None:
    """Energy: the irradiance over an endless floor adds up to the radiant watts (integrated by scipy)."""

    def ring(angle: float, radius: float) -> float:
        x, y = radius * math.cos(angle), radius * math.sin(angle)
        return float(heaters.irradiance(40.0, half_angle, 0.095, x, y, 0.3)) * radius

    total, _error = dblquad(ring, 0, 12.0, 0, 2 * math.pi, epsabs=1e-2, epsrel=1e-3)
    assert total == pytest.approx(40.0, rel=0.01)


def test_far_away_a_face_is_a_point_and_near_it_is_weaker() -> None:
    """Closed form of a cos^m point source on its axis: Φ(m + 1)/2πd²."""
    m = heaters.beam_exponent(30.0)
    point = 40.0 * (m + 1) / (2 * math.pi)
    assert float(heaters.irradiance(40.0, 30.0, 0.095, 0, 0, 1.0)) == pytest.approx(point, rel=0.02)
    near = float(heaters.irradiance(40.0, 20.0, 0.095, 0, 0, 0.15))
    spot = 40.0 * (heaters.beam_exponent(20.0) + 1) / (2 * math.pi) / 0.15**2
    assert 0.5 < near / spot < 0.8  # a spot at 15 cm is 20–50 % off


def test_the_beam_falls_to_half_at_its_half_angle() -> None:
    m = heaters.beam_exponent(35.0)
    assert math.cos(math.radians(35.0)) ** m == pytest.approx(0.5)


def test_the_warm_patch_widens_with_height() -> None:
    widths = [heaters.patch_diameter(42.0, 0.095, drop) for drop in (0.2, 0.3, 0.4)]
    assert widths == sorted(widths)
    radius = widths[1] / 2
    edge = heaters.irradiance(1.0, 42.0, 0.095, radius, 0, 0.3) / heaters.irradiance(1.0, 42.0, 0.095, 0, 0, 0.3)
    assert float(edge) == pytest.approx(0.5, abs=0.01)


@pytest.mark.parametrize(("surface", "ambient", "side"), [(45.0, 28.0, 0.25), (35.0, 25.0, 0.15), (60.0, 30.0, 0.4)])
def test_the_plate_follows_mcadams_as_ht_has_it(surface: float, ambient: float, side: float) -> None:
    """ht.conv_free_immersed.Nu_horizontal_plate_McAdams with the same properties of air; L = side/4."""
    length = side / 4
    prandtl = basking.AIR_VISCOSITY / basking.AIR_DIFFUSIVITY
    beta = 1 / ((surface + ambient) / 2 + 273.15)
    grashof = 9.81 * beta * (surface - ambient) * length**3 / basking.AIR_VISCOSITY**2
    expected = ht.Nu_horizontal_plate_McAdams(prandtl, grashof, buoyancy=True) * basking.AIR_CONDUCTIVITY / length
    ours = basking.convection_at(surface, ambient, side)
    assert ours == pytest.approx(expected, rel=0.01)


@pytest.mark.parametrize(("surface", "ambient", "side"), [(12.0, 28.0, 0.25), (18.0, 35.0, 0.6)])
def test_air_lies_still_on_a_plate_that_is_colder(surface: float, ambient: float, side: float) -> None:
    """ht.conv_free_immersed.Nu_horizontal_plate_McAdams without buoyancy, with the same properties of air."""
    length = side / 4
    prandtl = basking.AIR_VISCOSITY / basking.AIR_DIFFUSIVITY
    beta = 1 / ((surface + ambient) / 2 + 273.15)
    grashof = 9.81 * beta * (ambient - surface) * length**3 / basking.AIR_VISCOSITY**2
    expected = ht.Nu_horizontal_plate_McAdams(prandtl, grashof, buoyancy=False) * basking.AIR_CONDUCTIVITY / length
    ours = basking.convection_at(surface, ambient, side)
    assert ours == pytest.approx(max(expected, basking.STILL_AIR), rel=0.01)
    assert expected > basking.STILL_AIR  # or nothing is compared


@given(st.floats(0, 600), st.floats(15, 40), st.floats(15, 40), st.floats(15, 45), st.sampled_from(sorted(basking.PERCHES)))
def test_the_surface_balance_closes(irradiance: float, ambient: float, walls_c: float, ground: float, perch: str) -> None:
    """Energy in is energy out, to a tenth of a watt per square metre."""
    one = [np.array([value]) for value in (irradiance, ambient, walls_c, ground)]
    surface = basking.surface_temperature(one[0], basking.Surroundings(*one[1:]), 0.2, perch)[0]
    kind = basking.PERCHES[perch]
    h_c = basking.convection_at(float(surface), ambient, 0.2)
    radiated = basking.EMITTANCE * basking.STEFAN_BOLTZMANN * ((surface + 273.15) ** 4 - (walls_c + 273.15) ** 4)
    lost = h_c * (surface - ambient) + radiated + kind.bed * (surface - ground)
    assert kind.absorptance * irradiance == pytest.approx(lost, abs=0.5)
    # The sum a keeper reads is this one.
    terms = basking.surface_sum(irradiance, float(surface), basking.Surroundings(ambient, walls_c, ground), 0.2, perch)
    assert terms.to_walls == pytest.approx(radiated)
    assert terms.to_air + terms.to_walls + terms.to_bed == pytest.approx(lost)


@pytest.mark.parametrize("half_angle", [45.0, 50.0])
def test_a_hundred_watt_flood_at_thirty_centimetres(half_angle: float) -> None:
    """Common practice, no source: the usual start for 40–42 °C where warm air is near 30 °C."""
    kind = heaters.HEATERS["reflector-flood"]
    falling = heaters.irradiance(kind.radiant_share * 100, half_angle, kind.face_m, 0, 0, 0.30)
    one = np.array([30.0])
    surface = basking.surface_temperature(np.array([float(falling)]), basking.Surroundings(one, one - 3, one), 0.25, "stone")[0]
    assert 40 <= surface <= 43


def test_a_glass_lid_out_of_doors_has_the_wind_over_it() -> None:
    """4 mm of glass, heat going up, ISO 6946 resistances 0.10 and 0.04 m²K/W: 6.94 W/m²K, where two rooms have 4.90."""
    build = replace(walls.BUILDS["glass"], thickness_m=0.004)
    assert walls.lid_u(build, outdoors=True) == pytest.approx(6.94, abs=0.02)
    assert walls.lid_u(build) == pytest.approx(4.90, abs=0.02)


def test_board_keeps_lid_and_floor_as_it_keeps_walls() -> None:
    build = walls.BUILDS["plywood"]
    for bare, boarded in (
        (walls.lid_u(build), walls.lid_u(build, insulation_m=0.03)),
        (walls.base_u(build), walls.base_u(build, 0.03)),
        (walls.wall_u(build), walls.wall_u(build, 0.03)),
    ):
        assert 1 / boarded - 1 / bare == pytest.approx(0.03 / walls.MATERIALS["foam-board"].conductivity)


def test_the_earth_under_a_pen_takes_as_much_as_iso_13370_says() -> None:
    """A slab of 10 m by 10 m without insulation, wall 0: B' 5 m, thickness 0.42 m, U 0.90 W/m²K by hand; less for a larger one."""
    slab = replace(GLASS, length_m=10.0, width_m=10.0, wall_m=1e-6)
    whole = 1 / (1 / walls.earth_u(slab) + walls.R_DOWN)
    assert whole == pytest.approx(0.903, abs=0.02)
    assert walls.earth_u(replace(slab, length_m=20.0, width_m=20.0)) < walls.earth_u(slab)
    assert walls.earth_u(replace(slab, insulation_m=0.05)) < walls.earth_u(slab)
