"""The places an animal gets up to: basking places, and for a climber whatever it climbs on; each as the models see it."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any, Final

import numpy as np

from husbandry.animal.body import Body
from husbandry.animal.needs import climbs
from husbandry.climate.case import BaskingSpot
from husbandry.inputs.light_sources import lights, shades_from_above, uv_lamps_on
from husbandry.light.ultraviolet import index_at
from husbandry.light.visible import lux_at
from husbandry.plan.geometry import depth_of, foot_m, half_sides_m, line_of, spot_y_m, surface_m, top_of, y_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.things import Thing
from husbandry.species.profile import Profile

MOST_PERCHES: Final = 12
ON_THIN_M: Final = 0.05  # what is narrower is sat on as on a branch
LEAST_SIDE_M: Final = 0.02
Place = tuple[float, float, float]  # x, y and height above the floor, m


@dataclass(frozen=True)
class Perch:
    """A thing the animal sits on, and the places on its top that are looked at."""

    thing: Thing
    places: tuple[Place, ...]


def perches_of(plan: HabitatPlan, profile: Profile) -> tuple[Perch, ...]:
    """The basking places, the first one first, then for a climber what it climbs on."""
    if profile.habit == "aquatic":
        return ()
    climbed = [one for one in plan.things if not one.basking and one.good_for("climb")] if climbs(profile) else []
    return tuple(Perch(thing, places_on(plan, thing)) for thing in (*plan.basking, *climbed)[:MOST_PERCHES])


def places_on(plan: HabitatPlan, thing: Thing) -> tuple[Place, ...]:
    """The middle of a thing's top; of what lies between two ends those as well, as far as they are inside."""
    if not thing.of.along:
        return ((thing.x_m, y_of(plan, thing), top_of(plan, thing)),)
    line = line_of(plan, thing)
    return tuple(_inside(plan, (x, y, z + thing.height_m / 2)) for x, y, z in (line[len(line) // 2], line[0], line[-1]))


def _inside(plan: HabitatPlan, place: Place) -> Place:
    box = plan.enclosure
    x, y, z = (min(max(at, 0.0), most) for at, most in zip(place, (box.length_m, box.width_m, box.height_m), strict=True))
    return x, y, z


def spot_at(plan: HabitatPlan, thing: Thing, place: Place) -> BaskingSpot:
    """A place on a thing as the climate model sees a basking surface."""
    narrow_m = min(thing.length_m, depth_of(plan, thing))
    thin = thing.of.along or narrow_m < ON_THIN_M
    side_m = narrow_m if thin else thing.length_m
    kind = thing.of.perch or ("branch" if thin else "wood")
    return BaskingSpot(place[0], max(side_m, LEAST_SIDE_M), place[2], kind, place[1] - plan.enclosure.width_m / 2)


def indices_on(plan: HabitatPlan, body: Body, today: date, places: Sequence[Place]) -> list[float]:
    """The UV index at the back of an animal that sits at each place."""
    x_m, y_m, z_m = np.array(places).T
    at_back = index_at(uv_lamps_on(plan, today), x_m, z_m + body.back_m, shades_from_above(plan), y_m - spot_y_m(plan))
    return [float(index) for index in at_back]


def lux_on(plan: HabitatPlan, body: Body, places: Sequence[Place]) -> list[float]:
    """The light at the back of an animal that sits at each place, lux."""
    x_m, y_m, z_m = np.array(places).T
    return [float(lux) for lux in lux_at(lights(plan), x_m, z_m + body.back_m, y_m - spot_y_m(plan))]


def branch_up(plan: HabitatPlan, thing: Thing, thick_m: float, run_m: float) -> dict[str, Any] | None:
    """A branch from the ground up to a thing, as it stands in a plan: from the side with more room, `run_m` along at most.

    None where it would be no longer than it is thick.
    """
    box, y_m, half_m = plan.enclosure, y_of(plan, thing), half_sides_m(plan, thing)[0]
    from_right = thing.x_m <= box.length_m / 2
    rise_m = foot_m(plan, thing) - surface_m(plan, thing.x_m, y_m)
    run_m = min(run_m, (box.length_m - thing.x_m if from_right else thing.x_m) - half_m - LEAST_SIDE_M)
    if rise_m <= thick_m or run_m <= thick_m:
        return None
    slope_deg = math.degrees(math.atan2(rise_m, run_m))
    return {
        "kind": "branch",
        "x_m": round(thing.x_m + (1 if from_right else -1) * (half_m + run_m / 2), 3),
        "y_m": round(y_m, 3),
        "length_m": round(math.hypot(rise_m, run_m), 3),
        "width_m": thick_m,
        "height_m": thick_m,
        "up_m": round(max(rise_m / 2 - thick_m / 2, 0.0), 3),
        "slope_deg": round(-slope_deg if from_right else slope_deg, 1),
    }
