"""Where a plan's parts stand: what lies under a place, how high a lamp may hang, what is over the lid."""

from typing import Final

from husbandry.climate.heat_gains import LAMP_ON_LID_M
from husbandry.climate.heaters import HEATERS
from husbandry.plan.equipment import Hung
from husbandry.plan.habitat import HabitatPlan


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


def hanging(plan: HabitatPlan) -> list[Hung]:
    """Everything that hangs over what the animal stands on."""
    return [*(heater for heater in plan.heaters if heater.hangs), *plan.uv_lamps, *plan.light_bars]
