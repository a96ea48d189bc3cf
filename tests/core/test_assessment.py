"""A value in its band."""

from husbandry.assessment import Band, Basis, BasisKind, Verdict

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
