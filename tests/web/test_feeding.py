"""The four weeks of feeds, as a page, as words and as a calendar file."""

from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from husbandry.diet.rations import Eater, rations
from husbandry.feeding.menu import Menu
from husbandry.species.book import find, shipped
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.planner import feeds
from ridgeback.rooms.models import Habitat
from ridgeback.units import METRIC, KeeperUnits
from tests.plans import TODAY, assessed

IMPERIAL = KeeperUnits("degF", "in", "oz", "gal")
MADE = datetime(2026, 11, 24, 9, 30, tzinfo=UTC)


def menu(**changes: Any) -> Menu:
    return assessed(**changes).menu


def test_the_view_has_four_weeks_of_seven_days_from_today() -> None:
    weeks = feeds.weeks(menu(), TODAY)
    days = [day for week in weeks for day in week]
    assert [len(week) for week in weeks] == [7, 7, 7, 7]
    assert [day.day for day in days] == [TODAY + timedelta(days=offset) for offset in range(28)]
    assert [day.is_today for day in days].count(True) == 1
    assert {day.day for day in days if day.is_feed} == {feed.day for feed in menu().days}


def test_gaps_are_counted_in_feeds() -> None:
    """A fortnightly vitamin on every second day: seven feeds apart."""
    vitamin = next(row for row in feeds.counts(menu(feeding__interval_days=2)) if row["code"] == "multivitamin")
    assert vitamin["gaps"] == "7"
    every = next(row for row in feeds.counts(menu()) if row["code"] == "plain-calcium")
    assert every["gaps"] == ""
    assert every["times"] == len(menu().days)


def test_each_dusting_says_why_it_is_there() -> None:
    said = [reason for week in feeds.weeks(menu(feeding__interval_days=3), TODAY) for day in week for _c, _w, reason in day.dusting]
    assert "with every feed" in said
    assert "every 14 days; every 4.67 feeds at this interval" in said


def test_a_dusting_that_gave_way_says_so() -> None:
    dark = menu(uv_lamps=[], schools__uvb="none", feeding__interval_days=3)
    said = [reason for week in feeds.weeks(dark, TODAY) for day in week for _c, _w, reason in day.dusting]
    assert any("two fat-soluble products never share a meal" in reason for reason in said)


@pytest.mark.parametrize(
    ("species", "stage", "mass_kg", "units", "words"),
    [
        ("african-fat-tailed-gecko", "adult", 0.058, METRIC, "4–5 adult crickets or roaches"),
        ("corn-snake", "juvenile", 0.12, METRIC, "g of"),
        ("corn-snake", "juvenile", 0.12, METRIC, "1 × mouse, weaner"),
        ("corn-snake", "juvenile", 0.12, IMPERIAL, "oz of"),
        ("corn-snake", "juvenile", None, METRIC, "weigh it first"),
    ],
)
def test_a_ration_is_said_as_a_keeper_would(
    species: str, stage: str, mass_kg: float | None, units: KeeperUnits, words: str
) -> None:
    (ration, *_rest) = rations(find(species).stage(stage).feeding, Eater("snake", 0.6, 0.6, mass_kg))
    assert words in feeds.ration_text(ration, units)


def test_every_ration_of_the_book_can_be_said_and_limits_name_their_dimension() -> None:
    """Prey limits always say which dimension (wider than, longer than, girth)."""
    for profile in shipped().values():
        for stage in profile.stages:
            for ration in rations(stage.feeding, Eater(profile.body.form, 0.2, 0.2, 0.05)):
                assert feeds.ration_text(ration, METRIC)
                limit = ration.meal.prey_limit
                assert not limit or any(word in limit for word in ("wide", "long", "thick", "girth")), (profile.id, limit)


@pytest.mark.django_db
def test_the_page_tells_a_plants_eater_from_a_snake(
    owner: Keeper, client_of: Any, make_habitat: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(clock, "today", lambda: TODAY)
    client: Client = client_of(owner)
    snake: Habitat = make_habitat(species="corn-snake", animal={"mass_kg": 0.5, "length_m": 1.2}, schools={})
    page = client.get(reverse("rota:menu", args=[snake.pk])).content.decode()
    assert "mice" in page
    assert "dust" in page.lower()
    table: Habitat = make_habitat(species="russian-tortoise", animal={"mass_kg": 0.3, "length_m": 0.11}, schools={})
    page = client.get(reverse("rota:menu", args=[table.pk])).content.decode()
    assert "weeds" in page
    assert "mice" not in page
