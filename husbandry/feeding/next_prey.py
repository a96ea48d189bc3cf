"""When an animal's frozen prey goes up a class: its growth ahead, and the class its ration takes on each day of it."""

from dataclasses import dataclass
from datetime import date, timedelta
from typing import Final

from husbandry.animal.body import body_of
from husbandry.animal.growth_outlook import outlook
from husbandry.animal.weighings import Weighing
from husbandry.diet.prey import find_class
from husbandry.feeding.week_food import fed
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Profile

LOOKED_DAYS: Final = 550  # a class that lasts longer is not told


@dataclass(frozen=True)
class NextPrey:
    """The class of prey now, the next one, and from when on it is taken."""

    now: str
    next: str
    day: date


def next_prey(plan: HabitatPlan, profile: Profile, today: date, weighings: tuple[Weighing, ...] = ()) -> NextPrey | None:
    """Return the next class of frozen prey and its date; None for what eats none, is grown, or has no known mass.

    Parameters
    ----------
    plan, profile
        The animal's plan and its species.
    today
        The day.
    weighings
        What was weighed before: the growth ahead goes by it.

    Returns
    -------
    NextPrey within a year and a half.

    References
    ----------
    The species' growth (docs/models.md) and the ration's own choice of prey; mass as the cube of length.
    """
    body = body_of(plan, profile, today)
    now = _class(plan, profile, today)
    if now is None or body.mass_kg is None or body.length_m is None:
        return None
    ahead = outlook(plan, profile, today, weighings)
    if ahead is None:
        return None
    least = find_class(now).middle_kg
    for day, length_m in zip(ahead.course.days, ahead.course.length_m, strict=True):
        if not today < day <= today + timedelta(days=LOOKED_DAYS) or length_m <= body.length_m:
            continue
        mass_kg = body.mass_kg * (length_m / body.length_m) ** 3
        grown = plan.model_copy(update={"animal": plan.animal.model_copy(update={"length_m": length_m, "mass_kg": mass_kg})})
        found = _class(grown, profile, day)
        if found is not None and found != now and find_class(found).middle_kg > least:
            return NextPrey(now, found, day)
    return None


def _class(plan: HabitatPlan, profile: Profile, day: date) -> str | None:
    """The class of frozen prey that the ration of a day takes."""
    body = body_of(plan, profile, day)
    given = fed(plan, profile, body.decision.stage, body, uvb=bool(plan.uv_lamps))
    offered = [ration.offers[0].prey.key for ration in given.rations if ration.offers]
    return offered[0] if offered else None
