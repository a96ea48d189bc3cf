"""The feeding of the next four weeks: rations, dates and dusting."""

from datetime import date, timedelta

from husbandry.assessment import Measure, Quantity, Reason, Verdict
from husbandry.diet.dusting import Product, rota
from husbandry.diet.rations import interval_days, rations, supplements_in_use
from husbandry.plan.casing import Body
from husbandry.plan.document import HabitatPlan
from husbandry.plan.result import FeedDay, Menu
from husbandry.species.leaves import choose
from husbandry.species.stage import Stage
from husbandry.upkeep.feeds import feed_dates

MENU_DAYS = 28
# The rota is counted from the first feed, however long ago; older starts begin anew on a whole number of intervals.
LONGEST_LOOK_BACK_DAYS = 730


def menu(plan: HabitatPlan, stage: Stage, body: Body, *, uvb: bool, today: date) -> Menu:
    """Lay out the feeds from `today` for four weeks."""
    feeding = stage.feeding
    interval = interval_days(choose(feeding.interval_days, plan.schools), plan.feeding.interval_days)
    starts = plan.feeding.starts or today
    while (today - starts).days > LONGEST_LOOK_BACK_DAYS:
        starts += timedelta(days=LONGEST_LOOK_BACK_DAYS // (2 * interval) * interval)
    begin = min(starts, today)
    feeds = [day for day in feed_dates(starts, interval, begin, (today - begin).days + MENU_DAYS) if day >= starts]
    products = tuple(
        Product(item.product, item.every_days, item.every_feeds)
        for item in supplements_in_use(feeding, uvb=uvb, schools=plan.schools)
    )
    placed = rota(feeds, products, plan.feeding.supplement_starts or starts)
    why_none = feeding.no_supplements_because.value if feeding.no_supplements_because else ""
    return Menu(
        rations(feeding, body.mass_kg, plan.animal.count, plan.schools),
        interval,
        feeding.time_of_day.value,
        tuple(FeedDay(day, placed[day]) for day in feeds if day >= today),
        uvb,
        plan.feeding.starts is not None,
        why_none,
    )


def quantities(plan: HabitatPlan, stage: Stage, menu: Menu) -> list[Quantity]:
    """The interval against the stage's rule, and the amount of each part of a feed."""
    band = choose(stage.feeding.interval_days, plan.schools).band()
    chosen = plan.feeding.interval_days is not None
    reason = Reason("feed.interval", {"by": "keeper" if chosen else "stage"})
    found = [
        Quantity(
            "feed_interval",
            "d",
            float(menu.interval_days),
            band.judge(menu.interval_days),
            reason,
            band.basis,
            band,
            school=band.school,
        )
    ]
    for index, ration in enumerate(menu.rations):
        key, basis = f"ration_{index + 1}", ration.meal.origin
        parameters: dict[str, Measure | str | int] = {"food": ration.meal.food, "limit": ration.meal.prey_limit}
        if ration.count is not None:
            low, high = ration.count
            found.append(
                Quantity(
                    key, "1", (low + high) / 2, Verdict.NOT_APPLICABLE, Reason("feed.count", parameters), basis, low=low, high=high
                )
            )
        elif ration.mass_kg is not None:
            lighter, heavier = ration.mass_kg
            found.append(
                Quantity(
                    key,
                    "kg",
                    (lighter + heavier) / 2,
                    Verdict.NOT_APPLICABLE,
                    Reason("feed.mass", parameters),
                    basis,
                    low=lighter,
                    high=heavier,
                )
            )
        elif ration.needs_mass:
            found.append(
                Quantity(key, "kg", None, Verdict.UNKNOWN, Reason("feed.mass", parameters), basis, question="animal.mass_kg")
            )
        else:
            parameters["portion"] = ration.meal.portion
            found.append(Quantity(key, "1", None, Verdict.NOT_APPLICABLE, Reason("feed.portion", parameters), basis))
    return found
