"""An animal comes, is described, moves from one habitat to another, leaves, and comes back."""

from collections.abc import Iterable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, field
from datetime import date, datetime, time
from typing import Any, Final

from django.db.models import F, Max
from django.utils import timezone

from ridgeback.daybook import entries, log
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent, Refused, writing
from ridgeback.language import dates
from ridgeback.planner import residents
from ridgeback.rooms.models import Animal, Habitat, Residence
from ridgeback.rooms.residents import home_of, living_in

MOST: Final = 50  # in one habitat, as a plan can hold
# What a keeper may say of an animal.
FACTS: Final = (
    *("name", "species", "marks", "chip", "sex", "sexed_on", "sexed_by", "hatched", "hatched_is_estimate"),
    *("origin", "came_from", "papers", "mother_id", "father_id"),
)


@dataclass(frozen=True)
class Newcomer:
    """An animal that comes: its facts, what was seen on its first day (`sound`, codes of `daybook.entries`), and its size.

    `sizes` are the first weighing and measurement by their kind, as an entry holds them.
    """

    facts: dict[str, Any]
    sound: tuple[str, ...] = ()
    note: str = ""
    sizes: Mapping[str, dict[str, float]] = field(default_factory=dict)


@dataclass(frozen=True)
class Move:
    """Where an animal goes, on which day and why; `habitat_id` None for none of ours; one that had left `comes_back`."""

    habitat_id: int | None
    day: date
    why: str = Residence.Why.OTHER
    note: str = ""
    comes_back: bool = False


def welcome(habitat_id: int, intent: Intent, newcomers: list[Newcomer], day: date, today: date) -> list[Animal]:
    """Let animals come to live in a habitat, and its plan follow them.

    What was written of the plan's animal before it came becomes the first one's. Raises AlreadyWritten, Refused.
    """
    _not_in_the_future(day, today)
    with writing(intent, [habitat_id]) as habitats:
        habitat = habitats[habitat_id]
        before = living_in([habitat_id])[habitat_id]
        if len(before) + len(newcomers) > MOST:
            raise Refused("too_many", most=str(MOST))
        made = []
        for one in newcomers:
            animal = Animal.objects.create(room_id=habitat.room_id, created_at=intent.at, **_facts(one.facts))
            Residence.objects.create(animal=animal, habitat=habitat, since=day, why=Residence.Why.ARRIVAL)
            payload = {"came_from": animal.came_from, "sound": list(one.sound), "note": one.note}
            _log(log.About(habitat.room_id, habitat, animal), Event.Kind.ARRIVED, day, intent, payload)
            for kind, size in one.sizes.items():
                _log(log.About(habitat.room_id, habitat, animal), kind, day, intent, entries.checked(kind, size))
            made.append(animal)
        if not before and made and not Residence.objects.filter(habitat=habitat, until__isnull=False).exists():
            log.told_before(habitat, made[0].species, made[0].known_to_hatch).update(animal=made[0])
        log.counted(habitat_id)
        residents.follow(habitat_id, intent, today)
        return made


def describe(animal_id: int, intent: Intent, facts: dict[str, Any], version: int, today: date) -> Animal:
    """Change what is said of an animal; the plan follows. Raises AlreadyWritten, Refused where it was changed before."""
    with _of(animal_id, intent) as animal:
        changed = {name: value for name, value in _facts(facts).items() if getattr(animal, name) != value}
        if not changed:
            return animal
        if animal.version != version:
            raise Refused("described_meanwhile")
        first = log.first_day_of(animal_id) if changed.get("hatched") else None
        if first is not None and changed["hatched"] > first:
            raise Refused("hatched_after_it_came", day=dates.shown(first, "j F Y"))
        Animal.objects.filter(pk=animal_id).update(**changed, version=F("version") + 1)
        here = home_of(animal_id)
        if here is not None:
            log.counted(here.habitat_id)
            residents.follow(here.habitat_id, intent, today)
        animal.refresh_from_db()
        return animal


def move(animal_id: int, intent: Intent, told: Move, today: date) -> Animal:
    """Book a move; both plans follow. Raises AlreadyWritten, Refused."""
    _not_in_the_future(told.day, today)
    here = home_of(animal_id)
    habitats = [key for key in (told.habitat_id, here.habitat_id if here else None) if key is not None]
    with _of(animal_id, intent, habitats) as animal:
        if animal.left_on is not None and not told.comes_back:
            raise Refused("has_left", day=dates.shown(animal.left_on, "j F Y"))
        now = home_of(animal_id)
        if (now.pk if now else None) != (here.pk if here else None):
            raise Refused("lives_elsewhere", habitat=now.habitat.name if now else "–")
        target = None if told.habitat_id is None else Habitat.objects.get(pk=told.habitat_id)
        if target is not None and target.room_id != animal.room_id:
            raise Refused("other_room")
        if now is not None and target is not None and now.habitat_id == target.pk:
            raise Refused("lives_here")
        if target is not None and len(living_in([target.pk])[target.pk]) >= MOST:
            raise Refused("too_many", most=str(MOST))
        _out(animal, now, told.day)
        if target is not None:
            Residence.objects.create(animal=animal, habitat=target, since=told.day, why=told.why, note=told.note[:300])
        payload = {
            "origin": now.habitat_id if now else None,
            "origin_name": now.habitat.name if now else "",
            "target": target.pk if target else None,
            "target_name": target.name if target else "",
            "why": told.why,
            "note": told.note,
        }
        _log(
            log.About(animal.room_id, target or (now.habitat if now else None), animal),
            Event.Kind.MOVED_IN,
            told.day,
            intent,
            payload,
        )
        if animal.left_on is not None:
            Animal.objects.filter(pk=animal_id).update(left_on=None, left_by="", version=F("version") + 1)
        for key in habitats:
            log.counted(key)
            residents.follow(key, intent, today)
        animal.refresh_from_db()
        return animal


def leave(animal_id: int, intent: Intent, day: date, how: str, note: str, today: date) -> Animal:
    """Let an animal leave; all that was written of it stays, and it may come back. Raises AlreadyWritten, Refused."""
    _not_in_the_future(day, today)
    here = home_of(animal_id)
    with _of(animal_id, intent, [here.habitat_id] if here else []) as animal:
        if animal.left_on is not None:
            raise Refused("has_left", day=dates.shown(animal.left_on, "j F Y"))
        now = home_of(animal_id)
        _out(animal, now, day)
        _log(
            log.About(animal.room_id, now.habitat if now else None, animal),
            Event.Kind.LEFT,
            day,
            intent,
            {"how": how, "note": note},
        )
        Animal.objects.filter(pk=animal_id).update(left_on=day, left_by=how, version=F("version") + 1)
        if now is not None:
            log.counted(now.habitat_id)
            residents.follow(now.habitat_id, intent, today)
        animal.refresh_from_db()
        return animal


@contextmanager
def _of(animal_id: int, intent: Intent, habitats: Iterable[int] = ()) -> Iterator[Animal]:
    """Open the transaction of a write about an animal: its room is locked first, then its habitats, then the animal."""
    room_id = Animal.objects.values_list("room_id", flat=True).get(pk=animal_id)
    with writing(intent, habitats, room=room_id):
        yield Animal.objects.select_for_update(no_key=True).get(pk=animal_id)


def _out(animal: Animal, now: Residence | None, day: date) -> None:
    """End where it lives; where it lives nowhere, the day is not before the one on which it went from where it lived last."""
    if now is None:
        ended = Residence.objects.filter(animal=animal).aggregate(last=Max("until"))["last"]
        went = max((one for one in (animal.left_on, ended) if one is not None), default=None)
        if went is not None and day < went:
            raise Refused("back_before_it_left", day=dates.shown(went, "j F Y"))
        return
    if day < now.since:
        raise Refused("moved_before_it_came", day=dates.shown(now.since, "j F Y"))
    Residence.objects.filter(pk=now.pk).update(until=day)


def _facts(told: dict[str, Any]) -> dict[str, Any]:
    return {name: told[name] for name in FACTS if name in told}


def _not_in_the_future(day: date, today: date) -> None:
    if day > today:
        raise Refused("in_the_future")


def _log(about: log.About, kind: str, day: date, intent: Intent, payload: dict[str, Any]) -> Event:
    """Write what happened to an animal on a day: now where that is today, else at noon of it."""
    noon = timezone.make_aware(datetime.combine(day, time(12)))
    at = intent.at if log.day_of(intent.at) == day else noon
    kept = {name: value for name, value in payload.items() if value not in (None, "", [])}
    return log.write(about, kind, at, intent.author, kept)
