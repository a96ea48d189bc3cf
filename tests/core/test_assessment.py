"""A value in its band."""

import pytest

from husbandry.assessment import Band, Basis, BasisKind, Verdict
from husbandry.species.leaves import Range

BAND = Band(30.0, 35.0, Basis(BasisKind.PRACTICE), danger_low=20.0, danger_high=42.0)


def test_the_edges_belong_to_the_band() -> None:
    assert BAND.judge(30.0) is Verdict.INSIDE
    assert BAND.judge(35.0) is Verdict.INSIDE


def test_a_fifth_of_the_width_beyond_is_near() -> None:
    assert BAND.judge(36.0) is Verdict.NEAR
    assert BAND.judge(36.1) is Verdict.OUTSIDE
    assert BAND.judge(29.0) is Verdict.NEAR


def test_beyond_the_limits_is_dangerous_and_nothing_is_unknown() -> None:
    assert BAND.judge(42.1) is Verdict.DANGEROUS
    assert BAND.judge(19.9) is Verdict.DANGEROUS
    assert BAND.judge(None) is Verdict.UNKNOWN


def test_an_open_band_asks_on_one_side_only() -> None:
    at_least = Band(0.9, None, Basis(BasisKind.PRACTICE))
    assert at_least.judge(5.0) is Verdict.INSIDE
    assert at_least.judge(0.88) is Verdict.NEAR
    assert at_least.judge(0.5) is Verdict.OUTSIDE


@pytest.mark.parametrize("edge_c", [-5.0, 0.0, 4.0, 24.0])
def test_how_near_a_temperature_is_does_not_hang_on_where_celsius_begins(edge_c: float) -> None:
    """An axolotl's night and a gecko's are judged alike: half a kelvin off is near, three are not."""
    at_most = Range(high=edge_c, basis="practice").band_c()
    at_least = Range(low=edge_c, basis="practice").band_c()
    assert [at_most.judge(edge_c + off) for off in (-3.0, 0.0, 0.8, 3.0)] == [
        Verdict.INSIDE,
        Verdict.INSIDE,
        Verdict.NEAR,
        Verdict.OUTSIDE,
    ]
    assert [at_least.judge(edge_c - off) for off in (-3.0, 0.0, 0.8, 3.0)] == [
        Verdict.INSIDE,
        Verdict.INSIDE,
        Verdict.NEAR,
        Verdict.OUTSIDE,
    ]


def test_a_range_from_freezing_begins_at_freezing() -> None:
    winter = Range(low=0.0, high=8.0, basis="practice")
    assert (winter.least, winter.most) == (0.0, 8.0)
    assert Range(low=-8.0, high=0.0, basis="practice").most == 0.0
    assert Range(high=6.0, basis="practice").least == 6.0
