"""A lamp of a plan was replaced on a day: its age counts from there."""

from datetime import date

from django.utils.translation import gettext as _

from husbandry.assessment import Change
from husbandry.plan.editing import apply
from husbandry.plan.reading import PlanProblems, read_data
from ridgeback.daybook.writing import Intent, Refused
from ridgeback.language.told import later
from ridgeback.planner import mapping, revisions
from ridgeback.rooms.models import Habitat


def fit_lamp(habitat_id: int, intent: Intent, part: str, day: date) -> Habitat:
    """Set the day on which a lamp, by its path in the plan, was fitted; to be called inside the transaction that wrote it down.

    Raises Refused where the plan has no such lamp.
    """
    habitat = revisions.locked(habitat_id)
    plan = mapping.plan_of(habitat)
    group, _dot, at = part.partition(".")
    if int(at) >= len(getattr(plan, group)):
        raise Refused("no_such_lamp")
    try:
        changed = read_data(apply(plan.model_dump(mode="json"), (Change(f"{part}.fitted", day.isoformat()),)))
    except PlanProblems:
        raise Refused("no_such_lamp") from None
    return revisions.save(habitat_id, changed, habitat.version, intent.author, intent.at, later(lambda: _("a lamp replaced")))
