"""Units: what a keeper types in either system becomes SI, and back. A slipped unit is caught and the other offered.

Inside the core everything is SI (m, kg, m³, s) with temperatures in °C and shares in percent. The names of units here
are those a `Quantity` carries. A general unit library was considered and left out: see docs/decisions/0003.
"""

import re
from dataclasses import dataclass
from typing import Final

from husbandry import numerals
from husbandry.numerals import Decimal, NumberError

DAYS_A_YEAR: Final = 365.2425
DAYS_A_MONTH: Final = DAYS_A_YEAR / 12
TOLERANCE_M: Final = 0.001  # a millimetre short of a size is the maker's tolerance, not a fault


def clock_text(hour: float) -> str:
    """Return an hour of the day, in any turn of it, as "HH:MM"."""
    minutes = round(hour * 60) % 1440
    return f"{minutes // 60:02d}:{minutes % 60:02d}"


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
    Unit("ml", "volume", 1e-6, digits=0),
    Unit("gal", "volume", US_GALLON_M3, digits=1),
    Unit("m2", "area", 1.0, digits=2),
    Unit("cm2", "opening", 1.0, digits=0),
    Unit("ft2", "area", FOOT_M**2, digits=1),
    Unit("%", "share", 1.0, digits=0),
    Unit("UVI", "UV index", 1.0, digits=1),
    Unit("lx", "illuminance", 1.0, digits=0),
    Unit("W", "power", 1.0, digits=0),
    Unit("kWh", "energy", 1.0, digits=2),
    Unit("kJ", "food energy", 1.0, digits=0),
    Unit("IU/kg", "vitamin content", 1.0, digits=0),
    Unit("mg", "dose of a vitamin", 1.0, digits=1),
    Unit("mg/L", "concentration in water", 1.0, digits=2),
    Unit("mg/kg", "trace content", 1.0, digits=1),
    Unit(":1", "ratio", 1.0, digits=1),
    Unit("SED", "dose", 1.0, digits=1),
    Unit("min", "minutes", 1.0, digits=0),
    Unit("h", "hours", 1.0, digits=1),
    Unit("s", "seconds", 1.0, digits=0),
    Unit("1/h", "changes an hour", 1.0, digits=1),
    Unit("d", "days", 1.0, digits=0),
    Unit("months", "age", 1.0, digits=0),
    Unit("years", "age", 12.0, digits=1),
    Unit("weeks", "age", 12 / 52.1775, digits=0),
    Unit("days", "age", 12 / 365.2425, digits=0),
    Unit("1", "number", 1.0, digits=0),
    Unit("parts", "parts by volume", 1.0, digits=1),
    Unit("deg", "angle", 1.0, digits=0),
    # Water that is sprayed or drunk is weighed or measured, as one likes: a gram is a millilitre.
    Unit("g of water", "water", 1.0, digits=0),
)
UNITS: Final = {unit.name: unit for unit in _TABLE}

_SPELLINGS = {
    "metre": "m", "metres": "m", "meter": "m", "meters": "m", "centimetres": "cm", "centimeters": "cm",
    "inch": "in", "inches": "in", '"': "in", "″": "in", "”": "in", "foot": "ft", "feet": "ft", "'": "ft", "′": "ft", "’": "ft",
    "kilo": "kg", "kilos": "kg", "gram": "g", "grams": "g", "lbs": "lb", "pound": "lb", "pounds": "lb",
    "ounce": "oz", "ounces": "oz",
    "°c": "degC", "c": "degC", "celsius": "degC", "°f": "degF", "f": "degF", "fahrenheit": "degF",
    "millilitre": "ml", "millilitres": "ml", "milliliter": "ml", "milliliters": "ml", "cc": "ml",
    "cm²": "cm2", "m²": "m2", "ft²": "ft2", "l": "L", "litre": "L", "litres": "L", "liter": "L", "liters": "L",
     "gallon": "gal", "gallons": "gal",
    "percent": "%", "uv": "UVI", "uvi": "UVI", "kgs": "kg", "gr": "g", "gramme": "g", "grammes": "g", "ins": "in",
    "w": "W", "watt": "W", "watts": "W",
    "hours": "h", "hour": "h", "hrs": "h", "hr": "h", "minutes": "min", "minute": "min", "mins": "min",
    "month": "months", "mo": "months", "year": "years", "yr": "years", "yrs": "years", "y": "years", "week": "weeks", "wk": "weeks",
    "day": "days",
}  # fmt: skip
# What a sign means only where one of these is asked for: "m" is a month in an age, degrees may be a difference of them.
_WITHIN: Final = {
    "age": {"m": "months", "w": "weeks", "d": "days"},
    "temperature difference": {"c": "K", "°c": "K", "degc": "K", "f": "K of °F", "°f": "K of °F", "degf": "K of °F", "k": "K"},
    "water": {name: f"{name} of water" for name in ("g", "ml", "l", "kg", "oz")},
    "number": {},
    "angle": {"°": "deg", "degree": "deg", "degrees": "deg"},
    "parts by volume": {"part": "parts"},
}
_OF_WATER_G: Final = {"g": 1.0, "ml": 1.0, "l": 1000.0, "kg": 1000.0, "oz": OUNCE_KG * 1000}
_LOCAL: Final = {
    "K of °F": Unit("K of °F", "temperature difference", 5 / 9),
    **{f"{name} of water": Unit(f"{name} of water", "water", grams) for name, grams in _OF_WATER_G.items()},
}
# A bare number after one of these is counted in its part: "5 ft 2" is five feet and two inches.
_PART_OF: Final = {"ft": "in", "lb": "oz", "m": "cm", "kg": "g", "years": "months"}
_UNIT = re.compile(r"\s*([^\d\s.,+−½⅓⅔¼¾⅕⅖⅗⅘⅙⅚⅛⅜⅝⅞-][^\d\s.,+−½⅓⅔¼¾⅕⅖⅗⅘⅙⅚⅛⅜⅝⅞-]*)\.?")
_ABOUT = re.compile(r"^(?:~|≈|about |ca\.? |approx\.? )\s*", re.IGNORECASE)
_SQUARED = re.compile(r"(?<=[mt])2$")  # "1.5 m2", "3 ft2": where an area is asked for, that is no second number


class UnitError(NumberError):
    """A text that is no quantity; `code` and `parameters` say why, `meanings` (SI) what it could be where it is two."""


def parse(text: str, default_unit: str, decimal: Decimal = "") -> float:
    """Read a number with or without a unit ("4 ft", "88F", "3 ft 6 in", "5 ft 2", "2½ ft", "1,150 g") and return its SI value.

    Parameters
    ----------
    text
        What was typed.
    default_unit
        Gives the dimension, and the unit of a bare number.
    decimal
        The mark the keeper writes before decimals, "" where they have not said.

    Returns
    -------
    float
        In the SI unit of the dimension.

    Raises
    ------
    UnitError
        `not_a_number`, `unknown_unit`, `wrong_dimension`, or `two_meanings` with both.
    """
    pieces = _pieces(text, default_unit)
    total = 0.0
    meanings: tuple[float, ...] = ()
    either: dict[str, str] = {}
    sign = -1.0 if pieces[0][0][0] in "-−" else 1.0
    for index, (said, unit) in enumerate(pieces):
        try:
            value = numerals.number(said, decimal)
        except NumberError as error:
            if error.code != "two_meanings" or len(pieces) > 1:
                raise UnitError("not_a_number", text=text) from None
            meanings = tuple(unit.factor * number + unit.offset for number in error.meanings)
            either = {name: text.replace(said, error.parameters[name]) for name in ("first", "second")}
            value = error.meanings[0]
        total += unit.factor * value + unit.offset if not index else sign * unit.factor * abs(value)
    if meanings:
        raise UnitError("two_meanings", meanings, text=text, **either)
    return total


def _pieces(text: str, default_unit: str) -> list[tuple[str, Unit]]:
    """The numbers of a text, each with its unit."""
    wanted, stripped = UNITS[default_unit], _ABOUT.sub("", text.strip())
    if wanted.dimension == "area":
        stripped = _SQUARED.sub("²", stripped)
    found: list[tuple[str, Unit]] = []
    position = 0
    while position < len(stripped):
        match = numerals.TOKEN.match(stripped, position)
        if match is None:
            raise UnitError("not_a_number", text=text)
        named = _UNIT.match(stripped, match.end())
        if named is not None:
            unit = _unit(named[1], wanted.dimension)
            if unit is None:
                raise UnitError("unknown_unit", text=text, unit=named[1])
        elif not found:
            unit = wanted
        else:
            part = _PART_OF.get(found[-1][1].name)
            unit = UNITS[part] if part else None
        if unit is None or (found and wanted.dimension == "temperature"):
            raise UnitError("not_a_number", text=text)
        if unit.dimension != wanted.dimension:
            raise UnitError("wrong_dimension", text=text, unit=named[1] if named else default_unit, wanted=default_unit)
        found.append((match[0], unit))
        position = (named or match).end()
        while position < len(stripped) and stripped[position].isspace():
            position += 1
    if not found or (len(found) > 1 and any(said[0] in "-−" for said, _unit_of in found[1:])):
        raise UnitError("not_a_number", text=text)
    return found


def unit_named(text: str) -> str | None:
    """Return the unit that ends a text ("45 in." → "in"), None where none does."""
    match = re.search(_UNIT.pattern + r"\s*$", text)
    return _unit_name(match[1]) if match else None


def _unit(text: str, dimension: str) -> Unit | None:
    local = _WITHIN.get(dimension, {}).get(text.lower())
    if local is not None:
        return _LOCAL.get(local) or UNITS[local]
    name = _unit_name(text)
    return UNITS[name] if name else None


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
