"""What the furniture is worth to the animal: floor to walk on, hides by the warmth of their place, what gets too hot or sinks."""

from dataclasses import replace
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.animal.needs import ON_THE_FLOOR, climbs
from husbandry.animal.subject import Subject
from husbandry.animal.widths import COIL_SHARE, body_width_m
from husbandry.assess import traps
from husbandry.assess.planting import plant_facts
from husbandry.assessment import SEASONS, Band, Basis, BasisKind, Measure, Parameter, Quantity, Reason, Verdict
from husbandry.climate import heaters
from husbandry.climate.case import EnclosureCase
from husbandry.climate.heat_gains import passed_share
from husbandry.climate.states import Climate, SteadyState
from husbandry.codes import ReasonCode
from husbandry.furnishing.floor import Footprint, free_floor, shared_m
from husbandry.furnishing.things import STUFF
from husbandry.inputs.furniture import footprint, footprints, said_of
from husbandry.inputs.grounds import sinks, thing_kg
from husbandry.inputs.perches import perches_of
from husbandry.plan.geometry import depth_of, half_sides_m, surface_m, top_of, y_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.review.arrangement import Drop, Furnishings, Grip, HotThing, TightHide, WarmPlace
from husbandry.species.leaves import choose

Floats = NDArray[np.float64]

FREE_LEAST, FREE_NEAR = 0.4, 0.1  # of the floor, for what lives on it (common practice, no source)
HIDE_SLACK_K: Final = 1.0  # a hide may miss its end's band by so much: what lies in it picks its side
ABSORBS: Final = 0.85  # of a lamp's beam, by what stands under it (estimate)
SURFACE_W_M2K: Final = 12.0  # from a surface to the air and the walls (estimate; ISO 6946's films on its upper side and more)
OPENING_TIMES: Final = 1.2  # the body's width, that an opening must have (common practice, no source)
COIL_TIMES, BODY_TIMES = 0.9, 0.9  # of a coil and of a body, that a hide must be long
GRIP = 0.5, 2.0  # of the body's width, that a perch is thick (common practice, no source)
GRIP_SLACK: Final = 0.1
FALL: Final = 1.0  # of its length, that an animal which does not climb may fall (estimate)
STEP_M: Final = 0.01
PLACES: Final = 41  # looked at along the length
PRACTICE: Final = Basis(BasisKind.PRACTICE)


def quantities(subject: Subject, climate: Climate) -> list[Quantity]:
    """The floor that is left, and the warmest and the coolest hide by day and by night in summer and in winter."""
    return [_free_floor(subject), *_hides(subject, climate)]


def _free_floor(subject: Subject) -> Quantity:
    plan, box = subject.plan, subject.plan.enclosure
    found = free_floor(box.length_m, box.width_m, footprints(plan), body_width_m(subject) or 0.0)
    told: dict[str, Parameter] = {"area": Measure(found.area_m2, "m2"), "longest": Measure(found.longest_m, "m")}
    walks = subject.profile.habit in ON_THE_FLOOR
    band = Band(100 * FREE_LEAST, None, PRACTICE, near=100 * FREE_NEAR) if walks else None
    verdict = band.judge(100 * found.share) if band else Verdict.NOT_APPLICABLE
    return Quantity("free_floor", "%", 100 * found.share, verdict, Reason(ReasonCode.SPACE_FREE_FLOOR, told), PRACTICE, band)


def place_c(plan: HabitatPlan, steady: SteadyState, x_m: Floats | float) -> Floats:
    """What lies on the ground at places along the length has about this, °C: the ground's surface there, zone by zone."""
    zones = len(steady.ground_c)
    middles = (np.arange(zones) + 0.5) * plan.enclosure.length_m / zones
    return np.asarray(np.interp(x_m, middles, steady.ground_c), np.float64)


def _hides(subject: Subject, climate: Climate) -> list[Quantity]:
    """The warmest hide against the warm end's band, the coolest against the cool end's, for each that the species wants.

    By night both are held against the night's band: one that is not too cold, one that is not too warm.
    """
    plan, heat = subject.plan, subject.stage.heat
    hides = [hide for hide in plan.hides if hide.heated_w is None]
    if not hides or subject.profile.habit == "aquatic":
        return []
    wanted = " ".join(hide.value for hide in subject.profile.hides_of(subject.stage))
    found = []
    for (season, phase), steady in climate.states.items():
        felt = place_c(plan, steady, np.array([hide.x_m for hide in hides]))
        ends = (heat.warm_air_c, heat.cool_air_c) if phase == "day" else (heat.night_c, heat.night_c)
        for end, ranges, best in zip(("warm", "cool"), ends, (int(felt.argmax()), int(felt.argmin())), strict=True):
            if end not in wanted:
                continue
            chosen = choose(ranges, plan.schools)
            low = None if end == "cool" or chosen.low is None else chosen.low - HIDE_SLACK_K
            high = None if end == "warm" or chosen.high is None else chosen.high + HIDE_SLACK_K
            band = Band(low, high, chosen.band_c(danger_high=None).basis, chosen.band_c(danger_high=None).school)
            value = float(felt[best])
            told: dict[str, Parameter] = {"where": Measure(hides[best].x_m, "m")}
            reason = Reason(ReasonCode.SPACE_HIDE_PLACE, told)
            made = Quantity(f"{end}_hide", "degC", value, band.judge(value), reason, band.basis, band)
            found.append(replace(made, season=season, phase=phase, school=band.school))
    return found


def furnishings(subject: Subject, case: EnclosureCase, climate: Climate) -> Furnishings:
    """Gather what the rules of the furniture look at."""
    plan = subject.plan
    return Furnishings(
        places=tuple(_warm_places(plan, climate)),
        tight=tuple(tight_hides(subject)),
        hot=tuple(_hot(plan, case, climate)),
        heavy=tuple(_heavy(subject)),
        plants=plant_facts(subject, climate),
        grips=tuple(_grips(subject)),
        drops=tuple(_drops(subject)),
        perches=tuple(plan.path_of(perch.thing) for perch in perches_of(plan, subject.profile)),
        far=traps.far_perches(subject),
        edges=tuple(traps.edges(subject)),
        gaps=tuple(traps.gaps(subject)),
        door=traps.door(plan),
        lit_hides=traps.lit_hides(plan),
        buried=tuple(traps.buried(plan)),
        hidden=traps.hidden_from_front(plan),
        open_sides=traps.open_sides(subject),
        drops_wanted=traps.wants_drops(subject),
        finds_bowl=traps.finds_bowl(subject),
    )


def _warm_places(plan: HabitatPlan, climate: Climate) -> list[WarmPlace]:
    """The warmest and the coolest ground by day and by night, of both seasons."""
    x = np.linspace(0.0, plan.enclosure.length_m, PLACES)
    x = x[[_has_room(plan, float(place)) for place in x]] if plan.hides else x
    if not x.size:
        x = np.array([plan.enclosure.length_m / 2])
    found = []
    for (season, phase), steady in climate.states.items():
        felt = place_c(plan, steady, x)
        warmest, coolest = int(felt.argmax()), int(felt.argmin())
        found.append(WarmPlace(season, phase, float(felt[warmest]), float(x[warmest]), float(felt[coolest]), float(x[coolest])))
    return found


def _has_room(plan: HabitatPlan, x_m: float) -> bool:
    """Tell whether the smallest hide could stand at a place along the length, beside the basking places, in front of or behind."""
    hide = min(plan.hides, key=lambda one: one.length_m)
    half_x, deep_m, wide_m = hide.length_m / 2, depth_of(plan, hide), plan.enclosure.width_m
    if not half_x <= x_m <= plan.enclosure.length_m - half_x:
        return False
    for thing in plan.basking:
        reach = half_sides_m(plan, thing)
        if thing.lets_under or abs(thing.x_m - x_m) >= reach[0] + half_x:
            continue
        y_m = y_of(plan, thing)
        if max(y_m - reach[1], wide_m - y_m - reach[1]) < deep_m:
            return False
    return True


def tight_hides(subject: Subject) -> list[TightHide]:
    """Hides too short for the animal as it lies, and openings it does not get through."""
    plan, length_m, width_m = subject.plan, subject.body.length_m, body_width_m(subject)
    if length_m is None or width_m is None:
        return []
    snake = subject.profile.body.form == "snake"
    least_m = length_m * (COIL_TIMES * COIL_SHARE if snake else BODY_TIMES)
    found = []
    for hide in plan.hides:
        opening_m = hide.entrance_m  # what the keeper says of it; a usual one is not held against it
        if max(hide.length_m, hide.width_m or 0.0) < least_m:
            found.append(TightHide(plan.path_of(hide), said_of(hide), hide.length_m, least_m, opening=False))
        elif opening_m is not None and opening_m < OPENING_TIMES * width_m:
            found.append(TightHide(plan.path_of(hide), said_of(hide), opening_m, OPENING_TIMES * width_m, opening=True))
    return found


def _hot(plan: HabitatPlan, case: EnclosureCase, climate: Climate) -> list[HotThing]:
    """What softens or scorches under a lamp full on: the beam over what its top loses, above the warm end's air."""
    lamps = [
        (index, lamp, hung)
        for index, (lamp, hung) in enumerate(zip(plan.heaters, case.heaters, strict=False))
        if heaters.HEATERS[lamp.kind].place == "over"
    ]
    if not plan.things:
        return []
    places, tops = [footprint(plan, thing) for thing in plan.things], np.array([top_of(plan, thing) for thing in plan.things])
    middle = np.array([(place.x_m, place.y_m) for place in places])
    half = np.array([place.half_sides for place in places])
    worst_c = np.zeros(len(places))
    for season in SEASONS:
        steady, beam = climate.states[season, "day"], np.zeros(len(places))
        for index, lamp, hung in lamps:
            below = lamp.height_m > tops
            if steady.duty[index] <= 0 or not below.any():
                continue
            kind = heaters.HEATERS[lamp.kind]
            near = np.maximum(np.abs(middle - (lamp.x_m, y_of(plan, lamp))) - half, 0.0)
            watts = kind.radiant_share * lamp.watts * steady.duty[index] * passed_share(case, hung)
            drop = np.where(below, lamp.height_m - tops, 1.0)
            fallen = heaters.irradiance(watts, hung.half_angle_deg, kind.face_m, near[:, 0], near[:, 1], drop)
            beam += np.where(below, fallen, 0.0)
        worst_c = np.maximum(worst_c, steady.predictions["warm_air"].value + ABSORBS * beam / SURFACE_W_M2K)
    bears_c = [STUFF[thing.made_of].bears_c for thing in plan.things]
    return [
        HotThing(plan.path_of(thing), said_of(thing), thing.made_of, float(hot_c), most_c)
        for thing, hot_c, most_c in zip(plan.things, worst_c, bears_c, strict=True)
        if hot_c > most_c
    ]


def _grips(subject: Subject) -> list[Grip]:
    """Perches too thin or too thick for the feet of what climbs."""
    width_m = body_width_m(subject)
    if width_m is None or not climbs(subject.profile) or subject.profile.body.form == "snake":
        return []
    least_m, most_m = (times * width_m for times in GRIP)
    plan = subject.plan
    perches = [thing for thing in plan.things if thing.of.shape == "branch" and thing.good_for("climb")]
    return [
        Grip(plan.path_of(one), said_of(one), one.height_m, least_m, most_m)
        for one in perches
        if not least_m * (1 - GRIP_SLACK) <= one.height_m <= most_m * (1 + GRIP_SLACK)
    ]


def _drops(subject: Subject) -> list[Drop]:
    """High places of an animal that does not climb, from which it can only fall: nothing lower stands beside them."""
    length_m, plan = subject.body.length_m, subject.plan
    if length_m is None or climbs(subject.profile) or subject.profile.habit not in ON_THE_FLOOR:
        return []
    bears_m = FALL * length_m
    found = []
    for thing in plan.things:
        if thing.of.perch is None and not thing.good_for("climb"):
            continue
        top, place = top_of(plan, thing), footprint(plan, thing)
        steps = [
            top_of(plan, other)
            for other in plan.things
            if other is not thing and shared_m(_within_reach(place, length_m / 2), footprint(plan, other)) > 0
        ]
        lower = [surface_m(plan, thing.x_m, y_of(plan, thing)), *(step for step in steps if step < top - STEP_M)]
        falls_m = top - max(lower)
        if falls_m > bears_m:
            found.append(Drop(plan.path_of(thing), said_of(thing), falls_m, bears_m))
    return found


def _within_reach(place: Footprint, reach_m: float) -> Footprint:
    return replace(place, length_m=place.length_m + 2 * reach_m, width_m=place.width_m + 2 * reach_m)


def _heavy(subject: Subject) -> list[tuple[str, str, float]]:
    """Heavy things on loose ground that the animal can dig away from under them: path, kind, kg."""
    plan = subject.plan
    return [
        (plan.path_of(thing), said_of(thing), thing_kg(plan, thing))
        for thing in plan.things
        if sinks(plan, subject.profile.habit, thing)
    ]
