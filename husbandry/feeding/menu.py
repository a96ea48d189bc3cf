"""The feeding of the next four weeks."""

from dataclasses import dataclass
from datetime import date

from husbandry.diet.dusting import Dusting
from husbandry.diet.rations import Ration
from husbandry.feeding.week_food import Carrying, Fed


@dataclass(frozen=True)
class FeedDay:
    """One feed with what goes on it."""

    day: date
    dusting: tuple[Dusting, ...]


@dataclass(frozen=True)
class Menu:
    """The feeding of the next four weeks, and a week of its food. `starts_known` is False while no first feed is fixed."""

    rations: tuple[Ration, ...]
    interval_days: float
    time_of_day: str
    days: tuple[FeedDay, ...]
    uvb: bool
    starts_known: bool
    carrying: Carrying
    no_supplements_because: str = ""
    fed: Fed | None = None
