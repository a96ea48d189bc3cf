"""Rooms, habitats, animals and accounts, deleted for good: asked for, kept after all, or carried out when the grace is over.

What was worked out of them goes with them: cards, glances, forecasts, and the names of an animal in the plans that it lived by.
"""

import re
from datetime import date, datetime, timedelta
from typing import Any, Final

from django.conf import settings
from django.db import transaction
from django.db.models import Q

from ridgeback.accounts.models import Keeper
from ridgeback.archive.models import Deletion
from ridgeback.planner.models import Glance, PlanRevision, ProfileSnapshot
from ridgeback.rooms.access import owned_rooms_of
from ridgeback.rooms.models import Animal, Company, Habitat, Membership, Room
from ridgeback.rota.models import RotaCard

Thing = Room | Habitat | Animal | Keeper
NAMES: Final[dict[type, str]] = {Room: "room", Habitat: "habitat", Animal: "animal", Keeper: "keeper"}


def grace() -> timedelta:
    """How long what is to be deleted can be kept after all."""
    return timedelta(days=settings.GRACE_DAYS)


def ask(thing: Thing, by: Keeper, now: datetime, today: date) -> Deletion:
    """Say that something is to be deleted; asked twice, the first day counts."""
    told = {"asked_by": by, "asked_at": now, "due_on": today + grace()}
    return Deletion.objects.get_or_create(**{kind_of(thing): thing}, defaults=told)[0]


def kind_of(thing: Thing) -> str:
    """What something is, as the column that names it: room, habitat, animal or keeper."""
    return next(name for kind, name in NAMES.items() if isinstance(thing, kind))


def keep(found: Deletion) -> None:
    """Keep it after all."""
    found.delete()


def pending(keeper: Keeper) -> list[Deletion]:
    """What a keeper may keep after all: the account, and what is in rooms that are theirs."""
    mine = owned_rooms_of(keeper)
    wanted = Q(keeper=keeper) | Q(room__in=mine) | Q(habitat__room__in=mine) | Q(animal__room__in=mine)
    return list(Deletion.objects.filter(wanted).select_related("room", "habitat", "animal", "keeper").order_by("due_on", "pk"))


def lone_rooms(keeper: Keeper) -> list[Room]:
    """The rooms that would be nobody's without an account: an owner until a day is none who stays."""
    owners = Membership.objects.filter(role=Membership.Role.OWNER, until__isnull=True, keeper__is_active=True)
    others = owners.exclude(keeper=keeper).values("room")
    return list(Room.objects.filter(membership__keeper=keeper, membership__role=Membership.Role.OWNER).exclude(pk__in=others))


def last_administrator(keeper: Keeper) -> bool:
    """Tell whether nobody else looks after this Ridgeback."""
    return keeper.is_staff and not Keeper.objects.filter(is_staff=True, is_active=True).exclude(pk=keeper.pk).exists()


def carry_out(today: date) -> int:
    """Delete what is due, each in a transaction of its own; return how much it was."""
    done = 0
    for found in Deletion.objects.filter(due_on__lte=today).order_by("pk"):
        with transaction.atomic():
            locked = Deletion.objects.select_for_update().filter(pk=found.pk, due_on__lte=today).first()
            if locked is None:
                continue  # kept after all, this very moment
            if locked.room is not None:
                _room(locked.room)
            elif locked.habitat is not None:
                _habitat(locked.habitat)
            elif locked.animal is not None:
                _animal(locked.animal)
            elif locked.keeper is not None and not last_administrator(locked.keeper):
                _account(locked.keeper)
            done += 1
    return done


def _room(room: Room) -> None:
    Keeper.objects.filter(sits_by__room=room).delete()  # what a sitter wrote stands under an account that is nobody's
    room.delete()
    _unused_profiles()


def _habitat(habitat: Habitat) -> None:
    habitat.delete()
    _unused_profiles()


def _account(keeper: Keeper) -> None:
    for room in lone_rooms(keeper):
        _room(room)
    keeper.delete()


def _unused_profiles() -> None:
    """Species profiles as plans used them, of which no plan is left."""
    ProfileSnapshot.objects.exclude(pk__in=PlanRevision.objects.values("profile")).delete()


def _animal(animal: Animal) -> None:
    lived_in = Habitat.objects.filter(Q(residences__animal=animal) | Q(events__animal=animal))
    homes = list(lived_in.distinct().values_list("pk", flat=True))
    name = animal.name
    animal.delete()
    for one in PlanRevision.objects.filter(habitat__in=homes):
        document, told = _without(one.document, name), {language: _unsaid(text, name) for language, text in one.told.items()}
        label = _unsaid(one.label, name)
        if (document, told, label) != (one.document, one.told, one.label):
            PlanRevision.objects.filter(pk=one.pk).update(document=document, told=told, label=label)
    for company in Company.objects.filter(habitat__in=homes):
        company.name = "" if company.name == name else company.name
        company.others = [other for other in company.others if other != name]
        company.save(update_fields=["name", "others"])
    Glance.objects.filter(habitat__in=homes).delete()
    RotaCard.objects.filter(habitat__in=homes).delete()


def _without(document: Any, name: str) -> Any:
    """A plan's document with the name taken out of its animals."""
    animal = document.get("animal")
    if not name or not isinstance(animal, dict):
        return document
    others = [other for other in animal.get("others", []) if other != name]
    own = {"name": ""} if animal.get("name") == name else {}
    kept = {**animal, **own} | ({"others": others} if "others" in animal else {})
    return {**document, "animal": kept}


def _unsaid(text: str, name: str) -> str:
    """A text without a name; words that only contain it stay."""
    return re.sub(rf"(?<!\w){re.escape(name)}(?!\w)", "…", text) if name else text
