"""How long assess() takes on the demo's plans, and how much memory the process holds.

Run by hand: `PYTHONPATH=. .venv-test/bin/python benchmarks/assess.py [rounds]`. Figures are kept in docs/performance.md.
"""

import os
import resource
import statistics
import sys
import time
from datetime import date

import django

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ridgeback.settings")
django.setup()

from husbandry.assess.assess import Depth, assess  # noqa: E402
from husbandry.plan.reading import read_data  # noqa: E402
from husbandry.species.book import find  # noqa: E402
from ridgeback.home import demo  # noqa: E402

TODAY = date(2026, 11, 24)


def main() -> None:
    rounds = int(sys.argv[1]) if len(sys.argv) > 1 else 100
    every: list[float] = []
    for data in demo.plans(TODAY):
        plan = read_data(data)
        profile = find(plan.species)
        for seasons in (("winter",), ("summer", "winter")):
            assess(plan, profile, TODAY, depth=Depth(days_of=seasons))
            times = []
            for _ in range(rounds):
                began = time.perf_counter()
                assess(plan, profile, TODAY, depth=Depth(days_of=seasons))
                times.append((time.perf_counter() - began) * 1000)
            if len(seasons) == 2:
                every += times
            worst = sorted(times)[int(0.95 * rounds)]
            print(f"{plan.name:20s} {len(seasons)} season(s): median {statistics.median(times):5.1f} ms, 95 % {worst:5.1f} ms")
    print(f"all plans, both seasons: median {statistics.median(every):.1f} ms")
    print(f"memory: {resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024:.0f} MB at most")


if __name__ == "__main__":
    main()
