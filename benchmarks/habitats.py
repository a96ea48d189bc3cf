"""The list of 200 habitats beside a bare page, and a new habitat of every species, as the server answers them. Nothing is kept.

Run by hand against a running database: `DATABASE_URL=… PYTHONPATH=. .venv-test/bin/python benchmarks/habitats.py [rounds]`.
Figures are kept in docs/performance.md. The first look after a change of the plans works each of them out once; it is told apart.
"""

import os
import statistics
import sys
import time

import django

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ridgeback.settings")
django.setup()

from django.conf import settings  # noqa: E402
from django.db import connection, transaction  # noqa: E402
from django.test import Client  # noqa: E402
from django.test.utils import CaptureQueriesContext  # noqa: E402
from django.urls import reverse  # noqa: E402

from benchmarks.calendar_month import fill  # noqa: E402
from husbandry.species.book import shipped  # noqa: E402
from ridgeback.rooms import keepers  # noqa: E402
from ridgeback.rooms.models import Room  # noqa: E402
from ridgeback.wsgi import application  # noqa: E402


def spans(client: Client, address: str, rounds: int) -> tuple[list[float], int]:
    """Milliseconds of so many answers, in order of length, and the bytes of the last."""
    found, size = [], 0
    for _ in range(rounds):
        begun = time.perf_counter()
        size = len(client.get(address).content)
        found.append(1000 * (time.perf_counter() - begun))
    return sorted(found), size


def said(name: str, found: list[float], size: int = 0) -> None:
    kilobytes = f", {size / 1024:.0f} kB" if size else ""
    print(f"{name}: median {statistics.median(found):.0f} ms, 95 % {found[int(0.95 * len(found))]:.0f} ms{kilobytes}")


def main(rounds: int) -> None:
    assert application  # its collector is set as the server's
    settings.ALLOWED_HOSTS = ["testserver"]
    with transaction.atomic():
        keeper = keepers.add("benchmark-keeper", "oyster-catcher-7")
        client = Client()
        client.force_login(keeper, backend="django.contrib.auth.backends.ModelBackend")
        room = Room.objects.get(membership__keeper=keeper)
        new = []
        for species in shipped():
            asked = {
                "name": f"New {species}", "species": species, "room": room.pk, "count": "1", "age": "3 years", "sex": "unknown",
                "summer_day": "25", "summer_night": "21", "summer_humidity": "50",
                "winter_day": "20", "winter_night": "17", "winter_humidity": "45",
            }  # fmt: skip
            begun = time.perf_counter()
            answer = client.post(reverse("rooms:new"), asked)
            new.append(1000 * (time.perf_counter() - begun))
            assert answer.status_code == 302, (species, answer.status_code)
        said("a new habitat, saved", sorted(new))
        room.habitats.all().delete()
        fill(keeper)
        address = reverse("rooms:habitats")
        begun = time.perf_counter()
        client.get(address)
        print(f"the list of 200, never looked at: {time.perf_counter() - begun:.1f} s")
        said("the list of 200", *spans(client, address, rounds))
        said("a bare page", *spans(client, reverse("accounts:password"), rounds))
        with CaptureQueriesContext(connection) as queries:
            client.get(address)
        print(f"{len(queries)} queries")
        transaction.set_rollback(True)


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 40)
