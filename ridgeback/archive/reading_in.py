"""An archive read in: a new room of whoever brings it, with everything in it under new keys; all of it, or nothing."""

import io
import itertools
import json
import zipfile
from collections.abc import Callable, Iterator
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
from ridgeback.uploads.zips import UNREADABLE

MOST_BYTES: Final = 16_000_000_000  # of all files, unpacked
MOST_LINE: Final = 8_000_000  # characters
LARGEST_PHOTO: Final = 8_000_000
AT_ONCE: Final = 2000
Telling = Callable[[int, int], None]


class NoArchiveError(HusbandryError, ValueError):
    """The file is no archive of a room, or says what cannot be; `said` tells why in words."""

    def __init__(self, said: str) -> None:
        super().__init__(said)
        self.said = said


def read_in(file: IO[bytes], keeper: Keeper, at: datetime, tell: Telling | None = None) -> Room:
    """Make the room of an archive anew, owned by `keeper`. Raises NoArchiveError; then nothing was made.

    `tell` is told how many of how many rows are in.
    """
    try:
        with zipfile.ZipFile(file) as archive, transaction.atomic():
            return _Reader(archive, keeper, at, tell or _nobody).room()
    except NoArchiveError:
        raise
    except (DatabaseError, ValidationError, KeyError, TypeError, ValueError, OverflowError) as error:
        raise NoArchiveError(_("Something in this archive cannot be: nothing was taken in.")) from error
    except UNREADABLE:
        raise NoArchiveError(_("This is no archive: a ZIP that Ridgeback wrote out of a room.")) from None


def _nobody(_done: int, _rows: int) -> None:
    """Whoever does not want to be told."""


def batches(rows: Iterator[dict[str, Any]], size: int) -> Iterator[list[dict[str, Any]]]:
    """Some rows, so many at a time."""
    while batch := list(itertools.islice(rows, size)):
        yield batch


class _Reader:
    """Reads one archive; `maps` has the new key of each row by its table and its old one."""

    def __init__(self, archive: zipfile.ZipFile, keeper: Keeper, at: datetime, tell: Telling) -> None:
        self.archive, self.keeper, self.at, self.tell = archive, keeper, at, tell
        self.done = 0
        self.maps: Maps = {}
        self.later: list[tuple[Table, int, dict[str, int]]] = []
        self.names: dict[str, Keeper] = {keeper.username: keeper}
        there = {one.filename: one.file_size for one in archive.infolist()}
        if sum(there.values()) > MOST_BYTES:
            raise NoArchiveError(_("This archive is larger than can be taken in."))
        about = json.loads(archive.read("archive.json")) if there.get("archive.json", MOST_LINE) < MOST_LINE else {}
        if about.get("format") != FORMAT:
            raise NoArchiveError(_("This is no archive of a room that this version of Ridgeback can read."))
        self.files, self.counts = there, {str(name): int(count) for name, count in about["rows"].items()}

    def room(self) -> Room:
        for table in TABLES:
            self._table(table)
        for table, pk, late in self.later:
            keys = {f"{name}_id": self._key(table.model._meta.get_field(name), old) for name, old in late.items()}
            table.model._base_manager.filter(pk=pk).update(**keys)
        made = next(iter(self.maps["rooms.Room"].values()))
        Membership.objects.create(room_id=made, keeper=self.keeper, role=Membership.Role.OWNER)
        return Room.objects.get(pk=made)

    def _lines(self, table: Table) -> Iterator[dict[str, Any]]:
        if table.name not in self.files:
            return
        names = {one.name for one in table.model._meta.concrete_fields}
        with io.TextIOWrapper(self.archive.open(table.name), encoding="utf-8") as lines:
            while line := lines.readline(MOST_LINE):
                row = json.loads(line)
                if not isinstance(row, dict) or set(row) != names:
                    raise NoArchiveError(_("Something in this archive cannot be: nothing was taken in."))
                yield row

    def _table(self, table: Table) -> None:
        before, mine = self.done, dict[int, int]()
        self.maps[table.label] = mine
        for batch in batches(self._lines(table), AT_ONCE):
            made = [self._made(table, row) for row in batch]
            table.model._base_manager.bulk_create([one for one in made if one._state.adding])
            for row, one in zip(batch, made, strict=True):
                if "id" in row:
                    mine[int(row["id"])] = one.pk
                late = {name: int(row[name]) for name in table.later if row.get(name) is not None}
                self.later += [(table, one.pk, late)] if late else []
            self.done += len(batch)
            self.tell(self.done, sum(self.counts.values()))
        if self.done - before != (1 if table.label == "rooms.Room" else self.counts.get(table.name, 0)):
            raise NoArchiveError(_("Something in this archive cannot be: nothing was taken in."))
        if table.label == "daybook.Event":
            self._own_keys(table)

    def _own_keys(self, table: Table) -> None:
        """What speaks of rows of its own table by a document knows their keys only now."""
        for row in self._lines(table):
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
        if self.files.get(path, LARGEST_PHOTO) >= LARGEST_PHOTO:
            raise NoArchiveError(_("A photo is missing in this archive, or too large."))
        try:
            return made_small(self.archive.read(path)).jpeg
        except NoPhotoError:
            raise NoArchiveError(_("A photo in this archive is none.")) from None
