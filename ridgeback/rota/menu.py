"""The menu of an animal: two weeks back and four ahead as a rhythm of meals, each with its reason."""

from dataclasses import dataclass, field
from datetime import date, timedelta
from typing import Any, Final

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from husbandry.diet.dusting import Dusting
from husbandry.feeding.servings import Use
from husbandry.feeding.week_food import Carrying
from husbandry.rota.card import Card, Days
from husbandry.upkeep.feeds import Feed, FeedRule
from ridgeback import clock
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.language import dates, names, rotawords
from ridgeback.language.foodwords import prey
from ridgeback.planner import feeds
from ridgeback.rooms.models import Habitat
from ridgeback.units import written

BACK_DAYS: Final = 14
AHEAD_DAYS: Final = 28
ROW_DAYS: Final = 14
TOGETHER: Final = 3  # so many foods of one weight are told as one bowl


@dataclass(frozen=True)
class ShownPowder:
    """A powder on a meal: its code for the shape, its words, and why it is there."""

    code: str
    name: str
    why: str
    product: str = ""


@dataclass(frozen=True)
class Beat:
    """One meal of the rhythm. `state`: "eaten", "part", "refused", "skipped", "due", "late" or "planned"."""

    state: str
    said: str
    powders: tuple[ShownPowder, ...] = ()
    reasons: tuple[str, ...] = ()
    event: int | None = None


@dataclass(frozen=True)
class Day:
    """A day on the line, with its meal if it has one, and the fast it lies in."""

    day: date
    is_today: bool
    beats: tuple[Beat, ...] = ()
    fast: str = ""
    place: int = field(default=1)


def rows(habitat: Habitat, card: Card, ahead: Days, today: date, weekdays: list[int]) -> list[list[Day]]:
    """Three rows of two weeks."""
    first = today - timedelta(days=BACK_DAYS)
    past = _past(habitat, first)
    planned = {feed.day: feed for feed in ahead.feeds}
    days = []
    for offset in range(BACK_DAYS + AHEAD_DAYS):
        day = first + timedelta(days=offset)
        beats = list(past.get(day, ()))
        if day >= today and day in planned and not (day == today and past.get(day)):
            beats.append(_planned(planned[day], ahead, card, today, weekdays))
        fast = next((str(rotawords.FASTS[item.why]) for item in card.feed.fasts if item.holds(day)), "")
        days.append(Day(day, day == today, tuple(beats), fast, offset % ROW_DAYS + 1))
    return [days[start : start + ROW_DAYS] for start in range(0, len(days), ROW_DAYS)]


def _past(habitat: Habitat, first: date) -> dict[date, list[Beat]]:
    found: dict[date, list[Beat]] = {}
    begin = clock.now() - timedelta(days=BACK_DAYS + 1)
    for event in Event.objects.filter(habitat=habitat, kind=Event.Kind.FED, at__gte=begin).order_by("at", "id"):
        day = log.day_of(event.at)
        if day >= first:
            found.setdefault(day, []).append(_logged(event, day))
    return found


def _logged(event: Event, day: date) -> Beat:
    payload = event.payload
    outcome = payload["outcome"]
    powders = tuple(_powder(name, "") for name in payload.get("products", ()))
    due = date.fromisoformat(payload["due"]) if payload.get("due") else day
    said = []
    if due < day:
        said.append(_("It was due on %(day)s.") % {"day": dates.shown(due, "D j M")})
    if payload.get("who") is not None:
        said.append(_("%(names)s ate.") % {"names": ", ".join(payload["who"]) or _("None of them")})
    elif payload.get("ate") is not None:
        said.append(_("%(ate)s of them ate.") % {"ate": payload["ate"]})
    if payload.get("eaten_g") is not None:
        said.append(_("%(grams)s g eaten, by difference.") % {"grams": written(payload["eaten_g"])})
    foods = [food_text(food, pieces, grams) for food, pieces, grams in payload.get("foods", ())]
    return Beat(outcome, str(rotawords.OUTCOMES[outcome]), powders, (*([", ".join(foods)] if foods else []), *said), event.pk)


def food_text(food: str, pieces: float | None, grams: float) -> str:
    """ "6 × cricket", "2 × rat, fuzzy", "4 g of endive" """
    if pieces is not None:
        return f"{written(pieces)} × {prey(food)}"
    said = f"{grams:.0f}" if grams >= 10 else written(round(grams, 1))
    return _("%(grams)s g of %(food)s") % {"grams": said, "food": prey(food)}


def _powder(name: str, why: str) -> ShownPowder:
    return ShownPowder(name.replace(" ", "-"), str(names.CHOICES["product"].get(name, name)), why, name)


def powders(items: tuple[Dusting, ...], carrying: Carrying) -> tuple[ShownPowder, ...]:
    """The powders on a meal with their reasons."""
    return tuple(_powder(item.product.name, feeds.why(item, carrying)) for item in items)


def _planned(feed: Feed, ahead: Days, card: Card, today: date, weekdays: list[int]) -> Beat:
    state = "late" if feed.late else "due" if feed.day == today else "planned"
    said = {"late": _("late"), "due": _("today"), "planned": _("planned")}[state]
    foods = foods_text(ahead.foods[feed.day])
    why = reasons(feed, card, weekdays)
    dust = powders(ahead.dusting[feed.day], card.carrying)
    return Beat(state, said, dust, (f"{foods}.", *why) if foods else why)


def rhythm(rule: FeedRule) -> str:
    """ "Every 3 days", "Mon, Thu", "Every 2 weeks: Sat" """
    if not rule.weekdays:
        return ngettext("Every day", "Every %(days)s days", rule.interval_days) % {"days": rule.interval_days}
    days = ", ".join(rotawords.weekday(day) for day in rule.weekdays)
    return days if rule.every_weeks == 1 else _("Every %(weeks)s weeks: %(days)s") % {"weeks": rule.every_weeks, "days": days}


def reasons(feed: Feed, card: Card, weekdays: list[int]) -> tuple[str, ...]:
    """Why a feed stands where it stands."""
    every, counted = rhythm(card.feed), _("counted from the first feed")
    if card.feed.weekdays:
        counted = _("as you chose")
    elif card.feed.last_offered is not None:
        counted = _("counted from the meal of %(day)s") % {"day": dates.shown(card.feed.last_offered, "D j M")}
    found = [f"{every}, {counted}."]
    due = dates.shown(feed.due, "D j M")
    if feed.late:
        found.append(_("It was due on %(day)s; what was missed is not made up.") % {"day": due})
    elif feed.moved:
        found.append(_("You moved it here."))
    elif feed.due != feed.day:
        found.append(_("Due on %(day)s, set to a day of the room.") % {"day": due})
    off_days = weekdays and feed.day.weekday() not in weekdays
    if not feed.late and off_days and card.feed.interval_days > 1 and not card.feed.weekdays:
        found.append(_("No day of the room is near enough."))
    return tuple(found)


def taken(uses: tuple[Use, ...]) -> list[tuple[str, float | None, float]]:
    """What one feed takes as (food, whole pieces, grams)."""
    return [(use.food, None if use.pieces is None else max(float(int(use.pieces + 0.5)), 1.0), use.grams) for use in uses]


def foods_said(uses: tuple[Use, ...]) -> list[str]:
    """What a feed holds, food by food; what a bowl holds in equal parts is told together."""
    by_grams: dict[str, list[Use]] = {}
    weights = ["" if use.pieces is not None else f"{use.grams:.3g}" for use in uses]
    for use, grams in zip(uses, weights, strict=True):
        by_grams.setdefault(grams, []).append(use)
    alike = {grams for grams, mine in by_grams.items() if grams and len(mine) >= TOGETHER}
    said, told = [], set()
    for grams, taking in zip(weights, taken(uses), strict=True):
        if grams not in alike:
            said.append(food_text(*taking))
        elif grams not in told:
            told.add(grams)
            names = ", ".join(prey(other.food) for other in by_grams[grams])
            whole = sum(other.grams for other in by_grams[grams])
            said.append(_("%(whole)s g in equal parts: %(names)s") % {"whole": f"{whole:.0f}", "names": names})
    return said


def foods_text(uses: tuple[Use, ...]) -> str:
    """ "2 × mouse, adult; 24 g in equal parts: endive, dandelion leaf, collard" """
    return "; ".join(foods_said(uses))


def counts(ahead: Days) -> list[dict[str, Any]]:
    """How often each product comes in the four weeks, and the gaps between in feeds."""
    return feeds.count_products([(feed.day, ahead.dusting[feed.day]) for feed in ahead.feeds])
