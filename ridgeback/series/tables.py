"""Files of readings as loggers write them: what parts the columns, what each column is, in which unit, order and zone.

Nothing is taken in here. What cannot be told from the file alone (day before month, the zone of a clock that names none) is said to
be open, and the keeper answers it once for all files of that shape.
"""

import csv
import functools
import hashlib
import itertools
import re
from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta, tzinfo
from typing import Final, Literal
from zoneinfo import ZoneInfo

from dateutil import parser as dates
from dateutil.tz import tzoffset

from husbandry.errors import HusbandryError

Kind = Literal["moment", "date", "clock", "value", "other"]
Order = Literal["", "dm", "md"]

MOST_COLUMNS: Final = 40
EARLIEST_YEAR, LATEST_YEAR = 1900, 2200
MOST_OF_A_LINE: Final = 4_000  # signs
LOOKED_AT: Final = 240  # rows, spread over the file
SNIFFED_LINES: Final = 60
HEAD_LINES: Final = 200  # above which the readings begin
AGREE: Final = 0.9  # of a column's cells that have to be of a kind
DELIMITERS: Final = (",", ";", "\t", "|")
DATES: Final[dict[Order, tuple[str, ...]]] = {
    "": ("%Y-%m-%d", "%Y/%m/%d", "%Y.%m.%d", "%d %b %Y", "%d-%b-%Y", "%d-%b-%y", "%b %d %Y", "%d %B %Y"),
    "dm": ("%d.%m.%Y", "%d/%m/%Y", "%d-%m-%Y", "%d.%m.%y", "%d/%m/%y", "%d-%m-%y"),
    "md": ("%m/%d/%Y", "%m-%d-%Y", "%m.%d.%Y", "%m/%d/%y", "%m-%d-%y"),
}
CLOCKS: Final = ("%H:%M:%S", "%H:%M", "%H:%M:%S.%f", "%I:%M:%S %p", "%I:%M %p")
BETWEEN: Final = (" ", "T", ", ", "  ")
_NUMBER = re.compile(r"([-+−]?\d+(?:[.,]\d+)?)\s*(°?\s?[CF]|%|%\s?r\.?h\.?|W|UVI)?", re.IGNORECASE)
_OFFSET = re.compile(r"(?:UTC|GMT)\s*([-+−])\s*(\d{1,2})(?::?(\d{2}))?", re.IGNORECASE)
_UTC = re.compile(r"\b(?:UTC|GMT)\b|\bZulu\b", re.IGNORECASE)
_MISSING: Final = ("", "-", "--", "---", "nan", "n/a", "null", "none", "err", "error", "ol", "#n/a")
_EPOCH = re.compile(r"1\d{9}(?:\.\d+)?|1\d{12}")


class TableError(HusbandryError):
    """A file that holds no table of readings. `code` says why."""

    def __init__(self, code: str) -> None:
        super().__init__(code)
        self.code = code


@dataclass(frozen=True)
class Column:
    """One column: its name, what it seems to be, its unit where the file says one, and a cell to show."""

    name: str
    kind: Kind
    unit: str
    sample: str


@dataclass(frozen=True)
class OpenedTable:
    """A file's columns and the lines of its rows; `order` of day and month, "" where it cannot be mistaken, and whether it is open.

    `zone` is what the file says of its clock: "" for nothing, "UTC", or "+01:00".
    """

    columns: tuple[Column, ...]
    lines: list[str]
    delimiter: str
    order: Order
    open_order: bool
    zone: str

    def rows(self) -> Iterator[list[str]]:
        """Its rows, each as wide as the columns."""
        return _rows(self.lines, self.delimiter, len(self.columns))

    @property
    def shape(self) -> str:
        """What files of the same logger have in common: the names of their columns."""
        return hashlib.sha256("\x1f".join(column.name for column in self.columns).encode()).hexdigest()


def recognise(content: bytes) -> OpenedTable:
    """Return the table in a file. Raises TableError: `no_text`, `no_rows`, `no_moment`, `no_values` or `too_wide`."""
    try:
        return _recognise(content)
    except csv.Error:  # a quotation mark that never ends
        raise TableError("no_rows") from None


def _recognise(content: bytes) -> OpenedTable:
    text = _text(content)
    lines = [line for line in text.splitlines() if line.strip()]
    if len(lines) < 2:
        raise TableError("no_rows")
    if max(map(len, lines)) > MOST_OF_A_LINE:
        raise TableError("too_wide")  # and what tells the delimiter would look at it for minutes
    delimiter = _delimiter(lines)
    width = Counter(len(row) for row in csv.reader(_spread(lines[len(lines) // 3 :]), delimiter=delimiter)).most_common(1)[0][0]
    if width > MOST_COLUMNS:
        raise TableError("too_wide")
    top = [[cell.strip() for cell in row] for row in csv.reader(lines[:HEAD_LINES], delimiter=delimiter)]
    first = next((place for place, row in enumerate(top) if _is_data(row, width)), None)
    if first is None:
        raise TableError("no_moment" if width >= 2 else "no_rows")
    names, body = _names(top[:first], width), lines[first:]
    looked = list(_rows(_spread(body), delimiter, width))
    columns = tuple(_column(names[at], [row[at] for row in looked], first=at == 0) for at in range(width))
    kinds = [column.kind for column in columns]
    if "moment" not in kinds and not ("date" in kinds and "clock" in kinds):
        raise TableError("no_moment")
    if "value" not in kinds:
        raise TableError("no_values")
    at = kinds.index("moment" if "moment" in kinds else "date")
    order, open_order = _order([row[at] for row in _rows(body, delimiter, width)])
    head = " ".join(" ".join(row) for row in top[:first])
    return OpenedTable(columns, body, delimiter, order, open_order, _zone(head, [row[at] for row in looked]))


def _rows(lines: Sequence[str], delimiter: str, width: int) -> Iterator[list[str]]:
    for row in csv.reader(lines, delimiter=delimiter):
        cells = [cell.strip() for cell in row[:width]]
        yield cells + [""] * (width - len(cells))


def _text(content: bytes) -> str:
    for mark, encoding in ((b"\xef\xbb\xbf", "utf-8-sig"), (b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16")):
        if content.startswith(mark):
            try:
                return content.decode(encoding)
            except UnicodeDecodeError:
                raise TableError("no_text") from None
    if b"\x00" in content[:4096]:
        raise TableError("no_text")
    try:
        return content.decode("utf-8")
    except UnicodeDecodeError:
        return content.decode("cp1252", errors="replace")


def _delimiter(lines: Sequence[str]) -> str:
    """What parts the columns, told from the last lines: above the first readings loggers write about themselves."""
    import clevercsv  # reading its tables of characters takes half a second, which no start shall wait for

    sample = "\n".join(lines[-SNIFFED_LINES:])
    try:
        found = clevercsv.Sniffer().sniff(sample, delimiters=list(DELIMITERS))
    except clevercsv.Error:
        return ","
    return str(found.delimiter) if found is not None and found.delimiter in DELIMITERS else ","


def _is_data(row: Sequence[str], width: int) -> bool:
    """Tell whether a row has a moment and a number."""
    if len(row) < 2 or abs(len(row) - width) > 1:
        return False
    moments = [at for at, cell in enumerate(row) if _looks_like_moment(cell) or _looks_like_date(cell)]
    return bool(moments) and any(at not in moments and number(cell) is not None for at, cell in enumerate(row))


def _names(above: Sequence[Sequence[str]], width: int) -> list[str]:
    """The columns' names: the last row above the readings that is as wide as they are."""
    for row in reversed(above):
        if len(row) >= width - 1 and sum(1 for cell in row if cell) >= max(width // 2, 2):
            return [row[at] if at < len(row) and row[at] else f"{at + 1}" for at in range(width)]
    return [f"{at + 1}" for at in range(width)]


def _spread(lines: Sequence[str]) -> list[str]:
    step = max(len(lines) // LOOKED_AT, 1)
    return list(lines[::step])


def _column(name: str, cells: Sequence[str], *, first: bool) -> Column:
    filled = [cell for cell in cells if cell.lower() not in _MISSING]
    sample = filled[0] if filled else ""

    def most(test: Callable[[str], bool]) -> bool:
        return bool(filled) and sum(map(test, filled)) >= AGREE * len(filled)

    if most(_looks_like_moment):
        return Column(name, "moment", "", sample)
    if most(_looks_like_date):
        return Column(name, "date", "", sample)
    if most(_looks_like_clock):
        return Column(name, "clock", "", sample)
    if most(lambda cell: number(cell) is not None) and not (first and _counts_up(filled)):
        return Column(name, "value", _unit(name, sample), sample)
    return Column(name, "other", "", sample)


def _counts_up(cells: Sequence[str]) -> bool:
    """Tell whether a column only numbers its rows."""
    found = [int(cell) for cell in cells if cell.isdecimal()]
    if len(found) < 3 or len(found) < len(cells):
        return False
    steps = {later - earlier for earlier, later in itertools.pairwise(found)}
    return len(steps) <= 2 and min(steps) > 0


def _unit(name: str, sample: str) -> str:
    """The unit that a column's head or cell names: degC, degF, %, UVI, W, or "" for none."""
    for text in (sample, name):
        said = text.lower()
        if re.search(r"°\s?f\b|℉|\bdeg\.? ?f|fahrenheit|[(\[]\s?f\s?[)\]]|\d\s?f\b|temp\w*[_ ]f$", said):
            return "degF"
        if re.search(r"°\s?c\b|℃|\bdeg\.? ?c|celsius|[(\[]\s?c\s?[)\]]|\d\s?c\b|temp\w*[_ ]c$", said):
            return "degC"
        if re.search(r"%|\brh\b|humid", said):
            return "%"
        if re.search(r"\buvi?\b|uv.?index", said):
            return "UVI"
        if re.search(r"[(\[]\s?w\s?[)\]]|\bwatts?\b|\bpower\b", said):
            return "W"
    return ""


def number(cell: str) -> float | None:
    """A cell as a number, with a comma or a point, and a unit behind it or none; None for anything else."""
    match = _NUMBER.fullmatch(cell.strip().replace("\u00a0", " ").strip())
    return None if match is None else float(match[1].replace(",", ".").replace("−", "-"))


def _looks_like_moment(cell: str) -> bool:
    if _EPOCH.fullmatch(cell):
        return True
    return len(cell) >= 11 and any(character in cell for character in ":T.") and _parse(cell, "") is not None


def _looks_like_date(cell: str) -> bool:
    return any(_try(cell, form) is not None for forms in DATES.values() for form in forms)


def _looks_like_clock(cell: str) -> bool:
    return any(_try(cell, form) is not None for form in CLOCKS)


# As many signs as strptime may take for each directive. It compiles the pattern of a form anew for every cell where there are
# more forms than it remembers, which are five.
_SIGNS: Final = {
    **dict.fromkeys("mHMSI", r"\d{1,2}"), "d": r"(?:\d{1,2}|\s\d)", "Y": r"\d{4}", "y": r"\d{2}", "f": r"\d{1,6}",
    "b": r"[^\W\d_]+\.?", "B": r"[^\W\d_]+\.?", "p": r"[^\W\d_]+",
}  # fmt: skip


@functools.cache
def _outline(form: str) -> re.Pattern[str]:
    """What every cell looks like that has this form."""

    def signs(part: re.Match[str]) -> str:
        return _SIGNS[part[1]] if part[1] else r"\s+" if part[2] else re.escape(part[3])

    return re.compile(re.sub(r"%(\w)|(\s+)|(.)", signs, form), re.IGNORECASE)


def _try(cell: str, form: str) -> datetime | None:
    if not _outline(form).fullmatch(cell):
        return None
    try:
        return datetime.strptime(cell, form)  # noqa: DTZ007 - a clock without a zone is what a file has
    except ValueError:
        return None


def _forms(order: Order) -> Iterator[str]:
    """Forms of a moment; both orders of day and month where the order is open."""
    wanted: tuple[Order, ...] = ("", order) if order else ("", "dm", "md")
    for one in wanted:
        for day in DATES[one]:
            for between in BETWEEN:
                for clock in CLOCKS:
                    yield day + between + clock


def _parse(cell: str, order: Order) -> datetime | None:
    """A moment, with its zone where the cell names one."""
    if _EPOCH.fullmatch(cell):
        seconds = float(cell)
        return datetime.fromtimestamp(seconds / 1000 if seconds > 1e11 else seconds, UTC)
    try:
        return datetime.fromisoformat(cell)
    except ValueError:
        pass
    bare = _OFFSET.sub("", cell).strip() if _OFFSET.search(cell) else cell
    for form in _forms(order):
        found = _try(bare, form)
        if found is not None:
            return found.replace(tzinfo=_offset(cell)) if bare != cell else found
    return _by_words(cell, order)


def _by_words(cell: str, order: Order) -> datetime | None:
    if not re.search(r"\d.*\d.*:", cell) or len(cell) > 40:
        return None
    try:
        found = dates.parse(cell, dayfirst=order != "md")
    except (ValueError, OverflowError):
        return None
    return found


def _offset(text: str) -> tzinfo | None:
    match = _OFFSET.search(text)
    if match is None:
        return None
    minutes = int(match[2]) * 60 + int(match[3] or 0)
    return tzoffset(None, (1 if match[1] == "+" else -1) * minutes * 60)


def _order(cells: Sequence[str]) -> tuple[Order, bool]:
    """The order of day and month, and whether nothing tells it: by a day above twelve, else by which way the rows ascend evenly."""
    found = [match for cell in cells if (match := re.match(r"(\d{1,2})[./-](\d{1,2})[./-]\d{2,4}", cell))]
    if not found:
        return "", False
    firsts, seconds = {int(match[1]) for match in found}, {int(match[2]) for match in found}
    if max(firsts) > 12:
        return "dm", False
    if max(seconds) > 12:
        return "md", False
    if len(firsts) == len(seconds) == 1 and firsts == seconds:
        return "dm", False  # the same day either way
    if "." in found[0][0]:
        return "dm", False  # with points nobody writes the month first
    # The part that changes from day to day is the day; the other changes after a month.
    changes = [sum(1 for one, two in itertools.pairwise(found) if one[part] != two[part]) for part in (1, 2)]
    if changes[0] != changes[1]:
        return ("dm" if changes[0] > changes[1] else "md"), False
    return "dm", True


def _zone(head: str, cells: Sequence[str]) -> str:
    """What a file says of its clock."""
    for text in (*cells[:3], head):
        if _EPOCH.fullmatch(text) or re.search(r"\d(?:Z|[+-]\d{2}:?\d{2})$", text):
            return "UTC"  # each cell says its own
        match = _OFFSET.search(text)
        if match is not None:
            return f"{'+' if match[1] == '+' else '-'}{int(match[2]):02d}:{match[3] or '00'}"
        if _UTC.search(text):
            return "UTC"
    return ""


def zone_of(said: str) -> tzinfo:
    """A zone by its name or by "+01:00". Raises KeyError for none."""
    if said == "UTC":
        return UTC
    match = re.fullmatch(r"([+-])(\d{2}):(\d{2})", said)
    if match is not None:
        return tzoffset(None, (1 if match[1] == "+" else -1) * (int(match[2]) * 60 + int(match[3])) * 60)
    try:
        return ZoneInfo(said)
    except (ValueError, OSError):
        raise KeyError(said) from None


@dataclass(frozen=True)
class MeasuredRow:
    """A row's moment, and its numbers by column; no moment where that cannot be read."""

    at: datetime | None
    values: dict[int, float]


def read(table: OpenedTable, moment: tuple[int, ...], values: Sequence[int], order: Order, zone: tzinfo) -> Iterator[MeasuredRow]:
    """Read the rows: the columns of their moment (one, or a date's and a clock's), and those of values.

    A clock that is put back in autumn shows an hour twice: where the rows step back within it, the second one is meant.
    """
    clock = _Clock(order, zone)
    for row in table.rows():
        at = clock.read(" ".join(row[column] for column in moment).strip())
        found = {column: value for column in values if (value := number(row[column])) is not None}
        yield MeasuredRow(at, found)


class _Clock:
    """A logger's clock through a file."""

    def __init__(self, order: Order, zone: tzinfo) -> None:
        self.order, self.zone = order, zone
        self.form = ""
        self.last: datetime | None = None
        self.again = False

    def read(self, cell: str) -> datetime | None:
        bare = _try(cell, self.form) if self.form else None
        if bare is None:
            bare = self._by_any_form(cell)
        if bare is None or not EARLIEST_YEAR < bare.year < LATEST_YEAR:
            return None  # a year that no zone can be reckoned for
        if bare.tzinfo is not None:
            return bare.astimezone(UTC)
        if self.last is not None and bare < self.last - timedelta(minutes=20) and self._twice(bare):
            self.again = True
        elif not self._twice(bare):
            self.again = False
        self.last = bare
        return bare.replace(tzinfo=self.zone, fold=int(self.again)).astimezone(UTC)

    def _by_any_form(self, cell: str) -> datetime | None:
        for form in _forms(self.order):
            found = _try(cell, form)
            if found is not None:
                self.form = form
                return found
        return _parse(cell, self.order)

    def _twice(self, bare: datetime) -> bool:
        first, second = (bare.replace(tzinfo=self.zone, fold=fold).utcoffset() for fold in (0, 1))
        return first is not None and second is not None and first > second
