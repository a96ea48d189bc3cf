"""What mends moisture: another amount of water in one season, damp or dry ground, another room."""

from typing import Final

from husbandry.assessment import SEASONS, Change, Finding, Measure, Remedy, Verdict
from husbandry.climate.air import moved_humidity, saturation_pressure
from husbandry.climate.states import Climate
from husbandry.codes import RemedyCode
from husbandry.plan.habitat import HabitatPlan, Watering
from husbandry.remedies.situation import Situation
from husbandry.species.leaves import choose
from husbandry.species.stage import Stage

MOST_MISTING_G, MISTING_STEP_G = 2000.0, 5.0
MISTING_INTO_BAND: Final = 0.25  # how far from the least towards the most: enough, and no wetter than need be


def wetter(at: Situation, finding: Finding) -> Remedy | None:
    """For a cool end that is too dry."""
    season = str(finding.parameters["season"])
    right, now = _misting_right_g(at.plan, at.stage, at.climate, season), at.plan.misting.of(season).grams_per_day
    if right is not None and right > now:
        return _mist(at.plan, season, right)
    if not at.plan.ground.damp:
        return Remedy(RemedyCode.MOISTURE_DAMP_GROUND, {}, (Change("ground.damp", True),))
    return Remedy(RemedyCode.MOISTURE_AIR_LESS)


def drier(at: Situation, finding: Finding) -> Remedy | None:
    """For a cool end that is too wet."""
    worst, season = at.about(finding), str(finding.parameters["season"])
    right, now = _misting_right_g(at.plan, at.stage, at.climate, season), at.plan.misting.of(season).grams_per_day
    if now > 0 and (right is None or right < now):
        return _mist(at.plan, season, right or 0.0)
    if at.plan.ground.damp:
        return Remedy(RemedyCode.MOISTURE_DRY_GROUND, {}, (Change("ground.damp", False),))
    own = _room_at_cool_end(at.plan, at.climate, season, worst.phase)
    if worst.band is not None and worst.band.high is not None and own >= worst.band.high:
        return Remedy(RemedyCode.MOISTURE_DRY_THE_ROOM, {"room": Measure(own, "%")})
    return Remedy(RemedyCode.MOISTURE_AIR_A_LITTLE if worst.verdict is Verdict.NEAR else RemedyCode.MOISTURE_AIR_MORE)


def _mist(plan: HabitatPlan, season: str, grams: float) -> Remedy:
    """Another amount in one season; the other keeps its own."""
    change = misted(plan, season, grams)
    return Remedy(
        RemedyCode.MOISTURE_MIST if grams else RemedyCode.MOISTURE_MIST_STOP, {"grams": round(grams), "season": season}, (change,)
    )


def misted(plan: HabitatPlan, season: str, grams: float) -> Change:
    """The change of a plan that gives so much by hand in one season."""
    summer, winter = (plan.misting.of(name).model_dump(mode="json", include=set(Watering.model_fields)) for name in SEASONS)
    (summer if season == "summer" else winter)["grams_per_day"] = grams
    return Change("misting", summer | {"winter": None if summer == winter else winter})


def _room_at_cool_end(plan: HabitatPlan, climate: Climate, season: str, phase: str) -> float:
    """What the room's own air would read at the cool end then, in %."""
    room = getattr(plan.room, season)
    room_c = plan.room_c(season, phase)
    return float(moved_humidity(room.humidity_percent, room_c, climate.states[season, phase].predictions["cool_air"].value))


def _misting_right_g(plan: HabitatPlan, stage: Stage, climate: Climate, season: str) -> float | None:
    """Grams a day that keep the cool end in its band by day and night of a season, as far as one amount can; None where none helps.

    Where the driest state needs more than the wettest bears, the middle between the two: the finding then stays.
    """
    day, night = choose(stage.moisture.day_percent, plan.schools), choose(stage.moisture.night_percent, plan.schools)
    least, most = 0.0, MOST_MISTING_G
    for phase in ("day", "night"):
        steady = climate.states[season, phase]
        wanted = day if phase == "day" else night
        per_percent = float(saturation_pressure(steady.predictions["cool_air"].value)) / 100
        dry = steady.unbound_vapour_pa - steady.vapour_per_gram * plan.misting.of(season).grams_per_day
        if wanted.low is not None:
            least = max(least, (wanted.low * per_percent - dry) / steady.vapour_per_gram)
        if wanted.high is not None:
            most = min(most, (wanted.high * per_percent - dry) / steady.vapour_per_gram)
    grams = least + MISTING_INTO_BAND * (most - least) if most > least else (least + max(most, 0.0)) / 2
    if least > MOST_MISTING_G or grams < 0.0:
        return None
    return float(round(grams / MISTING_STEP_G) * MISTING_STEP_G)
