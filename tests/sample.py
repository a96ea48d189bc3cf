"""How much of a long sweep `./test` takes, and that `./test all` takes the whole of it.

`./test` runs every test there is. Of a test that is marked as a sweep it takes every eighth case; every fourth where rights are
asked about, and where there are forty cases or more. Which ones goes by the commit: the same for the same commit, other ones for
another, so that in some commits all have their turn. `./test all` takes every case, and so does pytest when it is called by itself.
"""

import os
from collections import Counter
from collections.abc import Iterable, Sequence
from typing import Final, TypeVar

Thing = TypeVar("Thing")

WHOLE: Final = os.environ.get("RIDGEBACK_TEST") == "all"
TURN: Final = int(os.environ["RIDGEBACK_TURN"]) if "RIDGEBACK_TURN" in os.environ else None
EVERY: Final = 8
MANY: Final = 40  # a test of so many cases or more is one of each species or kind


def some(things: Iterable[Thing], every: int, first: int = 0) -> list[Thing]:
    """Every so many of them from the one at `first` on; all of them in `./test all`."""
    return list(things) if WHOLE else list(things)[first::every]


def times(usual: int, whole: int) -> int:
    """How often to try; the second in `./test all`."""
    return whole if WHOLE else usual


def in_turn(things: Iterable[Thing], every: int = EVERY) -> list[Thing]:
    """Every so many of the things that one test goes through, by turns; all of them where no turn is set.

    Which ones goes by another digit of the turn than the cases that are taken, so that all of them meet.
    """
    return list(things) if TURN is None else list(things)[TURN // EVERY % every :: every]


def taken(cases: Sequence[tuple[str, int]], turn: int) -> list[bool]:
    """Which cases a turn takes.

    Parameters
    ----------
    cases
        Of each case in their order the name of its test, and one of how many of that test's cases is to be taken.
    turn
        Any number.

    Returns
    -------
    For each case whether it is taken: of each test one at least, and in as many turns that follow on each other as it has cases,
    or as one is taken of, every case.
    """
    many, place, found = Counter(test for test, _every in cases), Counter[str](), []
    for test, every in cases:
        found.append(place[test] % every == turn % min(every, many[test]))
        place[test] += 1
    return found
