"""Gathers the facts the review looks at."""

from dataclasses import astuple
from datetime import date, time
from typing import Any

from husbandry.animal.body import Body
from husbandry.animal.growth_outlook import expected_length_at, outgrown_within
from husbandry.animal.needs import POOL_FILL, enclosure_needs, usual_pool
from husbandry.animal.weighings import Weighing
from husbandry.assess.meal_facts import meals
from husbandry.assess.standing import bath_of, standing
from husbandry.assess.warmth import basking_lamps
from husbandry.assessment import Quantity
from husbandry.climate.air import moved_humidity, saturation_pressure
from husbandry.climate.case import EnclosureCase
from husbandry.climate.hang import CLOSEST_M
from husbandry.climate.heaters import HEATERS, HOLDERS
from husbandry.climate.probes import warm_side_x
from husbandry.climate.settled import Climate
from husbandry.feeding.appetite import rest_loss
from husbandry.feeding.week_food import Fed
from husbandry.inputs.light_sources import uv_sources, uv_sources_on
from husbandry.inputs.ultraviolet import height_for_middle, index_at_back, lamp_times, wanted_index
from husbandry.light.ultraviolet import LAMPS
from husbandry.plan.equipment import Heater, TubeKind, UvLamp
from husbandry.plan.geometry import basking_top_m, highest_m, highest_tube_m, outside_lid, spot_x_m
from husbandry.plan.habitat import HabitatPlan, Watering
from husbandry.remedies import water
from husbandry.remedies.heating import dark_watts, new_heater_places, night_hold_c, rooms_wanted, sun_rise_k
from husbandry.review.arrangement import Bath
from husbandry.review.facts import Company, Facts, Figures, HeaterFacts, UvFacts, Water
from husbandry.space.furniture import free_place
from husbandry.space.sizing import SIDES, Need, sides_for
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage
from husbandry.species.stages import DAYS_PER_MONTH, OLDEST_YEARS, expected_mass_kg

NEEDED_FROM_INDEX = 1.0
FLAT_OUT = 0.97
SEASONS = ("summer", "winter")
LOOK_AHEAD_DAYS = 180.0
BOWL_SHARE, LEAST_BOWL_M, MOST_BOWL_M = 0.25, 0.06, 0.15  # of the floor's width; a larger bowl wets a small box
UNDER_LAMP_M = 0.1  # of the length: nothing is put there
TAILED = 0.95  # of the whole length: below that the tail is worth a question
MOST_MISTING_G, MISTING_STEP_G = 2000.0, 5.0
MISTING_INTO_BAND = 0.25  # how far from the least towards the most: enough, and no wetter than need be


def clock(moment: time) -> str:
    return moment.strftime("%H:%M")


def facts(
    plan: HabitatPlan,
    profile: Profile,
    stage: Stage,
    body: Body,
    case: EnclosureCase,
    climate: Climate,
    quantities: tuple[Quantity, ...],
    today: date,
    fed: Fed,
    weighings: tuple[Weighing, ...] = (),
    *,
    propose: bool = True,
) -> Facts:
    """Gather everything the rules look at; without `propose` what is only needed to propose changes is left out."""
    basking = choose(stage.heat.basking_surface_c, plan.schools) if stage.heat.basking_surface_c else None
    wanted = wanted_index(plan, stage)
    hours = choose(stage.light.hours, plan.schools)
    ground = choose(stage.ground.depth_cm, plan.schools)
    night = choose(stage.heat.night_c, plan.schools)
    minimum, _recommended = enclosure_needs(plan, profile, stage, body.length_m)
    dark = dark_watts(plan, stage, case, quantities, climate) if propose else {}
    hides = profile.hides_of(stage)
    wants_humid = any("humid" in hide.value or "damp" in hide.value for hide in hides)
    hides_short = len(plan.hides) < len(hides) or (wants_humid and not any(hide.humid for hide in plan.hides))
    outgrown = outgrown_within(plan, profile, body, today, LOOK_AHEAD_DAYS, weighings)
    return Facts(
        quantities=quantities,
        heaters=_heaters(plan, case, climate, quantities),
        uv_lamps=_uv_lamps(plan, case, stage, body, today),
        length_m=plan.enclosure.length_m,
        width_m=plan.enclosure.width_m,
        height_m=plan.enclosure.height_m,
        new_heater_places=new_heater_places(plan),
        dark_watts={moment: watts for moment, (watts, _share) in dark.items()},
        dark_share={moment: share for moment, (_watts, share) in dark.items()},
        night_hold_c=night_hold_c(plan, stage, case, quantities, climate) if propose else {},
        heat_w=_heat_w(plan, climate),
        ground_top_m=plan.ground.depth_m,
        water_middle_c=_water_middle_c(plan, stage),
        warm_air_middle_c=choose(stage.heat.warm_air_c, plan.schools).middle,
        basking_middle_c=basking.middle if basking else None,
        uv_wanted=(wanted.low or 0.0, wanted.high or 0.0) if wanted else None,
        uv_needed=wanted is not None and (wanted.low or 0.0) >= NEEDED_FROM_INDEX,
        new_uv_lamp=fitting_lamp(plan, stage, body, today) if propose else None,
        night_low_c=night.low if night.low is not None else night.middle,
        daylight_on=clock(plan.daylight.on),
        daylight_off=clock(plan.daylight.off),
        uv_times={name: clock(at) for name, at in lamp_times(plan).items()},
        wanted_hours=hours.middle,
        ground_wanted_m=round(ground.middle / 100, 3),
        ground_damp=plan.ground.damp,
        misting={season: plan.misting.of(season).model_dump(mode="json", include=set(Watering.model_fields)) for season in SEASONS},
        room_at_cool_end=_room_at_cool_end(plan, climate),
        room_day_c={"summer": plan.room.summer.day_c, "winter": plan.room.winter.day_c},
        rooms_wanted=rooms_wanted(case, quantities, climate) if propose else {},
        sun_watts=plan.window.watts if plan.window else 0.0,
        sun_hottest_c=climate.settled["summer", "day"].predictions["hottest_air"].value + sun_rise_k(case) if plan.window else 0.0,
        ceiling_c=stage.heat.ceiling_c.value,
        hides_wanted=tuple(hide.value for hide in hides),
        hides=len(plan.hides),
        humid_hides=sum(hide.humid for hide in plan.hides),
        hide_length_m=_hide_length_m(profile, body),
        hide_places=_hide_places(plan, case, _hide_length_m(profile, body)) if hides_short else {},
        bowl_place=_bowl_place(plan, case, bath_of(plan, profile, stage, body)) if plan.bowl is None else (0.0, 0.0),
        misting_right_g={season: _misting_right_g(plan, stage, climate, season) for season in SEASONS},
        has_bowl=plan.bowl is not None,
        standing=standing(plan, profile, stage, body, today, propose=propose),
        company=_company(plan, profile, body),
        figures=_figures(plan, profile, body, today),
        water=_water(plan, profile, stage, minimum, _cures(plan, case, climate, quantities) if propose else {}),
        meals=meals(plan, fed, today, grown=stage.id == profile.stages[-1].id, at_rest=rest_loss(plan, profile, weighings, today)),
        sides_needed=sides_for(minimum) if set(SIDES) <= set(minimum) else None,
        outgrown=None if outgrown is None else (outgrown[0].isoformat(), outgrown[1]),
        stage_leads=stage.leads,
        stage_known=body.decision.decided_by != "",
        stage_disputed=body.decision.indications if body.decision.disputed else {},
        length_question=body.length_m is None and any(item.question == "animal.length_m" for item in quantities),
        today=today.isoformat(),
    )


def _heat_w(plan: HabitatPlan, climate: Climate) -> dict[str, float]:
    """What the heaters give by "season/moment"; tubes and bars are there for their light."""
    watts = [heater.watts for heater in plan.heaters]
    return {
        f"{season}/{moment}": sum(share * each for share, each in zip(settled.duty, watts, strict=False))
        for (season, moment), settled in climate.settled.items()
    }


def _company(plan: HabitatPlan, profile: Profile, body: Body) -> Company:
    rule, animal = profile.together, plan.animal
    share = animal.smallest_m / body.length_m if animal.smallest_m is not None and body.length_m else None
    males = animal.males
    if males is None and animal.count == 1:
        males = int(animal.sex == "male")
    return Company(
        rule.kind,
        rule.most,
        rule.most_males,
        rule.males_note,
        rule.young_apart,
        rule.eats_smaller_share,
        profile.company.value,
        animal.count,
        males,
        animal.young,
        share,
    )


def _figures(plan: HabitatPlan, profile: Profile, body: Body, today: date) -> Figures:
    """What was typed of the animal beside what the species can be."""
    animal, adult = plan.animal, profile.body.adult(plan.animal.sex)
    expected_m = animal.length_m
    if expected_m is None and body.age_days is not None:
        expected_m = expected_length_at(profile, animal.sex, body.age_days)
    share = profile.body.total_to_measure.value
    tailed = animal.length_m is not None and profile.body.length_measure == "snout-vent" and share < TAILED
    whole_m = (animal.length_m or 0.0) * share if tailed else None
    return Figures(
        animal.mass_kg,
        None if expected_m is None else expected_mass_kg(profile, expected_m, animal.sex),
        (adult.mass_g.high or adult.mass_g.middle) / 1000,
        animal.length_m,
        (adult.length_cm.high or adult.length_cm.middle) / 100,
        profile.body.length_measure,
        whole_m,
        None if whole_m is None else expected_mass_kg(profile, whole_m, animal.sex),
        animal.hatched.isoformat() if animal.hatched else "",
        None if body.age_days is None else body.age_days / 365.25,
        OLDEST_YEARS[profile.group],
    )


def _cures(plan: HabitatPlan, case: EnclosureCase, climate: Climate, quantities: tuple[Quantity, ...]) -> dict[bool, water.Cure]:
    """What would warm water that is too cold (True) and cool water that is too warm."""
    found = {cold: water.cure(plan, case, climate, quantities, cold=cold) for cold in (True, False)}
    return {cold: item for cold, item in found.items() if item is not None}


def _water(plan: HabitatPlan, profile: Profile, stage: Stage, minimum: dict[str, Need], cures: dict[bool, water.Cure]) -> Water:
    """The water the stage asks for, and a pool that would hold it."""
    rule = stage.water
    if rule is None or rule.depth_cm is None:
        return Water()
    litres = minimum.get("water_volume")
    deeper = None
    if plan.pool is not None and litres is not None:
        needed_m = litres.size / (plan.pool.length_m * plan.enclosure.width_m)
        deeper = round(needed_m + 0.0005, 3) if needed_m <= POOL_FILL * plan.enclosure.height_m else None
    return Water(
        rule.temperature_c is not None or litres is not None,
        plan.pool is not None,
        choose(rule.depth_cm, plan.schools).middle / 100,
        usual_pool(plan, profile, stage, minimum),
        deeper,
        astuple(cures[True]) if True in cures else None,
        astuple(cures[False]) if False in cures else None,
    )


def _water_middle_c(plan: HabitatPlan, stage: Stage) -> float | None:
    rule = stage.water
    return choose(rule.temperature_c, plan.schools).middle if rule is not None and rule.temperature_c is not None else None


def _hide_length_m(profile: Profile, body: Body) -> float:
    length_m = body.length_m or profile.body.adult_length_cm.middle / 100
    return max(0.1, 0.2 * length_m if profile.body.form == "snake" else 1.4 * length_m)


def _hide_places(plan: HabitatPlan, case: EnclosureCase, size_m: float) -> dict[str, float]:
    """Where a further hide would stand clear of the rest: towards the warm end, the cool end, or the middle for a humid one."""
    length_m = case.length_m
    warm_left = warm_side_x(case) <= length_m / 2
    wanted = {"warm": 0.42 if warm_left else 0.58, "cool": 0.88 if warm_left else 0.12, "humid": 0.6 if warm_left else 0.4}
    return {end: free_place(_taken(plan, size_m), length_m, size_m, share * length_m) for end, share in wanted.items()}


def _bowl_place(plan: HabitatPlan, case: EnclosureCase, bath: Bath) -> tuple[float, float]:
    """Where a bowl would stand, at the cool half, and its diameter: what the animal needs to lie in, where that fits."""
    across_m = max(BOWL_SHARE * min(case.width_m, case.length_m, MOST_BOWL_M / BOWL_SHARE), LEAST_BOWL_M)
    if bath.wide_m is not None and bath.fits:
        across_m = max(across_m, round(bath.wide_m + 0.0049, 2))
    wanted_m = (0.75 if warm_side_x(case) <= case.length_m / 2 else 0.25) * case.length_m
    return free_place(_taken(plan, across_m), case.length_m, across_m, wanted_m), across_m


def _taken(plan: HabitatPlan, size_m: float) -> tuple[tuple[float, float], ...]:
    """Middle and size along the length of all that `size_m` cannot stand behind, of the pool, and of what lies under a lamp.

    A branch leaves the ground under it free.
    """
    taken = [(hide.x_m, hide.length_m) for hide in plan.hides]
    if plan.platform is not None and plan.platform.kind != "branch":
        taken.append((plan.platform.x_m, plan.platform.length_m))
    if plan.bowl is not None:
        taken.append((plan.bowl.x_m, plan.bowl.diameter_m))
    taken = [(x_m, other_m) for x_m, other_m in taken if other_m + size_m > plan.enclosure.width_m]
    if plan.pool is not None and plan.pool.length_m < plan.enclosure.length_m - 0.001:
        taken.append((plan.pool.x_m, plan.pool.length_m))
    taken += [(lamp.x_m, UNDER_LAMP_M) for lamp in plan.heaters if lamp.hangs]
    return tuple(taken)


def _room_at_cool_end(plan: HabitatPlan, climate: Climate) -> dict[str, float]:
    """What the room's own air would read at the cool end, in %, by season and moment."""
    found = {}
    for (season, moment), settled in climate.settled.items():
        room = getattr(plan.room, season)
        room_c = room.day_c if moment == "day" else room.night_c
        found[f"{season}/{moment}"] = float(moved_humidity(room.humidity_percent, room_c, settled.predictions["cool_air"].value))
    return found


def _misting_right_g(plan: HabitatPlan, stage: Stage, climate: Climate, season: str) -> float | None:
    """Grams a day that keep the cool end in its band by day and night of a season, as far as one amount can; None where none helps.

    Where the driest state needs more than the wettest bears, the middle between the two: the finding then stays.
    """
    day, night = choose(stage.moisture.day_percent, plan.schools), choose(stage.moisture.night_percent, plan.schools)
    least, most = 0.0, MOST_MISTING_G
    for moment in ("day", "night"):
        settled = climate.settled[season, moment]
        wanted = day if moment == "day" else night
        per_percent = float(saturation_pressure(settled.predictions["cool_air"].value)) / 100
        dry = settled.unbound_vapour_pa - settled.vapour_per_gram * plan.misting.of(season).grams_per_day
        if wanted.low is not None:
            least = max(least, (wanted.low * per_percent - dry) / settled.vapour_per_gram)
        if wanted.high is not None:
            most = min(most, (wanted.high * per_percent - dry) / settled.vapour_per_gram)
    grams = least + MISTING_INTO_BAND * (most - least) if most > least else (least + max(most, 0.0)) / 2
    if least > MOST_MISTING_G or grams < 0.0:
        return None
    return float(round(grams / MISTING_STEP_G) * MISTING_STEP_G)


def _heaters(plan: HabitatPlan, case: EnclosureCase, climate: Climate, quantities: tuple[Quantity, ...]) -> tuple[HeaterFacts, ...]:
    night_hour = (case.middle_of_day + 12) % 24
    spot_lamps = basking_lamps(case)
    right_gap = next((item.reason.parameters.get("right") for item in quantities if item.key == "lamp_distance"), None)
    found = []
    for index, heater in enumerate(plan.heaters):
        kind = HEATERS[heater.kind]
        under_m = basking_top_m(plan, heater.x_m)
        right = None
        if index in spot_lamps and right_gap is not None:
            right = max(right_gap.value + case.spot.top_m, case.spot.top_m + CLOSEST_M)  # type: ignore[union-attr]
        found.append(
            HeaterFacts(
                index=index,
                kind=heater.kind,
                watts=heater.watts,
                place=kind.place,
                holder_w=HOLDERS.get(heater.holder),
                light=kind.light,
                control=heater.thermostat.kind,
                suited_controls=kind.controls,
                set_c=heater.thermostat.set_c,
                night_set_c=heater.thermostat.night_set_c,
                probe=heater.thermostat.probe,
                guarded=heater.guarded,
                inside=not outside_lid(plan, heater.height_m),
                gap_m=heater.height_m - under_m,
                lowest_height_m=under_m,
                height_m=heater.height_m,
                highest_height_m=highest_m(plan),
                right_height_m=right,
                on_at_night=heater.runs_at(night_hour),
                warms_spot=index in spot_lamps and heater.runs_at(case.middle_of_day),
                flat_out={moment: climate.settled["winter", moment].duty[index] > FLAT_OUT for moment in ("day", "night")},
            )
        )
    return tuple(found)


def _uv_lamps(plan: HabitatPlan, case: EnclosureCase, stage: Stage, body: Body, today: date) -> tuple[UvFacts, ...]:
    night_hour = (case.middle_of_day + 12) % 24
    wanted = wanted_index(plan, stage)
    on = [timed for _path, _lamp, timed in uv_sources_on(plan, today)]
    together = height_for_middle(plan, wanted, body, today, highest_tube_m(plan)) if wanted is not None and wanted.high else None
    found = []
    for index, (path, lamp, hours) in enumerate(uv_sources(plan, today)):
        right, fitted, glass = None, None, False
        if isinstance(hours, UvLamp):
            fitted, glass = hours.fitted, hours.behind_glass
            right = together if hours in on else None
        elif isinstance(hours, Heater):
            fitted = hours.fitted
        age = None if fitted is None else (today - fitted).days / DAYS_PER_MONTH
        life = LAMPS[lamp.kind].rated_life_months
        found.append(UvFacts(index, path, lamp.kind, glass, age, life, hours.runs_at(night_hour), lamp.height_m, right))
    return tuple(found)


def fitting_lamp(plan: HabitatPlan, stage: Stage, body: Body, today: date) -> dict[str, Any] | None:
    """The weakest tube that reaches the middle of the band from somewhere below the lid, else one that is in band at the lid."""
    wanted = wanted_index(plan, stage)
    if uv_sources(plan, today) or wanted is None or not wanted.high:
        return None
    tube_m = 0.55 if plan.enclosure.length_m >= 0.6 else round(0.6 * plan.enclosure.length_m, 2)
    half = tube_m / 2
    x_m = min(max(spot_x_m(plan), half), max(plan.enclosure.length_m - half, half))
    kinds: tuple[TubeKind, ...] = ("wide-5", "slim-6", "slim-12", "slim-14")
    highest = highest_tube_m(plan)
    for at_middle in (True, False):
        for kind in kinds:
            lamp = UvLamp(
                kind=kind,
                tube_m=tube_m,
                x_m=round(x_m, 3),
                height_m=round(highest, 3),
                fitted=today,
                **lamp_times(plan),
            )
            trial = plan.model_copy(update={"uv_lamps": (lamp,)})
            height_m = height_for_middle(trial, wanted, body, today, highest) if at_middle else highest
            if height_m is None or not (at_middle or (wanted.low or 0.0) <= index_at_back(trial, body, today) <= wanted.high):
                continue
            return lamp.model_copy(update={"height_m": round(height_m, 3)}).model_dump(mode="json")
    return None
