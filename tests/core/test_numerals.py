"""Numbers the way people write them; what can mean two things is never guessed."""

import contextlib

import pytest
from hypothesis import given
from hypothesis import strategies as st

from husbandry import numerals
from husbandry.assessment import Change
from husbandry.numerals import Decimal, NumberError, number, plain, whole
from husbandry.plan.editing import apply
from husbandry.species.book import find
from husbandry.species.revising import NotInAListError, take_out
from husbandry.units import UnitError, parse
from tests.plans import document


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("1150", 1150), ("1,5", 1.5), ("1.5", 1.5), ("1,150.5", 1150.5), ("1.150,5", 1150.5), ("12,345,678", 12345678),
        ("1.234.567", 1234567), ("1 150", 1150), ("1\u00a0150,5", 1150.5), ("0,150", 0.15), ("0.125", 0.125), (",5", 0.5),
        ("2½", 2.5), ("½", 0.5), ("1 1/2", 1.5), ("3/4", 0.75), ("-4", -4), ("−3,5", -3.5), ("1150,000", 1150),
    ],
)  # fmt: skip
def test_what_can_mean_one_thing_only_is_that(text: str, value: float) -> None:
    assert number(text) == pytest.approx(value)


@pytest.mark.parametrize("text", ["1,150", "1.150", "-12,000", "999.999"])
def test_what_can_mean_two_things_is_asked_and_settled_by_how_the_keeper_writes(text: str) -> None:
    with pytest.raises(NumberError) as asked:
        number(text)
    thousands, decimals = asked.value.meanings
    assert thousands == pytest.approx(1000 * decimals)
    assert number(asked.value.parameters["first"]) == thousands  # either answer, typed, means one thing
    assert number(asked.value.parameters["second"]) == pytest.approx(decimals)
    mark: Decimal = "," if "," in text else "."
    assert number(text, mark) == pytest.approx(decimals)
    assert number(text, "." if mark == "," else ",") == pytest.approx(thousands)


@pytest.mark.parametrize(
    "text", ["", "nan", "inf", "1e3", "1.2.3", "1,15,000", "1/0", "²", "١٢", "9" * 40, "1,", ".", "0x1f", "1_000", "½½"]
)
def test_what_is_no_number_is_refused(text: str) -> None:
    with pytest.raises(NumberError):
        number(text)


@pytest.mark.parametrize(
    ("text", "value"), [("1,000", 1000), ("1.000", 1000), ("12", 12), ("1 000", 1000), ("0", 0), ("250.0", 250)]
)
def test_things_one_counts_are_counted_in_thousands(text: str, value: int) -> None:
    assert whole(text) == value


@pytest.mark.parametrize("text", ["1,5", "-1", "½", "many", ""])
def test_half_a_cricket_is_no_whole_number(text: str) -> None:
    with pytest.raises(NumberError) as refused:
        whole(text)
    assert refused.value.code == "not_a_whole_number"


@given(st.floats(-1e6, 1e6).map(lambda value: round(value, 4)))
def test_what_is_written_plainly_reads_one_way(value: float) -> None:
    assert number(plain(value)) == pytest.approx(value, abs=1e-6)


@given(st.text(alphabet="0123456789.,/ ½-−+ \u00a0gkmft'\"°CF²x", max_size=14))
def test_no_text_whatever_ends_in_another_error(text: str) -> None:
    for unit in ("g", "cm", "degC", "months", "1", "K", "g of water"):
        with contextlib.suppress(UnitError):
            assert isinstance(parse(text, unit), float)


# Conversions by definition: 1 in = 25.4 mm, 1 lb = 453.59237 g, 12 in = 1 ft, 16 oz = 1 lb (international yard and pound, 1959).
# Signs that Python calls digits or decimals and `int` takes for none, or for more than a place; more digits than `int` reads.
NO_PLACES = ["²", "٣", "①", "1_0", "+1", "-1", " 1", "1.0", "", "9" * 5000]


@pytest.mark.parametrize("text", NO_PLACES)
def test_a_place_in_a_list_is_plain_digits(text: str) -> None:
    assert numerals.place(text) is None
    assert (numerals.place("0"), numerals.place("12")) == (0, 12)
    for change in (Change(f"heaters.{text or 'x'}.watts", 40.0), Change("heaters.9", None), Change("heaters.9.watts", 40.0)):
        with pytest.raises(KeyError):
            apply(document(), (change,))
    profile = find("corn-snake").model_dump(mode="json")
    with pytest.raises(NotInAListError):
        take_out(profile, f"stages.{text}")


@pytest.mark.parametrize(
    ("text", "default", "si"),
    [
        ("5 ft 2", "cm", 62 * 0.0254), ("2½ ft", "cm", 30 * 0.0254), ("72 in.", "cm", 72 * 0.0254), ("1 1/2", "in", 1.5 * 0.0254),
        ("5' 6 1/2\"", "cm", 66.5 * 0.0254), ("2 lb 3", "g", (2 + 3 / 16) * 0.45359237), ("2 kg", "oz", 2.0),
        ("2 kg 300", "g", 2.3),
        ("1 m 20", "in", 1.2), ("~450 g", "kg", 0.45), ("500 ml", "L", 0.0005), ("1 150 g", "kg", 1.15), ("18 m", "months", 18),
        ("1y 6m", "months", 18), ("6 w", "months", 6 * 12 / 52.1775), ("1.4 °C", "K", 1.4), ("2.52 °F", "K", 1.4),
        ("30 ml", "g of water", 30), ("0.5 L", "g of water", 500), ("2 kgs", "g", 2.0),
    ],
)  # fmt: skip
def test_keepers_ways_of_writing_quantities(text: str, default: str, si: float) -> None:
    assert parse(text, default) == pytest.approx(si, rel=1e-9)


def test_both_meanings_of_a_quantity_are_told_in_si_and_as_they_would_be_typed() -> None:
    with pytest.raises(UnitError) as asked:
        parse("1,150 g", "kg")
    assert asked.value.meanings == pytest.approx((1.15, 0.00115))
    assert (asked.value.parameters["first"], asked.value.parameters["second"]) == ("1150 g", "1.15 g")
    assert parse("1,150 g", "kg", ".") == pytest.approx(1.15)
