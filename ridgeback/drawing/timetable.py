"""A build as bars over its days: hand work, what cures by itself after it, today, and the moment the animal moves in."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any, Final

from ridgeback.drawing.numbers import plain
from ridgeback.language import dates

WIDTH: Final = 760.0
LEFT, RIGHT, TOP, BOTTOM = 250.0, 16.0, 24.0, 8.0
ROW_PX: Final = 18.0
LEAST_PX: Final = 3.0
MOST_TICKS: Final = 10


@dataclass(frozen=True)
class StepBar:
    """One step: its name, when it is worked at and when its wait is over; whether it is done and whether it decides the end."""

    name: str
    begins: datetime
    worked: datetime
    over: datetime
    done: bool
    decides: bool


def draw(bars: Sequence[StepBar], now: datetime, moves_in: datetime) -> dict[str, Any] | None:
    """Return coordinates and words of a timetable; None for nothing. The table beside it says the same."""
    if not bars:
        return None
    first = min([now, *(bar.begins for bar in bars)]).replace(hour=0, minute=0, second=0, microsecond=0)
    last = max([moves_in, *(bar.over for bar in bars)]) + timedelta(hours=12)
    seconds = (last - first).total_seconds()
    floor = TOP + ROW_PX * len(bars)

    def x(at: datetime) -> float:
        return LEFT + (WIDTH - LEFT - RIGHT) * (at - first).total_seconds() / seconds

    rows = []
    for place, bar in enumerate(bars):
        y = TOP + ROW_PX * place
        rows.append(
            {
                "name": bar.name,
                "y": y,
                "text_y": y + 0.68 * ROW_PX,
                "work_x": x(bar.begins),
                "work_w": max(x(bar.worked) - x(bar.begins), LEAST_PX if bar.worked > bar.begins else 0.0),
                "wait_x": x(bar.worked),
                "wait_w": max(x(bar.over) - x(bar.worked), 0.0),
                "done": bar.done,
                "decides": bar.decides,
            }
        )
    days = max(round(seconds / 86_400), 1)
    step = max(-(-days // MOST_TICKS), 1)
    marks = [first + timedelta(days=turn) for turn in range(0, days + 1, step)]
    return dict(
        plain(
            {
                "width": WIDTH,
                "height": floor + BOTTOM,
                "left": LEFT,
                "right": WIDTH - RIGHT,
                "top": TOP,
                "floor": floor,
                "bar": ROW_PX - 6,
                "rows": rows,
                "ticks": [{"x": x(at), "text": dates.shown(at, "j M")} for at in marks if x(at) < WIDTH - RIGHT - 20],
                "now": x(now),
                "moves_in": x(moves_in),
            }
        )
    )
