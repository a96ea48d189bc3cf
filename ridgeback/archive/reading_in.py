"""An archive read in: a new room of whoever brings it, with everything in it under new keys; all of it, or nothing."""

import io
import json
import zipfile
from datetime import datetime
from typing import IO, Any, Final

from django.core.exceptions import ValidationError
from django.db import DatabaseError, models, transaction
from django.utils.translation import gettext as _

from husbandry.errors import HusbandryError
from ridgeback.accounts.models import Keeper
from ridgeback.archive.tables import FORMAT, KEEPER, TABLES, Maps, Table, renumbered
from ridgeback.keeping.photos import NoPhotoError, made_small
from ridgeback.rooms.models import Membership, Room

MOST_BYTES: Final = 400_000_000  # of all files, unpacked
MOST_ROWS: Final = 3_000_000
AT_ONCE: Final = 2000


class NoArchiveError(HusbandryError, ValueError):
    """The file is no archive of a room, or says what cannot be; `said` tells why in words."""

    def __init__(self, said: str) -> None:
        super().__init__(said)
        self.said = said


def read_in(file: IO[bytes], keeper: Keeper, at: datetime) -> Room:
    """Make the room of an archive anew, owned by `keeper`. Raises NoArchiveError; then nothing was made."""
    try:
        with zipfile.ZipFile(file) as archive, transaction.atomic():
            return _Reader(archive, keeper, at).room()
    except zipfile.BadZipFile:
        raise NoArchiveError(_("This is no archive: a ZIP that Ridgeback wrote out of a room.")) from None
    except (DatabaseError, ValidationError, KeyError, TypeError, ValueError, OverflowError) as error:
        if isinstance(error, NoArchiveError):
            raise
        raise NoArchiveError(_("Something in this archive cannot be: nothing was taken in.")) from error


class _Reader:
    """Reads one archive; `maps` has the new key of each row by its table and its old one."""

    def __init__(self, archive: zipfile.ZipFile, keeper: Keeper, at: datetime) -> None:
        self.archive, self.keeper, self.at = archive, keeper, at
        self.maps: Maps = {}
        self.later: list[tuple[Table, int, dict[str, int]]] = []
        self.names: dict[str, Keeper] = {keeper.username: keeper}
        there = {one.filename: one.file_size for one in archive.infolist()}
        if sum(there.values()) > MOST_BYTES:
            raise NoArchiveError(_("This archive is larger than can be taken in."))
        if "archive.json" not in there or json.loads(archive.read("archive.json")).get("format") != FORMAT:
            raise NoArchiveError(_("This is no archive of a room that this version of Ridgeback can read."))
        self.files = there

    def room(self) -> Room:
        for table in TABLES:
            self._table(table)
        for table, pk, late in self.later:
            keys = {f"{name}_id": self._key(table.model._meta.get_field(name), old) for name, old in late.items()}
            table.model._base_manager.filter(pk=pk).update(**keys)
        made = next(iter(self.maps["rooms.Room"].values()))
        Membership.objects.create(room_id=made, keeper=self.keeper, role=Membership.Role.OWNER)
        return Room.objects.get(pk=made)

    def _lines(self, table: Table) -> list[dict[str, Any]]:
        if table.name not in self.files:
            return []
        with io.TextIOWrapper(self.archive.open(table.name), encoding="utf-8") as lines:
            rows = [json.loads(line) for line in lines if line.strip()]
        names = {one.name for one in table.model._meta.concrete_fields}
        if len(rows) > MOST_ROWS or not all(isinstance(row, dict) and set(row) == names for row in rows):
            raise NoArchiveError(_("Something in this archive cannot be: nothing was taken in."))
        return rows

    def _table(self, table: Table) -> None:
        rows = self._lines(table)
        if table.label == "rooms.Room" and len(rows) != 1:
            raise NoArchiveError(_("This archive holds not one room."))
        mine = self.maps[table.label] = {}
        for begin in range(0, len(rows), AT_ONCE):
            batch = rows[begin : begin + AT_ONCE]
            made = [self._made(table, row) for row in batch]
            fresh = [one for one in made if one.pk is None]
            table.model._base_manager.bulk_create(fresh)
            for row, one in zip(batch, made, strict=True):
                mine[int(row["id"])] = one.pk
                late = {name: int(row[name]) for name in table.later if row.get(name) is not None}
                self.later += [(table, one.pk, late)] if late else []
        self._own_keys(table, rows)

    def _own_keys(self, table: Table, rows: list[dict[str, Any]]) -> None:
        """What speaks of rows of its own table by a document knows their keys only now."""
        if table.label != "daybook.Event":
            return
        for row in rows:
            if isinstance(row["payload"], dict) and "clutch" in row["payload"]:
                told = renumbered(table.label, row, self.maps)["payload"]
                table.model._base_manager.filter(pk=self.maps[table.label][int(row["id"])]).update(payload=told)

    def _made(self, table: Table, row: dict[str, Any]) -> models.Model:
        if table.shared:
            there = table.model._base_manager.filter(**{table.shared: row[table.shared]}).first()
            if there is not None:
                return there
        told = renumbered(table.label, row, self.maps)
        values: dict[str, Any] = {}
        for field in table.model._meta.concrete_fields:
            if field.primary_key or field.name not in told or field.name in table.later:
                continue
            value = told[field.name]
            if field.name in table.files:
                values[field.name] = self._picture(str(value))
            elif field.is_relation:
                values[field.attname] = None if value is None else self._key(field, value)
            else:
                values[field.name] = field.to_python(value)
        made = table.model(**values)
        for field in table.model._meta.concrete_fields:
            if not field.is_relation and field.name in values and values[field.name] not in field.empty_values:
                field.clean(values[field.name], made)
        return made

    def _key(self, field: Any, old: Any) -> int:
        """The new key of what a field speaks of; a keeper by their name."""
        label = field.related_model._meta.label
        if label == KEEPER:
            return self._keeper(str(old)).pk
        return self.maps[label][int(old)]

    def _keeper(self, name: str) -> Keeper:
        """Who wrote something: the one who brings it where the name is theirs, else a name that nobody signs in by."""
        if name not in self.names:
            told = _("%(name)s (elsewhere)") % {"name": name[:120]}
            found = Keeper.objects.filter(username=told, sits=True).first()
            if found is None:
                found = Keeper(username=told, sits=True, is_active=False)
                found.set_unusable_password()
                found.save()
            self.names[name] = found
        return self.names[name]

    def _picture(self, path: str) -> bytes:
        if path not in self.files:
            raise NoArchiveError(_("A photo is missing in this archive."))
        try:
            return made_small(self.archive.read(path)).jpeg
        except NoPhotoError:
            raise NoArchiveError(_("A photo in this archive is none.")) from None
