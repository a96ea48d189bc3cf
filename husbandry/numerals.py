"""Numbers the way people write them: thousands, decimal marks, fractions. What can mean two things is never guessed.

Which mark parts the decimals differs by country. A keeper may say which they write; where they have not, "1,150" and
"1.150" have two meanings and are refused with both, while "1,5", "1,150.5" and "0,150" can mean one thing only.
"""

import re
from dataclasses import dataclass
from fractions import Fraction
from typing import Final, Literal

from husbandry.errors import HusbandryError

Decimal = Literal["", ".", ","]
MOST_DIGITS: Final = 15  # more is no number of ours, and more than a float keeps

_VULGAR: Final = {
    "½": Fraction(1, 2), "⅓": Fraction(1, 3), "⅔": Fraction(2, 3), "¼": Fraction(1, 4), "¾": Fraction(3, 4),
    "⅕": Fraction(1, 5), "⅖": Fraction(2, 5), "⅗": Fraction(3, 5), "⅘": Fraction(4, 5), "⅙": Fraction(1, 6),
    "⅚": Fraction(5, 6), "⅛": Fraction(1, 8), "⅜": Fraction(3, 8), "⅝": Fraction(5, 8), "⅞": Fraction(7, 8),
}  # fmt: skip
_SPACES: Final = " \u00a0\u2009\u202f"  # plain, no-break, thin, narrow no-break
# A number anywhere in a text: a mixed or plain fraction, digits with a vulgar fraction, or digits with their marks.
TOKEN: Final = re.compile(
    rf"[-+−]?(?:\d{{1,6}} +\d{{1,4}}/\d{{1,4}}|\d{{1,6}}/\d{{1,4}}|\d{{0,6}} ?[{''.join(_VULGAR)}]"
    rf"|\d{{1,3}}(?:[{_SPACES}]\d{{3}}(?!\d))+(?:[.,]\d+)?|\d+(?:[.,]\d+)*|[.,]\d+)",
    re.ASCII,
)


class NumberError(HusbandryError, ValueError):
    """A text that is no number we can be sure of; `code` and `parameters` say why.

    `meanings` are the numbers it could stand for where the code is "two_meanings".
    """

    def __init__(self, code: str, meanings: tuple[float, ...] = (), **parameters: str) -> None:
        super().__init__(f"{code}: {parameters}")
        self.code, self.parameters, self.meanings = code, parameters, meanings


@dataclass(frozen=True)
class _Digits:
    """Digits with their marks, as they can be read: with marks for thousands, with a mark for decimals, or both alike."""

    grouped: float | None
    pointed: float | None


def number(text: str, decimal: Decimal = "") -> float:
    """Read one number.

    Parameters
    ----------
    text
        "1,150", "1 150.5", "2½", "1 1/2", "−3". Spaces around it do not matter.
    decimal
        The mark this keeper writes before decimals; "" where they have not said.

    Returns
    -------
    float

    Raises
    ------
    NumberError
        `not_a_number`, or `two_meanings` with both meanings.
    """
    said = text.strip()
    match = TOKEN.fullmatch(said)
    if match is None or sum(sign.isdigit() for sign in said) > MOST_DIGITS:
        raise NumberError("not_a_number", text=text)
    sign = -1.0 if said[0] in "-−" else 1.0
    body = said.lstrip("+-−").strip()
    if "/" in body or any(part in body for part in _VULGAR):
        return sign * float(_fraction(body, text))
    read = _digits(body)
    if read.grouped is None and read.pointed is None:
        raise NumberError("not_a_number", text=text)
    if read.grouped is None or read.pointed is None:
        return sign * (read.pointed if read.grouped is None else read.grouped)  # type: ignore[operator]
    if decimal:
        return sign * (read.pointed if decimal in body else read.grouped)
    meanings = sign * read.grouped, sign * read.pointed
    raise NumberError("two_meanings", meanings, text=text, first=plain(meanings[0]), second=plain(meanings[1]))


def plain(value: float) -> str:
    """Write a number so that it reads one way only: "1150", "1.15", "1.1250"."""
    said = f"{value:.6f}".rstrip("0").rstrip(".")
    return said + "0" if len(said.rpartition(".")[2]) == 3 and "." in said else said


def whole(text: str, decimal: Decimal = "") -> int:
    """Read a whole number from zero on: of things one counts, "1,000" is a thousand and nothing else.

    Raises NumberError with code `not_a_whole_number`.
    """
    try:
        found = number(text, decimal)
    except NumberError as error:
        if error.code != "two_meanings":
            raise NumberError("not_a_whole_number", text=text) from None
        found = error.meanings[0]
    else:
        # A keeper who writes decimal points still counts in thousands: nobody counts three places behind the mark.
        body = text.strip().lstrip("+")
        grouped = _digits(body).grouped if body[:1].isdecimal() and "/" not in body and body[-1:].isdecimal() else None
        found = found if grouped is None else grouped
    if found < 0 or found != int(found):
        raise NumberError("not_a_whole_number", text=text)
    return int(found)


def place(text: str) -> int | None:
    """Return the place in a list that a text of plain digits names, from 0; None for any other text."""
    return int(text) if text.isascii() and text.isdecimal() and len(text) <= MOST_DIGITS else None


def _fraction(body: str, text: str) -> Fraction:
    for sign, part in _VULGAR.items():
        if sign in body:
            return Fraction(body.replace(sign, "").strip() or "0") + part
    before, _slash, below = body.rpartition("/")
    front, _space, above = before.rpartition(" ")
    if int(below) == 0:
        raise NumberError("not_a_number", text=text)
    return Fraction(front.strip() or "0") + Fraction(int(above), int(below))


def _digits(body: str) -> _Digits:
    spaced = any(sign in body for sign in _SPACES)
    body = re.sub(f"[{_SPACES}]", "", body)
    marks = [sign for sign in body if sign in ".,"]
    if not marks:
        return _Digits(None, float(body)) if body.isdecimal() else _Digits(None, None)
    parts = re.split("[.,]", body)
    groups = len(parts) > 1 and 1 <= len(parts[0]) <= 3 and parts[0] != "0" and not parts[0].startswith("0")
    if len(set(marks)) == 2:
        # The last mark parts the decimals, the others must all be the other one and part thousands.
        good = not spaced and groups and len(set(marks[:-1])) == 1 and all(len(part) == 3 for part in parts[1:-1])
        return _Digits(None, float("".join(parts[:-1]) + "." + parts[-1]) if good else None)
    whole_groups = groups and not spaced and all(len(part) == 3 for part in parts[1:])
    grouped = float("".join(parts)) if whole_groups else None
    pointed = float((parts[0] or "0") + "." + parts[1]) if len(parts) == 2 else None
    return _Digits(grouped, pointed)
