"""Cultures, gut-loads and the freezer on their pages."""

from collections.abc import Callable
from datetime import timedelta

import pytest
from django.test import Client
from django.urls import reverse

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook.writing import Intent, Refused
from ridgeback.pantry.actions import cultures as actions
from ridgeback.pantry.models import Culture, GutLoad, Item, Lot
from ridgeback.rooms.models import Habitat, Room


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


@pytest.fixture
def room(habitat: Habitat) -> Room:
    return habitat.room


def begin(client: Client, room: Room, **said: str) -> Culture:
    posted = {"kind": "fruit-fly", "vessels": "2", "temperature": "25", "started": (clock.today() - timedelta(days=20)).isoformat()}
    client.post(reverse("pantry:begin-culture", args=[room.pk]), posted | said)
    return Culture.objects.latest("pk")


def shown(client: Client) -> str:
    return client.get(reverse("pantry:cultures")).content.decode()


def test_a_culture_says_what_it_gives_and_when_it_is_split(client: Client, room: Room) -> None:
    begin(client, room, temperature="77F")
    text = shown(client)
    assert "It gives about 300" in text
    assert "warm enough" in text
    one = Culture.objects.get()
    client.post(reverse("pantry:change-culture", args=[one.pk]), {"do": "split", "vessels": "5"})
    one.refresh_from_db()
    assert (one.vessels, one.last_split) == (5, clock.today())


def test_what_is_taken_lies_in_the_pantry_once(client: Client, room: Room) -> None:
    one = begin(client, room)
    posted = {"do": "crop", "amount": "120", "once": "the same press"}
    for _ in range(2):
        client.post(reverse("pantry:change-culture", args=[one.pk]), posted)
    assert Item.objects.get(food="fruit-fly").unit == "piece"
    assert Lot.objects.get().amount == 120
    assert one.entries.get().amount == 120


def test_a_culture_that_ended_meanwhile_is_left_alone(room: Room, owner: Keeper) -> None:
    """A page of before still shows its buttons: nothing is taken from it, and it does not end a second time."""
    one = Culture.objects.create(room=room, kind="fruit-fly", vessels=2, started=clock.today())
    intent, today = Intent(owner, clock.now()), clock.today()
    actions.end_culture(one, intent, "mites", today)
    for late in (
        lambda: actions.crop_culture(one, intent, 50, today),
        lambda: actions.split_culture(one, intent, 9, today),
        lambda: actions.feed_culture(one, intent),
        lambda: actions.change_culture(one, intent, 9, 30.0),
        lambda: actions.end_culture(one, intent, "", today),
    ):
        with pytest.raises(Refused):
            late()
    one.refresh_from_db()
    assert (one.vessels, one.last_split, one.ended_by, Lot.objects.count()) == (2, None, "mites", 0)
    assert one.entries.count() == 1


def test_greens_are_taken_in_grams(client: Client, room: Room) -> None:
    one = begin(client, room, kind="dandelion", temperature="")
    client.post(reverse("pantry:change-culture", args=[one.pk]), {"do": "crop", "amount": "2 oz"})
    assert Lot.objects.get().amount == pytest.approx(56.7, abs=0.1)
    assert "taken for the room" in shown(client)


@pytest.mark.parametrize(
    "said",
    [
        {"kind": "unicorn"},
        {"vessels": "5000"},
        {"temperature": "lukewarm"},
        {"temperature": "400"},
        {"started": "soon"},
        {"started": "2100-01-01"},
    ],
)
def test_nonsense_begins_nothing(client: Client, room: Room, said: dict[str, str]) -> None:
    posted = {"kind": "fruit-fly", "vessels": "2", "temperature": "25", "started": "2026-01-01"} | said
    client.post(reverse("pantry:begin-culture", args=[room.pk]), posted)
    assert not Culture.objects.exists()


def test_what_killed_it_says_what_to_do_otherwise(client: Client, room: Room) -> None:
    one = begin(client, room)
    client.post(reverse("pantry:change-culture", args=[one.pk]), {"do": "end", "why": "mites"})
    assert "soapy water" in shown(client)
    assert client.post(reverse("pantry:change-culture", args=[one.pk]), {"do": "fed"}).status_code == 404


def test_a_gut_load_by_parts_is_judged(client: Client, room: Room) -> None:
    page = reverse("pantry:keep-gut-load", args=[room.pk])
    client.post(page, {"name": "dry", "food": ["pellet", "calcium-carbonate", ""], "part": ["4", "1", ""]})
    assert GutLoad.objects.get().parts == {"pellet": 4.0, "calcium-carbonate": 1.0}
    text = shown(client)
    assert "4 parts" in text
    assert "of dry matter" in text
    client.post(page, {"name": "bad", "food": ["pellet"], "part": ["none"]})
    client.post(page, {"name": "empty", "food": [""], "part": [""]})
    assert GutLoad.objects.count() == 1


def test_the_freezer_counts_pieces_with_their_own_weights_against_its_room(client: Client, room: Room) -> None:
    came = {"food": "mouse/adult", "unit": "piece", "amount": "50", "piece_g": "22"}
    client.post(reverse("pantry:receive", args=[room.pk]), came)
    client.post(reverse("pantry:receive", args=[room.pk]), came | {"piece_g": "", "amount": "10"})
    client.post(reverse("pantry:freezer", args=[room.pk]), {"litres": "20"})
    page = client.get(reverse("pantry:shelf"))
    filled = page.context["rooms"][0]["freezer"]
    assert filled.kg == pytest.approx((50 * 22 + 10 * 24) / 1000)  # an adult mouse is 18 to 30 g
    assert (filled.room_litres, filled.full) == (20.0, False)
    assert "22 g" in page.content.decode()
    client.post(reverse("pantry:freezer", args=[room.pk]), {"litres": "0.5 gal"})
    assert client.get(reverse("pantry:shelf")).context["rooms"][0]["freezer"].full
    client.post(reverse("pantry:freezer", args=[room.pk]), {"litres": "many"})
    assert client.get(reverse("pantry:shelf")).context["rooms"][0]["freezer"].room_litres == pytest.approx(1.89, abs=0.01)


def test_a_growing_snakes_next_size_is_told_with_its_day(client: Client, make_habitat: Callable[..., Habitat]) -> None:
    hatched = (clock.today() - timedelta(days=240)).isoformat()
    animal = {"name": "Glasswort", "sex": "male", "hatched": hatched, "mass_kg": 0.03, "length_m": 0.45}
    make_habitat(species="corn-snake", animal=animal)
    found = client.get(reverse("pantry:shelf")).context["rooms"][0]["next_prey"]
    assert [one.name for one in found] == ["Glasswort"]
    assert found[0].day > clock.today()
    assert found[0].now != found[0].next
