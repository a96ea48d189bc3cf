"""What the worker does: taking a daybook in; by the clock, looking at readings, foretelling, noticing, letters.

By the clock there is a job for each room, so that several workers share the rooms, and one room's hours of work keep no
other waiting. The jobs of one room follow one another; one that waits already is not put into the queue again.
"""

import contextlib
import logging
from collections.abc import Callable, Iterable
from datetime import datetime
from typing import Any, Final

from django.db import transaction
from django.utils import timezone
from procrastinate.contrib.django import app
from procrastinate.exceptions import AlreadyEnqueued
from procrastinate.tasks import Task

from ridgeback import clock
from ridgeback.keeping import letters, noticing
from ridgeback.keeping.actions import bringing
from ridgeback.metering import looking
from ridgeback.planner import learning
from ridgeback.rooms.models import Habitat, Room
from ridgeback.series.models import Channel

log = logging.getLogger(__name__)

MORNING_HOUR: Final = 7


@app.task(name="keeping.take_file")
def take_file(pk: int) -> None:
    """Take a daybook's file in."""
    bringing.take_file(pk)


def _habitats(room: int) -> list[Habitat]:
    wanted = Habitat.objects.filter(room=room, set_aside_at__isnull=True).select_related(
        "company", "room", "rota_card", "head__profile"
    )
    return list(wanted.order_by("pk"))


def _measured(room: int) -> list[Habitat]:
    """The habitats of a room in which something reports."""
    found = set(Channel.objects.filter(habitat__room=room, ended_at__isnull=True).values_list("habitat_id", flat=True))
    return [habitat for habitat in _habitats(room) if habitat.pk in found]


def each(things: list[Any], work: Callable[[Any, datetime], Any], now: datetime) -> None:
    """Do something for each of some things; what goes wrong with one does not keep the others from it."""
    for thing in things:
        try:
            work(thing, now)
        except Exception:
            log.exception("%s failed for %s", work.__name__, thing)


def _for_rooms(task: "Task[..., Any, Any]", rooms: Iterable[int]) -> None:
    """Put a task into the queue for each of some rooms, but where it waits already."""
    for room in rooms:
        with contextlib.suppress(AlreadyEnqueued), transaction.atomic():
            task.configure(lock=f"keeping.watch.{room}", queueing_lock=f"{task.name}.{room}").defer(room=room)


def _reporting() -> list[int]:
    """The rooms in which something reports."""
    return sorted(set(Channel.objects.filter(ended_at__isnull=True).values_list("room_id", flat=True)))


@app.task(name="keeping.look_room")
def look_room(room: int) -> None:
    """Look at what instruments report in a room, and write of what cannot wait."""
    now = clock.now()
    each(_measured(room), looking.look, now)
    if Channel.objects.filter(room=room, habitat__isnull=True, ended_at__isnull=True).exists():
        each(list(Room.objects.filter(pk=room)), looking.look_at_room, now)
    letters.send(now, room, morning=False)


@app.task(name="keeping.look_room_hourly")
def look_room_hourly(room: int) -> None:
    """Foretell a room's last hours, look for what has failed and at the animals; in the morning write of the rest."""
    now = clock.now()
    each(_measured(room), looking.look_for_faults, now)
    each([habitats] if (habitats := _habitats(room)) else [], noticing.notice_animals, now)
    letters.send(now, room, morning=timezone.localtime(now).hour == MORNING_HOUR)


@app.task(name="keeping.learn_room")
def learn_room(room: int) -> None:
    """Let those plans of a room learn anew whose keepers asked for it."""
    each([habitat for habitat in _habitats(room) if habitat.learns_by_itself], learning.learn_anew, clock.now())


def catch_up(room: int) -> None:
    """Have everything of a room looked at now: days that were missing have come in."""
    _for_rooms(look_room, [room])
    _for_rooms(look_room_hourly, [room])


@app.periodic(cron="*/5 * * * *")
@app.task(name="keeping.look", queueing_lock="keeping.look")
def look(timestamp: int) -> None:
    """Have every room looked at in which something reports."""
    _for_rooms(look_room, _reporting())


@app.periodic(cron="4 * * * *")
@app.task(name="keeping.look_hourly", queueing_lock="keeping.look_hourly")
def look_hourly(timestamp: int) -> None:
    """Have every room looked at that keeps something."""
    rooms = Habitat.objects.filter(set_aside_at__isnull=True).order_by("room_id").values_list("room_id", flat=True)
    _for_rooms(look_room_hourly, rooms.distinct())


@app.periodic(cron="41 3 * * *")
@app.task(name="keeping.learn", queueing_lock="keeping.learn")
def learn(timestamp: int) -> None:
    """Have those plans learn anew whose keepers asked for it."""
    rooms = Habitat.objects.filter(set_aside_at__isnull=True, learns_by_itself=True).order_by("room_id")
    _for_rooms(learn_room, rooms.values_list("room_id", flat=True).distinct())
