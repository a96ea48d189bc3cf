"""The UV index at the animal's back: what is wanted, what is given, and the height at which tubes give it."""

from datetime import date, time

from husbandry.animal.body import Body
from husbandry.inputs.light_sources import UvSources, leaf_shades, uv_lamp, uv_lamps_on, uv_sources, uv_sources_on
from husbandry.light import ultraviolet
from husbandry.plan.equipment import UvLamp, hours_of
from husbandry.plan.geometry import basking_top_m, spot_x_m, through_mesh
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.leaves import Range, choose
from husbandry.species.stage import Stage

# A lamp that gives at least this share of the band's lower edge counts as UVB given, for the supplements.
WORKING_SHARE = 0.5
SESSIONS_H = 2.0  # in all, of the school of short sessions at dawn and dusk: what it gives is UVB given (common practice)
SESSIONS = "sessions"  # the school, and the hours a day it gives (common practice, no source)
SESSION_HOURS = (0.5, 3.0)
HOUR_H = 1.0  # one session
FULL_DAY_SHARE = 0.5  # of the hours of light, the least that still is "all day" (common practice)
CLOSEST_TUBE_M = 0.15  # a tube is not hung nearer to the back than this (trade)


def wanted_index(plan: HabitatPlan, stage: Stage) -> Range | None:
    """The UV index wanted at the back, by the keeper's school; short sessions are of the strength the book names first."""
    leaves = stage.light.uv_index or ()
    if in_sessions(plan):
        leaves = tuple(leaf for leaf in leaves if leaf.high) or leaves
    return choose(leaves, plan.schools) if leaves else None


def in_sessions(plan: HabitatPlan) -> bool:
    """Tell whether the keeper gives UV in one or two short times a day."""
    return plan.schools.get("uvb") == SESSIONS


def back_height_m(plan: HabitatPlan, body: Body) -> float:
    """Height of the back above the inner floor at the basking spot."""
    return basking_top_m(plan, spot_x_m(plan)) + body.back_m


def lamp_times(plan: HabitatPlan) -> dict[str, time]:
    """The hours of a new UV lamp: those of the light, or in sessions the first hour of light and the last."""
    on, off = plan.daylight.on, plan.daylight.off
    if not in_sessions(plan) or on == off or (hours_of(off) - hours_of(on)) % 24 <= 2 * HOUR_H:
        return {"on": on, "off": off}
    return {"on": on, "off": _moved(on, HOUR_H), "again_on": _moved(off, -HOUR_H), "again_off": off}


def _moved(at: time, hours: float) -> time:
    minutes = round((hours_of(at) + hours) * 60) % (24 * 60)
    return time(minutes // 60, minutes % 60)


def uvb_given(plan: HabitatPlan, stage: Stage, body: Body, today: date) -> bool:
    """Tell whether the lamps give UVB worth counting at the back: by the day's dose, as much as short sessions of half the band.

    The dose makes the vitamin, not the hours: a weak tube all day counts like a strong one for two hours.
    """
    wanted = wanted_index(plan, stage)
    least = 0.2 if wanted is None else max(WORKING_SHARE * (wanted.low or 0.0), 0.1)
    x_m, back_m = spot_x_m(plan), back_height_m(plan, body)
    return _dose_sed(uv_sources(plan, today), x_m, back_m, leaf_shades(plan)) >= ultraviolet.dose_sed(least, SESSIONS_H)


def _dose_sed(sources: UvSources, x_m: float, back_m: float, leaves: tuple[ultraviolet.Shade, ...]) -> float:
    """What all lamps give in a day under the leaves there, each for as long as it burns."""
    return sum(ultraviolet.dose_sed(float(lamp.index_at(x_m, back_m, leaves)), timed.hours_a_day) for _path, lamp, timed in sources)


def height_for_index(plan: HabitatPlan, index: float, body: Body, today: date, highest_m: float) -> float | None:
    """Return the one height above the inner floor at which the tubes give this UV index at the back, if within reach.

    Tubes that burn together are one field and hang together; combined lamps give their part from where they hang. Tubes
    that move through the mesh change strength: the answer is checked with the mesh they then shine through.
    """
    on = uv_sources_on(plan, today)
    tubes = [timed for _path, _lamp, timed in on if isinstance(timed, UvLamp)]
    x_m, back_m = spot_x_m(plan), back_height_m(plan, body)
    beside = sum(float(lamp.index_at(x_m, back_m)) for _path, lamp, timed in on if not isinstance(timed, UvLamp))
    if not tubes or beside >= index:
        return None
    for trial_m in (highest_m, min(highest_m, plan.enclosure.height_m) - 0.03):
        fields = tuple(uv_lamp(plan, lamp, today, trial_m) for lamp in tubes)
        distance = ultraviolet.distance_for(fields, index - beside, x_m)
        if distance is None:
            continue
        if distance < CLOSEST_TUBE_M:
            return None
        height_m = back_m + distance
        if height_m <= highest_m and through_mesh(plan, height_m) == through_mesh(plan, trial_m):
            return height_m
    return None


def index_at_back(plan: HabitatPlan, body: Body, today: date) -> float:
    """Return the UV index at the back at the basking spot."""
    return float(ultraviolet.index_at(uv_lamps_on(plan, today), spot_x_m(plan), back_height_m(plan, body), leaf_shades(plan)))
