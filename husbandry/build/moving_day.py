"""Moving day as a short plan of its own: where it waits, what is carried over for smell, and when it is fed and touched again."""

from dataclasses import dataclass
from typing import Final

from husbandry.species.profile import Profile

AMPHIBIANS: Final = ("frog", "salamander")
SOAKED: Final = ("tortoise",)
FIRST_MEAL_DAYS: Final = {"snake": 7, "tortoise": 1, "turtle": 2, "lizard": 2, "frog": 2, "salamander": 3}
LEFT_ALONE_DAYS: Final = {"snake": 7, "tortoise": 3, "turtle": 3, "lizard": 5, "frog": 7, "salamander": 7}


@dataclass(frozen=True)
class MovingStep:
    """One thing to do, by a key that the edge puts into words, so many hours after the move (negative: before it)."""

    what: str
    hours: float


def moving_day(profile: Profile) -> tuple[MovingStep, ...]:
    """Return what is done on the day an animal moves, in order.

    Parameters
    ----------
    profile
        The animal's species.

    Returns
    -------
    MovingStep, from the day before to the first handling.

    References
    ----------
    Common practice, no source.
    """
    group, aquatic = profile.group, profile.habit == "aquatic"
    waits = "waits-wet" if group in AMPHIBIANS or aquatic else "waits-soaking" if group in SOAKED else "waits-dark"
    first_meal = FIRST_MEAL_DAYS[group]
    found = [
        MovingStep("read-once-more", -24),
        MovingStep("no-food-before", -48 if group == "snake" else -12),
        MovingStep("weigh", -1),
        MovingStep(waits, -0.5),
        MovingStep("wet-hands" if group in AMPHIBIANS else "wash-hands", -0.5),
    ]
    if aquatic:
        found.append(MovingStep("match-water", -0.5))
    else:
        found.append(MovingStep("carry-ground", 0))
        found.append(MovingStep("carry-hide", 0))
    found += [
        MovingStep("in-by-itself", 0),
        MovingStep("lights-low", 0),
        MovingStep("offer-water", 0.5),
        MovingStep("look-from-afar", 24),
        MovingStep("first-meal", 24.0 * first_meal),
        MovingStep("handle-again", 24.0 * max(LEFT_ALONE_DAYS[group], first_meal + 2)),
    ]
    return tuple(sorted(found, key=lambda one: one.hours))
