"""The calendar of 200 animals as the server answers it: month, week and day; queries and milliseconds. Nothing is kept.

Run by hand against a running database: `DATABASE_URL=… PYTHONPATH=. .venv-test/bin/python benchmarks/calendar_month.py [rounds]`.
Figures are kept in docs/performance.md.
"""

import os
import statistics
import sys
import time
from datetime import timedelta

import django

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ridgeback.settings")
django.setup()

from django.conf import settings  # noqa: E402
from django.db import connection, transaction  # noqa: E402
from django.test import Client  # noqa: E402
from django.test.utils import CaptureQueriesContext  # noqa: E402
from django.urls import reverse  # noqa: E402
from django.utils import timezone  # noqa: E402

from husbandry.species.book import shipped  # noqa: E402
from husbandry.species.stages import expected_mass_kg  # noqa: E402
from ridgeback import clock  # noqa: E402
from ridgeback.accounts.models import Keeper  # noqa: E402
from ridgeback.daybook.models import Event  # noqa: E402
from ridgeback.planner import revisions  # noqa: E402
from ridgeback.rooms import keepers  # noqa: E402
from ridgeback.rooms.models import Room  # noqa: E402
from ridgeback.wsgi import application  # noqa: E402
from tests.plans import plan  # noqa: E402

ANIMALS, MEALS = 200, 40


def fill(keeper: Keeper) -> None:
    """Two hundred habitats through the book, each with forty meals on record."""
    room = Room.objects.get(members=keeper)
    profiles, today, now = list(shipped().values()), clock.today(), timezone.now()
    events = []
    for place in range(ANIMALS):
        profile = profiles[place % len(profiles)]
        length_m = profile.body.adult_length_cm.middle / 100
        animal = {"name": f"No. {place}", "length_m": length_m, "mass_kg": round(expected_mass_kg(profile, length_m), 5)}
        starts = (today - timedelta(days=60)).isoformat()
        made = plan(name=f"Habitat {place}", species=profile.id, animal=animal, feeding={"starts": starts})
        habitat = revisions.create(room, made, keeper, clock.now())
        for turn in range(MEALS):
            at = now - timedelta(days=3 * turn + 1)
            told = {"outcome": "eaten", "due": at.date().isoformat(), "products": ["plain calcium"], "foods": []}
            events.append(Event(room=room, habitat=habitat, kind=Event.Kind.FED, at=at, author=keeper, payload=told))
    Event.objects.bulk_create(events)
    with connection.cursor() as cursor:
        cursor.execute("ANALYZE")  # the server's own housekeeping does it within a minute; this transaction it cannot see


def main(rounds: int) -> None:
    assert application  # its collector is set as the server's
    settings.ALLOWED_HOSTS = ["testserver"]
    with transaction.atomic():
        keeper = keepers.add("benchmark-keeper", "oyster-catcher-7")
        fill(keeper)
        client = Client()
        client.force_login(keeper, backend="django.contrib.auth.backends.ModelBackend")
        for view in ("month", "week", "day"):
            address = f"{reverse('rota:calendar')}?view={view}"
            begun = time.perf_counter()
            client.get(address)
            first = time.perf_counter() - begun
            spans = []
            for _ in range(rounds):
                begun = time.perf_counter()
                answer = client.get(address)
                spans.append(1000 * (time.perf_counter() - begun))
            with CaptureQueriesContext(connection) as queries:
                client.get(address)
            spans.sort()
            p95 = spans[int(0.95 * len(spans))]
            kilobytes = len(answer.content) / 1024
            print(f"{view}: first {1000 * first:.0f} ms, median {statistics.median(spans):.0f} ms, 95 % {p95:.0f} ms, "
                  f"{len(queries)} queries, {kilobytes:.0f} kB")  # fmt: skip
        transaction.set_rollback(True)


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 40)
