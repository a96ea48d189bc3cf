"""Sick, or season: which way what is known points, and when a veterinarian is asked. The cases are the trade's (no source)."""

from hypothesis import given
from hypothesis import strategies as st

from husbandry.watch.sick_or_season import Known, Side, weigh

MAYBE = st.none() | st.booleans()


def test_a_snake_that_fasts_in_its_season_and_keeps_its_weight_is_left_alone() -> None:
    found = weigh(Known(lost_share=0.02, in_season=True, keeping_wrong=False, sign=False))
    assert found.likeliest is Side.SEASON
    assert not found.ask_vet


def test_weight_lost_out_of_season_is_a_veterinarians() -> None:
    found = weigh(Known(lost_share=0.13, in_season=False, keeping_wrong=False))
    assert found.likeliest is Side.ILL
    assert found.ask_vet


def test_a_sign_outweighs_every_season() -> None:
    found = weigh(Known(lost_share=0.01, in_season=True, night_cooled=True, gravid=True, keeping_wrong=False, sign=True))
    assert found.ask_vet


def test_a_cold_warm_end_is_mended_before_anything_is_feared() -> None:
    found = weigh(Known(lost_share=0.06, in_season=False, keeping_wrong=True, sign=False))
    assert found.likeliest is Side.KEEPING


def test_a_weighing_is_named_where_it_is_missing() -> None:
    found = weigh(Known(in_season=True))
    assert "lost_share" in found.unknown
    assert "in_season" not in found.unknown


@given(
    st.builds(
        Known,
        lost_share=st.none() | st.floats(-0.2, 0.5),
        in_season=MAYBE,
        night_cooled=MAYBE,
        hatchling=MAYBE,
        gravid=MAYBE,
        about_to_shed=MAYBE,
        new=MAYBE,
        keeping_wrong=MAYBE,
        days_over=st.none() | st.floats(-50, 200),
        sign=MAYBE,
        parasites=MAYBE,
    )
)
def test_shares_add_up_and_a_sign_never_makes_illness_less_likely(known: Known) -> None:
    found = weigh(known)
    assert abs(sum(found.shares.values()) - 1) < 1e-9
    with_sign = weigh(Known(**{**known.__dict__, "sign": True}))
    assert with_sign.shares[Side.ILL] >= found.shares[Side.ILL] - 1e-9
    assert with_sign.ask_vet
