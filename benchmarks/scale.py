"""A thousand rooms: the demo's room multiplied in the database, readings by the hundred million, and what that does to it.

PYTHONPATH=. .venv-test/bin/python benchmarks/scale.py FOLDER ROOMS READINGS [--keepers 50 --seconds 60]

FOLDER stays, and may be used again. Each room is the demo's with keys of its own: habitats, plans, animals, daybook, channels.
Readings are written in the order of time, as instruments report them. Pages are asked in this process; with `--keepers` so many
people go on asking a running server, each for a page every `--every` seconds, signed in to a room of their own, and the first
`--dragging` of them draw a lamp about instead, as the page does it: the next place once the last one's numbers have come.
"""

import argparse
import contextlib
import os
import secrets
import statistics
import subprocess
import sys
import threading
import time
import urllib.parse
import urllib.request
from collections.abc import Iterator, Sequence
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Final

from launch.cluster import Cluster
from launch.machine import ROOT, free_port, hold_port

STEP: Final = 1_000_000  # between the keys of a room and of the next
EVERY_MIN: Final = 10
PAGES: Final = ("rooms:habitats", "keeping:round", "keeping:animals", "keeping:watch", "rota:calendar")
ROUNDS: Final = 12
DRAGGED: Final = "Driftwood long box"  # the demo's habitat whose lamp is drawn about
DRAG_S: Final = 0.16  # from one place of a hand to the next that counts, as in benchmarks/drag.py


@contextlib.contextmanager
def database(folder: Path) -> Iterator[Cluster]:
    """PostgreSQL with its settings as they come, but for what any guide changes first: memory."""
    folder.mkdir(parents=True, exist_ok=True)
    folder.chmod(0o755)
    cluster = Cluster(folder)
    new = cluster.create()
    if new:
        with (cluster.files / "postgresql.conf").open("a") as file:
            file.write("shared_buffers = '2GB'\nmaintenance_work_mem = '1GB'\nmax_wal_size = '8GB'\nwork_mem = '32MB'\n")
    cluster.start()
    try:
        yield cluster
    finally:
        cluster.stop()


def multiply(rooms: int) -> None:
    """Copy the demo's room until there are so many, table by table in one statement each."""
    from django.db import connection, transaction

    from ridgeback.archive.tables import TABLES
    from ridgeback.rooms.models import Room

    there, first = Room.objects.filter(pk__gte=STEP).count(), Room.objects.order_by("pk").first()
    assert first is not None
    copied = {table.model for table in TABLES if not table.shared}
    with transaction.atomic(), connection.cursor() as cursor:
        for table in TABLES:
            if table.shared or table.label in ("series.Sample", "series.Hour"):
                continue
            model = table.model
            keys = [field.column for field in model._meta.concrete_fields if field.primary_key or field.related_model in copied]
            keys = [key for key in keys if key != "pk"]
            changed = ", ".join(f"'{key}', (told->>'{key}')::bigint + {STEP} * n" for key in keys)
            ways = model._base_manager.filter(**{table.way: first.pk}).order_by("pk").values("pk").query
            sql, parameters = ways.sql_with_params()
            statement = (
                f"insert into {model._meta.db_table} select (jsonb_populate_record(null::{model._meta.db_table},"
                f" told || jsonb_build_object({changed}))).* from (select to_jsonb(one) as told from {model._meta.db_table} one"
                f" where id in ({sql})) rows, generate_series({there + 1}, {rooms}) n"
            )
            began = time.perf_counter()
            cursor.execute(statement, parameters)
            print(f"  {model._meta.db_table}: {cursor.rowcount} rows in {time.perf_counter() - began:.1f} s", flush=True)


def keepers_of_rooms(rooms: int) -> None:
    """An owner for each room, all with one password's digest."""
    from django.db import connection

    with connection.cursor() as cursor:
        cursor.execute("select id from rooms_room order by id limit 1")
        first = cursor.fetchone()[0]
        cursor.execute(
            "insert into accounts_keeper select (jsonb_populate_record(null::accounts_keeper, told ||"
            f" jsonb_build_object('id', (told->>'id')::bigint + {STEP} * n, 'username', 'keeper-' || n, 'is_staff', false))).*"
            f" from (select to_jsonb(one) as told from accounts_keeper one where username = 'keeper') rows,"
            f" generate_series(1, {rooms}) n on conflict do nothing"
        )
        cursor.execute(
            "insert into rooms_membership (room_id, keeper_id, role) select r.id, k.id, 'owner'"
            f" from rooms_room r join accounts_keeper k on k.username = 'keeper-' || ((r.id - {first}) / {STEP})"
            f" where r.id >= {STEP} on conflict do nothing"
        )


def report(readings: int) -> None:
    """Write readings of all channels, moment by moment, back from now; then their hours."""
    from django.db import connection

    with connection.cursor() as cursor:
        cursor.execute("select count(*) from series_channel")
        channels = cursor.fetchone()[0]
        cursor.execute("select count(*) from (select 1 from series_sample limit 1) one")
        if cursor.fetchone()[0] or not readings:
            return
        moments = max(readings // channels, 1)
        cursor.execute("alter table series_sample drop constraint series_sample_pkey")
        began = time.perf_counter()
        for day in range(0, moments, 144):
            many = min(144, moments - day)
            cursor.execute(
                f"insert into series_sample (channel_id, at, value) select c.id, t.at, 24 + 4 * random() from (select"
                f" date_trunc('hour', now()) - make_interval(mins => {EVERY_MIN} * ({moments - day} - n)) as at"
                f" from generate_series(1, {many}) n order by 1 offset 0) t cross join lateral"
                f" (select id from series_channel where t.at is not null) c"
            )
        print(f"  {moments * channels} readings of {channels} channels in {time.perf_counter() - began:.0f} s", flush=True)
        began = time.perf_counter()
        cursor.execute("alter table series_sample add primary key (channel_id, at)")
        print(f"  their key in {time.perf_counter() - began:.0f} s", flush=True)
        began = time.perf_counter()
        cursor.execute(
            "insert into series_hour (channel_id, at, count, mean, low, high) select channel_id, date_trunc('hour', at), count(*),"
            " avg(value), min(value), max(value) from series_sample group by 1, 2 on conflict do nothing"
        )
        print(f"  {cursor.rowcount} hours in {time.perf_counter() - began:.0f} s", flush=True)
        cursor.execute("update series_channel set last_at = date_trunc('hour', now()), last_value = 25")
        cursor.execute("analyze")


def sizes() -> None:
    from django.db import connection

    with connection.cursor() as cursor:
        cursor.execute("select pg_size_pretty(pg_database_size(current_database()))")
        whole = cursor.fetchone()[0]
        names = ("series_sample", "series_hour", "planner_planrevision", "daybook_event")
        cursor.execute(
            "select relname, pg_size_pretty(pg_total_relation_size(oid)), reltuples::bigint from pg_class where relname = any(%s)",
            [list(names)],
        )
        print(f"  the database {whole}; " + "; ".join(f"{name} {size}, {rows} rows" for name, size, rows in cursor.fetchall()))
        cursor.execute(
            "select pg_size_pretty(pg_relation_size('sample_at_brin')), pg_size_pretty(pg_relation_size('series_sample_pkey'))"
        )
        brin, key = cursor.fetchone()
        print(f"  of the readings' indexes: by time (BRIN) {brin}, by channel and time {key}")


def pages() -> None:
    """Some pages of a keeper of one room, and what each asks of the database."""
    from django.db import connection
    from django.test import Client
    from django.test.utils import CaptureQueriesContext
    from django.urls import reverse

    from ridgeback.accounts.models import Keeper
    from ridgeback.rooms.models import Habitat, Room
    from ridgeback.series.models import Channel

    room = Room.objects.filter(pk__gte=STEP).order_by("-pk").first() or Room.objects.get()
    keeper = Keeper.objects.get(membership__room=room, membership__role="owner", sits=False)
    client = Client(SERVER_NAME="localhost")
    client.force_login(keeper, backend="django.contrib.auth.backends.ModelBackend")
    habitat = Habitat.objects.filter(room=room, set_aside_at__isnull=True).order_by("pk")[0]
    channel = Channel.objects.filter(room=room, habitat__isnull=False).order_by("pk").first()
    asked = {name: reverse(name) for name in PAGES}
    asked |= {
        "planner:bench": reverse("planner:bench", args=[habitat.pk]),
        "keeping:now": reverse("keeping:now", args=[habitat.pk]),
    }
    asked["keeping:room-daybook"] = reverse("keeping:room-daybook", args=[room.pk])
    if channel is not None:
        asked["metering:chart, a month"] = reverse("metering:chart", args=[channel.pk]) + "?span=month"
        asked["metering:live"] = reverse("metering:live", args=[channel.habitat_id])
    for name, url in asked.items():
        took: list[float] = []
        for turn in range(ROUNDS + 1):
            began = time.perf_counter()
            with CaptureQueriesContext(connection) as queries:
                answer = client.get(url)
                size = len(answer.content)
            assert answer.status_code == 200, (url, answer.status_code)
            if turn:
                took.append(1000 * (time.perf_counter() - began))
            else:
                first = 1000 * (time.perf_counter() - began)
        told = f"median {statistics.median(took):.0f} ms, most {max(took):.0f} (the first {first:.0f})"
        print(f"  {name}: {told}, {len(queries)} queries, {size // 1000} kB", flush=True)


def writes() -> None:
    """Readings as devices send them, and what the worker does each night."""
    from django.db import transaction

    from ridgeback import clock
    from ridgeback.rooms.models import Room
    from ridgeback.series import intake
    from ridgeback.series.models import Channel

    room, now = Room.objects.order_by("-pk").first(), clock.now().replace(second=0, microsecond=0)
    assert room is not None
    with transaction.atomic():
        mine = {one.pk: one for one in Channel.objects.filter(room=room, animal__isnull=True).exclude(place="weight")[:20]}
        began, batches = time.perf_counter(), 5
        for turn in range(batches):
            each = 5_000 // len(mine)
            moments = [now - timedelta(days=40 + turn, minutes=minute) for minute in range(each)]
            intake.take(mine, (intake.Given(key, at, 25.0) for key in mine for at in moments), now)
        took = time.perf_counter() - began
        print(f"  batches of 5,000: {batches * 5_000 / took:.0f} readings/s")
        began = time.perf_counter()
        for turn in range(20):
            intake.take(mine, (intake.Given(key, now - timedelta(seconds=turn + 1), 25.0) for key in list(mine)[:1]), now)
        print(f"  a single reading: {1000 * (time.perf_counter() - began) / 20:.1f} ms")
        transaction.set_rollback(True)
    with transaction.atomic():
        began = time.perf_counter()
        gone = intake.let_go(now + timedelta(days=384))
        print(f"  the oldest readings let go: {gone} in {time.perf_counter() - began:.1f} s")
        transaction.set_rollback(True)


class Asker(threading.Thread):
    """A keeper who asks for a page every few seconds."""

    def __init__(self, address: str, cookie: str, paths: list[str], until: float, offset_s: float, every_s: float) -> None:
        super().__init__()
        self.address, self.cookie, self.paths, self.until, self.offset_s = address, cookie, paths, until, offset_s
        self.every_s = every_s
        self.took: list[float] = []
        self.failed: list[str] = []

    def asks(self, turn: int) -> urllib.request.Request:
        """What is asked for next."""
        return urllib.request.Request(self.address + self.paths[turn % len(self.paths)], headers={"Cookie": self.cookie})

    def run(self) -> None:
        time.sleep(self.offset_s)
        turn = 0
        while time.monotonic() < self.until:
            asked, began = self.asks(turn), time.perf_counter()
            try:
                with urllib.request.urlopen(asked, timeout=60) as answer:
                    answer.read()
            except OSError as error:
                self.failed.append(str(error))
            self.took.append(time.perf_counter() - began)
            turn += 1
            time.sleep(max(self.every_s - self.took[-1], 0.0))


class Dragger(Asker):
    """A keeper who draws a lamp about: a new place every `DRAG_S`, or as soon as the last one is answered."""

    token, version, part = "t" * 32, 1, "heaters.0"

    def asks(self, turn: int) -> urllib.request.Request:
        place = {"x_m": 0.20 + 0.01 * (turn % 12), "height_m": 0.36 + 0.01 * (turn % 5), "part": self.part}
        told = urllib.parse.urlencode({**place, "step": "heat", "season": "winter", "phase": "day", "version": self.version})
        headers = {"Cookie": f"{self.cookie}; csrftoken={self.token}", "X-CSRFToken": self.token, "HX-Request": "true"}
        return urllib.request.Request(self.address + self.paths[0], data=told.encode(), headers=headers)


def told(askers: Sequence[Asker]) -> str:
    """How long what they asked for took, and what failed."""
    took = sorted(one for asker in askers for one in asker.took)
    failed = [one for asker in askers for one in asker.failed]
    place = [took[min(int(len(took) * share), len(took) - 1)] for share in (0.5, 0.95, 0.99)]
    of = ", ".join(f"{share} {1000 * one:.0f} ms" for share, one in zip(("median", "95 %", "99 %"), place, strict=True))
    return f"{len(took)} answers: {of}, most {1000 * took[-1]:.0f} ms; {len(failed)} errors {failed[:1]}"


def asked_by(keepers: int, dragging: int, seconds: float, every_s: float, environment: dict[str, str]) -> None:
    """So many keepers at once against a running server of two processes."""
    from django.conf import settings
    from django.test import Client
    from django.urls import reverse

    from ridgeback.accounts.models import Keeper
    from ridgeback.rooms.models import Habitat

    port = free_port()
    held = hold_port(port)
    assert held is not None
    command = [sys.executable, "-m", "ridgeback.serve", "--socket", str(held.fileno())]
    serving = subprocess.Popen(command, cwd=ROOT, env=environment, pass_fds=[held.fileno()])
    held.close()
    address, askers = f"http://127.0.0.1:{port}", list[Asker]()
    until = time.monotonic() + 60
    while time.monotonic() < until:
        with contextlib.suppress(OSError), urllib.request.urlopen(f"{address}/health", timeout=2):
            break
        time.sleep(0.2)
    try:
        end = time.monotonic() + seconds
        for number, keeper in enumerate(Keeper.objects.filter(username__startswith="keeper-").order_by("pk")[:keepers]):
            client = Client(SERVER_NAME="localhost")
            client.force_login(keeper, backend="django.contrib.auth.backends.ModelBackend")
            habitats = Habitat.objects.filter(room__members=keeper, set_aside_at__isnull=True).order_by("pk")[:3]
            paths = [reverse("rooms:habitats"), reverse("keeping:round")]
            paths += [reverse(name, args=[one.pk]) for one in habitats for name in ("keeping:now", "planner:bench")]
            cookie = f"{settings.SESSION_COOKIE_NAME}={client.cookies[settings.SESSION_COOKIE_NAME].value}"
            if number < dragging:
                dragged = Habitat.objects.get(room__members=keeper, name=DRAGGED)
                askers.append(Dragger(address, cookie, [reverse("planner:preview", args=[dragged.pk])], end, 0.0, DRAG_S))
                continue
            askers.append(Asker(address, cookie, paths, end, number * every_s / keepers, every_s))
            for path in paths:  # what is worked out at the first look is worked out before
                with (
                    contextlib.suppress(OSError),
                    urllib.request.urlopen(
                        urllib.request.Request(address + path, headers={"Cookie": cookie}), timeout=60
                    ) as answer,
                ):
                    answer.read()
        end = time.monotonic() + seconds
        for asker in askers:
            asker.until = end
            asker.start()
        for asker in askers:
            asker.join()
    finally:
        serving.terminate()
        serving.wait()
    print(f"  {keepers - dragging} keepers, a page every {every_s:.0f} s, {told([one for one in askers if type(one) is Asker])}")
    if dragging:
        print(f"  {dragging} keepers who drag, a place every {1000 * DRAG_S:.0f} ms, {told(askers[:dragging])}")


def main() -> int:
    parser = argparse.ArgumentParser(prog="benchmarks/scale.py")
    parser.add_argument("folder", type=Path)
    parser.add_argument("rooms", type=int)
    parser.add_argument("readings", type=int)
    parser.add_argument("--keepers", type=int, default=0)
    parser.add_argument("--dragging", type=int, default=0, help="how many of the keepers drag a lamp")
    parser.add_argument("--seconds", type=float, default=60.0)
    parser.add_argument("--every", type=float, default=10.0, help="seconds from one page of a keeper to the next")
    given = parser.parse_args()
    with database(given.folder.absolute()) as cluster:
        environment = {**os.environ, "PYTHONPATH": str(ROOT), "OPENBLAS_NUM_THREADS": "1", "DATABASE_URL": cluster.url}
        environment |= {
            "DJANGO_SETTINGS_MODULE": "ridgeback.settings",
            "RIDGEBACK_STATIC_ROOT": str(given.folder.absolute() / "static"),
        }
        environment |= {"RIDGEBACK_SECRET_KEY": secrets.token_urlsafe(48)}
        prepare = [sys.executable, "-W", "ignore", "manage.py", "prepare", "--demo"]
        key = {"RIDGEBACK_DEMO_PASSWORD": "cord-grass-meadow", "RIDGEBACK_DEVICE_KEY": "device-of-the-demo-room"}
        subprocess.run(prepare, cwd=ROOT, env=environment | key, check=True)
        os.environ |= environment
        import django

        django.setup()
        began = datetime.now(UTC)
        print(f"{given.rooms} rooms, {given.readings} readings:", flush=True)
        multiply(given.rooms)
        keepers_of_rooms(given.rooms)
        report(given.readings)
        print(f"  made in {(datetime.now(UTC) - began).total_seconds():.0f} s")
        sizes()
        pages()
        writes()
        if given.keepers:
            asked_by(given.keepers, given.dragging, given.seconds, given.every, environment)
    return 0


if __name__ == "__main__":
    sys.exit(main())
