"""Feeder colonies and sown greens: when they first give, how much a week at their warmth, when to split, and what kills them.

Development goes by degree-days above a threshold, as that of eggs does: twice as far above it is twice as fast. The table is
data/cultures.toml beside this module.
"""

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum
from functools import cache
from importlib.resources import files
from math import ceil
from typing import Final, Literal

from pydantic import Field

from husbandry.species.leaves import Leaf

TOO_HOT_K: Final = 6.0  # above the warmest that is good, at which nothing grows any more (estimate)
FASTEST: Final = 1.25  # of the usual rate: no warmth makes it faster
LEAST_RATE: Final = 0.02  # slower than that it stands still
UNKNOWN_ROOM_C: Final = 21.0  # where nobody has said how warm a culture stands


class Kill(StrEnum):
    """What killed a culture."""

    DRIED_OUT = "dried-out"
    TOO_WET = "too-wet"
    MOULD = "mould"
    MITES = "mites"
    FOUL_AIR = "foul-air"
    TOO_HOT = "too-hot"
    TOO_COLD = "too-cold"
    STARVED = "starved"
    POISON = "poison"
    ANTS = "ants"
    OLD = "old"
    UNKNOWN = "unknown"


class CultureKind(Leaf):
    """What is known of one kind; days hold at `at_c`, `a_week` is pieces (of a tray g) of one vessel in a week."""

    food: str
    vessel: Literal["bin", "cup", "tray"]
    at_c: float
    threshold_c: float
    warm_c: tuple[float, float]
    first_days: float = Field(gt=0)
    good_days: float = Field(gt=0)
    split_days: float = Field(gt=0)
    a_week: float = Field(gt=0)
    feeds: str

    @property
    def sown(self) -> bool:
        """Tell whether it is sown, and counted in g."""
        return self.vessel == "tray"


@cache
def kinds() -> Mapping[str, CultureKind]:
    """Every kind by its key."""
    text = files("husbandry.diet").joinpath("data/cultures.toml").read_text(encoding="utf-8")
    return {key: CultureKind.model_validate(row) for key, row in tomllib.loads(text).items()}


def rate(kind: CultureKind, temperature_c: float) -> float:
    """Return how fast a culture develops at a temperature.

    Parameters
    ----------
    kind
        Its kind.
    temperature_c
        Where it stands, °C.

    Returns
    -------
    Of the rate at `at_c`: nought below the threshold, linear above it, falling to nought six kelvins over the warmest that is good.

    References
    ----------
    Degree-days above a threshold (Campbell et al. 1974, J. Applied Ecology 11:431; recalled).
    """
    grown = min((temperature_c - kind.threshold_c) / (kind.at_c - kind.threshold_c), FASTEST)
    over = temperature_c - kind.warm_c[1]
    return max(grown, 0.0) * min(max(1 - max(over, 0.0) / TOO_HOT_K, 0.0), 1.0)


@dataclass(frozen=True)
class Culture:
    """One culture: how many vessels of it, how warm it stands (°C), since when, and when it was last split or begun anew."""

    kind: CultureKind
    vessels: int
    temperature_c: float
    started: date
    last_split: date | None = None


@dataclass(frozen=True)
class CultureOutlook:
    """What a culture comes to: the first day it gives, pieces (or g) a week now, the day to split it, the day it is worn out.

    `first` and the others are None where it is too cold or too hot to grow at all. `warmth` is "good", "cold", "hot" or "still".
    """

    first: date | None
    a_week: float
    split: date | None
    worn: date | None
    rate: float
    warmth: str


def outlook(culture: Culture, today: date) -> CultureOutlook:
    """Return what a culture gives on a day and what is due for it.

    Parameters
    ----------
    culture
        The culture.
    today
        The day.

    Returns
    -------
    CultureOutlook.

    References
    ----------
    `rate`; the table's days (common practice).
    """
    kind, speed = culture.kind, rate(culture.kind, culture.temperature_c)
    low, high = kind.warm_c
    warmth = "good" if low <= culture.temperature_c <= high else "cold" if culture.temperature_c < low else "hot"
    if speed < LEAST_RATE:
        return CultureOutlook(None, 0.0, None, None, speed, "still")

    def days(at_best: float) -> timedelta:
        return timedelta(days=ceil(at_best / speed))

    first = culture.started + days(kind.first_days)
    worn = first + days(kind.good_days)
    split = (culture.last_split or culture.started) + days(kind.split_days)
    gives = first <= today < worn
    return CultureOutlook(first, kind.a_week * culture.vessels * speed if gives else 0.0, split, worn, speed, warmth)


def vessels_for(kind: CultureKind, a_week: float, temperature_c: float) -> int | None:
    """Return how many vessels that give keep up with a use; None where it does not grow there.

    Parameters
    ----------
    kind, temperature_c
        The kind and where it stands, °C.
    a_week
        Pieces or g that are used in a week.

    Returns
    -------
    Vessels.

    References
    ----------
    A quotient; no source outside.
    """
    speed = rate(kind, temperature_c)
    return None if speed < LEAST_RATE else max(ceil(a_week / (kind.a_week * speed) - 1e-9), 0)


def begin_every_days(kind: CultureKind, a_week: float, temperature_c: float) -> int | None:
    """Return after how many days a further vessel is begun, so that what wears out is followed; None where nothing grows.

    Parameters
    ----------
    kind, a_week, temperature_c
        As for `vessels_for`.

    Returns
    -------
    Days.

    References
    ----------
    The days a vessel gives, over how many stand at once; no source outside.
    """
    wanted = vessels_for(kind, a_week, temperature_c)
    return None if not wanted else max(int(kind.good_days / rate(kind, temperature_c) / wanted), 1)
