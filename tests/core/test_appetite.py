"""Not eating and losing weight: what the species' own fast, the season and a winter rest make normal, and what they do not."""

from datetime import date, timedelta
from typing import Any

import pytest

from husbandry.animal.weighings import Weighing
from husbandry.assess.assess import NO_DAYS, Records, assess
from husbandry.feeding.appetite import breeding_fast, rest_loss, without
from husbandry.feeding.history import History, RecordedMeal
from husbandry.rota.card import RoomDays, compile_card, expand
from husbandry.species.book import find, shipped
from tests.plans import TODAY, plan

SNAKE = {
    "species": "corn-snake",
    "animal": {"name": "Marram", "sex": "male", "mass_kg": 0.52, "length_m": 1.24},
    "schools": {},
    "uv_lamps": [],
}
RESTING = {"cooling": {"begins": "2026-11-01", "down_weeks": 2, "rest_weeks": 8, "up_weeks": 2}}
MAY, NOVEMBER = date(2026, 5, 10), date(2026, 11, 10)


def history(last_eaten: date, refused: int, *masses: tuple[date, float]) -> History:
    meals = [RecordedMeal(last_eaten, "eaten")] + [
        RecordedMeal(last_eaten + timedelta(days=10 * n), "refused") for n in range(1, refused + 1)
    ]
    return History(date(2025, 1, 1), tuple(meals), {}, tuple(Weighing(day, mass) for day, mass in masses))


def judged(today: date, days: int, *masses: tuple[date, float], **changes: Any) -> tuple[str, bool]:
    made = plan(**(SNAKE | changes))
    past = history(today - timedelta(days=days), 5, *masses)
    found = without(made, find(made.species), past, today, grown=True, interval_days=10)
    assert found is not None
    return found.why, found.vet


def test_the_species_own_breeding_fast_is_normal_in_its_months_only() -> None:
    """A grown corn snake may leave food alone for ten weeks in spring, not in autumn (common practice, no source)."""
    assert judged(MAY, 60) == ("breeding fast", False)
    assert judged(MAY, 75) == ("breeding fast", True)
    assert judged(NOVEMBER, 60) == ("usual", True)
    assert judged(NOVEMBER, 60, year={"southern": True}) == ("breeding fast", False)
    assert judged(NOVEMBER, 60, feeding={"state": "off-feed"}) == ("breeding fast", False)


def test_a_tenth_of_the_weight_ends_every_fast() -> None:
    """Common practice, no source: weight loss is a matter for a reptile veterinarian, whatever the season."""
    weighed = ((MAY - timedelta(days=50), 0.52), (MAY, 0.465))
    assert judged(MAY, 50, *weighed) == ("breeding fast", True)
    assert judged(MAY, 50, weighed[0], (MAY, 0.48)) == ("breeding fast", False)


def test_a_species_without_a_breeding_fast_has_none_to_be_excused_by() -> None:
    made = plan(feeding={"state": "off-feed"})
    assert breeding_fast(made, find(made.species), MAY) is None
    young = plan(**SNAKE)
    found = without(young, find("corn-snake"), history(MAY - timedelta(days=30), 2), MAY, grown=False, interval_days=10)
    assert found is not None
    assert (found.why, found.vet) == ("usual", True)


@pytest.mark.parametrize("profile", [item for key in shipped() if (item := find(key)).dormancy], ids=lambda item: item.id)
def test_every_rest_in_the_book_has_what_it_is_judged_by(profile: Any) -> None:
    for terms in (item for item in profile.dormancy if item.kind != "never"):
        assert terms.weight_limit_percent is not None
        assert 0 < terms.weight_limit_percent.value <= 10
        if terms.kind == "breeding fast":
            assert terms.from_month is not None
            assert terms.weeks is not None


@pytest.mark.parametrize(
    ("weighed", "lost"),
    [
        (((date(2026, 10, 20), 0.5), (date(2026, 11, 22), 0.47)), 6.0),  # since the last one before the fall
        (((date(2026, 9, 1), 0.6), (date(2026, 10, 20), 0.5), (date(2026, 11, 22), 0.45)), 10.0),
        (((date(2026, 11, 8), 0.5), (date(2026, 11, 22), 0.49)), 2.0),  # none before: since the first in it
        (((date(2026, 10, 20), 0.5), (date(2026, 11, 22), 0.52)), 0.0),  # a gain is no loss
        (((date(2026, 11, 22), 0.47),), None),
        (((date(2026, 9, 1), 0.6), (date(2026, 10, 20), 0.5)), None),
    ],
)
def test_a_rest_is_held_to_its_limit_of_loss(weighed: tuple[tuple[date, float], ...], lost: float | None) -> None:
    made = plan(**SNAKE, year=RESTING)
    found = rest_loss(made, find(made.species), tuple(Weighing(*item) for item in weighed), TODAY)
    assert (None if found is None else round(found.lost_percent, 6)) == lost
    assert rest_loss(made, find(made.species), tuple(Weighing(*item) for item in weighed), date(2026, 10, 25)) is None


def test_a_hibernating_tortoise_loses_a_hundredth_in_a_month_at_most() -> None:
    """Common practice, no source, of weight: about 1 % a month; told before the whole limit is near, and not from a few days."""
    year = {"cooling": {"begins": "2026-10-01", "down_weeks": 2, "rest_weeks": 10, "up_weeks": 2}}
    made = plan(species="russian-tortoise", schools={}, animal={"mass_kg": 0.9, "length_m": 0.16}, year=year)
    profile = find("russian-tortoise")

    def loss(days: int, last_kg: float) -> Any:
        weighings = (Weighing(TODAY - timedelta(days=days), 0.9), Weighing(TODAY, last_kg))
        codes = {item.code for item in assess(made, profile, TODAY, records=Records(weighings=weighings), depth=NO_DAYS).findings}
        return rest_loss(made, profile, weighings, TODAY), "diet.rest_losing" in codes

    slow, told = loss(30, 0.893)
    assert (round(slow.month_percent, 2), slow.fast, told) == (0.79, False, False)
    fast, told = loss(30, 0.88)
    assert (round(fast.month_percent, 2), fast.fast, fast.over, told) == (2.25, True, False, True)
    assert loss(10, 0.88)[0].month_percent is None


def test_a_summer_rest_is_days_without_food_weighed_each_week_and_held_to_its_own_limit() -> None:
    """The book's 8 % for a summer rest (common practice, no source); who must not be cooled must not rest in summer either."""
    summer = date(2026, 7, 20)
    fast = {"first": "2026-07-01", "last": "2026-08-10", "why": "rest"}
    animal = {"mass_kg": 0.9, "length_m": 0.16}
    made = plan(species="russian-tortoise", schools={}, animal=animal, feeding={"fasts": [fast], "condition": 2})
    profile = find("russian-tortoise")
    weighings = (Weighing(date(2026, 6, 28), 0.9), Weighing(date(2026, 7, 18), 0.819))
    found = rest_loss(made, profile, weighings, summer)
    assert found is not None
    assert (round(found.lost_percent, 6), found.limit_percent, found.over) == (9.0, 8.0, True)
    codes = {item.code for item in assess(made, profile, summer, records=Records(weighings=weighings), depth=NO_DAYS).findings}
    assert {"diet.rest_lost", "diet.no_rest_when_thin"} <= codes
    days = expand(compile_card(made, profile, summer, History(date(2026, 6, 1))), summer, date(2026, 8, 20), RoomDays(summer))
    weighed = [item.day for item in days.jobs if item.id.startswith("rest-weigh")]
    assert weighed == [date(2026, 7, 22), date(2026, 7, 29), date(2026, 8, 5)]
    assert [item.day for item in days.jobs if item.id.startswith("first-meal")] == [date(2026, 8, 11)]
    assert min(feed.day for feed in days.feeds) == date(2026, 8, 11)


@pytest.mark.parametrize(("last_kg", "code"), [(0.49, None), (0.483, "diet.rest_losing"), (0.445, "diet.rest_lost")])
def test_the_plan_says_when_a_rest_is_broken_off(last_kg: float, code: str | None) -> None:
    made = plan(**SNAKE, year=RESTING)
    weighings = (Weighing(date(2026, 10, 20), 0.5), Weighing(date(2026, 11, 22), last_kg))
    found = assess(made, find(made.species), TODAY, records=Records(weighings=weighings), depth=NO_DAYS)
    said = [item.code for item in found.findings if item.code.startswith("diet.rest_")]
    assert said == ([code] if code else [])
