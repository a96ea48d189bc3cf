"""Files of loggers: what is recognised, what stays open, and files of another planet."""

import itertools
from collections.abc import Callable
from datetime import UTC, datetime
from typing import Final
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeback.series import tables
from ridgeback.series.tables import OpenedTable, TableError, recognise, zone_of
from tests.sample import times

BERLIN = ZoneInfo("Europe/Berlin")


def rows(table: OpenedTable, zone: str = "UTC", order: tables.Order = "") -> list[tuple[datetime | None, list[float]]]:
    kinds = [column.kind for column in table.columns]
    moment = (kinds.index("moment"),) if "moment" in kinds else (kinds.index("date"), kinds.index("clock"))
    values = [at for at, kind in enumerate(kinds) if kind == "value"]
    read = tables.read(table, moment, values, order or table.order, zone_of(zone))
    return [(row.at, list(row.values.values())) for row in read]


def test_a_logger_with_a_title_and_months_first() -> None:
    text = """Logger 00123
Interval: 10 min

"No.","Date Time, GMT+01:00","Temp, °C","RH, %"
1,11/23/2026 10:00:00,24.31,55.2
2,11/23/2026 10:10:00,24.40,55.0
3,11/23/2026 10:20:00,24.45,54.8
"""
    table = recognise(text.encode())
    assert [(column.kind, column.unit) for column in table.columns] == [
        ("other", ""), ("moment", ""), ("value", "degC"), ("value", "%"),
    ]  # fmt: skip
    assert (table.order, table.open_order, table.zone) == ("md", False, "+01:00")
    assert rows(table, table.zone)[0] == (datetime(2026, 11, 23, 9, 0, tzinfo=UTC), [24.31, 55.2])


def test_semicolons_commas_and_a_date_apart_from_its_clock() -> None:
    head, body = "Datum;Uhrzeit;Temperatur (°C);Feuchte (%)", ("13.11.2026;10:00;23,4;55,1", "13.11.2026;10:05;23,5;55")
    text = "\r\n".join([head, *body, "14.11.2026;10:05;;"])
    table = recognise(text.encode("cp1252"))
    assert [column.kind for column in table.columns] == ["date", "clock", "value", "value"]
    assert rows(table)[0] == (datetime(2026, 11, 13, 10, 0, tzinfo=UTC), [23.4, 55.1])
    assert rows(table)[2][1] == []


def test_tabs_in_another_encoding_with_fahrenheit_and_a_zone_in_each_cell() -> None:
    text = "timestamp\ttemp_f\n2026-11-01T10:00:00+02:00\t75.2\n2026-11-01T10:05:00+02:00\t75.4\n"
    table = recognise(text.encode("utf-16"))
    assert table.columns[1].unit == "degF"
    assert rows(table, "Asia/Tokyo")[0][0] == datetime(2026, 11, 1, 8, 0, tzinfo=UTC)  # the cell's own zone counts


def test_seconds_since_1970_without_a_head() -> None:
    table = recognise(b"1767225600,21.5\n1767225660,21.6\n1767225720,21.5\n")
    assert rows(table)[1] == (datetime(2026, 1, 1, 0, 1, tzinfo=UTC), [21.6])


def test_what_tells_nothing_of_day_and_month_is_asked() -> None:
    table = recognise(b"Time,Probe (F)\n03/04/2026 1:00 PM,80.1\n03/04/2026 1:10 PM,80.0\n")
    assert table.open_order
    assert rows(table, order="md")[0][0] == datetime(2026, 3, 4, 13, 0, tzinfo=UTC)
    assert rows(table, order="dm")[0][0] == datetime(2026, 4, 3, 13, 0, tzinfo=UTC)


FORMS: Final = (*itertools.chain(*tables.DATES.values()), *tables.CLOCKS, "%d %b %Y %I:%M %p", "%Y-%m-%dT%H:%M:%S.%f")
# What cells are written like that strptime may take or not.
WRITTEN: Final[tuple[Callable[[str], str], ...]] = (
    str.lower, str.upper, " {}".format, "{} ".format, lambda told: told.replace("0", " ", 1), lambda told: told.replace("0", "", 1),
    lambda told: told.replace("0", "٠", 1), lambda told: told.replace(" ", " \t"), lambda told: told.replace("-", "/"),
)  # fmt: skip


@pytest.mark.parametrize("form", FORMS)
def test_a_cell_is_read_as_python_itself_reads_it(form: str) -> None:
    """The look at its outline before refuses nothing that strptime takes."""

    def by_python(cell: str) -> datetime | None:
        try:
            return datetime.strptime(cell, form)  # noqa: DTZ007 - a clock without a zone is what a file has
        except ValueError:
            return None

    for at in (datetime(2024, 3, 5, 7, 8, 9, 1200, UTC), datetime(1999, 12, 31, 23, 59, 1, 0, UTC)):
        told = at.strftime(form)
        assert tables._try(told, form) is not None
        cells = [way(told) for way in WRITTEN]
        assert [tables._try(cell, form) for cell in cells] == [by_python(cell) for cell in cells], cells


def test_the_part_that_changes_each_day_is_the_day() -> None:
    text = "Date,Time,Value\n" + "".join(f"{day}/2/2026,10:00,21.5\n" for day in range(1, 9))
    assert (recognise(text.encode()).order, recognise(text.encode()).open_order) == ("dm", False)
    text = "Date,Time,Value\n" + "".join(f"2/{day}/2026,10:00,21.5\n" for day in range(1, 9))
    assert recognise(text.encode()).order == "md"


def test_the_hour_that_comes_twice_in_autumn_is_read_twice() -> None:
    text = "t,warm °C\n" + "".join(f"2026-10-25 {clock},20.5\n" for clock in ("01:50", "02:30", "02:50", "02:10", "02:40", "03:10"))
    found = [at for at, _values in rows(recognise(text.encode()), "Europe/Berlin")]
    assert [moment.hour * 60 + moment.minute for moment in found if moment] == [
        -10 + 24 * 60, 30, 50, 70, 100, 130,
    ]  # fmt: skip
    assert found == sorted(moment for moment in found if moment)


@pytest.mark.parametrize(
    ("content", "code"),
    [
        (bytes(range(256)) * 20, "no_text"),
        (b"\x89PNG\r\n\x1a\n\x00\x00\x00", "no_text"),
        (b"", "no_rows"),
        (b"\xff\xfe\x00", "no_text"),
        (b"hello,world\nthis,is\nno,table\n", "no_moment"),
        (b"a,b\n2026-01-01 10:00,warm\n2026-01-01 11:00,cold\n", "no_moment"),
        ((",".join(["2026-01-01 10:00", *["1.5"] * 60]) + "\n").encode() * 3, "too_wide"),
    ],
)
def test_what_is_no_table_says_why(content: bytes, code: str) -> None:
    with pytest.raises(TableError) as raised:
        recognise(content)
    assert raised.value.code == code


@settings(max_examples=times(20, 60), deadline=None)
@given(st.binary(max_size=400))
def test_no_file_breaks_it(content: bytes) -> None:
    try:
        table = recognise(content)
        rows(table)
    except TableError:
        pass


@pytest.mark.parametrize(
    ("cell", "value"), [("23,4", 23.4), ("−3.5", -3.5), ("75 %", 75.0), ("24.1 °C", 24.1), ("--", None), ("1,2,3", None)]
)
def test_cells_as_numbers(cell: str, value: float | None) -> None:
    assert tables.number(cell) == value


def test_zones_by_name_and_by_offset() -> None:
    assert zone_of("Europe/Berlin") == BERLIN
    assert datetime(2026, 7, 1, tzinfo=zone_of("-05:30")).utcoffset().total_seconds() == -5.5 * 3600
    for wrong in ("Mars/Crater", "+25", "", "../etc/passwd"):
        with pytest.raises(KeyError):
            zone_of(wrong)
