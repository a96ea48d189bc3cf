"""What the watch over animals tells, kept as notices: for letters and calendars, which ask nothing else."""

from collections import defaultdict
from datetime import datetime, time

from django.utils import timezone

from husbandry.codes import WatchCode
from ridgeback.daybook import log, noticed
from ridgeback.daybook.models import Notice
from ridgeback.keeping import watching
from ridgeback.rooms.models import Habitat
from ridgeback.units import KeeperUnits

# What the watch over instruments keeps by itself.
OF_INSTRUMENTS = (
    *(WatchCode.READING_OUT, WatchCode.READING_DANGER, WatchCode.HIDE_DRY, WatchCode.LOGGER_SILENT, WatchCode.MODEL_DRIFT),
    *(WatchCode.LAMP_OLD, WatchCode.LAMP_HOURS),
)


def notice_animals(habitats: list[Habitat], now: datetime) -> list[Notice]:
    """Keep what the watch tells of those that live in some habitats; what a keeper has put aside counts as ended. What is new."""
    codes = [code for code in WatchCode if code not in OF_INSTRUMENTS]
    found: dict[int, list[noticed.Found]] = defaultdict(list)
    for one in watching.of_habitats(habitats, log.day_of(now), KeeperUnits()):
        if one.quiet is None:
            since = timezone.make_aware(datetime.combine(one.alarm.since, time(12)))
            told = dict(one.alarm.parameters)
            ident = one.alarm.key
            of = noticed.Found(one.alarm.code, one.alarm.level, min(since, now), None, ident, told, one.animal.pk)
            found[one.habitat.pk].append(of)
    return [row for habitat in habitats for row in noticed.keep(habitat.room_id, habitat, codes, found.get(habitat.pk, []), now)]
