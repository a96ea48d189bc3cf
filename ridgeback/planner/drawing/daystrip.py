"""The day strip: twenty-four hours of heat, moisture, light and UV under their bands."""

from typing import Any

import numpy as np
from numpy.typing import NDArray

from husbandry.plan.document import HabitatPlan, Timed, hours_of
from husbandry.plan.result import Assessment
from husbandry.quantities import convert
from ridgeback.planner.drawing import plain
from ridgeback.units import KeeperUnits

Floats = NDArray[np.float64]

LEFT, RIGHT = 46.0, 74.0
HEAT_TOP, BETWEEN = 8.0, 8.0
HUMID_SHARE = 0.27  # of the height that the curves have
DRAWN = slice(9, None, 10)  # minutes: one point each ten
UNDER = 32.0  # light, UV and hours below the curves


def draw(plan: HabitatPlan, found: Assessment, season: str, units: KeeperUnits, size: tuple[float, float]) -> dict[str, Any]:
    """Return coordinates and words for one season's day; `size` is width and height in pixels."""
    width, height = size
    curves_high = height - UNDER - HEAT_TOP - BETWEEN
    heat_bottom = HEAT_TOP + (1 - HUMID_SHARE) * curves_high
    humid_top, humid_bottom = heat_bottom + BETWEEN, heat_bottom + BETWEEN + HUMID_SHARE * curves_high
    day = found.days[season]
    curves = {"basking": day.basking_surface, "warm": day.warm_air, "cool": day.cool_air}
    low = min(float(curve.min()) for curve in curves.values()) - 1.5
    high = max(float(curve.max()) for curve in curves.values()) + 1.5

    def x(hour: float) -> float:
        return LEFT + (width - LEFT - RIGHT) * hour / 24

    def heat_y(value: float) -> float:
        return heat_bottom - (value - low) / (high - low) * (heat_bottom - HEAT_TOP)

    def humid_y(value: float) -> float:
        return humid_bottom - value / 100 * (humid_bottom - humid_top)

    def path(values: Floats, y: Any) -> str:
        hours = np.concatenate([[0.0], day.hours[DRAWN]])
        closed = np.concatenate([values[-1:], values[DRAWN]])
        return "M" + "L".join(f"{x(hour):.1f},{y(float(value)):.1f}" for hour, value in zip(hours, closed, strict=True))

    drawn = {
        "width": width,
        "height": height,
        "lit": _spans(plan.daylight, x),
        "curves": {name: path(curve, heat_y) for name, curve in curves.items()},
        "humidity": path(day.cool_humidity, humid_y),
        "names": _apart({name: heat_y(float(curve[-1])) for name, curve in curves.items()}, heat_bottom),
        "label_x": width - RIGHT + 6,
        "bands": _bands(plan, found, season, x, heat_y, heat_bottom),
        "humid_band": _humid_band(found, season, humid_y),
        "hours": [{"x": x(hour), "text": f"{hour:02d}"} for hour in range(0, 25, 3)],
        "ticks": _ticks(low, high, units, heat_y),
        "uv": [span for lamp in plan.uv_lamps for span in _spans(lamp, x)],
        "heat": [span for heater in plan.heaters for span in _spans(heater, x)],
        "left": LEFT,
        "span": width - LEFT - RIGHT,
        "right": width - RIGHT,
        "uv_y": height - 21.0,
        "axis_y": height - 14.0,
        "humid_bottom": humid_bottom,
        "words": words(plan, found, season, units),
    }
    return dict(plain(drawn))


def words(plan: HabitatPlan, found: Assessment, season: str, units: KeeperUnits) -> dict[str, str]:
    """The day in numbers, for the sentence beside the strip."""
    day = found.days[season]
    minutes = minutes_to_basking(plan, found, season)
    return {
        "on": plan.daylight.on.strftime("%H:%M"),
        "off": plan.daylight.off.strftime("%H:%M"),
        "warm_low": units.number(float(day.warm_air.min()), "degC")[0],
        "warm_high": " ".join(units.number(float(day.warm_air.max()), "degC")),
        "cool_low": units.number(float(day.cool_air.min()), "degC")[0],
        "cool_high": " ".join(units.number(float(day.cool_air.max()), "degC")),
        "kwh": f"{day.kwh:.2f}",
        "minutes": "" if minutes is None else str(minutes),
    }


def minutes_to_basking(plan: HabitatPlan, found: Assessment, season: str) -> int | None:
    """Minutes from lights on until the basking surface is in its band, to five minutes; None when it never is."""
    band = found.quantity("basking_surface", season, "day").band
    if band is None or band.low is None:
        return None
    day = found.days[season]
    since = (day.hours - hours_of(plan.daylight.on)) % 24
    order = np.argsort(since)
    reached = np.flatnonzero(day.basking_surface[order] >= band.low)
    return None if reached.size == 0 else round(float(since[order][reached[0]]) * 60 / 5) * 5


def _spans(timed: Timed, x: Any) -> list[dict[str, float]]:
    on, off = hours_of(timed.on), hours_of(timed.off)
    if on == off:
        return [{"x": x(0), "w": x(24) - x(0)}]
    if on < off:
        return [{"x": x(on), "w": x(off) - x(on)}]
    return [{"x": x(0), "w": x(off) - x(0)}, {"x": x(on), "w": x(24) - x(on)}]


def _bands(plan: HabitatPlan, found: Assessment, season: str, x: Any, y: Any, heat_bottom: float) -> list[dict[str, Any]]:
    """The targets by day, over the lit hours."""
    shown = []
    for name, key in (("basking", "basking_surface"), ("warm", "warm_air"), ("cool", "cool_air")):
        band = found.quantity(key, season, "day").band
        if band is None or band.low is None or band.high is None:
            continue
        for span in _spans(plan.daylight, x):
            top, bottom = max(y(band.high), HEAT_TOP), min(y(band.low), heat_bottom)
            if bottom > top:
                shown.append({"name": name, "x": span["x"], "w": span["w"], "y": top, "h": bottom - top})
    return shown


def _humid_band(found: Assessment, season: str, y: Any) -> dict[str, float] | None:
    band = found.quantity("cool_humidity", season, "day").band
    if band is None or band.low is None or band.high is None:
        return None
    return {"y": y(band.high), "h": y(band.low) - y(band.high)}


def _ticks(low: float, high: float, units: KeeperUnits, y: Any) -> list[dict[str, Any]]:
    unit = units.temperature
    first, last = convert(low, "degC", unit), convert(high, "degC", unit)
    step = next(size for size in (2, 5, 10, 20, 50) if (last - first) / size <= 5)
    begin = int(np.ceil(first / step))
    return [{"y": y(convert(k * step, unit, "degC")), "text": f"{k * step}°"} for k in range(begin, int(last // step) + 1)]


def _apart(places: dict[str, float], lowest: float) -> list[tuple[str, float]]:
    """Move labels down until they no longer overlap."""
    placed: list[tuple[str, float]] = []
    for name, y in sorted(places.items(), key=lambda item: item[1]):
        if placed and y - placed[-1][1] < 12:
            y = placed[-1][1] + 12
        placed.append((name, y))
    over = placed[-1][1] - lowest
    return [(name, y - max(over, 0.0)) for name, y in placed]
