"""Moving, adding and taking away parts of a plan."""

import math
import re
from collections.abc import Sequence
from typing import Any

from husbandry.assessment import Change
from husbandry.errors import HusbandryError
from husbandry.inputs.climate_case import USUAL_LENGTH_M
from husbandry.inputs.probe_places import probe_places
from husbandry.inputs.ultraviolet import lamp_times
from husbandry.plan.editing import BESIDE_M, apply, follow
from husbandry.plan.geometry import basking_top_m, hanging, hide_depth_m, highest_m
from husbandry.plan.habitat import ABOVE_LID_M, HabitatPlan
from husbandry.plan.reading import read_data

LEAST_GAP_M = 0.03
AT_PLACE_M = 0.008  # from a place with a name: nearer than that it is meant; a step by key leaves it
COMES_AND_GOES = re.compile(
    r"(heaters|uv_lamps|light_bars|hides|probes|enclosure\.vents|misting\.times|misting\.winter\.times)\.\d+"
    r"|misting\.winter|platform|bowl|pool|window"
)
HANGS = ("heaters", "uv_lamps", "light_bars")


class NoSuchPartError(HusbandryError, LookupError):
    """The plan has no part at this path."""


def move(plan: HabitatPlan, path: str, x_m: float, height_m: float) -> HabitatPlan:
    """Return the plan with the part at `path` moved, held inside the enclosure. Raises NoSuchPartError.

    `height_m` is above the inner floor: a lamp's face, a platform's top, the ground's surface; hides and bowls stay on it.
    """
    box = plan.enclosure
    x_m = round(min(max(x_m, 0.0), box.length_m), 4)
    group, _, place = path.partition(".")
    changes: tuple[Change, ...]
    if path.endswith(".thermostat.probe") and group == "heaters":
        changes = _probe_moved(plan, _index(plan, group, place.partition(".")[0]), x_m, _within(height_m, 0.0, box.height_m))
    elif group == "probes" and _stands(place, plan.probes):
        changes = (Change(f"{path}.x_m", x_m), Change(f"{path}.height_m", _within(height_m, 0.0, box.height_m)))
    elif group == "enclosure":
        _vents, _, number = place.partition(".")
        changes = (
            Change(f"enclosure.vents.{_index(plan.enclosure, 'vents', number)}.height_m", _within(height_m, 0.0, box.height_m)),
        )
    elif group == "heaters" and _stands(place, plan.heaters) and not plan.heaters[int(place)].hangs:
        changes = (Change(f"{path}.x_m", x_m),)
        if plan.heaters[int(place)].kind == "tube-heater":
            changes += (Change(f"{path}.height_m", _within(height_m, basking_top_m(plan, x_m) + LEAST_GAP_M, box.height_m)),)
    elif group in HANGS and _stands(place, getattr(plan, group)):
        top = basking_top_m(plan, x_m)
        ceiling = box.height_m + (0.0 if box.lid == "solid" else ABOVE_LID_M)
        height_m = round(min(max(height_m, top + LEAST_GAP_M), ceiling), 4)
        changes = (Change(f"{path}.x_m", x_m), Change(f"{path}.height_m", height_m))
    elif path == "platform" and plan.platform is not None:
        return _platform_moved(plan, x_m, height_m)
    elif group == "hides" and _stands(place, plan.hides):
        changes = (Change(f"{path}.x_m", x_m),)
    elif path == "bowl" and plan.bowl is not None:
        changes = (Change("bowl.x_m", x_m),)
    elif path == "pool" and plan.pool is not None:
        changes = (Change("pool.depth_m", round(min(max(height_m, LEAST_GAP_M), box.height_m - LEAST_GAP_M, 2.0), 4)),)
    elif path == "ground":
        # What stands on the ground rises with it; what hangs stays.
        clear = [box.height_m - (plan.platform.height_m if plan.platform else 0.0)]
        clear += [lamp.height_m - (basking_top_m(plan, lamp.x_m) - plan.ground.depth_m) for lamp in hanging(plan)]
        changes = (Change("ground.depth_m", round(min(max(height_m, 0.0), max(min(clear) - LEAST_GAP_M, 0.0), 1.0), 4)),)
    else:
        raise NoSuchPartError(path)
    return read_data(apply(plan.model_dump(mode="json"), changes))


def move_on_floor(plan: HabitatPlan, path: str, x_m: float, y_m: float) -> HabitatPlan:
    """Return the plan with the part at `path` moved along and from front to back, held inside. Raises NoSuchPartError.

    `y_m` is from the front; how high a part hangs or stands stays as it is, and lamps over the basking place go along with it.
    """
    group, _, place = path.partition(".")
    half_m = 0.0
    if path == "platform" and plan.platform is not None:
        height_m = plan.ground.depth_m + plan.platform.height_m
        half_m = min(plan.platform.length_m, plan.enclosure.width_m) / 2
    elif path == "bowl" and plan.bowl is not None:
        height_m, half_m = 0.0, plan.bowl.diameter_m / 2
    elif group == "hides" and _stands(place, plan.hides):
        height_m, half_m = 0.0, hide_depth_m(plan, plan.hides[int(place)]) / 2
    elif group in HANGS and _stands(place, getattr(plan, group)):
        height_m = getattr(plan, group)[int(place)].height_m
    else:
        raise NoSuchPartError(path)
    along = move(plan, path, x_m, height_m)
    before = along.model_dump(mode="json")
    changed = apply(before, (Change(f"{path}.y_m", _within(y_m, half_m, plan.enclosure.width_m - half_m)),))
    return read_data(follow(before, changed) if path == "platform" else changed)


def _platform_moved(plan: HabitatPlan, x_m: float, height_m: float) -> HabitatPlan:
    """The plan with its basking place moved and its lamps taken along, as high as they find room."""
    assert plan.platform is not None
    box, ground_m, half_m = plan.enclosure, plan.ground.depth_m, plan.platform.length_m / 2
    under_lid = highest_m(plan)
    top_m = ground_m + plan.platform.height_m
    over = [lamp for lamp in plan.heaters if lamp.hangs and lamp.height_m > top_m]  # what hangs lower, beside it, stays
    heaters = [lamp for lamp in over if abs(lamp.x_m - plan.platform.x_m) <= half_m + BESIDE_M]
    # Those that go along rise to the lid at most; the others stay where they are.
    highest = [max(under_lid if lamp.height_m < box.height_m - 1e-6 else lamp.height_m, lamp.height_m) for lamp in heaters]
    rise = [lamp.height_m - basking_top_m(plan, plan.platform.x_m) for lamp in heaters]
    limits = [high - min(gap, LEAST_GAP_M) for high, gap in zip(highest, rise, strict=True)]
    staying = [lamp for lamp in hanging(plan) if lamp not in heaters]
    limits += [lamp.height_m - LEAST_GAP_M for lamp in staying if abs(lamp.x_m - x_m) <= half_m]
    most = min([*limits, box.height_m - LEAST_GAP_M]) - ground_m
    above = round(min(max(height_m - ground_m, 0.0), max(most, 0.0), 3.0), 4)
    before = plan.model_dump(mode="json")
    changes = (Change("platform.x_m", x_m), Change("platform.height_m", above))
    return read_data(follow(before, apply(before, changes)))


def _stands(place: str, parts: Sequence[object]) -> bool:
    """Tell whether there is a part of this number."""
    return place.isascii() and place.isdecimal() and int(place) < len(parts)


def _index(owner: object, group: str, place: str) -> int:
    if not _stands(place, getattr(owner, group)):
        raise NoSuchPartError(f"{group}.{place}")
    return int(place)


def _within(value: float, low: float, high: float) -> float:
    return round(min(max(value, low), high), 4)


def _probe_moved(plan: HabitatPlan, index: int, x_m: float, height_m: float) -> tuple[Change, ...]:
    """The changes that put a thermostat's probe down: at a place that has a name where it is let go there, else at its own."""
    places, path = probe_places(plan, index), f"heaters.{index}.thermostat"
    places.pop("own", None)
    inside = _named_region(plan, index, x_m, height_m)
    if inside in places:
        return Change(f"{path}.probe", inside), Change(f"{path}.probe_x_m", None), Change(f"{path}.probe_height_m", None)
    off_m = {name: math.hypot(place_m - x_m, up_m - height_m) for name, (place_m, up_m) in places.items()}
    nearest = min(off_m, key=off_m.__getitem__)
    if off_m[nearest] <= AT_PLACE_M:
        return Change(f"{path}.probe", nearest), Change(f"{path}.probe_x_m", None), Change(f"{path}.probe_height_m", None)
    return Change(f"{path}.probe", "own"), Change(f"{path}.probe_x_m", x_m), Change(f"{path}.probe_height_m", height_m)


def _named_region(plan: HabitatPlan, index: int, x_m: float, height_m: float) -> str:
    """The place with a name that is more than a point: under the ground on a mat, inside the humid hide; "" elsewhere."""
    heater, ground_m = plan.heaters[index], plan.ground.depth_m
    if abs(x_m - heater.x_m) <= (heater.length_m or USUAL_LENGTH_M) / 2 and height_m <= ground_m / 2:
        return "mat"
    hide = next((hide for hide in plan.hides if hide.humid), None)
    inside = hide is not None and abs(x_m - hide.x_m) <= hide.length_m / 2 and ground_m <= height_m <= ground_m + hide.height_m
    return "humid-hide" if inside else ""


def add(plan: HabitatPlan, path: str) -> HabitatPlan:
    """Return the plan with a usual part added at `path`, one past the list's end or an empty place."""
    box = plan.enclosure
    on, off = plan.daylight.on.strftime("%H:%M"), plan.daylight.off.strftime("%H:%M")
    x_m = round(plan.platform.x_m if plan.platform else 0.25 * box.length_m, 3)
    lamp_height = box.height_m if box.lid != "solid" else round(box.height_m - 0.05, 3)
    tube_m = 0.55 if box.length_m >= 0.6 else round(0.6 * box.length_m, 2)
    side = round(min(0.2, 0.3 * box.length_m), 2)
    usual: dict[str, dict[str, Any]] = {
        "heaters": {"kind": "reflector-flood", "watts": 50, "x_m": x_m, "height_m": lamp_height, "on": on, "off": off},
        "uv_lamps": {
            "kind": "slim-6",
            "tube_m": tube_m,
            "x_m": round(max(x_m, tube_m / 2), 3),
            "height_m": lamp_height,
            **{name: f"{at:%H:%M}" for name, at in lamp_times(plan).items()},
        },
        "hides": {"x_m": round(0.75 * box.length_m, 3), "length_m": side, "height_m": round(side / 2, 3)},
        "probes": {
            "x_m": round(box.length_m / 2, 3),
            "height_m": round((plan.ground.depth_m + box.height_m) / 2, 3),
        },
        "platform": {"x_m": round(0.25 * box.length_m, 3), "length_m": side, "height_m": 0.02},
        "bowl": {"x_m": round(0.7 * box.length_m, 3), "diameter_m": round(min(0.15, 0.4 * box.width_m), 3)},
    }
    bar_m = round(0.6 * box.length_m, 2)
    usual["light_bars"] = {
        "kind": "led-bar",
        "watts": round(40 * bar_m),
        "length_m": bar_m,
        "x_m": round(box.length_m / 2, 3),
        "height_m": lamp_height,
        "on": on,
        "off": off,
    }
    usual["enclosure"] = {"height_m": round(0.2 * box.height_m if not box.vents else 0.9 * box.height_m, 3), "area_m2": 0.006}
    usual["misting"] = {"at": "08:00" if not plan.misting.times else "20:00", "grams": 40}
    if path == "misting.winter":
        usual["misting"] = plan.misting.model_dump(mode="json", exclude={"winter"})
    usual["window"] = {"watts": 100, "on": "09:00", "off": "11:00"}
    half = round(0.5 * box.length_m, 3)
    usual["pool"] = {"x_m": round(box.length_m - half / 2, 3), "length_m": half, "depth_m": round(0.3 * box.height_m, 3)}
    if not COMES_AND_GOES.fullmatch(path):
        raise NoSuchPartError(path)
    return _changed(plan, path, usual[path.partition(".")[0]])


def take_away(plan: HabitatPlan, path: str) -> HabitatPlan:
    """Return the plan without the part at `path`."""
    if not COMES_AND_GOES.fullmatch(path):
        raise NoSuchPartError(path)
    return _changed(plan, path, None)


def _changed(plan: HabitatPlan, path: str, value: Any) -> HabitatPlan:
    try:
        return read_data(apply(plan.model_dump(mode="json"), (Change(path, value),)))
    except (KeyError, IndexError):
        raise NoSuchPartError(path) from None
