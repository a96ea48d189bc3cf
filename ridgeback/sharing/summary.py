"""A habitat in short, for a card, a care plan and the page behind its QR code: who lives there, how it is kept, what it eats."""

from collections.abc import Iterable
from datetime import date
from typing import Any, Final

from django.db.models import Q
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from husbandry.assess.nutrition import season_of
from husbandry.assess.result import Assessment
from husbandry.assess.vetting import GRAVE
from husbandry.assessment import Measure, Quantity
from husbandry.plan.habitat import HabitatPlan
from husbandry.rota.card import RoomDays
from husbandry.rota.chores import AMPHIBIANS
from husbandry.species.profile import Profile
from husbandry.upkeep.jobs import Job
from ridgeback.daybook.models import Event
from ridgeback.drawing import section
from ridgeback.keeping.animal_facts import age, band_said, facts_of
from ridgeback.language import rotawords, wording
from ridgeback.language.names import CHOICES
from ridgeback.language.rotawords import rhythm as how_often
from ridgeback.planner import bench, mapping
from ridgeback.planner.view import View
from ridgeback.rooms.models import Animal, Habitat
from ridgeback.rooms.residents import living_in
from ridgeback.rota import cards, history, menu
from ridgeback.units import KeeperUnits, written

# What a public page may show, in its order.
PARTS: Final[dict[str, Any]] = {
    "animals": gettext_lazy("who lives there, with sex and age"),
    "photo": gettext_lazy("the newest photo"),
    "drawing": gettext_lazy("the enclosure, drawn"),
    "kept": gettext_lazy("how warm, humid and bright it is kept"),
    "food": gettext_lazy("what it eats, when it ate last and when it eats next"),
    "care": gettext_lazy("cautions: what nobody does"),
}
SHOWN: Final = (
    *("basking_surface", "warm_air", "cool_air", "water_temperature", "uv_back"),
    *("warm_humidity", "cool_humidity", "humid_hide"),
)
AHEAD_DAYS: Final = 42
MOST_FEEDS: Final = 10


def of_habitat(habitat: Habitat, units: KeeperUnits, today: date) -> dict[str, Any]:
    """Everything a paper or a page says of a habitat. Raises mapping.UnreadablePlanError."""
    plan = mapping.plan_of(habitat)
    profile, found = bench.assessed(habitat, plan, today, View(), bench.AT_A_GLANCE)
    here = living_in([habitat.pk])[habitat.pk]
    return {
        "habitat": habitat,
        "plan": plan,
        "profile": profile,
        "stage": bench.stage(plan, found, profile)["name"],
        "size": bench.size(plan, units),
        "residents": [_resident(one.animal, today) for one in here],
        "kept": kept_rows(found, season_of(plan, today), units),
        "lamps": _lamps(plan, units),
        "section": _picture(plan, profile, found, units, today),
        "findings": [(item.severity.value, wording.finding(item, units)) for item in found.findings if item.severity in GRAVE],
        **_food(habitat, today, amphibian=profile.group in AMPHIBIANS),
    }


def _resident(one: Animal, today: date) -> dict[str, Any]:
    return {"animal": one, "name": one.called, "age": age(one, today), "facts": facts_of(one)}


def kept_rows(found: Assessment, season: str, units: KeeperUnits) -> list[dict[str, str]]:
    """What is asked for at each place by day and by night, in the season of the day, with what the model says."""
    rows: dict[str, dict[str, str]] = {}
    for item in found.quantities:
        if item.key not in SHOWN or item.season not in ("", season) or item.band is None:
            continue
        said = band_said(item.band, item.unit, units)
        if said:
            row = rows.setdefault(item.key, {"name": wording.name(item), "day": "", "night": "", "now": ""})
            row["night" if item.phase == "night" else "day"] = said
            if item.phase != "night":
                row["now"] = _value(item, units)
    return [rows[key] for key in SHOWN if key in rows]


def _value(item: Quantity, units: KeeperUnits) -> str:
    return "" if item.value is None else units.say(Measure(item.value, item.unit))


def _lamps(plan: HabitatPlan, units: KeeperUnits) -> list[dict[str, str]]:
    """Heaters and lamps: what, when on, held at what, how high."""
    found = []
    for heater in plan.heaters:
        held = heater.thermostat
        found.append(
            {
                "name": f"{CHOICES['heater'][heater.kind]}, {written(heater.watts)} W",
                "on": _("%(on)s to %(off)s") % {"on": f"{heater.on:%H:%M}", "off": f"{heater.off:%H:%M}"},
                "held": "" if held.set_c is None or held.kind == "none" else units.say(Measure(held.set_c, "degC")),
                "high": units.say(Measure(heater.height_m, "m")) if heater.hangs else "",
            }
        )
    for lamp in plan.uv_lamps:
        found.append(
            {
                "name": str(CHOICES["tube"][lamp.kind]),
                "on": _("%(on)s to %(off)s") % {"on": f"{lamp.on:%H:%M}", "off": f"{lamp.off:%H:%M}"},
                "held": "",
                "high": units.say(Measure(lamp.height_m, "m")),
            }
        )
    return found


def _picture(plan: HabitatPlan, profile: Profile, found: Assessment, units: KeeperUnits, today: date) -> dict[str, Any]:
    return section.draw(plan, profile, found, section.Look(season_of(plan, today), "day", units, wording.part_names(), plan))


def _food(habitat: Habitat, today: date, *, amphibian: bool) -> dict[str, Any]:
    """The rhythm of meals, the next ones, the chores and the cautions they come with."""
    made = cards.of_habitats([habitat], today)
    if habitat.pk not in made:
        return {"rhythm": "", "feeds": [], "chores": [], "cautions": [], "last_fed": None, "portion": "", "fasts": []}
    card, moves = made[habitat.pk], history.moves_of([habitat.pk], today)[habitat.pk]
    ahead = cards.span(card, today, AHEAD_DAYS, RoomDays(today, tuple(habitat.room.weekdays), moves))
    feeds = [
        {
            "day": feed.day,
            "food": menu.foods_text(ahead.foods.get(feed.day, ())),
            "powders": [powder.name for powder in menu.powders(ahead.dusting[feed.day], card.carrying)],
        }
        for feed in ahead.feeds[:MOST_FEEDS]
    ]
    jobs = {rotawords.key_of(job.id) for job in card.jobs if rotawords.known(job.id)}
    meals = Event.objects.filter(habitat=habitat, kind=Event.Kind.FED, payload__outcome__in=("eaten", "part"))
    eaten = meals.order_by("-at").first()
    fasts = [fast for fast in card.feed.fasts if fast.last >= today]
    return {
        "rhythm": menu.rhythm(card.feed),
        "feeds": feeds,
        "chores": _chores(card.jobs),
        "cautions": rotawords.cautions(jobs, amphibian=amphibian),
        "last_fed": eaten.at if eaten is not None else None,
        "portion": feeds[0]["food"] if feeds else "",
        "fasts": [{"first": fast.first, "last": fast.last, "why": rotawords.FASTS[fast.why]} for fast in fasts],
    }


def _chores(jobs: Iterable[Job]) -> list[str]:
    """The chores with how often each comes."""
    told = [(str(rotawords.job(job.id).name), how_often(job)) for job in jobs if rotawords.known(job.id)]
    return [f"{name}: {often}" for name, often in dict(told).items()]


def newest_photo(habitat: Habitat) -> Event | None:
    """The newest entry with a photo of a habitat or of who lives there."""
    animals = [one.animal_id for one in living_in([habitat.pk])[habitat.pk]]
    of_it = Q(habitat=habitat) | Q(animal__in=animals)
    return Event.objects.filter(of_it, room=habitat.room_id, photo__isnull=False).order_by("-at").first()
