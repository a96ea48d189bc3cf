"""Where a plan's parts stand: what lies under a place, how high a lamp may hang, what is over the lid."""

import math
from enum import StrEnum
from typing import Final, TypeVar

import numpy as np
from numpy.typing import NDArray

from husbandry.climate.heat_gains import LAMP_ON_LID_M
from husbandry.climate.heaters import HEATERS
from husbandry.plan.equipment import Hung
from husbandry.plan.grounds import deep
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.things import Thing
from husbandry.units import TOLERANCE_M

STEEP_DEG: Final = 80.0  # what is steeper has no top to stand on
ON_LID_M: Final = 0.01  # a lamp this near to a mesh stands on it
UNDER_CEILING_M: Final = 0.08  # what hangs no lower is fixed to the ceiling: a holder and its guard


WALL_GAP_M: Final = 0.02  # from a hide to the wall it stands at (estimate)
LINE_STEPS: Final = 24
SOCKETS_M, SOCKETS_SHARE = 0.3, 0.4
TUBE_LEGS_M = 0.20  # how far above a mesh lid a tube is still stood


Metres = TypeVar("Metres", float, NDArray[np.float64])

BASKED: Final = ("over", "wall", "under", "air")  # where a heater stands that an animal can bask at


def spot_x_m(plan: HabitatPlan) -> float:
    """Where the animal basks: on the platform, else under the first lamp that is on by day, else at the first heater that
    is, else under the first tube. Never by strengths, and a dark heater that is added moves nothing.
    """
    if plan.platform is not None:
        return plan.platform.x_m
    warming = [heater for heater in plan.heaters if HEATERS[heater.kind].place in BASKED]
    if warming:
        return min(warming, key=lambda heater: (not plan.daylight.lights(heater), not HEATERS[heater.kind].light)).x_m
    if plan.uv_lamps:
        return plan.uv_lamps[0].x_m
    return plan.enclosure.length_m / 4


def spot_y_m(plan: HabitatPlan) -> float:
    """How far from the front the animal basks: on the platform, else under the lamp by which `spot_x_m` goes; else midway."""
    if plan.platform is not None:
        return y_of(plan, plan.platform)
    x_m = spot_x_m(plan)
    over = next((lamp for lamp in hanging(plan) if abs(lamp.x_m - x_m) < TOLERANCE_M), None)
    return plan.enclosure.width_m / 2 if over is None else y_of(plan, over)


def y_of(plan: HabitatPlan, part: Hung | Thing) -> float:
    """How far from the front something stands or hangs, m: where the plan does not say, hides by turns at the back and at the
    front, all else midway.
    """
    wide = plan.enclosure.width_m
    if part.y_m is not None:
        return part.y_m
    if isinstance(part, Thing) and part.good_for("hide"):
        off_m = depth_of(plan, part) / 2 + WALL_GAP_M
        index = next((place for place, hide in enumerate(plan.hides) if hide is part), 0)
        return off_m if index % 2 else wide - off_m - lined_m(plan)
    return wide / 2


def lined_m(plan: HabitatPlan) -> float:
    """How thick the background on the back wall is, m."""
    behind = [thing for thing in plan.things if thing.of.shape == "panel" and thing.y_m is not None and not thing.turn_deg]
    return max((depth_of(plan, one) for one in behind if (one.y_m or 0.0) > plan.enclosure.width_m / 2), default=0.0)


def depth_of(plan: HabitatPlan, thing: Thing) -> float:
    """How deep a thing is from front to back before it is turned, m.

    Where the plan does not say: round things as they are long, hides four fifths of their length and less than half of the width,
    basking places as they are long and seven tenths of the width at most (common practice), all else as its kind usually is.
    """
    wide = plan.enclosure.width_m
    if thing.width_m is not None:
        return thing.width_m
    if thing.of.round:
        return thing.length_m
    if thing.good_for("hide") and not thing.basking:
        return min(0.8 * thing.length_m, 0.45 * wide)
    return min(thing.length_m if thing.basking else thing.of.size_m[1], 0.7 * wide)


def surface_m(plan: HabitatPlan, x_m: float, y_m: float | None = None) -> float:
    """Return the height of the ground's surface above the floor at a place, midway from front to back where that is not said.

    A pool that is shorter than the floor stands on the floor itself: no ground lies under it.
    """
    ground, box = plan.ground, plan.enclosure
    if in_pool(plan, x_m):
        return 0.0
    if not ground.areas and not ground.rise_right_m and not ground.rise_back_m:
        return ground.depth_m
    back_m = box.width_m / 2 if y_m is None else y_m
    lies_m = deep(ground.layers_at(x_m, back_m))
    risen_m = ground.rise_right_m * (x_m / box.length_m - 0.5) + ground.rise_back_m * (back_m / box.width_m - 0.5)
    return max(lies_m + risen_m, 0.0)


def leaves_land(plan: HabitatPlan) -> bool:
    """Tell whether there is a pool that is shorter than the floor."""
    return plan.pool is not None and plan.pool.length_m < plan.enclosure.length_m - TOLERANCE_M


def in_pool(plan: HabitatPlan, x_m: float) -> bool:
    """Tell whether a place along the length lies in a pool that leaves land beside it."""
    pool = plan.pool
    return pool is not None and leaves_land(plan) and abs(x_m - pool.x_m) < pool.length_m / 2 - TOLERANCE_M


def under_water(plan: HabitatPlan, thing: Thing) -> bool:
    """Tell whether a thing stands in a pool and is covered by its water."""
    pool = plan.pool
    if pool is None or (leaves_land(plan) and not in_pool(plan, thing.x_m)):
        return False
    return top_of(plan, thing) <= pool.depth_m + TOLERANCE_M


def from_sockets_m(plan: HabitatPlan, at_m: tuple[Metres, Metres], half_m: tuple[float, float]) -> Metres:
    """Return how far a thing at `at_m` that reaches `half_m` stands from the wall with the sockets; infinite where none is named.

    Places may be numbers or arrays of them, m.
    """
    box, (x_m, y_m) = plan.enclosure, at_m
    if box.sockets is None:
        return x_m + math.inf
    if box.sockets == "back":
        return box.width_m - y_m - half_m[1]
    return x_m - half_m[0] if box.sockets == "left" else box.length_m - x_m - half_m[0]


def dry_m(plan: HabitatPlan) -> float:
    """How far from its sockets what is wet stays, where the enclosure has the room (common practice, no source), m."""
    box = plan.enclosure
    return min(SOCKETS_M, SOCKETS_SHARE * (box.width_m if box.sockets == "back" else box.length_m))


def foot_m(plan: HabitatPlan, thing: Thing) -> float:
    """Return how high a thing's foot is above the floor: on the ground's surface, or above the floor itself."""
    return thing.up_m + (surface_m(plan, thing.x_m, y_of(plan, thing)) if thing.stands == "ground" else 0.0)


def top_of(plan: HabitatPlan, thing: Thing) -> float:
    """Return how high a thing's top is above the floor, m."""
    return foot_m(plan, thing) + thing.height_m


def half_sides_m(plan: HabitatPlan, thing: Thing) -> tuple[float, float]:
    """How far a thing reaches from its middle along the length and from front to back, as it is turned and slopes, m."""
    turn, slope = math.radians(thing.turn_deg), math.radians(thing.slope_deg)
    run_m, deep_m = thing.length_m * (abs(math.cos(slope)) if thing.of.along else 1.0), depth_of(plan, thing)
    if thing.of.round or not thing.turn_deg:
        return run_m / 2, deep_m / 2
    along, across = abs(math.cos(turn)), abs(math.sin(turn))
    return (run_m * along + deep_m * across) / 2, (run_m * across + deep_m * along) / 2


def line_of(plan: HabitatPlan, thing: Thing) -> list[tuple[float, float, float]]:
    """Places along what lies between two ends, from end to end; the middle of anything else."""
    x, y, middle = thing.x_m, y_of(plan, thing), foot_m(plan, thing) + thing.height_m / 2
    if not thing.of.along:
        return [(x, y, middle)]
    slope, turn = math.radians(thing.slope_deg), math.radians(thing.turn_deg)
    run, rise = thing.length_m / 2 * math.cos(slope), thing.length_m / 2 * math.sin(slope)
    shares = [2 * step / LINE_STEPS - 1 for step in range(LINE_STEPS + 1)]
    return [(x + s * run * math.cos(turn), y + s * run * math.sin(turn), middle + s * rise) for s in shares]


def covers(plan: HabitatPlan, thing: Thing, x_m: float) -> bool:
    """Tell whether a place along the length lies over a thing."""
    return abs(x_m - thing.x_m) <= half_sides_m(plan, thing)[0]


def top_at(plan: HabitatPlan, thing: Thing, x_m: float) -> float:
    """Return how high a thing's top is above the floor at a place along the length: what slopes is higher at one end, m."""
    rise = math.tan(math.radians(thing.slope_deg)) if thing.of.along and abs(thing.slope_deg) < STEEP_DEG else 0.0
    return top_of(plan, thing) + rise * (x_m - thing.x_m)


def basking_top_m(plan: HabitatPlan, x_m: float) -> float:
    """Return the height above the floor of what lies under `x_m`: a basking place's top, the ground's surface, or a pool's."""
    tops = [top_at(plan, thing, x_m) for thing in plan.basking if covers(plan, thing, x_m)]
    bare_m = plan.pool.depth_m if plan.pool is not None and in_pool(plan, x_m) else surface_m(plan, x_m)
    return max(tops, default=bare_m)


def highest_under_m(plan: HabitatPlan, x_m: float) -> float:
    """Return the height above the floor of the highest thing under `x_m` an animal can climb, hides among them."""
    hides = [top_of(plan, hide) for hide in plan.hides if covers(plan, hide, x_m)]
    return max(basking_top_m(plan, x_m), *hides) if hides else basking_top_m(plan, x_m)


def outside_lid(plan: HabitatPlan, height_m: float) -> bool:
    """Tell whether a lamp at this height shines in through the lid."""
    return plan.enclosure.lid != "solid" and height_m >= plan.enclosure.height_m - TOLERANCE_M


def through_mesh(plan: HabitatPlan, height_m: float) -> bool:
    """Tell whether a lamp at this height shines in through mesh."""
    return plan.enclosure.lid == "mesh" and outside_lid(plan, height_m)


def highest_m(plan: HabitatPlan) -> float:
    """How high a lamp may hang where it is solved for: just under a solid lid, or on the mesh."""
    return plan.enclosure.height_m - (LAMP_ON_LID_M if plan.enclosure.lid == "solid" else 0.0)


def highest_tube_m(plan: HabitatPlan) -> float:
    """How high a tube may hang: under a solid lid, or on short legs above a mesh."""
    return highest_m(plan) + (0.0 if plan.enclosure.lid == "solid" else TUBE_LEGS_M)


class Mount(StrEnum):
    """What something hangs by."""

    LID = "lid"  # on a mesh, or over an open top
    ABOVE = "above"  # on legs or a bracket over it
    CEILING = "ceiling"
    CABLE = "cable"


def mount(plan: HabitatPlan, hung: Hung) -> tuple[Mount, float]:
    """Return what a lamp, tube or bar hangs by, and its drop in m: below the ceiling, or how far it stands above the lid."""
    box = plan.enclosure
    above_m = hung.height_m - box.height_m
    if box.lid != "solid" and above_m >= -TOLERANCE_M:
        return (Mount.LID, 0.0) if above_m <= ON_LID_M else (Mount.ABOVE, above_m)
    return (Mount.CEILING, 0.0) if -above_m <= UNDER_CEILING_M else (Mount.CABLE, -above_m)


def hanging(plan: HabitatPlan) -> list[Hung]:
    """Everything that hangs over what the animal stands on."""
    return [*(heater for heater in plan.heaters if heater.hangs), *plan.uv_lamps, *plan.light_bars]
