"""Adds parts to a profile's document and takes parts out: a second school of a value, a part of the diet, a value it lacks.

A path is dotted, places in lists are numbers: "stages.0.feeding.meals.1". The document is changed where it stands; whether what
comes of it is a profile is told by `husbandry.species.reading.read_data`.
"""

from copy import deepcopy
from typing import Any, Final

from husbandry import numerals
from husbandry.errors import HusbandryError
from husbandry.species.stage import Heat, Light, Moisture, Stage, WaterRule

Document = dict[str, Any]

# The bands of a stage that may be absent as a whole.
MAY_LACK: Final = frozenset(
    name for part in (Heat, Moisture, Light, WaterRule, Stage) for name, field in part.model_fields.items() if field.default is None
)
KEEPER: Final = {"basis": "keeper", "cite": "", "note": "", "school": "", "table": ""}


class NotInAListError(HusbandryError, LookupError):
    """There is no such part, or it is one that stands alone: it can be neither doubled nor taken out."""


def _list_at(document: Document, path: str) -> list[Any]:
    """The list at a path, made where a stage lacks it. Raises NotInAListError where something else stands there, or nothing can."""
    holder: Any = document
    *way, last = path.split(".")
    try:
        for step in way:
            place: Any = int(step) if isinstance(holder, list) else step
            if holder[place] is None:  # what a stage may lack as a whole, such as its water
                holder[place] = {}
            holder = holder[place]
        if holder.get(last) is None:
            holder[last] = []
        entries = holder[last]
    except (KeyError, IndexError, ValueError, TypeError, AttributeError):
        raise NotInAListError(path) from None
    if not isinstance(entries, list):
        raise NotInAListError(path)
    return entries


def _entry(document: Document, path: str) -> tuple[list[Any], int]:
    """The list that a part stands in, and its place there. Raises NotInAListError."""
    holder, _dot, last = path.rpartition(".")
    entries = _list_at(document, holder)
    at = numerals.place(last)
    if at is None or at >= len(entries):
        raise NotInAListError(path)
    return entries, at


def another_school(document: Document, path: str, now: str, new: str) -> str:
    """Put a copy of a part below it, for another school of the same topic.

    Parameters
    ----------
    document
        The profile.
    path
        The part that there is now.
    now, new
        "topic:school" of the part there is now and of the copy.

    Returns
    -------
    The path of the copy, whose basis is the keeper.

    Raises
    ------
    NotInAListError
        Where the path leads to no entry of a list.
    """
    entries, place = _entry(document, path)
    copied = deepcopy(entries[place])
    entries[place]["school"] = _with(entries[place].get("school", ""), now)
    copied |= KEEPER | {"school": _with(copied.get("school", ""), new)}
    entries.insert(place + 1, copied)
    return f"{path.rpartition('.')[0]}.{place + 1}"


def _with(schools: str, school: str) -> str:
    """The schools of a part with one topic's replaced or added."""
    topic = school.partition(":")[0]
    kept = [part for part in schools.split() if part.partition(":")[0] != topic]
    return " ".join([*kept, school])


def take_out(document: Document, path: str) -> Document:
    """Take one entry out of its list and return it; a band that a stage may lack goes with its last. Raises NotInAListError."""
    entries, place = _entry(document, path)
    taken: Document = entries.pop(place)
    holder, _dot, name = path.rpartition(".")[0].rpartition(".")
    if not entries and name in MAY_LACK:
        part: Any = document
        for step in holder.split("."):
            part = part[int(step)] if isinstance(part, list) else part[step]
        part[name] = None
    return taken


def put_back(document: Document, path: str, taken: Document) -> str:
    """Put an entry back where it was, at the end where the list has become shorter; return its path. Raises NotInAListError."""
    holder, _dot, last = path.rpartition(".")
    entries = _list_at(document, holder)
    at = numerals.place(last)
    at = len(entries) if at is None else min(at, len(entries))
    entries.insert(at, taken)
    return f"{holder}.{at}"


def put_in(document: Document, path: str, leaf: Document) -> str:
    """Put a part of the keeper's own at the end of a list that may be absent or empty; return its path. Raises NotInAListError."""
    entries = _list_at(document, path)
    entries.append(KEEPER | leaf)
    return f"{path}.{len(entries) - 1}"
