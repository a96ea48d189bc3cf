"""Moving, adding and taking away parts of a plan."""

import math
import re
from collections.abc import Sequence
from typing import Any

from husbandry import numerals
from husbandry.assessment import Change
from husbandry.errors import HusbandryError
from husbandry.furnishing.floor import free_spot
from husbandry.furnishing.mixes import ground_stuff, recipes
from husbandry.furnishing.things import kinds
from husbandry.inputs.climate_case import USUAL_LENGTH_M
from husbandry.inputs.furniture import footprint, footprints
from husbandry.inputs.probe_places import probe_places
from husbandry.inputs.ultraviolet import lamp_times
from husbandry.plan.changes import added, ground_depth, raised
from husbandry.plan.editing import BESIDE_M, apply, follow
from husbandry.plan.geometry import basking_top_m, depth_of, foot_m, half_sides_m, hanging, highest_m, top_of, y_of
from husbandry.plan.habitat import ABOVE_LID_M, HabitatPlan
from husbandry.plan.reading import read_data
from husbandry.remedies.ultraviolet import behind_lamps
from husbandry.units import TOLERANCE_M

LEAST_GAP_M = 0.03
# Of the enclosure, that a thing which is added takes at most.
MOST_OF_LENGTH, MOST_OF_WIDTH, MOST_OF_HEIGHT = 0.3, 0.4, 0.6
WANTED_AT = {"bask": 0.25, "hide": 0.75, "drink": 0.7, "feed": 0.4, "dig": 0.85, "lay": 0.85}  # of the length, by what it is for
LEAST_LAYER_M = 0.01
TURN_DEG = 15.0
SNAP_M = 0.015
AT_PLACE_M = 0.008  # from a place with a name: nearer than that it is meant; a step by key leaves it
COMES_AND_GOES = re.compile(
    r"(heaters|uv_lamps|light_bars|things|ground\.areas|ground\.layers|probes|enclosure\.vents|enclosure\.gaps|misting\.times|misting\.winter\.times)\.\d+"
    r"|misting\.winter|mister|pool|window"
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
    elif group == "things" and _stands(place, plan.things):
        thing = plan.things[int(place)]
        if thing is plan.platform:
            return _platform_moved(plan, x_m, height_m)
        changes = (Change(f"{path}.x_m", _at_wall(x_m, half_sides_m(plan, thing)[0], box.length_m)),)
        if thing.lets_under or thing.basking:
            foot_now_m = foot_m(plan, thing) - thing.up_m
            most_m = box.height_m - LEAST_GAP_M - foot_now_m
            changes += (raised(plan, thing, _within(height_m - foot_now_m, thing.height_m if thing.lets_under else 0.0, most_m)),)
    elif path == "pool" and plan.pool is not None:
        changes = (Change("pool.depth_m", round(min(max(height_m, LEAST_GAP_M), box.height_m - LEAST_GAP_M, 2.0), 4)),)
    elif path == "ground":
        # What stands on the ground rises with it; what hangs stays.
        clear = [box.height_m - max((thing.top_m for thing in plan.things if thing.stands == "ground"), default=0.0)]
        clear += [lamp.height_m - (basking_top_m(plan, lamp.x_m) - plan.ground.depth_m) for lamp in hanging(plan)]
        changes = ground_depth(plan, round(min(max(height_m, 0.0), max(min(clear) - LEAST_GAP_M, 0.0), 1.0), 4))
    else:
        raise NoSuchPartError(path)
    return read_data(apply(plan.model_dump(mode="json"), changes))


def move_on_floor(plan: HabitatPlan, path: str, x_m: float, y_m: float) -> HabitatPlan:
    """Return the plan with the part at `path` moved along and from front to back, held inside. Raises NoSuchPartError.

    `y_m` is from the front; how high a part hangs or stands stays as it is, and lamps over the basking place go along with it.
    """
    group, _, place = path.partition(".")
    half_m = 0.0
    basking = False
    if group == "things" and _stands(place, plan.things):
        thing = plan.things[int(place)]
        basking = thing is plan.platform
        height_m = top_of(plan, thing)
        half_m = min(thing.length_m if basking and not thing.lets_under else depth_of(plan, thing), plan.enclosure.width_m) / 2
    elif group in HANGS and _stands(place, getattr(plan, group)):
        height_m = getattr(plan, group)[int(place)].height_m
    else:
        raise NoSuchPartError(path)
    along = move(plan, path, x_m, height_m)
    before = along.model_dump(mode="json")
    wide_m = plan.enclosure.width_m
    back_m = _within(y_m, half_m, wide_m - half_m)
    back_m = _at_wall(back_m, half_m, wide_m) if group == "things" else back_m
    changed = apply(before, (Change(f"{path}.y_m", back_m),))
    return read_data(follow(before, changed) if basking else changed)


def _platform_moved(plan: HabitatPlan, x_m: float, height_m: float) -> HabitatPlan:
    """The plan with its basking place moved and its lamps taken along, as high as they find room."""
    assert plan.platform is not None
    platform = plan.platform
    box, ground_m, half_m = plan.enclosure, foot_m(plan, platform) - platform.up_m, platform.length_m / 2
    under_lid = highest_m(plan)
    top_m = top_of(plan, platform)
    over = [lamp for lamp in plan.heaters if lamp.hangs and lamp.height_m > top_m]  # what hangs lower, beside it, stays
    heaters = [lamp for lamp in over if abs(lamp.x_m - platform.x_m) <= half_m + BESIDE_M]
    # Those that go along rise to the lid at most; the others stay where they are.
    highest = [max(under_lid if lamp.height_m < box.height_m - TOLERANCE_M else lamp.height_m, lamp.height_m) for lamp in heaters]
    rise = [lamp.height_m - basking_top_m(plan, platform.x_m) for lamp in heaters]
    limits = [high - min(gap, LEAST_GAP_M) for high, gap in zip(highest, rise, strict=True)]
    staying = [lamp for lamp in hanging(plan) if lamp not in heaters]
    limits += [lamp.height_m - LEAST_GAP_M for lamp in staying if abs(lamp.x_m - x_m) <= half_m]
    most = min([*limits, box.height_m - LEAST_GAP_M]) - ground_m
    above = round(min(max(height_m - ground_m, 0.0), max(most, 0.0), 3.0), 4)
    before = plan.model_dump(mode="json")
    changes = (Change(f"{plan.path_of(platform)}.x_m", x_m), raised(plan, platform, above))
    return read_data(follow(before, apply(before, changes)))


def _stands(place: str, parts: Sequence[object]) -> bool:
    """Tell whether there is a part of this number."""
    number = numerals.place(place)
    return number is not None and number < len(parts)


def _index(owner: object, group: str, place: str) -> int:
    if not _stands(place, getattr(owner, group)):
        raise NoSuchPartError(f"{group}.{place}")
    return int(place)


def _within(value: float, low: float, high: float) -> float:
    return round(min(max(value, low), high), 4)


def _at_wall(at_m: float, half_m: float, side_m: float) -> float:
    """A place snapped to a wall that the thing all but touches."""
    for flush_m in (half_m, side_m - half_m):
        if abs(at_m - flush_m) <= SNAP_M:
            return round(flush_m, 4)
    return at_m


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
    inside = hide is not None and abs(x_m - hide.x_m) <= hide.length_m / 2 and ground_m <= height_m <= top_of(plan, hide)
    return "humid-hide" if inside else ""


def add(plan: HabitatPlan, path: str) -> HabitatPlan:
    """Return the plan with a usual part added at `path`: one past the list's end, an empty place, or "things." and a kind."""
    group, _, kind = path.partition(".")
    if group == "ground":
        change = _more_ground(plan, path)
        return _changed(plan, change.path, change.value)
    if group == "things" and kind in kinds():
        change = added(plan, _usual_thing(plan, kind))
        return _changed(plan, change.path, change.value)
    usual = _usual_parts(plan, path)
    if not COMES_AND_GOES.fullmatch(path) or group not in usual:
        raise NoSuchPartError(path)
    return _changed(plan, path, usual[group])


def _usual_parts(plan: HabitatPlan, path: str) -> dict[str, dict[str, Any]]:
    """A usual part of each group, as a plan's document has it; `path` tells which of a group that has several kinds."""
    box = plan.enclosure
    on, off = plan.daylight.on.strftime("%H:%M"), plan.daylight.off.strftime("%H:%M")
    x_m = round(plan.platform.x_m if plan.platform else 0.25 * box.length_m, 3)
    lamp_height = box.height_m if box.lid != "solid" else round(box.height_m - 0.05, 3)
    tube_m = 0.55 if box.length_m >= 0.6 else round(0.6 * box.length_m, 2)
    usual: dict[str, dict[str, Any]] = {
        "heaters": {"kind": "reflector-flood", "watts": 50, "x_m": x_m, "height_m": lamp_height, "on": on, "off": off},
        "uv_lamps": {
            "kind": "slim-6",
            "tube_m": tube_m,
            "x_m": round(max(x_m, tube_m / 2), 3),
            "height_m": lamp_height,
            **behind_lamps(plan, max(x_m, tube_m / 2), tube_m / 2),
            **{name: f"{at:%H:%M}" for name, at in lamp_times(plan).items()},
        },
        "probes": {
            "x_m": round(box.length_m / 2, 3),
            "height_m": round((plan.ground.depth_m + box.height_m) / 2, 3),
        },
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
    if path.startswith("enclosure.gaps"):
        usual["enclosure"] = {"at": "cable", "width_m": 0.01}
    usual["mister"] = {"nozzles": 1, "nozzle_g_min": 80.0}
    usual["misting"] = {"at": "08:00" if not plan.misting.times else "20:00", "grams": 40}
    if path == "misting.winter":
        usual["misting"] = plan.misting.model_dump(mode="json", exclude={"winter"})
    usual["window"] = {"watts": 100, "on": "09:00", "off": "11:00"}
    half = round(0.5 * box.length_m, 3)
    usual["pool"] = {"x_m": round(box.length_m - half / 2, 3), "length_m": half, "depth_m": round(0.3 * box.height_m, 3)}
    return usual


def _more_ground(plan: HabitatPlan, path: str) -> Change:
    """One more layer on top, one more material in a layer, or one more part of the floor. Raises NoSuchPartError."""
    ground, box = plan.ground, plan.enclosure
    if path == "ground.layers":
        top = ground.layers[-1]
        depth_m = max(round(top.depth_m / 4, 3), LEAST_LAYER_M)
        return Change(f"ground.layers.{len(ground.layers)}", {"parts": [{"material": "leaf-litter"}], "depth_m": depth_m})
    if path == "ground.areas":
        half_m = round(box.length_m / 2, 3)
        layer = ground.layers[0].model_dump(mode="json") | {"depth_m": round(ground.depth_m, 3)}
        place = {"x_m": round(0.75 * box.length_m, 3), "y_m": round(box.width_m / 2, 3)}
        return Change(f"ground.areas.{len(ground.areas)}", place | {"length_m": half_m, "width_m": box.width_m, "layers": [layer]})
    found = re.fullmatch(r"ground\.layers\.(\d+)\.parts", path)
    if found is None or not _stands(found[1], ground.layers):
        raise NoSuchPartError(path)
    parts = ground.layers[int(found[1])].parts
    there = {part.material for part in parts}
    material = next(name for name in ground_stuff() if name not in there and name != "paper")
    return Change(f"{path}.{len(parts)}", {"material": material, "parts": 1.0})


def take_recipe(plan: HabitatPlan, key: str) -> HabitatPlan:
    """Return the plan with the ground of a recipe, as deep as it was as far as that is how deep the recipe is used."""
    recipe = recipes().get(key)
    if recipe is None:
        raise NoSuchPartError(key)
    depth_m = min(max(plan.ground.depth_m, recipe.least_m), recipe.most_m)
    layers = [
        {
            "parts": [{"material": material, "parts": amount} for material, amount in layer.parts.items()],
            "depth_m": round(layer.share * depth_m, 4),
            "damp": layer.damp,
        }
        for layer in recipe.layers
    ]
    return _changed(plan, "ground.layers", layers)


def turn_thing(plan: HabitatPlan, path: str) -> HabitatPlan:
    """Return the plan with the thing at `path` turned on by a step, against the clock. Raises NoSuchPartError."""
    group, _, place = path.partition(".")
    if group != "things" or not _stands(place, plan.things):
        raise NoSuchPartError(path)
    turned = (plan.things[int(place)].turn_deg + TURN_DEG) % 360
    return _changed(plan, f"{path}.turn_deg", turned)


def copy_thing(plan: HabitatPlan, path: str) -> HabitatPlan:
    """Return the plan with one more thing like the one at `path`, where the floor is free. Raises NoSuchPartError."""
    group, _, place = path.partition(".")
    if group != "things" or not _stands(place, plan.things):
        raise NoSuchPartError(path)
    thing, box = plan.things[int(place)], plan.enclosure
    wanted = thing.x_m, y_of(plan, thing)
    x_m, y_m = free_spot((box.length_m, box.width_m), footprints(plan), footprint(plan, thing).half_sides, wanted)
    change = added(plan, thing.model_dump(mode="json") | {"x_m": round(x_m, 3), "y_m": round(y_m, 3), "name": ""})
    return _changed(plan, change.path, change.value)


def _usual_background(plan: HabitatPlan, key: str, thick_m: float) -> dict[str, Any]:
    """A background over the whole back wall."""
    box = plan.enclosure
    thick_m = round(min(thick_m, MOST_OF_WIDTH * box.width_m / 2), 3)
    place = {"x_m": round(box.length_m / 2, 3), "y_m": round(box.width_m - thick_m / 2, 4)}
    return {"kind": key, **place, "length_m": box.length_m, "width_m": thick_m, "height_m": round(box.height_m - 0.002, 3)}


def _usual_thing(plan: HabitatPlan, key: str) -> dict[str, Any]:
    """One more thing of a kind, of its usual size as far as the enclosure has room for it, where the floor is free."""
    box, kind = plan.enclosure, kinds()[key]
    length_m, depth_m, height_m = kind.size_m
    if kind.shape == "panel":
        return _usual_background(plan, key, depth_m)
    shrunk = min(1.0, MOST_OF_LENGTH * box.length_m / length_m, MOST_OF_WIDTH * box.width_m / depth_m)
    free_m = box.height_m - plan.ground.depth_m
    made: dict[str, Any] = {"kind": key, "length_m": round(length_m * shrunk, 2) or 0.01}
    buried_m = plan.ground.depth_m if kind.bases[0] == "floor" else 0.0  # what stands on the floor still shows above the ground
    made["height_m"] = round(min(height_m * shrunk, MOST_OF_HEIGHT * free_m) + buried_m, 3)
    if not kind.round:
        made["width_m"] = round(depth_m * (1.0 if kind.along else shrunk), 3)
    basks = plan.platform is None and "bask" in kind.roles
    wanted_m = WANTED_AT.get(kind.roles[0], 0.5) if not basks else WANTED_AT["bask"]
    if kind.bases[0] in ("wall", "hanging"):
        made |= {"up_m": round(plan.ground.depth_m + free_m / 2, 3)}
    elif kind.along and basks:
        made |= {"up_m": round(free_m / 2, 3)}
    half = made["length_m"] / 2, made.get("width_m", made["length_m"]) / 2
    place = wanted_m * box.length_m, box.width_m / 2
    if not kind.along:
        place = free_spot((box.length_m, box.width_m), footprints(plan), half, place)
    return made | {"x_m": round(place[0], 3), "y_m": round(place[1], 3), **({"basking": True} if basks else {})}


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
