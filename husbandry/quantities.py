"""Units: what a keeper types in either system becomes SI, and back. A slipped unit is caught and the other offered.

Inside the core everything is SI (m, kg, m³, s) with temperatures in °C and shares in percent. The names of units here
are those a `Quantity` carries. A general unit library was considered and left out: see docs/decisions/0003.
"""

import re
from dataclasses import dataclass
from typing import Final

INCH_M: Final = 0.0254
FOOT_M: Final = 0.3048
POUND_KG: Final = 0.45359237
OUNCE_KG: Final = POUND_KG / 16
US_GALLON_M3: Final = 3.785411784e-3


@dataclass(frozen=True)
class Unit:
    """A unit of one dimension: SI value = `factor` × number + `offset`."""

    name: str
    dimension: str
    factor: float
    offset: float = 0.0
    digits: int = 0


_TABLE = (
    Unit("m", "length", 1.0, digits=2),
    Unit("cm", "length", 0.01, digits=0),
    Unit("mm", "length", 0.001, digits=0),
    Unit("in", "length", INCH_M, digits=1),
    Unit("ft", "length", FOOT_M, digits=1),
    Unit("kg", "mass", 1.0, digits=2),
    Unit("g", "mass", 0.001, digits=0),
    Unit("lb", "mass", POUND_KG, digits=2),
    Unit("oz", "mass", OUNCE_KG, digits=1),
    Unit("degC", "temperature", 1.0, digits=1),
    Unit("degF", "temperature", 5 / 9, -160 / 9, digits=0),
    Unit("K", "temperature difference", 1.0, digits=1),
    Unit("m3", "volume", 1.0, digits=3),
    Unit("L", "volume", 1e-3, digits=0),
    Unit("gal", "volume", US_GALLON_M3, digits=1),
    Unit("m2", "area", 1.0, digits=2),
    Unit("cm2", "opening", 1.0, digits=0),
    Unit("ft2", "area", FOOT_M**2, digits=1),
    Unit("%", "share", 1.0, digits=0),
    Unit("UVI", "UV index", 1.0, digits=1),
    Unit("W", "power", 1.0, digits=0),
    Unit("kWh", "energy", 1.0, digits=2),
    Unit("kJ", "food energy", 1.0, digits=0),
    Unit("IU/kg", "vitamin content", 1.0, digits=0),
    Unit(":1", "ratio", 1.0, digits=1),
    Unit("SED", "dose", 1.0, digits=1),
    Unit("min", "minutes", 1.0, digits=0),
    Unit("h", "hours", 1.0, digits=1),
    Unit("d", "days", 1.0, digits=0),
    Unit("months", "age", 1.0, digits=0),
    Unit("years", "age", 12.0, digits=1),
    Unit("weeks", "age", 12 / 52.1775, digits=0),
    Unit("days", "age", 12 / 365.2425, digits=0),
    Unit("1", "number", 1.0, digits=0),
)
UNITS: Final = {unit.name: unit for unit in _TABLE}

_SPELLINGS = {
    "metre": "m", "metres": "m", "meter": "m", "meters": "m", "centimetres": "cm", "centimeters": "cm",
    "inch": "in", "inches": "in", '"': "in", "″": "in", "”": "in", "foot": "ft", "feet": "ft", "'": "ft", "′": "ft", "’": "ft",
    "kilo": "kg", "kilos": "kg", "gram": "g", "grams": "g", "lbs": "lb", "pound": "lb", "pounds": "lb",
    "ounce": "oz", "ounces": "oz",
    "°c": "degC", "c": "degC", "celsius": "degC", "°f": "degF", "f": "degF", "fahrenheit": "degF",
    "l": "L", "litre": "L", "litres": "L", "liter": "L", "liters": "L", "gallon": "gal", "gallons": "gal",
    "percent": "%", "uvi": "UVI", "w": "W", "watt": "W", "watts": "W", "hours": "h", "hour": "h",
    "month": "months", "mo": "months", "year": "years", "yr": "years", "yrs": "years", "y": "years", "week": "weeks", "wk": "weeks",
    "day": "days",
}  # fmt: skip
_PART = re.compile(r"\s*([-+−]?\d+(?:[.,]\d+)?|[-+−]?[.,]\d+)\s*([^\d\s.,+−-][^\d\s.,+−-]*)?")


class UnitError(ValueError):
    """A text that is no quantity; `code` and `parameters` say why."""

    def __init__(self, code: str, **parameters: str) -> None:
        super().__init__(f"{code}: {parameters}")
        self.code = code
        self.parameters = parameters


def parse(text: str, default_unit: str) -> float:
    """Read a number with or without a unit ("4 ft", "88F", "3 ft 6 in", "1,5 kg") and return its SI value.

    `default_unit` gives the dimension, and the unit of a bare number. Raises UnitError with code `not_a_number`,
    `unknown_unit` or `wrong_dimension`.
    """
    wanted = UNITS[default_unit]
    position, total, sign = 0, 0.0, 1.0
    stripped = text.strip()
    if not stripped:
        raise UnitError("not_a_number", text=text)
    while position < len(stripped):
        match = _PART.match(stripped, position)
        if match is None:
            raise UnitError("not_a_number", text=text)
        number = float(match[1].replace("−", "-").replace(",", "."))
        name = _unit_name(match[2]) if match[2] else default_unit
        if name is None:
            raise UnitError("unknown_unit", text=text, unit=match[2])
        unit = UNITS[name]
        if unit.dimension != wanted.dimension:
            raise UnitError("wrong_dimension", text=text, unit=match[2] or default_unit, wanted=default_unit)
        if position and (not match[2] or unit.dimension == "temperature"):
            raise UnitError("not_a_number", text=text)
        if not position and match[1][0] in "-−":
            sign = -1.0
        total += unit.factor * number + unit.offset if not position else sign * unit.factor * abs(number)
        position = match.end()
        while position < len(stripped) and stripped[position].isspace():
            position += 1
    return total


def _unit_name(text: str) -> str | None:
    if text in UNITS:
        return text
    return _SPELLINGS.get(text.lower()) or (text.lower() if text.lower() in UNITS else None)


def convert(value: float, unit: str, target: str) -> float:
    """Convert `value` from `unit` to `target`; both must be of one dimension (ValueError otherwise)."""
    source, wanted = UNITS[unit], UNITS[target]
    if source.dimension != wanted.dimension:
        raise ValueError(f"{unit} is no {wanted.dimension}")
    return (source.factor * value + source.offset - wanted.offset) / wanted.factor


def other_unit_meaning(value_c: float, low_c: float, high_c: float) -> float | None:
    """If `value_c` (°C) is beyond `low_c`–`high_c` but fits when read as °F, return that meaning in °C.

    The commonest slip of the trade: a 90 °F basking spot written as 90 °C, and its reverse.
    """
    if low_c <= value_c <= high_c:
        return None
    as_fahrenheit = convert(value_c, "degF", "degC")
    if low_c <= as_fahrenheit <= high_c:
        return as_fahrenheit
    as_celsius = convert(value_c, "degC", "degF")
    return as_celsius if low_c <= as_celsius <= high_c else None
