"""A computed first proposal: the recommended enclosure with lamp and tube hung where the models put them.

Everything is drawn from the profile and solved by the models; the keeper changes it from there.
"""

import math
from bisect import bisect_left
from collections.abc import Iterable, Sequence
from dataclasses import replace
from datetime import date
from typing import Any, Final

from husbandry.animal.needs import climbs, enclosure_needs, usual_pool
from husbandry.animal.subject import Subject, subject_of
from husbandry.assess import warmth
from husbandry.assess.result import Assessment
from husbandry.assess.vetting import GRAVE
from husbandry.assessment import Change, Finding, Severity, Verdict
from husbandry.climate.case import HeaterCase
from husbandry.climate.hang import height_for, surface_at
from husbandry.climate.heaters import HEATERS
from husbandry.climate.states import Climate
from husbandry.climate.steady import solve_steady
from husbandry.codes import FindingCode
from husbandry.design.mending import mended
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.changes import one_ground
from husbandry.plan.editing import apply
from husbandry.plan.geometry import basking_top_m, highest_m, spot_x_m, y_of
from husbandry.plan.habitat import ABOVE_LID_M, Animal, HabitatPlan, RoomClimate
from husbandry.plan.placement import check_places
from husbandry.remedies.hanging import LAMPS_APART_M
from husbandry.remedies.heating import MOST_HEATERS
from husbandry.review.judged import BAD
from husbandry.review.warmth import CLOSEST_HEATER_M
from husbandry.space.sizing import SIDES, sides_for
from husbandry.species.leaves import Range, Ranges, choose
from husbandry.species.profile import Profile

LAMP_WATTS: Final = (25.0, 35.0, 50.0, 75.0, 100.0, 150.0)
LAMP_KINDS: Final = ("reflector-flood", "halogen-flood")
LAMP_PLACE: Final = 0.22  # along the length: the warm quarter
ABOVE_WATER_M: Final = 0.03  # a basking place over the water
PERCH_M: Final = 0.03  # how thick a perch is
PERCH_BELOW_LID_M: Final = 0.34  # of a climber's basking branch (trade: 25 to 30 cm to its back)
FIRST_GAP_M: Final = 0.28  # from an open table's lamp to the slate
BACK_GAP_M: Final = 0.22  # and from its face to the back
HIGHER_M: Final = (0.0, 0.15, 0.3)
LONGEST_SIDE_M: Final = 15.0
OVER_EDGE_K: Final = 1.5  # above the lower edge of its band a surface is held where its middle would burn the back
INSIDE_K: Final = 0.2  # the least that is inside
SHORT_K: Final = (2.0, 4.0, 7.0, 11.0, 16.0)  # of the band, where a lamp that reaches it burns the back
WARMER_THAN_ROOM_K: Final = 5.0  # or it is no place to bask
GRAVEST: Final = 2  # severities: dangers, and what is wrong
REACHED_K: Final = 1.0  # so near to the surface wanted a lamp will do
# What is tried for each shape, the usual first; the one with the least to find fault with is proposed.
BUILDS: Final = {
    "long": (("foamed-pvc", "solid"), ("glass", "mesh")),
    "tall": (("glass", "mesh"), ("foamed-pvc", "solid")),
    "screen": (("mesh", "mesh"), ("glass", "mesh")),
    "wet": (("glass", "mesh"), ("glass", "solid")),
    "tortoise": (("open-table", "open"), ("plywood", "mesh")),
}


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
    damp = (choose(stage.moisture.day_percent, {}).low or 0.0) >= 50
    blank["ground"] = one_ground(choose(stage.ground.kinds, {}).value, ground_m, damp=damp)
    blank["pool"] = usual_pool(HabitatPlan.model_validate(blank), profile, stage, wanted)
    if stage.heat.basking_surface_c is not None or tall or profile.habit == "arboreal":
        blank["things"] = [platform(blank, ground_m, body.length_m, perch=tall or profile.habit == "arboreal")]
    screened = profile.housing is not None
    builds = BUILDS[
        "screen" if screened else "wet" if wet else "tall" if tall else "tortoise" if profile.body.form == "tortoise" else "long"
    ]
    built = (HabitatPlan.model_validate(blank | {"enclosure": box | _built(kind, lid)}) for kind, lid in builds)
    return _best(built, profile, today, stage.heat.basking_surface_c)


def _best(built: Iterable[HabitatPlan], profile: Profile, today: date, basking_c: Ranges | None) -> HabitatPlan:
    """Return the first way to build it that does, with its lamp and what was mended; where none does, the least bad."""
    tried = []
    for plan in built:
        if check_places(plan):
            return plan  # an enclosure too small for its own ground: nothing to solve, and the reader will say so
        tried.append(_equipped(plan, profile, today, None if basking_c is None else choose(basking_c, {})))
        if not any(item.severity in GRAVE or item.code is FindingCode.UV_MISSING for item in tried[-1][1].findings):
            break  # the usual way to build it will do
    return min(tried, key=lambda pair: (_weight(pair[1].findings), _installed_watts(pair[0])))[0]


def _built(kind: str, lid: str) -> dict[str, Any]:
    """A kind of enclosure; glass is covered outside at the back and at both ends, for cover."""
    covered = {"covered": {"back": True, "left": True, "right": True}} if kind == "glass" else {}
    return {"kind": kind, "lid": lid, **covered}


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
    hung = _with_lamp(plan, profile, today, inside)
    made = mended(plan if hung is None else hung, profile, today)
    if hung is not None or len(made[0].heaters) >= MOST_HEATERS:
        return made
    # In cold air a lamp that warms the spot burns the back: where other heaters have warmed it one may do, or nearly.
    coolest_c = plan.room_c("winter", "day") + WARMER_THAN_ROOM_K
    nearly = (basking_c.least - short for short in SHORT_K if basking_c.least - short > coolest_c)
    later = _with_lamp(made[0].model_copy(update={"uv_lamps": ()}), profile, today, (*inside, *nearly))
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


def platform(blank: dict[str, Any], ground_m: float, length_m: float | None, *, perch: bool) -> dict[str, Any]:
    """Return the basking place of a plan without one: a branch for what climbs, wood out of a pool, else a slate."""
    box, pool = blank["enclosure"], blank["pool"]
    place_m = round(LAMP_PLACE * box["length_m"], 3)
    # High enough that a lamp on the lid warms it from out of reach.
    high_m = max(0.55 * box["height_m"], box["height_m"] - PERCH_BELOW_LID_M - ground_m)
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


def _lamp_heights_m(plan: HabitatPlan, top_m: float, clear_m: float, back_m: float) -> list[float]:
    """Return the heights to try, lowest first: one under a solid lid, several over an open or a mesh one."""
    height_m = plan.enclosure.height_m
    if plan.enclosure.lid == "solid":
        return [round(max(height_m - 0.05, min(height_m - 0.02, clear_m)), 3)]
    # From the back, not from the slate: a tall shell is that much nearer to the lamp, and may need it higher still.
    first_m = max(height_m, top_m + FIRST_GAP_M, top_m + back_m + BACK_GAP_M)
    return sorted({round(min(first_m + more, height_m + ABOVE_LID_M), 3) for more in HIGHER_M})


def _with_lamp(plan: HabitatPlan, profile: Profile, today: date, wanted_c: Sequence[float]) -> HabitatPlan | None:
    """Hang the weakest lamp that reaches a surface in winter over a patch as large as the body, dimmed, guarded.

    Where none warms the whole body, the weakest that reaches the surface without burning the back; where none does, one for the
    next of the surfaces that are `wanted_c`; None where none does for any. Where the animal climbs, a lamp is brought down to it,
    guarded, only where none is strong enough from above.
    """
    from_above = (True, False) if climbs(profile) and plan.enclosure.lid != "solid" else (False,)
    for held_c in dict.fromkeys(wanted_c):
        for above in from_above:
            hung = _hung(plan, profile, today, held_c, from_above=above)
            if hung is not None:
                return hung
    return None


def _hung(plan: HabitatPlan, profile: Profile, today: date, middle_c: float, *, from_above: bool = False) -> HabitatPlan | None:
    """The same; None where none does. `from_above`: the lamps stay on or above the lid."""
    document, lidless = plan.model_dump(mode="json"), plan.enclosure.lid != "solid"
    path, subject = f"heaters.{len(plan.heaters)}", subject_of(plan, profile, today)
    top_m = basking_top_m(plan, spot_x_m(plan))
    clear = top_m + CLOSEST_HEATER_M + 0.005
    heights = _lamp_heights_m(plan, top_m, clear, subject.body.back_m)
    narrow: HabitatPlan | None = None
    lamp: _Lamp | None = None
    least = {kind: _least_watts(plan, kind, clear, middle_c) for kind in LAMP_KINDS}
    for watts in LAMP_WATTS:
        for kind in LAMP_KINDS:
            if watts < least[kind]:
                continue
            for height_m in heights:
                heater: dict[str, Any] = {
                    "kind": kind,
                    "watts": watts,
                    "x_m": spot_x_m(plan),
                    "height_m": height_m,
                    "guarded": not lidless,
                    "thermostat": {"kind": "dimming", "set_c": middle_c, "probe": "basking-surface"},
                }
                trial = HabitatPlan.model_validate(apply(document, (Change(path, heater),)))
                if check_places(trial):
                    return None  # no lamp can hang here
                if narrow is not None and not _covers(replace(subject, plan=trial)):
                    continue  # one that warms part of the body is there already: nearer its patch is smaller still
                lamp = _Lamp(replace(subject, plan=trial), lamp.climate if lamp else None)
                if lamp.surface_c < middle_c - 0.5 and from_above:
                    break  # it is not brought down to where the animal climbs on it: a stronger one does it from above
                if lamp.surface_c < middle_c - 0.5:
                    right_m = lamp.right_height_m(middle_c)
                    if right_m is None:
                        break
                    change = Change(path, heater | {"height_m": right_m, "guarded": True})
                    trial = HabitatPlan.model_validate(apply(document, (change,)))
                    lamp = _Lamp(replace(subject, plan=trial), lamp.climate)
                    if lamp.surface_c < middle_c - REACHED_K:
                        break
                if lamp.burns:
                    if trial.heaters[-1].height_m < height_m:
                        break  # from higher up it comes down to the same place
                    continue
                if lamp.covers:
                    return trial
                narrow = narrow or trial
                break
    return narrow


def _covers(subject: Subject) -> bool:
    """Tell whether the warm patch is as large as the body; where that is not known, it is taken to be."""
    patch = warmth.patch(subject, enclosure_case(subject.plan))
    return all(item.verdict in (Verdict.INSIDE, Verdict.UNKNOWN) for item in patch)


def _least_watts(plan: HabitatPlan, kind: str, nearest_m: float, middle_c: float) -> float:
    """The weakest usual lamp of a kind that can reach the surface wanted at all: full on, as near as one may hang, no mesh."""
    case = enclosure_case(plan)
    beam = HEATERS[kind].half_angle_deg
    lit = case.light_on_hour, case.light_off_hour

    def enough(watts: float) -> bool:
        lamp = HeaterCase(kind, watts, case.spot.x_m, nearest_m, beam, *lit)
        return surface_at(replace(case, heaters=(lamp, *case.heaters)), (0,), nearest_m, "winter") >= middle_c - REACHED_K

    index = bisect_left(LAMP_WATTS, True, key=enough)
    return LAMP_WATTS[index] if index < len(LAMP_WATTS) else LAMP_WATTS[-1] + 1.0


class _Lamp:
    """What the last of a plan's heaters, a lamp, does to the basking spot by day in winter."""

    def __init__(self, subject: Subject, near: Climate | None = None) -> None:
        self.plan, self.case = subject.plan, enclosure_case(subject.plan)
        climate = self.climate = solve_steady(self.case, spread=False, seasons=("winter",), near=near)
        self.surface_c = climate.states["winter", "day"].predictions["basking_surface"].value
        self.burns = any(item.verdict in BAD for item in warmth.back(subject, self.case, climate))
        self.covers = _covers(subject)

    def right_height_m(self, wanted_c: float) -> float | None:
        """Where it would reach the surface wanted, no nearer than a lamp may hang; the highest place where it is hotter."""
        lamp = len(self.plan.heaters) - 1
        hung = height_for(self.case, (lamp,), wanted_c, "winter", highest_m(self.plan), self.climate)
        right = highest_m(self.plan) if hung.too_hot else hung.height_m
        return None if right is None or right - self.case.spot.top_m < CLOSEST_HEATER_M + 0.005 else round(right, 3)


def _installed_watts(plan: HabitatPlan) -> float:
    return sum(heater.watts for heater in plan.heaters)


def _weight(findings: tuple[Finding, ...]) -> tuple[int, ...]:
    """How bad a plan is: the number of findings of each severity, worst first."""
    return tuple(sum(item.severity is severity for item in findings) for severity in Severity)
