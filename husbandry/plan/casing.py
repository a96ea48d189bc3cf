"""From the plan's document to the plain values the models take."""

import math
from dataclasses import dataclass
from datetime import date

from husbandry.climate import heaters
from husbandry.climate.case import BaskingSpot, EnclosureCase, HeaterCase, RoomState
from husbandry.climate.zones import LAMP_ON_LID_M
from husbandry.light.ultraviolet import Lamp
from husbandry.plan.document import HabitatPlan, UvLamp, basking_top_m, hours_of
from husbandry.species.profile import Profile
from husbandry.species.stages import DAYS_PER_MONTH, StageDecision, decide_stage, expected_length_m, expected_mass_kg

BARE_SPOT_M = 0.20  # the side of the patch of ground looked at where there is no platform
TUBE_LEGS_M = 0.20  # how far above a mesh lid a tube is still stood


@dataclass(frozen=True)
class Body:
    """The animal as the models see it; `*_known` tells a measurement from an estimate out of the other one.

    `length_m` by the species' own measure. None where nothing is known. `back_m` is the back's height above what it
    stands on, from an adult where the length is unknown.
    """

    decision: StageDecision
    age_days: int | None
    length_m: float | None
    length_known: bool
    mass_kg: float | None
    mass_known: bool
    back_m: float


def body_of(plan: HabitatPlan, profile: Profile, today: date) -> Body:
    """Work out age, size and life stage on `today`."""
    animal = plan.animal
    age_days = None if animal.hatched is None else max((today - animal.hatched).days, 0)
    decision = decide_stage(profile, age_days=age_days, mass_kg=animal.mass_kg, length_m=animal.length_m)
    length_m, mass_kg = animal.length_m, animal.mass_kg
    if length_m is None and mass_kg is not None:
        length_m = expected_length_m(profile, mass_kg, animal.sex)
    if mass_kg is None and length_m is not None:
        mass_kg = expected_mass_kg(profile, length_m, animal.sex)
    adult_m = profile.body.adult(animal.sex).length_cm.middle / 100
    back_m = profile.body.back_height_share.value * (length_m or adult_m)
    return Body(decision, age_days, length_m, animal.length_m is not None, mass_kg, animal.mass_kg is not None, back_m)


def spot_x_m(plan: HabitatPlan) -> float:
    """Where the animal basks: on the platform, else under the strongest heater, else under the first tube."""
    if plan.platform is not None:
        return plan.platform.x_m
    if plan.heaters:
        return max(plan.heaters, key=lambda heater: heater.watts).x_m
    if plan.uv_lamps:
        return plan.uv_lamps[0].x_m
    return plan.enclosure.length_m / 4


def enclosure_case(plan: HabitatPlan) -> EnclosureCase:
    """Return the climate's input."""
    box, x_m = plan.enclosure, spot_x_m(plan)
    side_m, perch = (plan.platform.length_m, plan.platform.kind) if plan.platform else (BARE_SPOT_M, "ground")
    spot = BaskingSpot(x_m, side_m, basking_top_m(plan, x_m), perch)
    heat = tuple(
        HeaterCase(
            heater.kind,
            heater.watts,
            heater.x_m,
            heater.height_m,
            heater.half_angle_deg or heaters.HEATERS[heater.kind].half_angle_deg,
            hours_of(heater.on),
            hours_of(heater.off),
            heater.thermostat.kind,
            heater.thermostat.set_c or 0.0,
            heater.thermostat.night_set_c,
            heater.thermostat.probe,
        )
        for heater in plan.heaters
    )
    rooms = {
        season: RoomState(room.day_c, room.night_c, room.humidity_percent)
        for season, room in (("summer", plan.room.summer), ("winter", plan.room.winter))
    }
    return EnclosureCase(
        box.kind,
        box.lid,
        box.mesh_open_share,
        box.length_m,
        box.width_m,
        box.height_m,
        plan.ground.kind,
        plan.ground.depth_m,
        plan.ground.damp,
        spot,
        heat,
        rooms,
        hours_of(plan.daylight.on),
        hours_of(plan.daylight.off),
        bowl_m2=water_surface_m2(plan),
        bowl_x_m=plan.pool.x_m if plan.pool else plan.bowl.x_m if plan.bowl else 0.0,
        humid_hide=any(hide.humid for hide in plan.hides),
        misting_kg_per_day=plan.misting.grams_per_day / 1000,
    )


def water_surface_m2(plan: HabitatPlan) -> float:
    """The open water: the bowl's and the pool's surface."""
    bowl = math.pi / 4 * plan.bowl.diameter_m**2 if plan.bowl else 0.0
    return bowl + (plan.pool.length_m * plan.enclosure.width_m if plan.pool else 0.0)


def outside_lid(plan: HabitatPlan, height_m: float) -> bool:
    """Tell whether a lamp at this height shines in through the lid."""
    return plan.enclosure.lid != "solid" and height_m >= plan.enclosure.height_m - 1e-6


def through_mesh(plan: HabitatPlan, height_m: float) -> bool:
    """Tell whether a lamp at this height shines in through mesh."""
    return plan.enclosure.lid == "mesh" and outside_lid(plan, height_m)


def highest_m(plan: HabitatPlan) -> float:
    """How high a lamp may hang where it is solved for: just under a solid lid, or on the mesh."""
    return plan.enclosure.height_m - (LAMP_ON_LID_M if plan.enclosure.lid == "solid" else 0.0)


def highest_tube_m(plan: HabitatPlan) -> float:
    """How high a tube may hang: under a solid lid, or on short legs above a mesh."""
    return highest_m(plan) + (0.0 if plan.enclosure.lid == "solid" else TUBE_LEGS_M)


def uv_lamp(plan: HabitatPlan, lamp: UvLamp, today: date, height_m: float | None = None) -> Lamp:
    """Return the lamp as the field sees it; behind glass nothing passes."""
    at_m = lamp.height_m if height_m is None else height_m
    age_months = 0.0 if lamp.fitted is None else (today - lamp.fitted).days / DAYS_PER_MONTH
    passed = plan.enclosure.mesh_open_share if through_mesh(plan, at_m) else 1.0
    if lamp.behind_glass:
        passed = 0.0
    return Lamp(lamp.kind, lamp.tube_m, lamp.x_m, at_m, lamp.reflector, age_months, passed)


def uv_lamps_on(plan: HabitatPlan, today: date) -> tuple[Lamp, ...]:
    """Return the lamps that are on at the middle of the day."""
    middle = enclosure_case(plan).middle_of_day
    return tuple(uv_lamp(plan, lamp, today) for lamp in plan.uv_lamps if lamp.runs_at(middle))
