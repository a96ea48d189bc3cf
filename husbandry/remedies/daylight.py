"""What mends a year whose days are too short or too long: another year, or the same light all year."""

from husbandry.animal.year import awake_hours
from husbandry.assessment import Change, Finding, Remedy, Verdict
from husbandry.codes import RemedyCode
from husbandry.plan.equipment import hours_of
from husbandry.remedies.situation import Situation
from husbandry.species.leaves import choose
from husbandry.units import clock_text


def other_year(at: Situation, finding: Finding) -> Remedy | None:
    """The light as in its native range where all its days suit, else the same all year, in the middle of what is wanted."""
    plan = at.plan
    if plan.year.mode == "fixed":
        return finding.remedy
    band = choose(at.stage.light.hours, plan.schools).band()
    native = plan.model_copy(update={"year": plan.year.model_copy(update={"mode": "native"})})
    ends = awake_hours(native, at.profile, at.today) if at.profile.native_latitude is not None else ()
    if plan.year.mode != "native" and ends and all(band.judge(day.hours) is Verdict.INSIDE for day in ends):
        return Remedy(RemedyCode.LIGHT_NATIVE, {}, (Change("year.mode", "native"),))
    off = clock_text((hours_of(plan.daylight.on) + choose(at.stage.light.hours, plan.schools).middle) % 24)
    return Remedy(RemedyCode.LIGHT_ALL_YEAR, {"off": off}, (Change("year.mode", "fixed"), Change("daylight.off", off)))
