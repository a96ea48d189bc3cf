"""What was worked out lately of an object that never changes: kept by the object itself, for comparing whole plans takes longer."""

from collections.abc import Callable
from contextlib import suppress
from functools import wraps
from typing import Final, TypeVar

Given = TypeVar("Given")
Found = TypeVar("Found")

KEPT: Final = 64  # objects of each function: a search compares some dozens of plans


def kept(work: Callable[[Given], Found]) -> Callable[[Given], Found]:
    """Decorate a pure function of one object that never changes: asked again for the same object, it answers at once.

    Parameters
    ----------
    work
        What it returns is shared: nobody changes it.

    Returns
    -------
    The function. It holds the last objects that it worked for, so that none of their identities is given to another meanwhile.
    """
    known: dict[int, tuple[Given, Found]] = {}

    @wraps(work)
    def answer(given: Given) -> Found:
        there = known.get(id(given))
        if there is not None and there[0] is given:
            return there[1]
        found = work(given)
        known[id(given)] = given, found
        while len(known) > KEPT:
            with suppress(KeyError, RuntimeError):  # another thread was quicker
                del known[next(iter(known))]
        return found

    return answer
