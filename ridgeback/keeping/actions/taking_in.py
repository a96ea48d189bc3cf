"""What a daybook brought from elsewhere holds, written into a room: a few hundred entries at a time, and none of them twice.

Nobody else waits for longer than one such step. Where it was broken off it is begun again from its start: what it wrote before is
found, and not written twice.
"""

import json
from collections import defaultdict
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import timedelta
from itertools import islice
from typing import Any, Final, Protocol

from django.db.models import F

from ridgeback.daybook import entries
from ridgeback.daybook.models import Event, Photo
from ridgeback.daybook.quota import make_sure_of_room
from ridgeback.daybook.writing import Intent, writing
from ridgeback.keeping.documents_in import Document
from ridgeback.keeping.photos import Small
from ridgeback.keeping.shapes import AnimalTold, EntryLine, EntryTold
from ridgeback.rooms.models import Animal, Habitat, Residence

STEP: Final = 400  # what is written before others have their turn, an entry counting as one
PHOTO_WEIGHS: Final = 20
SAME: Final = ("name", "species", "hatched", "marks", "chip")
MINUTE: Final = timedelta(minutes=1)


class Habitats:
    """A room's habitats by the names, and where two have the same name the keys, that a file knows them by.

    A key that is a habitat's of that name here is that habitat's. Of others the first of a name is the room's first, and so on.
    """

    def __init__(self, room_id: int) -> None:
        self.named: dict[str, list[int]] = defaultdict(list)
        for pk, name in Habitat.objects.filter(room=room_id).order_by("pk").values_list("pk", "name"):
            self.named[name].append(pk)
        self.foreign: dict[str, list[int | None]] = defaultdict(list)

    def find(self, name: str | None, key: int | None) -> int | None:
        """The habitat's key in this room; None where there is none of that name."""
        here = self.named.get(name or "", [])
        if len(here) < 2 or key in here:
            return key if key in here else next(iter(here), None)
        foreign = self.foreign[name or ""]
        if key not in foreign:
            foreign.append(key)
        return here[min(foreign.index(key), len(here) - 1)]


class Photos(Protocol):
    """Photos by the file's keys of their entries."""

    def __contains__(self, key: int, /) -> bool: ...

    def __getitem__(self, key: int, /) -> Small: ...


@dataclass
class Taking:
    """One taking in: into which room, by whom; what has been found or made of it so far."""

    room_id: int
    intent: Intent
    told: Callable[["Taking"], None] = lambda taking: None
    photos: Photos = field(default_factory=dict[int, Small])
    made: dict[int, int] = field(default_factory=dict)  # this room's entries by the file's keys
    used: set[int] = field(default_factory=set)  # of each entry of the room, whether one of the file is it
    new_animals: int = 0
    new: int = 0
    done: int = 0

    def write(self, lines: Iterable[EntryLine]) -> None:
        """Write those entries that the room does not hold yet."""
        for step in _steps(lines, self.photos):
            with writing(self.intent, room=self.room_id):
                self._write(step)
                self.done += len(step)
                self.told(self)

    def _write(self, lines: Sequence[EntryLine]) -> None:
        known = self._known(lines)
        fresh: list[tuple[EntryLine, Event]] = []
        for line in lines:
            same = known[_likeness(line)]
            if same:
                self._found(line, same.pop())
                continue
            row = Event(
                room_id=self.room_id,
                habitat_id=line.habitat,
                animal_id=line.animal,
                kind=line.kind,
                at=line.at,
                payload=line.payload,
                author=self.intent.author,
                written_at=line.written_at or self.intent.at,
                taken_back_at=line.struck,
            )
            fresh.append((line, row))
        Event.every.bulk_create([row for _line, row in fresh])
        self.new += len(fresh)
        for line, row in fresh:
            self._found(line, row.pk)
        if fresh:
            touched = {line.habitat for line, _row in fresh if line.habitat is not None}
            Habitat.objects.filter(pk__in=touched).update(logged=F("logged") + 1)

    def _found(self, line: EntryLine, pk: int) -> None:
        self.used.add(pk)
        if line.key is None:
            return
        self.made[line.key] = pk
        if line.kind == Event.Kind.PHOTO and line.key in self.photos and not Photo.objects.filter(event=pk).exists():
            photo = self.photos[line.key]
            make_sure_of_room(self.room_id, len(photo.jpeg))
            Photo.objects.create(event_id=pk, jpeg=photo.jpeg, width=photo.width, height=photo.height)

    def _known(self, lines: Sequence[EntryLine]) -> dict[tuple[Any, ...], list[int]]:
        """The entries of the room that one of these may be and no other of the file is yet, the latest first."""
        found = Event.every.filter(room=self.room_id)
        if lines[0].to_the_minute:
            moments = [line.at for line in lines]
            found = found.filter(at__gte=min(moments), at__lt=max(moments) + MINUTE)
            wanted = {_likeness(line) for line in lines}
        else:
            found, wanted = found.filter(at__in={line.at for line in lines}), None
        known: dict[tuple[Any, ...], list[int]] = defaultdict(list)
        rows = found.order_by("-id").values_list("pk", "kind", "at", "animal_id", "habitat_id", "payload")
        for pk, kind, at, animal, habitat, payload in rows.iterator(chunk_size=2000):
            likeness = _likeness(EntryLine(kind, at, animal, habitat, payload, None, to_the_minute=wanted is not None))
            if pk not in self.used and (wanted is None or likeness in wanted):
                known[likeness].append(pk)
        return known

    def link(self, lines: Iterable[tuple[int, int]]) -> None:
        """Say of corrections which entry each stands in place of: pairs of the file's keys."""
        pairs = iter(lines)
        while step := list(islice(pairs, STEP)):
            wanted = {self.made[key]: self.made[old] for key, old in step if key in self.made and old in self.made}
            with writing(self.intent, room=self.room_id):
                taken = set(Event.every.filter(replaces__in=wanted.values()).values_list("replaces", flat=True))
                rows = Event.every.filter(pk__in=wanted, replaces__isnull=True)
                changed = [row for row in rows if wanted[row.pk] not in taken and wanted[row.pk] != row.pk]
                for row in changed:
                    row.replaces_id = wanted[row.pk]
                Event.every.bulk_update(changed, ["replaces"])


def _likeness(line: EntryLine) -> tuple[Any, ...]:
    """What two entries that are the same have in common."""
    at = line.at.replace(second=0, microsecond=0) if line.to_the_minute else line.at
    return line.kind, at, line.animal, line.habitat, json.dumps(_evened(line.payload), sort_keys=True)


def _evened(value: Any) -> Any:
    """The same data with each number in one way of writing: 1.0 is 1."""
    if isinstance(value, float) and value.is_integer():
        return int(value)
    if isinstance(value, dict):
        return {name: _evened(one) for name, one in value.items()}
    return [_evened(one) for one in value] if isinstance(value, list | tuple) else value


def _steps(lines: Iterable[EntryLine], photos: Photos) -> Iterator[list[EntryLine]]:
    step: list[EntryLine] = []
    weight = 0
    for line in lines:
        step.append(line)
        weight += PHOTO_WEIGHS if line.key is not None and line.key in photos else 1
        if weight >= STEP:
            yield step
            step, weight = [], 0
    if step:
        yield step


def take_document(taking: Taking, document: Document) -> None:
    """Bring a daybook into a room: what stands there already is not written twice.

    Habitats are found by their names, animals by name, kind, day of hatching, marks and chip; what is not found is made, a habitat
    never.
    """
    habitats = Habitats(taking.room_id)
    animals = _animals(taking, document.animals, habitats)
    # A daybook that comes back to where it was written may speak of animals that it does not bring.
    at_home = bool(animals) and all(key == pk for key, pk in animals.items())

    def lines(clutches: bool) -> Iterator[EntryLine]:
        for entry in document.entries():
            if (entry.kind == Event.Kind.LAID) == clutches:
                yield _line(entry, habitats, animals, taking.made, at_home=at_home)

    # Other entries speak of clutches.
    taking.write(lines(True))
    taking.write(lines(False))
    taking.link((entry.key, entry.replaces) for entry in document.entries() if entry.replaces is not None)


def _line(entry: EntryTold, habitats: Habitats, animals: Mapping[int, int], made: Mapping[int, int], *, at_home: bool) -> EntryLine:
    """An entry with the keys of this room in place of those of the file."""
    payload = dict(entry.payload)
    if entry.kind in entries.KINDS:
        if "clutch" in payload:
            payload["clutch"] = made[payload["clutch"]]
        partner = animals.get(payload.get("partner", 0))
        if partner is not None:
            payload["partner"] = partner
        elif not at_home:
            payload.pop("partner", None)
    return EntryLine(
        kind=entry.kind,
        at=entry.at,
        animal=animals.get(entry.animal or 0),
        habitat=habitats.find(entry.habitat, entry.habitat_key),
        payload=payload,
        struck=entry.taken_back_at,
        written_at=entry.written_at,
        key=entry.key,
        replaces=entry.replaces,
    )


def _animals(taking: Taking, told: Sequence[AnimalTold], habitats: Habitats) -> dict[int, int]:
    """The keys of this room's animals by those of the file; those that it does not know are made."""
    known: dict[tuple[Any, ...], list[int]] = defaultdict(list)
    for pk, *facts in Animal.objects.filter(room=taking.room_id).order_by("-pk").values_list("pk", *SAME):
        known[tuple(facts)].append(pk)
    keys: dict[int, int] = {}
    waiting = iter(told)
    while step := list(islice(waiting, STEP)):
        with writing(taking.intent, room=taking.room_id):
            for one in step:
                same = known[tuple(getattr(one, name) for name in SAME)]
                keys[one.key] = same.pop() if same else _made(taking, one, habitats)
            taking.told(taking)
    waiting = iter(told)
    while step := list(islice(waiting, STEP)):
        with writing(taking.intent, room=taking.room_id):
            for one in step:
                parents = {name: keys[key] for name in ("mother_id", "father_id") if (key := getattr(one, name)) in keys}
                if parents:
                    Animal.objects.filter(pk=keys[one.key]).update(**parents)
    return keys


def _made(taking: Taking, one: AnimalTold, habitats: Habitats) -> int:
    facts = one.model_dump(exclude={"key", "residences", "mother_id", "father_id"})
    taking.new_animals += 1
    made = Animal.objects.create(room_id=taking.room_id, created_at=taking.intent.at, **facts)
    homes = []
    for home in one.residences:
        habitat = habitats.find(home.habitat, home.habitat_key)
        if habitat is not None:
            homes.append(Residence(animal=made, habitat_id=habitat, **home.model_dump(exclude={"habitat", "habitat_key"})))
    Residence.objects.bulk_create(homes)
    Habitat.objects.filter(pk__in={home.habitat_id for home in homes}).update(logged=F("logged") + 1)
    return made.pk
