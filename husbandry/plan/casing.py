"""From the plan's document to the plain values the models take."""

import math
from dataclasses import dataclass
from datetime import date
from typing import Any

from husbandry.climate import heaters
from husbandry.climate.booking import LAMP_ON_LID_M
from husbandry.climate.case import (
    BaskingSpot,
    EnclosureCase,
    GivenCase,
    HeaterCase,
    MistingCase,
    RoomState,
    SunCase,
    VentCase,
    WaterCase,
)
from husbandry.climate.parameters import PRIOR, Belief
from husbandry.light.ultraviolet import RATED_WATTS, Lamp, Shade
from husbandry.light.visible import EFFICACY, TUBE_WATTS_PER_M, Luminaire
from husbandry.plan.document import HabitatPlan, Watering, basking_top_m
from husbandry.plan.parts import Heater, Hung, Timed, UvLamp, hours_of
from husbandry.species.profile import Profile
from husbandry.species.stages import DAYS_PER_MONTH, StageDecision, decide_stage, expected_length_m, expected_mass_kg

USUAL_LENGTH_M = 0.28  # of a mat, cable or tube heater along the enclosure, where it is not said
OUTSIDE_SHARE = 0.4  # of a tube's watts on a mesh lid that end inside, as light and warmth (estimate)
BARE_SPOT_M = 0.20  # the side of the patch of ground looked at where there is no platform
TUBE_LEGS_M = 0.20  # how far above a mesh lid a tube is still stood


UvSources = tuple[tuple[str, Lamp, Timed], ...]  # path in the plan, the lamp as the field sees it, its hours


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
            heater.length_m or USUAL_LENGTH_M,
            heater.thermostat.hysteresis_k,
            heater.thermostat.probe_error_k,
        )
        for heater in plan.heaters
    )
    heat += tuple(case for item in glowing(plan) for case in _lamp_heat(plan, *item))
    rooms = {
        season: RoomState(room.day_c, room.night_c, room.humidity_percent, room.curve_c)
        for season, room in (("summer", plan.room.summer), ("winter", plan.room.winter))
    }
    humid = next((hide for hide in plan.hides if hide.humid), None)
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
        bowl_m2=math.pi / 4 * plan.bowl.diameter_m**2 if plan.bowl else 0.0,
        bowl_x_m=plan.bowl.x_m if plan.bowl else 0.0,
        humid_hide=humid is not None,
        humid_hide_x_m=humid.x_m if humid else 0.0,
        water=WaterCase(plan.pool.x_m, plan.pool.length_m, plan.pool.depth_m, plan.pool.fan) if plan.pool else None,
        **_given(plan.misting),
        winter=None if plan.misting.winter is None else GivenCase(**_given(plan.misting.winter)),
        sun=SunCase(plan.window.watts, hours_of(plan.window.on), hours_of(plan.window.off)) if plan.window else None,
        vents=tuple(VentCase(vent.height_m, vent.area_m2) for vent in box.vents),
        lid_covered=box.lid_covered,
        insulation_m=box.insulation_m,
        wall_m=box.wall_m,
        belief=Belief(plan.calibration.middle, plan.calibration.root) if plan.calibration else PRIOR,
    )


def _given(water: Watering) -> dict[str, Any]:
    """The water given, as the fields of a case."""
    return {
        "misting_kg_per_day": water.grams_per_day / 1000,
        "mistings": tuple(MistingCase(hours_of(item.at), item.grams / 1000) for item in water.times),
        "fogger_kg_per_h": water.fogger_g_per_hour / 1000,
    }


def glowing(plan: HabitatPlan) -> list[tuple[Hung, float, float]]:
    """Tubes and light bars with their watts and lengths: all of it ends as heat."""
    tubes: list[tuple[Hung, float, float]] = [(lamp, TUBE_WATTS_PER_M * lamp.tube_m, lamp.tube_m) for lamp in plan.uv_lamps]
    return tubes + [(bar, bar.watts, bar.length_m) for bar in plan.light_bars]


def _lamp_heat(plan: HabitatPlan, hung: Hung, watts: float, length_m: float) -> list[HeaterCase]:
    """A tube or light bar as the air sees it, once for each time it is on; above a lid only what it shines in counts."""
    height_m, inside = min(hung.height_m, plan.enclosure.height_m), inside_watts(plan, hung, watts)
    return [
        HeaterCase("light", inside, hung.x_m, height_m, 60.0, hours_of(one.on), hours_of(one.off), length_m=length_m)
        for one in times_of(hung)
    ]


def times_of(timed: Timed) -> list[Timed]:
    """When something on a timer is on: one time of the day, or two."""
    again = timed.again if isinstance(timed, UvLamp) else None
    return [timed] if again is None else [Timed(on=timed.on, off=timed.off), again]


def inside_watts(plan: HabitatPlan, hung: Hung, watts: float) -> float:
    """What of a tube's or bar's watts warms the enclosure."""
    return OUTSIDE_SHARE * watts if outside_lid(plan, hung.height_m) else watts


def outside_kwh(plan: HabitatPlan) -> float:
    """What tubes and bars use in a day that never gets inside, in kWh: it is paid for all the same."""
    return sum((watts - inside_watts(plan, hung, watts)) * hung.hours_a_day for hung, watts, _m in glowing(plan)) / 1000


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
    passed = plan.enclosure.mesh_open_share if through_mesh(plan, at_m) else 1.0
    if lamp.behind_glass:
        passed = 0.0
    return Lamp(lamp.kind, lamp.tube_m, lamp.x_m, at_m, lamp.reflector, _months(lamp.fitted, today), passed, uv_factor(plan))


def uv_of_heater(plan: HabitatPlan, heater: Heater, today: date) -> Lamp | None:
    """Return a combined lamp as the UV field sees it, None for what gives no UV."""
    if heater.kind not in RATED_WATTS:
        return None
    passed = plan.enclosure.mesh_open_share if through_mesh(plan, heater.height_m) else 1.0
    output = heater.watts / RATED_WATTS[heater.kind] * uv_factor(plan)
    return Lamp(heater.kind, 0.0, heater.x_m, heater.height_m, True, _months(heater.fitted, today), passed, output)


def uv_factor(plan: HabitatPlan) -> float:
    """What the keeper's own meter says of the lamps' strength, over their class's."""
    return plan.calibration.uv if plan.calibration else 1.0


def _months(fitted: date | None, today: date) -> float:
    return 0.0 if fitted is None else (today - fitted).days / DAYS_PER_MONTH


def uv_sources(plan: HabitatPlan, today: date) -> UvSources:
    """Everything that gives UV: its path in the plan, the lamp as the field sees it, its hours; tubes first."""
    found: list[tuple[str, Lamp, Timed]] = []
    for index, lamp in enumerate(plan.uv_lamps):
        found.append((f"uv_lamps.{index}", uv_lamp(plan, lamp, today), lamp))
    for index, heater in enumerate(plan.heaters):
        field = uv_of_heater(plan, heater, today)
        if field is not None:
            found.append((f"heaters.{index}", field, heater))
    return tuple(found)


def uv_sources_on(plan: HabitatPlan, today: date) -> UvSources:
    """Return what gives UV when most of it is on: at the middle of the day, unless it burns at other times only."""
    sources = uv_sources(plan, today)
    hours = [(plan.daylight.middle_of_dark + 12) % 24]
    for _path, _lamp, timed in sources:
        hours += [(hours_of(one.on) + one.hours_a_day / 2) % 24 for one in times_of(timed)]
    most = max(hours, key=lambda hour: sum(timed.runs_at(hour) for _path, _lamp, timed in sources))
    return tuple(source for source in sources if source[2].runs_at(most))


def uv_lamps_on(plan: HabitatPlan, today: date) -> tuple[Lamp, ...]:
    """Return the lamps of `uv_sources_on`."""
    return tuple(lamp for _path, lamp, _timed in uv_sources_on(plan, today))


def shades(plan: HabitatPlan) -> tuple[Shade, ...]:
    """The roofs that keep UV from what is below them: hides and flat platforms."""
    ground_m = plan.ground.depth_m
    found = [Shade(hide.x_m - hide.length_m / 2, hide.x_m + hide.length_m / 2, ground_m + hide.height_m) for hide in plan.hides]
    platform = plan.platform
    if platform is not None and platform.kind != "branch" and platform.height_m > 0:
        half = platform.length_m / 2
        found.append(Shade(platform.x_m - half, platform.x_m + half, ground_m + platform.height_m))
    return tuple(found)


def lights(plan: HabitatPlan) -> tuple[Luminaire, ...]:
    """Everything that shines visibly at the middle of the day."""
    middle = (plan.daylight.middle_of_dark + 12) % 24
    found = []
    for heater in plan.heaters:
        if heater.kind in EFFICACY and heater.runs_at(middle):
            angle = heater.half_angle_deg or heaters.HEATERS[heater.kind].half_angle_deg
            lumens = EFFICACY[heater.kind] * heater.watts
            found.append(Luminaire(heater.x_m, heater.height_m, lumens, 0.0, angle, _open(plan, heater.height_m)))
    for lamp in plan.uv_lamps:
        if lamp.runs_at(middle):
            lumens = EFFICACY["tube"] * TUBE_WATTS_PER_M * lamp.tube_m
            found.append(Luminaire(lamp.x_m, lamp.height_m, lumens, lamp.tube_m, passed=_open(plan, lamp.height_m)))
    for bar in plan.light_bars:
        if bar.runs_at(middle):
            lumens = EFFICACY[bar.kind] * bar.watts
            found.append(Luminaire(bar.x_m, bar.height_m, lumens, bar.length_m, passed=_open(plan, bar.height_m)))
    return tuple(found)


def _open(plan: HabitatPlan, height_m: float) -> float:
    return plan.enclosure.mesh_open_share if through_mesh(plan, height_m) else 1.0
