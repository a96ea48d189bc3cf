"""What a climber gets up to: from the ground, a rough wall or another thing, as far as it reaches."""

import math
from typing import Final

from husbandry.animal.needs import climbs
from husbandry.furnishing.floor import shared_m
from husbandry.inputs.climate_case import wall_of
from husbandry.inputs.furniture import footprint
from husbandry.plan.geometry import foot_m, line_of, surface_m, top_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.things import Thing
from husbandry.species.profile import Profile

CLINGS: Final = ("gecko", "frog")  # of what climbs: pads that hold on glass
REACHES: Final = {"snake": 0.4}  # of its length, from where it holds on; others as far as they are long (estimates)
AT_WALL_M: Final = 0.02


def reach_m(profile: Profile, length_m: float) -> float | None:
    """How far an animal of this length gets from one thing to the next, m; None where it walks up the walls, or does not climb."""
    if not climbs(profile) or profile.body.form in CLINGS:
        return None
    return REACHES.get(profile.body.form, 1.0) * length_m


def out_of_reach(plan: HabitatPlan, profile: Profile, length_m: float) -> tuple[tuple[Thing, float], ...]:
    """Things to climb or bask on that it cannot get to, each with its distance from the nearest that it can, m."""
    far_m = reach_m(profile, length_m)
    if far_m is None:
        return ()
    steps = [thing for thing in plan.things if thing.good_for("climb") or thing.good_for("bask") or thing.of.shape == "panel"]
    reached = [thing for thing in steps if _from_ground_m(plan, thing) <= far_m or thing.of.shape == "panel"]
    left = [thing for thing in steps if thing not in reached]
    while left:
        nearest = {id(thing): min((_apart_m(plan, thing, other) for other in reached), default=math.inf) for thing in left}
        more = [thing for thing in left if nearest[id(thing)] <= far_m]
        if not more:
            return tuple((thing, min(nearest[id(thing)], _from_ground_m(plan, thing))) for thing in left)
        reached += more
        left = [thing for thing in left if thing not in more]
    return ()


def _from_ground_m(plan: HabitatPlan, thing: Thing) -> float:
    """How far its lowest place is above the ground."""
    return min(max(z - thing.height_m / 2 - surface_m(plan, x, y), 0.0) for x, y, z in line_of(plan, thing))


def _apart_m(plan: HabitatPlan, thing: Thing, other: Thing) -> float:
    """How far two things are apart: a background is all of its wall, to what is longer the nearest of its places counts."""
    if other.of.shape == "panel":
        wall, box = wall_of(plan, other), plan.enclosure
        across = {"left": lambda at: at[0], "right": lambda at: box.length_m - at[0]}
        depth = across.get(wall, (lambda at: at[1]) if wall == "front" else (lambda at: box.width_m - at[1]))
        return max(min(depth(at) for at in line_of(plan, thing)) - AT_WALL_M, 0.0)
    one, two = line_of(plan, thing), line_of(plan, other)
    apart = min(math.dist(a, b) for a in one for b in two)
    if not thing.of.along and not other.of.along and shared_m(footprint(plan, thing), footprint(plan, other)) > 0:
        low, high = sorted((thing, other), key=lambda item: foot_m(plan, item))
        return max(foot_m(plan, high) - top_of(plan, low), 0.0)
    sizes = sum(0.0 if one.of.along else min(one.length_m, one.width_m or one.length_m) / 2 for one in (thing, other))
    return max(apart - sizes - sum(one.height_m / 2 for one in (thing, other) if one.of.along), 0.0)
