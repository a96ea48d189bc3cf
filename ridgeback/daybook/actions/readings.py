"""Writing a reading down, and taking one out of the log."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any, Protocol

from ridgeback.daybook import log
from ridgeback.daybook.models import Event, Instrument
from ridgeback.daybook.writing import Intent, Refused, writing


class OwnPlace(Protocol):
    """A place of the keeper's own."""

    @property
    def name(self) -> str: ...

    @property
    def x_m(self) -> float: ...

    @property
    def height_m(self) -> float: ...


@dataclass(frozen=True)
class Shown:
    """What an instrument showed at a place (°C, %, or a UV index), and the room beside it (°C, %).

    `spot` is where a place of the keeper's own lay: its name, from the left and above the floor in m.
    """

    place: str
    value: float
    room_c: float
    room_percent: float
    lamps_off: bool = False
    spot: OwnPlace | None = None


def take_reading(habitat_id: int, intent: Intent, at: datetime, instrument: Instrument, shown: Shown) -> Event:
    """Keep a reading as the instrument showed it; one with the `lamps_off` is kept and judges nothing. Raises AlreadyWritten."""
    apart: dict[str, Any] = {"lamps_off": True} if shown.lamps_off else {}
    if shown.spot is not None:
        apart["spot"] = {"name": shown.spot.name, "x_m": shown.spot.x_m, "height_m": shown.spot.height_m}
    with writing(intent, [habitat_id]) as habitats:
        return log.was_read(
            habitats[habitat_id],
            at,
            intent.author,
            instrument,
            place=shown.place,
            value=shown.value,
            room_c=shown.room_c,
            room_percent=shown.room_percent,
            **apart,
        )


def forget_reading(habitat_id: int, intent: Intent, event_id: int) -> None:
    """Take a reading out of the log: what was worked out from it is worked out anew. Raises Refused where it is gone."""
    with writing(intent, [habitat_id]):
        event = Event.objects.filter(pk=event_id, habitat_id=habitat_id, kind=Event.Kind.READ).first()
        if event is None:
            raise Refused("gone")
        log.strike(event, intent.at, intent.author)
