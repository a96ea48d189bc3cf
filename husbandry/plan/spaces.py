"""The quantities of space, ground and water."""

from datetime import date
from math import ceil
from typing import Final

from husbandry.assessment import Band, Basis, BasisKind, Measure, Quantity, Reason, Verdict
from husbandry.climate.settled import Climate
from husbandry.plan.casing import Body
from husbandry.plan.document import HabitatPlan
from husbandry.plan.likelihood import Odds
from husbandry.space.sizing import MEASURES, SIDES, Box, Need, depends_on_length, factor, needs
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage

ARITHMETIC: Final = Basis(BasisKind.PRACTICE, note="by arithmetic")
WATER_MODEL: Final = Basis(BasisKind.ESTIMATE, note="unheated water follows the day's mean of the air over it")
WATER_DANGER_K: Final = 4.0  # beyond the band (estimate)
UNITS: Final = {"floor_area": "m2", "water_volume": "m3"}
BAGS_M3: Final = (0.005, 0.010, 0.025, 0.050)  # the sizes ground is sold in (trade); of the smallest no more than a few
FEW_BAGS: Final = 3
LEAST_GROUND_M3: Final = 0.0005
POOL_SHARE, POOL_FILL = 0.5, 0.85  # of the floor where it is half water; of the height at most
ADULT_SIZE: Final = "adult"  # the school that gives the adult's enclosure from the first day


def box_of(plan: HabitatPlan) -> Box:
    """The plan's enclosure as the sizing rules see it."""
    box = plan.enclosure
    water_m3 = plan.pool.length_m * box.width_m * plan.pool.depth_m if plan.pool else 0.0
    return Box(box.length_m, box.width_m, box.height_m, water_m3)


def enclosure_needs(
    plan: HabitatPlan, profile: Profile, stage: Stage, length_m: float | None
) -> tuple[dict[str, Need], dict[str, Need]]:
    """Return the minimum and the recommended need per measure, by the keeper's school of size."""
    animal, space = plan.animal, stage.space
    if plan.schools.get("size") == ADULT_SIZE:
        space = profile.stages[-1].space
        length_m = max(length_m or 0.0, profile.body.adult(animal.sex).length_cm.middle / 100)
    return (
        needs(space, "minimum", length_m, animal.count, animal.sex),
        needs(space, "recommended", length_m, animal.count, animal.sex),
    )


def usual_pool(plan: HabitatPlan, profile: Profile, stage: Stage, wanted: dict[str, Need]) -> dict[str, float] | None:
    """Return a pool with the stage's depth and litres at the cool end, over all the floor for what lives in water."""
    if stage.water is None or stage.water.depth_cm is None:
        return None
    box, litres = plan.enclosure, wanted.get("water_volume")
    length_m = round((1.0 if profile.habit == "aquatic" else POOL_SHARE) * box.length_m, 3)
    rule = choose(stage.water.depth_cm, plan.schools)
    depth_m = rule.middle / 100
    if litres is not None:
        depth_m = max(depth_m, litres.size / (length_m * box.width_m) + 0.0005)
    depth_m = round(min(depth_m, (rule.high or rule.middle) / 100, POOL_FILL * box.height_m), 3)
    return {"x_m": round(box.length_m - length_m / 2, 3), "length_m": length_m, "depth_m": depth_m}


def swims(plan: HabitatPlan, profile: Profile) -> bool:
    """Tell whether the animal lives in water that is there: the water is then what it is judged by, not the air over it."""
    return plan.pool is not None and profile.habit == "aquatic"


def quarantined(plan: HabitatPlan, today: date) -> bool:
    """Tell whether the animal is still in quarantine."""
    return plan.upkeep.quarantine_until is not None and plan.upkeep.quarantine_until >= today


def quantities(
    plan: HabitatPlan, profile: Profile, stage: Stage, body: Body, climate: Climate, today: date, odds: Odds
) -> list[Quantity]:
    """The enclosure against every rule, its volume, the ground's depth, and the water an animal lives in."""
    minimum, recommended = enclosure_needs(plan, profile, stage, body.length_m)
    have = box_of(plan).measures()
    question = "" if body.length_m is not None or not depends_on_length(stage.space) else "animal.length_m"
    found = []
    for measure in MEASURES:
        key = f"enclosure_{measure}" if measure in (*SIDES, "stretch") else measure
        if measure in minimum:
            found.append(_judged(plan, key, measure, have[measure], minimum[measure], recommended.get(measure), body, question))
        elif measure in SIDES:
            found.append(_unknown(key, have[measure], question))
    cubic = plan.enclosure.length_m * plan.enclosure.width_m * plan.enclosure.height_m
    found.append(Quantity("volume", "m3", cubic, Verdict.NOT_APPLICABLE, Reason("space.volume"), ARITHMETIC))
    band = choose(stage.ground.depth_cm, plan.schools).band(factor=0.01)
    depth_m = plan.ground.depth_m
    verdict = band.judge(depth_m)
    if quarantined(plan, today) and band.low is not None and depth_m < band.low:
        verdict = Verdict.NOT_APPLICABLE  # paper has no depth
    ground_m3 = _ground_m3(plan)
    told: dict[str, Measure | str | int] = {"kind": plan.ground.kind, "litres": Measure(ground_m3, "m3")}
    if plan.ground.kind != "paper" and ground_m3 > LEAST_GROUND_M3:
        bag_m3 = next((size for size in BAGS_M3 if ground_m3 <= FEW_BAGS * size), BAGS_M3[-1])
        told |= {"bags": ceil(ground_m3 / bag_m3 - 1e-6), "bag": Measure(bag_m3, "m3")}
    reason = Reason("ground.depth", told)
    found.append(Quantity("ground_depth", "m", depth_m, verdict, reason, band.basis, band, school=band.school))
    return found + _water(plan, stage, climate, odds)


def _judged(
    plan: HabitatPlan, key: str, measure: str, value: float, need: Need, recommended: Need | None, body: Body, question: str
) -> Quantity:
    rule, unit = need.rule, UNITS.get(measure, "m")
    band = Band(need.size, None, rule.origin, rule.school)
    parameters: dict[str, Measure | str | int] = {"need": Measure(need.size, unit), "rule": rule.rule}
    if rule.rule in ("body", "stretch") and body.length_m is not None and plan.schools.get("size") != ADULT_SIZE:
        parameters |= {
            "factor": f"{factor(rule, measure):g}",
            "body": Measure(body.length_m, "m"),
            "known": int(body.length_known),
        }
    if need.size > need.alone:
        parameters |= {"alone": Measure(need.alone, unit), "animals": plan.animal.count}
    if recommended is not None:
        parameters["recommended"] = Measure(recommended.size, unit)
    # A millimetre short of the rule is the maker's tolerance, not a fault.
    verdict = Verdict.INSIDE if value >= need.size - 0.001 * (unit == "m") - 1e-9 else Verdict.OUTSIDE
    if verdict is Verdict.OUTSIDE and value >= 0.95 * need.size:
        verdict = Verdict.NEAR
    return Quantity(
        key, unit, value, verdict, Reason("space.rule", parameters), band.basis, band, school=band.school, question=question
    )


def _water(plan: HabitatPlan, stage: Stage, climate: Climate, odds: Odds) -> list[Quantity]:
    """Depth and temperature of the water where the stage asks for them."""
    rule, pool = stage.water, plan.pool
    if rule is None or (pool is None and rule.temperature_c is None):
        return []
    found = []
    if rule.depth_cm is not None and pool is not None:
        band = choose(rule.depth_cm, plan.schools).band(factor=0.01)
        reason = Reason("water.depth", {"litres": Measure(box_of(plan).water_m3, "m3")})
        found.append(Quantity("water_depth", "m", pool.depth_m, band.judge(pool.depth_m), reason, band.basis, band))
    if rule.temperature_c is not None and pool is not None:
        wanted = choose(rule.temperature_c, plan.schools)
        band = wanted.band(danger_high=None if wanted.high is None else wanted.high + WATER_DANGER_K)
        for (season, moment), settled in climate.settled.items():
            water = settled.predictions["water"]
            reason = Reason("water.balance", {"air": Measure(settled.predictions["cool_air"].value, "degC")})
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
                    moment,
                    school=band.school,
                    likely=odds.of(f"water_temperature/{season}/{moment}", band, settled.draws.get("water")),
                )
            )
    return found


def _ground_m3(plan: HabitatPlan) -> float:
    """The ground's volume; there is none under a pool, which stands on the floor."""
    pool_m = 0.0 if plan.pool is None else min(plan.pool.length_m, plan.enclosure.length_m)
    return (plan.enclosure.length_m - pool_m) * plan.enclosure.width_m * plan.ground.depth_m


def _unknown(key: str, value: float, question: str) -> Quantity:
    reason, basis = Reason("space.no_rule"), Basis(BasisKind.PRACTICE)
    return Quantity(key, "m", value, Verdict.UNKNOWN, reason, basis, question=question or "animal.length_m")
