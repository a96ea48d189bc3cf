"""The growth figure: words and drawing of what is to come, and the log it is fitted to."""

import re
from collections.abc import Callable
from datetime import UTC, date, datetime, timedelta
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from husbandry.animal.growth_outlook import When, outlook
from husbandry.plan.reading import read_data
from husbandry.species.book import find
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook import log
from ridgeback.planner import growing
from ridgeback.rooms.models import Habitat
from ridgeback.units import METRIC, KeeperUnits
from tests.plans import TODAY, document

BARE: dict[str, Any] = {"heaters": [], "uv_lamps": [], "hides": [], "platform": None, "bowl": None, "ground__depth_m": 0.03}
BOX = {"kind": "foamed-pvc", "length_m": 0.6, "width_m": 0.45, "height_m": 0.3, "lid": "solid"}
YOUNG = {"species": "corn-snake", "enclosure": BOX, "animal": {"hatched": "2026-06-01", "mass_kg": 0.02}, **BARE}


def sentences(**changes: Any) -> list[str]:
    plan = read_data(document(**YOUNG | changes))
    profile = find(plan.species)
    found = outlook(plan, profile, TODAY)
    assert found is not None
    return growing.words(found, profile, TODAY, METRIC)


def test_each_stage_and_the_enclosure_are_told_with_their_spread() -> None:
    juvenile, adult, until, grown = sentences()
    assert re.fullmatch(r"Juvenile about (\d+ )?\w+ 20\d\d, between \w+ 20\d\d and \w+ 20\d\d\.", juvenile)
    assert adult.startswith("Adult about")
    assert until.startswith("This enclosure is large enough until about")
    assert grown == "Grown, it needs at least 120 × 60 × 60 cm."


def test_what_is_too_small_is_said_without_a_date() -> None:
    said = sentences(animal={"hatched": "2020-06-01", "mass_kg": 0.6, "length_m": 1.3})
    assert "This enclosure is too small now." in said


def test_what_stays_large_enough_is_said_once() -> None:
    large = BOX | {"length_m": 1.8, "width_m": 0.9, "height_m": 0.9}
    assert sentences(enclosure=large)[-1].startswith("This enclosure stays large enough")


@pytest.mark.parametrize(
    ("days", "words"),
    [
        ((30, 30, 30), "from 24 December 2026"),
        ((300, 200, 400), "about September 2027, between June 2027 and December 2027"),
        ((300, 300, 302), "about September 2027"),
        ((300, 200, None), "about September 2027, from June 2027 at the earliest"),
    ],
)
def test_dates_are_as_sure_as_they_are_said(days: tuple[int, int, int | None], words: str) -> None:
    middle, first, last = (None if count is None else TODAY + timedelta(days=count) for count in days)
    assert growing._when(When(middle, first, last), TODAY) == words


def test_the_drawing_stays_in_its_frame_and_counts_in_the_keepers_unit() -> None:
    plan = read_data(document(**YOUNG))
    found = outlook(plan, find(plan.species), TODAY)
    assert found is not None
    for units, unit in ((METRIC, "cm"), (KeeperUnits("degF", "in", "oz", "gal"), "in")):
        drawn = growing.draw(found, TODAY, units)
        assert drawn["unit"] == unit
        for path in (drawn["curve"], drawn["spread"]):
            points = [tuple(map(float, pair.split(","))) for pair in re.findall(r"[\d.]+,[\d.]+", path)]
            assert all(growing.LEFT - 0.1 <= x <= growing.WIDTH - growing.RIGHT + 0.1 for x, _y in points)
            assert all(0 <= y <= growing.HEIGHT for _x, y in points)
        assert len(drawn["stages"]) == 2
        assert drawn["outgrown"] is not None


@pytest.mark.django_db
def test_every_weighing_in_the_log_moves_the_curve(
    owner: Keeper, client_of: Callable[[Keeper], Client], make_habitat: Callable[..., Habitat], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(clock, "today", lambda: TODAY)
    monkeypatch.setattr(clock, "now", lambda: datetime(2026, 11, 24, 9, tzinfo=UTC))
    client, habitat = client_of(owner), make_habitat(**YOUNG)
    page = reverse("planner:bench", args=[habitat.pk]) + "?step=animal"
    assert client.get(page).context["growth"]["measured"] == 1  # the weight the plan began with
    for day, grams in ((date(2026, 8, 1), 9.0), (date(2026, 10, 1), 14.0)):
        log.weighed(habitat, datetime(day.year, day.month, day.day, 9, tzinfo=UTC), owner, grams / 1000)
    answer = client.get(page)
    assert answer.context["growth"]["measured"] == 3
    assert "Fitted to 3 measurements of this animal." in answer.content.decode()
    assert client.get(reverse("planner:bench", args=[habitat.pk]) + "?step=heat").context["growth"] is None


@pytest.mark.django_db
def test_of_an_animal_nothing_is_known_of_nothing_is_foretold(
    owner: Keeper, client_of: Callable[[Keeper], Client], make_habitat: Callable[..., Habitat]
) -> None:
    unknown = make_habitat(animal={})
    answer = client_of(owner).get(reverse("planner:bench", args=[unknown.pk]) + "?step=animal")
    assert answer.status_code == 200
    assert 'id="growth"' not in answer.content.decode()
