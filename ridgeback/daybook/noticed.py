"""Notices: what a look found, begun, carried on and ended."""

from collections.abc import Iterable
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any, Final

from django.db import transaction

from husbandry.assessment import Measure, Parameter
from husbandry.codes import WatchCode
from ridgeback.daybook.models import Notice
from ridgeback.rooms.models import Habitat, Room

COMES_BACK: Final = timedelta(hours=30)


@dataclass(frozen=True)
class Found:
    """Something to look at, as a look finds it: of a channel or an animal by its key, else of the habitat or the room."""

    code: WatchCode
    level: str
    since: datetime
    channel: int | None = None
    ident: str = ""
    told: dict[str, Parameter] = field(default_factory=dict)
    animal: int | None = None


def keep(room_id: int, habitat: Habitat | None, codes: Iterable[WatchCode], found: Iterable[Found], now: datetime) -> list[Notice]:
    """Begin, carry on and end the notices of some codes; returns those that begin."""
    new = []
    with transaction.atomic():
        if habitat is not None:
            Habitat.objects.select_for_update(no_key=True).get(pk=habitat.pk)
        else:
            Room.objects.select_for_update(no_key=True).get(pk=room_id)
        wanted = [code.value for code in codes]
        standing = {
            (row.code, row.channel_id, row.animal_id, row.ident): row
            for row in Notice.objects.filter(room=room_id, habitat=habitat, code__in=wanted, ended_at__isnull=True)
        }
        for one in found:
            key = one.code.value, one.channel, one.animal, one.ident
            row = standing.pop(key, None) or _come_back(room_id, habitat, one, now)
            if row is None:
                row = Notice(
                    room_id=room_id, habitat=habitat, channel_id=one.channel, animal_id=one.animal, code=key[0], ident=one.ident
                )
                row.since = one.since
                new.append(row)
            row.level, row.told, row.looked_at, row.ended_at = one.level, packed(one.told), now, None
            row.save()
        for row in standing.values():
            row.ended_at = max(now, row.since)
            row.save(update_fields=["ended_at"])
    return new


def _come_back(room_id: int, habitat: Habitat | None, one: Found, now: datetime) -> Notice | None:
    """The same occurrence, where it had ended a day ago at most: what is so every afternoon is told once, and stays put aside."""
    same = Notice.objects.filter(room=room_id, habitat=habitat, code=one.code.value, channel=one.channel, animal=one.animal)
    return same.filter(ident=one.ident, ended_at__gte=now - COMES_BACK).order_by("-ended_at").first()


def packed(told: dict[str, Parameter]) -> dict[str, Any]:
    """Parameters as JSON."""
    return {name: [value.value, value.unit] if isinstance(value, Measure) else value for name, value in told.items()}


def unpacked(told: dict[str, Any]) -> dict[str, Parameter]:
    """Parameters out of JSON."""
    return {name: Measure(float(value[0]), value[1]) if isinstance(value, list) else value for name, value in told.items()}
