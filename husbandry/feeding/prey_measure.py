"""What an animal's prey is measured by, what that should come to, and when a typed measurement cannot be it."""

from dataclasses import replace
from math import pi
from typing import Final

from husbandry.animal.body import Body
from husbandry.diet.gape import SizeLimit, size_limit
from husbandry.diet.rations import meals_in_use
from husbandry.feeding.week_food import eater
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Profile

# Beyond these the number is hardly that measurement of that animal (estimates: heads and bodies of a kind differ less).
LEAST_OF_EXPECTED, MOST_OF_EXPECTED = 0.45, 2.0
ROUND_FITS: Final = (0.6, 1.7)  # of what is expected: then a tape laid round it explains the number
HEADS_WIDE: Final = {"egg-2": 2.0, "egg-3": 3.0}  # the limit in widths of the head, which is what is measured


def measured_by(plan: HabitatPlan, body: Body) -> str:
    """Return what the stage's prey goes by ("gap-of-eyes", "head-length", "mouth", "girth", "egg-2", "egg-3"), "" for nothing."""
    meals = meals_in_use(body.decision.stage.feeding, plan.schools)
    return next((meal.limit for meal in meals if meal.limit), "")


def expected_m(plan: HabitatPlan, profile: Profile, body: Body) -> float | None:
    """Return what that measurement should come to by the animal's size, in m; None where neither is known."""
    by, known = measured_by(plan, body), replace(eater(plan, profile, body), measured_m=None)
    if not by or known.length_m is None:
        return None
    limit: SizeLimit = size_limit(by, known.form, known.length_m, known.mass_kg, known.total_length_m or known.length_m)
    return limit.at_most_m / HEADS_WIDE.get(by, 1.0)


def doubt(by: str, measured_m: float, should_be_m: float) -> tuple[str, float | None]:
    """Tell why a measurement cannot be it: "" where it can, "round" with the thickness a tape round it means, or "off"."""
    share = measured_m / should_be_m
    if LEAST_OF_EXPECTED <= share <= MOST_OF_EXPECTED:
        return "", None
    if by == "girth" and ROUND_FITS[0] <= share / pi <= ROUND_FITS[1]:
        return "round", measured_m / pi
    return "off", None
