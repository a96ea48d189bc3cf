"""What a habitat is kept at, for whoever looks after it meanwhile; and the clock of its feeds."""

from dataclasses import dataclass
from datetime import time
from typing import Final

from husbandry.animal.needs import swims
from husbandry.plan.equipment import hours_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.leaves import Range, choose
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage

# Hours after the light comes on (first) or before it goes off (second) that a time of day stands for; common practice, no source.
CLOCKS: Final = {
    "morning": (1.0, None),
    "late morning": (2.5, None),
    "day": (None, None),
    "evening": (None, 1.0),
    "dusk": (None, 0.0),
    "lights out": (None, -0.5),
}
USUAL_ON, USUAL_OFF = 8.0, 20.0  # where the light is never switched


@dataclass(frozen=True, slots=True)
class Target:
    """What a place is kept between, in `unit`; an open end is None. `key` as in an assessment, "night_air" in the dark."""

    key: str
    low: float | None
    high: float | None
    unit: str


def targets(plan: HabitatPlan, profile: Profile, stage: Stage) -> tuple[Target, ...]:
    """Return what this plan is kept at by its keeper's schools: warmth, then water, then moisture."""
    heat, schools = stage.heat, plan.schools
    wet = swims(plan, profile)
    found: list[tuple[str, tuple[Range, ...] | None, str]] = [("basking_surface", heat.basking_surface_c, "degC")]
    if heat.mat_surface_c is not None:
        found.append(("mat_surface", heat.mat_surface_c, "degC"))
    if not wet:
        found += [("warm_air", heat.warm_air_c, "degC"), ("cool_air", heat.cool_air_c, "degC"), ("night_air", heat.night_c, "degC")]
    if stage.water is not None and plan.pool is not None:
        found.append(("water_temperature", stage.water.temperature_c, "degC"))
    if not wet:
        found.append(("cool_humidity", stage.moisture.day_percent, "%"))
    bands = [(key, choose(ranges, schools).band(), unit) for key, ranges, unit in found if ranges]
    return tuple(Target(key, band.low, band.high, unit) for key, band, unit in bands)


def feed_at(plan: HabitatPlan, time_of_day: str) -> time:
    """Return the clock time a time of day stands for under this plan's light, to a quarter of an hour."""
    on, off = hours_of(plan.daylight.on), hours_of(plan.daylight.off)
    if on == off:
        on, off = USUAL_ON, USUAL_OFF
    span = (off - on) % 24
    after, before = CLOCKS.get(time_of_day, (None, None))
    hour = on + span / 2 if after is None and before is None else on + after if after is not None else off - (before or 0.0)
    quarters = round(hour * 4) % 96
    return time(quarters // 4, quarters % 4 * 15)
