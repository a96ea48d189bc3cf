"""The one way the pages beside the bench save an edit: as a revision, told in words where it cannot be."""

from django.contrib import messages
from django.http import HttpRequest
from django.utils.translation import gettext as _

from husbandry.assessment import Change
from husbandry.plan.edit import apply, refit
from husbandry.plan.reading import PlanProblems, read_data
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.planner import mapping, revisions, wording
from ridgeback.planner.views import version_of
from ridgeback.rooms.access import habitat_or_404, keeper_of


def save(request: HttpRequest, pk: int, changes: tuple[Change, ...], label: str) -> bool:
    """Save edits of a habitat's plan as one revision and tell whether it went well; else a message says why not."""
    before = mapping.plan_of(habitat_or_404(request, pk)).model_dump(mode="json")
    after = apply(before, changes)
    if any(change.path.startswith("enclosure.") for change in changes):
        after = refit(before, after)
    try:
        revisions.save(pk, read_data(after), version_of(request), keeper_of(request), clock.now(), label)
    except revisions.StaleEditError:
        messages.info(request, _("Somebody else changed the plan meanwhile; this is how it stands now."))
    except PlanProblems as found:
        messages.error(request, " ".join(wording.problem(item, units_of(request.user)) for item in found.problems))
    else:
        return True
    return False
