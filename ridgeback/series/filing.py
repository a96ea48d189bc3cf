"""A file of readings on its way in: what each column is said to be, and the rows written, with progress."""

from collections import Counter
from collections.abc import Iterator
from datetime import datetime
from typing import Annotated, Final, Literal

from pydantic import BaseModel, ConfigDict, Field

from ridgeback import clock
from ridgeback.series import tables
from ridgeback.series.intake import Given, Outcome, take
from ridgeback.series.messages import in_unit
from ridgeback.series.models import Channel, TableFile
from ridgeback.series.places import PLACES

STEP: Final = 20_000  # rows between two tellings of progress


class Said(BaseModel):
    """What the keeper said of files of a shape: the columns of the moment, channels by column, their units, order and zone."""

    model_config = ConfigDict(extra="forbid")

    moment: Annotated[tuple[int, ...], Field(min_length=1, max_length=2)]
    channels: dict[int, int]
    units: dict[int, str] = {}
    order: Literal["", "dm", "md"] = ""
    zone: str


def take_file(file: TableFile) -> Outcome:
    """Write a file's readings; it is let go of afterwards. Progress stands in the row as it goes."""
    said, outcome = Said.model_validate(file.said), Outcome()
    table = tables.recognise(bytes(file.content or b""))
    rows = Channel.objects.filter(room=file.room_id, pk__in=said.channels.values()).select_related(
        "instrument", "animal", "habitat"
    )
    channels = {channel.pk: channel for channel in rows}
    unread: Counter[str] = Counter()
    given: list[Given] = []
    read = 0
    zone = tables.zone_of(said.zone)
    for read, row in enumerate(tables.read(table, said.moment, list(said.channels), said.order, zone), start=1):
        given.extend(_given(row, said, channels, unread))
        if read % STEP == 0:
            outcome.add(take(channels, given, clock.now(), by_file=True))
            given.clear()
            TableFile.objects.filter(pk=file.pk).update(done=read)
    outcome.add(take(channels, given, clock.now(), by_file=True))
    outcome.refused.update(unread)
    file.done = file.rows = read
    file.outcome = {"new": outcome.new, "known": outcome.known, "refused": dict(outcome.refused)}
    file.state, file.content = TableFile.State.TAKEN, None
    file.save()
    return outcome


def _given(row: tables.MeasuredRow, said: Said, channels: dict[int, Channel], unread: Counter[str]) -> Iterator[Given]:
    if row.at is None:
        unread["no_moment"] += 1
        return
    for column, value in row.values.items():
        channel = channels.get(said.channels[column])
        if channel is None:
            continue
        known = in_unit(value, said.units.get(column, ""), PLACES[channel.place].unit)
        if known is None:
            unread["other_unit"] += 1
            continue
        yield Given(channel.pk, row.at, known)


def failed(file: TableFile, why: str, at: datetime) -> None:
    """Keep why a file could not be taken in."""
    TableFile.objects.filter(pk=file.pk).update(state=TableFile.State.FAILED, outcome={"failed": why}, content=None, at=at)
