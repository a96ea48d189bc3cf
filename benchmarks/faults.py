"""A year of simulated rooms: how often a fault is told where there is none, and how soon one that is planted is.

Run by hand: `PYTHONPATH=. .venv-test/bin/python benchmarks/faults.py [days]`. The enclosures are those of the demo, each a little
otherwise than its plan says; faults begin at noon. Figures are kept in docs/performance.md.
"""

import os
import sys
import time
from collections import defaultdict

import django
import numpy as np

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ridgeback.settings")
django.setup()

from husbandry.inputs.climate_case import enclosure_case  # noqa: E402
from husbandry.plan.reading import read_data  # noqa: E402
from husbandry.watch import faults  # noqa: E402
from husbandry.watch.foretold import HOURS  # noqa: E402
from ridgeback import clock  # noqa: E402
from ridgeback.home.demo import plans  # noqa: E402
from tests.core.test_faults import Simulated  # noqa: E402

LEARNT_DAYS = 14
AFTER_H = (2, 3, 4, 6, 8, 11)
EVERY = 30  # days between two days on which each fault is planted


def planted(room: Simulated, yesterday: np.ndarray, found: dict[str, list[int | None]]) -> None:
    """Plant each fault at noon of a day, and look at it hour by hour."""
    case, season = room.next_day()
    sound = room.read(case, season)
    for fault, heater, broken in faults.possible(case):
        failed = room.read(broken, season)
        soon = None
        for after in AFTER_H:
            until = 12 + after
            hours = np.arange(HOURS)
            read = np.where(hours < 12, sound, failed)
            read = np.where(hours < until, read, yesterday)
            usual = faults.usual_offsets(room.offsets_before[-14:], room.where, room.sigma, room.watts)
            suspects = faults.judge(case, season, room.where, read, usual, until - 1)
            if suspects and suspects[0].fault is fault and suspects[0].heater == heater:
                soon = after
                break
        found[fault.value].append(soon)


def main(days: int) -> None:
    began = time.perf_counter()
    told = looked = 0
    found: dict[str, list[int | None]] = defaultdict(list)
    for seed, document in enumerate(plans(clock.today())):
        room = Simulated(enclosure_case(read_data(document)), seed)
        yesterday = None
        for day in range(days):
            case, season = room.next_day()
            read = room.read(case, season)
            if day >= LEARNT_DAYS:
                suspects = room.judge(case, season, read)
                told, looked = told + bool(suspects), looked + 1
                if suspects:
                    print(f"{document['name']}, day {day}: {suspects[0].fault.value}, {suspects[0].share:.2f}")
                if day % EVERY == 0 and yesterday is not None:
                    planted(room, yesterday, found)
            room.learn(case, season, read)
            yesterday = read
    print(f"{told} of {looked} days without a fault were told as one ({time.perf_counter() - began:.0f} s)")
    for name, hours in sorted(found.items()):
        soon = sorted(hour for hour in hours if hour is not None)
        median = f"{soon[len(soon) // 2]} h" if soon else "–"
        print(f"{name}: {len(soon)} of {len(hours)} told within {AFTER_H[-1]} h, the middle one after {median}")


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 365)
