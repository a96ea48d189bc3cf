"""How long "Furnish it" takes: first plans of every species as they come, and in an enclosure that is too small.

Run by hand: `OPENBLAS_NUM_THREADS=1 PYTHONPATH=. .venv-test/bin/python benchmarks/furnish.py [every]`, one species in `every`.
Figures are kept in docs/performance.md.
"""

import sys
import time

from husbandry.design.first_proposal import propose
from husbandry.design.furnish import Furnished, furnish
from husbandry.plan.habitat import Animal, RoomCase, RoomClimate
from husbandry.plan.placement import check_places
from husbandry.species.book import shipped
from tests.plans import TODAY

ROOM = RoomCase(day_c=21.0, night_c=18.0, humidity_percent=50.0)
SMALL_M = (0.6, 0.4, 0.5)


def main() -> None:
    every = int(sys.argv[1]) if len(sys.argv) > 1 else 1
    for name, sides_m in (("as recommended", None), ("60 by 40 cm", SMALL_M)):
        spans, left = [], 0
        for profile in list(shipped().values())[::every]:
            animal = Animal(length_m=profile.body.adult_length_cm.middle / 100)
            made = propose("One", profile, animal, RoomClimate(summer=ROOM, winter=ROOM), TODAY, sides_m)
            if check_places(made):
                continue  # its ground alone does not fit
            begun = time.perf_counter()
            *_steps, last = furnish(made, profile, TODAY)
            spans.append(time.perf_counter() - begun)
            assert isinstance(last, Furnished)
            left += bool(last.left_out)
        spans.sort()
        middle, late = spans[len(spans) // 2], spans[int(0.95 * len(spans))]
        print(f"{name}: n={len(spans)}, something left out in {left}")
        print(f"    median {middle:.2f} s, 95 % {late:.2f} s, most {spans[-1]:.2f} s")


if __name__ == "__main__":
    main()
