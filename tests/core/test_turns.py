"""What `./test` leaves out at one commit has its turn at another."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests import sample
from tests.sample import EVERY, in_turn, taken

TESTS = st.dictionaries(st.sampled_from(["one", "two", "three"]), st.tuples(st.integers(1, 30), st.integers(1, 9)), min_size=1)


@given(TESTS, st.integers(0, 2**32))
def test_every_test_runs_at_each_turn_and_every_case_has_one(tests: dict[str, tuple[int, int]], turn: int) -> None:
    cases = [(test, every) for test, (many, every) in tests.items() for _case in range(many)]
    for test, (many, every) in tests.items():
        after = min(many, every)
        turns = [[kept for kept, (of, _every) in zip(taken(cases, turn + later), cases, strict=True) if of == test]
                 for later in range(after + 1)]  # fmt: skip
        assert all(any(one) for one in turns)
        assert all(map(any, zip(*turns[:after], strict=True)))
        assert all(sum(one) <= many // every + 1 for one in turns)
        assert turns[after] == turns[0]


def test_what_one_test_goes_through_has_its_turn_too(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(sample, "TURN", None)
    assert in_turn(range(21), 5) == list(range(21))
    seen = []
    for turn in range(5):
        monkeypatch.setattr(sample, "TURN", 1_000 + turn * EVERY)
        seen += in_turn(range(21), 5)
    assert sorted(seen) == list(range(21))
