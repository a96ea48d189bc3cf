"""Feeds, rations and the dusting rota."""

from datetime import date, timedelta
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from husbandry.diet.dusting import Product, rota
from husbandry.diet.rations import interval_days, supplements_in_use
from husbandry.species.book import find
from husbandry.species.leaves import Range
from husbandry.upkeep.feeds import FeedRule, feeds
from tests.plans import TODAY, assessed

START = date(2026, 1, 1)
DAYS = st.dates(date(2020, 1, 1), date(2032, 12, 31))


def feed_dates(starts: date, interval_days: int, begin: date, days: int) -> list[date]:
    """Feeds every so many days from `begin` on, in the rhythm of `starts`, which lies before it."""
    return [feed.day for feed in feeds(FeedRule(interval_days, starts), begin, begin + timedelta(days=days))]


def gaps(feeds: list[date], product: Product) -> list[int]:
    placed = rota(feeds, (product,), feeds[0])
    return [later - earlier for earlier, later in pairwise(index for index, feed in enumerate(feeds) if placed[feed])]


def test_every_fortnight_at_every_third_day_is_gaps_of_five_five_four() -> None:
    """Common practice, no source: every 4.67th meal, so the gaps go 5, 5, 4."""
    feeds = feed_dates(START, 3, START, 180)
    assert gaps(feeds, Product("multivitamin", every_days=14))[:9] == [5, 5, 4] * 3


def test_five_days_a_week_and_two_days_a_week_share_out_a_daily_rota() -> None:
    """Common practice, no source: fed daily, calcium with D3 on two days a week and plain calcium on the five between."""
    feeds = feed_dates(START, 1, START, 84)
    placed = rota(feeds, (Product("calcium with D3", every_days=3.5),), START)
    with_d3 = [index for index, feed in enumerate(feeds) if placed[feed]]
    assert len(with_d3) == 24
    assert {later - earlier for earlier, later in pairwise(with_d3)} == {3, 4}
    assert all(sum(week <= index < week + 7 for index in with_d3) == 2 for week in range(0, 84, 7))


def test_two_fat_soluble_products_never_share_a_meal() -> None:
    feeds = feed_dates(START, 3, START, 120)
    products = (
        Product("multivitamin", every_days=14),
        Product("calcium with D3", every_days=7),
        Product("plain calcium", every_feeds=1),
    )
    for items in rota(feeds, products, START).values():
        assert sum(item.product.fat_soluble for item in items) <= 1
        assert any(item.product.name == "plain calcium" for item in items)


def test_the_rarer_product_keeps_its_meal_and_the_other_says_it_moved() -> None:
    feeds = feed_dates(START, 3, START, 30)
    placed = rota(feeds, (Product("calcium with D3", every_days=7), Product("multivitamin", every_days=14)), START)
    assert [(item.product.name, item.moved) for item in placed[feeds[0]]] == [("multivitamin", False)]
    assert [(item.product.name, item.moved) for item in placed[feeds[1]]] == [("calcium with D3", True)]


@given(st.integers(1, 14), st.floats(1.0, 40.0), DAYS)
def test_a_product_comes_as_often_as_it_should(interval: int, every_days: float, start: date) -> None:
    """Over a long time the mean gap is the wanted one, or the feeding interval where feeds are rarer."""
    feeds = feed_dates(start, interval, start, 1500)
    placed = rota(feeds, (Product("plain calcium", every_days=every_days),), start)
    times = sum(bool(items) for items in placed.values())
    assert times == pytest.approx(1500 / max(every_days, interval), rel=0.15, abs=2)


@given(st.integers(1, 10), st.integers(0, 300))
def test_tomorrow_moves_nothing_that_was_planned_today(interval: int, wait: int) -> None:
    """Stable: the rota counted on a later day says the same of the days both see."""
    products = (Product("multivitamin", every_days=14), Product("calcium with D3", every_days=6))
    early = rota(feed_dates(START, interval, START, 400), products, START)
    late = rota(feed_dates(START, interval, START, 400 + wait), products, START)
    assert all(late[day] == items for day, items in early.items())


@given(DAYS, st.integers(1, 60), st.integers(0, 400), st.integers(1, 60))
def test_feeds_keep_their_rhythm_over_month_ends_and_leap_days(start: date, interval: int, offset: int, days: int) -> None:
    begin = start + timedelta(days=offset)
    feeds = feed_dates(start, interval, begin, days)
    assert all(begin <= feed < begin + timedelta(days=days) for feed in feeds)
    assert all((feed - start).days % interval == 0 for feed in feeds)
    assert all((later - earlier).days == interval for earlier, later in pairwise(feeds))
    assert len(feeds) in (days // interval, -(-days // interval))


def test_the_interval_is_whole_days() -> None:
    assert interval_days(Range(low=2.5, high=4, basis="practice"), None) == 2
    assert interval_days(Range(low=3, high=4, basis="practice"), 6) == 6


def test_d3_by_mouth_only_without_uvb() -> None:
    """Common practice, no source: the dusting rota differs with and without UVB."""
    adult = find("leopard-gecko").stage("adult").feeding
    assert {item.product for item in supplements_in_use(adult, uvb=True)} == {"plain calcium", "multivitamin"}
    assert {item.product for item in supplements_in_use(adult, uvb=False)} == {"plain calcium", "calcium with D3", "multivitamin"}


def test_the_menu_follows_the_lamp() -> None:
    lit = assessed().menu
    dark = assessed(uv_lamps=[], schools__uvb="none").menu
    assert lit.uvb
    assert not dark.uvb
    assert {item.product.name for feed in dark.days for item in feed.dusting} == {
        "plain calcium",
        "calcium with D3",
        "multivitamin",
    }
    assert all(TODAY <= feed.day < TODAY + timedelta(days=28) for feed in lit.days)


def test_short_sessions_are_uvb_given_and_a_few_minutes_are_not() -> None:
    """Common practice, no source: two hours a day of a right index count; three minutes do not, and D3 comes by mouth."""
    lamp = {"kind": "slim-6", "tube_m": 0.55, "x_m": 0.3, "height_m": 0.4, "on": "07:00", "fitted": TODAY.isoformat()}
    sessions, moment = (assessed(uv_lamps=[lamp | {"off": off}]).menu for off in ("09:00", "07:03"))
    assert sessions.uvb
    assert not moment.uvb
    assert "calcium with D3" in {item.product.name for feed in moment.days for item in feed.dusting}


def test_a_longer_interval_recomputes_the_rota() -> None:
    slow = assessed(feeding__interval_days=7).menu
    assert [(later.day - earlier.day).days for earlier, later in pairwise(slow.days)] == [7, 7, 7]
    vitamin_days = [feed.day for feed in slow.days if any(item.product.name == "multivitamin" for item in feed.dusting)]
    assert all((later - earlier).days == 14 for earlier, later in pairwise(vitamin_days))
