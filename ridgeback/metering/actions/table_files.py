"""A file of readings: kept until it is said what its columns are, then handed to the worker."""

import hashlib

from ridgeback.daybook.writing import Intent, writing
from ridgeback.rooms.models import Room
from ridgeback.series import tasks
from ridgeback.series.filing import Said
from ridgeback.series.models import TableFile, TableMapping
from ridgeback.series.tables import OpenedTable


def keep_file(room: Room, intent: Intent, name: str, content: bytes) -> TableFile:
    """Keep a file as it was brought. Raises AlreadyWritten."""
    with writing(intent, room=room.pk):
        said = {"name": name[-120:], "content": content, "digest": hashlib.sha256(content).hexdigest()}
        return TableFile.objects.create(room=room, author=intent.author, at=intent.at, **said)


def say_columns(made: TableFile, intent: Intent, table: OpenedTable, said: Said) -> None:
    """Remember what the columns of files of this shape are, and let the worker take this one in. Raises AlreadyWritten."""
    with writing(intent, room=made.room_id):
        about = {"said": said.model_dump(mode="json"), "at": intent.at}
        TableMapping.objects.update_or_create(room=made.room, shape=table.shape, defaults=about)
        begin(made, table, said)


def begin(made: TableFile, table: OpenedTable, said: Said) -> None:
    """Let the worker take a file in."""
    made.said, made.state, made.rows = said.model_dump(mode="json"), TableFile.State.WAITS, len(table.lines)
    made.save(update_fields=["said", "state", "rows"])
    tasks.take_file.defer(pk=made.pk)
