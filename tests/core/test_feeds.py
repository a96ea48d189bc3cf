"""The days of the feeds and what each holds: intervals and chosen weekdays, fasts, room days, parts and foods in turn."""

from datetime import date, timedelta
from itertools import pairwise
from math import ceil

import pytest
from dateutil.rrule import WEEKLY
from hypothesis import given
from hypothesis import strategies as st

from husbandry.diet.powders import POWDERS
from husbandry.feeding.history import History
from husbandry.feeding.servings import Serving, Use, serve
from husbandry.rota.card import RoomDays, compile_card, expand
from husbandry.species.book import find, shipped
from husbandry.upkeep.feeds import FastDays, FeedRule, feeds
from husbandry.upkeep.recur import Weekly, dates
from tests.core.calendars import DAYS, SPANS, WEEKDAYS, by_rrule, start_of
from tests.plans import TODAY, assessed, plan


@given(st.integers(1, 30), DAYS, WEEKDAYS, st.integers(0, 60), st.integers(1, 200))
def test_a_day_says_the_same_however_far_one_looks(
    step: int, since: date, weekdays: tuple[int, ...], later: int, span: int
) -> None:
    rule = FeedRule(step, since)
    end = since + timedelta(days=span + later)
    whole = feeds(rule, since, end, weekdays=weekdays)
    part = feeds(rule, since + timedelta(days=later), end, weekdays=weekdays)
    assert part == [feed for feed in whole if feed.day >= since + timedelta(days=later)]


def test_room_days_keep_the_prescribed_gap_where_they_can() -> None:
    """Every third day on Mondays, Wednesdays, Fridays and Sundays: two, three or four days apart, never a day lost."""
    found = feeds(FeedRule(3, date(2026, 11, 23)), date(2026, 11, 23), date(2027, 1, 4), weekdays=(0, 2, 4, 6))
    assert {(later.day - earlier.day).days for earlier, later in pairwise(found)} <= {2, 3, 4}
    assert all(feed.day.weekday() in (0, 2, 4, 6) for feed in found)
    daily = feeds(FeedRule(1, TODAY), TODAY, TODAY + timedelta(days=7), weekdays=(0,))
    assert len(daily) == 7  # what is fed every day is fed every day


def test_a_feed_is_counted_from_the_last_meal_and_a_missed_one_is_not_made_up() -> None:
    rule = FeedRule(7, TODAY - timedelta(days=90), last_offered=TODAY - timedelta(days=10))
    first, second, *_rest = feeds(rule, TODAY, TODAY + timedelta(days=30), today=TODAY)
    assert (first.day, first.late, first.due) == (TODAY, True, TODAY - timedelta(days=3))
    assert (second.day, second.late) == (TODAY + timedelta(days=7), False)
    fed = FeedRule(7, TODAY - timedelta(days=90), last_offered=TODAY)
    assert feeds(fed, TODAY, TODAY + timedelta(days=8), today=TODAY)[0].day == TODAY + timedelta(days=7)


@given(WEEKDAYS, st.integers(1, 4), DAYS, DAYS, SPANS)
def test_feeds_on_chosen_weekdays_are_rfc_5545s_weekly(
    weekdays: tuple[int, ...], weeks: int, starts: date, begin: date, span: int
) -> None:
    """Five plus two days a week among them: whatever the room's days, for the keeper chose these."""
    end = begin + timedelta(days=span)
    rule = FeedRule(7, starts, weekdays=weekdays, every_weeks=weeks)
    found = feeds(rule, begin, end, weekdays=(1, 4))
    expected = by_rrule(begin, end, freq=WEEKLY, interval=weeks, byweekday=weekdays, dtstart=start_of(starts), wkst=0)
    assert tuple(feed.day for feed in found) == expected


@given(WEEKDAYS, st.integers(1, 4), st.integers(0, 40), st.integers(1, 60))
def test_on_weekdays_a_missed_feed_stands_today_and_the_weekdays_go_on(
    weekdays: tuple[int, ...], weeks: int, ago: int, span: int
) -> None:
    rule = FeedRule(7, TODAY - timedelta(days=90), TODAY - timedelta(days=ago), weekdays=weekdays, every_weeks=weeks)
    found = feeds(rule, TODAY, TODAY + timedelta(days=28 * weeks + span), today=TODAY)
    assert found
    assert all(feed.day.weekday() in weekdays for feed in found if not feed.late)
    gaps = [(later - day) % (7 * weeks) or 7 * weeks for day, later in pairwise((*weekdays, weekdays[0] + 7 * weeks))]
    near = min(ceil(rule.mean_days / 2), *gaps, 28)
    assert all((later.day - earlier.day).days >= near for earlier, later in pairwise(found))
    missed = dates(Weekly(weekdays, rule.starts, weeks), TODAY - timedelta(days=max(ago - near, 0)), TODAY)
    assert [feed.day for feed in found if feed.late] == ([TODAY] if missed else [])


def test_a_week_of_chosen_days_is_fed_and_dusted_by_its_mean_gap() -> None:
    """Monday and Thursday is every three and a half days: judged, dusted and summed as such."""
    found = assessed(feeding={"starts": "2026-11-02", "weekdays": [0, 3], "interval_days": 9})
    assert found.quantity("feed_interval").value == pytest.approx(3.5)
    assert {feed.day.weekday() for feed in found.menu.days} == {0, 3}
    often = {name: len([1 for feed in found.menu.days for item in feed.dusting if item.product.name == name]) for name in POWDERS}
    assert often["plain calcium"] == len(found.menu.days) == 8  # four weeks; calcium at every feed
    assert often["multivitamin"] == 2  # every other week
    three, four = (assessed(feeding={"interval_days": days}).quantity("energy_week").value or 0.0 for days in (3, 4))
    assert four < (found.quantity("energy_week").value or 0.0) < three


PARTS = (
    Serving((Use("cricket", 4, 2.0, 0.5), Use("dubia", 4, 2.0, 0.5)), in_turn=True),
    Serving((Use("mouse/fuzzy", 1, 5.0, 0.25),), every_days=14.0),
    Serving((Use("egg", None, 3.0, 0.5),), every_days=7.0),
)


@given(st.integers(1, 6), st.integers(20, 60))
def test_each_part_comes_as_often_as_it_should_and_foods_in_turn_take_turns(interval: int, count: int) -> None:
    planned = [TODAY + timedelta(days=interval * place) for place in range(count)]
    laid = serve(PARTS, planned, TODAY, {})
    held = {food: [day for day, uses in laid.items() if any(use.food == food for use in uses)] for food in TURNS}
    assert abs(len(held["cricket"]) - len(held["dubia"])) <= 1
    assert len(held["cricket"]) + len(held["dubia"]) == count
    days = interval * (count - 1)
    for food, every in (("mouse/fuzzy", 14), ("egg", 7)):
        assert abs(len(held[food]) - days / every) <= 1.5
        assert all((later - earlier).days >= every / 2 for earlier, later in pairwise(held[food]))


TURNS = ("cricket", "dubia", "mouse/fuzzy", "egg")


def test_what_was_given_is_not_given_again_before_its_turn() -> None:
    """What the log tells moves the parts as it moves the powders; a food of two parts says nothing of the rarer one."""
    planned = [TODAY + timedelta(days=3 * place) for place in range(8)]
    offered = {"cricket": TODAY - timedelta(days=3), "dubia": TODAY - timedelta(days=6), "mouse/fuzzy": TODAY - timedelta(days=1)}
    laid = serve(PARTS, planned, TODAY - timedelta(days=28), offered)
    assert laid[TODAY][0].food == "dubia"
    assert [(day - TODAY).days for day, uses in laid.items() if any(use.food == "mouse/fuzzy" for use in uses)] == [15]
    twice = (Serving((Use("cricket", 4, 2.0),)), Serving((Use("cricket", 9, 5.0), Use("locust", 2, 4.0)), every_days=14.0))
    laid = serve(twice, planned, TODAY - timedelta(days=14), {"cricket": TODAY - timedelta(days=3)})
    assert sum(use.food == "locust" for use in laid[TODAY]) == 1


@pytest.mark.parametrize("key", shipped())
def test_what_the_feeds_take_is_what_the_week_is_summed_from(key: str) -> None:
    """Over a year every profile's feeds hold, food by food, what the shares say: the freezer runs out when the sums say so."""
    profile = find(key)
    made = plan(species=key, schools={}, animal={"mass_kg": 0.2, "length_m": 0.3}, feeding={"starts": "2026-11-24"})
    card = compile_card(made, profile, TODAY, History(TODAY))
    days = expand(card, TODAY, TODAY + timedelta(days=364), RoomDays(TODAY), daily=False)
    for use in card.uses:
        alike = sum(item.share for item in card.uses if item.food == use.food)
        took = sum(item.food == use.food for uses in days.foods.values() for item in uses)
        assert took == pytest.approx(alike * len(days.feeds), abs=1.5)


def test_a_fast_drops_feeds_and_a_move_takes_one_along() -> None:
    fast = FastDays(TODAY + timedelta(days=5), TODAY + timedelta(days=16), "rest")
    found = feeds(FeedRule(5, TODAY, fasts=(fast,)), TODAY, TODAY + timedelta(days=22))
    assert [(feed.day - TODAY).days for feed in found] == [0, 17]  # the day after it, and the count goes on from there
    moved = feeds(
        FeedRule(5, TODAY), TODAY, TODAY + timedelta(days=11), moves={TODAY + timedelta(days=5): TODAY + timedelta(days=6)}
    )
    assert [((feed.day - TODAY).days, feed.moved) for feed in moved] == [(0, False), (6, True), (10, False)]


@given(st.integers(1, 30), st.integers(0, 40), st.integers(0, 50), st.integers(0, 60))
def test_feeds_after_a_fast_are_the_same_tomorrow(interval: int, ago: int, begins: int, lasts: int) -> None:
    """A fast drops what falls into it and nothing else, and no day that passes moves what comes after it."""
    fast = FastDays(TODAY - timedelta(days=5) + timedelta(days=begins), TODAY + timedelta(days=begins + lasts), "shed")
    rule = FeedRule(interval, TODAY - timedelta(days=90), TODAY - timedelta(days=ago), (fast,))
    end = TODAY + timedelta(days=200)
    now = feeds(rule, TODAY, end, today=TODAY)
    assert not any(fast.holds(feed.day) for feed in now)
    after = [feed.day for feed in now if feed.day > fast.last]
    assert all((later - earlier).days == interval for earlier, later in pairwise(after))
    within = next((day for day in range(1, 40) if fast.holds(TODAY + timedelta(days=day)) and fast.holds(TODAY)), None)
    if within is not None:
        tomorrow = TODAY + timedelta(days=within)
        assert [feed.day for feed in feeds(rule, tomorrow, end, today=tomorrow) if feed.day > fast.last] == after
