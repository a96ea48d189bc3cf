"""Sends broken files to every importer: counts answers of 500 and those that took more than two seconds. Nothing is kept.

Run by hand against a running database: `DATABASE_URL=… PYTHONPATH=. .venv-test/bin/python benchmarks/fuzz.py [count] [seed]`.
The whole is 100,000; figures are kept in docs/performance.md. A sample of the same files is in the tests.
"""

import os
import resource
import sys
import time

import django

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ridgeback.settings")
django.setup()

import logging  # noqa: E402

from django.conf import settings  # noqa: E402
from django.db import transaction  # noqa: E402
from django.test import Client  # noqa: E402
from django.test.utils import setup_test_environment  # noqa: E402

from ridgeback import clock  # noqa: E402
from ridgeback.accounts.models import Keeper  # noqa: E402
from ridgeback.planner import revisions  # noqa: E402
from ridgeback.rooms import keepers  # noqa: E402
from ridgeback.rooms.models import Room  # noqa: E402
from tests.anyfile import files  # noqa: E402
from tests.plans import plan  # noqa: E402
from tests.web.sending import send  # noqa: E402

SLOW_S, MOST_TOLD = 2.0, 20


def main(count: int, seed: int) -> None:
    logging.disable(logging.CRITICAL)
    setup_test_environment()  # what a page was made of is looked at
    plain = {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"}
    settings.STORAGES = settings.STORAGES | {"staticfiles": plain}
    broken, slow, longest = 0, 0, 0.0
    name = f"fuzzer-{seed}"  # several may run beside each other
    Keeper.objects.filter(username=name).delete()
    keeper = keepers.add(name, "oyster-catcher-7")
    habitat = revisions.create(Room.objects.get(members=keeper), plan(), keeper, clock.now())
    client = Client(raise_request_exception=False)
    client.force_login(keeper, backend="django.contrib.auth.backends.ModelBackend")
    for place, item in enumerate(files(seed, count)):
        with transaction.atomic():
            begun = time.perf_counter()
            status = send(client, habitat, item).status_code
            took = time.perf_counter() - begun
            transaction.set_rollback(True)
        longest = max(longest, took)
        if status >= 500 or took > SLOW_S:
            broken, slow = broken + (status >= 500), slow + (took > SLOW_S)
            if broken + slow <= MOST_TOLD:
                print(f"no. {place}: {item.to}, {status}, {took:.2f} s: {item.text[:120]!r}", flush=True)
        if place % 5000 == 4999:
            print(f"{place + 1}: {broken} answers of 500, {slow} over 2 s, longest {longest:.2f} s", flush=True)
    Room.objects.filter(members=keeper).delete()
    keeper.delete()
    memory = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    found = f"{broken} answers of 500, {slow} over 2 s, longest {longest:.2f} s, {memory:.0f} MB at most"
    print(f"{count} files from seed {seed}: {found}")


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 100_000, int(sys.argv[2]) if len(sys.argv) > 2 else 1)
