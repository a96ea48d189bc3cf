"""The dusting rota: which supplement goes on which feed.

A product due every P days is due on day 0, P, 2P … from a fixed start and goes on the first feed on or after each due
day: feeding every third day with vitamins each fortnight gives gaps of 5, 5 and 4 meals. Two fat-soluble products never
share a meal: the rarer one keeps its place, the other moves to the next free feed, or is left out when its own next turn
has come. The rota depends on the start, the feeds and the products only, so nothing moves from one day to the next.
"""

from dataclasses import dataclass
from datetime import date, timedelta
from typing import Final

FAT_SOLUBLE: Final = frozenset({"calcium with D3", "multivitamin", "all-in-one"})


@dataclass(frozen=True)
class Product:
    """A supplement with one frequency: every so many days, or with every n-th feed."""

    name: str
    every_days: float | None = None
    every_feeds: int | None = None

    @property
    def fat_soluble(self) -> bool:
        return self.name in FAT_SOLUBLE


@dataclass(frozen=True)
class Dusting:
    """One product on one feed. `due` is the day it fell due; `moved` when another fat-soluble product had the meal."""

    product: Product
    due: date
    moved: bool = False


def rota(feeds: list[date], products: tuple[Product, ...], starts: date) -> dict[date, tuple[Dusting, ...]]:
    """Place `products` on `feeds`, which are in order and begin at `starts`; feeds without a product have an empty tuple."""
    placed: dict[date, list[Dusting]] = {feed: [] for feed in feeds}
    rarest_first = sorted(products, key=lambda product: (-_days_between(product, feeds), product.name))
    for product in rarest_first:
        for turn in _turns(product, feeds, starts):
            for later in feeds[turn.index :]:
                if turn.next_due is not None and later >= turn.next_due:
                    break
                if product.fat_soluble and any(other.product.fat_soluble for other in placed[later]):
                    if product.every_feeds is not None:
                        break
                    continue
                placed[later].append(Dusting(product, turn.due, moved=later != feeds[turn.index]))
                break
    return {feed: tuple(items) for feed, items in placed.items()}


@dataclass(frozen=True)
class _Turn:
    """One turn of a product: the first feed on or after its due day, and when the next turn falls due."""

    index: int
    due: date
    next_due: date | None


def _days_between(product: Product, feeds: list[date]) -> float:
    if product.every_days is not None:
        return product.every_days
    gap = (feeds[1] - feeds[0]).days if len(feeds) > 1 else 1
    return gap * (product.every_feeds or 1)


def _turns(product: Product, feeds: list[date], starts: date) -> list[_Turn]:
    if product.every_feeds is not None:
        return [_Turn(index, feed, None) for index, feed in enumerate(feeds) if index % product.every_feeds == 0]
    step, count = product.every_days or 1.0, 0
    turns: list[_Turn] = []
    index = 0
    while feeds:
        due, next_due = (starts + timedelta(days=round((count + ahead) * step)) for ahead in (0, 1))
        count += 1
        if due > feeds[-1]:
            break
        while feeds[index] < due:
            index += 1
        # Where feeds are rarer than the product, the turns before one feed are one turn.
        if next_due > feeds[index]:
            turns.append(_Turn(index, due, next_due))
    return turns
