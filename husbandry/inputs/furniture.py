"""What stands in an enclosure, and the bowl an animal needs to lie in."""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import reduce
from typing import Final

import numpy as np

from husbandry.animal.body import Body
from husbandry.climate.heaters import HEATERS
from husbandry.furnishing.floor import Footprint, gap_m, shared_m
from husbandry.kept import kept
from husbandry.plan.equipment import Heater, LightBar, UvLamp
from husbandry.plan.geometry import (
    Metres,
    depth_of,
    dry_m,
    foot_m,
    from_sockets_m,
    half_sides_m,
    highest_m,
    leaves_land,
    line_of,
    surface_m,
    top_of,
    y_of,
)
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.things import Thing
from husbandry.review.arrangement import Bath, FloorPiece, InWater, Overlap, UnderLamp
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage
from husbandry.units import TOLERANCE_M

BATH_SHARE: Final = {"snake": 0.14, "frog": 1.5, "tortoise": 1.2}
LARGEST_BOWL_SHARE: Final = 0.6  # of the floor's shorter side
SOAKS_FROM_PERCENT: Final = 65.0
CHIN_OF_BACK: Final = 0.8
CHIN_OF_LENGTH: Final = {"frog": 0.5, "salamander": 0.3}
SWIM: Final = ("snake",)
SPLASH_M: Final = 0.05  # over the water nothing electrical hangs (common practice, no source)
WELL_CLEAR_M: Final = 0.15  # where it is hung instead
BODY_KG_M3: Final = 1000.0  # an animal about floats (estimate)


def bath_of(plan: HabitatPlan, profile: Profile, stage: Stage, body: Body) -> Bath:
    """Return how wide a bowl this animal needs and how deep one it bears (m), and its volume where it lies in it wholly.

    None where there is no such rule.
    """
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
    body_m3 = body.mass_kg / BODY_KG_M3 if form in SWIM and body.mass_kg is not None else None
    must = form == "snake" and damp >= SOAKS_FROM_PERCENT
    return Bath(wide, wide is not None and wide <= fits, must, deepest, body_m3, body.back_m)


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


@kept
def pieces_of(plan: HabitatPlan) -> tuple[FloorPiece, ...]:
    """Every thing as the rules of the floor see it (m); a bowl is as high as its water."""
    return tuple(_piece(plan, f"things.{index}", thing) for index, thing in enumerate(plan.things))


def _piece(plan: HabitatPlan, path: str, thing: Thing) -> FloorPiece:
    above_m = top_of(plan, thing) - surface_m(plan, thing.x_m, y_of(plan, thing))
    top_m = (thing.water_m or 0.0) if thing.of.round else above_m
    half = footprint(plan, thing).half_sides
    return FloorPiece(path, group_of(thing), thing.x_m, thing.length_m, top_m, y_of(plan, thing), half, thing.height_m)


def overlaps_of(plan: HabitatPlan) -> Iterator[Overlap]:
    """Things that take the same floor at the same height."""
    pieces = pieces_of(plan)
    places = [footprint(plan, thing) for thing in plan.things]
    heights = [(foot_m(plan, thing), top_of(plan, thing)) for thing in plan.things]
    standing = [index for index, thing in enumerate(plan.things) if not thing.lets_under]
    for at, index in enumerate(standing):
        for other in standing[at + 1 :]:
            into_m = shared_m(places[index], places[other])
            above = max(heights[index][0], heights[other][0]) >= min(heights[index][1], heights[other][1])
            if into_m > 0 and not above:
                one, two = pieces[index], pieces[other]
                yield Overlap(one.path, one.kind, two.path, two.kind, into_m)


def under_lamps_of(plan: HabitatPlan) -> Iterator[UnderLamp]:
    """How near each lamp hangs to each thing's top."""
    lamps = [
        (f"heaters.{index}", (lamp.x_m, y_of(plan, lamp), lamp.height_m)) for index, lamp in enumerate(plan.heaters) if lamp.hangs
    ]
    for piece, thing in zip(pieces_of(plan), plan.things, strict=True):
        met = outline(plan, thing)
        for path, face in lamps:
            over = gap_m(met.floor, face[0], face[1]) <= 0.0
            yield UnderLamp(piece.path, piece.kind, path, float(met.from_face_m(*face)), bool(over))


@dataclass(frozen=True)
class Outline:
    """A thing as lamps meet it, m: the floor it takes and its top; of what lies between two ends, places `along` its middle."""

    floor: Footprint
    top_m: float
    thick_m: float
    along: tuple[tuple[float, float, float], ...] = ()

    def from_face_m(self, x_m: float, y_m: Metres, height_m: float) -> Metres:
        """How far its top lies from the middle of a lamp's face, m; of what lies between two ends, its nearest place.

        The face's place from front to back may be a number or an array of them.
        """
        if self.along:
            away = [np.sqrt((x_m - x) ** 2 + (y_m - y) ** 2 + (height_m - z) ** 2) for x, y, z in self.along]
            return np.maximum(reduce(np.minimum, away) - self.thick_m / 2, 0.0)
        return np.hypot(gap_m(self.floor, x_m, y_m), max(height_m - self.top_m, 0.0))


def outline(plan: HabitatPlan, thing: Thing) -> Outline:
    """A thing as lamps meet it."""
    along = tuple(line_of(plan, thing)) if thing.of.along else ()
    return Outline(footprint(plan, thing), top_of(plan, thing), thing.height_m, along)


def in_water_of(plan: HabitatPlan) -> Iterator[InWater]:
    """Lamps and heaters that hang in the pool, or so low over it that they are splashed; what is made for water may."""
    pool = plan.pool
    if pool is None:
        return
    least_m = pool.depth_m + SPLASH_M
    parts: list[tuple[str, Heater | UvLamp | LightBar, float]] = []
    for index, heater in enumerate(plan.heaters):
        if HEATERS[heater.kind].place in ("over", "air", "light"):
            parts.append((f"heaters.{index}", heater, heater.length_m or 0.0))
    parts += [(f"uv_lamps.{index}", lamp, lamp.tube_m) for index, lamp in enumerate(plan.uv_lamps)]
    parts += [(f"light_bars.{index}", bar, bar.length_m) for index, bar in enumerate(plan.light_bars)]
    for path, part, long_m in parts:
        over = not leaves_land(plan) or abs(part.x_m - pool.x_m) < (pool.length_m + long_m) / 2
        if over and part.height_m < least_m - TOLERANCE_M:
            free_m = pool.depth_m + WELL_CLEAR_M
            yield InWater(path, part.kind, part.height_m, pool.depth_m, free_m if free_m <= highest_m(plan) else None)


def at_sockets_of(plan: HabitatPlan) -> Iterator[tuple[str, str, float]]:
    """What holds water too near to the sockets: its path, its kind and how far it stands from their wall (m)."""
    for thing in plan.things:
        if thing.good_for("drink"):
            away_m = from_sockets_m(plan, (thing.x_m, y_of(plan, thing)), half_sides_m(plan, thing))
            if away_m < dry_m(plan) - TOLERANCE_M:
                yield plan.path_of(thing), said_of(thing), max(away_m, 0.0)


def group_of(thing: Thing) -> str:
    """What a thing is to the rules of the floor: "platform" for a basking place, "hide", "bowl", else its kind."""
    if thing.basking:
        return "platform"
    return "hide" if thing.good_for("hide") else "bowl" if thing.good_for("drink") else thing.kind


def said_of(thing: Thing) -> str:
    """What a thing is called where it is spoken of: "platform" for a basking place, else its kind."""
    return "platform" if thing.basking else thing.kind


def lets_under(plan: HabitatPlan, piece: FloorPiece) -> bool:
    """A branch, and what is on a wall or hangs, leaves the ground under it free."""
    return plan.thing_at(piece.path).lets_under
