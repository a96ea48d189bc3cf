"""What is said of an animal wherever it is shown: its age, its facts, its last weights; and a band in words."""

from datetime import date
from itertools import zip_longest
from typing import Any, Final

from django.utils.translation import gettext as _

from husbandry.assessment import Band, Measure
from husbandry.units import DAYS_A_YEAR
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.language import dates, entrywords
from ridgeback.rooms.models import Animal
from ridgeback.units import KeeperUnits, written

MONTHS_SHOWN: Final = 24  # an age is told in months up to here


def age(animal: Animal, on: date) -> str:
    """ "3 years", "7 months", "12 days"; "about" where the day of hatching is an estimate; "" where it is not known."""
    if animal.hatched is None:
        return ""
    days = max(((animal.left_on or on) - animal.hatched).days, 0)
    months = int(days / (DAYS_A_YEAR / 12))
    if days < 60:
        said = _("1 day") if days == 1 else _("%(n)s days") % {"n": days}
    elif months < MONTHS_SHOWN:
        said = _("%(n)s months") % {"n": months}
    else:
        years = days / DAYS_A_YEAR
        said = _("%(n)s years") % {"n": written(round(years, 1)) if years < 10 else int(years)}
    return _("about %(age)s") % {"age": said} if animal.hatched_is_estimate else said


def facts_of(one: Animal) -> list[tuple[str, str]]:
    """What is said of an animal, as (what, said), without what is not known."""
    sexed = [str(entrywords.SEXED_BY[one.sexed_by])] if one.sexed_by else []
    sexed += [dates.shown(one.sexed_on, "j F Y")] if one.sexed_on else []
    sex = str(entrywords.SEX[one.sex]) + (f" ({', '.join(sexed)})" if sexed else "")
    hatched = dates.shown(one.hatched, "j F Y") if one.hatched else ""
    told = [
        (_("Sex"), sex),
        (_("Hatched or born"), _("about %(day)s") % {"day": hatched} if hatched and one.hatched_is_estimate else hatched),
        (_("Known by"), one.marks),
        (_("Chip"), one.chip),
        (_("Origin"), ", ".join(part for part in (str(entrywords.ORIGIN[one.origin]), one.came_from) if part)),
        (_("Papers"), one.papers),
        (_("Mother"), one.mother.called if one.mother else ""),
        (_("Father"), one.father.called if one.father else ""),
    ]
    return [(what, said) for what, said in told if said]


def weights_of(one: Animal, units: KeeperUnits, most: int) -> list[dict[str, Any]]:
    """The last weighings, newest first, each with what changed since the one before."""
    events = list(Event.objects.filter(animal=one, kind=Event.Kind.WEIGHED).order_by("-at", "-id")[: most + 1])
    told = []
    for now, before in zip_longest(events, events[1:]):
        mass_kg = now.payload["mass_kg"]
        change = None if before is None else 100 * (mass_kg / before.payload["mass_kg"] - 1)
        told.append(
            {
                "day": log.day_of(now.at),
                "mass": units.say(Measure(mass_kg, "kg")),
                "change": ""
                if change is None
                else f"{round(change, 1) or 0.0:+.1f} %".replace("-", "\u2212").replace("+0.0", "0.0"),
            }
        )
    return told[:most]


def band_said(band: Band | None, unit: str, units: KeeperUnits) -> str:
    """A band in words: "28–32 °C", "at least", "at most"; "" where there is none, or both ends are open."""
    if band is None:
        return ""
    if band.low is not None and band.high is not None:
        return units.aimed(band.low, band.high, unit)
    known = band.low if band.low is not None else band.high
    if known is None:
        return ""
    edge = units.say(Measure(known, unit))
    return _("%(edge)s at least") % {"edge": edge} if band.low is not None else _("%(edge)s at most") % {"edge": edge}
