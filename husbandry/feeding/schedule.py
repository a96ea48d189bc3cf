"""The feeding of the next four weeks: rations, dates and dusting."""

from dataclasses import dataclass
from datetime import date, timedelta

from husbandry.animal.subject import Subject
from husbandry.animal.year import rest_of
from husbandry.diet.dusting import Past, Product, rota, turn_given
from husbandry.feeding.history import EATEN, RecordedMeal
from husbandry.feeding.menu import FeedDay, Menu
from husbandry.feeding.servings import Serving, dustable, powder_days, serve, servings_of, turns_given
from husbandry.feeding.week_food import Carrying, Fed, powders_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Profile
from husbandry.upkeep.feeds import FastDays, FeedRule, feeds

MENU_DAYS = 28
# The rota is counted from the first feed, however long ago; older starts begin anew on a whole number of intervals.
LONGEST_LOOK_BACK_DAYS = 730
Carried = tuple[tuple[date, tuple[str, ...]], ...]  # meals and the powders on them, oldest first


def recent_start(starts: date, interval: int, today: date) -> date:
    """Return a start of the same rhythm that does not lie ages back."""
    while (today - starts).days > LONGEST_LOOK_BACK_DAYS:
        starts += timedelta(days=LONGEST_LOOK_BACK_DAYS // (2 * interval) * interval)
    return starts


@dataclass(frozen=True)
class FeedLine:
    """What a run of feeds is made of: the rule of the days, the powders, where their turns are counted from, and the past."""

    rule: FeedRule
    powders: tuple[Product, ...]
    dusting_from: date
    past: Past


def line_of(
    subject: Subject, fed: Fed, *, uvb: bool, starts: date, meals: tuple[RecordedMeal, ...] = (), parts: tuple[Serving, ...] = ()
) -> FeedLine:
    """Work out the line of feeds; without any meal on record those before today count as given as planned.

    `parts` are what the feeds hold: where prey comes less often than the rest, only meals with prey count for the powders.
    """
    interval = fed.interval_days
    plan, profile, stage, today = subject.plan, subject.profile, subject.stage, subject.today
    feeding = plan.feeding
    weekdays, whole = tuple(sorted(set(feeding.weekdays))), max(round(interval), 1)
    first = recent_start(starts, 7 * feeding.every_weeks if weekdays else whole, today)
    last = meals[-1].day if meals else None
    rule = FeedRule(whole, first, last, fasts_of(plan, profile), weekdays, feeding.every_weeks if weekdays else 1)
    powders = powders_of(plan, stage, uvb=uvb)
    if plan.feeding.supplements is None and not dustable(parts):
        powders = ()  # a powder diet alone carries its own
    dusting_from = recent_start(plan.feeding.supplement_starts or first, 1, today)
    given = tuple(
        (meal.day, meal.products)
        for meal in meals
        if meal.outcome in EATEN and (meal.products or not meal.foods or fed.carrying.goes_on(meal.foods))
    )
    eaten = given if meals else _as_planned(rule, powders, dusting_from, today, parts, fed.carrying)
    return FeedLine(rule, powders, dusting_from, past_of(eaten, powders, dusting_from))


def _as_planned(
    rule: FeedRule, powders: tuple[Product, ...], dusting_from: date, today: date, parts: tuple[Serving, ...], carrying: Carrying
) -> Carried:
    """The meals before `today` that carry powder, as the plan has them."""
    planned = [item.day for item in feeds(rule, rule.starts, today)]
    with_powder = powder_days(serve(parts, planned, dusting_from, {}), carrying)
    placed = rota(with_powder, powders, dusting_from)
    return tuple((day, tuple(item.product.name for item in placed[day])) for day in with_powder)


def menu(subject: Subject, fed: Fed, *, uvb: bool, meals: tuple[RecordedMeal, ...] = ()) -> Menu:
    """Lay out the feeds from today for four weeks, after the meals on record."""
    plan, stage, today = subject.plan, subject.stage, subject.today
    feeding, starts = stage.feeding, plan.feeding.starts or today
    parts = servings_of(plan, fed, subject.body)
    line = line_of(subject, fed, uvb=uvb, starts=starts, meals=meals, parts=parts)
    planned = [feed.day for feed in feeds(line.rule, today, today + timedelta(days=MENU_DAYS), today=today if meals else None)]
    offered = {food: meal.day for meal in meals if meal.outcome != "skipped" for food in meal.foods}
    turns = turns_given(parts, tuple((meal.day, meal.foods) for meal in meals if meal.outcome != "skipped"), line.dusting_from)
    with_powder = powder_days(serve(parts, planned, line.dusting_from, offered, turns), fed.carrying)
    placed = rota(with_powder, line.powders, line.dusting_from, line.past)
    why_none = feeding.no_supplements_because.value if feeding.no_supplements_because else ""
    if plan.feeding.supplements is not None:
        why_none = ""
    return Menu(
        fed.rations,
        fed.interval_days,
        feeding.time_of_day.value,
        tuple(FeedDay(day, placed.get(day, ())) for day in planned),
        uvb,
        plan.feeding.starts is not None,
        fed.carrying,
        why_none,
        fed,
    )


def fasts_of(plan: HabitatPlan, profile: Profile) -> tuple[FastDays, ...]:
    """Days without food: those the keeper set, and the winter rest from the day after the last meal until it is awake."""
    own = tuple(FastDays(item.first, item.last, item.why) for item in plan.feeding.fasts)
    if plan.year.cooling is None:
        return own
    rest = rest_of(plan.year.cooling, profile)
    day = timedelta(days=1)
    return (*own, FastDays(rest.last_meal + day, rest.wakes - day, "rest"))


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
