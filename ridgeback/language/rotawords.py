"""Words for the rota: what each chore is, why it is there, and the caution that stands where the hand is about to do it."""

import re
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any, Final

from django.utils.translation import gettext
from django.utils.translation import gettext_lazy as _

from husbandry.animal.targets import Target
from husbandry.assessment import Reason
from husbandry.upkeep.jobs import Job
from husbandry.upkeep.recur import EveryDays, Monthly, Weekly
from ridgeback.language import dates
from ridgeback.language.names import CHOICES
from ridgeback.units import KeeperUnits


@dataclass(frozen=True)
class Words:
    """A chore in words: what is done, why, and what to look out for."""

    name: Any
    why: Any
    caution: Any = ""


OF_AMPHIBIANS: Final = ("water",)  # chores whose caution is said of amphibians alone
FEED: Final = Words(_("Feed"), _("The stage's interval, counted from the last meal offered."))
JOBS: Final = {
    "water": Words(_("Fresh water"), _("Every day, and the bowl wiped."), _("Amphibians: treated water only.")),
    "soak": Words(_("Soak"), _("Lukewarm, no deeper than the chin."), _("Never leave it alone in water.")),
    "misting": Words(_("Mist"), _("At its times: wet, then dry again."), _("Keep sprayers clean; water away from sockets.")),
    "dampen": Words(
        _("Moisten the cool end"),
        _("Water on the ground, not on the animal: one part damp, the rest stays dry."),
        _("Away from sockets."),
    ),
    "fogger": Words(_("Clean the fogger"), _("Weekly: what grows in it is breathed.")),
    "water-change": Words(_("Change water"), _("More often where nothing filters it."), _("Treated water of the same warmth.")),
    "filter": Words(_("Rinse the filter"), _("In old tank water, so that its life survives."), _("Unplug it first.")),
    "moss-damp": Words(_("Moss still damp?"), _("A humid hide that dried out is the silent failure.")),
    "moss-change": Words(_("New moss"), _("Fresh every two weeks; mould sooner.")),
    "spot-clean": Words(_("Spot clean"), _("Droppings and leftovers out."), _("Wash hands after each habitat.")),
    "paper": Words(_("New paper"), _("Weekly where the floor is paper.")),
    "deep-clean": Words(
        _("Deep clean"), _("Everything out, washed, disinfected, dried."), _("Rinse and air: no fumes when the animal goes back.")
    ),
    "ground-renew": Words(
        _("Renew part of the ground"),
        _("The soiled part and its top layer out, fresh in; turn the rest."),
        _("Wash hands after each habitat."),
    ),
    "thermometers": Words(_("Read the thermometers"), _("A thermostat is trusted with a second thermometer only.")),
    "thermostats": Words(_("Test the thermostats"), _("Turn it down: does the heater go off?"), _("Hot glass: do not touch it.")),
    "uv-lamp": Words(_("Replace the UV lamp"), _("It still shines but gives too little UVB."), _("Switch off; let it cool.")),
    "uv-check": Words(_("Measure the UV index"), _("At the back, every three months."), _("Do not look into the lamp.")),
    "weigh": Words(_("Weigh"), _("By tare, at the same time of day.")),
    "condition": Words(_("Score its condition"), _("By the pictures, once a month.")),
    "calcium-dish": Words(_("Refill the calcium dish"), _("Plain only; emptied again and again is a sign.")),
    "course": Words(
        _("Treatment"), _("As the veterinarian wrote it, until the course ends."), _("Never more, never less, never for another.")
    ),
    "candle": Words(_("Candle the eggs"), _("Veins by now; later, movement."), _("A cool light, a few seconds, no turning.")),
    "hatch": Words(
        _("They may hatch"), _("The hatch window begins: look in, do not open the eggs."), _("Do not pull one out of its egg.")
    ),
    "faecal-check": Words(_("Faecal check"), _("Before quarantine ends; the vet looks for parasites.")),
    "quarantine-ends": Words(_("Quarantine ends"), _("If the checks were clean.")),
    "next-stage": Words(_("Next life stage"), _("By its growth: look at size, heat and food again.")),
    "timers": Words(_("Turn the timer"), _("The day gets longer or shorter.")),
    "last-meal": Words(_("Last meal before the rest"), _("The gut is empty before the warmth falls.")),
    "rest-begins": Words(_("The rest begins"), _("Warmth and light are drawn down."), _("Only screened, well-fed animals.")),
    "rest-weigh": Words(_("Weigh, at rest"), _("Past its limit of loss the rest is broken off.")),
    "rest-ends": Words(_("The rest ends"), _("Warmth and light rise from today.")),
    "first-meal": Words(_("First meal after the rest"), _("When it is warm and awake, and small.")),
    "gut-load": Words(_("Gut-load the insects"), _("A day before they are eaten: what is in them is in it.")),
    "thaw": Words(
        _("Thaw for tomorrow"),
        _("In the fridge, in a bag."),
        _("Thaw fully; never a microwave, never freeze again; not among food."),
    ),
    "prey-out": Words(_("Uneaten prey out"), _("After a night at most."), _("No handling for two days after a snake's meal.")),
    "insects-out": Words(_("Leftover insects out"), _("Live crickets left overnight bite.")),
    "food-renew": Words(_("All the food that lies there changed"), _("Old eggs go out with it, eaten or not.")),
    "eggs-out": Words(_("Uneaten eggs out"), _("After three days.")),
    "greens-out": Words(_("Leftover greens out"), _("In the evening, before they wilt and mould.")),
    "own": Words(_("Your own"), _("Your own.")),
    "powder-out": Words(_("Powder diet out"), _("A day at most.")),
}
ABOUT: Final = ("course", "candle", "hatch")  # chores that say what or whom they are about
OWN: Final = "own"
# What a chore's id says of a clutch (`rota.appointments`): in one language, for the id is a key.
OF_A_CLUTCH: Final = re.compile(r"(?P<name>.*), clutch of (?P<day>\d{1,2} [A-Z][a-z]{2} \d{4})(?P<turn> \(\d+\))?$")
OWN_WHY: Final = _("Your own.")
# Chores that hang on a feed and go where it goes.
AROUND: Final = ("gut-load", "thaw", "prey-out", "insects-out", "eggs-out", "greens-out", "powder-out")
OUTCOMES: Final = {
    "eaten": _("eaten"),
    "part": _("eaten in part"),
    "refused": _("refused"),
    "skipped": _("left out"),
    "done": _("done"),
}
STATES: Final = OUTCOMES | {"planned": _("planned")}
FASTS: Final = {
    "rest": _("its rest"),
    "transport": _("a journey"),
    "quarantine": _("quarantine"),
    "shed": _("its shed"),
    "vet": _("the vet's word"),
    "other": _("a fast"),
}
TARGETS: Final = {
    "basking_surface": _("basking surface"),
    "mat_surface": _("over the mat"),
    "warm_air": _("warm end"),
    "cool_air": _("cool end"),
    "night_air": _("at night"),
    "water_temperature": _("water"),
    "cool_humidity": _("humidity at the cool end"),
}
# Why more days without food are normal now, after "… are normal for it now".
WHY_WITHOUT: Final = {
    "usual": "",
    "arrived": _(", for it has just come"),
    "shed": _(", before its shed"),
    "rest": _(", in its rest"),
    "breeding fast": _(", in its kind's breeding season, while its weight holds"),
}
WEIGHING: Final = {
    "nothing": _("A weight must be above zero."),
    "lighter_than_box": _("With the animal it must weigh more than the tub alone."),
    "same_or_heavier": _("More is left than was given."),
}
MOVES: Final = {
    "move.past": _("That day is over."),
    "move.off_room_days": _("Nobody comes on a %(weekday)s."),
    "move.twice": _("It is due on %(day)s anyway: it would stand there once."),
    "move.fast": _("It fasts until %(day)s: %(why)s."),
    "move.merges": _("There is a feed on %(day)s already: one meal fewer."),
    "move.gap_before": _("%(gap)s since the meal before; the rule is %(usual)s."),
    "move.gap_after": _("%(gap)s to the next; the rule is %(usual)s."),
    "move.powder": _("%(product)s goes from %(was)s to %(day)s."),
}


def key_of(job: str) -> str:
    """The chore's name without what parts it from others alike."""
    return job.partition("/")[0]


def job(name: str) -> Words:
    """The words of a chore by its id, "feed" among them."""
    if name == "feed":
        return FEED
    key, _slash, detail = name.partition("/")
    if key in ABOUT and detail:
        words = JOBS[key]
        return Words(gettext("%(chore)s: %(about)s") % {"chore": words.name, "about": _about(detail)}, words.why, words.caution)
    return Words(detail, OWN_WHY) if key == OWN and detail else JOBS[key]


def _about(detail: str) -> str:
    """What a chore is about, as its id has it, in the reader's language."""
    clutch = OF_A_CLUTCH.match(detail)
    if clutch is None:
        return detail
    day = dates.shown(datetime.strptime(clutch["day"], "%d %b %Y").date(), "j M Y")  # noqa: DTZ007  # a day alone
    return gettext("%(name)s, clutch of %(day)s") % {"name": clutch["name"], "day": day} + (clutch["turn"] or "")


def cautions(keys: Iterable[str], *, amphibian: bool) -> list[str]:
    """The cautions of some chores, each once, in their order; what is said of amphibians alone only of them."""
    there = set(keys)
    said = [JOBS[key].caution for key in JOBS if key in there and (amphibian or key not in OF_AMPHIBIANS)]
    return list(dict.fromkeys(str(one) for one in said if one))


def group_of(name: str) -> str:
    """What chores are done in one round: those of one kind, and a keeper's own by their names."""
    return name if name.startswith(f"{OWN}/") else key_of(name)


def known(name: str) -> bool:
    """Tell whether this is a chore there can be."""
    return key_of(name) in JOBS and (key_of(name) != OWN or "/" in name)


def weekday(number: int) -> str:
    """The short name of a weekday, 0 for Monday."""
    return str(dates.shown(date(2026, 1, 5 + number), "D"))  # 5 January 2026 is a Monday


def month(number: int) -> str:
    """The short name of a month."""
    return str(dates.shown(date(2026, number, 1), "M"))


def move(reason: Reason, units: KeeperUnits) -> str:
    """What a move would do, as a sentence."""
    said = {}
    for name, value in reason.parameters.items():
        if name in ("day", "was"):
            said[name] = dates.shown(date.fromisoformat(str(value)), "j M")
        elif name == "weekday":
            said[name] = dates.shown(date.fromisoformat(str(value)), "l")
        elif name == "why":
            said[name] = str(FASTS[str(value)])
        elif name == "product":
            said[name] = str(CHOICES["product"][str(value)]).capitalize()
        else:
            said[name] = units.say(value)  # type: ignore[arg-type]
    return gettext(str(MOVES[reason.code])) % said


def kept_at(found: Iterable[Target], units: KeeperUnits) -> str:
    """ "Keep: basking surface 31–35 °C, warm end 27–30 °C, at night 20–24 °C." """
    said = []
    for item in found:
        if item.low is not None and item.high is not None:
            band = units.aimed(item.low, item.high, item.unit)
        elif item.low is not None:
            band = gettext("at least %(limit)s") % {"limit": units.aimed(item.low, item.low, item.unit)}
        else:
            band = gettext("at most %(limit)s") % {"limit": units.aimed(item.high or 0.0, item.high or 0.0, item.unit)}
        said.append(f"{TARGETS[item.key]} {band}")
    return gettext("Keep: %(places)s.") % {"places": ", ".join(said)} if said else ""


def rhythm(job: Job) -> str:
    """ "every 7 days", "Mon, Wed, Fri", "every 12 months", "once" """
    match job.rule:
        case EveryDays(days=1):
            return ", ".join(f"{at:%H:%M}" for at in job.times) or gettext("every day")
        case EveryDays(days=days):
            return gettext("every %(days)s days") % {"days": days}
        case Weekly(weekdays=weekdays):
            return ", ".join(weekday(day) for day in weekdays)
        case Monthly(months=months):
            return gettext("every %(months)s months") % {"months": months}
        case _:
            return gettext("once")
