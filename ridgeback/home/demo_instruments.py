"""The Learning Room's made-up instruments: channels in most habitats, one hub that reports for them, and what goes wrong in it.

The hub is `manage.py simulate`, which talks to the same address as any device. What goes wrong goes wrong anew each week.
"""

from datetime import datetime, timedelta
from typing import Final

from django.db import transaction

from husbandry.watch.faults import Fault
from ridgeback.daybook.models import Instrument
from ridgeback.home.demo import NAME
from ridgeback.metering.stand_ins import Planted
from ridgeback.planner import mapping
from ridgeback.rooms.models import Habitat, Room, Seeding
from ridgeback.rooms.residents import living_in
from ridgeback.series import devices
from ridgeback.series.models import Channel

SEEDED: Final = f"{NAME}: instruments"[:40]
HUB: Final = "Shelf hub (simulated)"
# What the hub reads by, and what each is known to read too high.
METERS: Final = {
    "hub thermometers": ("thermometer", 0.1, 0.3),
    "hub hygrometers": ("hygrometer", 1.0, 2.5),
    "hub surface probes": ("infrared", 0.0, 0.5),
    "hub plugs": ("plug", 0.0, 1.0),
    "bench scale": ("scale", 0.0, 0.5),
    "hub misters": ("mister", 0.0, 5.0),
    "UV probe": ("uv-meter", 0.0, 0.2),
}
READ_BY: Final = {
    "basking-surface": "hub surface probes",
    "warm-air": "hub thermometers",
    "cool-air": "hub thermometers",
    "water": "hub thermometers",
    "cool-humidity": "hub hygrometers",
    "humid-hide": "hub hygrometers",
    "room-air": "hub thermometers",
    "room-humidity": "hub hygrometers",
    "power": "hub plugs",
    "weight": "bench scale",
    "misted": "hub misters",
    "uv-back": "UV probe",
}
USUAL: Final = ("basking-surface", "warm-air", "cool-air", "cool-humidity")
EQUIPPED: Final[dict[str, tuple[str, ...]]] = {
    "Mudflat shelf": (*USUAL, "humid-hide", "weight", "misted"),
    "Driftwood long box": USUAL,
    "Dune table": (*USUAL, "uv-back", "weight"),
}
OTHERS: Final = 5  # of the other habitats, as many by name


def equip_once(key: str, now: datetime) -> bool:
    """Give the demo's room its instruments and its hub with a key, once; tell whether that was done now."""
    room = Room.objects.filter(name=NAME).order_by("id").first()
    if room is None:
        return False
    with transaction.atomic():
        _seeding, new = Seeding.objects.get_or_create(name=SEEDED)
        if not new:
            return False
        devices.make(room.pk, HUB, now, key)
        meters = {
            name: Instrument.objects.get_or_create(
                room=room, name=name, defaults={"kind": kind, "reads_high": high, "sure_to": sure}
            )[0]
            for name, (kind, high, sure) in METERS.items()
        }
        for place in ("room-air", "room-humidity"):
            Channel.objects.create(room=room, instrument=meters[READ_BY[place]], place=place, code=place, made_at=now)
        _equip_habitats(room, meters, now)
    return True


def _equip_habitats(room: Room, meters: dict[str, Instrument], now: datetime) -> None:
    habitats = list(Habitat.objects.filter(room=room, set_aside_at__isnull=True).select_related("head__profile").order_by("id"))
    others = [habitat for habitat in habitats if habitat.name not in EQUIPPED][:OTHERS]
    for habitat in habitats:
        if habitat.name not in EQUIPPED and habitat not in others:
            continue
        plan = mapping.plan_of(habitat)
        wet = plan.pool is not None
        usual = ("water", "cool-air") if wet else tuple(place for place in USUAL if place != "basking-surface" or plan.platform)
        places = EQUIPPED.get(habitat.name, usual)
        here = living_in([habitat.pk])[habitat.pk]
        slug = habitat.name.lower().replace(" ", "-")
        for place in places:
            animal = here[0].animal if here and place == "weight" else None
            about = {"room": room, "habitat": habitat, "animal": animal, "place": place, "made_at": now}
            Channel.objects.create(**about, instrument=meters[READ_BY[place]], code=f"{slug}-{place}")
        for heater in range(len(plan.heaters)):
            code, plugs = f"{slug}-power-{heater + 1}", meters["hub plugs"]
            Channel.objects.create(
                room=room, habitat=habitat, place="power", heater=heater, made_at=now, code=code, instrument=plugs
            )


def planted(now: datetime) -> dict[str, list[Planted]]:
    """What goes wrong in the demo, by habitat: a heater stuck on, a lamp that went dark, a probe that fell silent."""
    seeding = Seeding.objects.filter(name=SEEDED).first()
    began = seeding.loaded_at if seeding is not None else now
    week = began + timedelta(days=7 * max((now - began).days // 7, 0))
    hours, days = timedelta(hours=1), timedelta(days=1)
    return {
        "Mudflat shelf": [Planted(Fault.STUCK_ON, week - 6 * hours, week + 2 * days, heater=1)],
        "Dune table": [Planted(Fault.LAMP_DARK, week - 9 * hours, week + 3 * days, heater=0)],
        "Driftwood long box": [Planted(None, week - 30 * hours, week + 4 * days, channel="driftwood-long-box-cool-humidity")],
    }
