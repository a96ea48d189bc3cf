"""The pages of keeping in a room of 200 habitats with an animal and 250 entries each, as the server answers them. Nothing is kept.

Run by hand against a running database: `DATABASE_URL=… PYTHONPATH=. .venv-test/bin/python benchmarks/keeping.py [rounds]`.
Figures are kept in docs/performance.md. The first look works out the cards; it is told apart.
"""

import sys
import time
from datetime import timedelta

from benchmarks.habitats import said, spans  # it sets Django up

from django.conf import settings  # isort: skip
from django.db import transaction  # isort: skip
from django.test import Client  # isort: skip
from django.urls import reverse  # isort: skip

from benchmarks.calendar_month import fill  # isort: skip
from ridgeback import clock
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent
from ridgeback.keeping.actions.animals import Newcomer, welcome
from ridgeback.rooms import keepers
from ridgeback.rooms.models import Habitat, Room

ENTRIES = 250
KINDS = (
    ("animal.weighed", {"mass_kg": 0.05}),
    ("animal.shed", {"came": "pieces"}),
    ("animal.droppings", {"look": "firm"}),
    ("animal.behaviour", {"what": "normal"}),
    ("note", {"note": "All is well with it."}),
)


def live(room: Room, intent: Intent) -> None:
    """Let an animal live in each habitat and write its entries."""
    today = clock.today()
    for place, habitat in enumerate(Habitat.objects.filter(room=room)):
        facts = {"name": f"Animal {place}", "species": habitat.species}
        (animal,) = welcome(habitat.pk, intent, [Newcomer(facts)], today - timedelta(days=400), today)
        rows = []
        for turn in range(ENTRIES):
            kind, payload = KINDS[turn % len(KINDS)]
            at = clock.now() - timedelta(days=400 * (turn + 1) / ENTRIES)
            rows.append(Event(room=room, habitat=habitat, animal=animal, kind=kind, at=at, payload=payload, author=intent.author))
        Event.objects.bulk_create(rows)


def main(rounds: int) -> None:
    settings.ALLOWED_HOSTS = ["testserver"]
    with transaction.atomic():
        keeper = keepers.add("benchmark-keeper", "oyster-catcher-7")
        client = Client()
        client.force_login(keeper, backend="django.contrib.auth.backends.ModelBackend")
        room = Room.objects.get(membership__keeper=keeper)
        fill(keeper)
        live(room, Intent(keeper, clock.now()))
        habitat = Habitat.objects.filter(room=room).first()
        assert habitat is not None
        pages = {
            "the round": reverse("keeping:round"),
            "the watch": reverse("keeping:watch"),
            "the list of animals": reverse("keeping:animals"),
            "the room's daybook": reverse("keeping:room-daybook", args=[room.pk]),
            "the same, by words": reverse("keeping:room-daybook", args=[room.pk]) + "?find=well",
            "a habitat now": reverse("keeping:now", args=[habitat.pk]),
        }
        for name, address in pages.items():
            begun = time.perf_counter()
            client.get(address)
            print(f"{name}, never looked at: {time.perf_counter() - begun:.2f} s")
            said(name, *spans(client, address, rounds))
        transaction.set_rollback(True)


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 15)
