"""Where the probe of a thermostat may lie."""

from typing import Final

from husbandry.climate.heaters import HEATERS
from husbandry.climate.probes import end_heights, warm_side_x
from husbandry.inputs.climate_case import enclosure_case, own_place
from husbandry.plan.geometry import basking_top_m, spot_x_m, top_of
from husbandry.plan.habitat import HabitatPlan

CLEAR_M: Final = 0.02  # above the ground at least


def probe_places(plan: HabitatPlan, index: int) -> dict[str, tuple[float, float]]:
    """Where heater `index` can have its probe: place and height above the inner floor in m; in the air where the model reads it."""
    box, ground_m, heater = plan.enclosure, plan.ground.depth_m, plan.heaters[index]
    case = enclosure_case(plan)
    warm_left = warm_side_x(case) <= box.length_m / 2
    warm_m, cool_m = (0.17, 0.83) if warm_left else (0.83, 0.17)
    warm_m, cool_m = round(warm_m * box.length_m, 3), round(cool_m * box.length_m, 3)
    warm_up_m, cool_up_m = (min(max(read_m, ground_m + CLEAR_M), box.height_m) for read_m in end_heights(case))
    places = {
        "basking-surface": (spot_x_m(plan), basking_top_m(plan, spot_x_m(plan))),
        "warm-air": (warm_m, warm_up_m),
        "cool-air": (cool_m, cool_up_m),
        "warm-ground": (warm_m, ground_m),
        "cool-ground": (cool_m, ground_m),
    }
    if HEATERS[heater.kind].place == "under":
        places["mat"] = (heater.x_m, 0.0)
    humid = next((hide for hide in plan.hides if hide.humid), None)
    if humid is not None:
        places["humid-hide"] = (humid.x_m, top_of(plan, humid) - humid.height_m / 2)
    if heater.thermostat.probe == "own":
        places["own"] = own_place(heater, box.height_m / 2)
    if plan.pool is not None:
        places["water"] = (plan.pool.x_m, plan.pool.depth_m / 2)
    return places
