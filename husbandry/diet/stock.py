"""What is in the freezer, the tubs and the tins: first in, first out; how long it lasts, when to order, what to thaw.

Amounts are pieces or grams, whichever an item is counted in; all functions are pure.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from datetime import date, timedelta
from math import ceil
from typing import Final

from husbandry.errors import HusbandryError
from husbandry.units import DAYS_A_MONTH

ORDER_EARLY_DAYS: Final = 2  # kept in hand over the lead time: parcels are late (common practice, no source)


class NotEnoughError(HusbandryError):
    """More was to be taken than there is; `short` is what is missing."""

    def __init__(self, short: float) -> None:
        super().__init__(f"{short:g} short")
        self.short = short


@dataclass(frozen=True)
class Lot:
    """What came in on one day: how much is left of it, and until when it is good."""

    key: int
    amount: float
    received: date
    best_before: date | None = None


@dataclass(frozen=True)
class Forecast:
    """How long an item lasts.

    `a_week` is what the rota uses in a week, `lasts_until` the last day it suffices for, `days_left` from today, None where the
    rota uses none of it within the days looked ahead, or all of it lasts longer. `order_by` leaves the lead time, `packs` fills
    up for the days wanted, `stale` is what goes past its date before it is used. `covers_days` is how long those packs are for:
    no longer than a fresh pack keeps.
    """

    amount: float
    a_week: float
    lasts_until: date | None
    days_left: int | None
    order_by: date | None
    packs: int
    stale: float
    a_month: float
    covers_days: int


def first_out(lots: Iterable[Lot]) -> list[Lot]:
    """The lots in the order they are used: the one that ends first, then the oldest."""
    return sorted(lots, key=lambda lot: (lot.best_before or date.max, lot.received, lot.key))


def take(lots: Iterable[Lot], amount: float) -> list[tuple[Lot, float]]:
    """Return from which lots an amount is taken, first in first out. Raises NotEnoughError, and ValueError for less than none.

    Parameters
    ----------
    lots
        What is there.
    amount
        Pieces or g, as the lots are counted.

    Returns
    -------
    Lots with what is taken of each.

    References
    ----------
    First in, first out; common practice.
    """
    if amount < 0:
        raise ValueError("less than nothing is taken by nobody")
    taken, left = [], amount
    for lot in first_out(lots):
        part = min(lot.amount, left)
        if part > 0:
            taken.append((lot, part))
            left -= part
    if left > 1e-9:
        raise NotEnoughError(left)
    return taken


@dataclass(frozen=True)
class Ordering:
    """How something is ordered: days until it comes, the size of a pack, how long an order shall last, how long it keeps."""

    lead_days: int = 0
    pack_size: float = 1.0
    cover_days: int = 28
    keeps_days: int | None = None


USUAL: Final = Ordering()


def forecast(lots: Iterable[Lot], uses: Mapping[date, float], today: date, days: int, ordering: Ordering = USUAL) -> Forecast:
    """Run the stock through the days to come. `uses` are the amounts by day within `days` from today.

    Lots past their date are not used. Nobody orders what spoils before it is eaten.

    Parameters
    ----------
    lots
        What is there.
    uses
        Amounts by day.
    today, days
        The first day and how many.
    ordering
        How long a delivery takes and how much is kept back.

    Returns
    -------
    Forecast.

    References
    ----------
    First in, first out; common practice.
    """
    lead_days, pack_size = ordering.lead_days, ordering.pack_size
    cover_days, keeps_days = ordering.cover_days, ordering.keeps_days
    left = [replace(lot) for lot in first_out(lots)]
    amount = sum(lot.amount for lot in left)
    whole = sum(use for day, use in uses.items() if today <= day < today + timedelta(days=days))
    a_week = 7 * whole / days
    stale, ends = 0.0, None
    for offset in range(days):
        day = today + timedelta(days=offset)
        stale += sum(lot.amount for lot in left if lot.best_before is not None and lot.best_before < day)
        left = [lot for lot in left if lot.best_before is None or lot.best_before >= day]
        try:
            taken = {lot.key: part for lot, part in take(left, uses.get(day, 0.0))}
        except NotEnoughError:
            ends = day - timedelta(days=1)
            break
        left = [replace(lot, amount=lot.amount - taken.get(lot.key, 0.0)) for lot in left]
        left = [lot for lot in left if lot.amount > 1e-9]
    days_left = None if ends is None else (ends - today).days + 1
    order = None if ends is None else max(today, ends + timedelta(days=1 - lead_days - ORDER_EARLY_DAYS))
    covers = cover_days if keeps_days is None else max(min(cover_days, keeps_days), 1)
    wanted = a_week / 7 * (covers + (lead_days if covers == cover_days else 0))
    packs = 0 if ends is None or pack_size <= 0 else max(1, ceil(wanted / pack_size - 1e-9))
    return Forecast(amount, a_week, ends, days_left, order, packs, stale, whole / days * DAYS_A_MONTH, covers)
