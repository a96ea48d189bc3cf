"""What stands where: everything on the floor as the rules see it, and what a bowl and a lid must be for this animal."""

from datetime import date

from husbandry.animal.body import Body
from husbandry.animal.needs import quarantined
from husbandry.inputs.furniture import bath_of, is_branch, pieces_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.review.arrangement import Standing
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage

# A bowl's width over the animal's length by the species' measure: a coiled snake, a frog that sits in it, a tortoise that steps
# in (common practice, no source).
# Who needs water to lie in: in air this damp the skin dries first (common practice, no source).
# The deepest water that what does not swim stands in with its chin out: of its back's height, of a frog's or newt's length.


def standing(plan: HabitatPlan, profile: Profile, stage: Stage, body: Body, today: date) -> Standing:
    """Gather what stands where."""
    pieces = tuple(piece for piece in pieces_of(plan) if not is_branch(plan, piece))
    pool = plan.pool
    rule = stage.water
    depth_m = choose(rule.depth_cm, plan.schools).middle / 100 if rule is not None and rule.depth_cm is not None else 0.1
    return Standing(
        pieces=pieces,
        lamps=tuple((f"heaters.{index}", lamp.x_m, lamp.height_m) for index, lamp in enumerate(plan.heaters) if lamp.hangs),
        pool=None if pool is None else (pool.x_m, pool.length_m, pool.depth_m),
        pool_depth_m=round(max(depth_m, plan.ground.depth_m + 0.03), 3),
        bath=bath_of(plan, profile, stage, body),
        bowl_depth_m=plan.bowl.depth_m if plan.bowl else None,
        open_top=plan.enclosure.lid == "open",
        stays_in=profile.group == "tortoise",
        swims=profile.habit in ("aquatic", "semi-aquatic"),
        aquatic=profile.habit == "aquatic",
        quarantined=quarantined(plan, today),
        ground_kind=plan.ground.kind,
    )
