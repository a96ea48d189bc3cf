"""Writing a weight down. It is a fact, whatever became of the plan meanwhile, so it never goes stale."""

from dataclasses import dataclass
from datetime import date

from django.utils.translation import gettext as _

from husbandry.diet import weighing
from husbandry.plan.document import HabitatPlan
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent, writing
from ridgeback.planner import mapping, revisions
from ridgeback.rooms.models import Habitat


@dataclass(frozen=True)
class Weighed:
    """The last weight known, in kg, and the day it was taken."""

    mass_kg: float
    day: date


class DoubtfulWeightError(ValueError):
    """The weight is far off the last one: it is asked about before it is kept. `before` is the last one."""

    def __init__(self, before: Weighed) -> None:
        super().__init__(f"{before.mass_kg} kg on {before.day}")
        self.before = before


def weigh_animal(habitat_id: int, intent: Intent, mass_kg: float, today: date, *, sure: bool = False) -> Habitat:
    """Keep a weight: in the log, and in the plan as it stands now.

    Raises DoubtfulWeightError unless the keeper is `sure`, AlreadyWritten, PlanProblems for a weight no animal has.
    """
    with writing(intent, [habitat_id]):
        habitat = revisions.locked(habitat_id)
        before = last_weight(habitat, today)
        if before is not None and not sure:
            days = (today - before.day).days
            if weighing.doubtful(before.mass_kg, mass_kg, days):
                raise DoubtfulWeightError(before)
        plan = mapping.plan_of(habitat)
        kept = round(mass_kg, 6)
        if plan.animal.mass_kg == kept:
            log.weighed(habitat, intent.at, intent.author, mass_kg)
            return habitat
        changed = HabitatPlan.model_validate(plan.model_dump() | {"animal": plan.animal.model_dump() | {"mass_kg": kept}})
        return revisions.save(habitat_id, changed, habitat.version, intent.author, intent.at, _("weighed"))


def last_weight(habitat: Habitat, today: date) -> Weighed | None:
    """The last weight of a habitat's animal: the newest in the log, else the plan's own."""
    found = Event.objects.filter(habitat=habitat, kind=Event.Kind.WEIGHED).order_by("-at", "-id").first()
    if found is not None and found.payload.get("mass_kg"):
        return Weighed(found.payload["mass_kg"], log.day_of(found.at))
    mass_kg = habitat.animal.mass_kg
    return None if mass_kg is None else Weighed(mass_kg, log.day_of(habitat.created_at))
