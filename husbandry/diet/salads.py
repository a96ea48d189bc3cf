"""Mixing a salad from what there is: greens by part, the species' shares, calcium over phosphorus.

`mix` finds the shares by mass that come nearest to the parts wanted while calcium stays at least `ratio` times
phosphorus, fruit, goitrogens and oxalate stay under their limits and nothing fills more than half the bowl. It is a linear
programme (absolute deviations), solved by SciPy's HiGHS; where the limits cannot all be met, it says which one gives way.
"""

from dataclasses import dataclass
from typing import Final

import numpy as np
import scipy

from husbandry.diet.foods import Food
from husbandry.diet.nutrients import GOITROGEN_SHARE, OXALATE_SHARE

MOST_OF_ONE: Final = 0.5
HAY_MAY_BE: Final = 0.9
RATIO: Final = 2.0
# Which limit gives way first where all cannot be met, and is then told.
GIVES_WAY: Final = ("variety", "goitrogen", "ratio", "parts")


@dataclass(frozen=True)
class Parts:
    """What a species' bowl is made of, shares by mass of each part (they need not add up to one), and the most fruit."""

    shares: dict[str, float]
    most_fruit: float


# By what the animal is (common practice, no source): grazing tortoises 70 : 30, others greens and weeds, some with fruit.
BOWLS: Final = {
    "grazer": Parts({"hay": 0.7, "weed": 0.15, "leaf": 0.1, "flower": 0.05}, 0.0),
    "weeds": Parts({"weed": 0.65, "leaf": 0.25, "flower": 0.1}, 0.0),
    "leaves": Parts({"weed": 0.35, "leaf": 0.45, "vegetable": 0.1, "flower": 0.1}, 0.0),
    "forest": Parts({"weed": 0.35, "leaf": 0.35, "vegetable": 0.1, "flower": 0.1, "fruit": 0.1}, 0.2),
    "water": Parts({"leaf": 0.8, "weed": 0.2}, 0.0),
}


@dataclass(frozen=True)
class Mix:
    """Shares by mass of each food, in the order given; `gave_way` names the limits that could not be met."""

    shares: tuple[float, ...]
    ratio: float | None
    gave_way: tuple[str, ...]


def ratio_of(foods: tuple[Food, ...], shares: tuple[float, ...]) -> float | None:
    """Return calcium over phosphorus of a mix; None where no part's are known.

    Parameters
    ----------
    foods
        The parts.
    shares
        Of the bowl, by mass.

    Returns
    -------
    Ratio by mass, or None.

    References
    ----------
    The foods' own tables.
    """
    known = [(item, share) for item, share in zip(foods, shares, strict=True) if item.ratio is not None]
    phosphorus = sum((item.phosphorus_mg or 0.0) * share for item, share in known)
    return sum((item.calcium_mg or 0.0) * share for item, share in known) / phosphorus if phosphorus > 0 else None


def mix(foods: tuple[Food, ...], bowl: Parts, *, ratio: float = RATIO, at_most: tuple[float, ...] | None = None) -> Mix:
    """Return the best mix of the foods at hand; raises ValueError where there are none.

    `at_most` is the share of the bowl each food is there for; together they must fill it.

    Parameters
    ----------
    foods
        The foods at hand.
    bowl
        The shares by kind that are wanted.
    ratio
        Calcium to phosphorus.
    at_most
        The share of the bowl each is there for; together they must fill it.

    Returns
    -------
    Mix, with shares that add up to 1.

    References
    ----------
    A linear programme by scipy.optimize.linprog (HiGHS).
    """
    if not foods or (at_most is not None and sum(at_most) < 1.0):
        raise ValueError("nothing to mix, or too little")
    gave: list[str] = []
    for dropped in ("", *GIVES_WAY):
        if dropped:
            gave.append(dropped)
        shares = _solve(foods, bowl, ratio, frozenset(gave), at_most)
        if shares is not None:
            return Mix(shares, ratio_of(foods, shares), _really_broken(foods, bowl, ratio, shares, gave))
    raise AssertionError("a mix without limits always exists")


def _limits(foods: tuple[Food, ...], bowl: Parts, ratio: float, without: frozenset[str]) -> tuple[np.ndarray, np.ndarray]:
    """Rows `A x ≤ b` over the shares."""

    def having(trait: str) -> np.ndarray:
        return np.array([1.0 if trait in item.traits else 0.0 for item in foods])

    rows, most = [], []
    if "ratio" not in without:
        rows.append(np.array([ratio * (item.phosphorus_mg or 0.0) - (item.calcium_mg or 0.0) for item in foods]) / 1000)
        most.append(0.0)
    if "parts" not in without:
        rows += [np.array([1.0 if item.kind == "fruit" else 0.0 for item in foods]), having("oxalate")]
        most += [bowl.most_fruit, OXALATE_SHARE]
    if "goitrogen" not in without:
        rows.append(having("goitrogen"))
        most.append(GOITROGEN_SHARE)
    return (np.array(rows), np.array(most)) if rows else (np.zeros((1, len(foods))), np.zeros(1))


def _solve(
    foods: tuple[Food, ...], bowl: Parts, ratio: float, without: frozenset[str], at_most: tuple[float, ...] | None
) -> tuple[float, ...] | None:
    """Shares x and deviations of each part up and down; the deviations are made least, then the shares even."""
    count, parts = len(foods), sorted({item.kind for item in foods} | set(bowl.shares))
    rows, most = _limits(foods, bowl, ratio, without)
    whole = sum(bowl.shares.get(part, 0.0) for part in parts)
    spread = count  # one more column for each food: how far it is over an even share of its part
    size = count + 2 * len(parts) + spread
    equal, right = np.zeros((1 + len(parts), size)), np.zeros(1 + len(parts))
    equal[0, :count], right[0] = 1.0, 1.0
    for index, part in enumerate(parts):
        equal[1 + index, :count] = [1.0 if item.kind == part else 0.0 for item in foods]
        equal[1 + index, count + 2 * index], equal[1 + index, count + 2 * index + 1] = -1.0, 1.0
        right[1 + index] = bowl.shares.get(part, 0.0) / whole
    upper = np.zeros((rows.shape[0] + count, size))
    upper[: rows.shape[0], :count] = rows
    over = np.zeros(count)
    for index, item in enumerate(foods):
        alike = sum(other.kind == item.kind for other in foods)
        upper[rows.shape[0] + index, index] = 1.0
        upper[rows.shape[0] + index, count + 2 * len(parts) + index] = -1.0
        over[index] = bowl.shares.get(item.kind, 0.0) / whole / alike
    cost = np.concatenate([np.zeros(count), np.ones(2 * len(parts)), np.full(spread, 0.1)])
    one = 1.0 if "variety" in without else MOST_OF_ONE
    bounds: list[tuple[float, float | None]] = [(0.0, HAY_MAY_BE if item.kind == "hay" and one < 1 else one) for item in foods]
    if at_most is not None:
        bounds = [(0.0, min(bound or 1.0, there)) for (_least, bound), there in zip(bounds, at_most, strict=True)]
    bounds += [(0.0, None)] * (2 * len(parts) + spread)
    found = scipy.optimize.linprog(cost, upper, np.concatenate([most, over]), equal, right, bounds, method="highs")
    if found.status != 0 or found.x is None:
        return None
    return tuple(float(max(share, 0.0)) for share in found.x[:count])


def _really_broken(
    foods: tuple[Food, ...], bowl: Parts, ratio: float, shares: tuple[float, ...], gave: list[str]
) -> tuple[str, ...]:
    """Of the limits given up, those the mix does break."""
    rows, most = {}, {}
    for name in gave:
        if name == "variety":
            continue
        kept = frozenset(GIVES_WAY) - {name}
        rows[name], most[name] = _limits(foods, bowl, ratio, kept)
    broken = [name for name in rows if bool(np.any(rows[name] @ np.array(shares) > most[name] + 1e-9))]
    alone = "variety" in gave and any(
        share > (HAY_MAY_BE if item.kind == "hay" else MOST_OF_ONE) + 1e-9 for item, share in zip(foods, shares, strict=True)
    )
    return (("variety",) if alone else ()) + tuple(broken)
