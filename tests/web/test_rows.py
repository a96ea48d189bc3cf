"""What the database itself refuses, whoever writes to it, and what it keeps."""

from collections.abc import Callable
from datetime import time
from typing import Any

import pytest
from django.db import IntegrityError, models, transaction
from django.db.models import ProtectedError

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook import log
from ridgeback.daybook.growth import habitats_of
from ridgeback.daybook.models import Event
from ridgeback.planner import revisions
from ridgeback.planner.models import PlanRevision, ProfileSnapshot
from ridgeback.rooms import keepers
from ridgeback.rooms.access import rooms_of
from ridgeback.rooms.models import Animal, Habitat, Heater, Membership, Room, UvLamp
from tests.plans import plan

pytestmark = pytest.mark.django_db


def refused(row: models.Model, **changes: Any) -> None:
    """Writing these values is refused by a constraint, not by the application."""
    with pytest.raises(IntegrityError), transaction.atomic():
        type(row)._default_manager.filter(pk=row.pk).update(**changes)


@pytest.mark.parametrize(
    ("table", "changes"),
    [
        (Habitat, {"length_m": 0}),
        (Habitat, {"height_m": -0.4}),
        (Habitat, {"mesh_open_share": 1.2}),
        (Animal, {"mass_kg": 0}),
        (Animal, {"length_m": -0.1}),
        (Animal, {"count": 0}),
        (Heater, {"watts": 900}),
        (Heater, {"watts": 0}),
        (Heater, {"x_m": -0.1}),
        (UvLamp, {"tube_m": 0}),
        (UvLamp, {"height_m": 0}),
    ],
)
def test_an_impossible_row_is_refused(habitat: Habitat, table: type[models.Model], changes: dict[str, Any]) -> None:
    row = table._default_manager.first()
    assert row is not None
    refused(row, **changes)


def test_one_heater_a_place_and_one_revision_a_number(habitat: Habitat) -> None:
    with pytest.raises(IntegrityError), transaction.atomic():
        Heater.objects.create(
            habitat=habitat, place=0, kind="halogen-flood", watts=50, x_m=0.1, height_m=0.3, on=time(8), off=time(20)
        )
    head = PlanRevision.objects.get()
    with pytest.raises(IntegrityError), transaction.atomic():
        PlanRevision.objects.create(
            habitat=habitat, number=head.number, document={}, profile=head.profile, label="again", created_at=clock.now()
        )


def test_a_keeper_is_a_member_of_a_room_once(owner: Keeper) -> None:
    room = rooms_of(owner).get()
    with pytest.raises(IntegrityError), transaction.atomic():
        Membership.objects.create(room=room, keeper=owner, role=Membership.Role.OWNER)


def test_a_profile_that_plans_used_is_not_thrown_away(habitat: Habitat) -> None:
    with pytest.raises(ProtectedError):
        ProfileSnapshot.objects.get().delete()


def test_two_keepers_of_one_room_see_the_same_habitats_and_strangers_none(habitat: Habitat, owner: Keeper, other: Keeper) -> None:
    assert not habitats_of(other).exists()
    Membership.objects.create(room=habitat.room, keeper=other, role=Membership.Role.OWNER)
    assert [found.pk for found in habitats_of(other)] == [found.pk for found in habitats_of(owner)] == [habitat.pk]


def test_a_new_account_has_a_room_of_its_own_and_no_password_yet() -> None:
    keeper = keepers.add("glasswort")
    assert rooms_of(keeper).get().name == "glasswort's room"
    assert not keeper.has_usable_password()


def test_every_save_is_dated_and_signed(owner: Keeper, make_habitat: Callable[..., Habitat]) -> None:
    habitat = make_habitat()
    at = clock.now()
    revisions.save(habitat.pk, plan(heaters__0__watts=60.0), 1, owner, at, "Heat changed")
    newest = Event.objects.first()
    assert newest is not None
    assert (newest.kind, newest.at, newest.author, newest.room) == (Event.Kind.PLANNED, at, owner, habitat.room)
    assert newest.payload == {"label": "Heat changed", "version": 2}
    kinds = list(Event.objects.order_by("id").values_list("kind", flat=True))
    assert kinds == ["habitat.created", "animal.weighed", "animal.measured", "plan.saved"]


def test_saving_what_stands_already_writes_nothing(owner: Keeper, habitat: Habitat) -> None:
    before = Event.objects.count()
    revisions.save(habitat.pk, plan(), 1, owner, clock.now(), "nothing")
    assert PlanRevision.objects.count() == 1
    assert Event.objects.count() == before


def test_only_what_differs_is_written_again(owner: Keeper, habitat: Habitat) -> None:
    tubes = list(UvLamp.objects.values_list("pk", flat=True))
    heaters = list(Heater.objects.values_list("pk", flat=True))
    revisions.save(habitat.pk, plan(heaters__0__watts=60.0), 1, owner, clock.now(), "Heat changed")
    assert list(UvLamp.objects.values_list("pk", flat=True)) == tubes
    assert list(Heater.objects.values_list("pk", flat=True)) != heaters


def test_a_weighing_is_kept_in_kilograms(habitat: Habitat, owner: Keeper) -> None:
    event = log.weighed(habitat, clock.now(), owner, 0.0612)
    assert Event.objects.get(pk=event.pk).payload == {"mass_kg": 0.0612}


def test_a_room_takes_its_habitats_and_their_history_with_it(habitat: Habitat) -> None:
    Room.objects.all().delete()
    assert not Habitat.objects.exists()
    assert not PlanRevision.objects.exists()
    assert not Event.objects.exists()
