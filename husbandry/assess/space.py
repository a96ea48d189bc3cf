"""The quantities of space, ground and water."""

from dataclasses import replace
from math import isinf
from typing import Final

from husbandry.animal.needs import ADULT_SIZE, WATER, box_of, enclosure_needs, enough_by, quarantined, swims
from husbandry.animal.subject import Subject
from husbandry.assess.probability import JointProbability
from husbandry.assessment import Band, Basis, BasisKind, Measure, Parameter, Quantity, Reason, Verdict
from husbandry.climate.states import Climate
from husbandry.codes import ReasonCode
from husbandry.furnishing.ground import bags
from husbandry.inputs.grounds import ground_bill
from husbandry.plan.geometry import depth_of, leaves_land
from husbandry.plan.habitat import HabitatPlan
from husbandry.space.sizing import MEASURES, SIDES, Need, depends_on_length, factor
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage
from husbandry.units import TOLERANCE_M

ARITHMETIC: Final = Basis(BasisKind.PRACTICE, note="by arithmetic")
WATER_DANGER_K: Final = 4.0  # beyond the band (estimate)
UNITS: Final = {"floor_area": "m2", "water_volume": "m3"}
LEAST_GROUND_M3: Final = 0.0005
LITRES: Final = 1000.0
LIVES_IN_IT: Final = "burrowing"
DEEP_PART: Final = 0.2  # of the floor, that a place to dig in is at least (common practice, no source)


def quantities(subject: Subject, climate: Climate, joint: JointProbability) -> list[Quantity]:
    """The enclosure against every rule, its volume, the ground's depth, and the water an animal lives in."""
    plan, profile, stage, body, today = subject.plan, subject.profile, subject.stage, subject.body, subject.today
    minimum, recommended = enclosure_needs(plan, profile, stage, body.length_m)
    have = box_of(plan).measures()
    other = enough_by(plan, profile, stage, body.length_m)
    question = "" if body.length_m is not None or not depends_on_length(stage.space) else "animal.length_m"
    found = []
    for measure in MEASURES:
        key = f"enclosure_{measure}" if measure in (*SIDES, "stretch") else measure
        if measure in minimum:
            judged = _judged(subject, key, have[measure], minimum[measure], recommended.get(measure))
            if other and measure != WATER and judged.verdict is Verdict.OUTSIDE:
                judged = replace(judged, verdict=Verdict.NEAR)  # by another school it is enough, and that is said
            found.append(replace(judged, question=question))
        elif measure in SIDES:
            found.append(_unknown(key, have[measure], question))
    cubic = plan.enclosure.length_m * plan.enclosure.width_m * plan.enclosure.height_m
    found.append(Quantity("volume", "m3", cubic, Verdict.NOT_APPLICABLE, Reason(ReasonCode.SPACE_VOLUME), ARITHMETIC))
    band = choose(stage.ground.depth_cm, plan.schools).band(factor=0.01)
    depth_m = dug_m(plan, profile)
    verdict = band.judge(depth_m)
    if quarantined(plan, today) and band.low is not None and depth_m < band.low:
        verdict = Verdict.NOT_APPLICABLE  # paper has no depth
    if swims(plan, profile) and leaves_land(plan):
        verdict = Verdict.NOT_APPLICABLE  # it is the land beside the water: the bed of the water is none of it
    whole = ground_bill(plan).whole
    ground_m3 = whole.settled_l / LITRES
    told: dict[str, Parameter] = {"kind": plan.ground.kind, "litres": Measure(ground_m3, "m3")}
    if plan.ground.kind != "paper" and ground_m3 > LEAST_GROUND_M3:
        count, bag_l = bags(whole.loose_l)
        told |= {"bags": count, "bag": Measure(bag_l / LITRES, "m3")}
    reason = Reason(ReasonCode.GROUND_DEPTH, told)
    found.append(Quantity("ground_depth", "m", depth_m, verdict, reason, band.basis, band, school=band.school))
    return found + _water(plan, stage, climate, joint)


def _judged(subject: Subject, key: str, value: float, need: Need, recommended: Need | None) -> Quantity:
    """A measure of the enclosure against the rule for it."""
    plan, body, measure = subject.plan, subject.body, key.removeprefix("enclosure_")
    rule, unit = need.rule, UNITS.get(measure, "m")
    band = Band(need.size, None, rule.origin, rule.school)
    parameters: dict[str, Parameter] = {"need": Measure(need.size, unit), "rule": rule.rule}
    if rule.rule in ("body", "stretch") and body.length_m is not None and plan.schools.get("size") != ADULT_SIZE:
        parameters |= {
            "factor": factor(rule, measure),
            "body": Measure(body.length_m, "m"),
            "known": int(body.length_known),
        }
    if need.size > need.alone:
        parameters |= {"alone": Measure(need.alone, unit), "animals": plan.animal.count}
    if recommended is not None:
        parameters["recommended"] = Measure(recommended.size, unit)
    if isinf(value):
        return Quantity(key, unit, plan.enclosure.height_m, Verdict.NOT_APPLICABLE, Reason(ReasonCode.SPACE_OPEN_TOP), rule.origin)
    # A millimetre short of the rule is the maker's tolerance, not a fault.
    verdict = Verdict.INSIDE if value >= need.size - TOLERANCE_M * (unit == "m") - 1e-9 else Verdict.OUTSIDE
    if verdict is Verdict.OUTSIDE and value >= 0.95 * need.size:
        verdict = Verdict.NEAR
    return Quantity(key, unit, value, verdict, Reason(ReasonCode.SPACE_RULE, parameters), band.basis, band, school=band.school)


def _water(plan: HabitatPlan, stage: Stage, climate: Climate, joint: JointProbability) -> list[Quantity]:
    """Depth and temperature of the water where the stage asks for them."""
    rule, pool = stage.water, plan.pool
    if rule is None or (pool is None and rule.temperature_c is None):
        return []
    found = []
    if rule.depth_cm is not None and pool is not None:
        band = choose(rule.depth_cm, plan.schools).band(factor=0.01)
        reason = Reason(ReasonCode.WATER_DEPTH, {"litres": Measure(box_of(plan).water_m3, "m3")})
        found.append(Quantity("water_depth", "m", pool.depth_m, band.judge(pool.depth_m), reason, band.basis, band))
    if rule.temperature_c is not None and pool is not None:
        wanted = choose(rule.temperature_c, plan.schools)
        band = wanted.band_c(danger_high=None if wanted.high is None else wanted.high + WATER_DANGER_K)
        for (season, phase), steady in climate.states.items():
            water = steady.predictions["water"]
            reason = Reason(ReasonCode.WATER_BALANCE, {"air": Measure(steady.predictions["cool_air"].value, "degC")})
            found.append(
                Quantity(
                    "water_temperature",
                    "degC",
                    water.value,
                    band.judge(water.value),
                    reason,
                    band.basis,
                    band,
                    water.low,
                    water.high,
                    season,
                    phase,
                    school=band.school,
                    likely=joint.of(f"water_temperature/{season}/{phase}", band, steady.draws.get("water")),
                )
            )
    return found


def dug_m(plan: HabitatPlan, profile: Profile) -> float:
    """How deep the ground is where it counts: what does not live in it is served by a deep part of the floor, large enough."""
    box, depth_m = plan.enclosure, plan.ground.depth_m
    if profile.habit == LIVES_IN_IT:
        return depth_m
    enough_m2 = DEEP_PART * box.length_m * box.width_m
    parts = [area.depth_m for area in plan.ground.areas if area.length_m * area.width_m >= enough_m2]
    boxes = [
        thing.height_m
        for thing in plan.things
        if (thing.good_for("dig") or thing.good_for("lay")) and thing.length_m * depth_of(plan, thing) >= enough_m2
    ]
    return max([depth_m, *parts, *boxes])


def _unknown(key: str, value: float, question: str) -> Quantity:
    reason, basis = Reason(ReasonCode.SPACE_NO_RULE), Basis(BasisKind.PRACTICE)
    return Quantity(key, "m", value, Verdict.UNKNOWN, reason, basis, question=question or "animal.length_m")
