"""What the log tells of an animal: meals, weighings, what was done."""

from dataclasses import dataclass, field
from datetime import date
from typing import Final, Literal

from husbandry.animal.weighings import Weighing

EATEN: Final = ("eaten", "part")


@dataclass(frozen=True)
class RecordedMeal:
    """A meal on record: its day, "eaten", "part", "refused" or "skipped", the powders and the foods, and who of a group ate.

    `who` is None where that was not told by name.
    """

    day: date
    outcome: str
    products: tuple[str, ...] = ()
    foods: tuple[str, ...] = ()
    who: tuple[str, ...] | None = None


@dataclass(frozen=True)
class Appointment:
    """What the log makes due: a course as a veterinarian set it, a day on which eggs are candled, one on which they may hatch.

    `key` is the chore's name, `detail` what it is about; from `first` on every `every_days` until `until` (included), once where
    `every_days` is None.
    """

    key: Literal["course", "candle", "hatch"]
    detail: str
    first: date
    every_days: int | None = None
    until: date | None = None


@dataclass(frozen=True)
class History:
    """What the log says: meals oldest first, the last day of each chore by its id, weighings, the day the habitat was made.

    `appointments` are days that an entry made due.
    """

    since: date
    meals: tuple[RecordedMeal, ...] = ()
    done: dict[str, date] = field(default_factory=dict)
    weighings: tuple[Weighing, ...] = ()
    appointments: tuple[Appointment, ...] = ()

    @property
    def refusals(self) -> int:
        """Meals refused in a row, the last ones; those the keeper left out say nothing."""
        count = 0
        for meal in reversed(self.meals):
            if meal.outcome in EATEN:
                break
            count += meal.outcome == "refused"
        return count

    @property
    def offered(self) -> dict[str, date]:
        """The last day of each food that was offered."""
        return {food: meal.day for meal in self.meals if meal.outcome != "skipped" for food in meal.foods}

    @property
    def last_eaten(self) -> date | None:
        return next((meal.day for meal in reversed(self.meals) if meal.outcome in EATEN), None)
