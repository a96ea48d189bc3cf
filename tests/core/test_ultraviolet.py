"""The tube against the formula that rates UV lamps and against numerical integration."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import quad

from husbandry.light.ultraviolet import Lamp, ageing, distance_for, index_at, line_shape, lit_share, mesh_open_share, mesh_passes


@given(st.floats(0.05, 2.0), st.floats(-1.5, 1.5), st.floats(0.1, 1.5))
def test_the_line_source_is_its_integral(distance: float, along: float, length: float) -> None:
    """scipy.integrate.quad over a Lambertian line: dE = cos² / r² per metre, to 1e-9."""
    expected, _error = quad(
        lambda s: distance**2 / (distance**2 + (s - along) ** 2) ** 2,
        -length / 2,
        length / 2,
        epsabs=0,
        epsrel=1e-12,
        points=[min(max(along, -length / 2), length / 2)],
    )
    assert float(line_shape(distance, along, length)) == pytest.approx(expected, rel=1e-9)


@given(st.floats(0.1, 1.5), st.floats(0.2, 1.2))
def test_the_middle_is_the_keitz_formula(distance: float, length: float) -> None:
    """P = 2π² E D L / (2α + sin 2α), Keitz 1971 as used to rate UV lamps (recalled); power per metre P/π²L on the axis."""
    alpha = math.atan(length / (2 * distance))
    irradiance = float(line_shape(distance, 0.0, length))
    power = 2 * math.pi**2 * irradiance * distance * length / (2 * alpha + math.sin(2 * alpha))
    assert power / (math.pi**2 * length) == pytest.approx(1.0, rel=1e-9)


def test_neither_one_over_distance_nor_its_square() -> None:
    """L = 0.55 m: from 30 to 20 cm × 1.715, to 45 cm × 0.534; a 1.15 m tube gives 21 % more."""
    lamp = Lamp("slim-12", 0.55, 0.5, 0.6)
    assert lamp.index_at(0.5, 0.3) == pytest.approx(4.5)
    assert lamp.index_at(0.5, 0.4) / 4.5 == pytest.approx(1.715, abs=0.001)
    assert lamp.index_at(0.5, 0.15) / 4.5 == pytest.approx(0.534, abs=0.001)
    assert Lamp("slim-12", 1.15, 0.5, 0.6).index_at(0.5, 0.3) / 4.5 == pytest.approx(1.21, abs=0.005)


def test_mesh_age_and_a_missing_reflector_each_take_their_share() -> None:
    new = Lamp("slim-6", 0.55, 0.5, 0.6).index_at(0.5, 0.3)
    straight = Lamp("compact-10", 0.0, 0.5, 0.6)
    meshed = Lamp("compact-10", 0.0, 0.5, 0.6, passed=0.65)
    assert meshed.index_at(0.5, 0.3) == pytest.approx(0.65 * straight.index_at(0.5, 0.3))
    # Of a tube the ends shine at a slant: less than the open share, by a few percent.
    assert 0.92 * 0.65 * new < Lamp("slim-6", 0.55, 0.5, 0.6, passed=0.65).index_at(0.5, 0.3) < 0.65 * new
    assert Lamp("slim-6", 0.55, 0.5, 0.6, passed=0.0).index_at(0.5, 0.3) == 0.0
    assert Lamp("slim-6", 0.55, 0.5, 0.6, reflector=False).index_at(0.5, 0.3) == pytest.approx(0.6 * new)
    assert ageing("slim-6", 12) == pytest.approx(0.7)  # trade: 70 % at rated life
    assert ageing("wide-5", 12) == pytest.approx(0.49)
    assert mesh_open_share(4.0, 1.0) == pytest.approx(0.64)


def test_a_mesh_passes_less_at_a_slant() -> None:
    """Geometry of a square mesh, wires of 1 in 5: 0.64 straight on, 0.57 at 45° (0.58 from memory), none past 78°."""
    assert mesh_passes(0.64, 1.0) == pytest.approx(0.64)
    assert mesh_passes(0.64, math.cos(math.radians(45))) == pytest.approx(0.8 * (1 - 0.2 * math.sqrt(2)))
    assert mesh_passes(0.64, math.cos(math.radians(45))) == pytest.approx(0.58, abs=0.01)
    assert mesh_passes(0.64, math.cos(math.radians(79))) == 0.0
    assert mesh_passes(1.0, 0.2) == pytest.approx(1.0)


@given(st.floats(0.05, 1.0), st.floats(-1.2, 1.2), st.floats(0.1, 1.6), st.floats(0.05, 1.0))
def test_a_tube_behind_mesh_is_its_rays_one_by_one(distance: float, along: float, length: float, open_share: float) -> None:
    """`scipy.integrate.quad` over the tube: each piece by cos² of its angle over the square of its way."""

    def ray(place: float) -> float:
        way = math.hypot(distance, place - along)
        cosine = distance / way
        return cosine**2 / way**2 * float(mesh_passes(open_share, cosine))

    wire = 1 - math.sqrt(open_share)
    reach = distance * math.sqrt(max(1 / wire**2 - 1, 0.0)) if wire > 0 else math.inf
    begin, end = max(-length / 2, along - reach), min(length / 2, along + reach)
    expected = quad(ray, begin, end, epsabs=0, epsrel=1e-12, limit=400)[0] if end > begin else 0.0
    assert float(line_shape(distance, along, length, open_share)) == pytest.approx(expected, rel=1e-9, abs=1e-12)


@given(st.sampled_from(["slim-6", "slim-14", "wide-10", "compact-10"]), st.floats(0.3, 4.0), st.floats(-0.2, 0.2))
def test_the_solved_distance_gives_the_wanted_index(kind: str, wanted: float, along: float) -> None:
    lamp = Lamp(kind, 0.55, 1.0, 5.0)
    distance = distance_for((lamp,), wanted, lamp.x_m + along)
    if distance is None:
        nearby = max(float(lamp.index_at(1.0 + along, 5.0 - d)) for d in (0.03, 0.05, 0.1, 0.2))
        assert nearby < wanted or float(lamp.index_at(1.0 + along, 2.0)) >= wanted
    else:
        assert float(lamp.index_at(1.0 + along, 5.0 - distance)) == pytest.approx(wanted, rel=1e-3)


def test_lamps_add_and_leave_the_far_end_dark() -> None:
    pair = (Lamp("slim-6", 0.55, 0.3, 0.6), Lamp("slim-6", 0.55, 0.3, 0.6))
    assert index_at(pair, 0.3, 0.2) == pytest.approx(2 * index_at(pair[:1], 0.3, 0.2))
    assert 0 < lit_share(pair, 1.8, 0.2, 1.0) < 0.5
    assert float(index_at(pair, 0.3, 0.7)) == 0.0  # nothing above the lamp
