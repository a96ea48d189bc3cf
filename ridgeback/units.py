"""Numbers in the keeper's units: the only place that turns SI into what is shown, and text into SI."""

import re
from contextvars import ContextVar
from dataclasses import dataclass
from typing import Any, Final

from django.utils import formats
from django.utils.translation import gettext
from django.utils.translation import gettext_lazy as _

from husbandry.assessment import Measure
from husbandry.numerals import Decimal
from husbandry.units import UNITS, UnitError, convert, parse, unit_named

SYMBOLS: Final[dict[str, Any]] = {
    "degC": "°C", "degF": "°F", "K": "K", "cm": "cm", "in": "in", "m": "m", "ft": "ft", "g": "g", "kg": "kg", "oz": "oz",
    "lb": "lb", "L": "L", "gal": "gal",
    "m2": "m²", "cm2": "cm²", "ft2": "ft²", "%": "%", "UVI": "", "W": "W", "h": "h", "d": _("days"),
    "kWh": "kWh", "ml": "ml", "g of water": "g", "kJ": "kJ", "IU/kg": "IU/kg", "mg": "mg", "mg/kg": "mg/kg", "mg/L": "mg/L",
    ":1": ": 1", "lx": "lx", "s": "s", "1/h": _("times an hour"),
    "SED": "SED", "min": _("min"), "months": _("months"), "1": "", "years": _("years"), "parts": "", "deg": "°",
}  # fmt: skip
# From this many of the small unit on, the large one is easier to read.
LARGER: Final = {"g": (1000.0, "kg"), "oz": (32.0, "lb")}


# The decimal mark of the keeper who is answered, "" where that is their language's.
KEEPERS_MARK: ContextVar[Decimal] = ContextVar("KEEPERS_MARK", default="")


def mark() -> str:
    """The mark that decimals are written with now: the keeper's own, or else their language's."""
    return KEEPERS_MARK.get() or str(formats.get_format("DECIMAL_SEPARATOR"))


def written(value: float | str | None, form: str = "g") -> str:
    """A number without a unit as text, with the decimal mark of whoever reads it; "" where there is none.

    A number that is text already only gets the mark.
    """
    if value is None:
        return ""
    return (value if isinstance(value, str) else format(value, form)).replace(".", mark())


def amount(value: float) -> str:
    """An amount of money as text: thousands apart, two digits after the decimal mark of whoever reads it."""
    text = formats.number_format(round(value, 2), 2, use_l10n=True, force_grouping=True)
    if mark() == formats.get_format("DECIMAL_SEPARATOR"):
        return text
    return text.translate(str.maketrans(".,", ",."))


@dataclass(frozen=True)
class KeeperUnits:
    """The units one keeper reads in; the defaults are metric. `decimal` is the mark they write decimals with, "" if not told."""

    temperature: str = "degC"
    length: str = "cm"
    mass: str = "g"
    volume: str = "L"
    decimal: Decimal = ""

    def read(self, text: str, si: str) -> float:
        """Read what this keeper typed as a quantity in `si`; a bare number is in their own unit. Raises UnitError."""
        return parse(text, self.unit_for(si), self.decimal)

    def unit_for(self, si: str) -> str:
        """Return the unit that a value in `si` is shown and typed in."""
        chosen = {"degC": self.temperature, "m": self.length, "kg": self.mass, "m3": self.volume}
        if si == "m2" and self.length == "in":
            return "ft2"
        return chosen.get(si, si)

    def number(self, value: float, si: str, *, typed: bool = False, beside: float = 0.0, finer: int = 0) -> tuple[str, str]:
        """Return the number and the unit's name as shown. `typed` keeps one unit and more digits, for an input.

        `beside` is a larger value shown with it: both take its unit and its digits. `finer` is so many digits more than usual.
        """
        unit = self.unit_for(si)
        if si == "K" and self.temperature == "degF" and not typed:
            return self.marked(f"{value * 1.8:.{1 + finer}f}"), "°F"
        shown = convert(value, si, unit) if unit != si else value
        largest = max(shown, convert(beside, si, unit) if unit != si else beside)
        if not typed and unit in LARGER and largest >= LARGER[unit][0]:
            unit = LARGER[unit][1]
            shown, largest = convert(value, si, unit), convert(max(value, beside), si, unit)
        digits = UNITS[unit].digits
        if unit == "cm" and abs(largest) < 20:
            digits = 1
        if unit in ("g", "%") and abs(largest) < 10:
            digits = 1
        if unit == "oz" and abs(largest) < 1:
            digits = 2
        if typed:
            return f"{shown:.2f}".rstrip("0").rstrip("."), str(SYMBOLS[unit])
        text = f"{shown:.{digits + finer}f}"
        if unit in ("cm", "g", "in", "oz", "h") and "." in text:
            text = text.rstrip("0").rstrip(".")
        if unit == "d" and text == "1":
            return text, gettext("day")
        return self.marked("0" if text in ("-0", "-0.0") else text), str(SYMBOLS[unit])

    def marked(self, text: str) -> str:
        """A number as text with the mark its keeper writes decimals with, or, if that is not told, with their language's."""
        return text.replace(".", self.decimal or mark())

    def between(self, low: float, high: float, si: str) -> str:
        """Return a range as text, both ends in one unit: "0.65–1.30 kg", "21–32 g"."""
        first, symbol = self.number(low, si, beside=high)
        last, _symbol = self.number(high, si)
        said = first if first == last else f"{first}–{last}"
        return f"{said} {symbol}".strip()

    def aimed(self, low: float, high: float, si: str) -> str:
        """Return a range somebody aims at, which is no measurement: "31–35 °C", not "31.0–35.0 °C"."""
        return _POINT_NOUGHT.sub("", self.between(low, high, si))

    def say(self, measure: Measure, finer: int = 0) -> str:
        """Return a measure as text: "41 °C", "90 cm"."""
        number, symbol = self.number(measure.value, measure.unit, finer=finer)
        if symbol == "%":
            return f"{number} %"
        return f"{number} {symbol}".strip()

    def apart(self, one: Measure, other: Measure) -> tuple[str, str]:
        """Return two measures of one unit as texts that differ, where they do: "22.96 °C" and "23.00 °C", not 23.0 twice."""
        for finer in range(MOST_FINER + 1):
            texts = self.say(one, finer), self.say(other, finer)
            if texts[0] != texts[1]:
                return texts
        return texts


MOST_FINER: Final = 3
METRIC: Final = KeeperUnits()
US: Final = KeeperUnits("degF", "in", "oz", "gal", ".")


_POINT_NOUGHT = re.compile(r"[.,]0(?=\D|$)")
_BETWEEN = re.compile(r"\s*(?:[x×*]|\bby\b)\s*", re.IGNORECASE)


def three_sizes(text: str, units: KeeperUnits) -> tuple[float, float, float]:
    """Read three sizes as length, width and height in m.

    A number without a unit takes the nearest one after it, else the nearest before: "90 × 45 × 45 in" and "4x2x2 ft" are in
    one unit, "3 ft x 18 in x 18 in" is not. Raises UnitError.
    """
    parts = [part for part in _BETWEEN.split(text.strip()) if part]
    if len(parts) != 3:
        raise UnitError("not_a_number", text=text)
    named = [unit_named(part) for part in parts]
    read = []
    for index, part in enumerate(parts):
        nearest = [*named[index:], *reversed(named[:index])]
        unit = next((name for name in nearest if name), units.unit_for("m"))
        if UNITS[unit].dimension != "length":
            raise UnitError("wrong_dimension", text=text, unit=unit, wanted="m")
        read.append(parse(part, unit, units.decimal))
    length, width, height = read
    return length, width, height
