"""Units: what keepers type, and the slips that are caught."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from husbandry.units import UNITS, UnitError, convert, parse


@pytest.mark.parametrize(
    ("text", "default", "si"),
    [
        ("4 ft", "cm", 1.2192),
        ("3 ft 6 in", "cm", 1.0668),
        ("3' 6\"", "cm", 1.0668),
        ("90", "cm", 0.9),
        ("1,5 kg", "g", 1.5),
        ("2.5 lb", "g", 1.13398),
        ("88F", "degC", 31.1111),
        ("88 °F", "degC", 31.1111),
        ("-4 °C", "degC", -4.0),
        ("31", "degF", -0.5556),
        (".5 m", "cm", 0.5),
        ("18 months", "months", 18.0),
        ("3 years", "months", 36.0),
        ("50 gal", "L", 0.18927),
        ("0.9m", "cm", 0.9),
    ],
)
def test_keepers_write_quantities_in_many_ways(text: str, default: str, si: float) -> None:
    assert parse(text, default) == pytest.approx(si, abs=1e-4)


@pytest.mark.parametrize(
    ("text", "default", "code"),
    [
        ("", "cm", "not_a_number"),
        ("warm", "degC", "not_a_number"),
        ("4 furlongs", "cm", "unknown_unit"),
        ("4 kg", "cm", "wrong_dimension"),
        ("20 °C 3 °C", "degC", "not_a_number"),
        ("1.2.3", "cm", "not_a_number"),
        ("12 - 14", "cm", "not_a_number"),
    ],
)
def test_what_is_no_quantity_is_refused_by_reason(text: str, default: str, code: str) -> None:
    with pytest.raises(UnitError) as refused:
        parse(text, default)
    assert refused.value.code == code


@given(st.sampled_from(sorted(UNITS)), st.floats(-200, 200).filter(lambda value: abs(value) > 1e-6))
def test_every_unit_goes_to_si_and_back(name: str, value: float) -> None:
    unit = UNITS[name]
    base = next(
        other.name for other in UNITS.values() if other.dimension == unit.dimension and other.factor == 1 and not other.offset
    )
    assert convert(convert(value, name, base), base, name) == pytest.approx(value, rel=1e-9, abs=1e-9)


# Nominal tanks, inches and US gallons; common practice, no source.
@pytest.mark.parametrize(
    ("inches", "gallons", "off"),
    [
        ((48, 24, 24), 119.7, 0.001),
        ((36, 18, 16), 44.9, 0.002),
        ((20, 10, 12), 10.0, 0.06),
        ((30, 12, 18), 29.0, 0.06),
        ((48, 18, 20), 75.0, 0.02),
    ],
)
def test_standard_tanks_hold_what_their_name_says(inches: tuple[int, int, int], gallons: float, off: float) -> None:
    cubic_metres = parse(f"{inches[0]} in", "cm") * parse(f"{inches[1]} in", "cm") * parse(f"{inches[2]} in", "cm")
    assert convert(cubic_metres, "m3", "gal") == pytest.approx(gallons, rel=off)


def test_four_by_two_by_two_feet_is_453_litres() -> None:
    side = parse("2 ft", "cm")
    assert convert(parse("4 ft", "cm") * side * side, "m3", "L") == pytest.approx(453, abs=0.5)


@pytest.mark.parametrize(("text", "square_metres"), [("1.5 m2", 1.5), ("1,5 m²", 1.5), ("10 ft2", 0.929), ("3", 3.0)])
def test_an_area_is_read_however_its_two_is_written(text: str, square_metres: float) -> None:
    """One square foot is 0.0929 m² (exact by the inch)."""
    assert parse(text, "m2") == pytest.approx(square_metres, rel=1e-3)
    assert parse("5 ft 2", "m") == pytest.approx(1.5748)
