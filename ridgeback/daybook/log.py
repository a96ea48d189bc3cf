"""Writing events: one typed function a kind."""

from datetime import datetime
from typing import Any

from ridgeback.accounts.models import Keeper
from ridgeback.daybook.models import Event, Instrument
from ridgeback.rooms.models import Habitat


def record(habitat: Habitat, kind: str, at: datetime, author: Keeper | None, **payload: Any) -> Event:
    """Write one event about a habitat."""
    return Event.objects.create(room_id=habitat.room_id, habitat=habitat, kind=kind, at=at, author=author, payload=payload)


def weighed(habitat: Habitat, at: datetime, author: Keeper | None, mass_kg: float) -> Event:
    """The animal's mass in kg."""
    return record(habitat, Event.Kind.WEIGHED, at, author, mass_kg=mass_kg)


def measured(habitat: Habitat, at: datetime, author: Keeper | None, length_m: float) -> Event:
    """The animal's length in m, by the species' own measure."""
    return record(habitat, Event.Kind.MEASURED, at, author, length_m=length_m)


def was_read(habitat: Habitat, at: datetime, author: Keeper | None, instrument: Instrument, **payload: Any) -> Event:
    """A reading as the instrument showed it: `place`, `value`, the room beside it in `room_c` and `room_percent`.

    The instrument's error of that day is kept with it: correcting the instrument later changes no old reading.
    """
    kept = {"instrument": instrument.pk, "by": instrument.name, "reads_high": instrument.reads_high, "sure_to": instrument.sure_to}
    return record(habitat, Event.Kind.READ, at, author, **payload, **kept)
