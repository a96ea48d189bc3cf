"""How long the species book takes to answer with 2,000 profiles, misspelt names included; nothing is kept.

Run by hand against a running database: `DATABASE_URL=… PYTHONPATH=. .venv-test/bin/python benchmarks/search.py [rounds]`.
Figures are kept in docs/performance.md.
"""

import os
import random
import statistics
import sys
import time

import django

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ridgeback.settings")
django.setup()

from django.conf import settings  # noqa: E402
from django.db import connection, transaction  # noqa: E402
from django.test import Client  # noqa: E402
from django.urls import reverse  # noqa: E402

from husbandry.species.book import shipped  # noqa: E402
from ridgeback import clock  # noqa: E402
from ridgeback.book import catalogue, own  # noqa: E402
from ridgeback.book.models import Entry  # noqa: E402
from ridgeback.rooms import keepers  # noqa: E402
from ridgeback.rooms.models import Room  # noqa: E402

PROFILES = 2000
SYLLABLES = (
    "sam",
    "phi",
    "re",
    "thri",
    "ft",
    "mar",
    "ram",
    "tan",
    "sy",
    "sed",
    "ge",
    "gla",
    "ss",
    "wort",
    "ora",
    "che",
    "eel",
    "gra",
)
ASKED = (
    "corn snake",
    "leapord gecko",
    "vieled chamelion",
    "tortoise",
    "hermans",
    "Varanus komodoensis",
    "samphire",
    "zzyzx",
    "geko",
)


def main() -> None:
    rounds = int(sys.argv[1]) if len(sys.argv) > 1 else 20
    settings.ALLOWED_HOSTS = ["*"]
    picked = random.Random(7)
    with transaction.atomic():
        catalogue.enter_shipped()
        keeper = keepers.add("benchmark", "cord-grass-44")
        room = Room.objects.get(members=keeper)
        book = list(shipped().values())
        for _ in range(PROFILES - len(book)):
            base = picked.choice(book)
            name = " ".join("".join(picked.choices(SYLLABLES, k=3)) for _ in range(2))
            own.take_in(room, base.model_copy(update={"common": name, "other_names": (name[::-1],)}), keeper, clock.now())
        with connection.cursor() as cursor:
            cursor.execute("ANALYZE book_name, book_entry, book_ownprofile")  # as the database does by itself in time
        client = Client()
        client.force_login(keeper, backend="django.contrib.auth.backends.ModelBackend")
        every: list[float] = []
        alone: list[float] = []
        for asked in ASKED:
            times = []
            for _ in range(rounds):
                began = time.perf_counter()
                catalogue.search(catalogue.reachable([room.pk]), asked)
                alone.append(1000 * (time.perf_counter() - began))
                began = time.perf_counter()
                client.get(reverse("book:shelf"), {"q": asked}, HTTP_HX_REQUEST="true")
                times.append(1000 * (time.perf_counter() - began))
            every += times[1:]
            print(f"{asked:24s} median {statistics.median(times):5.1f} ms")
        print(f"{Entry.objects.count()} profiles")
        for name, taken in (("search alone", sorted(alone)), ("the whole request", sorted(every))):
            print(f"{name}: median {statistics.median(taken):.1f} ms, 95 % {taken[int(0.95 * len(taken))]:.1f} ms")
        transaction.set_rollback(True)


main()
