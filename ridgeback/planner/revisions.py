"""Saving, undoing and redoing plans: every write is one transaction and carries the version it started from."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any, Final

from django.db import transaction
from django.db.models import Max
from django.utils.translation import gettext as _

from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.merging import merge
from husbandry.plan.reading import PlanProblems, read_data
from husbandry.rota.chores import AMPHIBIANS
from husbandry.species.book import find, shipped
from husbandry.species.profile import Profile
from ridgeback.accounts.models import Keeper
from ridgeback.book import profiles
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent, Refused, claim, may_write
from ridgeback.language.told import in_each_language, later
from ridgeback.planner import mapping
from ridgeback.planner.models import PlanRevision, PlanVersion, ProfileSnapshot
from ridgeback.planner.telling import tell_animals
from ridgeback.rooms.models import Habitat, Room
from ridgeback.rooms.residents import first_of

LONGEST: Final = 120  # characters of a label


class StaleEditError(Refused):
    """The plan was changed meanwhile in the same places; `current` is its version now.

    `clashes` are those places and `merged` the document with ours in them, where the state the edit began with is still known.
    """

    def __init__(self, current: int, clashes: tuple[str, ...] = (), merged: dict[str, Any] | None = None) -> None:
        super().__init__("stale_plan")
        self.current, self.clashes, self.merged = current, clashes, merged


def snapshot(room_id: int, species: str) -> ProfileSnapshot:
    """Keep the profile this id means in a room now, once per content."""
    profile, digest = profiles.current(room_id, species)
    found = ProfileSnapshot.objects.defer("document").filter(sha256=digest).first()
    if found is None:
        defaults = {"species": species, "document": profiles.document_of(profile)}
        found, _made = ProfileSnapshot.objects.get_or_create(sha256=digest, defaults=defaults)
    return found


def profile_of(habitat: Habitat, species: str | None = None) -> Profile:
    """Return the profile the plan was made with; for another species, what the room means by it now."""
    wanted = species or habitat.species
    head = habitat.head
    if head is not None and head.profile.species == wanted:
        snapshot = head.profile
        return profiles.kept(snapshot.sha256, wanted, lambda: snapshot.document)
    return profiles.current(habitat.room_id, wanted)[0]


def holds_amphibians(habitat: Habitat) -> bool:
    """Whether what lives there has an amphibian's skin; a shipped species is told without asking the database."""
    known = find(habitat.species) if habitat.species in shipped() else profile_of(habitat)
    return known.group in AMPHIBIANS


def profile_has_moved_on(habitat: Habitat) -> bool:
    """Tell whether the book's profile differs from the one the plan was made with."""
    if habitat.head is None:
        return False
    now = profiles.current_digest(habitat.room_id, habitat.species)
    return now not in ("", habitat.head.profile.sha256)


@transaction.atomic
def take_new_profile(habitat_id: int, version: int, author: Keeper | None, at: datetime) -> Habitat:
    """Go by the profile as the book has it now, as a revision of its own. Raises StaleEditError."""
    habitat = _at_version(habitat_id, version)
    may_write(author, habitat.room_id)
    plan = mapping.plan_of(habitat)
    if profile_has_moved_on(habitat):
        _commit(habitat, plan, plan, Intent(author, at), Why(later(lambda: _("the book as it is now")), fresh_profile=True))
        log.record(
            habitat, Event.Kind.PLANNED, at, author, label=later(lambda: _("the book as it is now")), version=habitat.version
        )
    return habitat


@transaction.atomic
def create(
    room: Room, plan: HabitatPlan, author: Keeper | None, at: datetime, kind: str = Event.Kind.CREATED, key: str = ""
) -> Habitat:
    """Make a habitat from a plan. Raises AlreadyWritten for a press (its `key`) that made one before."""
    may_write(author, room.pk)
    claim(Intent(author, at, key))
    habitat = Habitat(room=room, version=0)
    _commit(habitat, plan, None, Intent(author, at), Why(later(lambda: _("first plan"))))
    log.record(habitat, kind, at, author, name=plan.name, species=plan.species)
    _log_body(habitat, plan, None, at, author)
    return habitat


def plan_at(habitat: Habitat, version: int) -> HabitatPlan | None:
    """The plan as it stood at a version, None where that is not known any more."""
    if version == habitat.version:
        return mapping.plan_of(habitat)
    found = PlanVersion.objects.filter(habitat=habitat, version=version).select_related("revision").first()
    return None if found is None else HabitatPlan.model_validate(found.revision.document)


def changed_since(habitat: Habitat, version: int) -> list[PlanRevision]:
    """The revisions that were made since a version, oldest first."""
    later = PlanVersion.objects.filter(habitat=habitat, version__gt=version).order_by("version")
    return [item.revision for item in later.select_related("revision__author")]


@transaction.atomic
def save(habitat_id: int, plan: HabitatPlan, version: int, author: Keeper | None, at: datetime, label: str) -> Habitat:
    """Save an edit that began at `version` as a new revision; what was changed meanwhile elsewhere stays changed.

    Raises StaleEditError where both changed the same.
    """
    return _saved(habitat_id, plan, version, Intent(author, at), Why(label))


@transaction.atomic
def save_following(habitat_id: int, plan: HabitatPlan, version: int, intent: Intent, label: str) -> Habitat:
    """Save as `save` does a plan that follows those that live there: nothing is told of them that they did not tell it."""
    return _saved(habitat_id, plan, version, intent, Why(label, follows=True))


@dataclass(frozen=True)
class Why:
    """What a revision is for: in words; whether it takes the book as it is now; whether it follows those that live there."""

    label: str
    fresh_profile: bool = False
    follows: bool = False


def _saved(habitat_id: int, plan: HabitatPlan, version: int, intent: Intent, why: Why) -> Habitat:
    author, at = intent.author, intent.at
    habitat = locked(habitat_id)
    may_write(author, habitat.room_id)
    before = mapping.plan_of(habitat)
    if habitat.version != version:
        plan = _merged(habitat, before, plan, version)
    if before == plan:
        return habitat
    _commit(habitat, plan, before, intent, why)
    log.record(habitat, Event.Kind.PLANNED, at, author, label=why.label, version=habitat.version)
    if not why.follows:
        tell_animals(habitat, plan, before)
        _log_body(habitat, plan, before, at, author)
    return habitat


@transaction.atomic
def save_worked_out(habitat_id: int, plan: HabitatPlan, version: int, author: Keeper | None, at: datetime, label: str) -> Habitat:
    """Save what was worked out, and found to endanger nothing, for the plan as it stood at `version`, and for no other.

    Raises Refused where the plan is another by now; a second press of the same finds its work done.
    """
    habitat = locked(habitat_id)
    now = mapping.plan_of(habitat)
    if now not in (plan, plan_at(habitat, version)):
        raise Refused("worked_out_before")
    return save(habitat_id, plan, habitat.version, author, at, label)


@transaction.atomic
def undo(habitat_id: int, version: int, intent: Intent) -> Habitat:
    """Go back one revision; nothing happens at the first one. Raises AlreadyWritten, StaleEditError."""
    habitat, author, at = _stepping(habitat_id, version, intent)
    head = habitat.head
    if head is not None and head.parent is not None:
        _move(habitat, head.parent, follows=head.follows)
        log.record(habitat, Event.Kind.UNDONE, at, author, label=later(lambda: head.said), version=habitat.version)
    return habitat


@transaction.atomic
def redo(habitat_id: int, version: int, intent: Intent) -> Habitat:
    """Go forward to the newest revision made from this one. Raises AlreadyWritten, StaleEditError."""
    habitat, author, at = _stepping(habitat_id, version, intent)
    child = None if habitat.head is None else habitat.head.children.order_by("-number").first()
    if child is not None:
        _move(habitat, child, follows=child.follows)
        log.record(habitat, Event.Kind.REDONE, at, author, label=later(lambda: child.said), version=habitat.version)
    return habitat


def _stepping(habitat_id: int, version: int, intent: Intent) -> tuple[Habitat, Keeper | None, datetime]:
    habitat = locked(habitat_id)
    may_write(intent.author, habitat.room_id)
    claim(intent)  # before the version is looked at: a second press is no edit of somebody else
    if habitat.version != version:
        raise StaleEditError(habitat.version)
    return habitat, intent.author, intent.at


def can_redo(habitat: Habitat) -> bool:
    return habitat.head is not None and habitat.head.children.exists()


def locked(habitat_id: int) -> Habitat:
    """The habitat, locked until the transaction ends. Raises Habitat.DoesNotExist."""
    return Habitat.objects.select_for_update(of=("self",), no_key=True).get(pk=habitat_id)


def _at_version(habitat_id: int, version: int) -> Habitat:
    habitat = locked(habitat_id)
    if habitat.version != version:
        raise StaleEditError(habitat.version)
    return habitat


def _merged(habitat: Habitat, theirs: HabitatPlan, ours: HabitatPlan, version: int) -> HabitatPlan:
    """Our edit of an older state put into what stands now."""
    base = plan_at(habitat, version)
    if base is None:
        raise StaleEditError(habitat.version)
    found = merge(*(plan.model_dump(mode="json") for plan in (base, ours, theirs)))
    try:
        merged = read_data(found.document)
    except PlanProblems:
        # Each on its own is a plan and both together are none: a lamp for the old size of the box.
        raise StaleEditError(habitat.version) from None
    if found.clashes:
        raise StaleEditError(habitat.version, found.clashes, found.document)
    return merged


def _commit(habitat: Habitat, plan: HabitatPlan, before: HabitatPlan | None, intent: Intent, why: Why) -> None:
    parent = habitat.head
    # A plan keeps the profile it was made with until its keeper takes the new one.
    keeps = parent is not None and parent.profile.species == plan.species and not why.fresh_profile
    habitat.version += 1
    mapping.fill(habitat, plan)
    new, last = habitat.pk is None, 0
    if new:
        habitat.save()
        habitat.created_at = intent.at  # by the clock that was passed in, with what is saved below
    else:
        last = habitat.revisions.aggregate(number=Max("number"))["number"] or 0
    habitat.head = PlanRevision.objects.create(
        habitat=habitat,
        number=last + 1,
        parent=parent,
        document=plan.model_dump(mode="json"),
        profile=parent.profile if keeps and parent else snapshot(habitat.room_id, plan.species),
        label=str(why.label)[:LONGEST],
        told=in_each_language(why.label, LONGEST),
        follows=why.follows,
        author=intent.author,
        created_at=intent.at,
    )
    habitat.save()
    PlanVersion.objects.create(habitat=habitat, version=habitat.version, revision=habitat.head)
    if new:
        mapping.first_company(habitat, plan)
    else:
        mapping.write_company(habitat, plan, before)


def _move(habitat: Habitat, revision: PlanRevision, *, follows: bool) -> None:
    plan = HabitatPlan.model_validate(revision.document)
    try:
        before = mapping.plan_of(habitat)
    except mapping.UnreadablePlanError:
        before = None  # going back is the way out of it: every row is written
    habitat.version += 1
    habitat.head = revision
    mapping.fill(habitat, plan)
    habitat.save()
    PlanVersion.objects.create(habitat=habitat, version=habitat.version, revision=revision)
    mapping.write_company(habitat, plan, before)
    if not follows:
        tell_animals(habitat, plan, before)


def _log_body(habitat: Habitat, plan: HabitatPlan, before: HabitatPlan | None, at: datetime, author: Keeper | None) -> None:
    """A new mass or length typed into the plan is a weighing or a measurement."""
    old = before.animal if before is not None else None
    told: dict[str, dict[str, float]] = {}
    if plan.animal.mass_kg is not None and (old is None or old.mass_kg != plan.animal.mass_kg):
        told[Event.Kind.WEIGHED] = {"mass_kg": plan.animal.mass_kg}
    if plan.animal.length_m is not None and (old is None or old.length_m != plan.animal.length_m):
        told[Event.Kind.MEASURED] = {"length_m": plan.animal.length_m}
    # In a habitat that is being made nobody lives.
    whose = first_of(habitat.pk) if told and old is not None else None
    for kind, measure in told.items():
        log.write(log.About(habitat.room_id, habitat, whose), kind, at, author, measure)
