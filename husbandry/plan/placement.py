"""Whether every part of a plan can be where the plan puts it."""

from dataclasses import dataclass

from husbandry.plan.equipment import Heater, Hung
from husbandry.plan.geometry import basking_top_m, foot_m
from husbandry.plan.grounds import Layer
from husbandry.plan.habitat import ABOVE_LID_M, HabitatPlan
from husbandry.plan.things import Thing
from husbandry.units import TOLERANCE_M


@dataclass(frozen=True)
class Misplaced:
    """A part lies outside the enclosure or inside another; `path` names the field, `code` and `limit_m` say why."""

    path: str
    code: str
    limit_m: float


def check_places(plan: HabitatPlan) -> list[Misplaced]:
    """Return every part that cannot be where the plan puts it, in the order of the document."""
    box = plan.enclosure
    wrong: list[Misplaced] = []
    wrong += _grounds(plan)
    for index, thing in enumerate(plan.things):
        wrong += _thing(plan, f"things.{index}", thing)
    if plan.pool is not None:
        pool = plan.pool
        wrong += _inside_length("pool.x_m", pool.x_m, box.length_m)
        if max(pool.x_m + pool.length_m / 2 - box.length_m, pool.length_m / 2 - pool.x_m) > TOLERANCE_M:
            wrong.append(Misplaced("pool.length_m", "pool_too_long", box.length_m))
        if pool.depth_m >= box.height_m:
            wrong.append(Misplaced("pool.depth_m", "pool_above_lid", box.height_m))
    for index, vent in enumerate(box.vents):
        if vent.height_m > box.height_m + 1e-9:
            wrong.append(Misplaced(f"enclosure.vents.{index}.height_m", "vent_above_lid", box.height_m))
    for index, probe in enumerate(plan.probes):
        wrong += _inside_length(f"probes.{index}.x_m", probe.x_m, box.length_m)
        wrong += _inside_height(f"probes.{index}.height_m", probe.height_m, box.height_m)
    for index, heater in enumerate(plan.heaters):
        path, held = f"heaters.{index}.thermostat", heater.thermostat
        wrong += _inside_length(f"{path}.probe_x_m", held.probe_x_m or 0.0, box.length_m)
        wrong += _inside_height(f"{path}.probe_height_m", held.probe_height_m or 0.0, box.height_m)
    lamps: list[tuple[str, Hung]] = [(f"heaters.{index}", heater) for index, heater in enumerate(plan.heaters)]
    lamps += [(f"uv_lamps.{index}", lamp) for index, lamp in enumerate(plan.uv_lamps)]
    lamps += [(f"light_bars.{index}", bar) for index, bar in enumerate(plan.light_bars)]
    ceiling = box.height_m + (0.0 if box.lid == "solid" else ABOVE_LID_M)
    for path, lamp in lamps:
        wrong += _inside_length(f"{path}.x_m", lamp.x_m, box.length_m)
        wrong += _inside_width(path, lamp.y_m, box.width_m)
        if lamp.height_m > ceiling + 1e-9:
            wrong.append(Misplaced(f"{path}.height_m", "lamp_above_lid", ceiling))
        elif (not isinstance(lamp, Heater) or lamp.hangs) and lamp.height_m <= basking_top_m(plan, lamp.x_m):
            wrong.append(Misplaced(f"{path}.height_m", "lamp_in_ground", basking_top_m(plan, lamp.x_m)))
    return wrong


def _grounds(plan: HabitatPlan) -> list[Misplaced]:
    """The ground against the walls: too deep, an area outside or in another, a slope that leaves the floor bare."""
    ground, box, wrong = plan.ground, plan.enclosure, list[Misplaced]()
    risen_m = (abs(ground.rise_right_m) + abs(ground.rise_back_m)) / 2
    for at, depth_m in enumerate((ground.depth_m, *(area.depth_m for area in ground.areas))):
        path = f"ground.areas.{at - 1}" if at else "ground"
        if depth_m + risen_m >= box.height_m:
            wrong.append(
                Misplaced(_deepest(path, (ground.areas[at - 1] if at else ground).layers), "ground_above_lid", box.height_m)
            )
        if risen_m > depth_m + TOLERANCE_M:
            steeper = "ground.rise_right_m" if ground.rise_right_m else "ground.rise_back_m"
            wrong.append(Misplaced(steeper, "slope_bares_floor", 2 * depth_m))
    for index, area in enumerate(ground.areas):
        path = f"ground.areas.{index}"
        out_x_m = max(area.x_m + area.length_m / 2 - box.length_m, area.length_m / 2 - area.x_m)
        out_y_m = max(area.y_m + area.width_m / 2 - box.width_m, area.width_m / 2 - area.y_m)
        if out_x_m > TOLERANCE_M:
            wrong.append(Misplaced(f"{path}.length_m", "area_outside", box.length_m))
        if out_y_m > TOLERANCE_M:
            wrong.append(Misplaced(f"{path}.width_m", "area_outside", box.width_m))
        for other in ground.areas[:index]:
            along_m = (area.length_m + other.length_m) / 2 - abs(area.x_m - other.x_m)
            aside_m = (area.width_m + other.width_m) / 2 - abs(area.y_m - other.y_m)
            if min(along_m, aside_m) > TOLERANCE_M:
                wrong.append(Misplaced(f"{path}.x_m", "areas_overlap", min(along_m, aside_m)))
    return wrong


def _deepest(path: str, layers: tuple[Layer, ...]) -> str:
    """Where the depth of the deepest layer stands."""
    return f"{path}.layers.{max(range(len(layers)), key=lambda index: layers[index].depth_m)}.depth_m"


def _thing(plan: HabitatPlan, path: str, thing: Thing) -> list[Misplaced]:
    """One thing against the walls and the lid."""
    box = plan.enclosure
    wrong = _inside_length(f"{path}.x_m", thing.x_m, box.length_m) + _inside_width(path, thing.y_m, box.width_m)
    longest_m = max(box.length_m, box.width_m)
    if thing.of.round and thing.length_m > min(box.width_m, box.length_m):
        wrong.append(Misplaced(f"{path}.length_m", "bowl_too_wide", min(box.width_m, box.length_m)))
    elif (
        not thing.good_for("hide")
        and not thing.basking
        and thing.length_m > (box.height_m + longest_m if thing.of.along else longest_m)
    ):
        wrong.append(Misplaced(f"{path}.length_m", "thing_too_long", longest_m))
    foot = foot_m(plan, thing)
    free_m = box.height_m - (foot - thing.up_m) - thing.height_m - (TOLERANCE_M if thing.basking else 0.0)
    if thing.up_m > free_m + TOLERANCE_M and free_m >= 0:
        # It would fit lower down: how high it hangs is what is wrong.
        wrong.append(Misplaced(f"{path}.up_m", "hangs_too_high", free_m))
    elif thing.basking and foot + thing.height_m >= box.height_m:
        wrong.append(Misplaced(f"{path}.height_m", "platform_above_lid", max(box.height_m - foot, 0.0)))
    elif not thing.basking and not thing.good_for("hide") and foot + thing.height_m > box.height_m + TOLERANCE_M:
        wrong.append(Misplaced(f"{path}.height_m", "thing_above_lid", max(box.height_m - foot, 0.0)))
    return wrong


def _inside_length(path: str, x_m: float, length_m: float) -> list[Misplaced]:
    return [Misplaced(path, "outside_length", length_m)] if x_m > length_m + 1e-9 else []


def _inside_height(path: str, height_m: float, box_m: float) -> list[Misplaced]:
    return [Misplaced(path, "probe_above_lid", box_m)] if height_m > box_m + 1e-9 else []


def _inside_width(path: str, y_m: float | None, width_m: float) -> list[Misplaced]:
    return [Misplaced(f"{path}.y_m", "outside_width", width_m)] if y_m is not None and y_m > width_m + 1e-9 else []
