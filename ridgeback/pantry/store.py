"""Moving stock: what comes in, what a meal takes, what is lost, what was counted. Every move is one transaction."""

from collections.abc import Iterable
from datetime import date, datetime, timedelta

from django.db import transaction

from husbandry.diet import stock
from husbandry.errors import HusbandryError
from ridgeback.daybook.models import Event
from ridgeback.pantry.models import Change, Item, Lot
from ridgeback.rooms.models import Room


class StockError(HusbandryError, ValueError):
    """What cannot be: `code` is "negative", "too_much" or "nothing"."""

    def __init__(self, code: str) -> None:
        super().__init__(code)
        self.code = code


MOST = 1_000_000.0


def locked(item: Item) -> None:
    """Hold an item until the transaction ends: two moves of its lots follow one another."""
    Item.objects.select_for_update(no_key=True).get(pk=item.pk)


@transaction.atomic
def receive(
    item: Item, amount: float, received: date, at: datetime, best_before: date | None = None, piece_g: float | None = None
) -> Lot:
    """Put a lot in. Raises StockError for nothing, or for more than a barn holds."""
    if amount <= 0:
        raise StockError("nothing")
    if amount > MOST:
        raise StockError("too_much")
    if best_before is None and item.good_days:
        best_before = received + timedelta(days=item.good_days)
    if piece_g is not None and piece_g <= 0:
        raise StockError("nothing")
    lot = Lot.objects.create(item=item, amount=amount, received=received, best_before=best_before, piece_g=piece_g)
    Change.objects.create(lot=lot, amount=amount, why=Change.Why.IN, at=at)
    return lot


@transaction.atomic
def take(item: Item, amount: float, why: str, at: datetime, event: Event | None = None) -> float:
    """Take out first in, first out, as far as there is; return what was taken. Raises StockError for less than nothing."""
    if amount < 0:
        raise StockError("negative")
    locked(item)
    lots = {lot.pk: lot for lot in Lot.objects.select_for_update(no_key=True).filter(item=item, amount__gt=0)}
    held = [stock.Lot(lot.pk, lot.amount, lot.received, lot.best_before) for lot in lots.values()]
    amount = min(amount, sum(lot.amount for lot in held))
    for lot, part in stock.take(held, amount):
        row = lots[lot.key]
        row.amount = max(row.amount - part, 0.0)
        row.save(update_fields=["amount"])
        Change.objects.create(lot=row, amount=-part, why=why, at=at, event=event)
    return amount


@transaction.atomic
def count(item: Item, amount: float, at: datetime, today: date) -> None:
    """Set what there is to what was counted: less is taken, more comes in today."""
    if amount < 0:
        raise StockError("negative")
    locked(item)
    there = sum(Lot.objects.select_for_update(no_key=True).filter(item=item).values_list("amount", flat=True))
    if amount < there:
        take(item, there - amount, Change.Why.COUNTED, at)
    elif amount > there:
        lot = receive(item, amount - there, today, at)
        lot.changes.update(why=Change.Why.COUNTED)


@transaction.atomic
def for_meal(room: Room, foods: Iterable[tuple[str, float | None, float]], at: datetime, event: Event) -> None:
    """Take what a meal used, as (food, pieces, grams), of what the room keeps in store."""
    wanted = {food: (pieces, grams) for food, pieces, grams in foods}
    for item in Item.objects.select_for_update(no_key=True).filter(room=room, food__in=wanted).order_by("pk"):
        pieces, grams = wanted[item.food]
        amount = pieces if item.unit == Item.Unit.PIECE else grams
        if amount:
            take(item, amount, Change.Why.MEAL, at, event)


@transaction.atomic
def hand_over(event: Event, other: Event, *, gone: bool) -> None:
    """Let a meal that was corrected have taken what the first one took, or give it back where nothing was offered after all."""
    if gone:
        Change.objects.filter(event=event).update(event=other)
    else:
        give_back(event)


@transaction.atomic
def give_back(event: Event) -> None:
    """Undo what a meal took."""
    changes = Change.objects.filter(event=event).order_by("lot__item_id", "pk")
    list(Item.objects.select_for_update(no_key=True).filter(lots__changes__event=event).order_by("pk"))
    for change in changes:
        lot = Lot.objects.select_for_update(no_key=True).get(pk=change.lot_id)
        lot.amount -= change.amount
        lot.save(update_fields=["amount"])
        change.delete()
