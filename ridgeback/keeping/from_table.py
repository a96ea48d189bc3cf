"""A daybook brought in as a table: ours again without loss, or an old notebook that somebody typed into a spreadsheet.

The columns are those of the CSV that goes out. `code` and `data` tell an entry exactly; where they are missing, `kind` names it in
words and `what` is a weight, a length, a score, or a choice in words.
"""

import csv
import io
import json
from collections import defaultdict
from collections.abc import Iterator
from datetime import datetime, time
from itertools import chain
from typing import Any, Final

from django.utils import timezone
from pydantic import ValidationError

from husbandry import documents
from husbandry.documents import DocumentError
from husbandry.numerals import NumberError
from husbandry.units import UnitError
from ridgeback import clock
from ridgeback.daybook import entries
from ridgeback.daybook.models import Event
from ridgeback.keeping.documents_in import Opened
from ridgeback.keeping.shapes import MOST_ENTRIES, EntryLine, UnreadableDaybookError, checked
from ridgeback.language import entrywords, wording
from ridgeback.rooms.models import Animal, Habitat
from ridgeback.units import KeeperUnits
from ridgeback.web import typed

Names = defaultdict[str, list[int]]

MOST_OF_A_LINE: Final = 400_000
NOON: Final = time(12)
NUMBERS: Final = {Event.Kind.WEIGHED: ("mass_kg", "kg"), Event.Kind.MEASURED: ("length_m", "m")}


class EntryTable:
    """A table of entries that was looked through: the `count` of its entries. Raises UnreadableDaybookError naming the line."""

    def __init__(self, opened: Opened, room_id: int, units: KeeperUnits) -> None:
        self.opened, self.units = opened, units
        self.animals, self.habitats = Names(list), Names(list)
        for animal in Animal.objects.filter(room=room_id):
            self.animals[animal.called.lower()].append(animal.pk)
        for habitat in Habitat.objects.filter(room=room_id):
            self.habitats[habitat.name.lower()].append(habitat.pk)
        self.count = sum(1 for _line in self.lines())

    def lines(self) -> Iterator[EntryLine]:
        """The entries in the order of the table."""
        with self.opened() as stream:
            try:
                yield from self._lines(io.TextIOWrapper(stream, encoding="utf-8-sig", newline=""))
            except UnicodeDecodeError:
                raise UnreadableDaybookError("it is no text") from None
            except csv.Error:
                raise UnreadableDaybookError("it is no table") from None

    def _lines(self, text: io.TextIOWrapper) -> Iterator[EntryLine]:
        first = _short(text.readline(MOST_OF_A_LINE + 1))
        rows = csv.DictReader(chain([first], _short_lines(text)), delimiter=max(",;\t", key=first.count))
        known = {str(name).strip().lower(): name for name in rows.fieldnames or ()}
        if "date" not in known or not {"kind", "code"} & set(known):
            raise UnreadableDaybookError("its first line does not name the columns date and kind")
        for number, row in enumerate(rows, start=2):
            if number > MOST_ENTRIES:
                raise UnreadableDaybookError(f"line {number}: that is too many")
            said = {name: _bare((row.get(own) or "").strip()) for name, own in known.items()}
            if any(said.values()):
                try:
                    yield _line(said, self.animals, self.habitats, self.units)
                except (NumberError, UnitError) as error:
                    why = wording.unread(error, str(error.parameters.get("text", "")))
                    raise UnreadableDaybookError(f"line {number}: {why}") from None
                except ValueError as error:
                    raise UnreadableDaybookError(f"line {number}: {error}") from None


def _short(line: str) -> str:
    if len(line) > MOST_OF_A_LINE:
        raise UnreadableDaybookError("a line of it is too long")
    if not documents.is_text(line):
        raise UnreadableDaybookError("it is no text")
    return line


def _short_lines(text: io.TextIOWrapper) -> Iterator[str]:
    while line := text.readline(MOST_OF_A_LINE + 1):
        yield _short(line)


def _bare(cell: str) -> str:
    """A cell without the sign that keeps a spreadsheet from reckoning with it."""
    return cell[1:] if len(cell) > 1 and cell[0] == "'" and cell[1] in "=+-@" else cell


def _line(said: dict[str, str], animals: Names, habitats: Names, units: KeeperUnits) -> EntryLine:
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
    return EntryLine(kind, at, animal, habitat, _payload(kind, said, units), struck, to_the_minute=True)


def _kind(said: dict[str, str]) -> str:
    wanted = (said.get("code") or said.get("kind", "")).lower()
    for code, words in entrywords.KINDS.items():
        if wanted in (code, str(words.name).lower()):
            return code
    if wanted in Event.Kind.values:
        return wanted
    raise ValueError(f"there is no kind of entry {wanted!r}")


def _found(name: str, known: Names, what: str) -> int | None:
    if not name:
        return None
    keys = known.get(name.lower(), [])
    if not keys:
        raise ValueError(f"there is no {what} {name!r} in this room")
    if len(keys) > 1:
        raise ValueError(
            f"{len(keys)} of this room bear the name {name!r}, and a table tells them by no more: rename one, or use JSON"
        )
    return keys[0]


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
        documents.check(data)
        return checked(kind, data)
    except (DocumentError, ValidationError):
        name = entrywords.KINDS[kind].name if kind in entrywords.KINDS else kind
        raise ValueError(f"{said.get('what') or 'that'!r} makes no {name}") from None


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
