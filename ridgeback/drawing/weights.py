"""An animal's weights as a line over its days, with its own usual weight: coordinates for the page and for paper."""

from collections.abc import Callable, Sequence
from datetime import date, timedelta
from typing import Any, Final

from husbandry.animal.growth_outlook import MassCourse
from husbandry.watch.rules import LOST_SHARE, usual_weight
from ridgeback.drawing.numbers import plain
from ridgeback.units import KeeperUnits

WIDTH, HEIGHT = 520.0, 170.0
LEFT, RIGHT, TOP, BOTTOM = 52.0, 12.0, 12.0, 22.0
LEAST_DAYS: Final = 28  # of the time shown
ROOM: Final = 0.12  # of the span of weights, above and below
MOST_TICKS: Final = 6
STEPS: Final = 24


def draw(
    weights: Sequence[tuple[date, float]], units: KeeperUnits, curves: Callable[[date], MassCourse] | None = None
) -> dict[str, Any] | None:
    """Return the line of some weights, oldest first, each a day and a mass in kg; None for fewer than two days.

    `curves` are what its kind weighs on a day, lean and fast, where its age is known. `limit` is where a tenth of its own line is
    lost, as the watch reckons it for the last weighing; None where that is too thin.
    """
    if len({day for day, _mass in weights}) < 2:
        return None
    first, last = weights[0][0], weights[-1][0]
    days = max((last - first).days, LEAST_DAYS)
    usual = usual_weight(weights)
    limit = None if usual is None else (1 - LOST_SHARE) * usual
    masses = [mass for _day, mass in weights] + ([limit] if limit is not None else [])
    steps = [first + timedelta(days=round(days * turn / STEPS)) for turn in range(STEPS + 1)] if curves else []
    band = [(day, curves(day)) for day in steps] if curves else []
    low, high = min(masses), max(masses)
    # The kind's own curves are shown as far as they come near what was weighed.
    near_low, near_high = low / 1.6, high * 1.6
    low = min([low, *(max(course.lean_kg, near_low) for _day, course in band)])
    high = max([high, *(min(course.fast_kg, near_high) for _day, course in band)])
    room = max(ROOM * (high - low), 0.02 * high)
    low, high = max(low - room, 0.0), high + room

    def x(day: date) -> float:
        return LEFT + (WIDTH - LEFT - RIGHT) * (day - first).days / days

    def y(mass: float) -> float:
        return HEIGHT - BOTTOM - (min(max(mass, low), high) - low) / (high - low) * (HEIGHT - BOTTOM - TOP)

    points = [{"x": x(day), "y": y(mass), "day": day, "said": " ".join(units.number(mass, "kg"))} for day, mass in weights]
    months = [date(first.year + (first.month + turn - 1) // 12, (first.month + turn - 1) % 12 + 1, 1) for turn in range(1, 400)]
    shown = [day for day in months if day <= last]
    step = max(len(shown) // MOST_TICKS, 1)
    marks = (low + room, 0.5 * (low + high), high - room)
    around = [(day, course.lean_kg) for day, course in band] + [(day, course.fast_kg) for day, course in reversed(band)]
    outline = "M" + "L".join(f"{x(day):.1f},{y(mass):.1f}" for day, mass in around) + "Z" if around else ""
    drawn = {
        "width": WIDTH,
        "height": HEIGHT,
        "left": LEFT,
        "right": WIDTH - RIGHT,
        "floor": HEIGHT - BOTTOM,
        "line": "M" + "L".join(f"{point['x']:.1f},{point['y']:.1f}" for point in points),
        "points": points,
        "ticks": [{"y": y(mass), "text": " ".join(units.number(mass, "kg"))} for mass in marks],
        "months": [{"x": x(day), "day": day} for day in shown[::step]],
        "limit": None if limit is None else y(limit),
        "band": outline,
    }
    return dict(plain(drawn))
