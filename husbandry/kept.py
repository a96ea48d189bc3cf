"""What was worked out lately of an object that never changes: kept by the object itself, for comparing whole plans takes longer."""

from collections.abc import Callable
from functools import lru_cache, wraps
from typing import Final, Generic, TypeVar

Given = TypeVar("Given")
Found = TypeVar("Found")

KEPT: Final = 64  # objects of each function: a search compares some dozens of plans


class _Same(Generic[Given]):
    """Equal to another that holds the very same object."""

    __slots__ = ("held",)

    def __init__(self, held: Given) -> None:
        self.held = held

    def __hash__(self) -> int:
        return id(self.held)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Same) and other.held is self.held


def kept(work: Callable[[Given], Found]) -> Callable[[Given], Found]:
    """Decorate a pure function of one object that never changes: asked again for the same object, it answers at once.

    Parameters
    ----------
    work
        What it returns is shared: nobody changes it.

    Returns
    -------
    The function. It holds the last objects it was asked for, so that none of their identities is given to another meanwhile.
    """

    @lru_cache(maxsize=KEPT)
    def once(same: _Same[Given]) -> Found:
        return work(same.held)

    @wraps(work)
    def answer(given: Given) -> Found:
        return once(_Same(given))

    return answer
