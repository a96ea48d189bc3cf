"""Notices in words, for pages."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date

from django.db.models import Q

from husbandry.codes import WatchCode
from husbandry.watch.rules import ORDER
from ridgeback.daybook import noticed
from ridgeback.daybook.models import Notice
from ridgeback.language import watchwords
from ridgeback.units import KeeperUnits


@dataclass(frozen=True)
class ToldNotice:
    """A notice in words, and what to do first; `suspects` with their chances where it is about what has failed."""

    notice: Notice
    said: str
    first: str
    quiet: bool
    suspects: tuple[tuple[str, str, str], ...] = ()


def standing(habitats: Iterable[int], rooms: Iterable[int], today: date, units: KeeperUnits) -> list[ToldNotice]:
    """What the watch over instruments tells of some habitats, and of rooms by themselves; the worst first."""
    found = Notice.objects.filter(Q(habitat__in=list(habitats)) | Q(habitat__isnull=True, room__in=list(rooms)))
    rows = found.filter(ended_at__isnull=True, animal__isnull=True).select_related("habitat", "room", "channel", "quiet_by")
    told = [of(row, today, units) for row in rows.order_by("-since", "id")]
    order = {str(level): place for level, place in ORDER.items()}
    danger = WatchCode.READING_DANGER.value
    return sorted(told, key=lambda one: (one.quiet, one.notice.code != danger, order.get(one.notice.level, len(order))))


def of(row: Notice, today: date, units: KeeperUnits) -> ToldNotice:
    """A notice in words."""
    parameters = noticed.unpacked(row.told)
    said, first = watchwords.words(WatchCode(row.code), parameters, units)
    suspects = tuple(watchwords.suspects(str(parameters["suspects"]))) if "suspects" in parameters else ()
    quiet = row.quiet_until is not None and row.quiet_until >= today
    return ToldNotice(row, said, first, quiet, suspects)
