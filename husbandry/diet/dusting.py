"""The dusting rota: which supplement goes on which feed.

A product due every P days is due on day 0, P, 2P … from a fixed start and goes on the first feed on or after each due
day: feeding every fourth day with vitamins each ten days gives gaps of 3 and 2 meals in turn. Two fat-soluble products never
share a meal: the rarer one keeps its place, the other moves to the next free feed, or is left out when its own next turn
has come.

What is already done is not moved. A turn given up to a quarter of its period early counts as given; one that was missed goes on
the next feed until the turn after it has come, and is never doubled; a product is not given again within half its period. A
product that goes by feeds is counted from the last feed that carried it.
"""

from dataclasses import dataclass, field
from datetime import date, timedelta
from math import ceil, floor
from typing import Final, NamedTuple

FAT_SOLUBLE: Final = frozenset({"calcium with D3", "multivitamin", "all-in-one"})
EARLY_SHARE: Final = 0.25  # of its period a turn may be given early and still count
APART_SHARE: Final = 0.5  # of its period two turns stay apart at least


@dataclass(frozen=True, slots=True)
class Product:
    """A supplement with one frequency: every so many days, or with every n-th feed."""

    name: str
    every_days: float | None = None
    every_feeds: int | None = None

    @property
    def fat_soluble(self) -> bool:
        return self.name in FAT_SOLUBLE


class Dusting(NamedTuple):
    """One product on one feed. `due` is the day it fell due; `moved` when another fat-soluble product had the meal.

    `late` when a meal has passed since it fell due that did not carry it.
    """

    product: Product
    due: date
    moved: bool = False
    late: bool = False


@dataclass(frozen=True, slots=True)
class Past:
    """What the meals already eaten carried: by product the last day, and how many meals have been eaten since that one.

    `last_meal` is the last meal eaten, `meals` how many there were in all. `given` is, of a product by days, the day its last
    turn given fell due; without it the last meal that carried the product tells.
    """

    last: dict[str, date] = field(default_factory=dict)
    meals_since: dict[str, int] = field(default_factory=dict)
    last_meal: date | None = None
    meals: int = 0
    given: dict[str, date] = field(default_factory=dict)


NOTHING_YET: Final = Past()


def rota(
    feeds: list[date], products: tuple[Product, ...], starts: date, past: Past = NOTHING_YET
) -> dict[date, tuple[Dusting, ...]]:
    """Place the supplements on the feeds to come.

    Parameters
    ----------
    feeds
        Days, in order.
    products
        Each by days or by feeds.
    starts
        The day turns are counted from.
    past
        What was given; without it the feeds begin at `starts` and stand for themselves.

    Returns
    -------
    By feed what goes on it, an empty tuple where nothing does.

    References
    ----------
    Common practice, no source.
    """
    placed: dict[date, list[Dusting]] = {feed: [] for feed in feeds}
    rarest_first = sorted(products, key=lambda product: (-_days_between(product, feeds), product.name))
    for product in rarest_first:
        if product.every_feeds is None:
            _by_days(product, placed, feeds, starts, past)
        else:
            _by_feeds(product, placed, feeds, past)
    return {feed: tuple(items) for feed, items in placed.items()}


def _days_between(product: Product, feeds: list[date]) -> float:
    if product.every_days is not None:
        return product.every_days
    gap = (feeds[1] - feeds[0]).days if len(feeds) > 1 else 1
    return gap * (product.every_feeds or 1)


def _carry(
    product: Product, placed: dict[date, list[Dusting]], feeds: list[date], window: range, due: date, past: Past
) -> int | None:
    """Put a turn on the first feed of its window that is free for it; return which one that was, None where there is none."""
    for index in window:
        mine = placed[feeds[index]]
        if product.fat_soluble and any(other.product.fat_soluble for other in mine):
            continue
        moved = index != window.start
        passed = past.last_meal is not None and due <= past.last_meal
        mine.append(Dusting(product, due, moved, passed and not moved))
        return index
    return None


def _by_feeds(product: Product, placed: dict[date, list[Dusting]], feeds: list[date], past: Past) -> None:
    """Every n-th feed, counted from the last that carried it; a turn in the way of another product waits fewer than n feeds."""
    every = product.every_feeds or 1
    since = past.meals_since.get(product.name)
    index = 0 if since is None else max(every - 1 - since, 0)
    while index < len(feeds):
        carrier = _carry(product, placed, feeds, range(index, min(index + every, len(feeds))), feeds[index], past)
        index = (index if carrier is None else carrier) + every


def _by_days(product: Product, placed: dict[date, list[Dusting]], feeds: list[date], starts: date, past: Past) -> None:
    """Every so many days from `starts`, each turn on the first feed there is, and half its period from the turn before."""
    if not feeds:
        return
    step, last = product.every_days or 1.0, past.last.get(product.name)
    apart = timedelta(days=ceil(APART_SHARE * step))
    count = 0 if last is None else max(int(((last - starts).days) / step) - 1, 0)
    given = past.given.get(product.name) or _nearest(last, starts, step)
    index = 0
    while True:
        due, next_due = (starts + timedelta(days=round((count + ahead) * step)) for ahead in (0, 1))
        count += 1
        if due > feeds[-1]:
            return
        if next_due <= feeds[0] or (given is not None and due <= given):
            continue  # gone by, or given
        wanted = due if last is None else max(due, last + apart)
        while index < len(feeds) and feeds[index] < wanted:
            index += 1
        before = index
        while before < len(feeds) and feeds[before] < next_due:
            before += 1
        # Where feeds are rarer than the product, the turns before one feed are one turn.
        carrier = _carry(product, placed, feeds, range(index, before), due, past)
        last = last if carrier is None else feeds[carrier]


def turn_given(product: Product, carried: list[date], starts: date) -> date | None:
    """Return the day on which the turn fell due that was given last; None for a product by feeds, or one never given.

    `carried` are the days of the meals that carried it, in order. Each meal gives the turn of its own days; where that was given
    before, the next one if it is near; a further dose gives nothing. A lone dose gives whichever is nearer.
    """
    if product.every_days is None:
        return None
    if len(carried) == 1:
        return _nearest(carried[0], starts, product.every_days)
    step, given = product.every_days, None
    for day in carried:
        own = _own(day, starts, step)
        if given is None or own > given:
            given = own
        elif own == given and (_due(own + 1, starts, step) - day).days <= EARLY_SHARE * step:
            given = own + 1
    return None if given is None else _due(given, starts, step)


def _due(turn: int, starts: date, step: float) -> date:
    return starts + timedelta(days=round(turn * step))


def _own(day: date, starts: date, step: float) -> int:
    """The last turn that fell due by `day`."""
    turn = floor((day - starts).days / step)
    while _due(turn + 1, starts, step) <= day:
        turn += 1
    while _due(turn, starts, step) > day:
        turn -= 1
    return turn


def _nearest(day: date | None, starts: date, step: float) -> date | None:
    """The turn a single dose gives, with nothing known before it: its own, or the next where that is a little ahead."""
    if day is None:
        return None
    own = _own(day, starts, step)
    following = _due(own + 1, starts, step)
    return following if (following - day).days <= EARLY_SHARE * step else _due(own, starts, step)
