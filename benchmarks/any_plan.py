"""Any plan at all, for an hour by night: assessed, said, drawn, furnished with what can go wrong, fed, its week laid out.

Run by hand, no database is asked:

    DATABASE_URL=postgres://x@127.0.0.1:1/x PYTHONPATH=. nice .venv-test/bin/python benchmarks/any_plan.py [minutes] [seed] [folder]

The usual tests take the same few plans every time; here every round takes others, until the time is
over. What fails is told once for each place in the code that failed, and the plan that did it is kept in the folder as JSON,
with the seed of its round. Figures are kept in docs/reliability.md.
"""

import os
import sys
import time
import traceback
from collections import Counter
from collections.abc import Callable
from pathlib import Path
from typing import Any

import django

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ridgeback.settings")
django.setup()

from hypothesis import given, seed, settings  # noqa: E402
from hypothesis import strategies as st  # noqa: E402

from tests.anyplan import feedings, plans  # noqa: E402
from tests.web import test_any_plan as checks  # noqa: E402

OF_A_ROUND = 10


class Found:
    """What failed so far, by the place in our code where it did."""

    def __init__(self, folder: Path) -> None:
        self.folder, self.places, self.tried = folder, Counter[str](), Counter[str]()
        folder.mkdir(parents=True, exist_ok=True)

    def trying(self, what: str, number: int, check: Callable[..., None], *given_ones: Any) -> None:
        """Make one check of one plan; a failure is written down and ends nothing."""
        self.tried[what] += 1
        try:
            check(*given_ones)
        except Exception as error:
            ours = [frame for frame in traceback.extract_tb(error.__traceback__) if "site-packages" not in frame.filename]
            place = f"{Path(ours[-1].filename).name}:{ours[-1].lineno} {type(error).__name__}"
            self.places[place] += 1
            if self.places[place] == 1:
                kept = self.folder / f"{what}-{number}-{len(self.places)}.json"
                kept.write_text(given_ones[0].model_dump_json(indent=1))
                print(f"{what}, round {number}: {place}: {str(error)[:300]}\n   kept in {kept}", flush=True)


def one_round(number: int, found: Found) -> None:
    """Draw the round's plans and make every check with each."""
    some = settings(checks.ANY, derandomize=False, max_examples=OF_A_ROUND, deadline=None)

    @seed(number)
    @some
    @given(plans)
    def assessed(plan: Any) -> None:
        found.trying("assessed", number, checks.assessed_said_and_drawn, plan)
        found.trying("wrong", number, checks.whatever_goes_wrong, plan)

    @seed(number)
    @settings(some, max_examples=4 * OF_A_ROUND)
    @given(plans, feedings, checks.MEALS, st.sets(st.integers(0, 6)))
    def fed(plan: Any, feeding: Any, told: Any, weekdays: Any) -> None:
        found.trying("fed", number, checks.fed_and_laid_out, plan, feeding, told, weekdays)

    assessed()
    fed()


def main(minutes: float, first: int, folder: Path) -> None:
    found, ends, number = Found(folder), time.monotonic() + 60 * minutes, first
    while time.monotonic() < ends:
        one_round(number, found)
        number += 1
    print(
        f"{number - first} rounds from {first} on, {dict(found.tried)}: {sum(found.places.values())} failures, {dict(found.places)}"
    )


if __name__ == "__main__":
    given_ones = sys.argv[1:]
    main(
        float(given_ones[0]) if given_ones else 60.0,
        int(given_ones[1]) if len(given_ones) > 1 else int(time.time()),
        Path(given_ones[2]) if len(given_ones) > 2 else Path("/tmp/any-plan"),
    )
