"""What an animal needs of its enclosure: the rules of size, water to live in, quarantine."""

from datetime import date
from math import inf
from typing import Final

from husbandry.plan.habitat import HabitatPlan
from husbandry.space.sizing import SCHOOL_OF_SIZE, SIDES, Box, Need, needs, short
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile
from husbandry.species.stage import REPORT, TUB, Space, Stage

POOL_SHARE, POOL_FILL = 0.5, 0.85  # of the floor where it is half water; of the height at most
LONGEST_POOL: Final = 0.6  # of the length, where it also needs land
BY_WATER: Final = ("aquatic", "semi-aquatic")
WATER: Final = "water_volume"  # what is asked of the water is no question of schools
ON_THE_FLOOR: Final = ("terrestrial", "burrowing", "rock")  # habits of what walks, and digs under what stands there
ADULT_SIZE: Final = "adult"  # the school that gives the adult's enclosure from the first day


def box_of(plan: HabitatPlan) -> Box:
    """The plan's enclosure as the sizing rules see it."""
    box = plan.enclosure
    water_m3 = plan.pool.length_m * box.width_m * plan.pool.depth_m if plan.pool else 0.0
    # Above an open top there is no end to the height: what its walls must be is a question of escape.
    return Box(box.length_m, box.width_m, inf if box.lid == "open" else box.height_m, water_m3)


def enclosure_needs(
    plan: HabitatPlan, profile: Profile, stage: Stage, length_m: float | None
) -> tuple[dict[str, Need], dict[str, Need]]:
    """Return the minimum and the recommended need per measure, by the keeper's school of size."""
    asked = _asked_of(plan, profile, stage, length_m)
    return needs(asked[0], "minimum", *asked[1:]), needs(asked[0], "recommended", *asked[1:])


def minimum_needs(plan: HabitatPlan, profile: Profile, stage: Stage, length_m: float | None) -> dict[str, Need]:
    """Return the minimum need per measure, by the keeper's school of size."""
    asked = _asked_of(plan, profile, stage, length_m)
    return needs(asked[0], "minimum", *asked[1:])


def _asked_of(
    plan: HabitatPlan, profile: Profile, stage: Stage, length_m: float | None
) -> tuple[Space, float | None, int, str, str]:
    """The rules, the length, how many, the sex and the school that a plan's needs are worked out by."""
    animal, space = plan.animal, stage.space
    if plan.schools.get("size") == ADULT_SIZE:
        space = profile.stages[-1].space
        length_m = max(length_m or 0.0, profile.body.adult(animal.sex).length_cm.middle / 100)
    return space, length_m, animal.count, animal.sex, plan.schools.get(SCHOOL_OF_SIZE, "")


def enough_by(plan: HabitatPlan, profile: Profile, stage: Stage, length_m: float | None) -> str:
    """Name a school of size ("topic:school") by which the enclosure is large enough where it is not by the keeper's, else ""."""
    box = box_of(plan)

    def least(made: HabitatPlan) -> dict[str, Need]:
        minimum = minimum_needs(made, profile, stage, length_m)
        return {measure: need for measure, need in minimum.items() if measure != WATER}

    if not short(box, least(plan)):
        return ""
    lives_in = profile.stages[-1] if plan.schools.get("size") == ADULT_SIZE else stage
    by_report = length_m is not None and any(rule.school == REPORT for rule in lives_in.space.rules)
    by_tub = any(rule.school == TUB for rule in lives_in.space.rules)
    for school in (*(("report",) if by_report else ()), "trade", *(("tub",) if by_tub else ())):
        minimum = least(plan.model_copy(update={"schools": plan.schools | {SCHOOL_OF_SIZE: school}}))
        if set(SIDES) <= set(minimum) and not short(box, minimum):
            return f"{SCHOOL_OF_SIZE}:{school}"
    return ""


def usual_pool(plan: HabitatPlan, profile: Profile, stage: Stage, wanted: dict[str, Need]) -> dict[str, float] | None:
    """Return a pool with the stage's depth and litres at the cool end, over all the floor for what lives in water.

    Where the deepest it may be does not hold the litres, it is longer, and leaves two fifths of the floor as land. None for what
    sits in a shallow pan now and then: that is a bowl, and the ground would fill a pool as shallow.
    """
    if stage.water is None or stage.water.depth_cm is None:
        return None
    box, litres = plan.enclosure, wanted.get("water_volume")
    if litres is None and stage.water.temperature_c is None and profile.habit not in BY_WATER:
        return None
    length_m = round((1.0 if profile.habit == "aquatic" else POOL_SHARE) * box.length_m, 3)
    rule = choose(stage.water.depth_cm, plan.schools)
    depth_m = rule.middle / 100
    if litres is not None:
        depth_m = max(depth_m, litres.size / (length_m * box.width_m) + 0.0005)
    depth_m = round(min(depth_m, rule.most / 100, POOL_FILL * box.height_m), 3)
    if litres is not None:
        longest_m = (1.0 if profile.habit == "aquatic" else LONGEST_POOL) * box.length_m
        length_m = round(min(max(length_m, litres.size / (depth_m * box.width_m) + 0.005), longest_m), 3)
    return {"x_m": round(box.length_m - length_m / 2, 3), "length_m": length_m, "depth_m": depth_m}


def swims(plan: HabitatPlan, profile: Profile) -> bool:
    """Tell whether the animal lives in water that is there: the water is then what it is judged by, not the air over it."""
    return plan.pool is not None and profile.habit == "aquatic"


def quarantined(plan: HabitatPlan, today: date) -> bool:
    """Tell whether the animal is still in quarantine."""
    return plan.upkeep.quarantine_until is not None and plan.upkeep.quarantine_until >= today


def climbs(profile: Profile) -> bool:
    """Tell whether an animal gets onto whatever hangs free in its enclosure."""
    return profile.habit in ("arboreal", "semi-arboreal")
