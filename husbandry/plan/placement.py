"""Whether every part of a plan can be where the plan puts it."""

from dataclasses import dataclass

from husbandry.plan.equipment import Heater, Hung
from husbandry.plan.geometry import basking_top_m
from husbandry.plan.habitat import ABOVE_LID_M, HabitatPlan
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
    if plan.ground.depth_m >= box.height_m:
        wrong.append(Misplaced("ground.depth_m", "ground_above_lid", box.height_m))
    surface = plan.ground.depth_m
    if plan.platform is not None:
        wrong += _inside_length("platform.x_m", plan.platform.x_m, box.length_m)
        wrong += _inside_width("platform", plan.platform.y_m, box.width_m)
        if surface + plan.platform.height_m >= box.height_m:
            limit_m = max(box.height_m - surface, 0.0)
            wrong.append(Misplaced("platform.height_m", "platform_above_lid", limit_m))
    for index, hide in enumerate(plan.hides):
        wrong += _inside_length(f"hides.{index}.x_m", hide.x_m, box.length_m)
        wrong += _inside_width(f"hides.{index}", hide.y_m, box.width_m)
    if plan.bowl is not None:
        wrong += _inside_length("bowl.x_m", plan.bowl.x_m, box.length_m)
        wrong += _inside_width("bowl", plan.bowl.y_m, box.width_m)
        if plan.bowl.diameter_m > min(box.width_m, box.length_m):
            wrong.append(Misplaced("bowl.diameter_m", "bowl_too_wide", min(box.width_m, box.length_m)))
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


def _inside_length(path: str, x_m: float, length_m: float) -> list[Misplaced]:
    return [Misplaced(path, "outside_length", length_m)] if x_m > length_m + 1e-9 else []


def _inside_height(path: str, height_m: float, box_m: float) -> list[Misplaced]:
    return [Misplaced(path, "probe_above_lid", box_m)] if height_m > box_m + 1e-9 else []


def _inside_width(path: str, y_m: float | None, width_m: float) -> list[Misplaced]:
    return [Misplaced(f"{path}.y_m", "outside_width", width_m)] if y_m is not None and y_m > width_m + 1e-9 else []
