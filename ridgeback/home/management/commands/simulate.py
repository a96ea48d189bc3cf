"""`manage.py simulate`: the demo's instruments, as if they hung in the room: they report to the same address as any device.

They first report what is missing of the last days, then go on by the minute. Faults are planted by the demo, or by hand:
`--plant "Dune table:stuck-on:1:3:12"` is the second heater stuck on from three hours ago, for twelve hours.
"""

import json
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Iterator, Sequence
from datetime import datetime, timedelta
from typing import Any, Final
from urllib.parse import urljoin, urlsplit

import paho.mqtt.client as mqtt
from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import close_old_connections
from paho.mqtt.enums import CallbackAPIVersion

from husbandry.watch.faults import Fault
from ridgeback import clock
from ridgeback.environment import env
from ridgeback.home import demo, demo_instruments
from ridgeback.keeping import tasks
from ridgeback.metering.stand_ins import Planted, StandIn, room_reading
from ridgeback.planner import mapping
from ridgeback.rooms.models import Habitat, Room
from ridgeback.series.models import Channel, Device
from ridgeback.series.places import PLACES
from ridgeback.web.tokens import digest_of

BATCH: Final = 2_500
EVERY_BACK: Final = timedelta(minutes=10)  # of what is reported for the days before
RETRY_S: Final = 5.0
Reading = tuple[str, datetime, float, str]


class Command(BaseCommand):
    help = "Report made-up readings of the demo's instruments to a running Ridgeback, by HTTP or by a broker."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--address", default=settings.ADDRESS)
        parser.add_argument("--broker", default="", help="mqtt://host:port/prefix: report there instead")
        parser.add_argument("--room", default=demo.NAME)
        parser.add_argument("--days", type=float, default=16.0, help="days before now that are reported where nothing is known")
        parser.add_argument("--every", type=int, default=60, help="seconds between two reports")
        parser.add_argument("--once", action="store_true", help="report what is missing up to now, and end")
        parser.add_argument("--plant", action="append", default=[], help="habitat:fault:heater:hours ago:hours")

    def handle(self, *args: Any, **options: Any) -> None:
        key = env.str("RIDGEBACK_DEVICE_KEY", default="")
        device = Device.objects.filter(digest=digest_of(key), revoked_at__isnull=True).first()
        room = Room.objects.filter(name=options["room"]).order_by("id").first()
        if device is None or room is None:
            raise CommandError("RIDGEBACK_DEVICE_KEY names no device, or there is no such room.")
        post: Any = _Broker(options["broker"], device) if options["broker"] else _Address(options["address"], key)
        try:
            self._report(room, post, options)
        except KeyboardInterrupt:
            sys.exit(0)

    def _report(self, room: Room, post: Any, options: dict[str, Any]) -> None:
        reported: dict[str, datetime] = {}
        while True:
            now = clock.now().replace(second=0, microsecond=0)
            close_old_connections()
            told = self._missing(room, reported, now, options)
            for first in range(0, len(told), BATCH):
                post.send(told[first : first + BATCH])
                for code, at, _value, _unit in told[first : first + BATCH]:
                    reported[code] = max(at, reported.get(code, at))
            if len(told) > BATCH:  # days were missing: what they show is looked at now, and not at the next full hour
                tasks.catch_up(room.pk)
            if options["once"]:
                self.stdout.write(f"{len(told)} readings reported.")
                return
            time.sleep(max(options["every"] - clock.now().timestamp() % options["every"], 1.0))

    def _missing(self, room: Room, reported: dict[str, datetime], now: datetime, options: dict[str, Any]) -> list[Reading]:
        """What was not reported yet of each channel: in large steps for what is long ago."""
        planted = demo_instruments.planted(now) if options["room"] == demo.NAME else {}
        for said in options["plant"]:
            name, one = parsed(said, now)
            planted.setdefault(name, []).append(one)
        oldest = now - timedelta(days=options["days"])
        found: list[Reading] = []
        habitats = Habitat.objects.filter(room=room, set_aside_at__isnull=True, channels__isnull=False).distinct()
        for habitat in habitats.select_related("company", "head__profile", "room"):
            try:
                stand_in = StandIn.of(habitat, planted.get(habitat.name, ()))
            except mapping.UnreadablePlanError:
                continue
            for channel in stand_in.channels:
                for at in moments(channel, reported, oldest, now, options["every"]):
                    value = stand_in.shows(channel, at)
                    if value is not None:
                        found.append((channel.code, at, value, PLACES[channel.place].unit))
        return [*found, *_of_the_room(room, reported, oldest, now, options["every"])]


def _of_the_room(room: Room, reported: dict[str, datetime], oldest: datetime, now: datetime, every_s: int) -> Iterator[Reading]:
    """The room's own air: what stands in its first habitat's plan, with weather."""
    first = Habitat.objects.filter(room=room, set_aside_at__isnull=True).select_related("head__profile").order_by("id").first()
    if first is None:
        return
    plan = mapping.plan_of(first)
    for channel in Channel.objects.filter(room=room, habitat__isnull=True, ended_at__isnull=True):
        for at in moments(channel, reported, oldest, now, every_s):
            yield channel.code, at, round(room_reading(plan, room.name, channel.place, at), 2), PLACES[channel.place].unit


def moments(channel: Channel, reported: dict[str, datetime], oldest: datetime, now: datetime, every_s: int) -> Iterator[datetime]:
    """The moments that a channel has not reported yet, the last one now."""
    by_the_minute = channel.place in ("misted", "weight")  # they speak at one minute of a day
    since = reported.get(channel.code) or channel.last_at
    begin = oldest if since is None else max(since, oldest)
    far = now - begin > 3 * EVERY_BACK and not by_the_minute
    step = EVERY_BACK if far else timedelta(minutes=1) if by_the_minute else timedelta(seconds=every_s)
    at = begin.replace(second=0, microsecond=0) + step
    while at <= now:
        yield at
        at += step


def parsed(said: str, now: datetime) -> tuple[str, Planted]:
    """Read a planted fault. Raises CommandError."""
    try:
        name, fault, heater, ago, lasts = said.split(":")
        since = now - timedelta(hours=float(ago))
        return name, Planted(Fault(fault), since, since + timedelta(hours=float(lasts)), int(heater))
    except ValueError:
        faults = ", ".join(fault.value for fault in Fault)
        raise CommandError(f"{said!r} is no habitat:fault:heater:hours ago:hours; faults are {faults}.") from None


class _Address:
    """The address that devices report to."""

    def __init__(self, address: str, key: str) -> None:
        self.url, self.key = urljoin(address, "/api/readings/"), key

    def send(self, told: Sequence[Reading]) -> None:
        readings = [{"channel": code, "at": at.isoformat(), "value": value, "unit": unit} for code, at, value, unit in told]
        body = json.dumps({"readings": readings}).encode()
        # As a proxy on this machine would ask: settings for the world outside do not turn it away.
        headers = {"Authorization": f"Bearer {self.key}", "Content-Type": "application/json", "X-Forwarded-Proto": "https"}
        while True:
            asked = urllib.request.Request(self.url, data=body, headers=headers)
            try:
                with urllib.request.urlopen(asked, timeout=60):
                    return
            except urllib.error.HTTPError as error:
                if error.code != 429 and error.code < 500:
                    raise CommandError(f"{self.url} answers {error.code}: {error.read()[:300]!r}") from None
                time.sleep(float(error.headers.get("Retry-After", RETRY_S)))
            except OSError:
                time.sleep(RETRY_S)  # it starts, or was stopped for a while


class _Broker:
    """A broker that readings are published on."""

    def __init__(self, url: str, device: Device) -> None:
        parts = urlsplit(url)
        self.prefix = f"{parts.path.strip('/') or 'ridgeback'}/{device.name_in_topics}"
        self.client = mqtt.Client(CallbackAPIVersion.VERSION2)
        self.client.connect(parts.hostname or "127.0.0.1", parts.port or 1883)
        self.client.loop_start()

    def send(self, told: Sequence[Reading]) -> None:
        for code, at, value, unit in told:
            payload = json.dumps({"value": value, "at": at.isoformat(), "unit": unit})
            self.client.publish(f"{self.prefix}/{code}", payload, qos=1).wait_for_publish(30)
