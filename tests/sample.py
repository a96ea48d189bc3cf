"""How much of a long sweep `./test` takes, and that `./test all` takes the whole of it.

`./test` runs every test there is. Of a test that goes through many cases and is marked as a sweep it takes every fourth case, and
which ones goes by the commit: the same for the same commit, the next ones for another, so that in some commits all have their turn.
`./test all` takes every case, and so does pytest when it is called by itself.
"""

import os
from collections import defaultdict
from collections.abc import Iterable, Sequence
from typing import Final, TypeVar

Thing = TypeVar("Thing")

WHOLE: Final = os.environ.get("RIDGEBACK_TEST") == "all"
TURN: Final = int(os.environ["RIDGEBACK_TURN"]) if "RIDGEBACK_TURN" in os.environ else None
EVERY: Final = 4


def some(things: Iterable[Thing], every: int, first: int = 0) -> list[Thing]:
    """Every so many of them from the one at `first` on; all of them in `./test all`."""
    return list(things) if WHOLE else list(things)[first::every]


def times(usual: int, whole: int) -> int:
    """How often to try; the second in `./test all`."""
    return whole if WHOLE else usual


def in_turn(things: Iterable[Thing]) -> list[Thing]:
    """Every fourth of the things that one test goes through, by turns; all of them where no turn is set.

    A test's cases have their turn at every commit and what each goes through at every fourth, so that they meet in all ways.
    """
    return list(things) if TURN is None else list(things)[TURN // EVERY % EVERY :: EVERY]


def taken(sweeps: Sequence[str], turn: int) -> set[str]:
    """Which cases a turn takes.

    Parameters
    ----------
    sweeps
        The ids of the sweeps' cases, as pytest has them: `file.py::test[case]`.
    turn
        Any number: turns that are `EVERY` apart take the same.

    Returns
    -------
    Of each test every `EVERY`-th case, one at least; in `EVERY` turns that follow on each other every case once at least.
    """
    cases: dict[str, list[str]] = defaultdict(list)
    for one in sweeps:
        cases[one.partition("[")[0]].append(one)
    return {one for of_one in cases.values() for one in of_one[turn % min(EVERY, len(of_one)) :: EVERY]}
