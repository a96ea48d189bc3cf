"""Saving, undoing and redoing plans: every write is one transaction and carries the version it started from."""

from datetime import datetime

from django.db import transaction
from django.db.models import Max

from husbandry.plan.document import HabitatPlan
from husbandry.species.profile import Profile
from ridgeback.accounts.models import Keeper
from ridgeback.book import profiles
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.planner import mapping
from ridgeback.planner.models import PlanRevision, ProfileSnapshot
from ridgeback.rooms.models import Habitat, Room


class StaleEditError(Exception):
    """The habitat has moved on since the edit began; `current` is its version now."""

    def __init__(self, current: int) -> None:
        super().__init__(f"the plan is at version {current}")
        self.current = current


def snapshot(room_id: int, species: str) -> ProfileSnapshot:
    """Keep the profile this id means in a room now, once per content."""
    profile, digest = profiles.current(room_id, species)
    found = ProfileSnapshot.objects.defer("document").filter(sha256=digest).first()
    if found is None:
        defaults = {"species": species, "document": profiles.document_of(profile)}
        found, _ = ProfileSnapshot.objects.get_or_create(sha256=digest, defaults=defaults)
    return found


def profile_of(habitat: Habitat, species: str | None = None) -> Profile:
    """Return the profile the plan was made with; for another species, what the room means by it now."""
    wanted = species or habitat.species
    head = habitat.head
    if head is not None and head.profile.species == wanted:
        snapshot = head.profile
        return profiles.kept(snapshot.sha256, wanted, lambda: snapshot.document)
    return profiles.current(habitat.room_id, wanted)[0]


def profile_has_moved_on(habitat: Habitat) -> bool:
    """Tell whether the book's profile differs from the one the plan was made with."""
    if habitat.head is None:
        return False
    now = profiles.current_digest(habitat.room_id, habitat.species)
    return now not in ("", habitat.head.profile.sha256)


@transaction.atomic
def take_new_profile(habitat_id: int, version: int, author: Keeper | None, at: datetime) -> Habitat:
    """Go by the profile as the book has it now, as a revision of its own. Raises StaleEditError."""
    habitat = _locked(habitat_id, version)
    plan = mapping.plan_of(habitat)
    if profile_has_moved_on(habitat):
        _commit(habitat, plan, plan, author, at, label="the book as it is now", fresh_profile=True)
        log.record(habitat, Event.Kind.PLANNED, at, author, label="the book as it is now", version=habitat.version)
    return habitat


@transaction.atomic
def create(room: Room, plan: HabitatPlan, author: Keeper | None, at: datetime, kind: str = Event.Kind.CREATED) -> Habitat:
    """Make a habitat from a plan."""
    habitat = Habitat(room=room, version=0)
    _commit(habitat, plan, None, author, at, label="first plan")
    Habitat.objects.filter(pk=habitat.pk).update(created_at=at)  # by the clock that was passed in
    log.record(habitat, kind, at, author, name=plan.name, species=plan.species)
    _log_body(habitat, plan, None, at, author)
    return habitat


@transaction.atomic
def save(habitat_id: int, plan: HabitatPlan, version: int, author: Keeper | None, at: datetime, label: str) -> Habitat:
    """Save an edit that began at `version` as a new revision. Raises StaleEditError."""
    habitat = _locked(habitat_id, version)
    before = mapping.plan_of(habitat)
    if before == plan:
        return habitat
    _commit(habitat, plan, before, author, at, label)
    log.record(habitat, Event.Kind.PLANNED, at, author, label=label, version=habitat.version)
    _log_body(habitat, plan, before, at, author)
    return habitat


@transaction.atomic
def undo(habitat_id: int, version: int, author: Keeper | None, at: datetime) -> Habitat:
    """Go back one revision; nothing happens at the first one."""
    habitat = _locked(habitat_id, version)
    head = habitat.head
    if head is not None and head.parent is not None:
        _move(habitat, head.parent)
        log.record(habitat, Event.Kind.UNDONE, at, author, label=head.label, version=habitat.version)
    return habitat


@transaction.atomic
def redo(habitat_id: int, version: int, author: Keeper | None, at: datetime) -> Habitat:
    """Go forward to the newest revision made from this one."""
    habitat = _locked(habitat_id, version)
    child = None if habitat.head is None else habitat.head.children.order_by("-number").first()
    if child is not None:
        _move(habitat, child)
        log.record(habitat, Event.Kind.REDONE, at, author, label=child.label, version=habitat.version)
    return habitat


def can_redo(habitat: Habitat) -> bool:
    return habitat.head is not None and habitat.head.children.exists()


def _locked(habitat_id: int, version: int) -> Habitat:
    habitat = Habitat.objects.select_for_update(of=("self",)).get(pk=habitat_id)
    if habitat.version != version:
        raise StaleEditError(habitat.version)
    return habitat


def _commit(
    habitat: Habitat,
    plan: HabitatPlan,
    before: HabitatPlan | None,
    author: Keeper | None,
    at: datetime,
    label: str,
    fresh_profile: bool = False,
) -> None:
    parent = habitat.head
    # A plan keeps the profile it was made with until its keeper takes the new one.
    keeps = parent is not None and parent.profile.species == plan.species and not fresh_profile
    habitat.version += 1
    mapping.fill(habitat, plan)
    if habitat.pk is None:
        habitat.save()
    last = habitat.revisions.aggregate(number=Max("number"))["number"] or 0
    habitat.head = PlanRevision.objects.create(
        habitat=habitat,
        number=last + 1,
        parent=parent,
        document=plan.model_dump(mode="json"),
        profile=parent.profile if keeps and parent else snapshot(habitat.room_id, plan.species),
        label=label[:120],
        author=author,
        created_at=at,
    )
    habitat.save()
    mapping.write_parts(habitat, plan, before)


def _move(habitat: Habitat, revision: PlanRevision) -> None:
    before, plan = mapping.plan_of(habitat), HabitatPlan.model_validate(revision.document)
    habitat.version += 1
    habitat.head = revision
    mapping.fill(habitat, plan)
    habitat.save()
    mapping.write_parts(habitat, plan, before)


def _log_body(habitat: Habitat, plan: HabitatPlan, before: HabitatPlan | None, at: datetime, author: Keeper | None) -> None:
    """A new mass or length typed into the plan is a weighing or a measurement."""
    old = before.animal if before is not None else None
    if plan.animal.mass_kg is not None and (old is None or old.mass_kg != plan.animal.mass_kg):
        log.weighed(habitat, at, author, plan.animal.mass_kg)
    if plan.animal.length_m is not None and (old is None or old.length_m != plan.animal.length_m):
        log.measured(habitat, at, author, plan.animal.length_m)
