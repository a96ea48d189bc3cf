"""Numbers as a keeper reads and types them."""

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from husbandry.assessment import Measure
from husbandry.units import parse
from ridgeback.planner.bench import age_text
from ridgeback.units import METRIC, KeeperUnits
from tests.plans import TODAY

IMPERIAL = KeeperUnits("degF", "in", "oz", "gal")


@pytest.mark.parametrize(
    ("value", "unit", "metric", "imperial"),
    [
        (32.222, "degC", "32.2 °C", "90 °F"),
        (1.2, "m", "120 cm", "47.2 in"),
        (0.125, "m", "12.5 cm", "4.9 in"),
        (0.058, "kg", "58 g", "2 oz"),
        (0.0042, "kg", "4.2 g", "0.15 oz"),
        (2.4, "kg", "2.40 kg", "5.29 lb"),
        (0.453, "m3", "453 L", "119.7 gal"),
        (45.0, "%", "45 %", "45 %"),
        (5.25, "%", "5.2 %", "5.2 %"),
        (2.0, "K", "2.0 K", "3.6 °F"),
        (60.0, "W", "60 W", "60 W"),
        (3.86, "UVI", "3.9", "3.9"),
        (12.0, "h", "12 h", "12 h"),
        (1.0, "d", "1 day", "1 day"),
        (14.0, "d", "14 days", "14 days"),
    ],
)
def test_a_measure_is_said_in_the_keepers_units(value: float, unit: str, metric: str, imperial: str) -> None:
    assert METRIC.say(Measure(value, unit)) == metric
    assert IMPERIAL.say(Measure(value, unit)) == imperial


def test_minus_nothing_is_nothing() -> None:
    assert METRIC.number(-0.0004, "UVI") == ("0", "")
    assert METRIC.say(Measure(-4.0, "degC")) == "-4.0 °C"


@pytest.mark.parametrize("units", [METRIC, IMPERIAL], ids=["metric", "imperial"])
@given(value=st.floats(0.001, 50.0), unit=st.sampled_from(["degC", "m", "kg"]))
def test_what_stands_in_a_field_reads_back_as_what_it_was(units: KeeperUnits, value: float, unit: str) -> None:
    """Two decimals of the keeper's unit: nothing a keeper could measure is lost."""
    number, _symbol = units.number(value, unit, typed=True)
    back = parse(number, units.unit_for(unit))
    hundredth = abs(parse("0.01", units.unit_for(unit)) - parse("0", units.unit_for(unit)))
    assert back == pytest.approx(value, abs=0.51 * hundredth)


def test_a_field_never_changes_its_unit_with_the_size_of_the_number() -> None:
    assert METRIC.number(2.4, "kg", typed=True) == ("2400", "g")
    assert METRIC.number(2.4, "kg") == ("2.40", "kg")


def test_each_quantity_may_have_its_own_unit() -> None:
    mixed = KeeperUnits("degF", "cm", "g", "L")
    assert mixed.say(Measure(32.222, "degC")) == "90 °F"
    assert mixed.say(Measure(0.9, "m")) == "90 cm"


@pytest.mark.parametrize(
    ("units", "low", "high", "si", "said"),
    [
        (METRIC, 0.648, 1.3, "kg", "0.65–1.30 kg"),
        (METRIC, 0.021, 0.032, "kg", "21–32 g"),
        (METRIC, 0.0042, 0.0111, "kg", "4–11 g"),
        (METRIC, 24.0, 28.0, "degC", "24.0–28.0 °C"),
        (METRIC, 0.12, 0.12, "m", "12 cm"),
        (METRIC, 35.0, 55.0, "%", "35–55 %"),
        (KeeperUnits(mass="oz"), 0.65, 1.3, "kg", "1.43–2.87 lb"),
    ],
)
def test_both_ends_of_a_range_are_in_one_unit(units: KeeperUnits, low: float, high: float, si: str, said: str) -> None:
    assert units.between(low, high, si) == said


@pytest.mark.parametrize(
    ("hatched", "told"),
    [
        (None, ""),
        (date(2026, 11, 20), "4 days"),
        (date(2026, 11, 3), "3 weeks"),
        (date(2026, 10, 24), "4 weeks"),
        (date(2026, 4, 24), "7 months"),
        (date(2026, 4, 25), "6 months"),
        (date(2024, 11, 25), "23 months"),
        (date(2021, 11, 24), "5 years"),
        (date(2021, 11, 25), "4 years"),
        (date(2028, 1, 1), "0 days"),
    ],
)
def test_an_age_is_told_by_the_calendar(hatched: date | None, told: str) -> None:
    assert age_text(hatched, TODAY) == told
