"""What mends moisture: another amount of water in one season, damp or dry ground, another room."""

from collections.abc import Iterator, Mapping
from dataclasses import replace
from typing import Final, get_args

from husbandry.assessment import SEASONS, Change, Finding, Measure, Parameter, Remedy, Verdict
from husbandry.climate.air import moved_humidity, saturation_pressure
from husbandry.climate.case import EnclosureCase
from husbandry.climate.states import DAY_AND_NIGHT, Climate, SteadyState
from husbandry.climate.steady import solve_steady
from husbandry.codes import RemedyCode
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.changes import ground_damp
from husbandry.plan.editing import apply
from husbandry.plan.equipment import Planting
from husbandry.plan.habitat import HabitatPlan, Watering
from husbandry.remedies.situation import Situation
from husbandry.remedies.vents import cut, wider
from husbandry.species.leaves import choose
from husbandry.species.stage import Stage

MOST_MISTING_G, MISTING_STEP_G = 2000.0, 5.0
MUCH_MIST_G_M2: Final = 400.0  # of floor and a day: beyond that a mesh lid is covered first (common practice, no source)
MOST_MIST_G_M2: Final = 2000.0  # more than that is a flood (common practice, no source)
COVERS: Final = (0.4, 0.7)  # of a mesh or open lid
DRY_PLACES_PERCENT: Final = 50.0  # the most that a species of dry places wants by day (common practice, no source)
TRIED: Final = 4  # times that an amount is put straight
MISTING_INTO_BAND: Final = 0.25  # how far from the least towards the most: enough, and no wetter than need be


def may_be_misted(plan: HabitatPlan, stage: Stage) -> bool:
    """Tell whether water belongs in the air: not over an open table, whose air is the room's, and not with a species of dry places.

    Common practice, no source.
    """
    most = choose(stage.moisture.day_percent, plan.schools).high
    return plan.enclosure.kind != "open-table" and (most is None or most > DRY_PLACES_PERCENT)


def wetter(at: Situation, finding: Finding) -> Remedy | None:
    """For a cool end that is too dry: water while it is little, else first a cover over part of the lid."""
    plan, season = at.plan, str(finding.parameters["season"])
    if not may_be_misted(plan, at.stage):
        return Remedy(RemedyCode.MOISTURE_MOISTEN_ROOM)
    now, much = plan.misting.of(season).grams_per_day, MUCH_MIST_G_M2 * at.case.length_m * at.case.width_m
    right = _right_g(at, season, at.case)
    if (right is None or right > much) and at.case.lid != "solid":
        for share in COVERS:
            if share <= plan.enclosure.lid_covered:
                continue
            less = _right_g(at, season, replace(at.case, lid_covered=share))
            if less is not None and (less <= much or share == COVERS[-1]):
                return _covered(plan, season, share, less)
    if right is not None and right > now:
        return _mist(plan, season, right)
    if not plan.ground.damp:
        return Remedy(RemedyCode.MOISTURE_DAMP_GROUND, {}, ground_damp(plan, damp=True))
    return Remedy(RemedyCode.MOISTURE_AIR_LESS)


def _covered(plan: HabitatPlan, season: str, share: float, grams: float) -> Remedy:
    """Part of the lid covered, and what is then still to be misted."""
    cover = Change("enclosure.lid_covered", share)
    if grams <= plan.misting.of(season).grams_per_day:
        return Remedy(RemedyCode.MOISTURE_COVER_LID, {"share": 100 * share}, (cover,))
    told: dict[str, Parameter] = {"share": 100 * share, "grams": round(grams), "season": season}
    return Remedy(RemedyCode.MOISTURE_COVER_AND_MIST, told, (cover, misted(plan, season, grams)))


def drier(at: Situation, finding: Finding) -> Remedy | None:
    """For a cool end that is too wet."""
    worst, season = at.about(finding), str(finding.parameters["season"])
    now = at.plan.misting.of(season).grams_per_day
    right = _right_g(at, season, at.case) if now > 0 else None
    if now > 0 and (right is None or right < now):
        return _mist(at.plan, season, right or 0.0)
    if at.plan.ground.damp:
        return _dried_or_aired(at, season)
    if at.plan.plants != "none":
        return next(with_fewer_plants(at.plan))
    own = _room_at_cool_end(at.plan, at.climate, season, worst.phase)
    if worst.band is not None and worst.band.high is not None and own >= worst.band.high:
        return Remedy(RemedyCode.MOISTURE_DRY_THE_ROOM, {"room": Measure(own, "%")})
    return Remedy(RemedyCode.MOISTURE_AIR_A_LITTLE if worst.verdict is Verdict.NEAR else RemedyCode.MOISTURE_AIR_MORE)


def _dried_or_aired(at: Situation, season: str) -> Remedy:
    """Dry ground; where that would be too dry, the first vents with which the damp ground is right."""
    dry = Remedy(RemedyCode.MOISTURE_DRY_GROUND, {}, ground_damp(at.plan, damp=False))
    if at.quick or _held(at, season, dry.changes):
        return dry
    return next((vents for vents in (*cut(at.plan), *wider(at.plan)) if _held(at, season, vents.changes)), dry)


def _held(at: Situation, season: str, changes: tuple[Change, ...]) -> bool:
    """Tell whether the cool end is in its bands of humidity by day and night of a season after some changes."""
    case = enclosure_case(HabitatPlan.model_validate(apply(at.plan.model_dump(mode="json"), changes)))
    states = solve_steady(case, spread=False, seasons=(season,), near=at.climate).states
    for phase in DAY_AND_NIGHT:
        wanted = choose(at.stage.moisture.day_percent if phase == "day" else at.stage.moisture.night_percent, at.plan.schools)
        percent = states[season, phase].predictions["cool_humidity"].value
        if not (wanted.low or 0.0) <= percent <= (wanted.high or 100.0):
            return False
    return True


def with_fewer_plants(plan: HabitatPlan) -> Iterator[Remedy]:
    """Changes to fewer and fewer living plants, none at last."""
    kinds = get_args(Planting)
    for kind in reversed(kinds[: kinds.index(plan.plants)]):
        code = RemedyCode.MOISTURE_NO_PLANTS if kind == "none" else RemedyCode.MOISTURE_FEWER_PLANTS
        yield Remedy(code, {}, (Change("plants", kind),))


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


def _right_g(at: Situation, season: str, case: EnclosureCase) -> float | None:
    """Grams a day that keep the cool end of `case` in its band by day and night of a season, as far as one amount can; None where
    none helps.

    The moister the air, the faster it leaves: what is straight at one amount is put straight anew at the next.
    Where the driest state needs more than the wettest bears, the middle between the two: the finding then stays.
    """
    own, grams = case.in_season(season), at.plan.misting.of(season).grams_per_day
    for _ in range(TRIED):
        given = replace(own, misting_kg_per_day=grams / 1000, winter=None)
        states = solve_steady(given, spread=False, seasons=(season,), near=at.climate).states
        found = _straight_g(at, {phase: states[season, phase] for phase in DAY_AND_NIGHT}, grams)
        if found is None and grams < MOST_MISTING_G:  # from little water all that is straight may miss what much would do
            grams = MOST_MISTING_G
            continue
        if found is None or (found < 0 and grams == 0):
            return None
        moved, grams = abs(max(found, 0.0) - grams), max(found, 0.0)
        if moved < MISTING_STEP_G / 2:
            break
    if grams > MOST_MIST_G_M2 * case.length_m * case.width_m:
        return None
    return float(round(grams / MISTING_STEP_G) * MISTING_STEP_G)


def _straight_g(at: Situation, states: Mapping[str, SteadyState], grams: float) -> float | None:
    """The same by what each gram more would do where `grams` are misted; below nought where it is too wet without any."""
    least, most = 0.0, MOST_MISTING_G
    for phase, steady in states.items():
        wanted = choose(at.stage.moisture.day_percent if phase == "day" else at.stage.moisture.night_percent, at.plan.schools)
        per_percent = float(saturation_pressure(steady.predictions["cool_air"].value)) / 100
        dry = steady.unbound_vapour_pa - steady.vapour_per_gram * grams
        if wanted.low is not None:
            least = max(least, (wanted.low * per_percent - dry) / steady.vapour_per_gram)
        if wanted.high is not None:
            most = min(most, (wanted.high * per_percent - dry) / steady.vapour_per_gram)
    if least > MOST_MISTING_G:
        return None
    return least + MISTING_INTO_BAND * (most - least) if most > least else (least + max(most, 0.0)) / 2
