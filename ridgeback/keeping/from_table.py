"""A daybook brought in as a table: ours again without loss, or an old notebook that somebody typed into a spreadsheet.

The columns are those of the CSV that goes out. `code` and `data` tell an entry exactly; where they are missing, `kind` names it in
words and `what` is a weight, a length, a score, or a choice in words.
"""

import csv
import io
import json
from dataclasses import dataclass
from datetime import datetime, time
from typing import Any, Final

from django.db import transaction
from django.utils import timezone
from pydantic import ValidationError

from husbandry.numerals import NumberError
from husbandry.units import UnitError
from ridgeback import clock
from ridgeback.daybook import entries
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent, writing
from ridgeback.keeping.exchange import LARGEST_BYTES, MOST_ENTRIES, OTHERS, UnreadableDaybookError
from ridgeback.language import entrywords, wording
from ridgeback.rooms.models import Animal, Habitat
from ridgeback.units import KeeperUnits
from ridgeback.web import typed

NOON: Final = time(12)
NUMBERS: Final = {Event.Kind.WEIGHED: ("mass_kg", "kg"), Event.Kind.MEASURED: ("length_m", "m")}


@dataclass(frozen=True)
class Line:
    """One entry out of a table."""

    kind: str
    at: datetime
    animal: int | None
    habitat: int | None
    payload: dict[str, Any]
    struck: datetime | None


def read(raw: bytes, room_id: int, units: KeeperUnits) -> list[Line]:
    """Read a table of entries. Raises UnreadableDaybookError naming the line."""
    if len(raw) > LARGEST_BYTES:
        raise UnreadableDaybookError("the whole is too long")
    try:
        text = raw.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise UnreadableDaybookError("the whole is no text") from None
    first = text.split("\n", 1)[0]
    rows = csv.DictReader(io.StringIO(text), delimiter=max(",;\t", key=first.count))
    known = {str(name).strip().lower(): name for name in rows.fieldnames or ()}
    if "date" not in known or not {"kind", "code"} & set(known):
        raise UnreadableDaybookError("a table of entries has the columns date and kind")
    animals = {animal.called.lower(): animal.pk for animal in Animal.objects.filter(room=room_id)}
    habitats = {habitat.name.lower(): habitat.pk for habitat in Habitat.objects.filter(room=room_id)}
    found = []
    for number, row in enumerate(rows, start=2):
        if number > MOST_ENTRIES:
            raise UnreadableDaybookError(f"line {number}: that is too many")
        said = {name: _bare((row.get(own) or "").strip()) for name, own in known.items()}
        if any(said.values()):
            try:
                found.append(_line(said, animals, habitats, units))
            except (NumberError, UnitError) as error:
                why = wording.unread(error, str(error.parameters.get("text", "")))
                raise UnreadableDaybookError(f"line {number}: {why}") from None
            except ValueError as error:
                raise UnreadableDaybookError(f"line {number}: {error}") from None
    return found


def _bare(cell: str) -> str:
    """A cell without the sign that keeps a spreadsheet from reckoning with it."""
    return cell[1:] if len(cell) > 1 and cell[0] == "'" and cell[1] in "=+-@" else cell


def _line(said: dict[str, str], animals: dict[str, int], habitats: dict[str, int], units: KeeperUnits) -> Line:
    day = typed.day(said["date"])
    clock_time = typed.clock_time(said["time"]) if said.get("time") else NOON
    at = timezone.make_aware(datetime.combine(day, clock_time))
    if at > clock.now():
        raise ValueError("that day is to come")
    kind = _kind(said)
    animal = _found(said.get("animal", ""), animals, "animal")
    habitat = _found(said.get("habitat", ""), habitats, "habitat")
    struck = None
    if said.get("taken back"):
        struck = timezone.make_aware(datetime.combine(typed.day(said["taken back"]), NOON))
    return Line(kind, at, animal, habitat, _payload(kind, said, units), struck)


def _kind(said: dict[str, str]) -> str:
    wanted = (said.get("code") or said.get("kind", "")).lower()
    for code, words in entrywords.KINDS.items():
        if wanted in (code, str(words.name).lower()):
            return code
    if wanted in Event.Kind.values:
        return wanted
    raise ValueError(f"there is no kind of entry {wanted!r}")


def _found(name: str, known: dict[str, int], what: str) -> int | None:
    if not name:
        return None
    if name.lower() not in known:
        raise ValueError(f"there is no {what} {name!r} in this room")
    return known[name.lower()]


def _payload(kind: str, said: dict[str, str], units: KeeperUnits) -> dict[str, Any]:
    """What an entry holds: its data, else what the words come to; checked as any entry is."""
    if said.get("data"):
        try:
            data = json.loads(said["data"])
        except ValueError:
            raise ValueError("its data is no JSON") from None
        if not isinstance(data, dict):
            raise ValueError("its data is no entry")
    else:
        data = _in_words(kind, said.get("what", ""), units)
        if said.get("note"):
            data["note"] = said["note"]
    try:
        if kind in entries.KINDS:
            return entries.checked(kind, data)
        OTHERS[Event.Kind(kind)].model_validate(data)
    except (ValidationError, KeyError):
        raise ValueError(f"{said.get('what') or 'that'!r} makes no {entrywords.KINDS[kind].name}") from None
    return data


def _in_words(kind: str, what: str, units: KeeperUnits) -> dict[str, Any]:
    if kind in NUMBERS and what:
        name, unit = NUMBERS[Event.Kind(kind)]
        return {name: units.read(what, unit)}
    if kind == Event.Kind.CONDITION and what:
        return {"score": typed.whole(what.split("/")[0])}
    if kind == Event.Kind.TREATED:
        return {"what": what}
    for name in entries.KINDS[kind].model_fields if kind in entries.KINDS else ():
        for code in entries.choices_of(kind, name):
            if what.lower() in (code, entrywords.choice(kind, name, code).lower()):
                return {name: code}
    return {"note": what} if what else {}


def take_in(room_id: int, intent: Intent, lines: list[Line]) -> int:
    """Write what a table holds and the room does not yet; returns how many entries are new."""
    new = 0
    with writing(intent, room=room_id), transaction.atomic():
        for line in lines:
            where = {"room_id": room_id, "animal_id": line.animal, "habitat_id": line.habitat, "kind": line.kind}
            minute = {"at__gte": line.at, "at__lt": line.at.replace(second=59, microsecond=999_999)}
            if Event.every.filter(**where, **minute, payload=line.payload).exists():
                continue
            new += 1
            Event.every.create(
                **where,
                at=line.at,
                payload=line.payload,
                author=intent.author,
                written_at=intent.at,
                taken_back_at=line.struck,
            )
        for habitat in Habitat.objects.filter(pk__in={line.habitat for line in lines if line.habitat}):
            habitat.logged += 1
            habitat.save(update_fields=["logged"])
    return new
