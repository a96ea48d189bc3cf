"""A series over time: what was measured, its lowest and highest, over what was foretold with its spread, and over the band."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import pairwise
from typing import Any, Final

from django.utils import timezone

from husbandry.assessment import Measure
from ridgeback.drawing.numbers import plain
from ridgeback.language import dates
from ridgeback.units import KeeperUnits

WIDTH, HEIGHT = 760.0, 220.0
LEFT, RIGHT, TOP, BOTTOM = 54.0, 8.0, 10.0, 26.0
ROOM: Final = 0.08  # of the span of values, above and below
GAP: Final = 4.0  # steps without a reading that part a line
EIGHT_OF_TEN: Final = 1.2816  # standard deviations
LEAST_SPAN: Final = {"degC": 4.0, "%": 15.0, "UVI": 1.0, "W": 10.0, "g": 2.0}
FAR_SPANS: Final = 2.0  # a danger farther away than so many spans is not drawn
TICKS_H: Final = (1, 2, 3, 6, 12, 24, 48, 168, 336, 744, 2208, 8784)
MOST_TICKS: Final = 9
Point = tuple[datetime, float, float, float]  # when, the mean, the lowest, the highest


@dataclass(frozen=True)
class Stretch:
    """A band that holds from a moment to a moment; open edges are None."""

    since: datetime
    until: datetime
    low: float | None
    high: float | None


@dataclass(frozen=True)
class Series:
    """What is drawn: points oldest first and how far apart they usually are; the mean and the standard deviation foretold."""

    points: Sequence[Point]
    step: timedelta
    unit: str
    foretold: Sequence[tuple[datetime, float, float]] = ()
    bands: Sequence[Stretch] = ()


def draw(series: Series, since: datetime, until: datetime, units: KeeperUnits, *, whole: bool = False) -> dict[str, Any] | None:
    """Return coordinates and words of a series between two moments; None where nothing is to be shown.

    What is foretold by the hour has gaps where hours are missing; where that is `whole`, it is one line.
    """
    if not series.points and not series.foretold:
        return None
    low, high = _scale(series)
    seconds = max((until - since).total_seconds(), 1.0)

    def x(at: datetime) -> float:
        share = (at - since).total_seconds() / seconds
        return LEFT + (WIDTH - LEFT - RIGHT) * min(max(share, 0.0), 1.0)

    def y(value: float) -> float:
        share = (min(max(value, low), high) - low) / (high - low)
        return HEIGHT - BOTTOM - share * (HEIGHT - BOTTOM - TOP)

    parts = [list(series.foretold)] if whole else list(_hourly(series.foretold))
    return dict(plain(_drawn(series, parts, x, y, (low, high), units))) | {
        "ticks": plain([{"x": x(at), "text": text} for at, text in _moments(since, until)]),
        "since": since.isoformat(),
        "until": until.isoformat(),
    }


def _drawn(
    series: Series,
    parts: list[list[tuple[datetime, float, float]]],
    x: Callable[[datetime], float],
    y: Callable[[float], float],
    ends: tuple[float, float],
    units: KeeperUnits,
) -> dict[str, Any]:
    stretches = list(_unbroken(series.points, series.step))
    wide = any(high - low > 1e-9 for _at, _mean, low, high in series.points)
    return {
        "width": WIDTH,
        "height": HEIGHT,
        "left": LEFT,
        "right": WIDTH - RIGHT,
        "top": TOP,
        "floor": HEIGHT - BOTTOM,
        "line": "".join(_path((x(at), y(mean)) for at, mean, _low, _high in points) for points in stretches if len(points) > 1),
        "alone": [{"x": x(points[0][0]), "y": y(points[0][1])} for points in stretches if len(points) == 1],
        "between": "".join(_ribbon(points, x, y) for points in stretches if len(points) > 1) if wide else "",
        "foretold": "".join(_path((x(at), y(mean)) for at, mean, _sigma in part) for part in parts if len(part) > 1),
        "spread": "".join(
            _ribbon([(at, mean, mean - EIGHT_OF_TEN * sigma, mean + EIGHT_OF_TEN * sigma) for at, mean, sigma in part], x, y)
            for part in parts
            if len(part) > 1
        ),
        "bands": [_band(stretch, x, y, ends) for stretch in series.bands],
        "marks": [{"y": y(value), "text": text} for value, text in _marks(ends, series.unit, units)],
    }


def _scale(series: Series) -> tuple[float, float]:
    """The lowest and the highest value shown: all that was measured, what was foretold, and edges of the band that are near."""
    values = [value for _at, _mean, low, high in series.points for value in (low, high)]
    values += [mean for _at, mean, _sigma in series.foretold]
    low, high = min(values), max(values)
    span = max(high - low, LEAST_SPAN[series.unit])
    edges = [edge for stretch in series.bands for edge in (stretch.low, stretch.high) if edge is not None]
    near = [edge for edge in edges if low - FAR_SPANS * span <= edge <= high + FAR_SPANS * span]
    low, high = min([low, *near]), max([high, *near])
    short = max(LEAST_SPAN[series.unit] - (high - low), 0.0)
    room = ROOM * (high - low) + short / 2
    floor = low - room if series.unit == "degC" else max(low - room, 0.0)
    top = min(high + room, 100.0) if series.unit == "%" else high + room
    return floor, max(top, floor + 1e-6)


def _unbroken(points: Sequence[Point], step: timedelta) -> Iterator[list[Point]]:
    """The points in stretches without a gap."""
    part: list[Point] = []
    for point in points:
        if part and point[0] - part[-1][0] > GAP * step:
            yield part
            part = []
        part.append(point)
    if part:
        yield part


def _hourly(foretold: Sequence[tuple[datetime, float, float]]) -> Iterator[list[tuple[datetime, float, float]]]:
    part: list[tuple[datetime, float, float]] = []
    for one in foretold:
        if part and one[0] - part[-1][0] > timedelta(hours=25):
            yield part
            part = []
        part.append(one)
    if part:
        yield part


def _path(places: Iterator[tuple[float, float]]) -> str:
    return "M" + "L".join(f"{across:.1f},{up:.1f}" for across, up in places)


def _ribbon(points: Sequence[Point], x: Callable[[datetime], float], y: Callable[[float], float]) -> str:
    upper = [(x(at), y(high)) for at, _mean, _low, high in points]
    lower = [(x(at), y(low)) for at, _mean, low, _high in reversed(points)]
    return _path(iter([*upper, *lower])) + "Z"


def _band(
    stretch: Stretch, x: Callable[[datetime], float], y: Callable[[float], float], ends: tuple[float, float]
) -> dict[str, float]:
    top = y(stretch.high if stretch.high is not None else ends[1])
    return {
        "x": x(stretch.since),
        "w": x(stretch.until) - x(stretch.since),
        "y": top,
        "h": y(stretch.low if stretch.low is not None else ends[0]) - top,
    }


def _marks(ends: tuple[float, float], unit: str, units: KeeperUnits) -> list[tuple[float, str]]:
    """Four round values between the ends, in the keeper's unit."""
    low, high = ends
    shown = units.unit_for(unit)
    factor, offset = (1.8, 32.0) if shown == "degF" else (1.0, 0.0)
    first, last = low * factor + offset, high * factor + offset
    rough = (last - first) / 4
    size = 10.0 ** len(str(int(rough))) / 10 if rough >= 1 else 0.1
    step = next((part * size for part in (1, 2, 5, 10) if part * size >= rough), 10 * size)
    value = step * -(-first // step)
    found = []
    while value <= last + 1e-9:
        si = (value - offset) / factor
        found.append((si, units.say(Measure(si, unit))))
        value += step
    return found


def _moments(since: datetime, until: datetime) -> list[tuple[datetime, str]]:
    """Round moments of the keeper's clock: hours within days, days beyond."""
    hours = (until - since).total_seconds() / 3600
    step = next((one for one in TICKS_H if hours / one <= MOST_TICKS), TICKS_H[-1])
    local = timezone.localtime(since)
    if step >= 24:
        at = local.replace(hour=0, minute=0, second=0, microsecond=0) + timedelta(days=1)
        turn, form = timedelta(hours=step), "j M" if step < 2208 else "M Y"
    else:
        first = -(-(local.hour * 60 + local.minute) // (60 * step)) * step
        at = local.replace(hour=0, minute=0, second=0, microsecond=0) + timedelta(hours=first)
        turn, form = timedelta(hours=step), "H:i"
    found = []
    while at <= until:
        form_here = "j M" if step < 24 and at.hour == 0 else form
        found.append((at, dates.shown(at, form_here)))
        at += turn
    return found


def laid_over(days: Sequence[tuple[str, Sequence[tuple[float, float]]]], unit: str, units: KeeperUnits) -> dict[str, Any] | None:
    """Return days laid over one another, each a name and (hour of the day, value) oldest first; the last one stands out."""
    values = [value for _name, points in days for _hour, value in points]
    if not values:
        return None
    span = max(max(values) - min(values), LEAST_SPAN[unit])
    low, high = min(values) - ROOM * span, min(values) + (1 + ROOM) * span

    def x(hour: float) -> float:
        return LEFT + (WIDTH - LEFT - RIGHT) * hour / 24

    def y(value: float) -> float:
        return HEIGHT - BOTTOM - (value - low) / (high - low) * (HEIGHT - BOTTOM - TOP)

    lines = []
    for name, points in days:
        parts, part = [], list(points[:1])
        for one, two in pairwise(points):
            if two[0] - one[0] > 3.1:
                parts.append(part)
                part = []
            part.append(two)
        parts.append(part)
        lines.append({"name": name, "path": "".join(_path((x(h), y(v)) for h, v in part) for part in parts if len(part) > 1)})
    return dict(
        plain(
            {
                "width": WIDTH,
                "height": HEIGHT,
                "left": LEFT,
                "right": WIDTH - RIGHT,
                "lines": lines,
                "marks": [{"y": y(value), "text": text} for value, text in _marks((low, high), unit, units)],
                "ticks": [{"x": x(float(hour)), "text": f"{hour:02d}:00"} for hour in range(0, 25, 3)],
            }
        )
    )
