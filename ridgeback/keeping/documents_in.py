"""A daybook's document read as a stream: looked through once, then its entries as often as they are wanted.

A document of a hundred thousand entries is larger than what fits a request or a worker's memory, so no more of it than one animal
or one entry is held at a time (ijson, docs/decisions/0096-long-daybooks.md).
"""

from collections.abc import Callable, Iterable, Iterator
from typing import IO, Any, Final

import ijson
from django.utils.translation import gettext as _
from pydantic import ValidationError

from husbandry import documents
from husbandry.documents import MOST_DEPTH, MOST_VALUES, DocumentError
from ridgeback.daybook import entries
from ridgeback.daybook.models import Event
from ridgeback.keeping.shapes import FORMAT, MOST_ANIMALS, MOST_ENTRIES, AnimalTold, EntryTold, UnreadableDaybookError, checked

Opened = Callable[[], IO[bytes]]
MOST_OF_ONE: Final = 2_000_000  # bytes of one text or number
BUFFER: Final = 64 * 1024
BOM: Final = b"\xef\xbb\xbf"
TOP: Final = frozenset({("format", "string"), ("room", "string"), ("animals", "start_array"), ("entries", "start_array")})
BEGINS: Final = frozenset({"start_map", "start_array"})
ENDS: Final = frozenset({"end_map", "end_array"})


class _Bare:
    """A stream without the mark of its byte order; a `wary` one ends where nothing came of its last `MOST_OF_ONE` bytes."""

    def __init__(self, stream: IO[bytes], *, wary: bool = False) -> None:
        self.stream, self.wary, self.unused = stream, wary, 0
        self.first = stream.read(len(BOM)).removeprefix(BOM)

    def read(self, size: int) -> bytes:
        if size == 0:
            return b""
        found = self.first + self.stream.read(size)
        self.first = b""
        self.unused += len(found)
        if self.wary and self.unused > MOST_OF_ONE:
            raise UnreadableDaybookError(_("a text of it is too long"))
        return found


class Document:
    """A daybook's document that was looked through: `animals`, and the `count` of its entries.

    Raises UnreadableDaybookError.
    """

    def __init__(self, opened: Opened) -> None:
        self.opened = opened
        self.counts = {"animals": 0, "entries": 0}
        self._look_through()
        self.animals = [_animal(place, told) for place, told in enumerate(self._items("animals"), start=1)]
        _unlike(one.key for one in self.animals)
        self._judge()

    @property
    def count(self) -> int:
        return self.counts["entries"]

    def entries(self) -> Iterator[EntryTold]:
        """The entries in the order of the file."""
        for told in self._items("entries"):
            yield EntryTold.model_validate(told)

    def _items(self, name: str) -> Iterator[dict[str, Any]]:
        with self.opened() as stream:
            yield from ijson.items(_Bare(stream), f"{name}.item", use_float=True, buf_size=BUFFER)

    def _look_through(self) -> None:
        """Whether it is JSON at all, of our make, and nowhere so deep or so long that it could exhaust the machine."""
        depth, key, values, seen = 0, "", 0, set()
        with self.opened() as stream:
            bare = _Bare(stream, wary=True)
            try:
                for event, value in ijson.basic_parse(bare, use_float=True, buf_size=BUFFER):
                    bare.unused = 0
                    values += 1
                    if event == "map_key":
                        if depth == 1:
                            key = value
                        continue
                    if event in ENDS:
                        depth -= 1
                        continue
                    if depth == 0 and event != "start_map":
                        raise UnreadableDaybookError(_("it is no document with animals and entries"))
                    if depth == 1:
                        if (key, event) not in TOP or key in seen or (key == "format" and value != FORMAT):
                            raise UnreadableDaybookError(_("its part “%(name)s” is of another make") % {"name": key[:40]})
                        seen.add(key)
                    elif depth == 2:
                        values = 0
                        self.counts[key] += 1
                        if event != "start_map" or self.counts["entries"] > MOST_ENTRIES or self.counts["animals"] > MOST_ANIMALS:
                            raise UnreadableDaybookError(_("its part “%(name)s” is of another make") % {"name": key[:40]})
                    depth += event in BEGINS
                    if depth > MOST_DEPTH or values > MOST_VALUES:
                        raise UnreadableDaybookError(_("it goes too deep"))
            except (ijson.JSONError, UnicodeDecodeError):
                raise UnreadableDaybookError(_("it is damaged, or no JSON")) from None
        if not seen >= {"format", "animals", "entries"}:
            raise UnreadableDaybookError(_("it is no document with animals and entries"))

    def _judge(self) -> None:
        """Whether every entry is one that can be kept, and what they say of one another holds."""
        keys: list[int] = []
        laid: set[int] = set()
        of_clutches: dict[int, int] = {}
        replaced: list[int] = []
        for place, told in enumerate(self._items("entries"), start=1):
            entry = _entry(place, told)
            keys.append(entry.key)
            if entry.replaces is not None:
                replaced.append(entry.replaces)
            if entry.kind == Event.Kind.LAID:
                laid.add(entry.key)
            if "clutch" in entry.payload and entry.kind in entries.KINDS:
                of_clutches[entry.payload["clutch"]] = place
        _unlike(iter(keys))
        _unlike(iter(replaced))
        for clutch, place in of_clutches.items():
            if clutch not in laid:
                raise UnreadableDaybookError(_("entry %(number)s speaks of a clutch that is not in it") % {"number": place})


def _animal(place: int, told: dict[str, Any]) -> AnimalTold:
    try:
        documents.check(told)
        return AnimalTold.model_validate(told)
    except (DocumentError, ValidationError) as error:
        said = {"number": place, "part": _part(error)}
        raise UnreadableDaybookError(_("animal %(number)s of it cannot be so (%(part)s)") % said) from None


def _entry(place: int, told: dict[str, Any]) -> EntryTold:
    try:
        documents.check(told)
        entry = EntryTold.model_validate(told)
        checked(entry.kind, entry.payload)
    except (DocumentError, ValidationError) as error:
        raise UnreadableDaybookError(
            _("entry %(number)s of it cannot be so (%(part)s)") % {"number": place, "part": _part(error)}
        ) from None
    return entry


def _part(error: DocumentError | ValidationError) -> str:
    """Which part of an animal or an entry is wrong."""
    if isinstance(error, DocumentError):
        return error.code
    return ".".join(str(part) for part in error.errors(include_url=False)[0]["loc"])[:60] or _("the whole")


def _unlike(keys: Iterable[int]) -> None:
    """Refuse what stands under one key twice."""
    seen: set[int] = set()
    for key in keys:
        if key in seen:
            raise UnreadableDaybookError(_("two parts of it have the key %(key)s") % {"key": key})
        seen.add(key)
