"""Sick, or season? What speaks for a season of its own, for something wrong with how it is kept, and for an illness.

Each circumstance that is known shifts the balance between the three by a weight; what is not known shifts nothing and is named as
what would tell more. The weights are estimates of how much more often each is seen with one than with another (common practice, no
source). Never a diagnosis: what may be ill belongs to a reptile veterinarian, and a sign of illness outweighs every season.
"""

from collections.abc import Iterator
from dataclasses import dataclass, fields
from enum import StrEnum
from math import exp
from typing import Final

STEADY_SHARE: Final = 0.04  # of its weight lost at most, while a season of rest or breeding costs next to nothing
LOST_SHARE: Final = 0.10  # lost within a month or so: a reptile veterinarian
ASK_SHARE: Final = 0.3  # of an illness, from which a veterinarian is asked


class Side(StrEnum):
    """What may lie behind it."""

    SEASON = "season"
    KEEPING = "keeping"
    ILL = "ill"


BEFORE: Final = {Side.SEASON: 0.0, Side.KEEPING: 0.3, Side.ILL: -0.5}  # before anything is known


@dataclass(frozen=True)
class Known:
    """What is known of an animal that eats or moves little; None for what nobody knows.

    `lost_share` of its own weight; `in_season` whether its kind rests, broods or fasts in these weeks; `night_cooled` whether the
    nights have cooled as a rest asks for; `days_over` without food beyond what is normal for it; `new` whether it came lately.
    """

    lost_share: float | None = None
    in_season: bool | None = None
    night_cooled: bool | None = None
    hatchling: bool | None = None
    gravid: bool | None = None
    about_to_shed: bool | None = None
    new: bool | None = None
    keeping_wrong: bool | None = None
    days_over: float | None = None
    sign: bool | None = None
    parasites: bool | None = None


@dataclass(frozen=True)
class Evidence:
    """One circumstance, which way it points, and by how much (natural logarithm of odds)."""

    what: str
    side: Side
    weight: float


@dataclass(frozen=True)
class Weighed:
    """The share (0–1) of each side, the evidence by its weight, what is not known, and whether a veterinarian is asked."""

    shares: dict[Side, float]
    evidence: tuple[Evidence, ...]
    unknown: tuple[str, ...]
    ask_vet: bool

    @property
    def likeliest(self) -> Side:
        return max(self.shares, key=lambda side: self.shares[side])


def weigh(known: Known) -> Weighed:
    """Weigh what is known.

    Parameters
    ----------
    known
        The circumstances.

    Returns
    -------
    Weighed.

    References
    ----------
    Odds that multiply, as in Bayes' rule with independent evidence; the weights are estimates.
    """
    evidence = tuple(sorted(_evidence(known), key=lambda one: -one.weight))
    odds = {side: before + sum(one.weight for one in evidence if one.side is side) for side, before in BEFORE.items()}
    total = sum(exp(value) for value in odds.values())
    shares = {side: exp(value) / total for side, value in odds.items()}
    unknown = tuple(each.name for each in fields(known) if getattr(known, each.name) is None)
    ask = bool(known.sign) or bool(known.parasites) or shares[Side.ILL] >= ASK_SHARE or (known.lost_share or 0.0) >= LOST_SHARE
    return Weighed(shares, evidence, unknown, ask)


def _evidence(known: Known) -> Iterator[Evidence]:
    if known.lost_share is not None:
        if known.lost_share >= LOST_SHARE:
            yield Evidence("weight_lost", Side.ILL, 2.2)
        elif known.lost_share <= STEADY_SHARE:
            yield Evidence("weight_steady", Side.SEASON, 1.3)
    if known.in_season is not None:
        yield Evidence("in_season", Side.SEASON, 1.6) if known.in_season else Evidence("out_of_season", Side.ILL, 0.6)
    if known.night_cooled is not None and known.in_season:
        yield Evidence("night_cooled", Side.SEASON, 0.6) if known.night_cooled else Evidence("night_warm", Side.KEEPING, 0.5)
    for name, side, weight in (
        ("hatchling", Side.SEASON, 0.6),
        ("gravid", Side.SEASON, 1.4),
        ("about_to_shed", Side.SEASON, 1.4),
        ("new", Side.SEASON, 1.2),
        ("keeping_wrong", Side.KEEPING, 1.8),
        ("sign", Side.ILL, 3.0),
        ("parasites", Side.ILL, 2.0),
    ):
        if getattr(known, name):
            yield Evidence(name, side, weight)
    if known.keeping_wrong is False:
        yield Evidence("keeping_right", Side.SEASON, 0.4)
    if known.days_over is not None and known.days_over > 0:
        yield Evidence("fasts_long", Side.ILL, 1.2)
