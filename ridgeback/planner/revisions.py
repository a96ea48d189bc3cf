"""Saving, undoing and redoing plans: every write is one transaction and carries the version it started from."""

import hashlib
import json
from datetime import datetime
from functools import cache

from django.db import transaction
from django.db.models import Max

from husbandry.plan.document import HabitatPlan
from husbandry.species.book import find
from ridgeback.accounts.models import Keeper
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


@cache
def shipped_digest(species: str) -> str:
    """The SHA-256 of the shipped profile; shipped files do not change while the process runs."""
    return hashlib.sha256(json.dumps(find(species).model_dump(mode="json"), sort_keys=True).encode()).hexdigest()


def snapshot(species: str) -> ProfileSnapshot:
    """Keep the shipped profile as it is now, once per content."""
    digest = shipped_digest(species)
    kept = ProfileSnapshot.objects.defer("document").filter(sha256=digest).first()
    if kept is None:
        defaults = {"species": species, "document": find(species).model_dump(mode="json")}
        kept, _ = ProfileSnapshot.objects.get_or_create(sha256=digest, defaults=defaults)
    return kept


def profile_has_moved_on(habitat: Habitat) -> bool:
    """Tell whether the book's profile differs from the one the plan was last saved with."""
    if habitat.head is None:
        return False
    kept = ProfileSnapshot.objects.values_list("sha256", flat=True).get(pk=habitat.head.profile_id)
    return shipped_digest(habitat.species) != kept


@transaction.atomic
def create(room: Room, plan: HabitatPlan, author: Keeper | None, at: datetime, kind: str = Event.Kind.CREATED) -> Habitat:
    """Make a habitat from a plan."""
    habitat = Habitat(room=room, version=0)
    _commit(habitat, plan, None, author, at, label="first plan")
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
    habitat: Habitat, plan: HabitatPlan, before: HabitatPlan | None, author: Keeper | None, at: datetime, label: str
) -> None:
    parent = habitat.head
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
        profile=snapshot(plan.species),
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
