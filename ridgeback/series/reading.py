"""Reading series: as points that are as fine as the span asks for."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from itertools import pairwise
from typing import Final

from django.db.models import Avg, Max, Min, Q
from django.db.models.functions import TruncDay

from ridgeback.series.models import Channel, ForetoldHour, Hour, Sample
from ridgeback.series.places import OF_THE_ROOM

RAW_SPAN: Final = timedelta(days=2)
HOURS_SPAN: Final = timedelta(days=62)


@dataclass(frozen=True)
class Point:
    """A reading, or the mean of an hour or a day with the lowest and the highest in it."""

    at: datetime
    mean: float
    low: float
    high: float


@dataclass(frozen=True)
class Line:
    """A channel's points, oldest first, and how far apart they usually are."""

    points: list[Point]
    step: timedelta


def line(channel: Channel, since: datetime, until: datetime) -> Line:
    """A channel between two moments: readings within two days, hours within two months, days beyond."""
    span = until - since
    if span <= RAW_SPAN:
        rows = Sample.objects.filter(channel=channel, at__gte=since, at__lte=until).order_by("at").values_list("at", "value")
        found = [Point(at, value, value, value) for at, value in rows]
        if found:
            return Line(found, _step(found))
    hours = Hour.objects.filter(channel=channel, at__gte=since, at__lte=until)
    if span <= HOURS_SPAN:
        rows_of_hours = hours.order_by("at").values_list("at", "mean", "low", "high")
        half = timedelta(minutes=30)
        return Line([Point(at + half, mean, low, high) for at, mean, low, high in rows_of_hours], timedelta(hours=1))
    days = hours.annotate(day=TruncDay("at")).values("day").annotate(m=Avg("mean"), l=Min("low"), h=Max("high")).order_by("day")
    noon = timedelta(hours=12)
    return Line([Point(row["day"] + noon, row["m"], row["l"], row["h"]) for row in days], timedelta(days=1))


def kept(channel: Channel, since: datetime, until: datetime) -> Iterator[tuple[datetime, float, float, float, int]]:
    """Everything kept between two moments, oldest first: readings, and hours where the readings were let go of.

    Each a moment, the value or mean, the lowest, the highest, and how many readings it stands for.
    """
    first = Sample.objects.filter(channel=channel, at__gte=since, at__lte=until).order_by("at").values_list("at", flat=True).first()
    before = until if first is None else first.replace(minute=0, second=0, microsecond=0)
    hours = Hour.objects.filter(channel=channel, at__gte=since, at__lt=before).order_by("at")
    yield from hours.values_list("at", "mean", "low", "high", "count").iterator()
    if first is not None:
        raw = Sample.objects.filter(channel=channel, at__gte=first, at__lte=until).order_by("at")
        yield from ((at, value, value, value, 1) for at, value in raw.values_list("at", "value").iterator())


def _step(points: list[Point]) -> timedelta:
    """How far apart readings are where they are farther apart than usual: nine of ten are nearer."""
    gaps = sorted(two.at - one.at for one, two in pairwise(points))
    return gaps[int(0.9 * (len(gaps) - 1))] if gaps else timedelta(minutes=10)


def foretold(channel: Channel, since: datetime, until: datetime) -> list[tuple[datetime, float, float]]:
    """What was foretold in the middle of each hour, with one standard deviation."""
    rows = ForetoldHour.objects.filter(channel=channel, at__gte=since, at__lte=until).order_by("at")
    half = timedelta(minutes=30)
    return [(at + half, mean, sigma) for at, mean, sigma in rows.values_list("at", "mean", "sigma")]


def room_channels(room: int, habitat: int) -> list[Channel]:
    """The channels that tell of the room beside a habitat: its own first, else the room's."""
    wanted = Channel.objects.filter(Q(habitat=habitat) | Q(habitat__isnull=True), room=room, place__in=OF_THE_ROOM)
    return sorted(wanted.filter(ended_at__isnull=True), key=lambda channel: (channel.habitat_id is None, channel.pk))


def hours_of(channels: list[int], since: datetime, until: datetime) -> dict[int, dict[datetime, float]]:
    """The mean of each hour by channel."""
    found: dict[int, dict[datetime, float]] = {key: {} for key in channels}
    rows = Hour.objects.filter(channel__in=channels, at__gte=since, at__lt=until)
    for key, at, mean in rows.values_list("channel_id", "at", "mean"):
        found[key][at.astimezone(UTC)] = mean
    return found
