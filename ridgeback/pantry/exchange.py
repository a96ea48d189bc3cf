"""The pantry as CSV: one line a lot. Import names the line of every fault, and takes all or nothing."""

import csv
import io
from dataclasses import dataclass, replace
from datetime import date, datetime
from typing import Any, Final

from django.utils.translation import gettext as _

from husbandry import numerals
from husbandry.diet.foods import foods
from husbandry.errors import HusbandryError
from husbandry.numerals import NumberError
from ridgeback.accounts.models import Keeper
from ridgeback.language import wording
from ridgeback.language.foodchoices import choices
from ridgeback.language.names import CHOICES
from ridgeback.pantry import store
from ridgeback.pantry.models import Change, Delivery, Item, Lot
from ridgeback.rooms.models import Room
from ridgeback.units import written
from ridgeback.web import typed

COLUMNS: Final = (
    "food", "kind", "unit", "amount", "received", "best_before", "pack_size", "pack_price", "lead_days",
)  # fmt: skip
LARGEST_BYTES: Final = 600_000
MOST_LINES: Final = 12_000
# What a line says of its item, beside its lot.
SAYS: Final = ("kind", "pack_size", "pack_price", "lead_days")
MOST_TOLD: Final = 20


@dataclass(frozen=True)
class CsvFault:
    """What is wrong in a line."""

    line: int
    text: str


class CsvFaults(HusbandryError, ValueError):
    """The faults of a file, the first of them in words; `count` is how many there were."""

    def __init__(self, faults: list[CsvFault], count: int) -> None:
        super().__init__(f"{count} faults")
        self.faults, self.count = faults, count


@dataclass(frozen=True)
class PantryRow:
    """A line that is right."""

    food: str
    kind: str
    unit: str
    amount: float
    received: date
    best_before: date | None
    pack_size: float
    pack_price: float | None
    lead_days: int
    line: int = 0


def write(room: Room, today: date) -> str:
    """Every lot of a room, as CSV; an item with nothing left has one line of amount 0."""
    out = io.StringIO()
    lines = csv.writer(out, lineterminator="\r\n")
    lines.writerow(COLUMNS)
    for item in Item.objects.filter(room=room).prefetch_related("lots"):
        lots = [lot for lot in item.lots.all() if lot.amount > 0]
        for lot in lots or [Lot(item=item, amount=0.0, received=today)]:
            price = "" if item.pack_price is None else f"{item.pack_price:g}"
            best = lot.best_before.isoformat() if lot.best_before else ""
            row = (
                item.food,
                item.kind,
                item.unit,
                f"{lot.amount:g}",
                lot.received,
                best,
                f"{item.pack_size:g}",
                price,
                item.lead_days,
            )
            lines.writerow(row)
    return out.getvalue()


def read(raw: bytes, today: date) -> list[PantryRow]:
    """Read a file. Raises CsvFaults with the line of each fault."""
    if len(raw) > LARGEST_BYTES:
        raise CsvFaults([CsvFault(1, _("More than %(size)s kB: that is not a pantry.") % {"size": LARGEST_BYTES // 1_000})], 1)
    try:
        text = raw.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise CsvFaults([CsvFault(1, _("This file is not text in UTF-8."))], 1) from None
    reader = csv.DictReader(io.StringIO(text, newline=""))
    try:
        given = tuple(name.strip() for name in reader.fieldnames or ())
    except csv.Error:
        raise CsvFaults([CsvFault(1, _("This is not a CSV file."))], 1) from None
    lacking = [name for name in COLUMNS[:5] if name not in given]
    if lacking:
        said = _("The first line names the columns; missing: %(names)s.") % {"names": ", ".join(lacking)}
        raise CsvFaults([CsvFault(1, said)], 1)
    known = {key for key, _name in choices()} | set(CHOICES["product"])
    rows, faults, count = [], [], 0
    try:
        for index, raw_row in enumerate(reader):
            if index >= MOST_LINES:
                faults.append(CsvFault(reader.line_num, _("More than %(most)s lines.") % {"most": MOST_LINES}))
                count += 1
                break
            row = {(name or "").strip(): (value or "").strip() for name, value in raw_row.items() if isinstance(value, str)}
            if not any(row.values()):
                continue
            try:
                rows.append(replace(_row(row, known, today), line=reader.line_num))
            except ValueError as error:
                count += 1
                if len(faults) < MOST_TOLD:
                    faults.append(CsvFault(reader.line_num, str(error)))
    except csv.Error:
        raise CsvFaults([CsvFault(reader.line_num, _("This is not a CSV file."))], 1) from None
    if faults:
        raise CsvFaults(faults, count)
    return rows


def _row(row: dict[str, str], known: set[str], today: date) -> PantryRow:
    food = row.get("food", "")
    if food not in known:
        raise ValueError(_("“%(food)s” is no food or powder of the table.") % {"food": food[:40]})
    kind = row.get("kind") or guess_kind(food)
    if kind not in Item.Kind.values:
        raise ValueError(_("“%(kind)s” is not one of %(known)s.") % {"kind": kind[:20], "known": ", ".join(Item.Kind.values)})
    unit = row.get("unit") or Item.Unit.PIECE
    if unit not in Item.Unit.values:
        raise ValueError(_("“%(unit)s” is not one of %(known)s.") % {"unit": unit[:20], "known": ", ".join(Item.Unit.values)})
    received = _day(row.get("received", "")) or today
    if received > today:
        raise ValueError(_("It came in on a day to come."))
    price = row.get("pack_price", "")
    return PantryRow(
        food,
        kind,
        unit,
        _number(row.get("amount", ""), 0.0, store.MOST),
        received,
        _day(row.get("best_before", "")),
        _number(row.get("pack_size") or "1", 0.001, store.MOST),
        _number(price, 0.0, store.MOST) if price else None,
        round(_number(row.get("lead_days") or "3", 0, 365)),
    )


def _number(text: str, least: float, most: float) -> float:
    try:
        number = numerals.number(text)
    except NumberError as error:
        raise ValueError(wording.unread(error, text)) from None
    if not least <= number <= most:
        raise ValueError(
            _("%(text)s is not between %(least)s and %(most)s.")
            % {"text": text[:20], "least": written(least), "most": written(most)}
        )
    return number


def _day(text: str) -> date | None:
    if not text:
        return None
    try:
        return typed.day(text)
    except NumberError as error:
        raise ValueError(wording.unread(error, text)) from None


def guess_kind(food: str) -> str:
    """The kind of store a food is kept in."""
    if food in CHOICES["product"]:
        return Item.Kind.POWDER
    if "/" in food:
        return Item.Kind.FROZEN
    item = foods()[food]
    if item.kind in ("insect", "worm"):
        return Item.Kind.LIVE
    return Item.Kind.GREENS if item.kind in ("hay", "weed", "leaf", "vegetable", "flower", "fruit") else Item.Kind.OTHER


@dataclass(frozen=True)
class ImportStep:
    """What one line of a file would do: a new lot, or nothing because that lot is `there` already, with so much left."""

    row: PantryRow
    there: float | None
    new_item: bool


def steps(room: Room, rows: list[PantryRow]) -> list[ImportStep]:
    """Say of each line what bringing it in would do. Raises CsvFaults where an item is counted otherwise than the line has it.

    A lot is known by its food and its two days, however much of it is left: a file that went out and comes in again adds nothing.
    """
    items = {item.food: item for item in Item.objects.filter(room=room)}
    held: dict[tuple[str, date, date | None], list[float]] = {}
    for food, received, best, amount in Lot.objects.filter(item__room=room).values_list(
        "item__food", "received", "best_before", "amount"
    ):
        held.setdefault((food, received, best), []).append(amount)
    units = {food: item.unit for food, item in items.items()}
    found, faults = [], []
    for index, row in enumerate(rows):
        unit = units.setdefault(row.food, row.unit)
        if unit != row.unit:
            names = {"piece": _("pieces"), "g": "g"}
            said = _(
                "“%(food)s” is counted in %(kept)s here, and the line says %(line)s: nothing is turned from one into the other."
            )
            faults.append(CsvFault(row.line or index + 2, said % {"food": row.food, "kept": names[unit], "line": names[row.unit]}))
        same = held.get((row.food, row.received, row.best_before))
        found.append(ImportStep(row, same.pop() if same and row.amount > 0 else None, row.food not in items))
    if faults:
        raise CsvFaults(faults[:MOST_TOLD], len(faults))
    return found


def bring_in(room: Room, rows: list[PantryRow], author: Keeper | None, at: datetime) -> tuple[Delivery | None, int]:
    """Put in the lots that are not there yet; what an item says of itself is taken from its last line.

    To be called under the room's lock. Returns the delivery, for undoing it, and how many lots came in; none where nothing was new.
    Raises CsvFaults.
    """
    planned = [step for step in steps(room, rows) if step.there is None]
    last = {step.row.food: step.row for step in planned}
    if not last:
        return None, 0
    items = {
        item.food: item for item in Item.objects.select_for_update(no_key=True).filter(room=room, food__in=last).order_by("pk")
    }
    before: dict[str, Any] = {str(item.pk): {name: getattr(item, name) for name in SAYS} for item in items.values()}
    for food, row in last.items():
        says = {name: getattr(row, name) for name in SAYS}
        if food in items:
            for name, value in says.items():
                setattr(items[food], name, value)
            items[food].save(update_fields=SAYS)
        else:
            items[food] = Item.objects.create(room=room, food=food, unit=row.unit, **says)
            before[str(items[food].pk)] = None
    delivery = Delivery.objects.create(room=room, author=author, at=at, before=before)
    lots = [
        Lot(item=items[row.food], amount=row.amount, received=row.received, best_before=row.best_before, delivery=delivery)
        for row in (step.row for step in planned)
        if row.amount > 0
    ]
    Lot.objects.bulk_create(lots, batch_size=1000)
    Change.objects.bulk_create([Change(lot=lot, amount=lot.amount, why=Change.Why.IN, at=at) for lot in lots], batch_size=1000)
    return delivery, len(lots)


def can_undo(delivery: Delivery) -> bool:
    """Tell whether nothing that came in with a delivery was used, counted or lost since."""
    return not Change.objects.filter(lot__delivery=delivery).exclude(why=Change.Why.IN).exists()


def take_out(delivery: Delivery, at: datetime) -> None:
    """Undo a delivery: its lots go, items that it made go with them, the others say of themselves what they said before.

    To be called under the room's lock, once `can_undo` holds.
    """
    delivery.lots.all().delete()
    for key, says in delivery.before.items():
        item = Item.objects.filter(pk=int(key)).first()
        if item is None:
            continue
        if says is None:
            if not item.lots.exists():
                item.delete()
            continue
        for name, value in says.items():
            setattr(item, name, value)
        item.save(update_fields=SAYS)
    delivery.undone_at = at
    delivery.save(update_fields=["undone_at"])
