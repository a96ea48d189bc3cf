"""An archive on its way in: kept, and taken in by the worker, with progress."""

import logging
from collections.abc import Iterator
from contextlib import contextmanager

from django.conf import settings
from django.db import connections
from django.utils.translation import gettext as _
from django.utils.translation import override
from procrastinate.contrib.django import app

from ridgeback.archive.models import ArchiveFile
from ridgeback.archive.reading_in import NoArchiveError, Telling, read_in
from ridgeback.daybook.writing import Intent
from ridgeback.uploads.models import Upload
from ridgeback.uploads.reading import opened

log = logging.getLogger(__name__)


def keep(intent: Intent, upload: Upload) -> ArchiveFile:
    """Keep an archive that has arrived, and let the worker take it in."""
    upload.claimed = True
    upload.save(update_fields=["claimed"])
    made = ArchiveFile.objects.create(author=upload.author, at=intent.at, name=upload.name, upload=upload)
    app.configure_task("archive.take_in", lock=f"archive.take_in.{upload.author_id}").defer(pk=made.pk)
    return made


def take_in(pk: int) -> None:
    """Take an archive in that waits for it; what became of it stands in its row."""
    file = ArchiveFile.objects.select_related("author", "upload").filter(pk=pk, state=ArchiveFile.State.WAITS).first()
    if file is not None:
        with override(file.author.language or settings.LANGUAGE_CODE):  # why it failed is read by its keeper
            _take_in(file)


def _take_in(file: ArchiveFile) -> None:
    upload = file.upload
    try:
        if upload is None:
            raise NoArchiveError(_("It was let go of before it was read."))
        with opened(upload) as raw, _progress(file) as tell:
            file.room = read_in(raw, file.author, file.at, tell)
        file.state = ArchiveFile.State.TAKEN
    except NoArchiveError as error:
        file.state, file.failed = ArchiveFile.State.FAILED, error.said[:200]
    except Exception:
        log.exception("the archive %s could not be taken in", file.pk)
        file.state = ArchiveFile.State.FAILED
        file.failed = _("Something went wrong in Ridgeback; it stands in the server's log.")
    file.upload = None
    file.save(update_fields=["state", "room", "failed", "upload"])
    if upload is not None:
        upload.delete()


@contextmanager
def _progress(file: ArchiveFile) -> Iterator[Telling]:
    """Tells how far it is by a connection of its own: what a transaction writes is seen when it has ended."""
    beside = connections.create_connection("default")

    def tell(done: int, rows: int) -> None:
        with beside.cursor() as cursor:
            cursor.execute("UPDATE archive_archivefile SET done = %s, rows = %s WHERE id = %s", [done, max(rows, done), file.pk])

    try:
        yield tell
    finally:
        beside.close()
