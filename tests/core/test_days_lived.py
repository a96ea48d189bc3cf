"""The rota lived day by day: what is seen ahead is what comes, and what goes wrong is caught up by the stated rules."""

from dataclasses import replace
from datetime import date, timedelta
from functools import cache
from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from husbandry.diet.dusting import Product, rota
from husbandry.feeding.history import History, RecordedMeal
from husbandry.feeding.schedule import past_of
from husbandry.feeding.servings import Serving, Use, serve, turns_given
from husbandry.rota.card import Card, Days, RoomDays, compile_card, expand
from husbandry.species.book import find
from tests.plans import TODAY, plan
from tests.sample import times

DAY = timedelta(days=1)
# Grown animals of every way of feeding, so that no stage comes between; kept from TODAY on.
GROWN = {
    "african-fat-tailed-gecko": {"mass_kg": 0.06, "length_m": 0.13},
    "corn-snake": {"mass_kg": 0.7, "length_m": 1.3},
    "russian-tortoise": {"mass_kg": 1.1, "length_m": 0.17},
    "blue-tongued-skink": {"mass_kg": 0.45, "length_m": 0.3},
    "crested-gecko": {"mass_kg": 0.04, "length_m": 0.11},
    "egg-eating-snake": {"mass_kg": 0.09, "length_m": 0.75},
    "fire-salamander": {"mass_kg": 0.03, "length_m": 0.2},
    "garter-snake": {"mass_kg": 0.09, "length_m": 0.8},
    "uromastyx": {"mass_kg": 0.35, "length_m": 0.34},
}


@cache
def made(species: str, weekdays: tuple[int, ...] = ()) -> Card:
    """The card on the first day, before anything was written down."""
    feeding = {"starts": TODAY.isoformat(), "weekdays": list(weekdays)}
    planned = plan(species=species, animal=GROWN[species], schools={}, feeding=feeding)
    return compile_card(planned, find(species), TODAY, History(TODAY))


def later(card: Card, meals: list[RecordedMeal], done: dict[str, date]) -> Card:
    """The same card once the log has grown, as `compile_card` makes it of plan, profile and log."""
    eaten = tuple((meal.day, meal.products) for meal in meals if meal.outcome in ("eaten", "part"))
    held = tuple((meal.day, meal.foods) for meal in meals if meal.outcome != "skipped")
    history = History(TODAY, tuple(meals))
    return replace(
        card,
        feed=replace(card.feed, last_offered=meals[-1].day if meals else None),
        past=past_of(eaten, card.products, card.dusting_from) if meals else card.past,
        recorded=bool(meals),
        offered=history.offered,
        turns=turns_given(card.parts, held, card.dusting_from),
        jobs=tuple(replace(job, last_done=done.get(job.id, job.last_done)) for job in card.jobs),
    )


def seen(card: Card, today: date, days: int, weekdays: tuple[int, ...] = ()) -> Days:
    return expand(card, today, today + days * DAY, RoomDays(today, weekdays=weekdays))


def eat(days: Days, day: date, outcome: str = "eaten") -> RecordedMeal:
    """The meal of a day written down as it was planned."""
    products = tuple(item.product.name for item in days.dusting[day])
    return RecordedMeal(day, outcome, products, tuple(use.food for use in days.foods[day]))


@pytest.mark.parametrize("room", [(), (0, 2, 5)], ids=["every day", "three days a week"])
@pytest.mark.parametrize("species", GROWN)
def test_where_all_is_done_on_its_day_each_day_is_as_it_was_seen_ahead(species: str, room: tuple[int, ...]) -> None:
    """Seventeen weeks: the feeds and powders of each morning are those of the first, but for what a room day shifts.

    On the room's days a meal a day early moves the count of the next: there only order and distances are held.
    """
    card, meals, done = made(species), list[RecordedMeal](), dict[str, date]()
    ahead = seen(card, TODAY, 119, room)
    lived: list[RecordedMeal] = []
    for offset in range(119):
        day = TODAY + offset * DAY
        now = seen(later(card, meals, done), day, 1, room)
        assert not any(feed.late for feed in now.feeds)
        assert not any(item.late for item in now.jobs)
        for feed in now.feeds:
            lived.append(eat(now, feed.day))
            meals.append(lived[-1])
        done |= {item.id: day for item in now.jobs}
    if not room or card.feed.interval_days < 3:
        assert [meal.day for meal in lived] == [feed.day for feed in ahead.feeds]
        assert [meal.products for meal in lived] == [eat(ahead, feed.day).products for feed in ahead.feeds]
        assert [meal.foods for meal in lived] == [eat(ahead, feed.day).foods for feed in ahead.feeds]
    slack = card.feed.slack_days
    gaps = {(after.day - before.day).days for before, after in pairwise(lived)}
    assert gaps <= set(range(card.feed.interval_days - slack, card.feed.interval_days + slack + 1))


OUTCOMES = st.sampled_from(["eaten", "eaten", "eaten", "part", "refused", "skipped", "forgotten"])


@pytest.mark.sweep
@settings(max_examples=times(13, 40), deadline=None)
@given(st.sampled_from(sorted(GROWN)), st.lists(OUTCOMES, min_size=70, max_size=70), st.booleans())
def test_whatever_goes_wrong_nothing_is_doubled_and_nothing_stays_away(species: str, fates: list[str], chosen: bool) -> None:
    """Ten weeks of meals refused, left out and forgotten, by interval and on chosen weekdays.

    A feed that was forgotten stands today, late, until it is written down, and only once; no two feeds share a day; the next comes
    no nearer than the rule allows; a powder by days never comes twice within half its period, and within its period and
    a quarter the first meal carries it.
    """
    card = made(species, (0, 3)) if chosen else made(species)
    meals: list[RecordedMeal] = []
    for offset, fate in enumerate(fates):
        day = TODAY + offset * DAY
        now = seen(later(card, meals, {}), day, 15)
        assert len({feed.day for feed in now.feeds}) == len(now.feeds)
        assert all(feed.day == day for feed in now.feeds if feed.late)
        assert sum(feed.late for feed in now.feeds) <= 1
        least = card.feed.least_days if chosen else card.feed.interval_days
        days = [feed.day for feed in now.feeds]
        assert all((after - before).days >= least for before, after in pairwise(days))
        if meals:
            waited = (day - meals[-1].day).days
            most = 5 if chosen else card.feed.interval_days
            assert days[0] == day if waited >= most else days[0] <= meals[-1].day + most * DAY
        if days[0] == day and fate != "forgotten":
            meals.append(eat(now, day, fate))
    for product in card.products:
        if product.every_days is None:
            continue
        given_on = [meal.day for meal in meals if product.name in meal.products and meal.outcome in ("eaten", "part")]
        assert all((after - before).days >= product.every_days / 2 for before, after in pairwise(given_on))


@pytest.mark.parametrize("species", ["african-fat-tailed-gecko", "crested-gecko", "uromastyx"])
def test_a_year_of_doses_is_what_the_week_was_summed_from(species: str) -> None:
    """The vitamins that the sums judge are those the rota gives: by product, the dustings of a year against 52 weeks of them."""
    from husbandry.feeding.week_food import carried

    card = made(species)
    year = seen(card, TODAY, 364)
    often = carried(card.products, card.carrying.days)
    for name, a_week in often.items():
        shares = [1 / len(items) for items in year.dusting.values() for item in items if item.product.name == name]
        assert sum(shares) == pytest.approx(52 * a_week, rel=0.05, abs=1.0)


@pytest.mark.sweep
@settings(max_examples=times(20, 60), deadline=None)
@given(st.integers(1, 14), st.floats(1.0, 40.0), st.integers(0, 13), st.sampled_from(["powder", "part"]))
def test_a_late_meal_moves_the_turns_and_never_halves_them(interval: int, every: float, late: int, what: str) -> None:
    """A meal some days late puts all feeds after it off the grid of turns. Each turn is given all the same, meal by meal."""
    product = Product("plain calcium", every_days=every)
    part = (Serving((Use("mouse/fuzzy", 1, 5.0),), every_days=every),)
    given_on: list[date] = []
    day, days = TODAY, []
    length = min(700, 250 * interval)
    while day < TODAY + length * DAY:
        days.append(day)
        ahead = [day + place * interval * DAY for place in range(4)]
        if what == "powder":
            past = past_of(tuple((old, (product.name,) if old in given_on else ()) for old in days[:-1]), (product,), TODAY)
            carries = bool(rota(ahead, (product,), TODAY, past)[day])
        else:
            meals = tuple((old, ("mouse/fuzzy",) if old in given_on else ("cricket",)) for old in days[:-1])
            offered = {food: old for old, foods in meals for food in foods}
            carries = bool(serve(part, ahead, TODAY, offered, turns_given(part, meals, TODAY))[day])
        if carries:
            given_on.append(day)
        day += (interval + (late if len(days) == 5 else 0)) * DAY
    expected = min(length / every, len(days))
    assert len(given_on) == pytest.approx(expected, rel=0.12, abs=2)
    assert all((after - before).days >= every / 2 for before, after in pairwise(given_on))
