"""A daybook's file on its way into a room: kept, and taken in by the worker, with progress."""

import logging
import time
from collections.abc import Callable
from functools import partial
from typing import IO, Final

from django.core.exceptions import PermissionDenied
from django.utils.translation import gettext as _
from procrastinate.contrib.django import app

from ridgeback.accounts.context import units_of
from ridgeback.daybook.writing import Intent
from ridgeback.keeping.actions.taking_in import Taking, take_document
from ridgeback.keeping.documents_in import Document
from ridgeback.keeping.from_table import Table
from ridgeback.keeping.models import DaybookFile
from ridgeback.keeping.shapes import UnreadableDaybookError
from ridgeback.keeping.with_photos import Archive, unpacked
from ridgeback.uploads.models import Upload
from ridgeback.uploads.reading import opened

log = logging.getLogger(__name__)

TOLD_EVERY_S: Final = 0.5
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
        file.outcome = _taken(file, file.upload)
        file.state = DaybookFile.State.TAKEN
    except UnreadableDaybookError as error:
        file.state, file.outcome = DaybookFile.State.FAILED, {"failed": error.why, "written": file.done > 0}
    except PermissionDenied:
        said = {"failed": _("who brought it may not write in this room any more"), "written": file.done > 0}
        file.state, file.outcome = DaybookFile.State.FAILED, said
    except Exception:
        log.exception("the daybook %s could not be taken in", pk)
        said = {"failed": _("something went wrong in Ridgeback; it stands in the server's log"), "written": file.done > 0}
        file.state, file.outcome = DaybookFile.State.FAILED, said
    upload, file.upload = file.upload, None
    file.save(update_fields=["state", "outcome", "upload"])
    if upload is not None:
        upload.delete()


def _taken(file: DaybookFile, upload: Upload) -> dict[str, int]:
    """Take in whatever the file is: an archive, a document or a table."""
    taking = Taking(file.room_id, Intent(file.author, file.at), _telling(file, DaybookFile.Step.WRITES))
    with opened(upload) as raw:
        begins = raw.peek(4)[:4096]
        if begins.startswith(b"PK"):
            with unpacked(raw) as archive:
                return _archive(file, taking, archive)
    again = partial(_opened, upload)
    if begins.lstrip(BLANK).startswith((b"{", b"[")):
        return _document(file, taking, Document(again))
    table = Table(again, file.room_id, units_of(file.author))
    _step(file, DaybookFile.Step.WRITES, table.count)
    taking.write(table.lines())
    return {"animals": 0, "entries": taking.new}


def _opened(upload: Upload) -> IO[bytes]:
    return opened(upload)


def _archive(file: DaybookFile, taking: Taking, archive: Archive) -> dict[str, int]:
    document = Document(archive.document)
    _step(file, DaybookFile.Step.PHOTOS, len(archive.pictures))
    archive.look_through(_telling(file, DaybookFile.Step.PHOTOS))
    taking.photos = archive
    return _document(file, taking, document)


def _document(file: DaybookFile, taking: Taking, document: Document) -> dict[str, int]:
    _step(file, DaybookFile.Step.WRITES, document.count)
    animals = take_document(taking, document)
    return {"animals": animals, "entries": taking.new}


def _step(file: DaybookFile, step: DaybookFile.Step, rows: int) -> None:
    file.step, file.rows, file.done = step, rows, 0
    file.save(update_fields=["step", "rows", "done"])


def _telling(file: DaybookFile, step: DaybookFile.Step) -> Callable[[int], None]:
    """Tell how far it is, now and then."""
    last = [0.0]

    def tell(done: int) -> None:
        if step == DaybookFile.Step.WRITES:
            file.done = done
        if time.monotonic() - last[0] >= TOLD_EVERY_S or done == file.rows:
            last[0] = time.monotonic()
            DaybookFile.objects.filter(pk=file.pk).update(done=done)

    return tell
