"""A room written out: one ZIP of its tables as JSON lines, its photos as files, and the schema of both."""

import json
import zipfile
from collections.abc import Iterator
from datetime import date, datetime, time
from decimal import Decimal
from typing import IO, Any

from ridgeback.accounts.models import Keeper
from ridgeback.archive.tables import FORMAT, KEEPER, TABLES, Table, schema
from ridgeback.rooms.models import Room


def write_out(room: Room, to: IO[bytes], at: datetime) -> None:
    """Write the archive of a room; what stands in it stands as it was in one moment of the transaction."""
    names = dict(Keeper.objects.values_list("pk", "username"))
    counts: dict[str, int] = {}
    with zipfile.ZipFile(to, "w", zipfile.ZIP_DEFLATED) as archive:
        for table in TABLES:
            rows = list(_rows(table, room, names, archive))
            counts[table.name] = len(rows)
            archive.writestr(table.name, "".join(f"{row}\n" for row in rows))
        about = {"format": FORMAT, "room": room.name, "made_at": at.isoformat(), "rows": counts, "schema": schema()}
        archive.writestr("archive.json", json.dumps(about, indent=2, ensure_ascii=False))


def _rows(table: Table, room: Room, names: dict[int, str], archive: zipfile.ZipFile) -> Iterator[str]:
    found = table.model._base_manager.filter(**{table.way: room.pk}).order_by("pk").distinct()
    for one in found.iterator(chunk_size=2000):
        row: dict[str, Any] = {}
        for field in table.model._meta.concrete_fields:
            value = getattr(one, field.attname)
            if field.is_relation and field.related_model is not None and field.related_model._meta.label == KEEPER:
                value = names.get(value)
            elif field.name in table.files:
                path = f"{table.label.lower().replace('.', '-')}/{one.pk}.{field.name}"
                archive.writestr(path, bytes(value))
                value = path
            row[field.name] = value
        yield json.dumps(row, default=_plain, ensure_ascii=False)


def _plain(value: Any) -> str:
    """A moment to the microsecond, a day, an hour, a sum: as text."""
    if isinstance(value, datetime | date | time):
        return value.isoformat()
    if isinstance(value, Decimal):
        return str(value)
    raise TypeError(type(value))
