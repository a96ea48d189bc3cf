"""The quantities of ultraviolet and day length."""

import numpy as np

from husbandry.animal.subject import Subject
from husbandry.animal.year import awake_hours, light_on
from husbandry.assess.probability import JointProbability
from husbandry.assessment import Band, Basis, BasisKind, Measure, Parameter, Quantity, Reason, Verdict
from husbandry.climate.spread import UV, normals
from husbandry.codes import ReasonCode
from husbandry.inputs.light_sources import UvSources, leaf_shades, lights, shades, times_of, uv_lamps_on, uv_sources, uv_sources_on
from husbandry.inputs.ultraviolet import (
    FULL_DAY_SHARE,
    SESSION_HOURS,
    SESSIONS,
    SESSIONS_H,
    _dose_sed,
    back_height_m,
    in_sessions,
    wanted_index,
)
from husbandry.light import ultraviolet
from husbandry.light.visible import lux_at
from husbandry.plan.equipment import hours_of_any
from husbandry.plan.geometry import spot_x_m, surface_m, through_mesh
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.leaves import Range, choose
from husbandry.species.stage import Stage
from husbandry.species.zones import ZONES

DECILE = 1.2816
LAMPS = Basis(BasisKind.ESTIMATE, note="lamp classes; a meter reading replaces them")
PLACES = 81  # looked at along the length
WITHIN_SHARE = 0.8  # of the strongest UV
TOGETHER_M = 0.15  # between what is brightest, hottest and most UV (trade)


def _hours_lit(sources: UvSources) -> float:
    """How many hours of the day any of them burns."""
    return hours_of_any([one for _path, _lamp, timed in sources for one in times_of(timed)])


def quantities(subject: Subject, joint: JointProbability) -> list[Quantity]:
    """UV index at the back and in the shade, the distance that would be right, the lit share, and the hours of light."""
    plan, stage = subject.plan, subject.stage
    wanted = wanted_index(plan, stage)
    found = [] if wanted is None else _ultraviolet(subject, wanted, joint)
    found += _together(plan, stage, uv_lamps_on(plan, subject.today), spot_x_m(plan), back_height_m(plan, subject.body))
    return found + _day_length(subject)


def at_the_back(subject: Subject, joint: JointProbability) -> list[Quantity]:
    """The UV index at the back alone; nothing where none is wanted."""
    wanted = wanted_index(subject.plan, subject.stage)
    return [] if wanted is None else [_at_the_back(subject, wanted, _index_at_back(subject), joint)]


def _day_length(subject: Subject) -> list[Quantity]:
    """Today's hours of light, and the shortest and longest day of the year to come, where it changes."""
    plan, profile, today = subject.plan, subject.profile, subject.today
    hours = choose(subject.stage.light.hours, plan.schools).band()
    now = light_on(plan, profile, today)

    def judged(key: str, lit_hours: float, reason: Reason) -> Quantity:
        return Quantity(key, "h", lit_hours, hours.judge(lit_hours), reason, hours.basis, hours, school=hours.school)

    if now.rest:  # its own days are too short for it awake, and are meant to be
        reason = Reason(ReasonCode.LIGHT_HOURS_AT_REST)
        found = [Quantity("light_hours", "h", now.hours, Verdict.NOT_APPLICABLE, reason, hours.basis)]
    else:
        found = [judged("light_hours", now.hours, Reason(ReasonCode.LIGHT_HOURS))]
    ends = zip(("light_hours_least", "light_hours_most"), awake_hours(plan, profile, today), strict=False)
    for key, week in ends:
        found.append(judged(key, week.hours, Reason(ReasonCode.LIGHT_HOURS_ON, {"day": week.day.isoformat()})))
    return found


def _ultraviolet(subject: Subject, wanted: Range, joint: JointProbability) -> list[Quantity]:
    """What the UV lamps give, against the index that is wanted at the back."""
    plan, stage, today = subject.plan, subject.stage, subject.today
    lamps, sources = uv_lamps_on(plan, today), uv_sources(plan, today)
    x_m, back_m, leaves = spot_x_m(plan), back_height_m(plan, subject.body), leaf_shades(plan)
    value, sigma = _index_at_back(subject)
    found = [_at_the_back(subject, wanted, (value, sigma), joint)]
    if not sources:
        return found
    found.append(_distance(uv_sources_on(plan, today), wanted, x_m, back_m))
    found.append(_dose(sources, (x_m, back_m, leaves), value, sigma))
    found += _hours(plan, stage, sources, wanted)
    x = np.linspace(0.0, plan.enclosure.length_m, 41)
    backs_m = [surface_m(plan, place) + subject.body.back_m for place in x.tolist()]
    ground = ultraviolet.index_at(lamps, x, backs_m, shades(plan))
    dimmest = float(ground.min())
    shade = Band(None, max(0.5, 0.25 * (wanted.low or 0.0)), Basis(BasisKind.PRACTICE, note="always a place without UV"))
    reason = Reason(ReasonCode.UV_SHADE, {"where": Measure(float(x[int(ground.argmin())]), "m")})
    found.append(Quantity("uv_shade", "UVI", dimmest, shade.judge(dimmest), reason, shade.basis, shade))
    if stage.light.lit_share_percent and wanted.low:
        lit = choose(stage.light.lit_share_percent, plan.schools).band()
        share = 100 * ultraviolet.lit_share(lamps, plan.enclosure.length_m, back_m, wanted.low / 2)
        reason = Reason(ReasonCode.UV_COVERAGE, {"least": Measure(wanted.low / 2, "UVI")})
        found.append(Quantity("uv_coverage", "%", share, lit.judge(share), reason, lit.basis, lit, school=lit.school))
    return found


def _index_at_back(subject: Subject) -> tuple[float, float]:
    """The UV index at the back on the basking spot, and the standard deviation of the lamps' strength as a share of it."""
    plan = subject.plan
    lamps, back_m = uv_lamps_on(plan, subject.today), back_height_m(plan, subject.body)
    sigma = ultraviolet.STRENGTH_SIGMA * (plan.calibration.uv_left if plan.calibration else 1.0)
    return float(ultraviolet.index_at(lamps, spot_x_m(plan), back_m, leaf_shades(plan))), sigma


def _at_the_back(subject: Subject, wanted: Range, index: tuple[float, float], joint: JointProbability) -> Quantity:
    """The UV index at the back, with the standard deviation of the lamps' strength as a share of it."""
    plan, (value, sigma) = subject.plan, index
    zone = ZONES.get(subject.profile.uv_zone.value)
    band = wanted.band(danger_high=zone.highest if zone else None)
    spread = DECILE * sigma * value
    drawn = value * (1 + sigma * normals()[:, UV]) if value else np.zeros(0)
    described = _described(plan, uv_sources(plan, subject.today), back_height_m(plan, subject.body))
    return Quantity(
        "uv_back",
        "UVI",
        value,
        band.judge(value),
        Reason(ReasonCode.UV_FIELD, described),
        band.basis,
        band,
        value - spread,
        value + spread,
        school=f"uvb:{SESSIONS}" if in_sessions(plan) else band.school,
        likely=joint.of("uv_back", band, drawn),
    )


def _dose(sources: UvSources, place: tuple[float, float, tuple[ultraviolet.Shade, ...]], index: float, sigma: float) -> Quantity:
    """What an animal would take that stayed on its spot while the lamps are on, and in two hours."""
    hours = _hours_lit(sources)
    short = ultraviolet.dose_sed(index, SESSIONS_H)
    told: dict[str, Parameter] = {"hours": Measure(hours, "h"), "short": short}
    value = _dose_sed(sources, *place)
    reach = DECILE * sigma * value
    basis = Basis(BasisKind.SOURCE, "WHO 2002; ISO/CIE 17166 (recalled)", "one dose is 100 J/m², weighted for burning")
    reason = Reason(ReasonCode.UV_DOSE, told)
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
        band = Band(FULL_DAY_SHARE * light.least, None, Basis(BasisKind.PRACTICE, note=note))
        school = wanted.school
    return [Quantity("uv_hours", "h", hours, band.judge(hours), Reason(ReasonCode.UV_HOURS), band.basis, band, school=school)]


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
    reason = Reason(ReasonCode.LIGHT_TOGETHER, {"lux": lux, "where": Measure(float(x[bright.argmax()]), "m")})
    return [Quantity("light_apart", "m", max(apart), band.judge(max(apart)), reason, band.basis, band)]


def _described(plan: HabitatPlan, sources: UvSources, back_m: float) -> dict[str, Parameter]:
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
        return Quantity("uv_distance", "m", actual, Verdict.NOT_APPLICABLE, Reason(ReasonCode.UV_NO_DISTANCE), basis)
    near = ultraviolet.distance_for(lamps, wanted.high, x_m)
    far = ultraviolet.distance_for(lamps, wanted.low, x_m) if wanted.low else None
    if near is None and far is None:
        return Quantity("uv_distance", "m", actual, Verdict.UNKNOWN, Reason(ReasonCode.UV_TOO_WEAK), basis)
    band = Band(near, far, basis)
    aim = ultraviolet.distance_for(lamps, wanted.middle, x_m)
    parameters: dict[str, Parameter] = {"right": Measure(aim, "m"), "lamps": len(lamps)} if aim is not None else {}
    return Quantity("uv_distance", "m", actual, band.judge(actual), Reason(ReasonCode.UV_DISTANCE, parameters), basis, band)
