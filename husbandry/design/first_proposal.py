"""A computed first proposal: the recommended enclosure with lamp and tube hung where the models put them.

Everything is drawn from the profile and solved by the models; the keeper changes it from there.
"""

import math
from datetime import date
from typing import Any, Final, NamedTuple

from husbandry.animal.needs import climbs, enclosure_needs, usual_pool
from husbandry.animal.subject import subject_of
from husbandry.assess.result import Assessment
from husbandry.assess.vetting import GRAVE
from husbandry.assessment import Finding, Severity
from husbandry.codes import FindingCode
from husbandry.design.builds import BUILDS, TOO_MUCH_W, built, clad
from husbandry.design.first_lamp import with_lamp
from husbandry.design.mending import mended
from husbandry.inputs.shelters import shelter_of
from husbandry.plan.changes import one_ground
from husbandry.plan.geometry import y_of
from husbandry.plan.habitat import Animal, HabitatPlan, RoomClimate
from husbandry.plan.placement import check_places
from husbandry.remedies.furnishing import LITTER_M
from husbandry.remedies.hanging import LAMPS_APART_M
from husbandry.remedies.heating import MOST_HEATERS
from husbandry.remedies.ultraviolet import lit_from_lid
from husbandry.space.sizing import SIDES, sides_for
from husbandry.species.leaves import Range, Ranges, choose
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage

LAMP_PLACE: Final = 0.22  # along the length: the warm quarter
ABOVE_WATER_M: Final = 0.03  # a basking place over the water
PERCH_M: Final = 0.03  # how thick a perch is
# Of a climber's basking branch (trade: 25 to 30 cm to its back); nearer, the animal could reach the lamp's mesh with its feet.
PERCHES_BELOW_LID_M: Final = (0.34, 0.31, 0.28, 0.25)
FAR_BELOW_LID_M: Final = 0.7  # a slate: what hangs at the lid is too far from it for light, and what hangs lower is climbed on
LONGEST_SIDE_M: Final = 15.0
OVER_EDGE_K: Final = 1.5  # above the lower edge of its band a surface is held where its middle would burn the back
INSIDE_K: Final = 0.2  # the least that is inside
SHORT_K: Final = (2.0, 4.0, 7.0, 11.0, 16.0)  # of the band, where a lamp that reaches it burns the back
WARMER_THAN_ROOM_K: Final = 5.0  # or it is no place to bask
NO_WAY: Final = ((math.inf,), math.inf)  # worse than whatever can be built
GRAVEST: Final = 2  # severities: dangers, and what is wrong
PART_OF_A_FAULT_W: Final = 500.0  # of heaters: four times as much is as bad as something that is wrong (estimate)
BLANK: Final[dict[str, Any]] = {
    "enclosure": {"kind": "foamed-pvc", "length_m": 1.0, "width_m": 0.5, "height_m": 0.5, "lid": "solid"},
    "ground": one_ground("soil", 0.05),
}


def propose(
    name: str,
    profile: Profile,
    animal: Animal,
    room: RoomClimate,
    today: date,
    sides_m: tuple[float, float, float] | None = None,
) -> HabitatPlan:
    """Return a plan with the recommended size (else the minimum), ground, hides, bowl, lamp and tube for this stage.

    With `sides_m` (inner length, width and height) it is built into the enclosure there is; where not even the ground
    fits, what comes back has its parts out of place (`check_places`).
    """
    blank: dict[str, Any] = BLANK | {
        "name": name,
        "species": profile.id,
        "animal": animal.model_dump(mode="json"),
        "room": room.model_dump(mode="json"),
        "enclosure": dict(BLANK["enclosure"]),
        "feeding": {"starts": today.isoformat()},
    }
    subject = subject_of(HabitatPlan.model_validate(blank), profile, today)
    body, stage = subject.body, subject.stage
    box = blank["enclosure"]
    _minimum, wanted = enclosure_needs(HabitatPlan.model_validate(blank), profile, stage, body.length_m)
    if sides_m is None and wanted:
        length_m, width_m, height_m = (min(round(size + 0.0049, 2), LONGEST_SIDE_M) for size in sides_for(wanted))
        sides_m = length_m, width_m, height_m
    if sides_m is not None:
        box |= {f"{side}_m": size for side, size in zip(SIDES, sides_m, strict=True)}
    tall = is_tall(box)
    wet = profile.habit == "aquatic" or profile.group == "salamander"
    ground_m = round(choose(stage.ground.depth_cm, {}).middle / 100, 3)
    blank["ground"] = _ground(profile, stage, ground_m)
    blank["pool"] = usual_pool(HabitatPlan.model_validate(blank), profile, stage, wanted)
    perch = perches(profile, box, ground_m)
    if stage.heat.basking_surface_c is not None and not perch:
        blank["things"] = [platform(blank, ground_m, body.length_m, perch=False)]
    screened = profile.housing is not None
    builds = BUILDS[
        "screen" if screened else "wet" if wet else "tall" if tall else "tortoise" if profile.body.form == "tortoise" else "long"
    ]
    documents = [blank | {"enclosure": box | built(kind, lid)} for kind, lid in builds]
    if perch:
        documents = [_with_perch(each, profile, today) for each in documents]
    found = _best(documents, profile, today, stage.heat.basking_surface_c)
    if found.unlit and climbs(profile) and not perch:
        # No tube reaches the floor so far below it: what climbs may bask higher up.
        higher = [_with_perch(each, profile, today) for each in documents]
        raised = _best(higher, profile, today, stage.heat.basking_surface_c)
        found = min(found, raised, key=lambda each: each.worth)
    return found.plan


def _with_perch(document: dict[str, Any], profile: Profile, today: date) -> dict[str, Any]:
    """The document with a basking branch; under a mesh so near to it that a tube on it is strong enough, and none hangs inside."""
    subject = subject_of(HabitatPlan.model_validate(document), profile, today)
    body, tried = subject.body, []
    for below_m in PERCHES_BELOW_LID_M if document["enclosure"]["lid"] == "mesh" else PERCHES_BELOW_LID_M[:1]:
        ground_m = subject.plan.ground.depth_m
        place = platform(document, ground_m, body.length_m, perch=True, below_lid_m=below_m)
        tried.append(document | {"things": [place]})
        if lit_from_lid(HabitatPlan.model_validate(tried[-1]), subject.stage, body, today):
            return tried[-1]
    return tried[0]


def _ground(profile: Profile, stage: Stage, depth_m: float) -> dict[str, Any]:
    """The ground of a stage, with leaf litter on top where the species hides in it: laid later it would come nearer to the lamp."""
    damp = (choose(stage.moisture.day_percent, {}).low or 0.0) >= 50
    kind = choose(stage.ground.kinds, {}).value
    wants_litter = "litter" in (shelter_of(hide.value) for hide in profile.hides_of(stage))
    if kind == "leaf-litter" or not wants_litter or depth_m < 2 * LITTER_M:
        return one_ground(kind, depth_m, damp=damp)
    made = one_ground(kind, round(depth_m - LITTER_M, 3), damp=damp)
    made["layers"].append({"parts": [{"material": "leaf-litter", "parts": 1.0}], "depth_m": LITTER_M})
    return made


class _Found(NamedTuple):
    """A plan with what was mended, how bad it still is, and whether it wants for UV."""

    plan: HabitatPlan
    worth: tuple[tuple[float, ...], float]
    unlit: bool


def _best(documents: list[dict[str, Any]], profile: Profile, today: date, basking_c: Ranges | None) -> _Found:
    """Return the first way to build it that does, with its lamp and what was mended; where none does, the least bad."""
    tried: list[_Found] = []
    for document in documents:
        plan = HabitatPlan.model_validate(document)
        if check_places(plan):
            return _Found(plan, NO_WAY, False)  # too small for its own ground: nothing to solve, and the reader will say so
        plan, needs_w = clad(plan, profile, today)
        if needs_w > TOO_MUCH_W and (_holds(tried) if tried else document is not documents[-1]):
            continue  # open to the room: another way to build it is not
        made, after = _equipped(plan, profile, today, None if basking_c is None else choose(basking_c, {}))
        unlit = any(item.code is FindingCode.UV_MISSING for item in after.findings)
        tried.append(_Found(made, _worth(after.findings, made), unlit))
        if not unlit and not any(item.severity in GRAVE for item in after.findings):
            break  # the usual way to build it will do
    return min(tried, key=lambda each: each.worth)


def _holds(tried: list[_Found]) -> bool:
    """Tell whether one of the ways that were tried endangers nothing."""
    return any(not each.worth[0][0] for each in tried)


def equipped(plan: HabitatPlan, profile: Profile, today: date) -> HabitatPlan:
    """Return a plan without heaters and lamps as a first plan would equip it."""
    stage = subject_of(plan, profile, today).stage
    basking = stage.heat.basking_surface_c
    return _equipped(plan, profile, today, None if basking is None else choose(basking, plan.schools))[0]


def _equipped(plan: HabitatPlan, profile: Profile, today: date, basking_c: Range | None) -> tuple[HabitatPlan, Assessment]:
    """A plan with its lamp and with what was mended; with what it then comes to."""
    if basking_c is None:
        return mended(plan, profile, today)
    lower = basking_c.least + OVER_EDGE_K, basking_c.least + INSIDE_K
    inside = basking_c.middle, *(min(edge_c, basking_c.middle) for edge_c in lower)
    hung = with_lamp(plan, profile, today, inside)
    made = mended(plan if hung is None else hung, profile, today)
    if hung is not None or len(made[0].heaters) >= MOST_HEATERS:
        return made
    # In cold air a lamp that warms the spot burns the back: where other heaters have warmed it one may do, or nearly.
    coolest_c = plan.room_c("winter", "day") + WARMER_THAN_ROOM_K
    nearly = (basking_c.least - short for short in SHORT_K if basking_c.least - short > coolest_c)
    later = with_lamp(made[0].model_copy(update={"uv_lamps": ()}), profile, today, (*inside, *nearly))
    if later is None or _in_another(later):
        return made
    again = mended(later, profile, today)
    return again if _weight(again[1].findings)[:GRAVEST] <= _weight(made[1].findings)[:GRAVEST] else made


def _in_another(plan: HabitatPlan) -> bool:
    """Tell whether the last of a plan's heaters, a lamp, hangs so near to another that their domes do not fit."""
    faces = [(lamp.x_m, y_of(plan, lamp), lamp.height_m) for lamp in plan.heaters if lamp.hangs]
    return any(math.dist(faces[-1], other) < LAMPS_APART_M for other in faces[:-1])


def is_tall(box: dict[str, Any]) -> bool:
    """Tell whether an enclosure's document is one to climb in: clearly higher than it is long and wide."""
    return bool(box["height_m"] >= 1.2 * max(box["length_m"], box["width_m"]))


def perches(profile: Profile, box: dict[str, Any], ground_m: float) -> bool:
    """Tell whether an animal's basking place is a perch: in an enclosure to climb in, for what lives in trees, and for whatever
    climbs where the lid is far above the ground.
    """
    high = climbs(profile) and box["height_m"] - ground_m > FAR_BELOW_LID_M
    return high or is_tall(box) or profile.habit == "arboreal"


def platform(
    blank: dict[str, Any], ground_m: float, length_m: float | None, *, perch: bool, below_lid_m: float = PERCHES_BELOW_LID_M[0]
) -> dict[str, Any]:
    """Return the basking place of a plan without one: a branch for what climbs, wood out of a pool, else a slate."""
    box, pool = blank["enclosure"], blank["pool"]
    place_m = round(LAMP_PLACE * box["length_m"], 3)
    # High enough that a lamp on the lid warms it from out of reach.
    high_m = max(0.55 * box["height_m"], box["height_m"] - below_lid_m - ground_m)
    kind, height_m = ("branch", high_m) if perch else ("slate", 0.02)
    if pool and pool["x_m"] - pool["length_m"] / 2 < place_m:
        kind, height_m = "wood", pool["depth_m"] - ground_m + ABOVE_WATER_M
    side_m = round(min(max(length_m or 0.2, 0.15), 0.25 * box["length_m"]), 2)
    made = {
        "kind": kind,
        "footing": kind == "slate",
        "x_m": place_m,
        "length_m": side_m,
        "basking": True,
        "height_m": round(height_m, 3),
    }
    if perch and kind == "branch":
        made |= {"height_m": PERCH_M, "width_m": PERCH_M, "up_m": round(max(height_m - PERCH_M, 0.0), 3)}
    return made


def _installed_watts(plan: HabitatPlan) -> float:
    return sum(heater.watts for heater in plan.heaters)


def _worth(findings: tuple[Finding, ...], plan: HabitatPlan) -> tuple[tuple[float, ...], float]:
    """How bad a plan is: its dangers; what is wrong, no UV twice, half a kilowatt as a quarter; the rest of its findings; watts."""
    dangers, wrong, *rest = _weight(findings)
    wrong += any(item.code is FindingCode.UV_MISSING and item.severity is Severity.WRONG for item in findings)
    watts = _installed_watts(plan)
    return (dangers, wrong + watts // PART_OF_A_FAULT_W / 4, *rest), watts


def _weight(findings: tuple[Finding, ...]) -> tuple[int, ...]:
    """How bad a plan is: the number of findings of each severity, worst first."""
    return tuple(sum(item.severity is severity for item in findings) for severity in Severity)
