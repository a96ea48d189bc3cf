"""Numbers out of a request, from whoever sends it."""

from typing import Final

MOST_DIGITS: Final = 15  # more is no number of ours, and too much for the database


def whole(text: object) -> int | None:
    """Return a whole number from zero on, None for anything else."""
    said = str(text).strip() if text is not None else ""
    return int(said) if said.isdecimal() and len(said) <= MOST_DIGITS else None


def key(text: object) -> int:
    """Return the key of a row, 0 where it is none: there is no such row."""
    return whole(text) or 0
