"""What was worked out lately for a plan: its steps, its night and what is offered for it are all one assessment."""

from collections.abc import Callable, Hashable
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Any, Final, TypeVar

Found = TypeVar("Found")

KEPT_SMALL: Final = 512  # of what is small
KEPT: Final = 32  # of the plans that were looked at last, an assessment and its offers each; a megabyte or so


@dataclass(frozen=True)
class _Asked:
    """What is to be worked out. Two are the same by their key; what a key names by its place lives on in `work`."""

    key: Hashable
    work: Callable[[], Any] = field(compare=False)


@lru_cache(maxsize=KEPT)
def _worked_out(asked: _Asked) -> Any:
    return asked.work()


@lru_cache(maxsize=KEPT_SMALL)
def _worked_out_small(asked: _Asked) -> Any:
    return asked.work()


def once_small(key: Hashable, work: Callable[[], Found]) -> Found:
    """As `once`, for answers of some kilobytes: hundreds of them are kept."""
    found: Found = _worked_out_small(_Asked(key, work))
    return found


def once(key: Hashable, work: Callable[[], Found]) -> Found:
    """Return what `work` comes to, or what it came to when it was last asked for by this key.

    Parameters
    ----------
    key
        All that the answer depends on.
    work
        A pure function of that, whose answer nobody changes.

    Returns
    -------
    The answer.
    """
    found: Found = _worked_out(_Asked(key, work))
    return found


def forget() -> None:
    """Forget all of it."""
    _worked_out.cache_clear()
