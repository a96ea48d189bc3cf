"""What stands where: everything on the floor as the rules see it, and what a bowl and a lid must be for this animal."""

from datetime import date
from typing import Final

from husbandry.animal.body import Body
from husbandry.animal.needs import quarantined
from husbandry.climate.heaters import HEATERS
from husbandry.plan.equipment import Hung
from husbandry.plan.habitat import HabitatPlan, Platform
from husbandry.review.arrangement import Bath, Piece, Standing
from husbandry.space.furniture import free_place
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage

# A bowl's width over the animal's length by the species' measure: a coiled snake, a frog that sits in it, a tortoise that steps
# in (common practice, no source).
BATH_SHARE: Final = {"snake": 0.14, "frog": 1.5, "tortoise": 1.2}
LARGEST_BOWL_SHARE: Final = 0.6  # of the floor's shorter side
# Who needs water to lie in: in air this damp the skin dries first (common practice, no source).
SOAKS_FROM_PERCENT: Final = 65.0
# The deepest water that what does not swim stands in with its chin out: of its back's height, of a frog's or newt's length.
CHIN_OF_BACK: Final = 0.8
CHIN_OF_LENGTH: Final = {"frog": 0.5, "salamander": 0.3}
SWIM: Final = ("snake",)


def bath_of(plan: HabitatPlan, profile: Profile, stage: Stage, body: Body) -> Bath:
    """Return how wide a bowl this animal needs and how deep one it bears (m); None where there is no such rule."""
    form, length_m = profile.body.form, body.length_m
    if profile.habit in ("aquatic", "semi-aquatic") or length_m is None:
        return Bath()
    share = BATH_SHARE.get(form)
    damp = choose(stage.moisture.day_percent, plan.schools).low or 0.0
    deepest = None
    if form not in SWIM:
        deepest = CHIN_OF_LENGTH[form] * length_m if form in CHIN_OF_LENGTH else CHIN_OF_BACK * body.back_m
    wide = None if share is None else share * length_m
    fits = LARGEST_BOWL_SHARE * min(plan.enclosure.width_m, plan.enclosure.length_m)
    return Bath(wide, wide is not None and wide <= fits, form == "snake" and damp >= SOAKS_FROM_PERCENT, deepest)


def pieces_of(plan: HabitatPlan) -> tuple[Piece, ...]:
    """Everything with a place on the floor; what is in its depth as long as it is (m)."""
    found = [Piece(f"hides.{index}", "hide", hide.x_m, hide.length_m, hide.height_m) for index, hide in enumerate(plan.hides)]
    if plan.platform is not None:
        found.append(Piece("platform", "platform", plan.platform.x_m, plan.platform.length_m, plan.platform.height_m))
    if plan.bowl is not None:
        found.append(Piece("bowl", "bowl", plan.bowl.x_m, plan.bowl.diameter_m, plan.bowl.depth_m or 0.0))
    return tuple(found)


def standing(plan: HabitatPlan, profile: Profile, stage: Stage, body: Body, today: date, *, propose: bool = True) -> Standing:
    """Gather what stands where; without `propose` no free place is looked for."""
    pieces = tuple(piece for piece in pieces_of(plan) if not _branch(plan, piece))
    pool = plan.pool
    rule = stage.water
    depth_m = choose(rule.depth_cm, plan.schools).middle / 100 if rule is not None and rule.depth_cm is not None else 0.1
    return Standing(
        pieces=pieces,
        lamps=tuple((f"heaters.{index}", lamp.x_m, lamp.height_m) for index, lamp in enumerate(plan.heaters) if _shines(lamp)),
        free={piece.path: _free(plan, piece) for piece in pieces if piece.path != "platform"} if propose else {},
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


def _shines(lamp: Hung) -> bool:
    return HEATERS[lamp.kind].place == "over"  # type: ignore[attr-defined]


def _branch(plan: HabitatPlan, piece: Piece) -> bool:
    """A branch leaves the ground under it free."""
    return piece.path == "platform" and isinstance(plan.platform, Platform) and plan.platform.kind == "branch"


def _free(plan: HabitatPlan, piece: Piece) -> float:
    """Where a piece would stand clear of the others, of the pool and of what is under the lamps, nearest to where it is."""
    taken = [(other.x_m, other.length_m) for other in pieces_of(plan) if other.path != piece.path and not _branch(plan, other)]
    taken = [(x_m, length_m) for x_m, length_m in taken if length_m + piece.length_m > plan.enclosure.width_m]
    if plan.pool is not None:
        taken.append((plan.pool.x_m, plan.pool.length_m))
    taken += [(lamp.x_m, 0.1) for lamp in plan.heaters if _shines(lamp)]
    return round(free_place(tuple(taken), plan.enclosure.length_m, piece.length_m, piece.x_m), 3)
