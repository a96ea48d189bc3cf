"""How much of a long sweep `./test` takes, and that `./test all` takes the whole of it."""

import os
from collections.abc import Iterable
from typing import Final, TypeVar

Thing = TypeVar("Thing")

WHOLE: Final = os.environ.get("RIDGEBACK_TEST") == "all"


def some(things: Iterable[Thing], every: int, first: int = 0) -> list[Thing]:
    """Every so many of them from the one at `first` on; all of them in `./test all`."""
    return list(things) if WHOLE else list(things)[first::every]


def times(usual: int, whole: int) -> int:
    """How often to try; the second in `./test all`."""
    return whole if WHOLE else usual
