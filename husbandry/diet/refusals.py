"""Refused meals counted against what is normal for the animal, the season and what has just happened to it.

Limits are common practice, no source: an animal that has just come or moved, is about to shed or is in its breeding season
may leave food alone for a while; a young one may not for long. Beyond its limit a refusal is a matter for a reptile veterinarian,
and so is any loss of a tenth of the weight. Nothing here says why an animal does not eat.
"""

from dataclasses import dataclass
from datetime import date
from typing import Final

# Days without a meal that are still normal, young and grown, by diet.
NORMAL_DAYS: Final = {
    "insects": (5, 14),
    "whole prey": (21, 45),
    "plants": (4, 7),
    "omnivore": (5, 10),
    "powder and insects": (7, 14),
    "eggs": (21, 60),
    "water prey": (5, 14),
}
SETTLING_DAYS: Final = 14
SHED_DAYS: Final = 10
FAST_DAYS: Final = 120  # of a breeding fast, while the weight holds, where the species' own is not known
LOSS_LIMIT_PERCENT: Final = 10.0


@dataclass(frozen=True)
class Without:
    """How long without a meal: refusals in a row, days since the last meal eaten, the days that are normal now, and why.

    `why` is "usual", "arrived", "shed", "rest" or "breeding fast"; `vet` when it is past what is normal.
    """

    refusals: int
    days: int
    normal_days: int
    why: str
    vet: bool


@dataclass(frozen=True)
class Refusals:
    """Meals refused in a row, the day of the last one eaten, and the days between feeds."""

    count: int
    last_eaten: date | None
    interval_days: int


@dataclass(frozen=True)
class Circumstances:
    """What makes an animal leave food alone. `breeding_days` is how long the species' breeding fast may go, None out of season."""

    arrived: date | None = None
    shedding_since: date | None = None
    resting: bool = False
    breeding_days: int | None = None


@dataclass(frozen=True)
class Loss:
    """What of its weight is lost, and what is never normal, in %."""

    percent: float = 0.0
    limit_percent: float = LOSS_LIMIT_PERCENT


NONE: Final = Circumstances()
NO_LOSS: Final = Loss()


def judge(
    diet: str, refused: Refusals, today: date, *, grown: bool, around: Circumstances = NONE, loss: Loss = NO_LOSS
) -> Without | None:
    """Count the refusals since the last meal eaten; None where there are none. Raises KeyError for an unknown diet.

    Parameters
    ----------
    diet
        The species' diet.
    refused
        The meals refused since the last one eaten.
    today
        The keeper's day.
    grown
        Whether it is an adult.
    around, loss
        What explains it, and what it has lost.

    Returns
    -------
    Without, or None.

    References
    ----------
    Common practice, no source; it names no illness.
    """
    refusals, last_eaten, interval_days = refused.count, refused.last_eaten, refused.interval_days
    arrived, shedding_since, resting, breeding_days = around.arrived, around.shedding_since, around.resting, around.breeding_days
    if refusals < 1:
        return None
    days = (today - last_eaten).days if last_eaten is not None else refusals * interval_days
    normal, why = max(NORMAL_DAYS[diet][grown], 2 * interval_days), "usual"
    if arrived is not None and (today - arrived).days <= SETTLING_DAYS + interval_days:
        normal, why = normal + SETTLING_DAYS, "arrived"
    elif resting:
        normal, why = max(normal, 200), "rest"
    elif shedding_since is not None and (today - shedding_since).days <= SHED_DAYS:
        normal, why = normal + SHED_DAYS, "shed"
    elif breeding_days is not None and grown:
        normal, why = max(normal, breeding_days), "breeding fast"
    return Without(refusals, days, normal, why, days > normal or loss.percent >= loss.limit_percent)
