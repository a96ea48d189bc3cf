"""The four-week feeding view."""

from dataclasses import dataclass
from datetime import date, timedelta
from itertools import pairwise
from typing import Any, Final

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from husbandry.assessment import Measure
from husbandry.diet.dusting import Dusting
from husbandry.diet.foods import foods
from husbandry.diet.prey import Offer
from husbandry.diet.rations import Ration
from husbandry.feeding.menu import Menu
from husbandry.feeding.week_food import Carrying
from ridgeback.language import names
from ridgeback.language.booktext import book
from ridgeback.language.foodwords import prey
from ridgeback.language.ordinals import ordinal
from ridgeback.units import KeeperUnits, written

FEWER: Final = 0.7  # of the count: what is heavier by more than that is told apart


@dataclass(frozen=True)
class FeedingDay:
    """One day of the view; `dusting` are (product code, product's words, why)."""

    day: date
    is_feed: bool
    is_today: bool
    dusting: tuple[tuple[str, str, str], ...]


def ration_text(ration: Ration, units: KeeperUnits) -> str:
    """ "5–8 adult crickets", "21–32 g of thawed mice: 1 × mouse, weaner", "wild weeds: a heap as large as the shell"."""
    said = _amount(ration, units)
    if ration.meal.fresh_days is not None:
        days = {"said": said, "days": written(ration.meal.fresh_days)}
        return _("%(said)s, always lying there, changed after %(days)s days at most") % days
    often = ration.meal.per_week
    told = f"{ration.meal.food} {ration.meal.portion}"  # the book's own words: they say already how often
    if often is None or "week" in told or "month" in told:
        return said
    if often >= 1:
        return ngettext("%(said)s, once a week", "%(said)s, %(n)s times a week", round(often)) % {"said": said, "n": round(often)}
    return _("%(said)s, every %(days)s days or so") % {"said": said, "days": round(7 / often)}


def _amount(ration: Ration, units: KeeperUnits) -> str:
    food = book(ration.meal.food)
    if ration.count is not None:
        low, high = ration.count
        said = f"{low}–{high} {food}" if low != high else f"{low} {food}"
        fewer = [
            f"{max(round(count), 1)} {book(foods()[key].name)}" for key, count in ration.counted().items() if count < FEWER * low
        ]
        return _("%(said)s, or %(fewer)s in their place") % {"said": said, "fewer": _(" or ").join(fewer)} if fewer else said
    if ration.needs_mass:
        return _("%(food)s: weigh it first") % {"food": food}
    best = offer_text(ration.offers[0]) if ration.offers else ""
    if ration.mass_kg is not None:
        amount = _("%(mass)s of %(food)s") % {"mass": units.between(*ration.mass_kg, "kg"), "food": food}
        return f"{amount}: {best}" if best else amount
    return f"{food}: {best or book(ration.meal.portion)}"


def amount_text(ration: Ration, units: KeeperUnits) -> str:
    """ "5–8", "42–62 g" """
    if ration.count is not None:
        low, high = ration.count
        return f"{low}–{high}" if low != high else str(low)
    low_kg, high_kg = ration.mass_kg or (0.0, 0.0)
    return units.between(low_kg, high_kg, "kg")


def offer_text(offer: Offer) -> str:
    """ "2 × rat, fuzzy" """
    return f"{offer.count} × {prey(offer.prey.key)}"


def why(item: Dusting, carrying: Carrying) -> str:
    """Why this product is on this feed."""
    product = item.product
    if product.every_feeds is not None:
        every = product.every_feeds
        if carrying.prey:
            said = _("with all insects") if every == 1 else _("with every %(n)s feed of insects") % {"n": ordinal(every)}
        else:
            said = _("with every feed") if every == 1 else _("with every %(n)s feed") % {"n": ordinal(every)}
    else:
        days = product.every_days or 1.0
        told = {"days": written(days), "meals": written(days / carrying.days, ".3g")}
        if carrying.prey:
            said = _("every %(days)s days; every %(meals)s feeds of insects") % told
        else:
            said = _("every %(days)s days; every %(meals)s feeds at this interval") % told
    if item.late:
        said += "; " + _("late: a meal has passed without it, and it is not doubled")
    if item.moved:
        said += "; " + _("moved on: two fat-soluble products never share a meal")
    return said


def weeks(menu: Menu, today: date) -> list[list[FeedingDay]]:
    """Four weeks of days from today, seven a row."""
    by_day = {feed.day: feed for feed in menu.days}
    days = []
    for offset in range(28):
        day = today + timedelta(days=offset)
        feed = by_day.get(day)
        dusting = tuple(
            (item.product.name.replace(" ", "-"), str(names.CHOICES["product"][item.product.name]), why(item, menu.carrying))
            for item in (feed.dusting if feed else ())
        )
        days.append(FeedingDay(day, feed is not None, offset == 0, dusting))
    return [days[start : start + 7] for start in range(0, 28, 7)]


def counts(menu: Menu) -> list[dict[str, Any]]:
    """How often each product comes in the four weeks, and the gaps between in feeds."""
    return count_products([(feed.day, feed.dusting) for feed in menu.days])


def count_products(days: list[tuple[date, tuple[Dusting, ...]]]) -> list[dict[str, Any]]:
    """The same of any run of feeds."""
    found = []
    given = {item.product.name for _day, items in days for item in items}
    for name in sorted(given):
        places = [index for index, (_day, items) in enumerate(days) if any(item.product.name == name for item in items)]
        gaps = [str(later - earlier) for earlier, later in pairwise(places)]
        found.append(
            {
                "code": name.replace(" ", "-"),
                "name": names.CHOICES["product"][name],
                "times": len(places),
                "gaps": ", ".join(gaps) if set(gaps) != {"1"} else "",
            }
        )
    return found


def limits(menu: Menu, units: KeeperUnits) -> list[str]:
    """The size limits of the prey, each once, with what they come to for this animal and whether that was measured."""
    found: dict[str, None] = {}
    for ration in menu.rations:
        if not ration.meal.prey_limit:
            continue
        said = _("Prey %(limit)s") % {"limit": book(ration.meal.prey_limit)}
        if ration.limit is not None:
            most = units.say(Measure(ration.limit.at_most_m, "m"))
            said += ": " + (
                _("%(most)s, as measured") % {"most": most}
                if ration.limit.measured
                else _("about %(most)s by its length; a ruler is surer") % {"most": most}
            )
        found[said + "."] = None
    return list(found)


def offers(rations: tuple[Ration, ...]) -> list[str]:
    """What the freezer holds for this meal, best first."""
    return [offer_text(offer) for ration in rations for offer in ration.offers[:3]]
