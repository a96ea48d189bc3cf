"""The day strip: twenty-four hours of heat, moisture, light and UV under their bands."""

from typing import Any, Final

import numpy as np
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy
from numpy.typing import NDArray

from husbandry.assess.result import Assessment
from husbandry.assessment import Quantity
from husbandry.climate.daycourse import DayCourse
from husbandry.inputs.light_sources import times_of
from husbandry.plan.equipment import Timed, hours_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.units import convert
from ridgeback.drawing.numbers import plain
from ridgeback.units import KeeperUnits, written

Floats = NDArray[np.float64]

LEFT, RIGHT = 46.0, 74.0
HEAT_TOP, BETWEEN = 8.0, 8.0
HUMID_SHARE = 0.27  # of the height that the curves have
WORDS: Final = {
    "basking": gettext_lazy("basking"),
    "tank": gettext_lazy("water"),
    "warm": gettext_lazy("warm end"),
    "cool": gettext_lazy("cool end"),
}
DRAWN = slice(9, None, 10)  # minutes: one point each ten
NAMES = {"basking_surface": "basking", "water_temperature": "tank", "warm_air": "warm", "cool_air": "cool"}
UNDER = 32.0  # light, UV and hours below the curves


def draw(plan: HabitatPlan, found: Assessment, season: str, units: KeeperUnits, size: tuple[float, float]) -> dict[str, Any]:
    """Return coordinates and words for one season's day; `size` is width and height in pixels."""
    width, height = size
    curves_high = height - UNDER - HEAT_TOP - BETWEEN
    day = found.days[season]
    targets = [item for item in found.quantities if item.key in NAMES and (item.season, item.phase) == (season, "day")]
    curves = curves_of(day, targets)
    low, high = _scale([curves], targets)
    humid_share = HUMID_SHARE if "cool" in curves else 0.0
    heat_bottom = HEAT_TOP + (1 - humid_share) * curves_high
    humid_top, humid_bottom = heat_bottom + BETWEEN, heat_bottom + BETWEEN + humid_share * curves_high

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

    told = words(plan, found, season, units)
    drawn = {
        "width": width,
        "height": height,
        "lit": _spans(plan.daylight, x),
        "curves": {name: path(curve, heat_y) for name, curve in curves.items()},
        "humidity": path(day.cool_humidity, humid_y) if "cool" in curves else "",
        "names": _labels({name: heat_y(float(curve[-1])) for name, curve in curves.items()}, heat_bottom),
        "label_x": width - RIGHT + 6,
        "bands": _bands(plan, targets, curves, x, heat_y),
        "humid_band": _humid_band(found, season, humid_y),
        "hours": [{"x": x(hour), "text": f"{hour:02d}"} for hour in range(0, 25, 3)],
        "ticks": _ticks(low, high, units, heat_y),
        "uv": [span for lamp in plan.uv_lamps for one in times_of(lamp) for span in _spans(one, x)],
        "heat": [span for heater in plan.heaters for span in _spans(heater, x)],
        "left": LEFT,
        "span": width - LEFT - RIGHT,
        "right": width - RIGHT,
        "uv_y": height - 21.0,
        "axis_y": height - 14.0,
        "humid_bottom": humid_bottom,
        "words": told | _said(told, air="cool" in curves),
    }
    return dict(plain(drawn))


def curves_of(day: DayCourse, targets: list[Quantity]) -> dict[str, Floats]:
    """The curves of a day by name: where it basks, its water, the air at either end. In a tank only those with a target."""
    every = {"basking": day.basking_surface, "warm": day.warm_air, "cool": day.cool_air}
    if day.water_c is None:
        return every
    wanted = {NAMES[item.key] for item in targets if item.band is not None and item.band.low is not None}
    return {name: curve for name, curve in ({"tank": day.water_c} | every).items() if name == "tank" or name in wanted}


def _drawn(targets: list[Quantity], curves: dict[str, Floats]) -> list[tuple[str, float, float]]:
    """The targets with two ends whose curve is drawn, as name, low and high in °C."""
    found = []
    for item in targets:
        if NAMES[item.key] in curves and item.band is not None and item.band.low is not None and item.band.high is not None:
            found.append((NAMES[item.key], item.band.low, item.band.high))
    return found


def _scale(days: list[dict[str, Floats]], targets: list[Quantity]) -> tuple[float, float]:
    """The lowest and highest temperature (°C) of a strip: all curves and all their targets are on it."""
    every = [float(value) for curves in days for curve in curves.values() for value in (curve.min(), curve.max())]
    every += [end for curves in days[:1] for _name, low, high in _drawn(targets, curves) for end in (low, high)]
    return min(every) - 1.5, max(every) + 1.5


def two(
    before: DayCourse, after: DayCourse, targets: list[Quantity], units: KeeperUnits, size: tuple[float, float]
) -> dict[str, Any]:
    """Two days on one scale: the curves of either, and the target bands of `targets` by day."""
    width, height = size
    bottom = height - 18.0
    days = {"before": before, "after": after}
    curves = {which: curves_of(day, targets) for which, day in days.items()}
    low, high = _scale(list(curves.values()), targets)

    def x(hour: float) -> float:
        return LEFT + (width - LEFT - RIGHT) * hour / 24

    def y(value: float) -> float:
        return bottom - (value - low) / (high - low) * (bottom - HEAT_TOP)

    def path(values: Floats) -> str:
        closed = zip(np.concatenate([[0.0], before.hours[DRAWN]]), np.concatenate([values[-1:], values[DRAWN]]), strict=True)
        return "M" + "L".join(f"{x(hour):.1f},{y(float(value)):.1f}" for hour, value in closed)

    lit = np.flatnonzero(np.diff(np.concatenate([[False], before.lit, [False]]).astype(int)))
    bands = _drawn(targets, curves["before"])
    drawn = {
        "width": width,
        "height": height,
        "curves": [
            {"which": which, "name": name, "path": path(curve)} for which, of in curves.items() for name, curve in of.items()
        ],
        "names": _labels({name: y(float(curve[-1])) for name, curve in curves["after"].items()}, bottom),
        "lit": [{"x": x(begin / 60), "w": x(end / 60) - x(begin / 60)} for begin, end in zip(lit[::2], lit[1::2], strict=True)],
        "bands": [{"name": name, "y": y(most), "h": y(least) - y(most)} for name, least, most in bands],
        "ticks": _ticks(low, high, units, y),
        "hours": [{"x": x(hour), "text": f"{hour:02d}"} for hour in range(0, 25, 3)],
        "left": LEFT,
        "right": width - RIGHT,
        "span": width - LEFT - RIGHT,
        "axis_y": bottom,
        "label_x": width - RIGHT + 6,
    }
    return dict(plain(drawn))


def words(plan: HabitatPlan, found: Assessment, season: str, units: KeeperUnits) -> dict[str, str]:
    """The day in numbers, for the sentence beside the strip."""
    day = found.days[season]
    after = next((item.value for item in found.quantities if (item.key, item.season) == ("basking_after", season)), None)
    energy = next((item.value for item in found.quantities if (item.key, item.season) == ("energy", season)), None)
    return {
        "on": plan.daylight.on.strftime("%H:%M"),
        "off": plan.daylight.off.strftime("%H:%M"),
        "water_low": "" if day.water_c is None else units.number(float(day.water_c.min()), "degC")[0],
        "water_high": "" if day.water_c is None else " ".join(units.number(float(day.water_c.max()), "degC")),
        "warm_low": units.number(float(day.warm_air.min()), "degC")[0],
        "warm_high": " ".join(units.number(float(day.warm_air.max()), "degC")),
        "cool_low": units.number(float(day.cool_air.min()), "degC")[0],
        "cool_high": " ".join(units.number(float(day.cool_air.max()), "degC")),
        "kwh": written(energy or 0.0, ".2f"),
        "minutes": "" if after is None else f"{after:.0f}",
    }


def _said(found: dict[str, str], *, air: bool) -> dict[str, str]:
    """What the curves span, as sentences: of the water, of the air at both ends, and of what is drawn for who cannot see it."""
    water = _("water %(water_low)s–%(water_high)s") % found if found["water_low"] else ""
    ends = _("warm end %(warm_low)s–%(warm_high)s · cool end %(cool_low)s–%(cool_high)s") % found
    if air:
        drawn = _("Twenty-four hours: warm end %(warm_low)s to %(warm_high)s, cool end %(cool_low)s to %(cool_high)s") % found
    else:
        drawn = _("Twenty-four hours: water %(water_low)s to %(water_high)s") % found
    return {"water": water, "ends": ends if air else "", "drawn": drawn}


def _labels(places: dict[str, float], lowest: float) -> list[dict[str, Any]]:
    """The curves' names, as far apart as they are legible."""
    return [{"name": name, "text": str(WORDS[name]), "y": y} for name, y in apart(places, lowest)]


def _spans(timed: Timed, x: Any) -> list[dict[str, float]]:
    on, off = hours_of(timed.on), hours_of(timed.off)
    if on == off:
        return [{"x": x(0), "w": x(24) - x(0)}]
    if on < off:
        return [{"x": x(on), "w": x(off) - x(on)}]
    return [{"x": x(0), "w": x(off) - x(0)}, {"x": x(on), "w": x(24) - x(on)}]


def _bands(plan: HabitatPlan, targets: list[Quantity], curves: dict[str, Floats], x: Any, y: Any) -> list[dict[str, Any]]:
    """The targets by day, over the lit hours."""
    return [
        {"name": name, "x": span["x"], "w": span["w"], "y": y(high), "h": y(low) - y(high)}
        for name, low, high in _drawn(targets, curves)
        for span in _spans(plan.daylight, x)
    ]


def _humid_band(found: Assessment, season: str, y: Any) -> dict[str, float] | None:
    band = found.quantity("cool_humidity", season, "day").band
    if band is None or band.low is None or band.high is None:
        return None
    return {"y": y(band.high), "h": y(band.low) - y(band.high)}


def _ticks(low: float, high: float, units: KeeperUnits, y: Any) -> list[dict[str, Any]]:
    unit = units.temperature
    first, last = convert(low, "degC", unit), convert(high, "degC", unit)
    step = next((size for size in (2, 5, 10, 20, 50, 100) if (last - first) / size <= 5), 500)
    begin = int(np.ceil(first / step))
    return [{"y": y(convert(k * step, unit, "degC")), "text": f"{k * step}°"} for k in range(begin, int(last // step) + 1)]


def apart(places: dict[str, float], lowest: float) -> list[tuple[str, float]]:
    """Move labels down until they no longer overlap."""
    placed: list[tuple[str, float]] = []
    for name, y in sorted(places.items(), key=lambda item: item[1]):
        if placed and y - placed[-1][1] < 12:
            y = placed[-1][1] + 12
        placed.append((name, y))
    over = placed[-1][1] - lowest
    return [(name, y - max(over, 0.0)) for name, y in placed]
