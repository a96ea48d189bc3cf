"""The daybook as files: a table for people, a document that holds all of it and is read again without loss."""

import csv
import io
import json
from collections.abc import Iterable, Mapping
from datetime import date, datetime
from typing import Annotated, Any, Final, Literal, Self

from django.db import transaction
from django.utils import timezone
from pydantic import BaseModel, ConfigDict, Field, ValidationError, field_validator, model_validator

from husbandry import documents
from husbandry.documents import DocumentError
from husbandry.errors import HusbandryError
from ridgeback.daybook import entries
from ridgeback.daybook.models import Event, Photo
from ridgeback.daybook.writing import Intent, writing
from ridgeback.keeping import timeline
from ridgeback.keeping.actions.animals import FACTS
from ridgeback.keeping.photos import Small
from ridgeback.planner import readings
from ridgeback.rooms.models import Animal, Habitat, Residence, Room
from ridgeback.rota.sharing import safe
from ridgeback.units import KeeperUnits

FORMAT: Final = "ridgeback-daybook/1"
COLUMNS: Final = ("date", "time", "kind", "animal", "habitat", "what", "note", "written by", "taken back", "code", "data")
LARGEST_BYTES: Final = 1_400_000
MOST_ENTRIES: Final = 20_000
NO_PHOTOS: Final[dict[int, Small]] = {}


def table(events: Iterable[Event], units: KeeperUnits) -> str:
    """The entries as CSV, oldest first, as they are told on the page; `code` and `data` tell each exactly."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(COLUMNS)
    for event in events:
        row = timeline.row(event, units)
        struck = "" if event.taken_back_at is None else timezone.localtime(event.taken_back_at).date().isoformat()
        whose = "" if event.animal is None else event.animal.called
        where = "" if event.habitat is None else event.habitat.name
        told = (row.day.isoformat(), f"{row.at:%H:%M}", row.kind, whose, where, row.said, row.note, row.author, struck)
        writer.writerow([*(safe(cell) for cell in told), event.kind, json.dumps(event.payload, ensure_ascii=False)])
    return out.getvalue()


def document(room: Room, animals: Iterable[Animal], events: Iterable[Event]) -> str:
    """All of it as JSON: the animals with their facts and residences, and every entry, those taken back too."""
    animals = list(animals)
    homes = Residence.objects.filter(animal__in=animals).select_related("habitat")
    told = {
        "format": FORMAT,
        "room": room.name,
        "animals": [_animal(one, [home for home in homes if home.animal_id == one.pk]) for one in animals],
        "entries": [_entry(event) for event in events],
    }
    return json.dumps(told, ensure_ascii=False, indent=1)


def _animal(one: Animal, homes: list[Residence]) -> dict[str, Any]:
    facts = {name: getattr(one, name) for name in FACTS}
    return {
        "key": one.pk,
        **{name: value.isoformat() if isinstance(value, date) else value for name, value in facts.items()},
        "left_on": one.left_on.isoformat() if one.left_on else None,
        "left_by": one.left_by,
        "residences": [
            {
                "habitat": home.habitat.name,
                "since": home.since.isoformat(),
                "until": home.until.isoformat() if home.until else None,
                "why": home.why,
                "note": home.note,
            }
            for home in homes
        ],
    }


def _entry(event: Event) -> dict[str, Any]:
    return {
        "key": event.pk,
        "kind": event.kind,
        "at": event.at.isoformat(),
        "animal": event.animal_id,
        "habitat": event.habitat.name if event.habitat else None,
        "payload": event.payload,
        "written_at": event.written_at.isoformat() if event.written_at else None,
        "taken_back_at": event.taken_back_at.isoformat() if event.taken_back_at else None,
        "replaces": event.replaces_id,
    }


class _Kept(BaseModel):
    """What other readers of the log count on, of a kind that has a writer of its own; what else it holds stays."""

    model_config = ConfigDict(extra="allow")


class _Meal(_Kept):
    outcome: Literal["eaten", "part", "refused", "skipped"]
    products: list[Annotated[str, Field(max_length=80)]] = Field(default_factory=list, max_length=20)
    foods: list[tuple[Annotated[str, Field(max_length=80)], float | None, float]] = Field(default_factory=list, max_length=40)
    due: date | None = None
    who: list[Annotated[str, Field(max_length=40)]] | None = None
    ate: int | None = None
    eaten_g: float | None = None


class _Done(_Kept):
    job: Annotated[str, Field(max_length=80)]
    due: date
    outcome: Literal["done", "skipped"]


class _Turn(_Kept):
    job: Annotated[str, Field(max_length=80)]
    planned: date
    to: date


class _Spot(BaseModel):
    model_config = ConfigDict(extra="forbid")
    name: Annotated[str, Field(max_length=80)]
    x_m: float
    height_m: float


class _Reading(_Kept):
    place: Annotated[str, Field(max_length=40)]
    value: float
    by: Annotated[str, Field(max_length=60)]
    reads_high: float
    sure_to: Annotated[float, Field(gt=0)]
    room_c: float
    room_percent: float
    lamps_off: bool = False
    spot: _Spot | None = None

    @field_validator("place")
    @classmethod
    def _a_place(cls, place: str) -> str:
        if place not in readings.READ_BY:
            raise ValueError("no such place")
        return place


class _Planned(_Kept):
    label: Annotated[str, Field(max_length=120)] = ""
    name: Annotated[str, Field(max_length=80)] = ""
    version: int | None = None


OTHERS: Final[dict[str, type[_Kept]]] = {
    Event.Kind.FED: _Meal,
    Event.Kind.DONE: _Done,
    Event.Kind.MOVED: _Turn,
    Event.Kind.READ: _Reading,
    **dict.fromkeys((Event.Kind.CREATED, Event.Kind.IMPORTED, Event.Kind.PLANNED, Event.Kind.UNDONE, Event.Kind.REDONE), _Planned),
}


class UnreadableDaybookError(HusbandryError, ValueError):
    """The file is no daybook of ours; `why` says where."""

    def __init__(self, why: str) -> None:
        super().__init__(why)
        self.why = why


class _Read(BaseModel):
    model_config = ConfigDict(extra="forbid")


class _Home(_Read):
    habitat: str = Field(max_length=80)
    since: date
    until: date | None = None
    why: Residence.Why
    note: str = Field(default="", max_length=300)


class _Animal(_Read):
    key: int
    name: str = Field(max_length=80)
    species: str = Field(max_length=60)
    marks: str = Field(default="", max_length=200)
    chip: str = Field(default="", max_length=40)
    sex: Animal.Sex = Animal.Sex.UNKNOWN
    sexed_on: date | None = None
    sexed_by: str = Field(default="", max_length=20)
    hatched: date | None = None
    hatched_is_estimate: bool = False
    origin: Animal.Origin = Animal.Origin.UNKNOWN
    came_from: str = Field(default="", max_length=120)
    papers: str = Field(default="", max_length=200)
    mother_id: int | None = None
    father_id: int | None = None
    left_on: date | None = None
    left_by: str = Field(default="", max_length=10)
    residences: list[_Home] = Field(default_factory=list, max_length=500)

    @model_validator(mode="after")
    def _a_life_there_can_be(self) -> Self:
        if (self.left_on is None) != (self.left_by == "") or self.left_by not in ("", *Animal.Left.values):
            raise ValueError("an animal leaves on a day and in a way")
        if self.sexed_by not in ("", *Animal.SexedBy.values):
            raise ValueError("no such way to tell the sex")
        if sum(home.until is None for home in self.residences) > 1:
            raise ValueError("an animal lives in one habitat")
        if any(home.until is not None and home.until < home.since for home in self.residences):
            raise ValueError("an animal moves out after it has moved in")
        return self


class _Entry(_Read):
    key: int
    kind: Event.Kind
    at: datetime
    animal: int | None = None
    habitat: str | None = None
    payload: dict[str, Any]
    written_at: datetime | None = None
    taken_back_at: datetime | None = None
    replaces: int | None = None


class _Document(_Read):
    format: str
    room: str = ""
    animals: list[_Animal] = Field(max_length=5000)
    entries: list[_Entry] = Field(max_length=MOST_ENTRIES)


def read(raw: bytes) -> _Document:
    """Read a daybook's document. Raises UnreadableDaybookError."""
    try:
        told = _Document.model_validate(documents.read(raw.decode("utf-8-sig"), "json", LARGEST_BYTES))
    except (DocumentError, UnicodeDecodeError) as error:
        raise UnreadableDaybookError(str(error)) from None
    except ValidationError as error:
        first = error.errors(include_url=False)[0]
        raise UnreadableDaybookError(".".join(str(part) for part in first["loc"]) or "the whole") from None
    if told.format != FORMAT:
        raise UnreadableDaybookError("format")
    for place, entry in enumerate(told.entries):
        if entry.at.tzinfo is None:
            raise UnreadableDaybookError(f"entries.{place}.at")
        try:
            if entry.kind in entries.KINDS:
                entries.checked(entry.kind, entry.payload)
            else:
                OTHERS[entry.kind].model_validate(entry.payload)
        except ValidationError:
            raise UnreadableDaybookError(f"entries.{place}.payload") from None
    return told


def take_in(room_id: int, intent: Intent, told: _Document, photos: Mapping[int, Small] = NO_PHOTOS) -> tuple[int, int]:
    """Bring a daybook into a room: what stands there already is not written twice. `photos` go by the file's keys of entries.

    Habitats are found by their names, animals by name, kind and day of hatching; what is not found is made, a habitat never.

    Returns
    -------
    How many animals and how many entries are new.
    """
    with writing(intent, room=room_id), transaction.atomic():
        habitats = {one.name: one for one in Habitat.objects.filter(room=room_id)}
        keys, new_animals = _animals(room_id, intent, told, habitats)
        made: dict[int, Event] = {}
        new = 0
        for entry in sorted(told.entries, key=lambda one: (one.kind != Event.Kind.LAID, one.replaces is not None, one.at, one.key)):
            habitat = habitats.get(entry.habitat or "")
            where = {
                "room_id": room_id,
                "habitat": habitat,
                "animal_id": keys.get(entry.animal or 0),
                "kind": entry.kind,
                "at": entry.at,
            }
            payload = _renamed(entry.payload, keys)
            if payload.get("clutch") in made:
                payload = payload | {"clutch": made[payload["clutch"]].pk}
            found = Event.every.filter(**where, payload=payload).first()
            if found is None:
                new += 1
                found = Event.every.create(
                    **where,
                    payload=payload,
                    author=intent.author,
                    written_at=entry.written_at or intent.at,
                    taken_back_at=entry.taken_back_at,
                    replaces=made.get(entry.replaces or 0),
                )
            made[entry.key] = found
            photo = photos.get(entry.key)
            if photo is not None and found.kind == Event.Kind.PHOTO:
                said = {"jpeg": photo.jpeg, "width": photo.width, "height": photo.height}
                Photo.objects.get_or_create(event=found, defaults=said)
        for habitat in habitats.values():
            habitat.logged += 1
            habitat.save(update_fields=["logged"])
        return new_animals, new


def _renamed(payload: dict[str, Any], keys: dict[int, int]) -> dict[str, Any]:
    """An entry with the animals' keys of this room in place of those of the file."""
    return payload | {"partner": keys[payload["partner"]]} if payload.get("partner") in keys else payload


def _animals(room_id: int, intent: Intent, told: _Document, habitats: dict[str, Habitat]) -> tuple[dict[int, int], int]:
    """The keys of this room's animals by those of the file; those that it does not know are made."""
    keys: dict[int, int] = {}
    new = 0
    for one in told.animals:
        facts = one.model_dump(exclude={"key", "residences", "mother_id", "father_id"})
        same = {name: facts[name] for name in ("name", "species", "hatched", "marks", "chip")}
        found = Animal.objects.filter(room=room_id, **same).exclude(pk__in=keys.values()).order_by("pk").first()
        if found is None:
            new += 1
            found = Animal.objects.create(room_id=room_id, created_at=intent.at, **facts)
            for home in one.residences:
                if home.habitat in habitats:
                    rest = home.model_dump(exclude={"habitat"})
                    Residence.objects.create(animal=found, habitat=habitats[home.habitat], **rest)
        keys[one.key] = found.pk
    for one in told.animals:
        parents = {name: keys[key] for name in ("mother_id", "father_id") if (key := getattr(one, name)) in keys}
        if parents:
            Animal.objects.filter(pk=keys[one.key]).update(**parents)
    return keys, new
