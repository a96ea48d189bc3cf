"""What people type, out of a request: whole numbers, clock times, dates. Quantities are read by `ridgeback.units`."""

import re
from datetime import date, time
from typing import Final

from dateutil import parser as dates

from husbandry import numerals
from husbandry.numerals import Decimal, NumberError
from husbandry.plan.equipment import FIRST_DAY, LAST_DAY
from husbandry.units import parse

_CLOCK = re.compile(
    r"(\d{1,2})(?:(?:\s*[:.h]\s*|(?<=\d\d))(\d{2}))?(?::\d{2}(?:\.\d+)?)?\s*(?:(a|p)\.?\s*m\.?|h|uhr|o.?clock)?", re.ASCII
)
_COUNTED = re.compile(r"\s*(?:pcs?|pieces?|x|×)\.?$", re.IGNORECASE)
_NAMED: Final = {"noon": time(12), "midday": time(12), "midnight": time(0)}
_NUMBERS = re.compile(r"(\d{1,2})\s*([/.-])\s*(\d{1,2})\s*\2\s*(\d{4})", re.ASCII)
_ISO = re.compile(r"(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})", re.ASCII)
# A date in words names its month and a year of four digits; anything vaguer would be a guess.
_WORDS = re.compile(r"(?=.*\b\d{4}\b)(?=.*[A-Za-z]{3})[A-Za-z0-9 ,.]{8,25}", re.ASCII)


def whole(text: object, decimal: Decimal = "") -> int | None:
    """Return a whole number from zero on, None for anything else."""
    said = str(text).strip() if text is not None else ""
    try:
        return numerals.whole(said, decimal)
    except NumberError:
        return None


def key(text: object) -> int:
    """Return the key of a row, 0 where it is none: there is no such row."""
    said = str(text).strip() if text is not None else ""
    return numerals.place(said) or 0


def amount(text: str, unit: str, decimal: Decimal = "") -> float:
    """Read an amount from zero on, in `unit` ("g", or "piece" or "" for a plain number); money may carry its sign.

    Raises NumberError; "negative" below zero.
    """
    if unit == "piece":
        said = _COUNTED.sub("", text.strip())
        try:
            return float(numerals.whole(said, decimal))
        except NumberError:
            found = parse(said, "1", decimal)  # half a mouse
    elif unit == "g":
        found = parse(text, "g", decimal) * 1000
    else:
        found = parse(text.strip("€$£¥ "), "1", decimal)
    if found < 0:
        raise NumberError("negative", text=text)
    return found


def several(text: str) -> list[str]:
    """The numbers of a list typed in one line: parted by spaces, semicolons or a comma with a space behind it."""
    return re.sub(r",\s|;", " ", text).split()


def clock_time(text: str) -> time:
    """Read "8:30", "8pm", "8.30 pm", "20h15", "0830" or "noon". Raises NumberError with code `not_a_time`."""
    said = text.strip().lower()
    if said in _NAMED:
        return _NAMED[said]
    match = _CLOCK.fullmatch(said)
    if match is None:
        raise NumberError("not_a_time", text=text)
    hour, minute, half = int(match[1]), int(match[2] or 0), match[3]
    if half and not 1 <= hour <= 12:
        raise NumberError("not_a_time", text=text)
    hour = hour % 12 + (12 if half == "p" else 0) if half else hour
    if hour > 23 or minute > 59:
        raise NumberError("not_a_time", text=text)
    return time(hour, minute)


def day(text: str) -> date:
    """Read a date: "2026-11-30", "30.11.2026", "11/30/2026", "30 Nov 2026".

    A date in numbers alone that could be read two ways is not guessed. Raises NumberError: `not_a_date`,
    `date_two_ways` with both in its parameters, or `date_far_off` for a year nobody means.
    """
    found = _day(text.strip(), text)
    if not FIRST_DAY <= found <= LAST_DAY:
        raise NumberError("date_far_off", text=text)
    return found


def _day(said: str, text: str) -> date:
    try:
        if match := _ISO.fullmatch(said):
            return date(int(match[1]), int(match[2]), int(match[3]))
        if match := _NUMBERS.fullmatch(said):
            return _by_numbers(int(match[1]), int(match[3]), int(match[4]), text)
        if _WORDS.fullmatch(said):
            return dates.parse(said, dayfirst=True).date()
    except (ValueError, OverflowError) as error:
        if isinstance(error, NumberError):
            raise
    raise NumberError("not_a_date", text=text)


def _by_numbers(first: int, second: int, year: int, text: str) -> date:
    if first <= 12 and second <= 12 and first != second:
        either, other = date(year, second, first).isoformat(), date(year, first, second).isoformat()
        raise NumberError("date_two_ways", text=text, either=either, other=other)
    return date(year, second, first) if second <= 12 else date(year, first, second)
