"""What a review costs to work out with nothing known but box and lamp, and with one thing unknown; and what is proposed instead.

PYTHONPATH=. .venv-test/bin/python benchmarks/review.py
"""

import statistics
import time
from datetime import date
from typing import Any, Final

from husbandry.setup_review.proposal import propose
from husbandry.setup_review.review import review
from husbandry.setup_review.told import Told
from husbandry.setup_review.unknowns import unknowns
from husbandry.species.book import find

TIMES: Final = 3
TODAY: Final = date(2026, 11, 29)
BARE: Final[dict[str, Any]] = {
    "species": "central-bearded-dragon", "length_m": 0.9, "width_m": 0.45, "height_m": 0.45,
    "heaters": [{"kind": "reflector-spot"}], "tubes": [{}], "hides": [{"end": "cool"}],
}  # fmt: skip
KNOWN: Final[dict[str, Any]] = BARE | {
    "lid": "mesh", "room_c": 20.0, "room_percent": 45.0, "bowl": True, "ground": "sand", "ground_m": 0.05, "mistings": 0,
    "heaters": [{"kind": "reflector-spot", "watts": 100.0, "guarded": True}],
    "tubes": [{"kind": "slim-12", "months": 3, "reflector": True}], "hides": [{"end": "cool", "humid": False, "dark": True}],
    "thermometers": True, "dusted": True,
}  # fmt: skip


def main() -> None:
    """Print the time of each."""
    for told in (Told.model_validate(BARE), Told.model_validate(KNOWN)):
        taken = []
        for turn in range(TIMES + 1):
            begun = time.perf_counter()
            found = review(told, find(told.species), TODAY)
            if turn:  # the first one compiles
                taken.append(time.perf_counter() - begun)
        ask = found.ask.unknown.path if found.ask is not None else "nothing"
        begun = time.perf_counter()
        propose(told, find(told.species), TODAY)
        proposed = time.perf_counter() - begun
        print(f"{len(unknowns(told))} unknown: {statistics.median(taken):.2f} s, asks {ask}; what is proposed {proposed:.1f} s")


if __name__ == "__main__":
    main()
