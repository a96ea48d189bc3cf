"""A long daybook out and in again: 100,000 entries and 2,000 photos, as the server writes it and the worker takes it in.

Run by hand against a database that may be thrown away: `DATABASE_URL=… PYTHONPATH=. .venv-test/bin/python
benchmarks/long_daybook.py [entries] [photos]`. Figures are kept in docs/performance.md. What it made is removed at the end.
"""

import gc
import io
import os
import resource
import sys
import tempfile
import threading
import time
from collections.abc import Callable
from datetime import timedelta

from benchmarks.habitats import said  # it sets Django up  # noqa: F401  # isort: skip

from django.conf import settings  # isort: skip
from django.db import connection  # isort: skip
from django.test import Client  # isort: skip
from django.urls import reverse  # isort: skip

import numpy as np
from PIL import Image

from benchmarks.calendar_month import fill  # isort: skip
from ridgeback import clock
from ridgeback.daybook.models import Event, Photo
from ridgeback.daybook.writing import Intent
from ridgeback.keeping import tasks
from ridgeback.keeping.actions.animals import Newcomer, welcome
from ridgeback.keeping.models import DaybookFile
from ridgeback.rooms import keepers
from ridgeback.rooms.models import Animal, Habitat, Room

PART = 8_000_000
ANIMALS = 60
KINDS = (
    ("animal.weighed", {"mass_kg": 0.05}),
    ("animal.shed", {"came": "pieces", "stuck": ["toes"]}),
    ("animal.droppings", {"look": "runny"}),
    ("animal.behaviour", {"what": "gapes"}),
    ("note", {"note": "All is well with it; the water was changed and the dish scrubbed."}),
)


def resident_mb() -> float:
    with open(f"/proc/{os.getpid()}/statm") as told:
        return int(told.read().split()[1]) * resource.getpagesize() / 1e6


def timed(name: str, work: Callable[[], object]) -> object:
    """Do it, and tell how long it took and how much memory came on top while it did."""
    before, most, over = resident_mb(), [0.0], threading.Event()

    def watch() -> None:
        while not over.wait(0.05):
            most[0] = max(most[0], resident_mb())

    watcher = threading.Thread(target=watch)
    watcher.start()
    begun = time.perf_counter()
    found = work()
    took = time.perf_counter() - begun
    over.set()
    watcher.join()
    print(f"{name}: {took:.1f} s, {max(0.0, most[0] - before):.0f} MB on top of {before:.0f}", flush=True)
    return found


def picture(seed: int) -> bytes:
    """A photo of about the size that a phone's makes when it is made small: smooth, with some grain."""
    dice = np.random.default_rng(seed)
    coarse = dice.integers(0, 255, (75, 100, 3), dtype=np.uint8)
    image = Image.fromarray(coarse).resize((1600, 1200), Image.Resampling.BICUBIC)
    grain = dice.normal(0, 6, (1200, 1600, 1))
    made = io.BytesIO()
    Image.fromarray(np.clip(np.asarray(image) + grain, 0, 255).astype(np.uint8)).save(made, "JPEG", quality=82)
    return made.getvalue()


def live(room: Room, intent: Intent, entries: int, photos: int) -> None:
    today, now = clock.today(), clock.now()
    habitats = list(Habitat.objects.filter(room=room)[:ANIMALS])
    animals = []
    for place, habitat in enumerate(habitats):
        facts = {"name": f"Animal {place}", "species": habitat.species}
        animals += welcome(habitat.pk, intent, [Newcomer(facts)], today - timedelta(days=400), today)
    for begin in range(0, entries, 5000):
        rows = []
        for turn in range(begin, min(begin + 5000, entries)):
            kind, payload = KINDS[turn % len(KINDS)]
            place = turn % len(animals)
            at = now - timedelta(seconds=30 * (turn + 1))
            rows.append(Event(room=room, habitat=habitats[place], animal=animals[place], kind=kind, at=at, payload=payload))
        Event.every.bulk_create(rows)
    some = [picture(seed) for seed in range(8)]
    for turn in range(photos):
        at = now - timedelta(hours=turn + 1)
        event = Event.every.create(room=room, animal=animals[turn % len(animals)], kind="photo", at=at, payload={})
        Photo.objects.create(event=event, jpeg=some[turn % len(some)], width=1600, height=1200)


def fetched(client: Client, address: str) -> str:
    """The file an address answers with, on the disk."""
    with tempfile.NamedTemporaryFile(delete=False) as file:
        for chunk in client.get(address).streaming_content:  # type: ignore[attr-defined]
            file.write(chunk)
    return file.name


def sent(client: Client, room: Room, path: str) -> DaybookFile:
    size = os.path.getsize(path)
    address = client.post(reverse("uploads:begin", args=[room.pk]), headers={"Upload-Length": str(size)})["Location"]
    with open(path, "rb") as file:
        begins = 0
        while content := file.read(PART):
            told = {"Upload-Offset": str(begins)}
            assert client.patch(address, content, content_type="application/offset+octet-stream", headers=told).status_code == 204
            begins += len(content)
            gc.collect()  # the test client leaves the body it sent in a circle
    client.post(reverse("keeping:bring-in", args=[room.pk]), {"upload": address.strip("/").split("/")[-1]})
    return DaybookFile.objects.filter(room=room).latest("pk")


def taken(made: DaybookFile) -> None:
    tasks.take_file(made.pk)
    made.refresh_from_db()
    print("   ", made.state, made.outcome)


def main(entries: int, photos: int) -> None:
    settings.ALLOWED_HOSTS = ["testserver"]
    made = [keepers.add(f"benchmark-{name}", "oyster-catcher-7") for name in ("out", "in")]
    try:
        clients = [Client(), Client()]
        rooms = [Room.objects.get(membership__keeper=keeper) for keeper in made]
        for client, keeper in zip(clients, made, strict=True):
            client.force_login(keeper, backend="django.contrib.auth.backends.ModelBackend")
        fill(made[0])
        live(rooms[0], Intent(made[0], clock.now()), entries, photos)
        with connection.cursor() as cursor:
            cursor.execute("analyze")
        paths = {}
        for name, address in (
            ("CSV", reverse("keeping:room-csv", args=[rooms[0].pk])),
            ("JSON", reverse("keeping:room-json", args=[rooms[0].pk])),
            ("ZIP with photos", reverse("keeping:room-json", args=[rooms[0].pk]) + "?photos=1"),
        ):
            paths[name] = str(timed(f"out as {name}", lambda address=address: fetched(clients[0], address)))
            print(f"    {os.path.getsize(paths[name]) / 1e6:.1f} MB")
        for name, room, client in (
            ("ZIP with photos", rooms[1], clients[1]),
            ("ZIP with photos", rooms[1], clients[1]),
            ("JSON", rooms[1], clients[1]),
            ("CSV", rooms[0], clients[0]),
        ):
            file = timed(f"{name} sent in parts of 8 MB", lambda c=client, r=room, n=name: sent(c, r, paths[n]))
            assert isinstance(file, DaybookFile)
            timed(f"{name} taken in", lambda file=file: taken(file))
        for room in rooms:
            print(Event.every.filter(room=room).count(), Animal.objects.filter(room=room).count())
        print("photos alike:", Photo.objects.filter(event__room=rooms[1]).count())
    finally:
        for keeper in made:
            Room.objects.filter(membership__keeper=keeper).delete()
            keeper.delete()


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 100_000, int(sys.argv[2]) if len(sys.argv) > 2 else 2_000)
