"""How an animal took its meals: each offer as a mark in its row, and the share it took month by month."""

from collections.abc import Sequence
from datetime import date
from typing import Any, Final

from ridgeback.drawing.numbers import plain
from ridgeback.language import dates

WIDTH: Final = 520.0
LEFT, RIGHT, TOP = 96.0, 10.0, 8.0
ROW_PX: Final = 20.0
BARS_PX: Final = 46.0
ROWS: Final = ("eaten", "part", "refused", "brought-up")
TAKEN: Final = {"eaten": 1.0, "part": 0.5, "refused": 0.0, "brought-up": 0.0}
LEAST: Final = 4  # offers that make a picture
MOST_TICKS: Final = 6


def draw(offers: Sequence[tuple[date, str]]) -> dict[str, Any] | None:
    """Return the picture of offers, oldest first, each a day and how it went; None for too few.

    `months` are the table beside it: each month, how many were offered and the share that was taken in percent.
    """
    known = [(day, outcome) for day, outcome in offers if outcome in TAKEN]
    if len(known) < LEAST:
        return None
    first, last = known[0][0].replace(day=1), known[-1][0]
    months = _months(first, last)
    days = max((months[-1][1] - first).days, 1)

    def x(day: date) -> float:
        return LEFT + (WIDTH - LEFT - RIGHT) * (day - first).days / days

    floor = TOP + len(ROWS) * ROW_PX + BARS_PX + 8
    bars, rows = [], []
    for begin, end in months:
        inside = [outcome for day, outcome in known if begin <= day < end]
        share = sum(TAKEN[outcome] for outcome in inside) / len(inside) if inside else 0.0
        name = dates.shown(begin, "M Y")
        if inside:
            high = share * BARS_PX
            bars.append({"x": x(begin) + 1, "w": max(x(end) - x(begin) - 2, 1.0), "y": floor - high, "h": high})
            rows.append({"month": name, "offered": len(inside), "percent": round(100 * share)})
    step = max(len(months) // MOST_TICKS, 1)
    return dict(
        plain(
            {
                "width": WIDTH,
                "height": floor + 18,
                "left": LEFT,
                "right": WIDTH - RIGHT,
                "floor": floor,
                "rows": [{"code": code, "y": TOP + (place + 0.5) * ROW_PX} for place, code in enumerate(ROWS)],
                "marks": [
                    {"x": x(day), "y": TOP + (ROWS.index(outcome) + 0.5) * ROW_PX, "code": outcome} for day, outcome in known
                ],
                "bars": bars,
                "ticks": [{"x": x(begin), "text": dates.shown(begin, "M y")} for begin, _end in months[::step]],
            }
        )
    ) | {"months": rows}


def _months(first: date, last: date) -> list[tuple[date, date]]:
    """The months between two days, each with the first day of the next."""
    found, begin = [], first
    while begin <= last:
        end = date(begin.year + begin.month // 12, begin.month % 12 + 1, 1)
        found.append((begin, end))
        begin = end
    return found
