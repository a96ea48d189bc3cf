"""A daybook's file on its way into a room: kept, and taken in by the worker, with progress."""

import logging
from collections.abc import Callable
from functools import partial
from typing import IO, Final

from django.core.exceptions import PermissionDenied
from django.utils.translation import gettext as _
from procrastinate.contrib.django import app

from ridgeback.accounts.context import units_of
from ridgeback.daybook.writing import Intent, Refused
from ridgeback.keeping.actions.taking_in import Taking, take_document
from ridgeback.keeping.documents_in import Document
from ridgeback.keeping.from_table import EntryTable
from ridgeback.keeping.models import DaybookFile
from ridgeback.keeping.shapes import UnreadableDaybookError
from ridgeback.keeping.with_photos import Archive, unpacked
from ridgeback.uploads.models import Upload
from ridgeback.uploads.reading import opened

log = logging.getLogger(__name__)

BLANK: Final = b"\xef\xbb\xbf \r\n\t"


def keep(room_id: int, intent: Intent, upload: Upload) -> DaybookFile:
    """Keep a file that has arrived, and let the worker take it in; under the room's lock."""
    upload.claimed = True
    upload.save(update_fields=["claimed"])
    made = DaybookFile.objects.create(room_id=room_id, author=intent.author, at=intent.at, name=upload.name, upload=upload)
    app.configure_task("keeping.take_file", lock=f"keeping.take_file.{room_id}").defer(pk=made.pk)
    return made


def take_file(pk: int) -> None:
    """Take a file in that waits for it; what became of it stands in its row."""
    file = DaybookFile.objects.select_related("author", "upload").filter(pk=pk, state=DaybookFile.State.WAITS).first()
    if file is None:
        return
    try:
        if file.upload is None:
            raise UnreadableDaybookError(_("it was let go of before it was read"))
        _take(file, file.upload)
        file.outcome = {"animals": 0, "entries": 0} | file.outcome
        file.state = DaybookFile.State.TAKEN
    except UnreadableDaybookError as error:
        _failed(file, error.why)
    except PermissionDenied:
        _failed(file, _("who brought it may not write in this room any more"))
    except Refused:
        _failed(file, _("the pictures of the room take as much as they may"))
    except Exception:
        log.exception("the daybook %s could not be taken in", pk)
        _failed(file, _("something went wrong in Ridgeback; it stands in the server's log"))
    upload, file.upload = file.upload, None
    file.save(update_fields=["state", "outcome", "upload"])
    if upload is not None:
        upload.delete()


def _failed(file: DaybookFile, why: str) -> None:
    file.outcome = {"failed": why, "written": bool(file.outcome.get("animals") or file.outcome.get("entries"))}
    file.state = DaybookFile.State.FAILED


def _take(file: DaybookFile, upload: Upload) -> None:
    """Take in whatever the file is: an archive, a document or a table."""
    taking = Taking(file.room_id, Intent(file.author, file.at), _written(file))
    with opened(upload) as raw:
        begins = raw.peek(4)[:4096]
        if begins.startswith(b"PK"):
            with unpacked(raw) as archive:
                _archive(file, taking, archive)
            return
    again = partial(_opened, upload)
    if begins.lstrip(BLANK).startswith((b"{", b"[")):
        _document(file, taking, Document(again))
        return
    table = EntryTable(again, file.room_id, units_of(file.author))
    _step(file, DaybookFile.Step.WRITES, table.count)
    taking.write(table.lines())


def _opened(upload: Upload) -> IO[bytes]:
    return opened(upload)


def _archive(file: DaybookFile, taking: Taking, archive: Archive) -> None:
    document = Document(archive.document)
    _step(file, DaybookFile.Step.PHOTOS, len(archive.pictures))
    archive.look_through(_looked_at(file))
    taking.photos = archive
    _document(file, taking, document)


def _document(file: DaybookFile, taking: Taking, document: Document) -> None:
    _step(file, DaybookFile.Step.WRITES, document.count)
    take_document(taking, document)


def _step(file: DaybookFile, step: DaybookFile.Step, rows: int) -> None:
    file.step, file.rows, file.done = step, rows, 0
    file.save(update_fields=["step", "rows", "done"])


def _written(file: DaybookFile) -> Callable[[Taking], None]:
    """Tell how far it is with each step that is written, what a worker wrote that died counted in."""
    before = {name: file.outcome.get(name, 0) for name in ("animals", "entries")}

    def tell(taking: Taking) -> None:
        new = {"animals": taking.new_animals, "entries": taking.new}
        file.done, file.outcome = taking.done, {name: before[name] + count for name, count in new.items()}
        file.save(update_fields=["done", "outcome"])

    return tell


def _looked_at(file: DaybookFile) -> Callable[[int], None]:
    def tell(done: int) -> None:
        DaybookFile.objects.filter(pk=file.pk).update(done=done)

    return tell
