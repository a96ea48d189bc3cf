"""What stands in an enclosure, and the bowl an animal needs to lie in."""

from typing import Final

from husbandry.animal.body import Body
from husbandry.plan.habitat import HabitatPlan, Platform
from husbandry.review.arrangement import Bath, FloorPiece
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage

BATH_SHARE: Final = {"snake": 0.14, "frog": 1.5, "tortoise": 1.2}
LARGEST_BOWL_SHARE: Final = 0.6  # of the floor's shorter side
SOAKS_FROM_PERCENT: Final = 65.0
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


def pieces_of(plan: HabitatPlan) -> tuple[FloorPiece, ...]:
    """Everything with a place on the floor; what is in its depth as long as it is (m)."""
    found = [FloorPiece(f"hides.{index}", "hide", hide.x_m, hide.length_m, hide.height_m) for index, hide in enumerate(plan.hides)]
    if plan.platform is not None:
        found.append(FloorPiece("platform", "platform", plan.platform.x_m, plan.platform.length_m, plan.platform.height_m))
    if plan.bowl is not None:
        found.append(FloorPiece("bowl", "bowl", plan.bowl.x_m, plan.bowl.diameter_m, plan.bowl.depth_m or 0.0))
    return tuple(found)


def is_branch(plan: HabitatPlan, piece: FloorPiece) -> bool:
    """A branch leaves the ground under it free."""
    return piece.path == "platform" and isinstance(plan.platform, Platform) and plan.platform.kind == "branch"
