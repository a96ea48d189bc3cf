"""What if: a heat wave, a power cut, a thermostat that sticks. Each is the plan with one thing changed, solved anew."""

from dataclasses import dataclass, replace
from datetime import date, timedelta
from typing import Any, Final

import numpy as np
from numpy.typing import NDArray

from husbandry.animal.body import body_of
from husbandry.animal.growth_outlook import expected_length_at
from husbandry.animal.needs import swims
from husbandry.assess.assess import Depth, assess
from husbandry.assess.result import Assessment
from husbandry.assess.warmth import CHILL_MARGIN_K
from husbandry.assessment import NEAR_K, Band, Change, Measure, Parameter, Quantity, Reason, Verdict
from husbandry.climate.day import DayModel, DayRun, course
from husbandry.climate.day_water import first_water
from husbandry.climate.daycourse import MINUTES, DayCourse
from husbandry.climate.nodes import nodes_of
from husbandry.climate.steady import solve_steady
from husbandry.codes import ReasonCode
from husbandry.inputs.climate_case import enclosure_case
from husbandry.light.ultraviolet import RATED_WATTS
from husbandry.plan.editing import apply
from husbandry.plan.habitat import HabitatPlan
from husbandry.review.judged import BAD, miss
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage
from husbandry.units import DAYS_A_MONTH

Floats = NDArray[np.float64]

WAVE_K, WAVE_LEAST_C = 8.0, 32.0  # a heat wave makes the summer room this much warmer, and no cooler than this
COLD_K = 8.0
HALF = 0.5
YEAR_DAYS = 365
WEEK_DAYS = 7
# Told by the plan, not by the climate: no scenario of heat or moisture changes them.
FOOD: Final = ("mass", "calcium_ratio", "d3_share", "a_share", "usable_a", "fibre_share", "protein_share", "fruit_share")
LIFELESS: Final = ("feed_interval", "ration_", "lamp_distance", "uv_distance", "duty_", "energy", "heat_power", *FOOD)
ORDER: Final = (Verdict.DANGEROUS, Verdict.OUTSIDE, Verdict.NEAR, Verdict.UNKNOWN, Verdict.INSIDE, Verdict.NOT_APPLICABLE)
DEEPER: Final = 1.5  # so many times as far outside its band as before: worse, though the verdict has no worse word
LISTED: Final = (
    "heat_wave",
    "cold_night",
    "power_cut",
    "stuck_on",
    "stuck_off",
    "lid_covered",
    "lamp_old",
    "mister_failed",
    "grown",
)


FAILING: Final = (
    ReasonCode.WHAT_STUCK_ON,
    ReasonCode.WHAT_POWER_COLD,
    ReasonCode.WHAT_POWER_DANGER,
    ReasonCode.WHAT_MISTER,
    ReasonCode.WHAT_MISTER_BELOW,
)


@dataclass(frozen=True)
class Scenario:
    """One of `LISTED`: the plan as it would be, its day beside the usual one, what stands worse, and what there is to say.

    `worse` pairs a quantity before with the same after, worst first; `told` are sentences for the edge.
    """

    code: str
    season: str
    plan: HabitatPlan
    usual: DayCourse
    day: DayCourse
    worse: tuple[tuple[Quantity, Quantity], ...]
    told: tuple[Reason, ...]

    @property
    def holds(self) -> bool:
        """Tell whether nothing stands worse, neither in the numbers nor in what is told."""
        return not self.worse and not any(item.code in FAILING for item in self.told)


def possible(plan: HabitatPlan, profile: Profile, today: date) -> tuple[str, ...]:
    """Name the scenarios that can happen to this plan."""
    held = any(heater.thermostat.kind != "none" for heater in plan.heaters)
    misted = plan.misting.any or plan.misting.of("winter").any
    lamps = plan.uv_lamps or any(heater.kind in RATED_WATTS for heater in plan.heaters)
    without = {
        "power_cut": not plan.heaters,
        "stuck_on": not held,
        "stuck_off": not held,
        "lid_covered": plan.enclosure.lid == "solid" or plan.enclosure.lid_covered >= HALF,
        "lamp_old": not lamps,
        "mister_failed": not misted,
        "grown": _next_stage(profile, body_of(plan, profile, today).decision.stage) is None,
    }
    return tuple(code for code in LISTED if not without.get(code, False))


def run(code: str, plan: HabitatPlan, profile: Profile, today: date) -> Scenario:
    """Work out one scenario. Raises KeyError for one that is not listed or cannot happen to this plan."""
    if code not in possible(plan, profile, today):
        raise KeyError(code)
    if code == "power_cut":
        return _power_cut(plan, profile, today)
    season = "summer" if code in ("heat_wave", "stuck_on") else "winter"
    before = assess(plan, profile, today, depth=Depth(days_of=(season,), propose=False))
    told: list[Reason] = []
    if code in ("stuck_on", "stuck_off"):
        changed, told = _stuck(code == "stuck_on", plan, profile, today, season)
    else:
        changed = HabitatPlan.model_validate(apply(plan.model_dump(mode="json"), _changes(code, plan, profile, today)))
    after = assess(changed, profile, today, depth=Depth(days_of=(season,), propose=False))
    worse = _worse(before, after, season)
    if code == "mister_failed":
        said, driest = _week_without(plan, changed, before, season)
        told, worse = [said], _with_driest(before, worse, driest, season)
    return Scenario(code, season, changed, before.days[season], after.days[season], worse, tuple(told))


def _changes(code: str, plan: HabitatPlan, profile: Profile, today: date) -> tuple[Change, ...]:
    if code == "heat_wave":
        day_c, night_c = max(plan.room_c("summer", "day") + WAVE_K, WAVE_LEAST_C), plan.room_c("summer", "night") + WAVE_K - 2.0
        return _room("summer", min(day_c, 50.0), min(night_c, 50.0))
    if code == "cold_night":
        return _room("winter", plan.room_c("winter", "day") - COLD_K / 2, plan.room_c("winter", "night") - COLD_K)
    if code == "lid_covered":
        return (Change("enclosure.lid_covered", HALF),)
    if code == "lamp_old":
        a_year_ago = (today - timedelta(days=YEAR_DAYS)).isoformat()
        tubes = [Change(f"uv_lamps.{index}.fitted", a_year_ago) for index in range(len(plan.uv_lamps))]
        combined = [index for index, heater in enumerate(plan.heaters) if heater.kind in RATED_WATTS]
        return tuple(tubes + [Change(f"heaters.{index}.fitted", a_year_ago) for index in combined])
    if code == "mister_failed":
        return (Change("misting", {"grams_per_day": 0.0, "times": [], "fogger_g_per_hour": 0.0}),)
    return (Change("animal", _grown(plan, profile, today)),)


def _room(season: str, day_c: float, night_c: float) -> tuple[Change, ...]:
    return tuple(
        Change(f"room.{season}.{name}", value) for name, value in (("day_c", day_c), ("night_c", night_c), ("curve_c", []))
    )


def _next_stage(profile: Profile, stage: Stage) -> Stage | None:
    index = next(index for index, item in enumerate(profile.stages) if item.id == stage.id)
    return profile.stages[index + 1] if index + 1 < len(profile.stages) else None


def _grown(plan: HabitatPlan, profile: Profile, today: date) -> dict[str, Any]:
    """The animal at the beginning of its next stage, by the measure that leads it."""
    stage = _next_stage(profile, body_of(plan, profile, today).decision.stage)
    assert stage is not None
    bounds = stage.bounds(stage.leads)
    assert bounds is not None
    value = bounds.least
    animal: dict[str, Any] = plan.animal.model_dump(mode="json") | {"hatched": None, "mass_kg": None, "length_m": None}
    if stage.leads == "age":
        age_days = round(value * DAYS_A_MONTH) + 1
        animal |= {"hatched": (today - timedelta(days=age_days)).isoformat()}
        animal["length_m"] = round(expected_length_at(profile, plan.animal.sex, age_days), 4)
    elif stage.leads == "mass":
        animal["mass_kg"] = value / 1000
    else:
        animal["length_m"] = value / 100
    return animal


def _worse(before: Assessment, after: Assessment, season: str) -> tuple[tuple[Quantity, Quantity], ...]:
    """Pair what stands worse after with what it was, the worst verdict first; also what was bad and lies much farther outside."""
    usual = {item.id: item for item in before.quantities}
    found = []
    for item in after.quantities:
        was = usual.get(item.id)
        if was is None or item.season not in ("", season) or item.key.startswith(LIFELESS):
            continue
        deeper = was.verdict in BAD and miss(item) > DEEPER * miss(was)
        if item.verdict is not Verdict.NOT_APPLICABLE and (ORDER.index(item.verdict) < ORDER.index(was.verdict) or deeper):
            found.append((was, item))
    return tuple(sorted(found, key=lambda pair: ORDER.index(pair[1].verdict)))


def _with_driest(
    before: Assessment, worse: tuple[tuple[Quantity, Quantity], ...], driest: float, season: str
) -> tuple[tuple[Quantity, Quantity], ...]:
    """What stands worse, with the driest of a week instead of a day in steady state without water."""
    was = before.quantity("cool_humidity", season, "day")
    verdict = was.verdict if was.band is None else was.band.judge(driest)
    if ORDER.index(verdict) >= ORDER.index(was.verdict):
        return worse
    now = replace(was, value=driest, verdict=verdict, low=None, high=None, likely=None)
    found = [pair for pair in worse if pair[0].id != was.id]
    return tuple(sorted([*found, (was, now)], key=lambda pair: ORDER.index(pair[1].verdict)))


def _stuck(on: bool, plan: HabitatPlan, profile: Profile, today: date, season: str) -> tuple[HabitatPlan, list[Reason]]:
    """The plan with the thermostat stuck whose failing does most, and how soon it is too hot where one stays on."""
    body = body_of(plan, profile, today)
    stage = body.decision.stage
    case = enclosure_case(plan)
    held = [index for index, heater in enumerate(plan.heaters) if heater.thermostat.kind != "none"]
    extremes = {}
    for index in held:
        if on:
            uncontrolled = replace(case.heaters[index], control="none")
            heaters = (*case.heaters[:index], uncontrolled, *case.heaters[index + 1 :])
        else:
            heaters = (*case.heaters[:index], *case.heaters[index + 1 :])
        states = solve_steady(replace(case, heaters=heaters), spread=False, seasons=(season,)).states
        hottest = max(item.predictions["basking_surface"].value for item in states.values())
        coldest = states[season, "night"].predictions["cool_air"].value + states[season, "day"].predictions["warm_air"].value
        extremes[index] = hottest if on else -coldest
    worst = max(extremes, key=lambda index: extremes[index])
    heater = plan.heaters[worst]
    told: dict[str, Parameter] = {"kind": heater.kind, "watts": Measure(heater.watts, "W")}
    document = plan.model_dump(mode="json")
    if not on:
        without = HabitatPlan.model_validate(apply(document, (Change(f"heaters.{worst}", None),)))
        return without, [Reason(ReasonCode.WHAT_STUCK_OFF, told)]
    changed = HabitatPlan.model_validate(apply(document, (Change(f"heaters.{worst}.thermostat", {"kind": "none"}),)))
    case = enclosure_case(changed)
    day = course(case, solve_steady(case, spread=False, seasons=(season,)), season)
    ceiling = stage.heat.surface_ceiling_c or stage.heat.ceiling_c
    since_on = np.roll(day.basking_surface, -round(case.light_on_hour * 60))
    over = np.flatnonzero(since_on > ceiling.value)
    told |= {"limit": Measure(ceiling.value, "degC"), "highest": Measure(float(since_on.max()), "degC")}
    if over.size:
        return changed, [Reason(ReasonCode.WHAT_STUCK_ON, told | {"minutes": Measure(float(over[0] + 1), "min")})]
    return changed, [Reason(ReasonCode.WHAT_STUCK_ON_BEARABLE, told)]


def _power_cut(plan: HabitatPlan, profile: Profile, today: date) -> Scenario:
    """No power from lights-off in the winter room: how long until the cool end is below the night's least."""
    before = assess(plan, profile, today, depth=Depth(days_of=("winter",), propose=False))
    stage = before.body.decision.stage
    wet = swims(plan, profile) and stage.water is not None and stage.water.temperature_c is not None
    wanted = choose(stage.water.temperature_c if wet else stage.heat.night_c, plan.schools)  # type: ignore[union-attr, arg-type]
    least = wanted.least
    case = enclosure_case(plan)
    usual = before.days["winter"]
    # The clock of the stepping begins with the light; here it is to begin when the light would go.
    dark = replace(
        case,
        heaters=(),
        light_on_hour=case.light_off_hour,
        light_off_hour=case.light_on_hour,
        fogger_kg_per_h=0.0,
        mistings=(),
        winter=None,
        spot=case.spot,
    )
    model = DayModel(dark, solve_steady(dark, spread=False, seasons=("winter",)), "winter")
    first = round(case.light_off_hour * 60) % MINUTES
    start_c = usual.nodes[first - 1]
    moist = first_water(model.terms, float(usual.vapour_pa[first - 1]), start_c.tolist())
    run_ = DayRun(model, 1, (start_c, moist))
    day = run_.course()
    curve = day.nodes[:, nodes_of(dark).water] if wet else day.cool_air
    cool = np.roll(curve, -first)
    told: list[Reason] = []
    for code, limit in ((ReasonCode.WHAT_POWER_COLD, least), (ReasonCode.WHAT_POWER_DANGER, least - CHILL_MARGIN_K)):
        under = np.flatnonzero(cool < limit)
        measures: dict[str, Parameter] = {"limit": Measure(limit, "degC"), "from": plan.daylight.off.strftime("%H:%M")}
        measures["quantity"] = "water_temperature" if wet else "cool_air"
        if under.size:
            told.append(Reason(code, measures | {"hours": Measure(float(under[0] + 1) / 60, "h")}))
    if not told:
        quantity = "water_temperature" if wet else "cool_air"
        told.append(Reason(ReasonCode.WHAT_POWER_BEARABLE, {"lowest": Measure(float(cool.min()), "degC"), "quantity": quantity}))
    value = float(cool.min())
    was = before.quantity("water_temperature", "winter", "night") if wet else before.quantity("coolest_air", "winter")
    band = Band(least, None, was.basis, danger_low=least - CHILL_MARGIN_K, near=NEAR_K)
    now = replace(was, value=value, verdict=band.judge(value), low=None, high=None, likely=None)
    worse = ((was, now),) if ORDER.index(now.verdict) < ORDER.index(was.verdict) else ()
    return Scenario("power_cut", "winter", plan, usual, day, worse, tuple(told))


def _week_without(plan: HabitatPlan, dry: HabitatPlan, before: Assessment, season: str) -> tuple[Reason, float]:
    """A week without the mister, from the usual state: when the cool end first falls below its band, and where it ends."""
    usual, case = enclosure_case(plan), enclosure_case(dry)
    wet = DayModel(usual, solve_steady(usual, spread=False, seasons=(season,)), season).run()
    model = DayModel(case, solve_steady(case, spread=False, seasons=(season,)), season)
    start = wet.end
    band = before.quantity("cool_humidity", season, "day").band
    low = band.low if band is not None and band.low is not None else 0.0
    first_below, driest = None, 100.0
    for day_number in range(WEEK_DAYS):
        run_ = model.run(start=start)
        start, day = run_.end, run_.course()
        lit = np.roll(day.cool_humidity[:], -model.first_minute)
        driest = float(lit.min())
        under = np.flatnonzero(lit < low)
        if first_below is None and under.size:
            first_below = day_number * 24 + float(under[0] + 1) / 60
    told: dict[str, Parameter] = {"driest": Measure(driest, "%"), "least": Measure(low, "%")}
    if first_below is None:
        return Reason(ReasonCode.WHAT_MISTER_BEARABLE, told), driest
    if float(wet.course().cool_humidity.min()) < low:
        return Reason(ReasonCode.WHAT_MISTER_BELOW, told), driest
    return Reason(ReasonCode.WHAT_MISTER, told | {"hours": Measure(first_below, "h")}), driest
