"""How long the pantry lasts: the rota's own feeds, day by day, against what is in store."""

from collections import defaultdict
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any, Final

from husbandry.diet import stock
from husbandry.feeding.servings import Use
from husbandry.rota.card import Card, Days, RoomDays
from ridgeback.language.foodwords import prey
from ridgeback.language.names import CHOICES
from ridgeback.pantry.models import Item
from ridgeback.rooms.models import Habitat, Room
from ridgeback.rota import cards, history
from ridgeback.units import written

LOOK_DAYS: Final = 84
COVER_DAYS: Final = 28
USUALLY_KEEPS: Final = {"greens": 5}  # days in a cold drawer (common practice, no source)
KIND_ORDER: Final = ("frozen", "live", "greens", "powder", "other")


def word(food: str) -> str:
    """What an item is called."""
    return str(CHOICES["product"].get(food) or prey(food))


@dataclass(frozen=True)
class StockLine:
    """An item with its forecast; `state` is "out", "soon", "stale", "fine" or "unused"."""

    item: Item
    name: str
    found: stock.Forecast
    state: str
    cost_a_month: float | None
    lots: tuple[Any, ...]

    @property
    def spoils(self) -> bool:
        """Tell whether an order covers less than the usual time because it would spoil."""
        return self.found.packs > 0 and self.found.covers_days < COVER_DAYS

    @property
    def unit(self) -> str:
        return "" if self.item.unit == Item.Unit.PIECE else "g"


@dataclass(frozen=True)
class Thaw:
    """What to take out for tomorrow: a class, how many, for whom, and how many there are (None where none are kept in store)."""

    food: str
    name: str
    count: float
    whom: tuple[str, ...]
    there: float | None


def uses_by_day(room_habitats: list[Habitat], today: date, days: int) -> dict[str, dict[date, tuple[float, float]]]:
    """By food and day, the pieces and grams the rota takes; powders in grams."""
    room_habitats, made = cards.working(room_habitats, today)
    moves = history.moves_of(made, today)
    found: dict[str, dict[date, tuple[float, float]]] = defaultdict(dict)
    for habitat in room_habitats:
        card = made[habitat.pk]
        span = cards.span(card, today, days, RoomDays(today, tuple(habitat.room.weekdays), moves.get(habitat.pk, {})), daily=False)
        for food, day, pieces, grams in _takes(card, span):
            before = found[food].get(day, (0.0, 0.0))
            found[food][day] = (before[0] + pieces, before[1] + grams)
    return found


def _takes(card: Card, span: Days) -> list[tuple[str, date, float, float]]:
    found = []
    for feed in span.feeds:
        found += [(use.food, feed.day, use.pieces or 0.0, use.grams) for use in span.foods[feed.day]]
        carried = [item.product.name for item in span.dusting[feed.day]]
        found += [(name, feed.day, 0.0, card.dust_g / len(carried)) for name in carried]
    return found


def lines(room: Room, today: date) -> list[StockLine]:
    """Every item of a room with how long it lasts."""
    habitats = list(cards.habitats_of_room(room.pk))
    uses = uses_by_day(habitats, today, LOOK_DAYS)
    items = Item.objects.filter(room=room).prefetch_related("lots")
    found = [_line(item, uses.get(item.food, {}), today) for item in items]
    return sorted(found, key=lambda line: (KIND_ORDER.index(line.item.kind), line.found.days_left or LOOK_DAYS + 1, line.name))


def _line(item: Item, uses: dict[date, tuple[float, float]], today: date) -> StockLine:
    pieces = item.unit == Item.Unit.PIECE
    wanted = {day: amount[0] if pieces else amount[1] for day, amount in uses.items()}
    lots = tuple(lot for lot in item.lots.all() if lot.amount > 0)
    held = [stock.Lot(lot.pk, lot.amount, lot.received, lot.best_before) for lot in lots]
    found = stock.forecast(
        held,
        wanted,
        today,
        LOOK_DAYS,
        stock.Ordering(item.lead_days, item.pack_size, COVER_DAYS, keeps_days(item)),
    )
    cost = None if item.pack_price is None else item.pack_price / item.pack_size * found.a_month
    return StockLine(item, word(item.food), found, _state(found, today), cost, lots)


def keeps_days(item: Item) -> int | None:
    """How long a fresh pack keeps: as the keeper has it, by the dates of those that came in, or as usual; None for what keeps."""
    if item.good_days is not None:
        return item.good_days
    dated = sorted((lot.best_before - lot.received).days for lot in item.lots.all() if lot.best_before is not None)
    return dated[len(dated) // 2] if dated else USUALLY_KEEPS.get(item.kind)


def _state(found: stock.Forecast, today: date) -> str:
    if found.a_week <= 0:
        return "unused"
    if found.days_left is not None and found.days_left <= 0:
        return "out"
    if found.order_by is not None and found.order_by <= today + timedelta(days=7):
        return "soon"
    return "stale" if found.stale > 0 else "fine"


def thaw(room: Room, today: date) -> list[Thaw]:
    """Frozen prey for tomorrow's feeds."""
    tomorrow = today + timedelta(days=1)
    habitats, made = cards.working(list(cards.habitats_of_room(room.pk)), today)
    moves = history.moves_of(made, today)
    counts: dict[str, float] = defaultdict(float)
    whom: dict[str, list[str]] = defaultdict(list)
    for habitat in habitats:
        span = cards.span(
            made[habitat.pk], tomorrow, 1, RoomDays(today, tuple(habitat.room.weekdays), moves.get(habitat.pk, {})), daily=False
        )
        for use in (use for uses in span.foods.values() for use in uses):
            if is_frozen(use) and use.pieces is not None:
                counts[use.food] += use.pieces
                whom[use.food].append(f"{habitat.company.name or habitat.name} {written(use.pieces)}")
    there = {
        item.food: sum(lot.amount for lot in item.lots.all()) for item in Item.objects.filter(room=room).prefetch_related("lots")
    }
    return [Thaw(food, word(food), count, tuple(whom[food]), there.get(food)) for food, count in sorted(counts.items())]


def left_out(room: Room, today: date) -> list[Habitat]:
    """The habitats of a room whose rota cannot be worked out: nothing here counts what they eat."""
    habitats = list(cards.habitats_of_room(room.pk))
    cards.of_habitats(habitats, today)
    return cards.broken(habitats)


def is_frozen(use: Use) -> bool:
    """Tell whether it comes out of the freezer: a class of prey."""
    return "/" in use.food


def missing(room: Room, today: date) -> list[str]:
    """Frozen prey and powders the rota uses that the pantry does not know."""
    uses = uses_by_day(list(cards.habitats_of_room(room.pk)), today, COVER_DAYS)
    known = set(Item.objects.filter(room=room).values_list("food", flat=True))
    return sorted(food for food in uses if food not in known and ("/" in food or food in CHOICES["product"]))
