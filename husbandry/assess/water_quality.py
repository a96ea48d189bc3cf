"""What builds up in the water between changes: nitrate behind a filter, ammonia without one, from the protein that is fed."""

from typing import Final

from husbandry.animal.needs import swims
from husbandry.animal.subject import Subject
from husbandry.assessment import Band, Basis, BasisKind, Measure, Parameter, Quantity, Reason
from husbandry.climate.states import Climate
from husbandry.codes import ReasonCode
from husbandry.feeding.week_food import DAYS_A_WEEK, Fed
from husbandry.furnishing.water import (
    AMMONIA_OF_NITROGEN,
    NITRATE_OF_NITROGEN,
    before_change,
    nitrogen_mg_a_day,
    unionised_share,
)
from husbandry.inputs.water_changes import change_days, change_share, conditioner_ml, water_l

NITRATE_MOST: Final = 40.0  # mg/L (common practice, no source)
AMMONIA_MOST, AMMONIA_DANGER = 0.02, 0.2  # mg/L un-ionised (common practice of fish and amphibian keeping, no source)
USUAL_PH: Final = 7.5  # where nobody measured it (estimate)
LEAST_L: Final = 1.0
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
    """Nitrate, or un-ionised ammonia where nothing filters, just before each change, once it has settled."""
    plan, pool = subject.plan, subject.plan.pool
    if pool is None or not swims(plan, subject.profile) or water_l(plan) < LEAST_L:
        return []
    mg, days, share = nitrogen_mg(subject, fed), change_days(plan), change_share(plan)
    if mg is None or days < 1:
        return []
    stands = before_change(mg, water_l(plan), share, days)
    told: dict[str, Parameter] = {
        "nitrogen": mg,
        "litres": Measure(water_l(plan) / LITRES, "m3"),
        "changed": Measure(share * water_l(plan) / LITRES, "m3"),
        "days": days,
        "drops": f"{conditioner_ml(plan):.1f} ml",
    }
    if pool.filtered:
        band = Band(None, NITRATE_MOST, Basis(BasisKind.PRACTICE), near=NITRATE_MOST / 2)
        return [_made("nitrate", NITRATE_OF_NITROGEN * stands, band, Reason(ReasonCode.WATER_NITRATE, told))]
    ph = USUAL_PH if pool.ph is None else pool.ph
    warmest = max(state.predictions["water"].value for state in climate.states.values())
    free = unionised_share(warmest, ph)
    band = Band(None, AMMONIA_MOST, Basis(BasisKind.PRACTICE), danger_high=AMMONIA_DANGER, near=AMMONIA_MOST)
    told |= {"ph": f"{ph:g}", "water": Measure(warmest, "degC"), "free": 100 * free}
    return [_made("ammonia", AMMONIA_OF_NITROGEN * stands * free, band, Reason(ReasonCode.WATER_AMMONIA, told))]


def _made(key: str, value: float, band: Band, reason: Reason) -> Quantity:
    return Quantity(key, "mg/L", value, band.judge(value), reason, MODEL, band)
