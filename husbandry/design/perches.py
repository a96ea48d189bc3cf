"""Branches for an animal that climbs: one to bask on where the UV at its back is right, one up to it, one to rest on."""

from collections.abc import Iterator
from math import dist
from typing import Any, Final

import numpy as np

from husbandry.animal.needs import climbs
from husbandry.animal.subject import Subject
from husbandry.animal.widths import body_width_m
from husbandry.inputs import ultraviolet
from husbandry.inputs.light_sources import uv_lamps_on
from husbandry.inputs.perches import branch_up
from husbandry.light.ultraviolet import index_at
from husbandry.plan.geometry import line_of, spot_x_m, y_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.things import Thing
from husbandry.review.standing import UNDER_LAMP_M

PERCH_M: Final = 0.03  # how thick a branch is where the animal's width is not known
THICKEST: Final = 3.0  # times that
LOWEST, HIGHEST = 0.15, 0.8  # of the height over the ground, where a perch is
PERCH_SHARE, PERCH_BACK = 0.5, 0.6  # of the length and the width
LADDER_SHARES: Final = (0.5, 0.35)  # of the length, tried in turn
REST_UPS, REST_SHARES = (0.45, 0.35, 0.25), (0.4, 0.3)  # of the height over the ground and of the length, tried in turn
REST_AT, REST_FRONT = 0.22, 0.35  # of the length, from the end that is far from the basking place; of the width


def perches(subject: Subject) -> list[dict[str, Any]]:
    """Return branches for an animal that climbs and has nothing to climb on but its basking place: as they stand in a plan.

    Parameters
    ----------
    subject
        The planned animal with its plan.

    Returns
    -------
    Up to three: to bask on where the plan has no basking place, up to that, and at the other end to rest on; none near a lamp.

    References
    ----------
    Common practice, no source.
    """
    plan = subject.plan
    if not climbs(subject.profile) or any(thing.good_for("climb") and not thing.basking for thing in plan.things):
        return []
    thick_m = round(min(max(body_width_m(subject) or PERCH_M, PERCH_M / THICKEST), THICKEST * PERCH_M), 3)
    made = []
    if plan.platform is None:
        made.append(_to_bask_on(subject, thick_m))
    basking = plan.platform or Thing.model_validate(made[0])
    for choices in (_ladders(plan, basking, thick_m), _to_rest_on(plan, basking, thick_m)):
        clear = next((one for one in choices if _clear_of_lamps(plan, one)), None)
        if clear is not None:
            made.append(clear)
    return made


def _branch(thick_m: float, **place: float) -> dict[str, Any]:
    return {"kind": "branch", "width_m": thick_m, "height_m": thick_m} | {name: round(value, 3) for name, value in place.items()}


def _to_bask_on(subject: Subject, thick_m: float) -> dict[str, Any]:
    """A branch under the lamps, as high as the UV at the back is right there; else as high as it may."""
    plan, box = subject.plan, subject.plan.enclosure
    ground_m, back_m, x_m = plan.ground.depth_m, subject.body.back_m, spot_x_m(plan)
    free_m = box.height_m - ground_m
    below = [lamp.height_m for lamp in (*plan.uv_lamps, *(heater for heater in plan.heaters if heater.hangs))]
    highest = min([*below, box.height_m]) - UNDER_LAMP_M - back_m - thick_m
    low_m = LOWEST * free_m
    heights = np.linspace(low_m, max(min(highest - ground_m, HIGHEST * free_m), low_m), 41)
    wanted = ultraviolet.wanted_index(plan, subject.stage)
    up_m = float(heights[-1])
    if wanted is not None and plan.uv_lamps:
        index = index_at(uv_lamps_on(plan, subject.today), x_m, ground_m + heights + thick_m + back_m)
        up_m = float(heights[int(np.abs(index - wanted.middle).argmin())])
    long_m = round(PERCH_SHARE * box.length_m, 2)
    at_m = min(max(x_m, long_m / 2), box.length_m - long_m / 2)
    return _branch(thick_m, x_m=at_m, y_m=PERCH_BACK * box.width_m, length_m=long_m, up_m=up_m) | {"basking": True}


def _ladders(plan: HabitatPlan, basking: Thing, thick_m: float) -> Iterator[dict[str, Any]]:
    """A branch from the ground up to the basking place, flat or steeper."""
    for share in LADDER_SHARES:
        made = branch_up(plan, basking, thick_m, share * plan.enclosure.length_m)
        if made is not None:
            yield made


def _to_rest_on(plan: HabitatPlan, basking: Thing, thick_m: float) -> Iterator[dict[str, Any]]:
    """A level branch at the other end, lower and farther in front; lower still and shorter where a lamp is near."""
    box = plan.enclosure
    left = basking.x_m <= box.length_m / 2
    for share in REST_SHARES:
        for up in REST_UPS:
            from_end_m = max(REST_AT, share / 2) * box.length_m
            x_m = box.length_m - from_end_m if left else from_end_m
            up_m = up * (box.height_m - plan.ground.depth_m)
            yield _branch(thick_m, x_m=x_m, y_m=REST_FRONT * box.width_m, length_m=share * box.length_m, up_m=up_m)


def _clear_of_lamps(plan: HabitatPlan, made: dict[str, Any]) -> bool:
    """Tell whether no lamp hangs near any part of a branch."""
    thing = Thing.model_validate(made)
    along = line_of(plan, thing)
    lamps = [(lamp.x_m, y_of(plan, lamp), lamp.height_m) for lamp in plan.heaters if lamp.hangs]
    return all(dist(lamp, place) - thing.height_m / 2 > UNDER_LAMP_M for lamp in lamps for place in along)
