"""JSON and TOML from outside, within limits: what could exhaust the machine, or means no number and no text, is refused.

The text is walked through once before it is parsed, and what came of it once after: size, depth, the parts of a key, the digits
of a number, the count of values. Both walks are linear in the length of the text.
"""

import json
import math
import tomllib
from collections.abc import Mapping
from datetime import datetime, time
from typing import Any, Final, Literal

from husbandry.errors import HusbandryError

MOST_DEPTH: Final = 24
MOST_KEY_PARTS: Final = 12  # of a dotted key
MOST_DIGITS: Final = 40  # of one number
MOST_VALUES: Final = 20_000
MOST_LINES: Final = 12_000

Kind = Literal["json", "toml"]


class DocumentError(HusbandryError, ValueError):
    """A text that is no document we take. `code` says why, `line` where (0 where that is not known)."""

    def __init__(self, code: str, line: int = 0, **parameters: str) -> None:
        super().__init__(f"line {line}: {code} {parameters}")
        self.code, self.line, self.parameters = code, line, parameters


def read(text: str, kind: Kind, largest_bytes: int) -> Any:
    """Parse a document.

    Parameters
    ----------
    text
        The document, decoded.
    kind
        What it is written in.
    largest_bytes
        The longest text taken, in bytes of UTF-8.

    Returns
    -------
    Any
        Tables, lists, strings, finite numbers, booleans, None, dates and times without a zone.

    Raises
    ------
    DocumentError
        `too_large`, `too_deep`, `too_long_number`, `bad_json`, `bad_toml`, `no_text` (a NUL or half a character),
        `not_finite`, `zoned_time`.
    """
    if len(text) > largest_bytes or len(text.encode(errors="replace")) > largest_bytes:
        raise DocumentError("too_large", limit=str(largest_bytes // 1000))
    _walk_text(text, kind)
    try:
        data = json.loads(text, parse_constant=_no_constant) if kind == "json" else tomllib.loads(text)
    except json.JSONDecodeError as error:
        raise DocumentError("bad_json", error.lineno, column=str(error.colno), why=error.msg) from None
    except tomllib.TOMLDecodeError as error:
        said, _at, place = str(error).partition(" (at ")
        number = place.removeprefix("line ").partition(",")[0]
        line = int(number) if number.isdecimal() else text.count("\n") + 1
        raise DocumentError("bad_toml", line, why=said) from None
    except (ValueError, RecursionError) as error:
        raise DocumentError(f"bad_{kind}", why=str(error)[:80]) from None
    check(data)
    return data


def check(data: Any) -> None:
    """Refuse what no document of ours holds, wherever it stands. Raises DocumentError."""
    waiting, count = [(data, 1)], 0
    while waiting:
        value, depth = waiting.pop()
        count += 1
        if count > MOST_VALUES or depth > MOST_DEPTH:
            raise DocumentError("too_deep")
        if isinstance(value, str):
            _check_text(value)
        elif isinstance(value, float):
            if not math.isfinite(value):
                raise DocumentError("not_finite")
        elif isinstance(value, int):
            if abs(value) > 10**MOST_DIGITS:
                raise DocumentError("too_long_number")
        elif isinstance(value, datetime | time):
            if value.tzinfo is not None:
                raise DocumentError("zoned_time")
        elif isinstance(value, Mapping):
            for key in value:
                _check_text(str(key))
            waiting += [(inner, depth + 1) for inner in value.values()]
        elif isinstance(value, list | tuple):
            waiting += [(inner, depth + 1) for inner in value]


def is_text(text: str) -> bool:
    """Tell whether a string holds neither a NUL nor half of a character: only such can be kept."""
    return "\0" not in text and not any("\ud800" <= sign <= "\udfff" for sign in text)


def _check_text(text: str) -> None:
    if not is_text(text):
        raise DocumentError("no_text")


def _no_constant(name: str) -> float:
    raise DocumentError("not_finite")


def _walk_text(text: str, kind: Kind) -> None:
    """Count depth, the parts of keys and the digits of numbers outside strings and comments."""
    depth = parts = digits = index = 0
    line, size = 1, len(text)
    while index < size:
        sign = text[index]
        if sign == '"' or (sign == "'" and kind == "toml"):
            index = _after_string(text, index, kind)
            continue
        if sign == "#" and kind == "toml":
            end = text.find("\n", index)
            index = size if end < 0 else end
            continue
        if sign in "[{":
            depth += 1
        elif sign in "]}":
            depth -= 1
        if sign == "\n":
            line += 1
        parts = parts + 1 if sign == "." else 0 if sign in "=\n,{}[]" else parts
        digits = digits + 1 if sign.isdigit() else digits if sign == "_" else 0
        if digits > MOST_DIGITS:
            raise DocumentError("too_long_number", line)
        if depth > MOST_DEPTH or parts > MOST_KEY_PARTS or line > MOST_LINES:
            raise DocumentError("too_deep", line)
        index += 1


def _after_string(text: str, index: int, kind: Kind) -> int:
    """The place behind the string that begins here; one that never ends reaches to the end of the text."""
    mark = text[index]
    if kind == "toml" and text.startswith(mark * 3, index):
        mark *= 3
    index += len(mark)
    while True:
        end = text.find(mark, index)
        if end < 0:
            return len(text)
        if mark[0] == '"':
            before, slashes = end - 1, 0
            while before >= index and text[before] == "\\":
                before, slashes = before - 1, slashes + 1
            if slashes % 2:
                index = end + 1
                continue
        return end + len(mark)
