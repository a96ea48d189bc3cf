"""What is deleted is gone for good after its time of grace, from every table, and can be kept until then."""

import io
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from django.db import connection
from django.test import Client
from django.urls import reverse
from PIL import Image

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.archive import deleting
from ridgeback.archive.models import Deletion
from ridgeback.daybook.models import Event, Photo
from ridgeback.daybook.writing import Intent
from ridgeback.planner.models import PlanRevision
from ridgeback.rooms.models import Animal, Habitat, Membership, Room
from ridgeback.series import intake
from ridgeback.series.models import Channel, Sample
from ridgeback.sharing import actions

pytestmark = pytest.mark.django_db
Clients = Callable[[Keeper], Client]
MARK, HOME = "Zostera marina", "Eelgrass bed"


def where(mark: str) -> list[str]:
    """The tables that hold a word anywhere."""
    with connection.cursor() as cursor:
        tables = connection.introspection.table_names(cursor)
        found = []
        for table in tables:
            cursor.execute(f'select count(*) from "{table}" as one where one::text ilike %s', [f"%{mark}%"])
            if cursor.fetchone()[0]:
                found.append(table)
    return found


@pytest.fixture
def lived(make_habitat: Callable[..., Habitat], owner: Keeper, client_of: Clients) -> tuple[Habitat, Animal]:
    """A habitat with an animal of a telling name, with entries, and with everything that is worked out of them."""
    habitat = make_habitat(name=HOME)
    animal = Animal.objects.create(room=habitat.room, name=MARK, species=habitat.species, created_at=clock.now())
    client = client_of(owner)
    told = {"habitat": habitat.pk, "why": "growth", "day": clock.today().isoformat(), "time": "", "note": "", "once": "in"}
    moved = client.post(reverse("keeping:move", args=[animal.pk]), told)
    assert moved.status_code == 302, moved.context["form"].errors
    about = {"room": habitat.room, "habitat": habitat, "animal": animal, "at": clock.now(), "author": owner}
    noted = Event.objects.create(**about, kind=Event.Kind.NOTED, payload={"note": f"{MARK} shed whole"})
    picture = io.BytesIO()
    Image.new("RGB", (8, 8)).save(picture, "JPEG")
    Photo.objects.create(event=noted, jpeg=picture.getvalue(), width=8, height=8)
    for page in ("rooms:habitats", "keeping:round"):
        client.get(reverse(page))
    client.get(reverse("planner:bench", args=[habitat.pk]))
    return habitat, animal


def over() -> None:
    deleting.carry_out(clock.today() + deleting.grace())


def test_a_room_leaves_nothing_in_any_table(lived: tuple[Habitat, Animal], owner: Keeper, client_of: Clients) -> None:
    room = lived[0].room
    actions.let_sit(room, actions.Sits(f"Sitter of {MARK}", clock.today(), clock.today()), Intent(owner, clock.now()))
    assert {"rooms_animal", "daybook_event", "planner_planrevision"} <= set(where(MARK))
    client = client_of(owner)
    page = client.get(reverse("archive:delete-room", args=[room.pk])).content.decode()
    assert reverse("archive:take-out", args=[room.pk]) in page
    client.post(reverse("archive:delete-room", args=[room.pk]))
    over()
    assert where(MARK) == where(HOME) == []
    assert not Keeper.objects.filter(sits=True).exists()
    assert Keeper.objects.filter(pk=owner.pk).exists()


def test_a_habitat_goes_when_it_was_set_aside_and_its_animal_stays(
    lived: tuple[Habitat, Animal], owner: Keeper, client_of: Clients
) -> None:
    habitat, animal = lived
    client, url = client_of(owner), reverse("archive:delete-habitat", args=[habitat.pk])
    assert client.post(url).status_code == 404
    client.post(reverse("rooms:set-aside", args=[habitat.pk]))
    assert client.post(url).status_code == 302
    over()
    assert where(HOME) == []
    assert Animal.objects.get(pk=animal.pk).residences.count() == 0


def test_an_animal_goes_from_the_plans_that_it_lived_by_too(
    lived: tuple[Habitat, Animal], owner: Keeper, client_of: Clients
) -> None:
    habitat, animal = lived
    client = client_of(owner)
    client.post(reverse("archive:delete-animal", args=[animal.pk]))
    over()
    assert where(MARK) == []
    habitat.refresh_from_db()
    assert client.get(reverse("planner:bench", args=[habitat.pk])).status_code == 200


def test_words_that_only_hold_an_animals_name_stay(lived: tuple[Habitat, Animal], owner: Keeper, client_of: Clients) -> None:
    habitat, animal = lived
    Animal.objects.filter(pk=animal.pk).update(name="Reed")
    last = PlanRevision.objects.filter(habitat=habitat).latest("pk")
    told = {"en": "Reed moved under the reedmace. Reedmace cut; Reed's hide."}
    PlanRevision.objects.filter(pk=last.pk).update(label="For Reed, by the Reeds", told=told)
    client_of(owner).post(reverse("archive:delete-animal", args=[animal.pk]))
    over()
    last.refresh_from_db()
    assert last.label == "For …, by the Reeds"
    assert last.told == {"en": "… moved under the reedmace. Reedmace cut; …'s hide."}


def test_what_is_to_be_deleted_stays_until_its_day_and_may_be_kept(
    lived: tuple[Habitat, Animal], owner: Keeper, other: Keeper, client_of: Clients
) -> None:
    room, client = lived[0].room, client_of(owner)
    client.post(reverse("archive:delete-room", args=[room.pk]))
    client.post(reverse("archive:delete-room", args=[room.pk]))  # pressed twice
    found = Deletion.objects.get()
    assert deleting.carry_out(found.due_on - timedelta(days=1)) == 0
    page = client.get(reverse("rooms:habitats")).content.decode()
    assert reverse("archive:keep", args=[found.pk]) in page
    assert client_of(other).post(reverse("archive:keep", args=[found.pk])).status_code == 404
    for said in ("It is kept.", "It was kept before"):  # the second from a page that was open since before
        answer = client.post(reverse("archive:keep", args=[found.pk]), follow=True)
        assert answer.status_code == 200
        assert said in answer.content.decode()
    over()
    assert Room.objects.filter(pk=room.pk).exists()


def test_only_an_owner_deletes(lived: tuple[Habitat, Animal], other: Keeper, client_of: Clients) -> None:
    habitat, animal = lived
    Membership.objects.create(room=habitat.room, keeper=other, role=Membership.Role.KEEPER)
    client = client_of(other)
    for name, key in (("archive:delete-room", habitat.room_id), ("archive:delete-animal", animal.pk)):
        assert client.post(reverse(name, args=[key])).status_code == 403
    assert deleting.pending(other) == []
    assert not Deletion.objects.exists()


def test_an_account_may_be_kept_by_signing_in_again(owner: Keeper, client_of: Clients) -> None:
    client = client_of(owner)
    client.post(reverse("archive:delete-account"), {"password": "oyster-catcher-7"})
    again = Client()
    again.post(reverse("accounts:sign-in"), {"username": "tansy", "password": "oyster-catcher-7"})
    assert "To be deleted for good" in again.get(reverse("rooms:habitats")).content.decode()
    again.post(reverse("archive:keep", args=[Deletion.objects.get().pk]))
    over()
    assert Keeper.objects.filter(pk=owner.pk).exists()


def test_a_room_is_nobodys_where_its_other_owner_goes_on_a_day(owner: Keeper, other: Keeper, habitat: Habitat) -> None:
    second = Membership.objects.create(room=habitat.room, keeper=other, role=Membership.Role.OWNER)
    assert deleting.lone_rooms(owner) == []
    Membership.objects.filter(pk=second.pk).update(until=clock.today() - timedelta(days=1))
    assert deleting.lone_rooms(owner) == [habitat.room]


def test_the_last_administrator_is_not_deleted_when_the_other_went_first(owner: Keeper, other: Keeper) -> None:
    Keeper.objects.update(is_staff=True)
    for one in (owner, other):
        deleting.ask(one, one, clock.now(), clock.today())
    over()
    assert Keeper.objects.filter(is_staff=True).count() == 1


def test_a_room_says_how_long_its_readings_are_kept(habitat: Habitat, owner: Keeper, client_of: Clients, settings: Any) -> None:
    settings.RAW_DAYS = 400
    channel = Channel.objects.create(room=habitat.room, habitat=habitat, place="warm-air", code="warm", made_at=clock.now())
    for days in (10, 90):
        Sample.objects.create(channel=channel, at=clock.now() - timedelta(days=days), value=25.0)
    client, url = client_of(owner), reverse("sharing:keep-readings", args=[habitat.room_id])
    client.post(url, {"raw_days": "3"})  # less than what they are compared with
    assert Room.objects.get(pk=habitat.room_id).raw_days is None
    assert intake.let_go(clock.now()) == 0
    client.post(url, {"raw_days": "60"})
    assert intake.let_go(clock.now()) == 1
    assert Sample.objects.count() == 1
