"""Writing a body's condition down, in the log and in the plan: both or neither."""

from datetime import date

from django.utils.translation import gettext as _

from husbandry.plan.habitat import HabitatPlan
from ridgeback.daybook import log
from ridgeback.daybook.writing import Intent, writing
from ridgeback.language.told import later
from ridgeback.planner import mapping, revisions
from ridgeback.rooms.models import Habitat


def score_condition(habitat_id: int, intent: Intent, score: int, today: date) -> Habitat:
    """Keep a score of 1 to 5. Raises AlreadyWritten."""
    with writing(intent, [habitat_id]):
        habitat = revisions.locked(habitat_id)
        log.scored(habitat, intent.at, intent.author, score)
        return plan_condition(habitat_id, intent, score, today)


def plan_condition(habitat_id: int, intent: Intent, score: int, day: date) -> Habitat:
    """Let the ration of a plan go by a score of a day; to be called inside the transaction that wrote it down."""
    habitat = revisions.locked(habitat_id)
    plan = mapping.plan_of(habitat)
    feeding = plan.feeding.model_dump() | {"condition": score, "condition_on": day}
    changed = HabitatPlan.model_validate(plan.model_dump() | {"feeding": feeding})
    label = later(lambda: _("condition %(score)s") % {"score": score})
    return revisions.save(habitat_id, changed, habitat.version, intent.author, intent.at, label)
