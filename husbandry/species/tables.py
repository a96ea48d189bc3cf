"""What others published, once as data with its citation: a profile's value names its row, and is held against it.

The tables are tables/tables.toml beside this module. A value names a table and, where that has rows, one of them:
"report-1997:tortoise". By what a table `holds`, the value is the row's own ("equal"), lies in its span ("within"), is at least
`BELOW_K` below its end ("below"), or is the span of the year's days at the species' native latitude ("day length"). A table that
is to be reached ("reach") has a row for a species, about which its gradient of warmth lies.
"""

import tomllib
from dataclasses import dataclass, field
from functools import cache
from importlib.resources import files
from typing import Any, Final, Literal

BELOW_K: Final = 3.0
HALF_HOUR: Final = 0.5  # timers are set to half hours, and dusk is light
SLACK: Final = 1e-9

Row = dict[str, float]


@dataclass(frozen=True)
class Table:
    """A published table: its short and its full citation, what it says, and its rows by name."""

    key: str
    short: str
    cite: str
    says: str
    holds: Literal["equal", "within", "below", "reach", "day length"]
    rows: dict[str, Row] = field(default_factory=dict)


@cache
def tables() -> dict[str, Table]:
    """Every table by its key."""
    text = files("husbandry.species").joinpath("tables/tables.toml").read_text(encoding="utf-8")
    return {key: Table(key, **row) for key, row in tomllib.loads(text).items()}


def find(name: str) -> tuple[Table, Row]:
    """Return the table a value names and the row of it; raises LookupError where there is none."""
    key, _, row = name.partition(":")
    table = tables()[key]
    return table, table.rows[row] if table.rows else {}


def filled(data: dict[str, Any]) -> dict[str, Any]:
    """Return a value's document with what its table says of it: origin, citation, and numbers where they are the row's own.

    A value the keeper changed is no table's any more. Raises LookupError.
    """
    if not data.get("table"):
        return data
    if data.get("basis") == "keeper":
        return data | {"table": ""}
    table, row = find(str(data["table"]))
    origin = {"basis": "source", "cite": table.short}
    return (row if table.holds == "equal" else {}) | origin | data


def holds(name: str, values: Row, day_hours: tuple[float, float] | None = None) -> bool:
    """Tell whether a value stands as its table has it; `day_hours` is the shortest and the longest day where it lives, in h.

    Parameters
    ----------
    name
        The table and its row.
    values
        The value's numbers by field.
    day_hours
        Hours, None where the latitude is not known.

    Returns
    -------
    True where it does.

    References
    ----------
    The tables' own.
    """
    table, row = find(name)
    if table.holds == "equal":
        return all(abs(values.get(key, float("nan")) - number) <= SLACK for key, number in row.items())
    if table.holds == "below":
        return max(values.values()) <= row["high"] - BELOW_K + SLACK
    if table.holds == "within":
        return row["low"] - SLACK <= min(values.values()) and max(values.values()) <= row["high"] + SLACK
    if day_hours is None:
        return False
    shortest, longest = day_hours
    return shortest - HALF_HOUR <= min(values.values()) and max(values.values()) <= longest + HALF_HOUR
