"""Taking readings in, whichever way they came: judged one by one, written once, their hours kept up."""

import itertools
from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from typing import Final

from django.conf import settings
from django.db import connection, transaction
from django.db.models import Avg, Count, Max, Min, Q
from django.db.models.functions import TruncHour

from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.rooms.models import Room
from ridgeback.series.models import Channel, Hour, Sample
from ridgeback.series.places import PLACES, WEIGHT

LATELY: Final = timedelta(hours=1)  # a reading so fresh is heard of by itself
AHEAD: Final = timedelta(minutes=10)  # that a device's clock may be ahead
EARLIEST: Final = datetime(2010, 1, 1, tzinfo=UTC)  # before that a device's clock was never set
CHUNK: Final = 5_000
SLIP: Final = 3.0  # a weighing that is so many times the last one, or its part, is a slip
USUAL_OF: Final = 12  # the last so many readings tell how often a channel reads


@dataclass(frozen=True)
class Given:
    """A reading of a channel as its instrument showed it, in the channel's own unit."""

    channel: int
    at: datetime
    value: float


@dataclass
class Outcome:
    """What became of readings: how many were new, how many were known, and why others were refused."""

    new: int = 0
    known: int = 0
    refused: Counter[str] = field(default_factory=Counter)

    def add(self, other: "Outcome") -> None:
        self.new += other.new
        self.known += other.known
        self.refused.update(other.refused)


def take(channels: Mapping[int, Channel], given: Iterable[Given], now: datetime, *, by_file: bool = False) -> Outcome:
    """Write readings; what is known already adds nothing, what cannot be is refused and counted by its reason.

    `channels` are those they may be of, by key, with their instruments. What comes `by_file` is not expected to go on.
    """
    outcome, good = Outcome(), defaultdict[int, dict[datetime, float]](dict)
    for one in given:
        channel = channels.get(one.channel)
        why = "no_channel" if channel is None else _refused(channel, one, now)
        if why or channel is None:
            outcome.refused[why] += 1
            continue
        error = channel.instrument.reads_high if channel.instrument is not None else 0.0
        mine = good[one.channel]
        if one.at in mine:
            outcome.known += 1
        else:
            mine[one.at] = round(one.value - error, 4)
    for key, mine in good.items():
        channel = channels[key]
        outcome.add(weighed(channel, mine) if channel.place == WEIGHT else _write(channel, mine))
        if not by_file and not channel.by_itself and max(mine) > now - LATELY:
            channel.by_itself = True
            channel.save(update_fields=["by_itself"])
    return outcome


def weighed(channel: Channel, mine: dict[datetime, float]) -> Outcome:
    """What a scale weighed of its animal goes into the daybook; three times its last weight, or a third of it, does not."""
    outcome = Outcome()
    if channel.animal is None:
        outcome.refused["no_animal"] += len(mine)
        return outcome
    known = Event.objects.filter(animal=channel.animal, kind=Event.Kind.WEIGHED).order_by("at")
    there = {event.at: event.payload["mass_kg"] for event in known}
    for at in sorted(mine):
        mass_kg = mine[at] / 1000
        before = [mass for moment, mass in there.items() if moment <= at]
        if at in there:
            outcome.known += 1
        elif before and not before[-1] / SLIP <= mass_kg <= before[-1] * SLIP:
            outcome.refused["weight_slip"] += 1
        else:
            there[at] = mass_kg
            about = log.About(channel.room_id, channel.habitat, channel.animal)
            log.write(about, Event.Kind.WEIGHED, at, None, {"mass_kg": mass_kg})
            outcome.new += 1
            Channel.objects.filter(pk=channel.pk).update(last_at=at, last_value=mine[at])
    return outcome


def _refused(channel: Channel, one: Given, now: datetime) -> str:
    place = PLACES[channel.place]
    if not place.low <= one.value <= place.high:  # nan too
        return "cannot_be"
    if one.at > now + AHEAD:
        return "future"
    if one.at < EARLIEST:
        return "clock_unset"
    return "ended" if channel.ended_at is not None and one.at > channel.ended_at else ""


def _write(channel: Channel, mine: dict[datetime, float]) -> Outcome:
    """Write readings of one channel in chunks, each with its hours."""
    outcome, moments = Outcome(), sorted(mine)
    for first in range(0, len(moments), CHUNK):
        chunk = moments[first : first + CHUNK]
        with transaction.atomic():
            # Two of one channel at once would each keep an hour that lacks the other's readings.
            Channel.objects.select_for_update(no_key=True).get(pk=channel.pk)
            within = Sample.objects.filter(channel=channel, at__gte=chunk[0], at__lte=chunk[-1])
            there = set(within.values_list("at", flat=True))
            fresh = [at for at in chunk if at not in there]
            if fresh:
                _copy(channel.pk, [(at, mine[at]) for at in fresh])
                roll_up(channel.pk, fresh)
                _newest(channel)
        outcome.new += len(fresh)
        outcome.known += len(chunk) - len(fresh)
    return outcome


def _copy(channel_id: int, readings: Sequence[tuple[datetime, float]]) -> None:
    """Write readings that are not there yet by COPY, which takes a third of the time of an INSERT."""
    with connection.cursor() as cursor, cursor.copy(f"copy {Sample._meta.db_table} (channel_id, at, value) from stdin") as copy:
        for at, value in readings:
            copy.write_row((channel_id, at, value))


def roll_up(channel_id: int, moments: Sequence[datetime]) -> None:
    """Work the hours of some moments out anew from their readings.

    An hour whose raw readings were let go of long ago is kept where what came since are fewer than it was made of.
    """
    hours = sorted({at.replace(minute=0, second=0, microsecond=0) for at in moments})
    raw = Sample.objects.filter(channel=channel_id, at__gte=hours[0], at__lt=hours[-1] + timedelta(hours=1))
    rows = (
        raw.annotate(hour=TruncHour("at", tzinfo=UTC))
        .values("hour")
        .annotate(n=Count("value"), mean=Avg("value"), low=Min("value"), high=Max("value"))
        .order_by("hour")
    )
    wanted = set(hours)
    kept = dict(Hour.objects.filter(channel=channel_id, at__gte=hours[0], at__lte=hours[-1]).values_list("at", "count"))
    found = [
        Hour(channel_id=channel_id, at=row["hour"], count=row["n"], mean=row["mean"], low=row["low"], high=row["high"])
        for row in rows
        if row["hour"] in wanted and row["n"] >= kept.get(row["hour"], 0)
    ]
    Hour.objects.bulk_create(
        found,
        update_conflicts=True,
        unique_fields=["channel", "at"],
        update_fields=["count", "mean", "low", "high"],
        batch_size=CHUNK,
    )


def _newest(channel: Channel) -> None:
    """Keep the channel's last reading and how often it reads beside it: lists ask nothing else."""
    last = list(Sample.objects.filter(channel=channel).order_by("-at").values_list("at", "value")[:USUAL_OF])
    gaps = sorted((newer[0] - older[0]).total_seconds() / 60 for newer, older in itertools.pairwise(last))
    channel.last_at, channel.last_value = last[0]
    channel.every_min = gaps[len(gaps) // 2] if len(gaps) >= 3 else None
    channel.save(update_fields=["last_at", "last_value", "every_min"])


def let_go(now: datetime) -> int:
    """Let raw readings go that are older than they are kept; their hours stay. Return how many."""
    gone = 0
    for days in Room.objects.values_list("raw_days", flat=True).distinct().order_by("raw_days"):
        kept = settings.RAW_DAYS if days is None else days
        oldest = (now - timedelta(days=kept)).replace(minute=0, second=0, microsecond=0)
        of_rooms = Channel.objects.filter(Q(room__raw_days=days) if days is not None else Q(room__raw_days__isnull=True))
        gone += Sample.objects.filter(channel__in=of_rooms, at__lt=oldest).delete()[0]
    return gone
