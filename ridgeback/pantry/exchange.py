"""The pantry as CSV: one line a lot. Import names the line of every fault, and takes all or nothing."""

import csv
import io
from dataclasses import dataclass
from datetime import date, datetime
from typing import Final

from django.db import transaction
from django.utils.translation import gettext as _

from husbandry.diet.foods import foods
from ridgeback.pantry import store
from ridgeback.pantry.models import Item, Lot
from ridgeback.planner.wording import CHOICES
from ridgeback.rooms.models import Room
from ridgeback.rota.owner_menu import choices

COLUMNS: Final = (
    "food", "kind", "unit", "amount", "received", "best_before", "pack_size", "pack_price", "lead_days",
)  # fmt: skip
LARGEST_BYTES: Final = 2_000_000
MOST_LINES: Final = 20_000
MOST_TOLD: Final = 20


@dataclass(frozen=True)
class Fault:
    """What is wrong in a line."""

    line: int
    text: str


class CsvFaults(ValueError):
    """The faults of a file, the first of them in words; `count` is how many there were."""

    def __init__(self, faults: list[Fault], count: int) -> None:
        super().__init__(f"{count} faults")
        self.faults, self.count = faults, count


@dataclass(frozen=True)
class Row:
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


def read(raw: bytes, today: date) -> list[Row]:
    """Read a file. Raises CsvFaults with the line of each fault."""
    if len(raw) > LARGEST_BYTES:
        raise CsvFaults([Fault(1, _("More than %(size)s MB: that is no pantry.") % {"size": LARGEST_BYTES // 1_000_000})], 1)
    try:
        text = raw.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise CsvFaults([Fault(1, _("This is no UTF-8 text."))], 1) from None
    reader = csv.DictReader(io.StringIO(text, newline=""))
    given = tuple(name.strip() for name in reader.fieldnames or ())
    lacking = [name for name in COLUMNS[:5] if name not in given]
    if lacking:
        said = _("The first line names the columns; missing: %(names)s.") % {"names": ", ".join(lacking)}
        raise CsvFaults([Fault(1, said)], 1)
    known = {key for key, _name in choices()} | set(CHOICES["product"])
    rows, faults, count = [], [], 0
    try:
        for place, raw_row in enumerate(reader):
            if place >= MOST_LINES:
                faults.append(Fault(reader.line_num, _("More than %(most)s lines.") % {"most": MOST_LINES}))
                count += 1
                break
            row = {(name or "").strip(): (value or "").strip() for name, value in raw_row.items() if isinstance(value, str)}
            if not any(row.values()):
                continue
            try:
                rows.append(_row(row, known, today))
            except ValueError as error:
                count += 1
                if len(faults) < MOST_TOLD:
                    faults.append(Fault(reader.line_num, str(error)))
    except csv.Error:
        raise CsvFaults([Fault(reader.line_num, _("This is no CSV."))], 1) from None
    if faults:
        raise CsvFaults(faults, count)
    return rows


def _row(row: dict[str, str], known: set[str], today: date) -> Row:
    food = row["food"]
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
    return Row(
        food,
        kind,
        unit,
        _number(row["amount"], 0.0, store.MOST),
        received,
        _day(row.get("best_before", "")),
        _number(row.get("pack_size") or "1", 0.001, store.MOST),
        _number(price, 0.0, store.MOST) if price else None,
        round(_number(row.get("lead_days") or "3", 0, 365)),
    )


def _number(text: str, least: float, most: float) -> float:
    try:
        number = float(text.replace(",", "."))
    except ValueError:
        raise ValueError(_("“%(text)s” is not a number.") % {"text": text[:20]}) from None
    if not least <= number <= most:
        raise ValueError(
            _("%(text)s is not between %(least)s and %(most)s.") % {"text": text[:20], "least": f"{least:g}", "most": f"{most:g}"}
        )
    return number


def _day(text: str) -> date | None:
    if not text:
        return None
    try:
        return date.fromisoformat(text)
    except ValueError:
        raise ValueError(_("“%(text)s” is not a date like 2026-11-30.") % {"text": text[:20]}) from None


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


@transaction.atomic
def bring_in(room: Room, rows: list[Row], at: datetime) -> int:
    """Add every row's lot; what an item says of itself is taken from its last row. Return how many lots came in."""
    count = 0
    for row in rows:
        says = {
            "kind": row.kind,
            "unit": row.unit,
            "pack_size": row.pack_size,
            "pack_price": row.pack_price,
            "lead_days": row.lead_days,
        }
        item, _made = Item.objects.update_or_create(room=room, food=row.food, defaults=says)
        if row.amount > 0:
            store.receive(item, row.amount, row.received, at, row.best_before)
            count += 1
    return count
