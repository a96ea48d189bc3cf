"""The quantities of ultraviolet and day length."""

from datetime import date, time

import numpy as np

from husbandry.assessment import Band, Basis, BasisKind, Measure, Quantity, Reason, Verdict
from husbandry.climate.spread import UV, normals
from husbandry.light import ultraviolet
from husbandry.light.visible import lux_at
from husbandry.plan.casing import (
    Body,
    UvSources,
    lights,
    shades,
    spot_x_m,
    through_mesh,
    times_of,
    uv_lamp,
    uv_lamps_on,
    uv_sources,
    uv_sources_on,
)
from husbandry.plan.document import HabitatPlan, basking_top_m
from husbandry.plan.likelihood import Odds
from husbandry.plan.parts import UvLamp, hours_of, hours_of_any
from husbandry.species.leaves import Range, choose
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage
from husbandry.species.zones import ZONES

DECILE = 1.2816
LAMPS = Basis(BasisKind.ESTIMATE, note="lamp classes; a meter reading replaces them")
# A lamp that gives at least this share of the band's lower edge counts as UVB given, for the supplements.
WORKING_SHARE = 0.5
SESSIONS_H = 2.0  # in all, of the school of short sessions at dawn and dusk: what it gives is UVB given (common practice)
SESSIONS = "sessions"  # the school, and the hours a day it gives (common practice, no source)
SESSION_HOURS = (0.5, 3.0)
HOUR_H = 1.0  # one session
FULL_DAY_SHARE = 0.5  # of the hours of light, the least that still is "all day" (common practice)
PLACES = 81  # looked at along the length
WITHIN_SHARE = 0.8  # of the strongest UV
TOGETHER_M = 0.15  # between what is brightest, hottest and most UV (trade)
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
    return _dose_sed(uv_sources(plan, today), x_m, back_m) >= ultraviolet.dose_sed(least, SESSIONS_H)


def _dose_sed(sources: UvSources, x_m: float, back_m: float) -> float:
    """What all lamps give in a day, each for as long as it burns."""
    return sum(ultraviolet.dose_sed(float(lamp.index_at(x_m, back_m)), timed.hours_a_day) for _path, lamp, timed in sources)


def _hours_lit(sources: UvSources) -> float:
    """How many hours of the day any of them burns."""
    return hours_of_any([one for _path, _lamp, timed in sources for one in times_of(timed)])


def quantities(plan: HabitatPlan, profile: Profile, stage: Stage, body: Body, today: date, odds: Odds) -> list[Quantity]:
    """UV index at the back and in the shade, the distance that would be right, the lit share, and the hours of light."""
    wanted = wanted_index(plan, stage)
    lamps, sources = uv_lamps_on(plan, today), uv_sources(plan, today)
    x_m, back_m = spot_x_m(plan), back_height_m(plan, body)
    found = []
    if wanted is not None:
        zone = ZONES.get(profile.uv_zone.value)
        band = wanted.band(danger_high=zone.highest if zone else None)
        value = float(ultraviolet.index_at(lamps, x_m, back_m))
        sigma = ultraviolet.STRENGTH_SIGMA * (plan.calibration.uv_left if plan.calibration else 1.0)
        spread = DECILE * sigma * value
        drawn = value * (1 + sigma * normals()[:, UV]) if value else np.zeros(0)
        found.append(
            Quantity(
                "uv_back",
                "UVI",
                value,
                band.judge(value),
                Reason("uv.field", _described(plan, sources, back_m)),
                band.basis,
                band,
                value - spread,
                value + spread,
                school=f"uvb:{SESSIONS}" if in_sessions(plan) else band.school,
                likely=odds.of("uv_back", band, drawn),
            )
        )
        if sources:
            found.append(_distance(uv_sources_on(plan, today), wanted, x_m, back_m))
            found.append(_dose(sources, x_m, back_m, value, sigma))
            found += _hours(plan, stage, sources, wanted)
            x = np.linspace(0.0, plan.enclosure.length_m, 41)
            ground = ultraviolet.index_at(lamps, x, plan.ground.depth_m + body.back_m, shades(plan))
            dimmest = float(ground.min())
            shade = Band(None, max(0.5, 0.25 * (wanted.low or 0.0)), Basis(BasisKind.PRACTICE, note="always a place without UV"))
            reason = Reason("uv.shade", {"where": Measure(float(x[int(ground.argmin())]), "m")})
            found.append(Quantity("uv_shade", "UVI", dimmest, shade.judge(dimmest), reason, shade.basis, shade))
        if sources and stage.light.lit_share_percent and wanted.low:
            lit = choose(stage.light.lit_share_percent, plan.schools).band()
            share = 100 * ultraviolet.lit_share(lamps, plan.enclosure.length_m, back_m, wanted.low / 2)
            reason = Reason("uv.coverage", {"least": Measure(wanted.low / 2, "UVI")})
            found.append(Quantity("uv_coverage", "%", share, lit.judge(share), reason, lit.basis, lit, school=lit.school))
    found += _together(plan, stage, lamps, x_m, back_m)
    hours = choose(stage.light.hours, plan.schools).band()
    lit_hours = (hours_of(plan.daylight.off) - hours_of(plan.daylight.on)) % 24 or 24.0
    found.append(
        Quantity(
            "light_hours", "h", lit_hours, hours.judge(lit_hours), Reason("light.hours"), hours.basis, hours, school=hours.school
        )
    )
    return found


def _dose(sources: UvSources, x_m: float, back_m: float, index: float, sigma: float) -> Quantity:
    """What an animal would take that stayed on its spot while the lamps are on, and in two hours."""
    hours = _hours_lit(sources)
    short = f"{ultraviolet.dose_sed(index, SESSIONS_H):.1f}"
    told: dict[str, Measure | str | int] = {"hours": Measure(hours, "h"), "short": short}
    value = _dose_sed(sources, x_m, back_m)
    reach = DECILE * sigma * value
    basis = Basis(BasisKind.SOURCE, "WHO 2002; ISO/CIE 17166 (recalled)", "one dose is 100 J/m², weighted for burning")
    reason = Reason("uv.dose", told)
    return Quantity("uv_dose", "SED", value, Verdict.NOT_APPLICABLE, reason, basis, None, value - reach, value + reach)


def _hours(plan: HabitatPlan, stage: Stage, sources: UvSources, wanted: Range) -> list[Quantity]:
    """How long UV is given in a day: all day, or in short sessions; nothing to say where none is wanted."""
    if not wanted.high:
        return []
    hours = _hours_lit(sources)
    if in_sessions(plan):
        band = Band(*SESSION_HOURS, Basis(BasisKind.PRACTICE, note="one or two short times a day, two hours in all"))
        school = f"uvb:{SESSIONS}"
    else:
        light = choose(stage.light.hours, plan.schools)
        note = "most of the day; the animal chooses its own time under the lamp"
        band = Band(FULL_DAY_SHARE * (light.low or light.middle), None, Basis(BasisKind.PRACTICE, note=note))
        school = wanted.school
    return [Quantity("uv_hours", "h", hours, band.judge(hours), Reason("uv.hours"), band.basis, band, school=school)]


def _together(plan: HabitatPlan, stage: Stage, lamps: tuple[ultraviolet.Lamp, ...], x_m: float, back_m: float) -> list[Quantity]:
    """How far from the basking spot it is brightest, and most UV: animals go by light to find warmth and UV."""
    shining = lights(plan)
    if not shining or stage.heat.basking_surface_c is None:
        return []
    x = np.linspace(0.0, plan.enclosure.length_m, PLACES)
    bright = lux_at(shining, x, back_m)
    apart = [abs(float(x[bright.argmax()]) - x_m)]
    if lamps:
        index = ultraviolet.index_at(lamps, x, back_m)
        # A long tube is strong along much of its length: what counts is whether the spot has most of it.
        here = float(np.interp(x_m, x, index))
        apart.append(abs(float(x[index.argmax()]) - x_m) if here < WITHIN_SHARE * float(index.max()) else 0.0)
    band = Band(None, TOGETHER_M, Basis(BasisKind.PRACTICE, note="brightest, hottest and most UV belong together"))
    lux = float(np.interp(x_m, x, bright))
    reason = Reason("light.together", {"lux": f"{round(lux, -2):.0f}", "where": Measure(float(x[bright.argmax()]), "m")})
    return [Quantity("light_apart", "m", max(apart), band.judge(max(apart)), reason, band.basis, band)]


def _described(plan: HabitatPlan, sources: UvSources, back_m: float) -> dict[str, Measure | str | int]:
    if not sources:
        return {"lamps": 0}
    lamp = sources[0][1]
    mesh = through_mesh(plan, lamp.height_m)
    return {
        "lamps": len(sources),
        "kind": lamp.kind,
        "distance": Measure(lamp.height_m - back_m, "m"),
        "mesh": Measure(100 * plan.enclosure.mesh_open_share, "%") if mesh else "",
    }


def _distance(sources: UvSources, wanted: Range, x_m: float, back_m: float) -> Quantity:
    """The first lamp's height over the back, against the span of distances at which all lamps together give the band."""
    lamps = tuple(lamp for _path, lamp, _timed in sources)
    actual = lamps[0].height_m - back_m
    basis = Basis(BasisKind.SOURCE, "Keitz 1971 (recalled)", "lamp strength from its class")
    if all(lamp.passed == 0.0 for lamp in lamps) or not wanted.high:
        return Quantity("uv_distance", "m", actual, Verdict.NOT_APPLICABLE, Reason("uv.no_distance"), basis)
    near = ultraviolet.distance_for(lamps, wanted.high, x_m)
    far = ultraviolet.distance_for(lamps, wanted.low, x_m) if wanted.low else None
    if near is None and far is None:
        return Quantity("uv_distance", "m", actual, Verdict.UNKNOWN, Reason("uv.too_weak"), basis)
    band = Band(near, far, basis)
    aim = ultraviolet.distance_for(lamps, wanted.middle, x_m)
    parameters: dict[str, Measure | str | int] = {"right": Measure(aim, "m"), "lamps": len(lamps)} if aim is not None else {}
    return Quantity("uv_distance", "m", actual, band.judge(actual), Reason("uv.distance", parameters), basis, band)


def height_for_middle(plan: HabitatPlan, wanted: Range, body: Body, today: date, highest_m: float) -> float | None:
    """Return the one height above the inner floor at which the tubes give the middle of the band at the back, if within reach.

    Tubes that burn together are one field and hang together; combined lamps give their part from where they hang. Tubes
    that move through the mesh change strength: the answer is checked with the mesh they then shine through.
    """
    on = uv_sources_on(plan, today)
    tubes = [timed for _path, _lamp, timed in on if isinstance(timed, UvLamp)]
    x_m, back_m = spot_x_m(plan), back_height_m(plan, body)
    beside = sum(float(lamp.index_at(x_m, back_m)) for _path, lamp, timed in on if not isinstance(timed, UvLamp))
    if not tubes or beside >= wanted.middle:
        return None
    for trial_m in (highest_m, min(highest_m, plan.enclosure.height_m) - 0.03):
        fields = tuple(uv_lamp(plan, lamp, today, trial_m) for lamp in tubes)
        distance = ultraviolet.distance_for(fields, wanted.middle - beside, x_m)
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
    return float(ultraviolet.index_at(uv_lamps_on(plan, today), spot_x_m(plan), back_height_m(plan, body)))
