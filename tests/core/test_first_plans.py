"""First plans: a sample of what `benchmarks/proposals.py` goes through as a whole."""

import pytest

from tests.core.first_plans import Case, judged

SAMPLE = [
    ("dart-frog", "adult", "cool", "recommended"),
    ("royal-python", "adult", "cool", "recommended"),
    ("savanna-monitor", "hatchling", "cool", "recommended"),
    ("axolotl", "adult", "usual", "recommended"),
    ("axolotl", "larva", "warm", "recommended"),
    ("chinese-water-dragon", "adult", "cool", "recommended"),
    ("crested-gecko", "adult", "warm", "least"),
    ("fire-bellied-toad", "juvenile", "usual", "recommended"),
]


@pytest.mark.parametrize("case", SAMPLE, ids=[" ".join(case) for case in SAMPLE])
def test_a_first_plan_is_in_its_bands_or_says_why_not_and_endangers_nothing(case: Case) -> None:
    """Common practice, no source: what a keeper is shown first holds, or says what of the room stands in the way."""
    _case, outcome, dangers, untold = judged(case)
    assert dangers == ()
    assert outcome in ("good", "told"), untold
