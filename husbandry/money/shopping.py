"""Where to buy what: prices by shop and pack, shipping once an order, and the shops that come cheapest together."""

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations
from typing import Final

MOST_SHOPS: Final = 8  # every choice among them is tried
WHOLE: Final = 1e-6  # that a pack may be short of what is wanted


@dataclass(frozen=True)
class ShopOffer:
    """What one shop asks for a pack of something: `pack` in the thing's own unit."""

    what: str
    shop: str
    price: float
    pack: float = 1.0


@dataclass(frozen=True)
class ToBuy:
    """So much of something that is still to buy."""

    what: str
    amount: float


@dataclass(frozen=True)
class Bought:
    """One line of an order: so many packs of something at one shop, and what they cost together."""

    what: str
    shop: str
    packs: int
    cost: float


@dataclass(frozen=True)
class Basket:
    """What is bought where; `shipping` by shop; `unpriced` has no offer anywhere."""

    lines: tuple[Bought, ...]
    shipping: Mapping[str, float]
    unpriced: tuple[str, ...]

    @property
    def total(self) -> float:
        """Goods and shipping together."""
        return math.fsum([*(line.cost for line in self.lines), *self.shipping.values()])


def packs_for(amount: float, pack: float) -> int:
    """Return how many packs of `pack` hold `amount`, one at the least.

    Parameters
    ----------
    amount, pack
        In one unit; above zero.

    Returns
    -------
    Whole packs.

    References
    ----------
    Nobody sells part of a pack.
    """
    return max(1, math.ceil(amount / pack - WHOLE))


def basket(wanted: Iterable[ToBuy], offers: Sequence[ShopOffer], shipping: Mapping[str, float]) -> Basket:
    """Return the cheapest way to buy it all.

    Parameters
    ----------
    wanted
        What is still to buy.
    offers
        What shops ask; several for one thing.
    shipping
        What a shop takes for an order, whatever is in it; 0 where it is not named.

    Returns
    -------
    Basket. All choices of shops are tried while there are eight or fewer; with more, each thing is bought where it is cheapest.

    References
    ----------
    Exhaustive search (uncapacitated facility location); the tests check it against another.
    """
    things = sorted(wanted, key=lambda one: one.what)
    by_thing: dict[str, list[ShopOffer]] = {}
    for offer in offers:
        by_thing.setdefault(offer.what, []).append(offer)
    unpriced = tuple(one.what for one in things if one.what not in by_thing)
    priced = [one for one in things if one.what in by_thing]
    shops = sorted({offer.shop for one in priced for offer in by_thing[one.what]})
    if not priced:
        return Basket((), {}, unpriced)
    choices = [set(shops)]
    if len(shops) <= MOST_SHOPS:
        choices = [set(some) for count in range(1, len(shops) + 1) for some in combinations(shops, count)]
    found = [made for made in (_at(priced, by_thing, open_at, shipping) for open_at in choices) if made is not None]
    best = min(found, key=lambda made: (round(made.total, 6), len(made.shipping)))
    return Basket(best.lines, best.shipping, unpriced)


def _at(
    things: Sequence[ToBuy], by_thing: Mapping[str, Sequence[ShopOffer]], open_at: set[str], shipping: Mapping[str, float]
) -> Basket | None:
    """Buy it all at some shops, each thing where it is cheapest of them; None where they lack something."""
    lines = []
    for one in things:
        asked = [
            Bought(one.what, offer.shop, packs_for(one.amount, offer.pack), packs_for(one.amount, offer.pack) * offer.price)
            for offer in by_thing[one.what]
            if offer.shop in open_at
        ]
        if not asked:
            return None
        lines.append(min(asked, key=lambda line: (line.cost, line.shop)))
    used = sorted({line.shop for line in lines})
    return Basket(tuple(lines), {shop: shipping.get(shop, 0.0) for shop in used}, ())
