"""How fast readings come in and a chart is asked for: `python benchmarks/series.py [rows]`, on the database of DATABASE_URL.

Everything is written in one transaction that is taken back at the end.
"""

import os
import sys
import time
from datetime import timedelta

import django

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ridgeback.settings")
django.setup()

from django.db import connection, transaction  # noqa: E402

from ridgeback import clock  # noqa: E402
from ridgeback.rooms.models import Room  # noqa: E402
from ridgeback.series import intake, reading  # noqa: E402
from ridgeback.series.models import Channel, Hour, Sample  # noqa: E402


def main(rows: int) -> None:
    now = clock.now().replace(second=0, microsecond=0)
    with transaction.atomic():
        room = Room.objects.create(name="benchmark")
        channels = [
            Channel.objects.create(room=room, place="warm-air", code=f"bench-{number}", made_at=now) for number in range(20)
        ]
        by_key = {channel.pk: channel for channel in channels}
        each = rows // len(channels)
        began = time.perf_counter()
        for channel in channels:
            given = (intake.Given(channel.pk, now - timedelta(minutes=turn), 25.0 + turn % 7) for turn in range(each))
            intake.take(by_key, given, now)
        took = time.perf_counter() - began
        print(f"{each * len(channels)} rows in {took:.1f} s: {each * len(channels) / took:.0f} rows/s, in files or large batches")
        began, batches = time.perf_counter(), 40
        for turn in range(batches):
            given = (intake.Given(channel.pk, now + timedelta(seconds=turn + 1), 25.0) for channel in channels for _ in (0,))
            intake.take(by_key, given, now + timedelta(hours=1))
        took = time.perf_counter() - began
        print(f"{batches} batches of one reading each of {len(channels)} channels: {1000 * took / batches:.0f} ms a batch")
        with connection.cursor() as cursor:
            cursor.execute("ANALYZE series_sample; ANALYZE series_hour")
        for name, days in (("a day", 1), ("a month", 31), ("a year", 365)):
            times = []
            for channel in channels:
                began = time.perf_counter()
                points = len(reading.line(channel, now - timedelta(days=days), now).points)
                times.append(time.perf_counter() - began)
            print(f"{name}: {points} points in {1000 * sorted(times)[len(times) // 2]:.1f} ms (median of {len(times)})")
        print(f"{Sample.objects.count()} readings, {Hour.objects.count()} hours")
        transaction.set_rollback(True)


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 500_000)
