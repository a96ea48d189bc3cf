"""Six weeks of the Learning Room as its made-up volunteers ran it: meals, chores, and what stands in the pantry.

One animal is overfed, one rota is short of calcium, one snake leaves its mice, and a class of mice runs out in nine days.
"""

from collections.abc import Iterator
from datetime import date, datetime, time, timedelta
from typing import Any, Final

from django.utils import timezone
from django.utils.translation import gettext as _

from husbandry.assessment import Change
from husbandry.diet.dusting import rota
from husbandry.feeding.history import History
from husbandry.feeding.servings import serve
from husbandry.plan.editing import apply
from husbandry.plan.reading import read_data
from husbandry.rota.card import Card, RoomDays
from husbandry.upkeep.recur import EveryDays
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.language.told import later
from ridgeback.pantry import store
from ridgeback.pantry.models import Item
from ridgeback.planner import mapping, revisions
from ridgeback.rooms.models import Animal, Habitat, Room
from ridgeback.rooms.residents import living_in
from ridgeback.rota import cards, menu

BACK_DAYS: Final = 42
# What volunteers do otherwise than the book, by the animal's name.
OVERFED: Final = (
    Change("feeding.items", [{"food": "superworm", "count": 28}, {"food": "banana", "grams": 20}]),
    Change("feeding.condition", 4),
)
SHORT: Final = (Change("feeding.supplements", [{"product": "multivitamin", "every_days": 14}]),)
CHANGED: Final = {"Orache": OVERFED, "Glasswort": SHORT}
# Meals left: by name, how many of the last ones, and days since the last meal was offered.
REFUSED: Final = {"Marram": 2}
LAST_OFFERED: Final = {"Marram": 1, "Sedge": 1, "Saltwort": 9, "Samphire": 4, "Scurvy-grass": 3}
# One of a group that took nothing of late, and in how many meals.
HUNGRY: Final = {"Glasswort": ("Cordgrass", 2)}
RUNS_OUT_IN: Final = 9
RUNS_OUT_FOR: Final = "Marram"
# (food, kind, unit, amount, days ago, days it is good, pack, price, lead days)
STORE: Final = (
    ("mouse/pinky", "frozen", "piece", 18, 30, None, 25, 21.0, 4),
    ("fish", "other", "piece", 30, 20, 120, 30, 8.0, 4),
    ("cricket", "live", "piece", 260, 2, 12, 250, 9.0, 3),
    ("roach", "live", "piece", 150, 9, None, 100, 12.0, 3),
    ("superworm", "live", "piece", 420, 6, 40, 200, 8.5, 3),
    ("earthworm", "live", "piece", 60, 4, 25, 50, 6.0, 3),
    ("dandelion", "greens", "g", 150, 1, 4, 150, None, 1),
    ("endive", "greens", "g", 320, 1, 6, 350, 1.8, 1),
    ("powder-diet", "other", "g", 140, 70, 300, 170, 19.0, 5),
    ("plain calcium", "powder", "g", 85, 120, 500, 100, 6.5, 5),
    ("multivitamin", "powder", "g", 21, 150, 210, 60, 14.0, 5),
)


def live(room: Room, keeper: Keeper, today: date) -> None:
    """Write everything down."""
    label = later(lambda: _("what the volunteers feed and dust"))
    for name, changes in CHANGED.items():
        for habitat in Habitat.objects.filter(room=room, company__name=name):
            plan = read_data(apply(mapping.plan_of(habitat).model_dump(mode="json"), changes))
            revisions.save(habitat.pk, plan, habitat.version, keeper, clock.now(), label)
    habitats = list(Habitat.objects.filter(room=room).select_related("company", "head__profile"))
    living = living_in(habitat.pk for habitat in habitats)
    for habitat in habitats:
        here = [one.animal for one in living[habitat.pk]]
        alone = here[0] if len(here) == 1 else None
        card = cards.make(habitat, today, History(today - timedelta(days=BACK_DAYS)))
        Event.objects.bulk_create([*_meals(habitat, alone, card, keeper, today), *_chores(habitat, card, keeper, today)])
        log.counted(habitat.pk)
    _fill(room, habitats, today)


def _at(day: date, hour: int) -> datetime:
    return timezone.make_aware(datetime.combine(day, time(hour, 10)))


def _event(
    habitat: Habitat, kind: str, at: datetime, keeper: Keeper, payload: dict[str, Any], animal: Animal | None = None
) -> Event:
    return Event(room_id=habitat.room_id, habitat=habitat, animal=animal, kind=kind, at=at, author=keeper, payload=payload)


def _meals(habitat: Habitat, alone: Animal | None, card: Card, keeper: Keeper, today: date) -> Iterator[Event]:
    """Meals back from the last one offered, dusted as the rota would have had it; of the animal, where one lives `alone`."""
    name, every = habitat.company.name, card.feed.interval_days
    last = today - timedelta(days=LAST_OFFERED.get(name, every))
    days = [last - timedelta(days=every * index) for index in range(BACK_DAYS // every, -1, -1)]
    placed = rota(days, card.products, days[0])
    holds = serve(card.parts, days, days[0], {})
    for index, day in enumerate(days, start=1):
        refused = index > len(days) - REFUSED.get(name, 0)
        told: dict[str, Any] = {
            "outcome": "refused" if refused else "eaten",
            "due": day.isoformat(),
            "products": [item.product.name for item in placed[day]],
            "foods": [list(item) for item in menu.taken(holds[day])],
        }
        if name in HUNGRY:
            hungry, meals = HUNGRY[name]
            who = [one for one in mapping.plan_of(habitat).animal.names if one != hungry or index <= len(days) - meals]
            told |= {"who": who, "ate": len(who)}
        yield _event(habitat, Event.Kind.FED, _at(day, 18), keeper, told, alone)


def _chores(habitat: Habitat, card: Card, keeper: Keeper, today: date) -> Iterator[Event]:
    """When each chore was last done: spread so that no day holds them all, and one of them late."""
    for index, job in enumerate(card.jobs):
        if not isinstance(job.rule, EveryDays):
            continue
        days = job.rule.days
        ago = 1 if days == 1 else 1 + (habitat.pk * 7 + index * 5) % days
        if job.key == "moss-change" and habitat.company.name == "Thrift":
            ago = days + 3
        done = today - timedelta(days=ago)
        yield _event(habitat, Event.Kind.DONE, _at(done, 10), keeper, {"job": job.id, "due": done.isoformat(), "outcome": "done"})


def _fill(room: Room, habitats: list[Habitat], today: date) -> None:
    """Fill the pantry; of the mice that run out there are as many as are eaten within nine days."""
    for food, kind, unit, amount, ago, good, pack, price, lead in STORE:
        item = Item.objects.create(
            room=room, food=food, kind=kind, unit=unit, pack_size=pack, pack_price=price, lead_days=lead, good_days=good
        )
        store.receive(item, amount, today - timedelta(days=ago), clock.now())
    fresh = list(Habitat.objects.filter(pk__in=[habitat.pk for habitat in habitats]).select_related("company", "room"))
    made = cards.of_habitats(fresh, today)
    hers = (use.food for habitat in fresh if habitat.company.name == RUNS_OUT_FOR for use in made[habitat.pk].uses)
    runs_out = next(hers, None)
    if runs_out is None:
        return
    eaten = 0.0
    for habitat in fresh:
        card = made[habitat.pk]
        span = cards.span(card, today, RUNS_OUT_IN, RoomDays(today, tuple(habitat.room.weekdays)))
        eaten += sum(use.pieces or 0.0 for uses in span.foods.values() for use in uses if use.food == runs_out)
    packs = {"pack_size": 25, "pack_price": 27.5, "lead_days": 4}
    item = Item.objects.create(room=room, food=runs_out, kind="frozen", unit="piece", **packs)
    store.receive(item, max(eaten, 1.0), today - timedelta(days=60), clock.now())
