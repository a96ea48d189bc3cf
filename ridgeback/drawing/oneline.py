"""A room's electricity in one line each: breaker, strip, timer, thermostat, and what they feed."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any, Final

WIDTH: Final = 980.0
ROW_PX: Final = 24.0
BOX_PX: Final = 38.0
GAP_PX: Final = 12.0
CIRCUIT_X, CIRCUIT_W = 6.0, 150.0
STRIP_X, STRIP_W = 196.0, 150.0
BUS_1, BUS_2 = 176.0, 366.0
TIMER_X, TIMER_W = 386.0, 54.0
THERMOSTAT_X, THERMOSTAT_W = 452.0, 142.0
NAME_X: Final = 608.0
TOP: Final = 26.0
ROWS_A_SHEET: Final = 20


@dataclass(frozen=True)
class DrawnConsumer:
    """One consumer at the end of a line: what it is, whose, its load, and what stands before it."""

    name: str
    home: str
    load: str
    timer: bool
    thermostat: str


@dataclass(frozen=True)
class Outlet:
    """A strip with its load in words, whether it is too much, and what hangs on it."""

    name: str
    load: str
    over: bool
    fed: Sequence[DrawnConsumer]


@dataclass(frozen=True)
class Branch:
    """A circuit with its breaker and its residual-current device in words, whether it is too much, and its strips."""

    name: str
    breaker: str
    guard: str
    over: bool
    outlets: Sequence[Outlet]


def pages(branches: Sequence[Branch]) -> list[list[Branch]]:
    """The same cut into what a sheet of paper holds: whole strips, their circuit said again on each."""
    sheets: list[list[Branch]] = []
    room = 0
    for branch in branches:
        for outlet in branch.outlets:
            rows = max(len(outlet.fed), 2) + 1
            if not sheets or rows > room:
                sheets.append([])
                room = ROWS_A_SHEET
            room -= rows
            last = sheets[-1]
            if last and last[-1].name == branch.name:
                last[-1] = replace(last[-1], outlets=[*last[-1].outlets, outlet])
            else:
                last.append(replace(branch, outlets=[outlet]))
    return sheets


def draw(branches: Sequence[Branch]) -> dict[str, Any] | None:
    """Return coordinates and words of the one-line diagram; None for nothing. The tables beside it say the same."""
    if not branches:
        return None
    y, circuits, strips, lines, fed = TOP, [], [], [], []
    for branch in branches:
        first = None
        last = y + BOX_PX / 2
        begin = y
        for outlet in branch.outlets:
            count = max(len(outlet.fed), 1)
            height = max(ROW_PX * count, BOX_PX)
            middle = y + BOX_PX / 2
            first, last = middle if first is None else first, middle
            strips.append({"y": y, "name": outlet.name, "load": outlet.load, "over": outlet.over})
            lines.append({"x1": BUS_1, "y1": middle, "x2": STRIP_X, "y2": middle})
            rows = [y + ROW_PX * place + ROW_PX / 2 for place in range(len(outlet.fed))]
            if rows:
                lines.append({"x1": STRIP_X + STRIP_W, "y1": middle, "x2": BUS_2, "y2": middle})
                lines.append({"x1": BUS_2, "y1": min(rows[0], middle), "x2": BUS_2, "y2": max(rows[-1], middle)})
            for socket, (at, one) in enumerate(zip(rows, outlet.fed, strict=True), start=1):
                lines.append({"x1": BUS_2, "y1": at, "x2": NAME_X - 6, "y2": at})
                fed.append({"y": at, "one": one, "box_y": at - 9, "socket": socket})
            y += height + GAP_PX
        if not branch.outlets:
            y += BOX_PX + GAP_PX
        lines.append({"x1": CIRCUIT_X + CIRCUIT_W, "y1": begin + BOX_PX / 2, "x2": BUS_1, "y2": begin + BOX_PX / 2})
        if first is not None:
            lines.append({"x1": BUS_1, "y1": first, "x2": BUS_1, "y2": last})
        circuits.append({"y": begin, "name": branch.name, "breaker": branch.breaker, "guard": branch.guard, "over": branch.over})
        y += GAP_PX
    return {
        "width": WIDTH,
        "height": y,
        "box": BOX_PX,
        "circuit_x": CIRCUIT_X,
        "circuit_w": CIRCUIT_W,
        "strip_x": STRIP_X,
        "strip_w": STRIP_W,
        "timer_x": TIMER_X,
        "timer_w": TIMER_W,
        "thermostat_x": THERMOSTAT_X,
        "thermostat_w": THERMOSTAT_W,
        "name_x": NAME_X,
        "socket_x": BUS_2 + 5,
        "circuits": circuits,
        "strips": strips,
        "lines": lines,
        "fed": fed,
    }
