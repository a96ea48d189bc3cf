"""The one way the pages beside the bench save an edit: as a revision, merged with what was changed meanwhile.

A refusal is raised, never returned: no caller can go on as if it had been saved. `ridgeback.refusals` says it in words.
"""

from django.http import HttpRequest

from husbandry.assessment import Change
from husbandry.plan.editing import apply, refit
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.reading import PlanProblems, read_data
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.daybook.writing import Refused
from ridgeback.language import wording
from ridgeback.planner import revisions
from ridgeback.rooms.access import habitat_or_404, keeper_of
from ridgeback.rooms.models import Habitat
from ridgeback.web.requests import version_of


def begun(request: HttpRequest, habitat: Habitat) -> HabitatPlan:
    """The plan as it stood on the page whose form was sent. Raises revisions.StaleEditError where that is not known any more."""
    plan = revisions.plan_at(habitat, version_of(request))
    if plan is None:
        raise revisions.StaleEditError(habitat.version)
    return plan


def save(request: HttpRequest, pk: int, changes: tuple[Change, ...], label: str, *, worked_out: bool = False) -> Habitat:
    """Save edits of a habitat's plan as one revision; what was `worked_out` for the plan that was shown goes into no other.

    Raises Refused with what is wrong in words, or revisions.StaleEditError where the same was changed meanwhile.
    """
    habitat, version = habitat_or_404(request, pk), version_of(request)
    before = begun(request, habitat).model_dump(mode="json")
    after = apply(before, changes)
    if any(change.path.startswith("enclosure.") for change in changes):
        after = refit(before, after)
    try:
        plan = read_data(after)
    except PlanProblems as found:
        said = " ".join(wording.problem(item, units_of(request.user)) for item in found.problems)
        raise Refused("not_a_plan", why=said) from None
    write = revisions.save_worked_out if worked_out else revisions.save
    return write(pk, plan, version, keeper_of(request), clock.now(), label)
