"""A year of the simulated room as the watch over instruments sees it: its notices, with and without planted faults.

Run by hand: `DATABASE_URL=… PYTHONPATH=. .venv-test/bin/python benchmarks/year_of_notices.py [days]`. Two enclosures of the demo
report every twenty minutes; the watch looks every two hours, and for faults every six. Nothing is kept in the database.
Figures are kept in docs/performance.md.
"""

import os
import sys
import time
from collections import Counter
from datetime import timedelta

import django

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ridgeback.settings")
django.setup()

from django.db import transaction  # noqa: E402

from husbandry.plan.reading import read_data  # noqa: E402
from husbandry.watch.faults import Fault  # noqa: E402
from ridgeback import clock  # noqa: E402
from ridgeback.daybook.models import Event, Notice  # noqa: E402
from ridgeback.home.demo import plans  # noqa: E402
from ridgeback.metering import looking  # noqa: E402
from ridgeback.metering.stand_ins import Planted, StandIn, room_reading  # noqa: E402
from ridgeback.planner import mapping, revisions  # noqa: E402
from ridgeback.planner.models import PlanRevision  # noqa: E402
from ridgeback.rooms.models import Habitat, Room  # noqa: E402
from ridgeback.series import intake  # noqa: E402
from ridgeback.series.intake import Given  # noqa: E402
from ridgeback.series.models import Channel  # noqa: E402

PLACES = ("basking-surface", "warm-air", "cool-air", "cool-humidity")
EVERY, LOOK_H, FAULT_H = timedelta(minutes=20), 2, 6
HOUR, DAY = timedelta(hours=1), timedelta(days=1)


def equip(room: Room, document: dict, began) -> Habitat:
    """A habitat with its channels, whose plan has stood since before the year began."""
    habitat = revisions.create(room, read_data(document), None, clock.now())
    Event.every.filter(habitat=habitat).update(at=began - 30 * DAY)
    PlanRevision.objects.filter(pk=habitat.head_id).update(created_at=began - 30 * DAY)
    for place in PLACES:
        Channel.objects.create(room=room, habitat=habitat, place=place, code=f"{habitat.pk}-{place}", made_at=began)
    for heater in range(len(mapping.plan_of(habitat).heaters)):
        code = f"{habitat.pk}-power-{heater}"
        Channel.objects.create(room=room, habitat=habitat, place="power", heater=heater, code=code, made_at=began)
    return Habitat.objects.select_related("company", "head__profile", "room").get(pk=habitat.pk)


def planted(began, days: int) -> tuple[Planted, ...]:
    """In the last third of the year: a lamp dark, a thermostat stuck on, shut vents, a silent probe, each for a day."""
    at = began + (days * 2 // 3) * DAY + 11 * HOUR
    kinds = ((Fault.LAMP_DARK, 0, 0), (Fault.STUCK_ON, 1, 20), (Fault.VENTS_SHUT, -1, 40))
    return tuple(Planted(fault, at + later * DAY, at + (later + 1) * DAY, heater) for fault, heater, later in kinds)


def main(days: int) -> None:
    now = clock.now().replace(minute=0, second=0, microsecond=0)
    began, started = now - days * DAY, time.perf_counter()
    with transaction.atomic():
        room = Room.objects.create(name="a simulated year")
        air = Channel.objects.create(room=room, place="room-air", code="room-air", made_at=began)
        documents = plans(clock.today())
        habitats = [equip(room, documents[place], began) for place in (0, 2)]
        stand_ins = [StandIn.of(habitat, planted(began, days)) for habitat in habitats]
        channels = {one.pk: one for one in Channel.objects.filter(room=room).select_related("instrument")}
        for day in range(days):
            since = began + day * DAY
            given = [
                Given(one.pk, at, value)
                for stand_in in stand_ins
                for one, at, value in stand_in.readings(since, since + DAY - EVERY, EVERY)
            ]
            given += [
                Given(air.pk, since + turn * EVERY, room_reading(stand_ins[0].plan, room.pk, "room-air", since + turn * EVERY))
                for turn in range(int(DAY / EVERY))
            ]
            # One half day after the other: the watch sees what had come by then.
            given.sort(key=lambda one: one.at)
            place = 0
            for hour in range(0, 24, LOOK_H):
                at = since + (hour + LOOK_H) * HOUR
                batch = []
                while place < len(given) and given[place].at < at:
                    batch.append(given[place])
                    place += 1
                intake.take(channels, batch, at)
                for habitat in habitats:
                    looking.look(habitat, at)
                    if (hour + LOOK_H) % FAULT_H == 0:
                        looking.look_for_faults(habitat, at)
        faults = [(one.since, one.until) for one in planted(began, days)]
        told: Counter[str] = Counter()
        for row in Notice.objects.filter(room=room).order_by("since"):
            during = any(since - 6 * HOUR <= row.since <= until + DAY for since, until in faults)
            told[f"{row.code}, {'while something had failed' if during else 'without a fault'}"] += 1
            name = next(habitat.name for habitat in habitats if habitat.pk == row.habitat_id)
            if row.code == "reading.drift" or not during:
                lasted = "" if row.ended_at is None else f", {(row.ended_at - row.since).total_seconds() / 3600:.0f} h"
                about, day = row.told.get("suspects", row.told.get("place", "")), (row.since - began).days
                print(f"{name}, day {day}: {row.code} {about}{lasted}")
        print(f"{days} days of two enclosures in {time.perf_counter() - started:.0f} s:")
        for name, count in sorted(told.items()):
            print(f"  {name}: {count}")
        transaction.set_rollback(True)


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 365)
