"""Writing down what the pantry holds: what came in, what was counted, lost or changed."""

from dataclasses import dataclass
from datetime import date
from typing import Any

from ridgeback.daybook.writing import Intent, Refused, writing
from ridgeback.pantry import exchange, store
from ridgeback.pantry.models import Change, Item, Lot


@dataclass(frozen=True)
class Packs:
    """What is known of an item's packs."""

    size: float | None
    price: float | None
    lead_days: int | None


@dataclass(frozen=True)
class Parcel:
    """What came in: a food or powder, how much of it in which unit, on which day, how long it keeps, what each piece weighs."""

    food: str
    unit: str
    amount: float
    received: date
    best_before: date | None = None
    piece_g: float | None = None


def receive_stock(room_id: int, intent: Intent, came: Parcel) -> Lot:
    """Something came in; an item not known yet is made. Raises AlreadyWritten, StockError."""
    with writing(intent, room=room_id):
        defaults = {"kind": exchange.guess_kind(came.food), "unit": came.unit, "pack_size": max(came.amount, 0.001)}
        item, _made = Item.objects.get_or_create(room_id=room_id, food=came.food, defaults=defaults)
        return store.receive(item, came.amount, came.received, intent.at, came.best_before, came.piece_g)


def count_stock(item: Item, intent: Intent, amount: float, today: date) -> None:
    """Set what there is to what was counted. Raises AlreadyWritten, StockError."""
    with writing(intent, room=item.room_id):
        store.count(_there(item), amount, intent.at, today)


def lose_stock(item: Item, intent: Intent, amount: float) -> None:
    """Write down what spoiled, died or was lost. Raises AlreadyWritten, StockError."""
    with writing(intent, room=item.room_id):
        store.take(_there(item), amount, Change.Why.LOST, intent.at)


def set_packs(item: Item, intent: Intent, packs: Packs) -> None:
    """Change what is known of an item's packs. Raises AlreadyWritten, StockError."""
    with writing(intent, room=item.room_id):
        found = _there(item)
        found.pack_size = found.pack_size if packs.size is None else packs.size
        found.pack_price = packs.price
        found.lead_days = found.lead_days if packs.lead_days is None else packs.lead_days
        if found.pack_size <= 0 or (found.pack_price or 0) < 0:
            raise store.StockError("negative")
        found.save(update_fields=["pack_size", "pack_price", "lead_days"])


def remove_item(item: Item, intent: Intent) -> None:
    """Take an item out of the pantry with all its lots. Raises AlreadyWritten."""
    with writing(intent, room=item.room_id):
        _there(item).delete()


def _there(item: Item) -> Any:
    found = Item.objects.select_for_update(no_key=True).filter(pk=item.pk).first()
    if found is None:
        raise Refused("gone")
    return found
