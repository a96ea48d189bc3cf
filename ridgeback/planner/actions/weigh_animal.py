"""Writing a weight down. It is a fact, whatever became of the plan meanwhile, so it never goes stale."""

from datetime import date

from django.utils.translation import gettext as _

from husbandry.errors import HusbandryError
from husbandry.plan.habitat import HabitatPlan
from ridgeback.daybook import log
from ridgeback.daybook.writing import Intent, writing
from ridgeback.language.told import later
from ridgeback.planner import mapping, revisions
from ridgeback.planner.doubts import LastWeight, doubtful
from ridgeback.rooms.models import Habitat


class DoubtfulWeightError(HusbandryError, ValueError):
    """The weight is far off the last one: it is asked about before it is kept. `before` is the last one."""

    def __init__(self, before: LastWeight) -> None:
        super().__init__(f"{before.mass_kg} kg on {before.day}")
        self.before = before


def weigh_animal(habitat_id: int, intent: Intent, mass_kg: float, today: date, *, sure: bool = False) -> Habitat:
    """Keep a weight: in the log, and in the plan as it stands now.

    Raises DoubtfulWeightError unless the keeper is `sure`, AlreadyWritten, PlanProblems for a weight no animal has.
    """
    with writing(intent, [habitat_id]):
        habitat = revisions.locked(habitat_id)
        before = None if sure else doubtful(habitat, mass_kg, today)
        if before is not None:
            raise DoubtfulWeightError(before)
        plan = mapping.plan_of(habitat)
        kept = round(mass_kg, 6)
        if plan.animal.mass_kg == kept:
            log.weighed(habitat, intent.at, intent.author, mass_kg)
            return habitat
        changed = HabitatPlan.model_validate(plan.model_dump() | {"animal": plan.animal.model_dump() | {"mass_kg": kept}})
        return revisions.save(habitat_id, changed, habitat.version, intent.author, intent.at, later(lambda: _("weighed")))
