"""Finding anything: by letters, misspelt, by what was written down; never what is another room's."""

from collections.abc import Callable
from datetime import UTC, datetime

import pytest
from django.test import Client
from django.urls import reverse
from django.utils import timezone

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.book import catalogue
from ridgeback.daybook.models import Event, Instrument
from ridgeback.finding.search import fit, search
from ridgeback.pantry.models import Item
from ridgeback.rooms.models import Animal, Habitat


@pytest.fixture
def room_with_things(habitat: Habitat) -> Habitat:
    catalogue.enter_shipped()
    room, now = habitat.room, clock.now()
    animal = Animal.objects.create(room=room, name="Sea lavender", species="corn-snake", created_at=now, chip="276098")
    Event.objects.create(room=room, animal=animal, kind=Event.Kind.NOTED, at=now, payload={"note": "Sits by the slate."})
    Item.objects.create(room=habitat.room, food="cricket", kind="live", unit="piece")
    Instrument.objects.create(room=habitat.room, name="red gun", kind="infrared")
    return habitat


@pytest.mark.parametrize(
    ("query", "title"),
    [
        ("Test shelf", "Test shelf"),
        ("shelf", "Test shelf"),
        ("sea lav", "Sea lavender"),
        ("Sea lavendar", "Sea lavender"),
        ("276098", "Sea lavender"),
        ("corn snake", "corn snake"),
        ("corn snaek", "corn snake"),
        ("Pantherophis", "corn snake"),
        ("slate", "Sits by the slate."),
        ("red gun", "red gun"),
        ("cricket", "cricket"),
        ("UVI", "UV index"),
        ("gravid", "gravid"),
        ("calender", "Calendar"),
        ("today", "Round"),
        ("night look", "The night look"),
    ],
)
def test_anything_is_found(query: str, title: str, room_with_things: Habitat, owner: Keeper) -> None:
    assert title in [hit.title for hit in search(owner, query)][:6]


@pytest.mark.sweep
def test_what_is_found_can_be_opened(room_with_things: Habitat, owner: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    client = client_of(owner)
    for query in ("shelf", "sea", "snake", "slate", "gun", "cricket", "uv", "plan"):
        page = client.get(reverse("finding:search"), {"q": query})
        assert page.status_code == 200
        for hit in page.context["hits"]:
            assert client.get(hit.address.partition("#")[0]).status_code == 200, hit.address


def test_another_rooms_things_are_not_found(room_with_things: Habitat, other: Keeper) -> None:
    for query in ("Test shelf", "Sea lavender", "slate", "red gun", "276098"):
        assert not [hit for hit in search(other, query) if hit.kind in ("habitat", "animal", "daybook", "instrument", "pantry")]


def test_little_and_nothing(owner: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    client = client_of(owner)
    for query in ("", " ", "x", "%", "_"):
        assert "two letters" in client.get(reverse("finding:search"), {"q": query}).content.decode()
    nothing = client.get(reverse("finding:search"), {"q": "<b>zzqqxx</b>"}, headers={"HX-Request": "true"}).content.decode()
    assert "Nothing is called anything like" in nothing
    assert "<b>zz" not in nothing


def test_the_whole_name_is_before_its_beginning_before_a_slip() -> None:
    fits = [fit("dune", title) for title in ("Dune", "Dune table", "The dune", "Sand-dune", "Dunes", "Dume")]
    assert fits[0] == max(fits)
    assert fits[-1] == min(fits) > 0
    assert fit("dune", "Reed column") == 0


def test_a_page_of_a_larger_room_costs_no_more_questions(
    room_with_things: Habitat, owner: Keeper, django_assert_max_num_queries: Callable[..., object]
) -> None:
    for number in range(40):
        Animal.objects.create(room=room_with_things.room, name=f"Rush {number}", species="corn-snake", created_at=clock.now())
    with django_assert_max_num_queries(20):  # type: ignore[attr-defined]
        assert len(search(owner, "rush")) >= 8


def test_a_note_is_found_with_the_day_it_had_in_the_room(habitat: Habitat, owner: Keeper) -> None:
    late = datetime(2026, 7, 1, 13, 30, tzinfo=UTC)  # in Auckland it is the second
    with timezone.override("Pacific/Auckland"):
        Event.objects.create(
            room=habitat.room, habitat=habitat, kind=Event.Kind.NOTED, at=late, payload={"note": "saltwort shoots"}
        )
        assert [hit.about for hit in search(owner, "saltwort") if hit.kind == "daybook"] == [f"{habitat.name} 2 Jul 2026"]
