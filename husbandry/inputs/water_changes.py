"""How the water of a plan is changed: how much, how often, with what it is treated."""

from typing import Final

from husbandry.furnishing.water import CONDITIONER_ML_L
from husbandry.plan.habitat import HabitatPlan

CHORE: Final = "water-change"
USUAL_DAYS: Final = {True: 7, False: 2}  # with a filter, and without (trade)
USUAL_SHARE: Final = {True: 0.3, False: 0.5}  # of the water at a change (common practice, no source)
LITRES: Final = 1000.0


def change_days(plan: HabitatPlan) -> int:
    """Days between changes: the keeper's own, else the usual with or without a filter; 0 where the keeper leaves them out."""
    usual = USUAL_DAYS[plan.pool is not None and plan.pool.filtered]
    return plan.upkeep.every_days.get(CHORE, usual)


def change_share(plan: HabitatPlan) -> float:
    """The share of the water that is changed, over 0 to 1."""
    if plan.pool is None:
        return 0.0
    return plan.pool.change_share if plan.pool.change_share is not None else USUAL_SHARE[plan.pool.filtered]


def water_l(plan: HabitatPlan) -> float:
    """The water of the pool, L: its sides and depth, less the ground under it and what stands in it."""
    pool, box = plan.pool, plan.enclosure
    if pool is None:
        return 0.0
    long_m = min(pool.length_m, box.length_m)
    gross_m3 = long_m * box.width_m * pool.depth_m
    held_m3 = sum(
        thing.of.solid * thing.length_m * (thing.width_m or thing.length_m) * min(thing.height_m, pool.depth_m)
        for thing in plan.things
        if abs(thing.x_m - pool.x_m) <= pool.length_m / 2 and not thing.lets_under
    )
    return LITRES * max(gross_m3 - held_m3, 0.0)


def conditioner_ml(plan: HabitatPlan) -> float:
    """Conditioner for one change at a usual dose, ml: the bottle's own word comes first."""
    return CONDITIONER_ML_L * change_share(plan) * water_l(plan)
