"""Where a plan's parts stand: what lies under a place, how high a lamp may hang, what is over the lid."""

from enum import StrEnum
from typing import Final

from husbandry.climate.heat_gains import LAMP_ON_LID_M
from husbandry.climate.heaters import HEATERS
from husbandry.plan.equipment import Hung
from husbandry.plan.habitat import Bowl, HabitatPlan, Hide, Platform
from husbandry.units import TOLERANCE_M

ON_LID_M: Final = 0.01  # a lamp this near to a mesh stands on it
UNDER_CEILING_M: Final = 0.08  # what hangs no lower is fixed to the ceiling: a holder and its guard


def basking_top_m(plan: HabitatPlan, x_m: float) -> float:
    """Return the height above the floor of what lies under `x_m`: the platform's top, or the ground's surface."""
    platform = plan.platform
    if platform is not None and abs(x_m - platform.x_m) <= platform.length_m / 2:
        return plan.ground.depth_m + platform.height_m
    return plan.ground.depth_m


def highest_under_m(plan: HabitatPlan, x_m: float) -> float:
    """Return the height above the floor of the highest thing under `x_m` an animal can climb, hides among them."""
    hides = [plan.ground.depth_m + hide.height_m for hide in plan.hides if abs(x_m - hide.x_m) <= hide.length_m / 2]
    return max(basking_top_m(plan, x_m), *hides) if hides else basking_top_m(plan, x_m)


WALL_GAP_M: Final = 0.02  # from a hide to the wall it stands at (estimate)
TUBE_LEGS_M = 0.20  # how far above a mesh lid a tube is still stood


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


def y_of(plan: HabitatPlan, part: Hung | Platform | Bowl) -> float:
    """How far from the front something stands or hangs, m: midway where the plan does not say."""
    return plan.enclosure.width_m / 2 if part.y_m is None else part.y_m


def platform_depth_m(plan: HabitatPlan, platform: Platform) -> float:
    """How deep a basking place is from front to back: as deep as long, and seven tenths of the width at most (common practice)."""
    return min(platform.length_m, 0.7 * plan.enclosure.width_m)


def hide_depth_m(plan: HabitatPlan, hide: Hide) -> float:
    """How deep a hide is from front to back: four fifths of its length, and less than half of the width (common practice)."""
    return min(0.8 * hide.length_m, 0.45 * plan.enclosure.width_m)


def hide_y_m(plan: HabitatPlan, index: int) -> float:
    """How far from the front a hide's middle stands, m: without a place of its own by turns at the back and at the front."""
    hide, wide = plan.hides[index], plan.enclosure.width_m
    if hide.y_m is not None:
        return hide.y_m
    off_m = hide_depth_m(plan, hide) / 2 + WALL_GAP_M
    return off_m if index % 2 else wide - off_m


def outside_lid(plan: HabitatPlan, height_m: float) -> bool:
    """Tell whether a lamp at this height shines in through the lid."""
    return plan.enclosure.lid != "solid" and height_m >= plan.enclosure.height_m - 1e-6


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
