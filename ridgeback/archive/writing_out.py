"""A room written out: one ZIP of its tables as JSON lines, its photos as files, and the schema of both."""

import io
import json
import zipfile
from collections.abc import Iterator
from datetime import date, datetime, time
from decimal import Decimal
from typing import IO, Any

from django.db import models

from ridgeback.accounts.models import Keeper
from ridgeback.archive.tables import FORMAT, KEEPER, TABLES, Table, schema
from ridgeback.rooms.models import Room


def write_out(room: Room, to: IO[bytes], at: datetime) -> None:
    """Write the archive of a room; what stands in it stands as it was in one moment of the transaction."""
    names = dict(Keeper.objects.values_list("pk", "username"))
    counts: dict[str, int] = {}
    with zipfile.ZipFile(to, "w", zipfile.ZIP_DEFLATED) as archive:
        for table in TABLES:
            counts[table.name] = 0
            with archive.open(table.name, "w", force_zip64=True) as raw, io.TextIOWrapper(raw, encoding="utf-8") as out:
                for row in _rows(table, room, names):
                    out.write(f"{row}\n")
                    counts[table.name] += 1
            _files(table, room, archive)
        about = {"format": FORMAT, "room": room.name, "made_at": at.isoformat(), "rows": counts, "schema": schema()}
        head = zipfile.ZipInfo("archive.json")  # of no time of day: the same room at the same moment is the same file
        archive.writestr(head, json.dumps(about, indent=2, ensure_ascii=False), zipfile.ZIP_DEFLATED)


def _found(table: Table, room: Room) -> "models.QuerySet[Any]":
    return table.model._base_manager.filter(**{table.way: room.pk}).order_by("pk").distinct()


def _path(table: Table, pk: int, name: str) -> str:
    return f"{table.label.lower().replace('.', '-')}/{pk}.{name}"


def _files(table: Table, room: Room, archive: zipfile.ZipFile) -> None:
    """The files of a table, a few at a time."""
    for name in table.files:
        for pk, value in _found(table, room).values_list("pk", name).iterator(chunk_size=20):
            archive.writestr(zipfile.ZipInfo(_path(table, pk, name)), bytes(value))


def _rows(table: Table, room: Room, names: dict[int, str]) -> Iterator[str]:
    found = _found(table, room).defer(*table.files)
    for one in found.iterator(chunk_size=2000):
        row: dict[str, Any] = {}
        for field in table.model._meta.concrete_fields:
            value: Any = None if field.name in table.files else getattr(one, field.attname)
            if field.is_relation and field.related_model is not None and field.related_model._meta.label == KEEPER:
                value = names.get(value)
            elif field.name in table.files:
                value = _path(table, one.pk, field.name)
            row[field.name] = value
        yield json.dumps(row, default=_plain, ensure_ascii=False)


def _plain(value: Any) -> str:
    """A moment to the microsecond, a day, an hour, a sum: as text."""
    if isinstance(value, datetime | date | time):
        return value.isoformat()
    if isinstance(value, Decimal):
        return str(value)
    raise TypeError(type(value))
