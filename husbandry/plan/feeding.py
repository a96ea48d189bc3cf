"""The feeding of the next four weeks: rations, dates and dusting."""

from dataclasses import dataclass
from datetime import date, timedelta
from typing import Final

from husbandry.assessment import Measure, Parameter, Quantity, Reason, Verdict
from husbandry.diet.condition import RIGHT
from husbandry.diet.dusting import Past, Product, rota, turn_given
from husbandry.plan.document import HabitatPlan
from husbandry.plan.eating import Fed, own_days, powders_of
from husbandry.plan.result import FeedDay, Menu
from husbandry.plan.year import rest_of
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage
from husbandry.upkeep.feeds import Fast, FeedRule, feeds

MENU_DAYS = 28
# The rota is counted from the first feed, however long ago; older starts begin anew on a whole number of intervals.
LONGEST_LOOK_BACK_DAYS = 730
EATEN: Final = ("eaten", "part")
Carried = tuple[tuple[date, tuple[str, ...]], ...]  # meals and the powders on them, oldest first


def recent_start(starts: date, interval: int, today: date) -> date:
    """Return a start of the same rhythm that does not lie ages back."""
    while (today - starts).days > LONGEST_LOOK_BACK_DAYS:
        starts += timedelta(days=LONGEST_LOOK_BACK_DAYS // (2 * interval) * interval)
    return starts


@dataclass(frozen=True)
class Meal:
    """A meal on record: its day, "eaten", "part", "refused" or "skipped", the powders and the foods, and who of a group ate.

    `who` is None where that was not told by name.
    """

    day: date
    outcome: str
    products: tuple[str, ...] = ()
    foods: tuple[str, ...] = ()
    who: tuple[str, ...] | None = None


@dataclass(frozen=True)
class Line:
    """What a run of feeds is made of: the rule of the days, the powders, where their turns are counted from, and the past."""

    rule: FeedRule
    powders: tuple[Product, ...]
    dusting_from: date
    past: Past


def line_of(
    plan: HabitatPlan,
    profile: Profile,
    stage: Stage,
    interval: float,
    *,
    uvb: bool,
    starts: date,
    today: date,
    meals: tuple[Meal, ...] = (),
) -> Line:
    """Work out the line of feeds; without any meal on record those before `today` count as given as planned."""
    feeding = plan.feeding
    weekdays, whole = tuple(sorted(set(feeding.weekdays))), max(round(interval), 1)
    first = recent_start(starts, 7 * feeding.every_weeks if weekdays else whole, today)
    last = meals[-1].day if meals else None
    rule = FeedRule(whole, first, last, fasts_of(plan, profile), weekdays, feeding.every_weeks if weekdays else 1)
    powders = powders_of(plan, stage, uvb=uvb)
    dusting_from = recent_start(plan.feeding.supplement_starts or first, 1, today)
    given = tuple((meal.day, meal.products) for meal in meals if meal.outcome in EATEN)
    eaten = given if meals else _as_planned(rule, powders, dusting_from, today)
    return Line(rule, powders, dusting_from, past_of(eaten, powders, dusting_from))


def _as_planned(rule: FeedRule, powders: tuple[Product, ...], dusting_from: date, today: date) -> Carried:
    """The meals before `today` as the plan has them."""
    planned = [item.day for item in feeds(rule, rule.starts, today)]
    placed = rota(planned, powders, dusting_from)
    return tuple((day, tuple(item.product.name for item in placed[day])) for day in planned)


def menu(
    plan: HabitatPlan, profile: Profile, stage: Stage, fed: Fed, *, uvb: bool, today: date, meals: tuple[Meal, ...] = ()
) -> Menu:
    """Lay out the feeds from `today` for four weeks, after the meals on record."""
    feeding, starts = stage.feeding, plan.feeding.starts or today
    line = line_of(plan, profile, stage, fed.interval_days, uvb=uvb, starts=starts, today=today, meals=meals)
    planned = [feed.day for feed in feeds(line.rule, today, today + timedelta(days=MENU_DAYS), today=today if meals else None)]
    placed = rota(planned, line.powders, line.dusting_from, line.past)
    why_none = feeding.no_supplements_because.value if feeding.no_supplements_because else ""
    if plan.feeding.supplements is not None:
        why_none = ""
    return Menu(
        fed.rations,
        fed.interval_days,
        feeding.time_of_day.value,
        tuple(FeedDay(day, placed[day]) for day in planned),
        uvb,
        plan.feeding.starts is not None,
        why_none,
        fed,
    )


def fasts_of(plan: HabitatPlan, profile: Profile) -> tuple[Fast, ...]:
    """Days without food: those the keeper set, and the winter rest from the day after the last meal until it is awake."""
    own = tuple(Fast(item.first, item.last, item.why) for item in plan.feeding.fasts)
    if plan.year.cooling is None:
        return own
    rest = rest_of(plan.year.cooling, profile)
    day = timedelta(days=1)
    return (*own, Fast(rest.last_meal + day, rest.wakes - day, "rest"))


def past_of(meals: Carried, products: tuple[Product, ...] = (), starts: date = date.min) -> Past:
    """Fold meals eaten, oldest first, into what the rota needs of them; turns of `products` are counted from `starts`."""
    last: dict[str, date] = {}
    since: dict[str, int] = {}
    for day, carried in meals:
        since = {name: count + 1 for name, count in since.items()}
        for name in carried:
            last[name], since[name] = day, 0
    turns = {
        product.name: turn_given(product, [day for day, names in meals if product.name in names], starts) for product in products
    }
    given = {name: turn for name, turn in turns.items() if turn is not None}
    return Past(last, since, meals[-1][0] if meals else None, len(meals), given)


def quantities(plan: HabitatPlan, stage: Stage, menu: Menu) -> list[Quantity]:
    """The interval against the stage's rule, and the amount of each part of a feed."""
    band = choose(stage.feeding.interval_days, plan.schools).band()
    chosen = own_days(plan)
    moved = menu.fed is not None and menu.fed.step.moved == "interval"
    reason = Reason("feed.interval", {"by": "keeper" if chosen else "condition" if moved else "stage"})
    verdict = Verdict.INSIDE if moved and not chosen else band.judge(menu.interval_days)
    days = float(menu.interval_days)
    found = [Quantity("feed_interval", "d", days, verdict, reason, band.basis, band, school=band.school)]
    for index, ration in enumerate(menu.rations):
        key, basis = f"ration_{index + 1}", ration.meal.origin
        said: dict[str, Parameter] = {"food": ration.meal.food, "limit": ration.meal.prey_limit}
        if ration.limit is not None:
            said["most"] = Measure(ration.limit.at_most_m, "m")
            said["measured"] = int(ration.limit.measured)
        if ration.moved != 1.0:
            scored = plan.feeding.condition not in (None, RIGHT)
            said |= {"condition": int(plan.feeding.condition or 0)} if scored else {"gravid": 1}
        if ration.count is not None or ration.mass_kg is not None:
            code, unit = ("feed.count", "1") if ration.count is not None else ("feed.mass", "kg")
            low, high = ration.count or ration.mass_kg or (0, 0)
            middle = (low + high) / 2
            found.append(Quantity(key, unit, middle, Verdict.NOT_APPLICABLE, Reason(code, said), basis, low=low, high=high))
        elif ration.needs_mass:
            reason = Reason("feed.mass", said)
            found.append(Quantity(key, "kg", None, Verdict.UNKNOWN, reason, basis, question="animal.mass_kg"))
        else:
            said["portion"] = ration.meal.portion
            found.append(Quantity(key, "1", None, Verdict.NOT_APPLICABLE, Reason("feed.portion", said), basis))
    return found
