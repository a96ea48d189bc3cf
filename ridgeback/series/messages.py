"""What devices say, read strictly: batches over HTTP, and single readings on a broker."""

import math
from collections.abc import Iterator
from datetime import datetime
from typing import Annotated, Any, Final

from pydantic import AwareDatetime, BaseModel, ConfigDict, Field, TypeAdapter, ValidationError

from husbandry.units import convert
from ridgeback.series.intake import Given, Outcome, take
from ridgeback.series.models import Channel, Device
from ridgeback.series.places import PLACES

MOST: Final = 5_000  # readings in one batch
UNITS: Final = {"degC": ("degC", "degF"), "%": ("%",), "UVI": ("UVI",), "W": ("W",), "g": ("g", "kg", "oz", "lb")}


class Reading(BaseModel):
    """One reading: the channel's code, the moment with its zone, the value, and its unit where it is not the channel's own."""

    model_config = ConfigDict(extra="forbid")

    channel: Annotated[str, Field(max_length=60)]
    at: AwareDatetime
    value: Annotated[float, Field(allow_inf_nan=False)]
    unit: Annotated[str, Field(max_length=8)] = ""


class Batch(BaseModel):
    """Readings of a device."""

    model_config = ConfigDict(extra="forbid")

    readings: Annotated[list[Reading], Field(max_length=MOST)]


class BrokerReading(BaseModel):
    """A reading as a broker passes it on, where it is more than a number."""

    model_config = ConfigDict(extra="forbid")

    value: Annotated[float, Field(allow_inf_nan=False)]
    at: AwareDatetime | None = None
    unit: Annotated[str, Field(max_length=8)] = ""


NUMBER: Final = TypeAdapter(float)


def channels_of(room_id: int) -> dict[str, Channel]:
    """The room's channels by code."""
    return {
        channel.code: channel for channel in Channel.objects.filter(room=room_id).select_related("instrument", "animal", "habitat")
    }


def take_batch(device: Device, batch: Batch, now: datetime) -> Outcome:
    """Write what a device sent."""
    by_code = channels_of(device.room_id)
    outcome = Outcome()

    def given() -> Iterator[Given]:
        for one in batch.readings:
            channel = by_code.get(one.channel)
            if channel is None:
                outcome.refused["no_channel"] += 1
                continue
            value = in_unit(one.value, one.unit, PLACES[channel.place].unit)
            if value is None:
                outcome.refused["other_unit"] += 1
                continue
            yield Given(channel.pk, one.at, value)

    outcome.add(take({channel.pk: channel for channel in by_code.values()}, given(), now))
    return outcome


def in_unit(value: float, unit: str, wanted: str) -> float | None:
    """A value in a channel's own unit; None where its unit does not fit there."""
    if not unit or unit == wanted:
        return value
    if unit not in UNITS[wanted]:
        return None
    return convert(value, unit, wanted)


def told(payload: bytes, now: datetime) -> tuple[float, datetime, str]:
    """The value, its moment and its unit out of a broker's message: a number, or {"value": …, "at": …, "unit": …}.

    Raises ValueError for anything else.
    """
    text = payload.decode("utf-8").strip()
    try:
        if text.startswith("{"):
            said = BrokerReading.model_validate_json(text)
            return said.value, said.at or now, said.unit
        value = NUMBER.validate_python(text)
    except ValidationError as error:
        raise ValueError(str(error)) from None
    if not math.isfinite(value):
        raise ValueError("no number")
    return value, now, ""


def refused_words(outcome: Outcome) -> dict[str, Any]:
    """An outcome as it is answered."""
    return {"new": outcome.new, "known": outcome.known, "refused": dict(outcome.refused)}
