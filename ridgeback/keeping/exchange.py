"""The daybook as files: a table for people, a document that holds all of it and is read again without loss.

Both are written entry by entry: they may be longer than what one would hold in memory.
"""

import csv
import json
from collections.abc import Iterable
from datetime import date
from typing import IO, Any, Final

from django.db.models import QuerySet
from django.utils import timezone

from ridgeback.daybook.models import Event
from ridgeback.keeping import timeline
from ridgeback.keeping.actions.animals import FACTS
from ridgeback.keeping.shapes import FORMAT
from ridgeback.rooms.models import Animal, Residence, Room
from ridgeback.rota.sharing import safe
from ridgeback.units import KeeperUnits

COLUMNS: Final = ("date", "time", "kind", "animal", "habitat", "what", "note", "written by", "taken back", "code", "data")
AT_ONCE: Final = 2000  # rows fetched


def write_table(out: IO[str], events: QuerySet[Event], units: KeeperUnits) -> None:
    """Write the entries as CSV, as they are told on the page; `code` and `data` tell each exactly."""
    writer = csv.writer(out)
    writer.writerow(COLUMNS)
    for event in events.iterator(chunk_size=AT_ONCE):
        row = timeline.row(event, units)
        struck = "" if event.taken_back_at is None else timezone.localtime(event.taken_back_at).date().isoformat()
        whose = "" if event.animal is None else event.animal.called
        where = "" if event.habitat is None else event.habitat.name
        told = (row.day.isoformat(), f"{row.at:%H:%M}", row.kind, whose, where, row.said, row.note, row.author, struck)
        writer.writerow([*(safe(cell) for cell in told), event.kind, json.dumps(event.payload, ensure_ascii=False)])


def write_document(out: IO[str], room: Room, animals: Iterable[Animal], events: QuerySet[Event]) -> None:
    """Write all of it as JSON: the animals with their facts and residences, and every entry, those taken back too."""
    animals = list(animals)
    homes: dict[int, list[Residence]] = {}
    for home in Residence.objects.filter(animal__in=animals).select_related("habitat"):
        homes.setdefault(home.animal_id, []).append(home)
    out.write(f'{{"format": {_json(FORMAT)}, "room": {_json(room.name)},\n"animals": [')
    _write_list(out, (_animal(one, homes.get(one.pk, [])) for one in animals))
    out.write('],\n"entries": [')
    _write_list(out, (_entry(event) for event in events.iterator(chunk_size=AT_ONCE)))
    out.write("]}\n")


def _write_list(out: IO[str], told: Iterable[dict[str, Any]]) -> None:
    for place, one in enumerate(told):
        out.write(f"{',' if place else ''}\n{_json(one)}")


def _json(value: Any) -> str:
    return json.dumps(value, ensure_ascii=False)


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
                "habitat_key": home.habitat_id,
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
        "habitat_key": event.habitat_id,
        "payload": event.payload,
        "written_at": event.written_at.isoformat() if event.written_at else None,
        "taken_back_at": event.taken_back_at.isoformat() if event.taken_back_at else None,
        "replaces": event.replaces_id,
    }
