"""Gathers the facts the review looks at."""

from dataclasses import dataclass
from datetime import date, time

from husbandry.animal.body import Body
from husbandry.animal.growth_outlook import expected_length_at, outgrown_within
from husbandry.animal.needs import enough_by, minimum_needs
from husbandry.animal.subject import Subject
from husbandry.animal.weighings import Weighing
from husbandry.assess.furnished import furnishings
from husbandry.assess.meal_facts import meals
from husbandry.assess.standing import standing
from husbandry.assess.warmth import basking_lamps
from husbandry.assessment import SEASONS, Change, Quantity
from husbandry.climate.case import EnclosureCase
from husbandry.climate.hang import CLOSEST_M
from husbandry.climate.heaters import HEATERS, HOLDERS
from husbandry.climate.states import DAY_AND_NIGHT, Climate
from husbandry.feeding.appetite import rest_loss
from husbandry.feeding.week_food import Fed
from husbandry.inputs.light_sources import uv_sources
from husbandry.inputs.shelters import missing, shelter_of
from husbandry.inputs.ultraviolet import wanted_index
from husbandry.light.ultraviolet import LAMPS
from husbandry.plan.changes import ground_depth, one_ground
from husbandry.plan.equipment import Heater, UvLamp
from husbandry.plan.geometry import basking_top_m, highest_m, outside_lid
from husbandry.plan.habitat import HabitatPlan
from husbandry.review.facts import (
    BoxFacts,
    Company,
    Facts,
    Figures,
    GroundFacts,
    HeaterFacts,
    HeatFacts,
    LightFacts,
    Shelter,
    StageFacts,
    UvFacts,
    WaterFacts,
)
from husbandry.space.sizing import SIDES, Need, sides_for
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage
from husbandry.species.stages import OLDEST_YEARS, expected_mass_kg
from husbandry.units import DAYS_A_MONTH, DAYS_A_YEAR

NEEDED_FROM_INDEX = 1.0
FLAT_OUT = 0.97
LOOK_AHEAD_DAYS = 180.0
TAILED = 0.95  # of the whole length: below that the tail is worth a question


def clock(moment: time) -> str:
    return moment.strftime("%H:%M")


@dataclass(frozen=True)
class Modelled:
    """What the models made of a plan, before it is judged: its case and steady climate, the quantities and the week's food."""

    case: EnclosureCase
    climate: Climate
    quantities: tuple[Quantity, ...]
    fed: Fed


def facts(subject: Subject, found: Modelled, weighings: tuple[Weighing, ...] = ()) -> Facts:
    """Gather everything the rules look at."""
    plan, profile, stage, today = subject.plan, subject.profile, subject.stage, subject.today
    minimum = minimum_needs(plan, profile, stage, subject.body.length_m)
    wanted = tuple(name for name in (hide.value for hide in profile.hides_of(stage)) if shelter_of(name) != "ground")
    return Facts(
        quantities=found.quantities,
        heaters=_heaters(plan, found),
        uv_lamps=_uv_lamps(plan, today),
        box=_box(subject, minimum, weighings),
        heat=_heat(plan, stage, found),
        light=_light(subject),
        ground=_ground(plan, stage),
        shelter=Shelter(
            wanted=wanted,
            missing=missing(plan, wanted),
            humid_missing="humid" in map(shelter_of, wanted) and not any(hide.humid for hide in plan.hides),
            has_bowl=plan.bowl is not None,
        ),
        stage=_stage(subject, found.quantities),
        standing=standing(subject),
        furnishings=furnishings(subject, found.case, found.climate),
        company=_company(plan, profile, subject.body),
        figures=figures_of(plan, profile, subject.body, today),
        water=_water(plan, stage, minimum),
        meals=meals(subject, found.fed, at_rest=rest_loss(plan, profile, weighings, today)),
        today=today.isoformat(),
    )


def _ground(plan: HabitatPlan, stage: Stage) -> GroundFacts:
    wanted_m = round(choose(stage.ground.depth_cm, plan.schools).middle / 100, 3)
    ground = plan.ground
    kind = choose(stage.ground.kinds, plan.schools).value
    # Paper is a sheet: nobody lays it by the decimetre.
    laid = kind if kind != "paper" and all(layer.main == "paper" for layer in ground.layers) else ""
    return GroundFacts(
        ground.depth_m,
        wanted_m,
        (Change("ground", one_ground(laid, wanted_m, damp=ground.damp)),) if laid else ground_depth(plan, wanted_m),
        laid=laid,
        living=ground.living,
        damp=ground.damp,
        litter=any(layer.main == "leaf-litter" for layer in ground.layers),
        layers=len(ground.layers),
    )


def _box(subject: Subject, minimum: dict[str, Need], weighings: tuple[Weighing, ...]) -> BoxFacts:
    box = subject.plan.enclosure
    outgrown = outgrown_within(subject.plan, subject.profile, subject.body, subject.today, LOOK_AHEAD_DAYS, weighings)
    return BoxFacts(
        box.length_m,
        box.width_m,
        box.height_m,
        sides_for(minimum) if set(SIDES) <= set(minimum) else None,
        None if outgrown is None else (outgrown[0].isoformat(), outgrown[1]),
        enough_by(subject.plan, subject.profile, subject.stage, subject.body.length_m),
    )


def _heat(plan: HabitatPlan, stage: Stage, found: Modelled) -> HeatFacts:
    """What is wanted of the heat, and what heaters, room and sun give."""
    basking = choose(stage.heat.basking_surface_c, plan.schools) if stage.heat.basking_surface_c else None
    night = choose(stage.heat.night_c, plan.schools)
    sun_watts, hottest_c = 0.0, 0.0
    if plan.window:
        sun_watts = plan.window.watts
        hottest_c = max(found.climate.states["summer", phase].predictions["hottest_air"].value for phase in DAY_AND_NIGHT)
    return HeatFacts(
        night_low_c=night.least,
        warm_air_middle_c=choose(stage.heat.warm_air_c, plan.schools).middle if stage.heat.warm_air_c else None,
        basking_middle_c=basking.middle if basking else None,
        mat_middle_c=choose(stage.heat.mat_surface_c, plan.schools).middle if stage.heat.mat_surface_c else None,
        water_middle_c=_water_middle_c(plan, stage),
        ceiling_c=stage.heat.ceiling_c.value,
        given_w=_heat_w(plan, found.climate),
        room_day_c={season: plan.room_c(season, "day") for season in SEASONS},
        sun_watts=sun_watts,
        sun_hottest_c=hottest_c,
    )


def _light(subject: Subject) -> LightFacts:
    plan, stage = subject.plan, subject.stage
    wanted = wanted_index(plan, stage)
    return LightFacts(
        clock(plan.daylight.on),
        clock(plan.daylight.off),
        choose(stage.light.hours, plan.schools).middle,
        (wanted.low or 0.0, wanted.high or 0.0) if wanted else None,
        wanted is not None and (wanted.low or 0.0) >= NEEDED_FROM_INDEX,
        plan.year.mode != "fixed",
    )


def _stage(subject: Subject, quantities: tuple[Quantity, ...]) -> StageFacts:
    decision = subject.body.decision
    return StageFacts(
        leads=decision.decided_by or subject.stage.leads,
        known=decision.decided_by != "",
        indications=decision.indications if decision.disputed else {},
        length_question=subject.body.length_m is None and any(item.question == "animal.length_m" for item in quantities),
    )


def _heat_w(plan: HabitatPlan, climate: Climate) -> dict[str, float]:
    """What the heaters give by "season/phase"; tubes and bars are there for their light."""
    watts = [heater.watts for heater in plan.heaters]
    return {
        f"{season}/{phase}": sum(share * each for share, each in zip(steady.duty, watts, strict=False))
        for (season, phase), steady in climate.states.items()
    }


def _company(plan: HabitatPlan, profile: Profile, body: Body) -> Company:
    rule, animal = choose(profile.together, plan.schools), plan.animal
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


def figures_of(plan: HabitatPlan, profile: Profile, body: Body, today: date) -> Figures:
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
        adult.mass_g.most / 1000,
        animal.length_m,
        adult.length_cm.most / 100,
        profile.body.length_measure,
        whole_m,
        None if whole_m is None else expected_mass_kg(profile, whole_m, animal.sex),
        animal.hatched.isoformat() if animal.hatched else "",
        None if body.age_days is None else body.age_days / DAYS_A_YEAR,
        OLDEST_YEARS[profile.group],
    )


def _water(plan: HabitatPlan, stage: Stage, minimum: dict[str, Need]) -> WaterFacts:
    """The water the stage asks for."""
    rule = stage.water
    if rule is None or rule.depth_cm is None:
        return WaterFacts()
    wanted = rule.temperature_c is not None or "water_volume" in minimum
    return WaterFacts(wanted, plan.pool is not None, choose(rule.depth_cm, plan.schools).middle / 100)


def _water_middle_c(plan: HabitatPlan, stage: Stage) -> float | None:
    rule = stage.water
    return choose(rule.temperature_c, plan.schools).middle if rule is not None and rule.temperature_c is not None else None


def _heaters(plan: HabitatPlan, found: Modelled) -> tuple[HeaterFacts, ...]:
    case, climate, quantities = found.case, found.climate, found.quantities
    spot_lamps = basking_lamps(case)
    right_gap = next((item.reason.parameters.get("right") for item in quantities if item.key == "lamp_distance"), None)
    heaters = []
    for index, heater in enumerate(plan.heaters):
        kind = HEATERS[heater.kind]
        under_m = basking_top_m(plan, heater.x_m)
        right = None
        if index in spot_lamps and right_gap is not None:
            right = max(right_gap.value + case.spot.top_m, case.spot.top_m + CLOSEST_M)  # type: ignore[union-attr]
        heaters.append(
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
                on_at_night=plan.daylight.goes_on_in_the_dark(heater),
                warms_spot=index in spot_lamps and plan.daylight.lights(heater),
                flat_out={phase: climate.states["winter", phase].duty[index] > FLAT_OUT for phase in ("day", "night")},
            )
        )
    return tuple(heaters)


def _uv_lamps(plan: HabitatPlan, today: date) -> tuple[UvFacts, ...]:
    found = []
    for index, (path, lamp, hours) in enumerate(uv_sources(plan, today)):
        fitted, glass = None, False
        if isinstance(hours, UvLamp):
            fitted, glass = hours.fitted, hours.behind_glass
        elif isinstance(hours, Heater):
            fitted = hours.fitted
        age = None if fitted is None else (today - fitted).days / DAYS_A_MONTH
        life = LAMPS[lamp.kind].rated_life_months
        found.append(UvFacts(index, path, lamp.kind, glass, age, life, plan.daylight.goes_on_in_the_dark(hours), lamp.height_m))
    return tuple(found)
