"""A weight far off the animal's last one is asked about before it is kept, wherever it is typed."""

from dataclasses import dataclass
from datetime import date

from husbandry.assessment import Measure, Parameter
from husbandry.diet import weighing
from husbandry.plan.document import HabitatPlan
from husbandry.plan.reading import Problem
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.planner.fields import Rejected
from ridgeback.rooms.models import Habitat

FIELD = "animal.mass_kg"


@dataclass(frozen=True)
class Weighed:
    """The last weight known, in kg, and the day it was taken."""

    mass_kg: float
    day: date


def last_weight(habitat: Habitat) -> Weighed | None:
    """The last weight of a habitat's animal: the newest in the log, else the plan's own."""
    found = Event.objects.filter(habitat=habitat, kind=Event.Kind.WEIGHED).order_by("-at", "-id").first()
    if found is not None and found.payload.get("mass_kg"):
        return Weighed(found.payload["mass_kg"], log.day_of(found.at))
    mass_kg = habitat.animal.mass_kg
    return None if mass_kg is None else Weighed(mass_kg, log.day_of(habitat.created_at))


def doubtful(habitat: Habitat, mass_kg: float, today: date) -> Weighed | None:
    """The last weight, if a new one is so far off it that it must be asked about."""
    before = last_weight(habitat)
    if before is None or not weighing.doubtful(before.mass_kg, mass_kg, (today - before.day).days):
        return None
    return before


def of_typed(
    habitat: Habitat, before: HabitatPlan, plan: HabitatPlan, posted: dict[str, str], today: date
) -> tuple[HabitatPlan, dict[str, Rejected]]:
    """The plan without a weight that is doubted, and the question at its field; once it is said to be so, it is taken."""
    mass_kg, other = plan.animal.mass_kg, plan.species != before.species
    if mass_kg is None or mass_kg == before.animal.mass_kg or other or posted.get(f"{FIELD}:sure") == "1":
        return plan, {}
    last = doubtful(habitat, mass_kg, today)
    if last is None:
        return plan, {}
    said: dict[str, Parameter] = {"now": Measure(mass_kg, "kg"), "before": Measure(last.mass_kg, "kg"), "day": last.day.isoformat()}
    kept = plan.animal.model_copy(update={"mass_kg": before.animal.mass_kg})
    rejected = Rejected(posted[FIELD], Problem(FIELD, "weight_far_off", said), asks=True)
    return plan.model_copy(update={"animal": kept}), {FIELD: rejected}
