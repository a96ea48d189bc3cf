"""What builds up in the water between changes: nitrate behind a filter, ammonia without one, from the protein that is fed."""

from dataclasses import replace
from typing import Final

from husbandry.animal.subject import Subject
from husbandry.assessment import SEASONS, Band, Basis, BasisKind, Measure, Parameter, Quantity, Reason, Verdict
from husbandry.climate.states import Climate
from husbandry.codes import ReasonCode
from husbandry.feeding.week_food import DAYS_A_WEEK, Fed
from husbandry.furnishing.water import (
    AMMONIA_OF_NITROGEN,
    CYCLING_WEEKS,
    NITRATE_OF_NITROGEN,
    TURNOVER_H,
    before_change,
    misting_seconds,
    nitrogen_mg_a_day,
    reservoir_days,
    turnover_h,
    unionised_share,
)
from husbandry.inputs.water_changes import change_days, change_share, conditioner_ml, water_l
from husbandry.plan.habitat import HabitatPlan

RESERVOIR_DAYS: Final = 3.0  # of water, that a weekend away takes (common practice, no source)
MOST_WEEKS: Final = 520.0
NITRATE_MOST: Final = 40.0  # mg/L (common practice, no source)
AMMONIA_MOST, AMMONIA_DANGER = 0.02, 0.2  # mg/L un-ionised (common practice of fish and amphibian keeping, no source)
USUAL_PH: Final = 7.5  # where nobody measured it (estimate)
LEAST_L: Final = 1.0
IN_WATER: Final = ("aquatic", "semi-aquatic")
MODEL: Final = Basis(BasisKind.ESTIMATE, note="a filter that has settled; what is not eaten and rots comes on top")
LITRES: Final = 1000.0


def nitrogen_mg(subject: Subject, fed: Fed) -> float | None:
    """What all that live here bring into the water a day, mg of nitrogen; None where their food's protein is not known."""
    week = fed.week
    if week is None or week.protein_share is None:
        return None
    grams = week.protein_share * week.dry_g / DAYS_A_WEEK * subject.plan.animal.count
    return nitrogen_mg_a_day(grams)


def quantities(subject: Subject, climate: Climate, fed: Fed) -> list[Quantity]:
    """What builds up in the water between changes, the filter that should hold it, and the mister's pump."""
    return [*_builds_up(subject, climate, fed), *_filter(subject), *_mister(subject.plan)]


def _lived_in(subject: Subject) -> bool:
    """Tell whether it lives in water, or half in it, that is more than a bowl."""
    return subject.plan.pool is not None and subject.profile.habit in IN_WATER and water_l(subject.plan) >= LEAST_L


def _filters(subject: Subject) -> bool:
    """Tell whether a filter turns ammonia into nitrate: one that has run for weeks."""
    pool = subject.plan.pool
    weeks = _weeks(subject)
    return pool is not None and pool.filtered and (weeks is None or weeks >= CYCLING_WEEKS[0])


def _weeks(subject: Subject) -> float | None:
    """For how many weeks the filter has run; None where that is not said."""
    pool = subject.plan.pool
    since = None if pool is None else pool.filter_since
    return None if since is None else max((subject.today - since).days / DAYS_A_WEEK, 0.0)


def _builds_up(subject: Subject, climate: Climate, fed: Fed) -> list[Quantity]:
    """Nitrate, or un-ionised ammonia where nothing filters, just before each change, once it has settled."""
    plan, pool = subject.plan, subject.plan.pool
    if pool is None or not _lived_in(subject):
        return []
    filters = _filters(subject)
    mg, days, share = nitrogen_mg(subject, fed), change_days(plan), change_share(plan)
    if days < 1:
        return []
    if mg is None:
        reason = Reason(ReasonCode.WATER_NO_PROTEIN)
        return [Quantity("nitrate" if filters else "ammonia", "mg/L", None, Verdict.UNKNOWN, reason, MODEL)]
    stands = before_change(mg, water_l(plan), share, days)
    told: dict[str, Parameter] = {
        "nitrogen": mg,
        "litres": Measure(water_l(plan) / LITRES, "m3"),
        "changed": Measure(share * water_l(plan) / LITRES, "m3"),
        "days": days,
        "drops": f"{conditioner_ml(plan):.1f} ml",
    }
    if filters:
        band = Band(None, NITRATE_MOST, Basis(BasisKind.PRACTICE), near=NITRATE_MOST / 2)
        return [_made("nitrate", NITRATE_OF_NITROGEN * stands, band, Reason(ReasonCode.WATER_NITRATE, told))]
    ph = USUAL_PH if pool.ph is None else pool.ph
    warmest = max(state.predictions["water"].value for state in climate.states.values())
    free = unionised_share(warmest, ph)
    band = Band(None, AMMONIA_MOST, Basis(BasisKind.PRACTICE), danger_high=AMMONIA_DANGER, near=AMMONIA_MOST)
    told |= {"ph": f"{ph:g}", "water": Measure(warmest, "degC"), "free": 100 * free}
    return [_made("ammonia", AMMONIA_OF_NITROGEN * stands * free, band, Reason(ReasonCode.WATER_AMMONIA, told))]


def _filter(subject: Subject) -> list[Quantity]:
    """How often an hour the filter moves the water, and for how many weeks it has run."""
    pool = subject.plan.pool
    if pool is None or not pool.filtered or not _lived_in(subject):
        return []
    found = []
    if pool.filter_m3_h is not None:
        litres = water_l(subject.plan)
        times = turnover_h(LITRES * pool.filter_m3_h, litres)
        band = Band(*TURNOVER_H, Basis(BasisKind.PRACTICE))
        told: dict[str, Parameter] = {"flow": Measure(pool.filter_m3_h, "m3"), "litres": Measure(litres / LITRES, "m3")}
        reason = Reason(ReasonCode.WATER_TURNOVER, told)
        found.append(Quantity("filter_turnover", "1/h", times, band.judge(times), reason, band.basis, band))
    weeks = _weeks(subject)
    if weeks is not None:
        wanted = Band(CYCLING_WEEKS[1], None, Basis(BasisKind.PRACTICE), near=CYCLING_WEEKS[1] - CYCLING_WEEKS[0])
        since = Reason(ReasonCode.WATER_FILTER_WEEKS, {"least": CYCLING_WEEKS[0], "most": CYCLING_WEEKS[1]})
        shown, verdict = min(weeks, MOST_WEEKS) * DAYS_A_WEEK, wanted.judge(weeks)
        in_days = replace(wanted, low=CYCLING_WEEKS[1] * DAYS_A_WEEK, near=(wanted.near or 0.0) * DAYS_A_WEEK)
        found.append(Quantity("filter_age", "d", shown, verdict, since, wanted.basis, in_days))
    return found


def _mister(plan: HabitatPlan) -> list[Quantity]:
    """For how many seconds the pump sprays, and how long its reservoir lasts, in the season that takes more."""
    mister = plan.mister
    waters = [plan.misting.of(season) for season in SEASONS]
    most = max(waters, key=lambda water: sum(time.grams for time in water.times))
    if mister is None or not most.times:
        return []
    seconds = [misting_seconds(time.grams, mister.nozzles, mister.nozzle_g_min) for time in most.times]
    listed = ", ".join(f"{time.at:%H:%M} {second:.0f} s" for time, second in zip(most.times, seconds, strict=True))
    told: dict[str, Parameter] = {"times": listed, "nozzles": mister.nozzles, "each": mister.nozzle_g_min}
    reason = Reason(ReasonCode.WATER_SPRAYS, told)
    found = [Quantity("misting_seconds", "s", max(seconds), Verdict.NOT_APPLICABLE, reason, MODEL)]
    if mister.reservoir_m3 is not None:
        days = reservoir_days(LITRES * mister.reservoir_m3, sum(time.grams for time in most.times))
        band = Band(RESERVOIR_DAYS, None, Basis(BasisKind.PRACTICE), near=RESERVOIR_DAYS / 2)
        why = Reason(ReasonCode.WATER_RESERVOIR, {"litres": Measure(mister.reservoir_m3, "m3")})
        found.append(Quantity("reservoir", "d", days, band.judge(days), why, band.basis, band))
    return found


def _made(key: str, value: float, band: Band, reason: Reason) -> Quantity:
    return Quantity(key, "mg/L", value, band.judge(value), reason, MODEL, band)
