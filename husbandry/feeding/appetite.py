"""Meals refused and weight lost, against what the species, the season and a rest make normal."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Final

from husbandry.animal.weighings import Weighing
from husbandry.animal.year import rest_of, terms_of
from husbandry.diet import refusals
from husbandry.feeding.history import History
from husbandry.feeding.schedule import fasts_of
from husbandry.light.daylength import shifted
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Dormancy, Profile
from husbandry.units import DAYS_A_MONTH
from husbandry.upkeep.recur import Season

DISH_DAYS, DISH_OFTEN = 14, 4  # fillings of a calcium dish within so many days that are a sign (trade)
LAST_WEIGHINGS: Final = 6  # among which the highest is what the animal weighed before
TELLING_DAYS: Final = 14  # between two weighings, before a rate says anything
TORTOISE_MONTH_PERCENT: Final = 1.0  # the most a hibernating tortoise loses in a month (common practice, no source)


@dataclass(frozen=True)
class RestLoss:
    """What a rest has cost: masses in kg and their days, the loss in %, and the loss at which it is broken off.

    `month_percent` is the loss by the month where it is told from two weeks or more, `month_limit` the most a month may cost.
    """

    before: date
    before_kg: float
    last: date
    last_kg: float
    lost_percent: float
    limit_percent: float
    month_percent: float | None = None
    month_limit: float | None = None

    @property
    def over(self) -> bool:
        return self.lost_percent >= self.limit_percent

    @property
    def fast(self) -> bool:
        """Tell whether it loses faster than it may, though the whole is not yet too much."""
        return self.month_percent is not None and self.month_limit is not None and self.month_percent > self.month_limit


def rest_loss(plan: HabitatPlan, profile: Profile, weighings: tuple[Weighing, ...], today: date) -> RestLoss | None:
    """Compare the last weighing of a rest (winter or summer) that is going on with the last one before it, else its first.

    None out of the rest, and until there are two weighings to compare.
    """
    going_on = _rest_now(plan, profile, today)
    if going_on is None:
        return None
    falls, terms = going_on
    weighed = [(item.day, item.mass_kg) for item in weighings if item.mass_kg is not None and item.day <= today]
    earlier = [item for item in weighed if item[0] <= falls]
    since = [item for item in weighed if item[0] > falls]
    if not since or len(since) + len(earlier) < 2:
        return None
    (before, before_kg), (last, last_kg) = (earlier[-1] if earlier else since[0]), since[-1]
    lost, days = max(100 * (1 - last_kg / before_kg), 0.0), (last - before).days
    by_month = DAYS_A_MONTH * lost / days if days >= TELLING_DAYS else None
    slow = profile.group == "tortoise" and terms is not None and terms.kind == "hibernation"
    return RestLoss(before, before_kg, last, last_kg, lost, _limit(terms), by_month, TORTOISE_MONTH_PERCENT if slow else None)


def _rest_now(plan: HabitatPlan, profile: Profile, today: date) -> tuple[date, Dormancy | None] | None:
    """The first day of a rest that is going on, and its terms: the winter rest of the plan, else days without food set for one."""
    if plan.year.cooling is not None:
        rest = rest_of(plan.year.cooling, profile)
        if rest.falls <= today < rest.wakes:
            return rest.falls, rest.terms
    own = next((item for item in plan.feeding.fasts if item.why == "rest" and item.first <= today <= item.last), None)
    terms = next((item for item in profile.dormancy if item.kind == "summer rest"), terms_of(profile))
    return None if own is None else (own.first, terms)


def _limit(terms: Dormancy | None) -> float:
    known = terms.weight_limit_percent if terms is not None else None
    return known.value if known is not None else refusals.LOSS_LIMIT_PERCENT


def breeding_fast(plan: HabitatPlan, profile: Profile, today: date) -> Dormancy | None:
    """The species' breeding fast where its season holds today, or where the keeper says the animal is in it."""
    terms = next((item for item in profile.dormancy if item.kind == "breeding fast"), None)
    if terms is None or plan.feeding.state == "off-feed":
        return terms
    if terms.from_month is None or terms.until_month is None:
        return None
    season = Season.of_months(terms.from_month, terms.until_month)
    return terms if season.holds(shifted(today, southern=plan.southern)) else None


def without(
    plan: HabitatPlan, profile: Profile, history: History, today: date, *, grown: bool, interval_days: int
) -> refusals.Without | None:
    """Judge the meals refused in a row; None where the last one was eaten."""
    fast = breeding_fast(plan, profile, today)
    masses = [item.mass_kg for item in history.weighings if item.mass_kg is not None][-LAST_WEIGHINGS:]
    return refusals.judge(
        profile.diet,
        refusals.Refusals(history.refusals, history.last_eaten, interval_days),
        today,
        grown=grown,
        around=refusals.Circumstances(
            arrived=plan.upkeep.arrived,
            shedding_since=next((item.first for item in plan.feeding.fasts if item.why == "shed"), None),
            resting=any(item.holds(today) and item.why == "rest" for item in fasts_of(plan, profile)),
            breeding_days=None if fast is None else _longest_days(fast),
        ),
        loss=refusals.Loss(100 * (1 - masses[-1] / max(masses)) if masses else 0.0, _limit(fast)),
    )


def _longest_days(fast: Dormancy) -> int:
    """How long it may go, in days."""
    return refusals.FAST_DAYS if fast.weeks is None else round(7 * fast.weeks.most)


def not_eating(names: tuple[str, ...], history: History) -> dict[str, int]:
    """By name, in how many meals in a row an animal of a group took nothing, as far as was told who ate; the hungry ones only."""
    told = [meal for meal in history.meals if meal.who is not None and meal.outcome != "skipped"]
    found: dict[str, int] = {}
    for name in names:
        missed = 0
        for meal in reversed(told):
            if name in (meal.who or ()):
                break
            missed += 1
        if missed:
            found[name] = missed
    return found


def dish_emptied_often(filled: Sequence[date], today: date) -> bool:
    """Tell whether a dish of calcium was filled again and again of late: a sign that diet or UV falls short (trade)."""
    return sum(0 <= (today - day).days <= DISH_DAYS for day in filled) >= DISH_OFTEN
