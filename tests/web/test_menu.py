"""The menu of an animal: its rhythm, meals written down and taken back, the keeper's own food, condition, greens."""

import gc
import re
import sys
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, date, datetime, timedelta
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse
from django.utils import formats

from husbandry.diet.foods import foods
from husbandry.feeding.history import History
from husbandry.rota.card import RoomDays, compile_card
from husbandry.species.book import find
from husbandry.upkeep.jobs import due
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.drawing.condition import PICTURES, picture
from ridgeback.language import bodywords
from ridgeback.pantry.models import Item, Lot
from ridgeback.planner import mapping
from ridgeback.rooms.models import Habitat
from ridgeback.rota import cards
from tests.pages import page_text
from tests.plans import TODAY, plan

SNAKE = {
    "species": "corn-snake",
    "animal": {"name": "Marram", "mass_kg": 0.8, "length_m": 1.4},
    "schools": {},
    "uv_lamps": [],
    "feeding": {"starts": "2026-11-24"},
}
TORTOISE = {"species": "russian-tortoise", "animal": {"name": "Thrift", "mass_kg": 0.3, "length_m": 0.11}, "schools": {}}


@pytest.fixture(autouse=True)
def _a_fixed_day(monkeypatch: pytest.MonkeyPatch) -> None:
    noon = datetime(2026, 11, 24, 12, tzinfo=UTC)
    monkeypatch.setattr(clock, "today", lambda: TODAY)
    monkeypatch.setattr(clock, "now", lambda: noon)


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


def at(days_ago: int) -> datetime:
    return datetime(2026, 11, 24, 18, tzinfo=UTC) - timedelta(days=days_ago)


def feed(habitat: Habitat, days_ago: int, outcome: str = "eaten", *products: str) -> Event:
    day = (TODAY - timedelta(days=days_ago)).isoformat()
    return log.fed(habitat, at(days_ago), None, outcome=outcome, due=day, products=list(products), foods=[])


def page(client: Client, habitat: Habitat) -> str:
    return client.get(reverse("rota:menu", args=[habitat.pk])).content.decode()


def card(habitat: Habitat) -> Any:
    fresh = Habitat.objects.select_related("company", "room").get(pk=habitat.pk)
    return cards.of_habitats([fresh], TODAY)[habitat.pk]


def test_a_meal_written_down_moves_the_next_and_taking_it_back_moves_it_again(client: Client, make_habitat: Any) -> None:
    habitat = make_habitat(feeding={"starts": TODAY.isoformat()})
    before = card(habitat)
    client.post(reverse("rota:fed", args=[habitat.pk]), {"outcome": "eaten"})
    assert card(habitat).feed.last_offered == TODAY
    (event,) = Event.objects.filter(kind=Event.Kind.FED)
    assert event.payload["outcome"] == "eaten"
    assert event.payload["products"]  # as the rota had it
    assert {food for food, _amount, _each in event.payload["foods"]} <= set(foods())
    assert event.payload["foods"]
    shown = page(client, habitat)
    assert "counted from the meal of Tue 24 Nov" in shown
    assert 'class="beat eaten"' in shown
    client.post(reverse("rota:take-back", args=[habitat.pk]), {"event": event.pk})
    assert card(habitat) == before


def test_what_really_went_on_a_meal_is_what_counts(client: Client, habitat: Habitat) -> None:
    client.post(
        reverse("rota:fed", args=[habitat.pk]), {"outcome": "eaten", "told": "1", "product": ["plain calcium", "gold dust"]}
    )
    (event,) = Event.objects.filter(kind=Event.Kind.FED)
    assert event.payload["products"] == ["plain calcium"]
    client.post(reverse("rota:fed", args=[habitat.pk]), {"outcome": "eaten", "told": "1"})
    assert Event.objects.filter(kind=Event.Kind.FED).first().payload["products"] == []  # type: ignore[union-attr]


@pytest.mark.parametrize(
    "posted", [{}, {"outcome": "devoured"}, {"outcome": "eaten", "day": "2026-12-24"}, {"outcome": "eaten", "day": "soon"}]
)
def test_no_meal_without_an_outcome_nor_on_a_day_to_come(client: Client, habitat: Habitat, posted: dict[str, str]) -> None:
    assert client.post(reverse("rota:fed", args=[habitat.pk]), posted).status_code == 404
    assert not Event.objects.filter(kind=Event.Kind.FED).exists()


def test_refusals_are_counted_and_past_what_is_normal_the_vet_is_named(client: Client, make_habitat: Any) -> None:
    snake = make_habitat(**SNAKE)
    for days_ago, outcome in ((30, "eaten"), (20, "refused"), (10, "refused")):
        feed(snake, days_ago, outcome)
    shown = page(client, snake)
    assert "2 meals refused in a row; 30 days since it last ate" in shown
    assert "reptile veterinarian.</b>" not in shown
    for days_ago in (9, 8):
        feed(snake, days_ago, "refused")
    Event.objects.filter(payload__outcome="eaten").update(at=at(70))
    assert "Past that: a reptile veterinarian." in page(client, snake)


def test_a_late_feed_stands_today_and_says_since_when(client: Client, habitat: Habitat) -> None:
    feed(habitat, 5)
    shown = page(client, habitat)
    assert "Feed today, due since Sun 22 Nov" in shown
    assert "what was missed is not made up" in shown


def test_the_keepers_own_menu_is_judged_and_the_book_comes_back(client: Client, habitat: Habitat) -> None:
    row = {
        "version": "1",
        "food": ["waxworm", ""],
        "amount": ["20", ""],
        "unit": ["piece", "piece"],
        "each": ["", ""],
        "week": ["", ""],
    }
    client.post(
        reverse("rota:own-menu", args=[habitat.pk]),
        row | {"powders": "own", "product": [""], "every": [""], "every_unit": ["days"]},
    )
    shown = page(client, habitat)
    assert "20 × waxworm" in shown
    assert "fatty ones" in shown
    assert "more plain calcium a week" in shown
    client.post(reverse("rota:own-menu", args=[habitat.pk]), {"version": "2", "powders": "book"})
    fresh = Habitat.objects.get(pk=habitat.pk)
    assert mapping.plan_of(fresh).feeding.items == ()
    assert mapping.plan_of(fresh).feeding.supplements is None


@pytest.mark.parametrize(
    ("food", "amount", "said"),
    [
        ("cricket", "0", "above zero"),
        ("cricket", "-3", "below zero"),
        ("cricket", "lots", "is not a number"),
        ("moon cheese", "3", "choose a food"),
    ],
)
def test_a_row_that_cannot_be_is_named_and_nothing_is_kept(
    client: Client, habitat: Habitat, food: str, amount: str, said: str
) -> None:
    rows = {"food": ["roach", food], "amount": ["5", amount], "unit": ["piece"] * 2, "each": [""] * 2, "week": [""] * 2}
    answer = client.post(reverse("rota:own-menu", args=[habitat.pk]), {"version": "1", "powders": "book"} | rows, follow=True)
    shown = answer.content.decode()
    assert "Row 2" in shown
    assert f'value="{amount}"' in shown  # nothing typed is lost
    assert said in shown
    assert mapping.plan_of(Habitat.objects.get(pk=habitat.pk)).feeding.items == ()


def test_prey_heavier_than_the_animal_is_said(client: Client, habitat: Habitat) -> None:
    rows = {"food": ["rat/large"], "amount": ["1"], "unit": ["piece"], "each": [""], "week": [""]}
    client.post(reverse("rota:own-menu", args=[habitat.pk]), {"version": "1", "powders": "book"} | rows)
    assert "One rat, large is heavier than the animal itself" in page(client, habitat)


@pytest.mark.parametrize("sign", PICTURES)
def test_each_sign_is_drawn_differently_at_every_score(sign: str) -> None:
    drawn = [picture(sign, score) for score in range(1, 6)]
    assert len({item.body for item in drawn}) == 5
    assert all("nan" not in path for item in drawn for path in (item.body, *item.marks, *item.frame))


def test_condition_is_picked_from_pictures_and_moves_one_thing(client: Client, make_habitat: Any) -> None:
    snake = make_habitat(**SNAKE)
    shown = client.get(reverse("rota:condition", args=[snake.pk])).content.decode()
    assert shown.count('class="flesh"') == 5
    assert "every 18 days instead of every 14; the meal stays" in shown
    assert shown.count("reptile veterinarian, first") == 2  # the ends of the scale
    client.post(reverse("rota:scored", args=[snake.pk]), {"version": "1", "score": "4"})
    assert card(snake).feed.interval_days == 18
    assert Event.objects.filter(kind=Event.Kind.CONDITION, payload__score=4).count() == 1
    assert client.post(reverse("rota:scored", args=[snake.pk]), {"version": "2", "score": "9"}).status_code == 404
    today = formats.date_format(TODAY, "j M")
    assert f"Before: 4 {bodywords.NAMES[4]} ({today})" in page_text(client.get(reverse("rota:condition", args=[snake.pk])))


def test_a_bowl_is_mixed_from_what_there_is(client: Client, make_habitat: Any) -> None:
    table = make_habitat(**TORTOISE)
    address = reverse("rota:salad", args=[table.pk])
    assert "no fruit" not in client.get(address).content.decode()
    mixed = page_text(client.post(address, {"mix": "1", "have": ["dandelion", "endive", "strawberry"], "g-dandelion": "40"}))
    assert 'name="g-dandelion" size="4" inputmode="decimal" value="' in mixed
    assert 'name="g-strawberry" size="4" inputmode="decimal" value=""' in mixed  # none for this animal
    poor = client.post(address, {"g-romaine": "30", "g-cucumber": "30"}, HTTP_HX_REQUEST="true").content.decode()
    assert "mg of plain calcium over it makes 1.5 to 1" in poor
    assert "<html" not in poor
    rich = client.post(address, {"g-spinach": "50", "g-strawberry": "10"}, HTTP_HX_REQUEST="true").content.decode()
    assert "oxalate" in rich
    assert "is fruit" in rich
    client.post(
        reverse("rota:take-salad", args=[table.pk]), {"version": "1", "g-dandelion": "12,5", "g-endive": "-4", "g-nothing": "3"}
    )
    items = mapping.plan_of(Habitat.objects.get(pk=table.pk)).feeding.items
    assert [(item.food, item.grams) for item in items] == [("dandelion", 12.5)]


def test_a_bowl_far_too_large_is_asked_about_and_the_insects_stay(client: Client, make_habitat: Any) -> None:
    dragon = make_habitat(species="central-bearded-dragon", animal__mass_kg=0.06, animal__length_m=0.13)
    take = reverse("rota:take-salad", args=[dragon.pk])
    asked = client.post(take, {"version": "1", "g-dandelion": "60"})
    assert asked.status_code == 409
    assert "100 % of the weight" in asked.content.decode()
    assert not mapping.plan_of(dragon).feeding.items
    client.post(take, {"version": "1", "g-dandelion": "1.5"})
    named = {item.food: item for item in mapping.plan_of(Habitat.objects.get(pk=dragon.pk)).feeding.items}
    assert named["dandelion"].grams == 1.5
    assert {"cricket", "roach"} & set(named)
    empty = client.post(take, {"version": "2"}, follow=True).content.decode()
    assert "nothing in the bowl" in empty


def test_an_earlier_meal_is_written_down_at_its_own_day(client: Client, habitat: Habitat) -> None:
    client.post(reverse("rota:fed", args=[habitat.pk]), {"outcome": "eaten", "day": "2026-11-22"})
    assert card(habitat).feed.last_offered == date(2026, 11, 22)


def test_a_weight_by_tare_is_a_weighing_and_a_faulty_one_is_told(client: Client, habitat: Habitat) -> None:
    """Common practice, no source: with its tub, and the tub alone."""
    address = reverse("rota:weigh", args=[habitat.pk])
    client.post(address, {"version": "1", "whole": "152 g", "tub": "90"})
    assert mapping.plan_of(Habitat.objects.get(pk=habitat.pk)).animal.mass_kg == 0.062
    assert Event.objects.filter(kind=Event.Kind.WEIGHED, payload__mass_kg=0.062).count() == 1
    client.post(address, {"version": "2", "whole": "62", "tub": ""})  # the same again is a weighing too
    assert Event.objects.filter(kind=Event.Kind.WEIGHED, payload__mass_kg=0.062).count() == 2
    for whole, tub, said in (
        ("80", "90", "more than the tub alone"),
        ("heavy", "", "is not a number with a unit"),
        ("0", "", "above zero"),
    ):
        assert said in client.post(address, {"version": "2", "whole": whole, "tub": tub}, follow=True).content.decode()


def test_days_without_food_stand_on_the_menu_and_end(client: Client, habitat: Habitat) -> None:
    address = reverse("rota:fast", args=[habitat.pk])
    client.post(address, {"version": "1", "first": "2026-11-24", "last": "2026-12-03", "why": "transport"})
    assert [fast.why for fast in card(habitat).feed.fasts] == ["transport"]
    assert 'title="a journey"' in page(client, habitat)
    client.post(address, {"version": "2", "first": "2026-12-24", "last": "2026-12-03", "why": "transport"})
    assert len(card(habitat).feed.fasts) == 1  # it would end before it begins
    client.post(address, {"version": "2", "end": "0"})
    assert card(habitat).feed.fasts == ()


def test_of_a_group_it_is_told_how_many_ate(client: Client, make_habitat: Any) -> None:
    frogs = make_habitat(species="whites-tree-frog", animal={"count": 3, "length_m": 0.08, "mass_kg": 0.05}, schools={})
    client.post(reverse("rota:fed", args=[frogs.pk]), {"outcome": "part", "ate": "2"})
    assert "2 of them ate." in page(client, frogs)


def test_a_calcium_dish_emptied_again_and_again_is_a_sign(client: Client, make_habitat: Any) -> None:
    gecko = make_habitat(feeding={"calcium_dish": True})
    for days_ago in (1, 3, 6, 9):
        log.done(gecko, at(days_ago), None, "calcium-dish", "2026-11-20")
    assert "empties its calcium dish again and again" in page(client, gecko)


def test_what_a_bowl_lost_is_what_was_eaten(client: Client, habitat: Habitat) -> None:
    """Common practice, no source: by difference."""
    client.post(reverse("rota:fed", args=[habitat.pk]), {"outcome": "eaten", "before": "40", "after": "27,5"})
    assert "12.5 g eaten, by difference." in page(client, habitat)
    answer = client.post(reverse("rota:fed", args=[habitat.pk]), {"outcome": "eaten", "before": "10", "after": "12"}, follow=True)
    assert "More is left than was given." in answer.content.decode()


def test_chores_follow_from_the_plan_and_their_days_are_the_keepers(client: Client, habitat: Habitat) -> None:
    address = reverse("rota:chores", args=[habitat.pk])
    assert "every 60 days" in client.get(address).content.decode()
    client.post(address, {"version": "1", "days-deep-clean": "30", "days-spot-clean": "0", "days-water": "", "days-nonsense": "3"})
    assert mapping.plan_of(Habitat.objects.get(pk=habitat.pk)).upkeep.every_days == {"deep-clean": 30, "spot-clean": 0}
    shown = client.get(address).content.decode()
    assert "every 30 days" in shown
    assert "left out" in shown
    assert not any(job.key == "spot-clean" for job in card(habitat).jobs)
    assert "is not a number of days" in client.post(address, {"version": "2", "days-water": "-1"}, follow=True).content.decode()
    client.post(address, {"version": "2", "days-deep-clean": "", "days-spot-clean": ""})
    assert mapping.plan_of(Habitat.objects.get(pk=habitat.pk)).upkeep.every_days == {}


def test_a_chore_of_ones_own_comes_on_its_weekdays_in_its_season(client: Client, habitat: Habitat) -> None:
    address = reverse("rota:chores", args=[habitat.pk])
    own = {"own": "2", "own-0-name": "trim / claws", "own-0-weekday": ["2", "5"], "own-0-from": "11", "own-0-until": "2"}
    client.post(address, {"version": "1"} | own | {"own-1-name": "order crickets", "own-1-days": "20"})
    (claws, order) = [job for job in card(habitat).jobs if job.key == "own"]
    days = [item.day for item in due(claws, TODAY, date(2027, 12, 1), today=TODAY)]
    assert {day.weekday() for day in days} == {2, 5}
    assert max(day for day in days if day < date(2027, 6, 1)) == date(2027, 2, 27)
    assert order.rule.days == 20
    client.post(reverse("rota:done"), {"turn": [f"{habitat.pk}:2026-11-24:{order.id}"]})
    assert "order crickets" in client.get(reverse("rota:calendar"), {"view": "day"}).content.decode()
    assert "trim   claws" in client.get(reverse("rota:csv")).content.decode()
    both = {"own": "1", "own-0-name": "wash", "own-0-days": "3", "own-0-weekday": ["1"]}
    answer = client.post(address, {"version": "2"} | both, follow=True)
    assert "every so many days or on weekdays, not both" in answer.content.decode()


def test_a_bowl_is_mixed_from_what_the_pantry_holds_and_no_more(client: Client, make_habitat: Any) -> None:
    table = make_habitat(**TORTOISE)
    for food, grams, good_for in (("dandelion", 12.0, 3), ("endive", 200.0, 3), ("kale", 90.0, -1)):
        item = Item.objects.create(room_id=table.room_id, food=food, kind="greens", unit="g", good_days=10)
        Lot.objects.create(item=item, amount=grams, received=TODAY, best_before=TODAY + timedelta(days=good_for))
    address = reverse("rota:salad", args=[table.pk])
    assert "12 g in store" in client.get(address).content.decode()
    mixed = page_text(client.post(address, {"version": "1", "mix": "store", "g-carrot": "80"}))
    mix = dict(re.findall(r'name="g-([a-z-]+)" size="4" inputmode="decimal" value="([0-9.]+)"', mixed))
    assert set(mix) == {"dandelion", "endive"}  # what has gone off is not in it, and what was typed is not there
    assert float(mix["dandelion"]) == pytest.approx(12, abs=0.1)
    assert sum(map(float, mix.values())) == pytest.approx(80, abs=0.2)
    Lot.objects.filter(item__food="endive").update(amount=20)
    little = client.post(address, {"version": "1", "mix": "store", "g-carrot": "80"}).content.decode()
    assert "<b>32 g</b>" in little


GROUP = {"animal": {"name": "Glasswort", "count": 3, "others": ["Arrowgrass", "Cordgrass"], "length_m": 0.058}}


def test_who_of_a_group_ate_is_told_by_name_and_who_goes_without_is_shown(client: Client, make_habitat: Any) -> None:
    frogs = make_habitat(species="red-eyed-tree-frog", schools={}, **GROUP)
    address = reverse("rota:fed", args=[frogs.pk])
    for days_ago in (4, 2, 0):
        day = (TODAY - timedelta(days=days_ago)).isoformat()
        client.post(address, {"outcome": "eaten", "day": day, "who_told": "1", "who": ["Glasswort", "Arrowgrass", "Nobody"]})
    event = Event.objects.filter(kind=Event.Kind.FED).first()
    assert event is not None
    assert (event.payload["who"], event.payload["ate"]) == (["Glasswort", "Arrowgrass"], 2)
    shown = page(client, frogs)
    assert "Cordgrass took nothing in the last 3 meals." in shown
    assert "Glasswort took nothing" not in shown
    client.post(address, {"outcome": "refused", "who_told": "1", "who": ["Glasswort", "Arrowgrass", "Cordgrass"]})
    event = Event.objects.filter(kind=Event.Kind.FED, payload__outcome="refused").get()
    assert event.payload["who"] == []  # all boxes are ticked when the page opens: the button is what counts
    client.post(reverse("rota:names", args=[frogs.pk]), {"version": str(frogs.version), "others": " Thrift ,, Thrift,Sedge"})
    assert mapping.plan_of(Habitat.objects.get(pk=frogs.pk)).animal.others == ("Thrift", "Sedge")


def test_feeds_go_on_chosen_weekdays_and_back_to_an_interval(client: Client, habitat: Habitat) -> None:
    address = reverse("rota:own-menu", args=[habitat.pk])
    client.post(address, {"version": "1", "powders": "book", "weekday": ["0", "3", "9"], "every_weeks": "1"})
    kept = mapping.plan_of(Habitat.objects.get(pk=habitat.pk)).feeding
    assert (kept.weekdays, kept.interval_days) == ((0, 3), None)
    assert "Mon, Thu" in page(client, habitat)
    ahead = cards.span(card(habitat), TODAY, 28, RoomDays(TODAY))
    assert {feed.day.weekday() for feed in ahead.feeds} == {0, 3}
    client.post(address, {"version": "2", "powders": "book"})
    assert mapping.plan_of(Habitat.objects.get(pk=habitat.pk)).feeding.weekdays == ()


def test_a_rest_is_weighed_against_its_limit_in_the_hand(client: Client, make_habitat: Any) -> None:
    resting = {"cooling": {"begins": "2026-11-01", "down_weeks": 2, "rest_weeks": 8, "up_weeks": 2}}
    snake = make_habitat(**SNAKE, year=resting)
    log.weighed(snake, at(30), None, 0.8)
    address = reverse("rota:weigh", args=[snake.pk])
    said = client.post(address, {"version": "1", "whole": "788"}, follow=True).content.decode()
    assert "At rest: 800 g on 25 Oct, 788 g on 24 Nov, 1.5 % less. At 5 % the rest is broken off." in said
    said = client.post(address, {"version": "2", "whole": "755"}, follow=True).content.decode()
    assert "break the rest off, and a reptile veterinarian" in said


def test_days_laid_out_once_are_kept_with_their_card_and_go_with_it() -> None:
    """The same days are not laid out twice; other days, another room's days and a moved feed are, and nothing outlives its card."""
    made = compile_card(plan(feeding={"starts": "2026-10-01"}), find("leopard-gecko"), TODAY, History(date(2026, 10, 1)))
    first = cards.span(made, TODAY, 28, RoomDays(TODAY))
    assert cards.span(made, TODAY, 28, RoomDays(TODAY)) is first
    feeds = [feed.day for feed in first.feeds]
    week = cards.span(made, TODAY, 7, RoomDays(TODAY))
    assert [feed.day for feed in week.feeds] == [day for day in feeds if day < TODAY + timedelta(days=7)]
    fridays = cards.span(made, TODAY, 28, RoomDays(TODAY, (4,)))
    assert (fridays.feeds, fridays.runs) != (first.feeds, first.runs)
    to = feeds[1] + timedelta(days=1)
    moved = cards.span(made, TODAY, 28, RoomDays(TODAY, (), {"feed": {feeds[1]: to}}))
    assert to in [feed.day for feed in moved.feeds]
    assert cards.span(made, TODAY, 28, RoomDays(TODAY)).feeds == first.feeds
    usual = sys.getswitchinterval()
    sys.setswitchinterval(1e-6)  # seconds; threads that take turns so often meet each other between any two steps
    with ThreadPoolExecutor(8) as many:  # the server's threads ask at once, for more spans than are kept
        asked = [many.submit(cards.span, made, TODAY, 1 + place % 6, RoomDays(TODAY)) for place in range(1500)]
        assert all(
            answer.result().feeds == [day for day in first.feeds if day.day < TODAY + timedelta(days=1 + place % 6)]
            for place, answer in enumerate(asked)
        )
    sys.setswitchinterval(usual)
    key = id(made)
    assert key in cards._SPANS
    del made, asked
    gc.collect()
    assert key not in cards._SPANS
