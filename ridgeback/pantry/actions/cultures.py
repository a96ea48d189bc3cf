"""Writing down what is done with cultures, gut-loads and the freezer."""

from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from datetime import date
from typing import Any

from husbandry.diet.cultures import Kill, kinds
from ridgeback.daybook.writing import Intent, Refused, writing
from ridgeback.pantry.actions.stock import Parcel, receive_stock
from ridgeback.pantry.models import Culture, CultureEntry, Freezer, GutLoad, Item
from ridgeback.rooms.models import Room


def begin_culture(room: Room, intent: Intent, about: Mapping[str, Any]) -> Culture:
    """Begin a culture or a sowing. Raises AlreadyWritten."""
    with writing(intent, room=room.pk):
        return Culture.objects.create(room=room, **about)


@contextmanager
def _of(one: Culture, intent: Intent) -> Iterator[Culture]:
    """Open the transaction of a write about a culture that stands, under its room's lock. Raises AlreadyWritten, Refused."""
    with writing(intent, room=one.room_id):
        found = Culture.objects.select_for_update(no_key=True).filter(pk=one.pk, ended_on__isnull=True).first()
        if found is None:
            raise Refused("gone")
        yield found


def crop_culture(one: Culture, intent: Intent, amount: float, today: date) -> None:
    """What was taken goes into the pantry.

    Raises AlreadyWritten, StockError, Refused where it ended, or where the pantry counts that food in other units.
    """
    with _of(one, intent) as found:
        kind = kinds()[found.kind]
        unit = Item.Unit.GRAM if kind.sown else Item.Unit.PIECE
        item = Item.objects.filter(room=found.room_id, food=kind.food).first()
        if item is not None and item.unit != unit:
            raise Refused("other_count")
        receive_stock(found.room_id, Intent(intent.author, intent.at), Parcel(kind.food, unit, amount, today))
        _entry(found, CultureEntry.What.CROPPED, intent, amount=amount)


def split_culture(one: Culture, intent: Intent, vessels: int, today: date) -> None:
    """Split a culture into so many vessels. Raises AlreadyWritten, Refused where it ended."""
    with _of(one, intent) as found:
        found.last_split, found.vessels = today, vessels
        found.save(update_fields=["last_split", "vessels"])
        _entry(found, CultureEntry.What.SPLIT, intent)


def feed_culture(one: Culture, intent: Intent) -> None:
    """It was fed and looked at. Raises AlreadyWritten, Refused where it ended."""
    with _of(one, intent) as found:
        _entry(found, CultureEntry.What.FED, intent)


def change_culture(one: Culture, intent: Intent, vessels: int, temperature_c: float | None) -> None:
    """Say how many vessels there are and how warm they stand. Raises AlreadyWritten, Refused where it ended."""
    with _of(one, intent) as found:
        found.vessels, found.temperature_c = vessels, temperature_c
        found.save(update_fields=["vessels", "temperature_c"])


def end_culture(one: Culture, intent: Intent, why: str, today: date) -> Culture:
    """End a culture, by what killed it or, for "", by being given up. Raises AlreadyWritten, Refused where it ended before."""
    with _of(one, intent) as found:
        found.ended_on, found.ended_by = today, why if why in set(Kill) else ""
        found.save(update_fields=["ended_on", "ended_by"])
        _entry(found, CultureEntry.What.ENDED, intent)
        return found


def _entry(one: Culture, what: str, intent: Intent, *, amount: float | None = None) -> None:
    CultureEntry.objects.create(culture=one, what=what, at=intent.at, author=intent.author, amount=amount)


def keep_gut_load(room: Room, intent: Intent, name: str, parts: Mapping[str, float]) -> None:
    """Keep a gut-load by its parts; one of that name is changed. Raises AlreadyWritten."""
    with writing(intent, room=room.pk):
        GutLoad.objects.update_or_create(room=room, name=name, defaults={"parts": dict(parts)})


def remove_gut_load(one: GutLoad, intent: Intent) -> None:
    """Take a gut-load off the list. Raises AlreadyWritten."""
    with writing(intent, room=one.room_id):
        one.delete()


def keep_freezer(room: Room, intent: Intent, litres: float) -> None:
    """Say how much room the freezer has. Raises AlreadyWritten."""
    with writing(intent, room=room.pk):
        Freezer.objects.update_or_create(room=room, defaults={"litres": litres})
