"""The freezer: what lies in it by weight and by room, and when each animal's prey goes up a class."""

from dataclasses import dataclass
from datetime import date
from typing import Final

from husbandry.diet.prey import find_class
from husbandry.feeding.next_prey import NextPrey, next_prey
from ridgeback.daybook import reader
from ridgeback.pantry.models import Freezer, Item
from ridgeback.planner import mapping, revisions
from ridgeback.planner.once import once_small
from ridgeback.rooms.models import Habitat, Room
from ridgeback.rota.stock_forecasts import StockLine, word

KG_A_LITRE: Final = 0.55  # of frozen prey in bags (estimate: dense as water, with as much air between)


@dataclass(frozen=True)
class Filled:
    """What frozen prey weighs in kg, the litres it takes, and the litres there are (None where nobody said)."""

    kg: float
    litres: float
    room_litres: float | None

    @property
    def full(self) -> bool:
        return self.room_litres is not None and self.litres > self.room_litres


@dataclass(frozen=True)
class Sized:
    """An animal whose prey goes up a class: its name, both classes in words, the day, and how many of the class there are."""

    name: str
    now: str
    next: str
    day: date
    there: float | None


def of_room(room: Room, lines: list[StockLine]) -> Filled | None:
    """What a room's freezer holds; None where nothing frozen is kept in store and nobody said how large it is."""
    known = Freezer.objects.filter(room=room).first()
    frozen = [line for line in lines if line.item.kind == Item.Kind.FROZEN]
    if not frozen and known is None:
        return None
    kg = sum(lot.amount * each_g(line.item, lot.piece_g) / 1000 for line in frozen for lot in line.lots)
    return Filled(kg, kg / KG_A_LITRE, None if known is None else known.litres)


def each_g(item: Item, piece_g: float | None) -> float:
    """What a piece weighs in g: as it was weighed, else the middle of its class; a gram is one."""
    if item.unit == Item.Unit.GRAM:
        return 1.0
    if piece_g is not None:
        return piece_g
    try:
        return 1000 * find_class(item.food).middle_kg
    except KeyError:
        return 0.0


def next_sizes(room: Room, today: date) -> list[Sized]:
    """Whose prey goes up a class, the soonest first."""
    there = {item.food: sum(lot.amount for lot in item.lots.all()) for item in room.stock.prefetch_related("lots")}
    found = []
    habitats = list(
        Habitat.objects.filter(room=room, set_aside_at__isnull=True).select_related("company", "head__profile").order_by("name")
    )
    lived = reader.lived(habitats)
    for habitat in habitats:
        try:
            plan = mapping.plan_of(habitat)
        except mapping.UnreadablePlanError:
            continue
        profile, weighings = revisions.profile_of(habitat, plan.species), lived[habitat.pk].weighings
        key = ("next prey", plan.model_dump_json(), id(profile), today, repr(weighings))
        ahead: NextPrey | None = once_small(key, lambda: next_prey(plan, profile, today, weighings))  # noqa: B023 - at once
        if ahead is not None:
            name = habitat.company.name or habitat.name
            found.append(Sized(name, word(ahead.now), word(ahead.next), ahead.day, there.get(ahead.next)))
    return sorted(found, key=lambda one: one.day)
