"""The pantry: meals take from it, the rota empties it, CSV comes and goes whole or not at all."""

from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import IntegrityError, transaction
from django.test import Client
from django.urls import reverse

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook.models import Event
from ridgeback.pantry import exchange, store
from ridgeback.pantry.models import Change, Delivery, Item, Lot
from ridgeback.rooms.models import Habitat, Room
from ridgeback.rota import stock_forecasts
from tests.plans import TODAY

SNAKE = {
    "species": "corn-snake",
    "animal": {"name": "Marram", "mass_kg": 0.8, "length_m": 1.4},
    "schools": {},
    "uv_lamps": [],
    "feeding": {"starts": "2026-11-24"},
}
NOON = datetime(2026, 11, 24, 12, tzinfo=UTC)


@pytest.fixture(autouse=True)
def _a_fixed_day(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(clock, "today", lambda: TODAY)
    monkeypatch.setattr(clock, "now", lambda: NOON)


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


@pytest.fixture
def snake(make_habitat: Any) -> Habitat:
    made: Habitat = make_habitat(**SNAKE)
    return made


def mice(room: Room, amount: float, days_ago: int = 20, **item: Any) -> Item:
    made, _new = Item.objects.get_or_create(
        room=room, food="mouse/adult", kind="frozen", unit="piece", defaults={"pack_size": 25, **item}
    )
    store.receive(made, amount, TODAY - timedelta(days=days_ago), NOON)
    return made


def there(item: Item) -> float:
    return sum(Lot.objects.filter(item=item).values_list("amount", flat=True))


def test_a_meal_takes_from_the_oldest_lot_and_gives_back_when_taken_back(client: Client, snake: Habitat) -> None:
    item = mice(snake.room, 1, days_ago=40)
    mice(snake.room, 10, days_ago=5)
    client.post(reverse("rota:fed", args=[snake.pk]), {"outcome": "eaten"})
    assert [lot.amount for lot in item.lots.all()] == [0, 9]  # two mice: the old one first
    event = Event.objects.get(kind=Event.Kind.FED)
    client.post(reverse("rota:take-back", args=[snake.pk]), {"event": event.pk})
    assert [lot.amount for lot in item.lots.all()] == [1, 10]
    assert not Change.objects.filter(why="meal").exists()


@pytest.mark.parametrize(("outcome", "left"), [("refused", 8), ("part", 8), ("skipped", 10)])
def test_a_thawed_mouse_is_gone_whether_eaten_or_not(client: Client, snake: Habitat, outcome: str, left: int) -> None:
    item = mice(snake.room, 10)
    client.post(reverse("rota:fed", args=[snake.pk]), {"outcome": outcome})
    assert there(item) == left


def test_a_meal_beyond_the_stock_is_written_down_and_leaves_nothing_below_zero(client: Client, snake: Habitat) -> None:
    item = mice(snake.room, 1)
    client.post(reverse("rota:fed", args=[snake.pk]), {"outcome": "eaten"})
    assert there(item) == 0
    assert Event.objects.filter(kind=Event.Kind.FED).exists()


def test_powder_goes_with_the_meals_it_is_on(client: Client, habitat: Habitat) -> None:
    item = Item.objects.create(room=habitat.room, food="plain calcium", kind="powder", unit="g", pack_size=100)
    store.receive(item, 50, TODAY, NOON)
    client.post(reverse("rota:fed", args=[habitat.pk]), {"outcome": "eaten", "told": "1", "product": ["plain calcium"]})
    assert 49.5 < there(item) < 50


def test_how_long_it_lasts_is_the_rotas_own_days(snake: Habitat) -> None:
    mice(snake.room, 3, pack_price=25.0, lead_days=8)
    (line,) = stock_forecasts.lines(snake.room, TODAY)
    # Two every fourteen days from today: the meal on day fourteen is one short.
    assert line.found.days_left == 14
    assert line.found.order_by == TODAY + timedelta(days=4)
    assert line.state == "soon"
    assert line.cost_a_month == pytest.approx(2 / 14 * 365.2425 / 12, rel=0.1)


def test_what_to_thaw_for_tomorrow_and_how_many_are_missing(client: Client, snake: Habitat) -> None:
    assert stock_forecasts.thaw(snake.room, TODAY) == []
    mice(snake.room, 1)
    (tomorrow,) = stock_forecasts.thaw(snake.room, TODAY + timedelta(days=13))
    assert (tomorrow.count, tomorrow.there) == (2, 1)
    assert tomorrow.whom == ("Marram 2",)


def test_the_page_tells_what_the_rota_uses_that_is_not_kept(client: Client, snake: Habitat) -> None:
    assert "mouse, adult" in client.get(reverse("pantry:shelf")).content.decode().split("not in the pantry:")[1]


@pytest.mark.parametrize(
    ("amount", "said"),
    [
        ("0", "above zero"),
        ("-5", "below zero"),
        ("many", "not a number"),
        ("nan", "not a number"),
        ("9,000,000", "more than a pantry can hold"),
    ],
)
def test_what_cannot_come_in_does_not(client: Client, snake: Habitat, amount: str, said: str) -> None:
    posted = {"food": "mouse/adult", "amount": amount, "unit": "piece"}
    shown = client.post(reverse("pantry:receive", args=[snake.room_id]), posted, follow=True).content.decode()
    assert said in shown
    assert not Item.objects.exists()


def test_what_is_still_to_come_has_not_come_in(client: Client, snake: Habitat) -> None:
    posted = {"food": "mouse/adult", "amount": "5", "unit": "piece", "received": "2099-01-01"}
    shown = client.post(reverse("pantry:receive", args=[snake.room_id]), posted, follow=True).content.decode()
    assert "on a day to come" in shown
    assert not Item.objects.exists()


def test_counting_anew_and_losses(client: Client, snake: Habitat) -> None:
    item = mice(snake.room, 10)
    address = reverse("pantry:change", args=[item.pk])
    client.post(address, {"do": "count", "amount": "7"})
    assert there(item) == 7
    client.post(address, {"do": "count", "amount": "12"})
    assert there(item) == 12
    client.post(address, {"do": "lost", "amount": "2"})
    assert there(item) == 10
    client.post(address, {"do": "count", "amount": "-1"})
    client.post(address, {"do": "packs", "pack_size": "0", "pack_price": "", "lead_days": "3"})
    assert (there(item), Item.objects.get().pack_size) == (10, 25)
    client.post(address, {"do": "remove"})
    assert not Lot.objects.exists()


def test_the_database_itself_holds_no_lot_below_nothing(snake: Habitat) -> None:
    item = mice(snake.room, 1)
    with pytest.raises(IntegrityError), transaction.atomic():
        Lot.objects.filter(item=item).update(amount=-1)


def upload(client: Client, room_id: int, text: str | bytes) -> Any:
    raw = text.encode() if isinstance(text, str) else text
    address = reverse("pantry:bring-in", args=[room_id])
    shown = client.post(address, {"file": SimpleUploadedFile("pantry.csv", raw)})
    if shown.status_code != 200 or "text" not in shown.context or not shown.context["count"]:
        return shown
    assert not Item.objects.filter(food="cricket").exists()  # seen first, done after
    return client.post(address, {"text": shown.context["text"], "seen": "1"})


def test_the_csv_goes_out_and_comes_in_the_same(client: Client, snake: Habitat) -> None:
    mice(snake.room, 10, pack_price=25.5)
    mice(snake.room, 4, days_ago=3)
    text = client.get(reverse("pantry:export", args=[snake.room_id])).content
    lines = text.decode().splitlines()
    assert {line.count(",") for line in lines} == {lines[0].count(",")}
    before = [(lot.amount, lot.received) for lot in Lot.objects.all()]
    Item.objects.all().delete()
    assert upload(client, snake.room_id, text).status_code == 302
    assert [(lot.amount, lot.received) for lot in Lot.objects.all()] == before
    assert Item.objects.get().pack_price == 25.5


def test_the_same_file_again_adds_nothing_and_a_file_can_be_undone(client: Client, snake: Habitat) -> None:
    item = mice(snake.room, 12)
    text = client.get(reverse("pantry:export", args=[snake.room_id])).content
    client.post(reverse("rota:fed", args=[snake.pk]), {"outcome": "eaten"})
    shown = upload(client, snake.room_id, text)
    assert (shown.context["count"], shown.context["there"]) == (0, 1)  # two mice fewer, and still that very lot
    assert there(item) == 10
    more = (
        text.decode().replace("2026-11-04", "2026-11-20").replace(",12,", ",30,") + "cricket,live,piece,200,2026-11-22,,250,9,3\r\n"
    )
    upload(client, snake.room_id, more)
    assert (there(item), Item.objects.count()) == (40, 2)
    delivery = Delivery.objects.get()
    client.post(reverse("pantry:undo-delivery", args=[delivery.pk]))
    assert (there(item), Item.objects.count(), Item.objects.get().pack_size) == (10, 1, 25)
    assert "removed meanwhile" in client.post(reverse("pantry:undo-delivery", args=[delivery.pk]), follow=True).content.decode()


def test_what_was_used_since_is_not_undone(client: Client, snake: Habitat) -> None:
    upload(client, snake.room_id, HEAD + "mouse/adult,frozen,piece,30,2026-11-01")
    client.post(reverse("rota:fed", args=[snake.pk]), {"outcome": "eaten"})
    client.post(reverse("pantry:undo-delivery", args=[Delivery.objects.get().pk]))
    assert there(Item.objects.get()) == 28


def test_pieces_are_never_turned_into_grams(client: Client, snake: Habitat) -> None:
    mice(snake.room, 12)
    answer = upload(client, snake.room_id, HEAD + "mouse/adult,frozen,g,500,2026-11-20")
    assert answer.status_code == 422
    assert "is counted in pieces here, and the line says g" in answer.content.decode()
    assert (Item.objects.get().unit, there(Item.objects.get())) == ("piece", 12)


HEAD = "food,kind,unit,amount,received\r\n"


@pytest.mark.sweep
def test_ten_thousand_broken_lines_are_counted_named_and_none_is_taken(client: Client, snake: Habitat) -> None:
    lines = [f"mouse/adult,frozen,piece,{'' if place % 2 else -place - 1},2026-11-01" for place in range(10_000)]
    answer = upload(client, snake.room_id, HEAD + "mouse/adult,frozen,piece,5,2026-11-01\r\n" + "\r\n".join(lines))
    shown = answer.content.decode()
    assert answer.status_code == 422
    assert "10000 lines are wrong; nothing was taken in" in shown
    assert "line 3:" in shown
    assert shown.count("<li>line ") == exchange.MOST_TOLD
    assert not Item.objects.exists()


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "missing: food, kind, unit, amount, received"),
        ("food;amount\r\n", "missing"),
        (HEAD + "unicorn,frozen,piece,1,2026-11-01", "is no food or powder"),
        (HEAD + "cricket,attic,piece,1,2026-11-01", "is not one of frozen"),
        (HEAD + "cricket,live,bucket,1,2026-11-01", "is not one of piece"),
        (HEAD + "cricket,live,piece,1,01/11/2026", "can be read as 2026-11-01 or as 2026-01-11"),
        (HEAD + "cricket,live,piece,1,2027-01-01", "a day to come"),
        (HEAD + "cricket,live,piece,inf,2026-11-01", "is not a number"),
        (b"\xff\xfe\x00", "not text in UTF-8"),
        (HEAD + "x" * 700_000, "that is not a pantry"),
    ],
)
def test_a_faulty_file_is_told_by_its_line(client: Client, snake: Habitat, text: str | bytes, said: str) -> None:
    answer = upload(client, snake.room_id, text)
    assert answer.status_code == 422
    assert said in answer.content.decode()
    assert not Item.objects.exists()
