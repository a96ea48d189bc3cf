"""Stock: first in first out, what lasts how long, when to order."""

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from husbandry.diet import refusals, weighing
from husbandry.diet.stock import Lot, NotEnoughError, Ordering, first_out, forecast, take
from tests.plans import TODAY

LOTS = st.lists(
    st.builds(
        Lot,
        st.integers(0, 10**6),
        st.floats(0, 500),
        st.dates(date(2026, 1, 1), date(2026, 11, 24)),
        st.none() | st.dates(date(2026, 6, 1), date(2027, 12, 31)),
    ),
    max_size=8,
    unique_by=lambda lot: lot.key,
)


@given(LOTS, st.floats(0, 2000))
def test_what_is_taken_is_what_was_asked_and_nothing_is_lost(lots: list[Lot], amount: float) -> None:
    held = sum(lot.amount for lot in lots)
    if amount > held + 1e-6:
        with pytest.raises(NotEnoughError) as refused:
            take(lots, amount)
        assert refused.value.short == pytest.approx(amount - held, abs=1e-6)
        return
    taken = take(lots, min(amount, held))
    assert sum(part for _lot, part in taken) == pytest.approx(min(amount, held), abs=1e-6)
    assert all(0 < part <= lot.amount for lot, part in taken)
    order = [lot.key for lot in first_out(lots) if lot.amount > 0]
    assert [lot.key for lot, _part in taken] == order[: len(taken)]  # none is passed over
    assert all(part == lot.amount for lot, part in taken[:-1])  # and each is emptied before the next


def test_nobody_takes_less_than_nothing() -> None:
    with pytest.raises(ValueError, match="less than nothing"):
        take([Lot(1, 3, TODAY)], -1)


def test_a_freezer_that_runs_out_in_nine_days_says_when_to_order() -> None:
    """Eleven mice, one a day on some days: the day is the rota's, not a mean's."""
    uses = {TODAY + timedelta(days=day): 2.0 for day in (0, 2, 4, 6, 8, 10, 12)}
    found = forecast([Lot(1, 10, TODAY)], uses, TODAY, 28, Ordering(lead_days=5, pack_size=25, cover_days=28))
    assert found.lasts_until == TODAY + timedelta(days=9)
    assert found.days_left == 10
    assert found.order_by == TODAY + timedelta(days=3)
    assert found.a_week == pytest.approx(7 * 14 / 28)
    assert found.packs == 1


def test_what_lasts_needs_no_order_and_what_goes_stale_is_told() -> None:
    lasting = forecast([Lot(1, 100, TODAY)], {TODAY: 1.0}, TODAY, 28)
    assert (lasting.days_left, lasting.order_by, lasting.packs) == (None, None, 0)
    stale = forecast([Lot(1, 100, TODAY, TODAY + timedelta(days=3))], {TODAY: 1.0, TODAY + timedelta(days=10): 1.0}, TODAY, 28)
    assert stale.stale == 99.0
    assert stale.days_left == 10


def test_nobody_orders_what_spoils_before_it_is_eaten() -> None:
    """Common practice, no source: fresh leaf keeps about three days in the drawer; 28 days of 30 g a day are not bought at once."""
    uses = {TODAY + timedelta(days=day): 30.0 for day in range(28)}
    lasting = forecast([], uses, TODAY, 28, Ordering(lead_days=1, pack_size=60, cover_days=28))
    fresh = forecast([], uses, TODAY, 28, Ordering(lead_days=1, pack_size=60, cover_days=28, keeps_days=3))
    assert lasting.packs == 15
    assert (fresh.packs, fresh.covers_days) == (2, 3)
    dried = forecast([], uses, TODAY, 28, Ordering(lead_days=1, pack_size=60, cover_days=28, keeps_days=365))
    assert (dried.packs, dried.covers_days) == (lasting.packs, 28)


@given(LOTS, st.lists(st.floats(0, 20), min_size=28, max_size=28))
def test_the_last_day_is_the_last_the_stock_suffices_for(lots: list[Lot], amounts: list[float]) -> None:
    fresh = [Lot(lot.key, lot.amount, lot.received) for lot in lots]
    uses = {TODAY + timedelta(days=day): amount for day, amount in enumerate(amounts)}
    found = forecast(fresh, uses, TODAY, 28)
    held = sum(lot.amount for lot in fresh)
    if found.lasts_until is None:
        assert sum(amounts) <= held + 1e-5
        return
    until = sum(amount for day, amount in uses.items() if day <= found.lasts_until)
    assert until <= held + 1e-5
    assert until + uses[found.lasts_until + timedelta(days=1)] > held - 1e-5


def test_weighing_by_tare_and_by_difference() -> None:
    """Common practice, no source: the tub with the snake less the tub; a bowl before and after, less what dried."""
    assert weighing.by_tare(612.0, 92.0) == 520.0
    assert weighing.eaten(40.0, 12.0, dried_g=3.0) == 25.0
    for wrong in (lambda: weighing.by_tare(80, 92), lambda: weighing.eaten(10, 12)):
        with pytest.raises(weighing.WeighingError):
            wrong()
    with pytest.raises(weighing.WeighingError, match="nothing"):
        weighing.by_tare(0, 0)


def test_a_refusal_is_counted_against_what_is_normal_now() -> None:
    """A breeding fast, a move and a shed are normal for a while; a young insect eater off its food for a week is not."""
    last = TODAY - timedelta(days=40)
    fasting = refusals.judge(
        "whole prey", refusals.Refusals(4, last, 10), TODAY, grown=True, around=refusals.Circumstances(breeding_days=70)
    )
    usual = refusals.judge("whole prey", refusals.Refusals(7, TODAY - timedelta(days=60), 10), TODAY, grown=True)
    assert fasting is not None
    assert usual is not None
    assert (fasting.why, fasting.vet) == ("breeding fast", False)
    assert (usual.why, usual.vet) == ("usual", True)
    thin = refusals.judge(
        "whole prey",
        refusals.Refusals(2, last, 10),
        TODAY,
        grown=True,
        around=refusals.Circumstances(breeding_days=70),
        loss=refusals.Loss(11),
    )
    assert thin is not None
    assert thin.vet
    young = refusals.judge("insects", refusals.Refusals(7, TODAY - timedelta(days=7), 1), TODAY, grown=False)
    moved = refusals.judge(
        "insects",
        refusals.Refusals(7, None, 1),
        TODAY,
        grown=False,
        around=refusals.Circumstances(arrived=TODAY - timedelta(days=7)),
    )
    assert young is not None
    assert moved is not None
    assert young.vet
    assert not moved.vet
    assert refusals.judge("insects", refusals.Refusals(0, last, 2), TODAY, grown=True) is None
