"""What the database itself refuses, whoever writes to it, and what it keeps."""

from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from django.db import IntegrityError, models, transaction
from django.db.models import ProtectedError

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent
from ridgeback.planner import mapping, revisions
from ridgeback.planner.models import PlanRevision, ProfileSnapshot
from ridgeback.rooms import keepers
from ridgeback.rooms.access import habitats_to_see, rooms_of
from ridgeback.rooms.models import Animal, Habitat, Membership, Residence, Room
from tests.plans import plan

pytestmark = pytest.mark.django_db


def refused(row: models.Model, **changes: Any) -> None:
    """Writing these values is refused by a constraint, not by the application."""
    with pytest.raises(IntegrityError), transaction.atomic():
        type(row)._default_manager.filter(pk=row.pk).update(**changes)


def test_an_impossible_row_is_refused(habitat: Habitat) -> None:
    refused(habitat.company, count=0)


def test_one_revision_a_number(habitat: Habitat) -> None:
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
    assert not habitats_to_see(other).exists()
    Membership.objects.create(room=habitat.room, keeper=other, role=Membership.Role.OWNER)
    assert [found.pk for found in habitats_to_see(other)] == [found.pk for found in habitats_to_see(owner)] == [habitat.pk]


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


def test_a_habitat_that_is_made_is_dated_by_the_clock_and_what_is_told_of_it_then_is_nobodys(owner: Keeper) -> None:
    """Once somebody lives there, a weight typed into the plan is that animal's."""
    then = clock.now() - timedelta(days=40)
    made = revisions.create(rooms_of(owner).get(), plan(animal={"mass_kg": 0.05, "length_m": 0.12}), owner, then)
    kept = Habitat.objects.select_related("head", "company").get(pk=made.pk)
    assert kept.head is not None
    assert (kept.created_at, kept.head.number, kept.company.count) == (then, 1, 1)
    told = Event.objects.filter(habitat=made).values_list("kind", "at", "animal")
    assert set(told) == {(kind, then, None) for kind in ("habitat.created", "animal.weighed", "animal.measured")}
    animal = Animal.objects.create(room_id=kept.room_id, name="Thrift", species=kept.species, created_at=clock.now())
    Residence.objects.create(animal=animal, habitat=kept, since=clock.today())
    heavier = mapping.plan_of(kept).model_copy(update={"animal": mapping.plan_of(kept).animal.model_copy(update={"mass_kg": 0.06})})
    revisions.save(kept.pk, heavier, 1, owner, clock.now(), "heavier")
    assert Event.objects.get(kind="animal.weighed", payload__mass_kg=0.06).animal == animal


def test_saving_what_stands_already_writes_nothing(owner: Keeper, habitat: Habitat) -> None:
    before = Event.objects.count()
    revisions.save(habitat.pk, plan(), 1, owner, clock.now(), "nothing")
    assert PlanRevision.objects.count() == 1
    assert Event.objects.count() == before


def test_the_columns_of_a_list_follow_the_document(owner: Keeper, habitat: Habitat) -> None:
    """There is one plan, the document; what lists show of it is written with it, and goes back with it."""
    changed = plan(name="Renamed box", animal__name="Seablite", animal__count=2)
    saved = revisions.save(habitat.pk, changed, 1, owner, clock.now(), "renamed")
    assert mapping.plan_of(Habitat.objects.get(pk=habitat.pk)) == changed
    fresh = Habitat.objects.select_related("company").get(pk=habitat.pk)
    assert (fresh.name, fresh.company.name, fresh.company.count) == ("Renamed box", "Seablite", 2)
    revisions.undo(habitat.pk, saved.version, Intent(owner, clock.now()))
    fresh = Habitat.objects.select_related("company").get(pk=habitat.pk)
    assert (fresh.name, fresh.company.name) == (plan().name, plan().animal.name)


def test_a_weighing_is_kept_in_kilograms(habitat: Habitat, owner: Keeper) -> None:
    event = log.weighed(habitat, clock.now(), owner, 0.0612)
    assert Event.objects.get(pk=event.pk).payload == {"mass_kg": 0.0612}


def test_a_room_takes_its_habitats_and_their_history_with_it(habitat: Habitat) -> None:
    Room.objects.all().delete()
    assert not Habitat.objects.exists()
    assert not PlanRevision.objects.exists()
    assert not Event.objects.exists()
