"""What a profile's compound entries say, as sentences: a meal, a powder, a rule of size, company, a rest."""

from collections.abc import Callable
from typing import Any

from django.utils.dates import MONTHS
from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from husbandry.assessment import Measure
from husbandry.species.leaves import Leaf, Range
from husbandry.species.profile import Dormancy, Incubation, Together
from husbandry.species.stage import Meal, SpaceRule, Supplement
from ridgeback.language import names
from ridgeback.language.booktext import book
from ridgeback.language.ordinals import ordinal
from ridgeback.units import KeeperUnits, written


def said(leaf: Leaf, units: KeeperUnits) -> str:
    """The entry in words; "" for one that is a plain value or a range."""
    tell: dict[type[Leaf], Callable[[Any], str]] = {
        Meal: meal,
        Supplement: supplement,
        SpaceRule: lambda rule: size(rule, units),
        Together: together,
        Incubation: lambda item: incubation(item, units),
        Dormancy: lambda rest: dormancy(rest, units),
    }
    return next((say(leaf) for kind, say in tell.items() if isinstance(leaf, kind)), "")


def incubation(item: Incubation, units: KeeperUnits) -> str:
    """How long eggs take at a temperature."""
    at = units.say(Measure(item.temperature_c, "degC"))
    return _("%(low)s–%(high)s days at %(at)s") % {"low": written(item.days_low), "high": written(item.days_high), "at": at}


def amount(item: Meal) -> str:
    """What one feed is, without its limit of size."""
    if item.count_low is not None:
        count = f"{item.count_low}–{item.count_high}" if item.count_high not in (None, item.count_low) else f"{item.count_low}"
        return f"{count} {book(item.food)}"
    if item.mass_share_low_percent is not None:
        high = item.mass_share_high_percent or item.mass_share_low_percent
        low = item.mass_share_low_percent
        share = written(low) if low == high else f"{written(low)}–{written(high)}"
        return _("%(food)s, %(share)s %% of its mass") % {"food": book(item.food), "share": share}
    return f"{book(item.food)}: {book(item.portion)}"


def meal(item: Meal) -> str:
    """What one feed is, how often where not each time, and how large its pieces may be."""
    parts = [amount(item)]
    if item.per_week is not None:
        times = written(item.per_week)
        parts.append(_("once a week") if item.per_week == 1 else _("%(times)s times a week") % {"times": times})
    if item.fresh_days is not None:
        parts.append(_("always lying there, changed after %(days)s days at most") % {"days": written(item.fresh_days)})
    return ", ".join([*parts, *([book(item.prey_limit)] if item.prey_limit else [])]) + whose(item)


def supplement(item: Supplement) -> str:
    """A powder, how often, and with what light."""
    often = (
        ngettext("every day", "every %(days)s days", 1 if item.every_days == 1 else 2) % {"days": written(item.every_days)}
        if item.every_days is not None
        else _("with every feed")
        if item.every_feeds == 1
        else _("with every %(n)s feed") % {"n": ordinal(item.every_feeds or 2)}
    )
    when = {"with": _("with UVB"), "without": _("without UVB"), "either": ""}[item.uvb]
    name = str(names.CHOICES["product"][item.product])
    return f"{name} {often}" + (f", {when}" if when else "")


def size(rule: SpaceRule, units: KeeperUnits) -> str:
    """A rule of enclosure size: at least or better, and what."""
    sides = [getattr(rule, name) for name in ("length", "width", "height")]
    if rule.rule == "fixed":
        shown = [units.number((side or 0.0) / 100, "m") for side in sides]
        what = " × ".join(number for number, _symbol in shown) + f" {shown[0][1]}"
    elif rule.rule == "body":
        what = _("%(sizes)s times its length") % {"sizes": " × ".join(written(side or 0.0) for side in sides)}
    elif rule.rule == "stretch":
        what = _("length and width together %(times)s times the whole animal") % {"times": written(rule.stretch)}
    elif rule.rule == "floor":
        what = _("%(area)s of floor") % {"area": units.say(Measure((rule.area or 0.0) / 10_000, "m2"))}
    else:
        what = _("%(litres)s of water") % {"litres": units.say(Measure((rule.litres or 0.0) / 1000, "m3"))}
    level = _("better") if rule.level == "recommended" else _("at least")
    return f"{level} {what}{whose(rule)}"


def whose(leaf: Leaf) -> str:
    """For which sex a value holds, in brackets; "" where for either."""
    return f" ({names.CHOICES['sex'][leaf.sex]})" if leaf.sex is not None else ""


def together(item: Together) -> str:
    """Who may live with whom."""
    told = {"alone": _("alone"), "pair": _("in pairs"), "group": _("in groups")}[item.kind]
    parts = [told]
    if item.most is not None and item.kind != "alone":
        parts.append(_("%(most)s at most") % {"most": item.most})
    if item.most_males is not None:
        parts.append(
            ngettext("%(males)s male at most", "%(males)s males at most", item.most_males) % {"males": item.most_males}
            + (f" ({book(item.males_note)})" if item.males_note else "")
        )
    if item.young_apart:
        parts.append(_("hatchlings apart from adults"))
    if item.eats_smaller_share is not None:
        parts.append(_("none under %(share)s %% of another's length") % {"share": f"{100 * item.eats_smaller_share:.0f}"})
    return ", ".join(parts)


def dormancy(item: Dormancy, units: KeeperUnits) -> str:
    """Who may, who must not, and on what terms, as one sentence or two."""
    kind = str(names.RESTS[item.kind])
    if item.kind == "never":
        return _("%(kind)s: %(why)s.") % {"kind": kind, "why": book(item.must_not)}
    told = _("%(kind)s: %(may)s. Never %(must_not)s.") % {"kind": kind, "may": book(item.may), "must_not": book(item.must_not)}
    if item.from_month is not None and item.until_month is not None:
        months = {"first": MONTHS[item.from_month], "last": MONTHS[item.until_month]}
        told += " " + _("From %(first)s to %(last)s, south of the equator half a year on.") % months
    if item.temperature_c is not None:
        told += " " + _("At %(heat)s") % {"heat": ends(item.temperature_c, "degC", units)}
        told += (_(", for %(weeks)s weeks") % {"weeks": ends(item.weeks, "", units)} if item.weeks else "") + "."
    if item.last_meal_days is not None:
        told += " " + _("Last meal %(days)s days before.") % {"days": ends(item.last_meal_days, "", units)}
    if item.weight_limit_percent is not None:
        told += " " + _("Broken off when %(share)s of its weight is lost.") % {
            "share": f"{written(item.weight_limit_percent.value)} %"
        }
    return told


def ends(item: Range, si: str, units: KeeperUnits) -> str:
    """A range's ends as they are, in a unit of the keeper's or as plain numbers."""
    low, high = item.low, item.high
    if si and low is not None and high is not None:
        return units.aimed(low, high, si)
    shown = [units.say(Measure(end, si)) if si else written(end) for end in (low, high) if end is not None]
    if low is None:
        return _("up to %(high)s") % {"high": shown[0]}
    if high is None:
        return _("from %(low)s") % {"low": shown[0]}
    return shown[0] if low == high else "–".join(shown)
