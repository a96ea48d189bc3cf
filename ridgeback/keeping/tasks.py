"""What the worker does: taking a daybook in; by the clock, looking at readings, foretelling, noticing, letters."""

import logging
from collections.abc import Callable
from datetime import datetime
from typing import Any, Final

from django.utils import timezone
from procrastinate.contrib.django import app

from ridgeback import clock
from ridgeback.keeping import letters, noticing
from ridgeback.keeping.actions import bringing
from ridgeback.metering import looking
from ridgeback.planner import learning
from ridgeback.rooms.models import Habitat, Room
from ridgeback.series.models import Channel

log = logging.getLogger(__name__)

WATCH: Final = "keeping.watch"  # one of these at a time; a file that is taken in goes on beside it
MORNING_HOUR: Final = 7


@app.task(name="keeping.take_file")
def take_file(pk: int) -> None:
    """Take a daybook's file in."""
    bringing.take_file(pk)


def _habitats() -> list[Habitat]:
    wanted = Habitat.objects.filter(set_aside_at__isnull=True).select_related("company", "room", "rota_card", "head__profile")
    return list(wanted.order_by("pk"))


@app.task(name="keeping.catch_up", lock=WATCH)
def catch_up() -> None:
    """Look at everything at once: days that were missing have come in."""
    look(0)
    look_hourly(0)


def _measured() -> list[Habitat]:
    """The habitats in which something reports."""
    found = set(Channel.objects.filter(habitat__isnull=False, ended_at__isnull=True).values_list("habitat_id", flat=True))
    return [habitat for habitat in _habitats() if habitat.pk in found]


@app.periodic(cron="41 3 * * *")
@app.task(name="keeping.learn", queueing_lock="keeping.learn", lock=WATCH)
def learn(timestamp: int) -> None:
    """Let those plans learn anew whose keepers asked for it."""
    each([habitat for habitat in _habitats() if habitat.learns_by_itself], learning.learn_anew, clock.now())


def each(things: list[Any], work: Callable[[Any, datetime], Any], now: datetime) -> None:
    """Do something for each of some things; what goes wrong with one does not keep the others from it."""
    for thing in things:
        try:
            work(thing, now)
        except Exception:
            log.exception("%s failed for %s", work.__name__, thing)


@app.periodic(cron="*/5 * * * *")
@app.task(name="keeping.look", queueing_lock="keeping.look", lock=WATCH)
def look(timestamp: int) -> None:
    """Look at what instruments report, and write of what cannot wait."""
    now = clock.now()
    each(_measured(), looking.look, now)
    rooms = Room.objects.filter(channels__habitat__isnull=True, channels__ended_at__isnull=True).distinct()
    each(list(rooms), looking.look_at_room, now)
    letters.send(now, morning=False)


@app.periodic(cron="4 * * * *")
@app.task(name="keeping.look_hourly", queueing_lock="keeping.look_hourly", lock=WATCH)
def look_hourly(timestamp: int) -> None:
    """Foretell the last hours, look for what has failed and at the animals; in the morning write of the rest."""
    now = clock.now()
    each(_measured(), looking.look_for_faults, now)
    by_room: dict[int, list[Habitat]] = {}
    for habitat in _habitats():
        by_room.setdefault(habitat.room_id, []).append(habitat)
    each(list(by_room.values()), noticing.notice_animals, now)
    letters.send(now, morning=timezone.localtime(now).hour == MORNING_HOUR)
