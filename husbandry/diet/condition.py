"""Body condition, 1 (wasted) to 5 (obese), by what is looked at on each kind of body, and what it moves.

One step, one way: where an animal is fed every five days or more the interval moves, else the ration; never both. The ends of
the scale move no further than their neighbours: a wasted or obese animal needs a reptile veterinarian, not a sum.
(The five-point scale is common clinical practice; the steps are common practice, no source.)
"""

from dataclasses import dataclass
from typing import Final, Literal

Sign = Literal["tail", "hips", "shell", "spine", "flanks"]
# What is looked at, by form of body.
LOOKED_AT: Final[dict[str, Sign]] = {
    "gecko": "tail",
    "lizard": "hips",
    "snake": "spine",
    "tortoise": "shell",
    "turtle": "shell",
    "frog": "flanks",
    "salamander": "flanks",
}
SCORES: Final = (1, 2, 3, 4, 5)
RIGHT: Final = 3
LONG_INTERVAL_DAYS: Final = 5
STEP: Final = 0.25  # of the ration, or of the interval rounded to whole days


@dataclass(frozen=True)
class ConditionStep:
    """What condition moved: "ration", "interval" or "" (nothing), by `factor` on it."""

    moved: str
    factor: float


def step(score: int | None, interval_days: float) -> ConditionStep:
    """Return the one step for a score; none for 3 or where it is not known. Raises ValueError off the scale.

    Parameters
    ----------
    score
        1–5, None where it is not known.
    interval_days
        Days between feeds.

    Returns
    -------
    ConditionStep.

    References
    ----------
    Common practice of veterinary condition scoring, no source.
    """
    if score is None or score == RIGHT:
        return ConditionStep("", 1.0)
    if score not in SCORES:
        raise ValueError(f"condition is scored 1 to 5, not {score}")
    thin = score < RIGHT
    if interval_days >= LONG_INTERVAL_DAYS:
        return ConditionStep("interval", 1 - STEP if thin else 1 + STEP)
    return ConditionStep("ration", 1 + STEP if thin else 1 - STEP)


def moved_interval(interval_days: int, factor: float) -> int:
    """Move an interval by a step: at least one whole day, never below one.

    Parameters
    ----------
    interval_days
        Whole days between feeds.
    factor
        That of the step.

    Returns
    -------
    Whole days.

    References
    ----------
    Common practice of condition scoring, no source.
    """
    if factor == 1.0:
        return interval_days
    change = max(1, round(interval_days * abs(factor - 1)))
    return max(1, interval_days + (change if factor > 1 else -change))


def moved_count(low: int, high: int, factor: float) -> tuple[int, int]:
    """Move a count of prey by a step: at least one piece, never below one.

    Parameters
    ----------
    low, high
        Pieces of prey.
    factor
        That of the step.

    Returns
    -------
    Pieces, low and high.

    References
    ----------
    Common practice of condition scoring, no source.
    """
    if factor == 1.0:
        return low, high
    up = factor > 1
    change = max(1, round((low + high) / 2 * abs(factor - 1)))
    return max(1, low + change if up else low - change), max(1, high + change if up else high - change)
