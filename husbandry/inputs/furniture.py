"""What stands in an enclosure, and the bowl an animal needs to lie in."""

from typing import Final

from husbandry.animal.body import Body
from husbandry.furnishing.floor import Footprint
from husbandry.plan.geometry import depth_of, half_sides_m, y_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.things import Thing
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


def footprint(plan: HabitatPlan, thing: Thing) -> Footprint:
    """What floor a thing takes, or hangs over."""
    half = half_sides_m(plan, thing)
    if thing.of.along:
        return Footprint(thing.x_m, y_of(plan, thing), 2 * half[0], 2 * half[1])
    return Footprint(thing.x_m, y_of(plan, thing), thing.length_m, depth_of(plan, thing), thing.turn_deg, thing.of.round)


def footprints(plan: HabitatPlan, but: str = "") -> tuple[Footprint, ...]:
    """The footprints of all that takes floor, but for the thing at the path `but`."""
    return tuple(
        footprint(plan, thing) for index, thing in enumerate(plan.things) if f"things.{index}" != but and not thing.lets_under
    )


def pieces_of(plan: HabitatPlan) -> tuple[FloorPiece, ...]:
    """Everything with a place on the floor; what is in its depth as long as it is (m)."""
    return tuple(
        FloorPiece(
            f"things.{index}", group_of(thing), thing.x_m, thing.length_m, (thing.water_m or 0.0) if thing.of.round else thing.top_m
        )
        for index, thing in enumerate(plan.things)
    )


def group_of(thing: Thing) -> str:
    """What a thing is to the rules of the floor: "platform" for a basking place, "hide", "bowl", else its kind."""
    if thing.basking:
        return "platform"
    return "hide" if thing.good_for("hide") else "bowl" if thing.good_for("drink") else thing.kind


def lets_under(plan: HabitatPlan, piece: FloorPiece) -> bool:
    """A branch, and what is on a wall or hangs, leaves the ground under it free."""
    return plan.things[int(piece.path.removeprefix("things."))].lets_under
