"""Two years lived day by day through the real compile: what was done stays done, and nothing is told twice or forgotten."""

from collections import Counter
from datetime import date, timedelta
from itertools import pairwise
from typing import Any

import pytest

from husbandry.animal.weighings import Weighing
from husbandry.animal.year import year_plan
from husbandry.feeding.history import History, RecordedMeal
from husbandry.plan.habitat import HabitatPlan
from husbandry.rota.card import Card, RoomDays, compile_card, expand
from husbandry.species.book import find
from tests.plans import TODAY, plan

pytestmark = pytest.mark.sweep

DAY = timedelta(days=1)
DAYS = 730
AROUND = ("thaw", "gut-load", "prey-out", "insects-out", "greens-out", "powder-out", "eggs-out")  # they hang on feeds
YEARS: dict[str, dict[str, Any]] = {
    "central-bearded-dragon": {
        "animal": {"mass_kg": 0.42, "length_m": 0.24},
        "year": {"mode": "native", "cooling": {"begins": "2027-11-01", "down_weeks": 3, "rest_weeks": 8, "up_weeks": 2}},
    },
    "corn-snake": {"animal": {"mass_kg": 0.7, "length_m": 1.3}, "year": {"mode": "latitude", "latitude_deg": 52}},
    "african-fat-tailed-gecko": {"animal": {"mass_kg": 0.06, "length_m": 0.13}},
}


def made(species: str) -> HabitatPlan:
    upkeep = {"every_days": {"uv-check": 450, "thermostats": 500}}
    return plan(species=species, schools={}, feeding={"starts": TODAY.isoformat()}, upkeep=upkeep, **YEARS[species])


Lived = tuple[Counter[tuple[str, date]], list[RecordedMeal], dict[date, set[str]]]


def live(species: str, days: int, idle: frozenset[int] = frozenset()) -> Lived:
    """Do everything on the day it stands open, but on idle days; return what was done as (id, due), the meals, what stood late."""
    planned, profile = made(species), find(species)
    meals: list[RecordedMeal] = []
    done: dict[str, date] = {}
    weighings: list[Weighing] = []
    told: Counter[tuple[str, date]] = Counter()
    late: dict[date, set[str]] = {}
    for offset in range(days):
        today = TODAY + offset * DAY
        history = History(TODAY, tuple(meals), dict(done), tuple(weighings))
        card = compile_card(planned, profile, today, history)
        now = expand(card, today, today + DAY, RoomDays(today))
        late[today] = {item.id for item in now.jobs if item.late}
        if offset in idle:
            continue
        for feed in now.feeds:
            products = tuple(item.product.name for item in now.dusting[feed.day])
            meals.append(RecordedMeal(today, "eaten", products, tuple(use.food for use in now.foods[feed.day])))
        for item in now.jobs:
            told[item.id, item.due] += 1
            done[item.id] = today
            if item.id == "weigh":
                weighings.append(Weighing(today, YEARS[species]["animal"]["mass_kg"], None))
        if offset % 5:
            continue
        after = compile_card(planned, profile, today, History(TODAY, tuple(meals), done, tuple(weighings)))
        again = expand(after, today, today + DAY, RoomDays(today))
        left = {item.id for item in again.jobs if item.id not in AROUND}
        assert not left, f"{today}: still open after it was done: {left}"
    return told, meals, late


@pytest.mark.parametrize("species", YEARS)
def test_everything_done_on_its_day_stays_done_for_two_years(species: str) -> None:
    told, meals, late = live(species, DAYS)
    assert max(told.values()) == 1
    assert not any(late.values())
    uv_checks = sorted(due for job, due in told if job == "uv-check")
    assert [(after - before).days for before, after in pairwise(uv_checks)] == [450] * (len(uv_checks) - 1)
    assert len(meals) > 30


def test_the_timer_is_turned_on_the_days_the_years_page_names_and_once_each() -> None:
    species = "central-bearded-dragon"
    told, _meals, _late = live(species, 400)
    turned = sorted(due for job, due in told if job.startswith("timers"))
    on_the_page = [turn.day for turn in year_plan(made(species), find(species), TODAY).turns]
    within = [day for day in on_the_page[1:] if day < TODAY + 400 * DAY]
    assert turned[1:] == within
    assert turned[0] == max(on_the_page[0], TODAY)
    assert len(turned) > 8


@pytest.mark.parametrize("weeks", [0, 1, 5, 17, 40])
def test_the_turns_of_a_timer_do_not_depend_on_when_one_asks(weeks: int) -> None:
    planned, profile = made("central-bearded-dragon"), find("central-bearded-dragon")
    first, later = year_plan(planned, profile, TODAY), year_plan(planned, profile, TODAY + weeks * 7 * DAY + 2 * DAY)
    both = {turn.day: turn for turn in first.turns}
    shared = [turn for turn in later.turns if turn.day in both]
    assert later.turns[0].day in both
    assert all(both[turn.day] == turn for turn in shared)
    assert {turn.day for turn in later.turns if turn.day <= first.turns[-1].day} <= set(both)


def test_what_was_missed_while_nobody_came_stands_once_when_somebody_does() -> None:
    idle = frozenset(range(200, 221))
    told, _meals, late = live("central-bearded-dragon", 260, idle)
    assert max(told.values()) == 1
    assert late[TODAY + 221 * DAY]
    assert all(not late[TODAY + offset * DAY] for offset in range(222, 260))


def test_the_card_and_the_year_agree_on_every_chore_of_a_rest() -> None:
    planned, profile = made("central-bearded-dragon"), find("central-bearded-dragon")
    card: Card = compile_card(planned, profile, TODAY, History(TODAY))
    rest = year_plan(planned, profile, TODAY).rest
    assert rest is not None
    ids = {job.id: job for job in card.jobs}
    assert {"last-meal", "rest-begins", "rest-ends", "first-meal", "rest-weigh"} <= set(ids)
