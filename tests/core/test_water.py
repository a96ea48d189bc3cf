"""Water that is lived in: nitrogen by mass balance, ammonia by pH, the mister's reservoir."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from husbandry.furnishing.water import (
    before_change,
    interval_for,
    misting_seconds,
    nitrogen_mg_a_day,
    reservoir_days,
    unionised_share,
)


@pytest.mark.parametrize(("water_c", "ph", "percent"), [(25.0, 8.0, 5.4), (20.0, 7.0, 0.396), (10.0, 7.5, 0.586)])
def test_unionised_ammonia(water_c: float, ph: float, percent: float) -> None:
    """Emerson et al. 1975 (recalled): 5.4 % at 25 °C and pH 8.0; the table's 0.396 % at 20 °C and 7.0, 0.586 % at 10 °C and 7.5."""
    assert 100 * unionised_share(water_c, ph) == pytest.approx(percent, rel=0.02)


@given(st.floats(0.1, 200), st.floats(5, 500), st.floats(0.05, 1.0), st.integers(1, 30))
def test_what_builds_up_between_changes_is_what_stepping_through_the_days_gives(
    mg_a_day: float, litres: float, share: float, interval: int
) -> None:
    """Against the days one by one, until it no longer changes."""
    holds_mg, before = 0.0, -1.0
    for _change in range(4000):
        holds_mg += mg_a_day * interval
        if abs(holds_mg - before) < 1e-9 * holds_mg:
            break
        before = holds_mg
        holds_mg *= 1 - share
    assert before_change(mg_a_day, litres, share, interval) == pytest.approx(holds_mg / litres, rel=1e-4)
    most = before_change(mg_a_day, litres, share, interval)
    assert interval_for(mg_a_day, litres, share, most) == pytest.approx(interval)


def test_nitrogen_of_a_meal() -> None:
    """By hand: a gram of protein holds 160 mg of nitrogen, of which seven tenths go into the water."""
    assert nitrogen_mg_a_day(1.0) == pytest.approx(112.0)


def test_no_water_and_no_change_are_refused() -> None:
    for litres, share in ((0.0, 0.5), (100.0, 0.0), (100.0, 1.5)):
        with pytest.raises(ValueError, match="water"):
            before_change(1.0, litres, share, 7)
    with pytest.raises(ValueError, match="nozzle"):
        misting_seconds(10.0, 0, 60.0)


def test_a_reservoir_and_a_misting() -> None:
    """By hand: ten litres at 250 g a day last forty days; two nozzles of 75 g a minute give 50 g in 20 s."""
    assert reservoir_days(10.0, 250.0) == pytest.approx(40.0)
    assert misting_seconds(50.0, 2, 75.0) == pytest.approx(20.0)
