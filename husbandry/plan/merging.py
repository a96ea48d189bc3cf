"""Two edits of one plan that began at the same state: put together field by field; only where both changed one thing they clash."""

from dataclasses import dataclass
from typing import Any, Final

Document = dict[str, Any]
_NOTHING: Final = object()


@dataclass(frozen=True)
class Merged:
    """The document with both edits in it. At each path of `clashes` both sides changed the same thing, and ours stands."""

    document: Document
    clashes: tuple[str, ...]


def merge(base: Document, ours: Document, theirs: Document) -> Merged:
    """Put our edit of `base` into what it has become meanwhile.

    Parameters
    ----------
    base
        The document both edits began with.
    ours
        The document after our edit.
    theirs
        The document as it stands now.

    Returns
    -------
    Merged
        A list is put together part by part while it has the same length on all sides; otherwise it counts as one thing.
    """
    clashes: list[str] = []
    document = _merge(base, ours, theirs, (), clashes)
    assert isinstance(document, dict)
    return Merged(document, tuple(clashes))


def _merge(base: Any, ours: Any, theirs: Any, path: tuple[str, ...], clashes: list[str]) -> Any:
    if ours == base:
        return theirs
    if theirs in (base, ours):
        return ours
    if isinstance(base, dict) and isinstance(ours, dict) and isinstance(theirs, dict):
        found = {
            name: _merge(base.get(name, _NOTHING), ours.get(name, _NOTHING), theirs.get(name, _NOTHING), (*path, name), clashes)
            for name in dict.fromkeys((*theirs, *ours))
        }
        return {name: value for name, value in found.items() if value is not _NOTHING}
    lists = isinstance(base, list) and isinstance(ours, list) and isinstance(theirs, list)
    if lists and len(base) == len(ours) == len(theirs):
        triples = enumerate(zip(base, ours, theirs, strict=True))
        return [_merge(was, mine, now, (*path, str(index)), clashes) for index, (was, mine, now) in triples]
    clashes.append(".".join(path))
    return ours
