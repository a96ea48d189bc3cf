"""What an animal gets into, cannot get up to, or falls from: gaps, the door, perches out of reach, steps of a tortoise."""

from collections.abc import Iterator
from typing import Final

from husbandry.animal.needs import quarantined
from husbandry.animal.subject import Subject
from husbandry.animal.widths import body_width_m
from husbandry.assessment import Change
from husbandry.furnishing.floor import gap_m
from husbandry.inputs.climate_case import wall_of
from husbandry.inputs.furniture import footprint, said_of
from husbandry.inputs.reach import out_of_reach
from husbandry.inputs.shelters import LEAFY
from husbandry.plan.geometry import covers, half_sides_m, surface_m, top_of, y_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.things import Thing
from husbandry.review.arrangement import Buried, Door, Edge, EscapeGap, FarPerch
from husbandry.units import TOLERANCE_M

HEAD: Final = {"snake": 0.6, "frog": 0.7, "salamander": 0.7}  # of the body's width: where the head passes, the body follows
USUAL_HEAD: Final = 0.75  # (estimates)
STICKS: Final = 0.6  # of the head's width, from which a snout is pushed in and held
BEHIND: Final = 2.5  # of the body's width, up to which it wedges behind a background; wider, it lives there unseen
# Of its shell's length: steps a tortoise gets up on and falls from (common practice, no source).
TOPPLES: Final = (0.3, 1.0)
UNDER_LAMP_M: Final = 0.25
DOOR_M: Final = 0.01  # what is nearer to a door leans on it
CLEAR_M: Final = 0.03
OVER_M: Final = 0.03  # what is no higher over a basking place hides nothing from it
SILL_FREE_M: Final = 0.01
ROUND_M: Final = 0.0005
MOST_SLOPE: Final = 0.3  # of the width, that ground holds as a slope (estimate)
SEEN_THROUGH: Final = ("glass",)  # what is of mesh wants its air
COVERED_FROM: Final = 0.6  # of a wall, that a background covers
SHY: Final = ("arboreal", "semi-arboreal", "terrestrial", "rock", "burrowing")
MOST_OPEN: Final = 2
BOWLS: Final = ("bowl", "dish", "basin")
NO_BOWL: Final = ("rarely", "does not know")
DROPS: Final = ("drop", "drip", "mist on leaves")


def gaps(subject: Subject) -> Iterator[EscapeGap]:
    """The gaps in which the smallest animal sticks, through which it gets out, or behind which it vanishes."""
    plan, widest_m = subject.plan, body_width_m(subject)
    length_m = subject.body.length_m
    if widest_m is None or not length_m:
        return
    smallest = min(subject.plan.animal.smallest_m or length_m, length_m)
    body_m = widest_m * smallest / length_m
    head_m = HEAD.get(subject.profile.body.form, USUAL_HEAD) * body_m
    for index, gap in enumerate(plan.enclosure.gaps):
        path = f"enclosure.gaps.{index}"
        if gap.at == "background":
            if gap.width_m >= STICKS * head_m:
                yield EscapeGap(path, gap.at, gap.width_m, body_m, "sticks" if gap.width_m < BEHIND * body_m else "hides")
        elif gap.width_m >= head_m:
            yield EscapeGap(path, gap.at, gap.width_m, body_m, "escapes")
        elif gap.width_m >= STICKS * head_m:
            yield EscapeGap(path, gap.at, gap.width_m, body_m, "sticks")


def door(plan: HabitatPlan) -> Door:
    """How the enclosure opens, where the plan says so."""
    box = plan.enclosure
    in_way = tuple(_in_way(plan))
    if box.opens != "front" or box.sill_m is None:
        return Door(in_way=in_way)
    edge_m = max(surface_m(plan, share * box.length_m, 0.0) for share in (0.0, 0.25, 0.5, 0.75, 1.0))
    over_m = edge_m - box.sill_m
    # Banked up towards the back it stays as deep as it was in the middle.
    rise_m = plan.ground.rise_back_m + 2 * (over_m + SILL_FREE_M)
    banked = over_m > 0 and not plan.ground.areas and rise_m <= min(MOST_SLOPE * box.width_m, 2 * plan.ground.depth_m)
    return Door(box.sill_m, edge_m, round(rise_m, 3) if banked else None, in_way)


def _in_way(plan: HabitatPlan) -> Iterator[tuple[str, str, tuple[Change, ...]]]:
    """What leans on a front door or hangs from a lid that is opened: path, kind, and the move that clears it."""
    box = plan.enclosure
    for thing in plan.things:
        path = plan.path_of(thing)
        if thing.of.shape == "wall" or (thing.of.shape == "panel" and wall_of(plan, thing) != "front"):
            continue  # what goes from the front to the back ends at the door
        if box.opens == "front":
            reach_m = half_sides_m(plan, thing)[1]
            if y_of(plan, thing) - reach_m < DOOR_M and top_of(plan, thing) > (box.sill_m or 0.0):
                clear_m = round(reach_m + CLEAR_M, 3)
                fits = clear_m + reach_m <= box.width_m and thing.of.shape != "panel"
                yield path, said_of(thing), (Change(f"{path}.y_m", clear_m),) if fits else ()
        elif box.opens == "top" and thing.stands == "hanging" and top_of(plan, thing) > box.height_m - CLEAR_M:
            yield path, said_of(thing), (Change(f"{path}.base", "wall"),) if "wall" in thing.of.bases else ()


def far_perches(subject: Subject) -> tuple[FarPerch, ...]:
    """Perches that the animal does not get to."""
    plan, length_m = subject.plan, subject.body.length_m
    if length_m is None:
        return ()
    far = out_of_reach(plan, subject.profile, length_m)
    return tuple(FarPerch(plan.path_of(thing), said_of(thing), thing.x_m, away) for thing, away in far)


def edges(subject: Subject) -> Iterator[Edge]:
    """Steps that a tortoise gets up on and topples from."""
    plan, length_m = subject.plan, subject.body.length_m
    if subject.profile.body.form != "tortoise" or length_m is None:
        return
    safe_m, sheer_m = (share * length_m for share in TOPPLES)
    for thing in plan.things:
        climbed = thing.of.perch is not None or thing.good_for("climb")
        high_m = top_of(plan, thing) - surface_m(plan, thing.x_m, y_of(plan, thing))
        if climbed and not thing.of.along and safe_m < high_m < sheer_m and not _stepped(plan, thing, safe_m):
            lower_m = None if thing.good_for("hide") else round(max(thing.height_m - (high_m - safe_m) - ROUND_M, 0.01), 3)
            near = min(
                (gap_m(footprint(plan, thing), lamp.x_m, y_of(plan, lamp)) for lamp in plan.heaters if lamp.hangs), default=1.0
            )
            yield Edge(plan.path_of(thing), said_of(thing), high_m, safe_m, lower_m, near < UNDER_LAMP_M)


def _stepped(plan: HabitatPlan, thing: Thing, step_m: float) -> bool:
    """Tell whether something half as high stands against it, as a step."""
    top = top_of(plan, thing)
    for other in plan.things:
        if other is not thing and not other.lets_under:
            drop_m = top - top_of(plan, other)
            half_x, half_y = half_sides_m(plan, other)
            beside_m = gap_m(footprint(plan, thing), other.x_m, y_of(plan, other)) - max(half_x, half_y)
            if 0 < drop_m <= step_m and beside_m <= step_m / 2:
                return True
    return False


def hidden_from_front(plan: HabitatPlan) -> tuple[tuple[str, str], ...]:
    """What stands before the basking places, path and kind, where none of them has an open front."""
    before: list[tuple[str, str]] = []
    for place in plan.basking:
        x_m, y_m, top_m = place.x_m, y_of(plan, place), top_of(plan, place) + OVER_M
        blocks = [
            (plan.path_of(thing), said_of(thing))
            for thing in plan.things
            if not thing.lets_under and y_of(plan, thing) < y_m and covers(plan, thing, x_m) and top_of(plan, thing) > top_m
        ]
        if not blocks:
            return ()
        before += blocks
    return tuple(dict.fromkeys(before))


def lit_hides(plan: HabitatPlan) -> tuple[tuple[str, str], ...]:
    """Hides of which the keeper says that light falls in."""
    return tuple((plan.path_of(hide), said_of(hide)) for hide in plan.hides if hide.dark is False)


def buried(plan: HabitatPlan) -> Iterator[Buried]:
    """What is to be lain on and stands on the floor itself, no higher than the ground over it."""
    for thing in plan.things:
        ground_m = surface_m(plan, thing.x_m, y_of(plan, thing))
        if thing.good_for("bask") and thing.stands == "floor" and 0 < top_of(plan, thing) <= ground_m + TOLERANCE_M:
            wanted_m = round(min(ground_m + thing.of.size_m[2], plan.enclosure.height_m - CLEAR_M), 3)
            yield Buried(plan.path_of(thing), said_of(thing), thing.height_m, ground_m, wanted_m)


def open_sides(subject: Subject) -> tuple[str, ...]:
    """The walls seen through, where nothing covers its back: three or more; none for what lives in water or among leaves."""
    plan, box = subject.plan, subject.plan.enclosure
    habit = subject.profile.habit
    if box.kind not in SEEN_THROUGH or habit not in SHY or plan.outdoors is not None or quarantined(plan, subject.today):
        return ()
    if LEAFY[plan.plants] >= LEAFY["many"]:
        return ()
    lined = {wall_of(plan, one) for one in plan.things if one.of.shape == "panel" and _covers_wall(plan, one)}
    left = tuple(wall for wall in ("back", "left", "right", "front") if wall not in lined and not getattr(box.covered, wall))
    return left if len(left) > MOST_OPEN else ()


def _covers_wall(plan: HabitatPlan, panel: Thing) -> bool:
    box = plan.enclosure
    along_m = box.width_m if wall_of(plan, panel) in ("left", "right") else box.length_m
    return panel.length_m * panel.height_m >= COVERED_FROM * along_m * (box.height_m - plan.ground.depth_m)


def wants_drops(subject: Subject) -> bool:
    """Tell whether it drinks drops from leaves and nobody mists, by hand or by pump."""
    drinks = subject.profile.water.value.lower()
    return any(word in drinks for word in DROPS) and "own back" not in drinks and not subject.plan.misting.any


def finds_bowl(subject: Subject) -> bool:
    """Tell whether what drinks drops drinks from a bowl as well."""
    drinks = subject.profile.water.value.lower()
    return any(word in drinks for word in BOWLS) and not any(word in drinks for word in NO_BOWL)
