"""Changing a plan by path: what a finding's remedy and a form field do."""

import math
from typing import Any, Final

from husbandry import numerals
from husbandry.assessment import Change
from husbandry.climate.heat_gains import LAMP_ON_LID_M
from husbandry.climate.heaters import HEATERS
from husbandry.plan.habitat import ABOVE_LID_M
from husbandry.units import TOLERANCE_M

BESIDE_M: Final = 0.02  # a lamp so near beside a basking place hangs over it
CLEAR_M: Final = 0.03  # between a tube and what stands below it


def apply(document: dict[str, Any], changes: tuple[Change, ...]) -> dict[str, Any]:
    """Return a copy of a plan's JSON document with `changes` made; one past a list's end appends, None in a list removes.

    Raises KeyError when a path leads nowhere.
    """
    copied = _copy(document)
    for change in changes:
        *way, last = change.path.split(".")
        place: Any = copied
        for step in way:
            if isinstance(place, dict) and place.get(step) is None:
                place[step] = {}
            place = place[_key(place, step, change.path)]
        value = _copy(change.value)
        key = _key(place, last, change.path, appends=value is not None)
        if not isinstance(place, list):
            place[key] = value
        elif value is None:
            del place[key]
        elif key == len(place):
            place.append(value)
        else:
            place[key] = value
    return copied


def refit(before: dict[str, Any], after: dict[str, Any]) -> dict[str, Any]:
    """Return `after` with everything brought back inside an enclosure that was resized.

    Lamps on the lid follow the lid; what would lie outside moves to the nearest place inside.
    """
    refitted: dict[str, Any] = _copy(after)
    box, old = refitted["enclosure"], before["enclosure"]
    parts = [*refitted["things"], *refitted["ground"].get("areas", [])]
    lamps = [*refitted["heaters"], *refitted["uv_lamps"], *refitted.get("light_bars", [])]
    for vent in box.get("vents", []):
        vent["height_m"] = min(vent["height_m"], box["height_m"])
    for area in refitted["ground"].get("areas", []):
        for middle, side in (("x_m", "length_m"), ("y_m", "width_m")):
            area[side] = min(area[side], box[side])
            area[middle] = min(max(area[middle], area[side] / 2), box[side] - area[side] / 2)
    for part in [*parts, *lamps]:
        part["x_m"] = min(part["x_m"], box["length_m"])
        if part.get("y_m") is not None:
            part["y_m"] = min(part["y_m"], box["width_m"])
    for probe in refitted.get("probes", []):
        probe["x_m"], probe["height_m"] = min(probe["x_m"], box["length_m"]), min(probe["height_m"], box["height_m"])
    for held in (heater["thermostat"] for heater in refitted["heaters"] if heater.get("thermostat")):
        for name, side in (("probe_x_m", "length_m"), ("probe_height_m", "height_m")):
            if held.get(name) is not None:
                held[name] = min(held[name], box[side])
    pool = refitted.get("pool")
    if pool:
        whole = pool["length_m"] >= old["length_m"] - TOLERANCE_M
        pool["length_m"] = box["length_m"] if whole else min(pool["length_m"], box["length_m"])
        pool["x_m"] = min(max(pool["x_m"], pool["length_m"] / 2), box["length_m"] - pool["length_m"] / 2)
        pool["depth_m"] = min(pool["depth_m"], math.floor(95 * box["height_m"]) / 100)
    ceiling = box["height_m"] + (0.0 if box["lid"] == "solid" else ABOVE_LID_M)
    for lamp in lamps:
        if lamp["height_m"] >= old["height_m"] - TOLERANCE_M:
            lamp["height_m"] = box["height_m"] + max(lamp["height_m"] - old["height_m"], 0.0)
        # Rounded down: a tenth of a millimetre must not lift it through the lid.
        lamp["height_m"] = math.floor(min(lamp["height_m"], ceiling) * 1e4 + 1e-6) / 1e4
    return refitted


def follow(before: dict[str, Any], after: dict[str, Any]) -> dict[str, Any]:
    """Return `after` with the lamps over a basking place that was moved taken along, at their distance from it.

    What hangs beside it and lower than its top stays. A lamp on a lid goes along sideways and stays as high as it is; none goes
    through the lid. Tubes stay where they are, but for one that what was raised would reach. Where even that is no way out,
    `check_places` says so.
    """
    moved = _copy(after)
    old, new, box = _basking(before), _basking(moved), moved["enclosure"]
    if not old or not new:
        return after
    ceiling = box["height_m"] - (LAMP_ON_LID_M if box["lid"] == "solid" else 0.0)
    aside, rise = new["x_m"] - old["x_m"], _top_m(new) - _top_m(old)
    back = _y_m(new, box) - _y_m(old, box)
    ground_m = sum(layer["depth_m"] for layer in moved["ground"]["layers"])
    top = ground_m + _top_m(new)

    def over(lamp: dict[str, Any], platform: dict[str, Any]) -> bool:
        reach = platform["length_m"] / 2 + BESIDE_M
        return bool(abs(lamp["x_m"] - platform["x_m"]) <= reach and abs(_y_m(lamp, box) - _y_m(platform, box)) <= reach)

    top_before = ground_m + _top_m(old)
    for lamp in moved["heaters"]:
        if HEATERS[lamp["kind"]].place != "over" or not over(lamp, old) or lamp["height_m"] <= top_before:
            continue  # what hangs lower, beside it, stays
        lamp["x_m"] = round(min(max(lamp["x_m"] + aside, 0.0), box["length_m"]), 4)
        if back:
            lamp["y_m"] = round(min(max(_y_m(lamp, box) + back, 0.0), box["width_m"]), 4)
        if lamp["height_m"] < box["height_m"] - TOLERANCE_M:
            lamp["height_m"] = round(min(lamp["height_m"] + rise, max(ceiling, lamp["height_m"])), 4)
    for lamp in [*moved["uv_lamps"], *moved.get("light_bars", [])]:
        if over(lamp, new) and lamp["height_m"] < top + CLEAR_M:
            lamp["height_m"] = round(min(lamp["height_m"] + max(rise, 0.0), max(ceiling, lamp["height_m"])), 4)
    return moved


def _basking(document: dict[str, Any]) -> dict[str, Any] | None:
    """The first basking place of a plan's document."""
    return next((thing for thing in document["things"] if thing.get("basking")), None)


def _top_m(thing: dict[str, Any]) -> float:
    """A thing's top above its base, m."""
    return float(thing.get("up_m", 0.0) + thing["height_m"])


def _y_m(part: dict[str, Any], box: dict[str, Any]) -> float:
    """How far from the front a part stands: midway where it does not say."""
    y_m = part.get("y_m")
    return float(box["width_m"] / 2 if y_m is None else y_m)


def _key(place: Any, step: str, path: str, *, appends: bool = False) -> Any:
    if isinstance(place, dict):
        return step
    at = numerals.place(step) if isinstance(place, list) else None
    if at is not None and at < len(place) + appends:
        return at
    raise KeyError(path)


def _copy(value: Any) -> Any:
    if isinstance(value, dict):
        return {key: _copy(item) for key, item in value.items()}
    if isinstance(value, list | tuple):
        return [_copy(item) for item in value]
    return value
