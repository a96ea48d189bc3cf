"""The pages beside the bench: how the animal's space grows, where keepers disagree, how the book has moved on."""

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from husbandry.species.book import UnknownSpeciesError
from husbandry.species.difference import differences
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.book import profiles, words
from ridgeback.planner import revisions
from ridgeback.planner.views import version_of
from ridgeback.rooms.access import habitat_or_404, keeper_of


@require_GET
def book_changes(request: HttpRequest, pk: int) -> HttpResponse:
    """What differs between the profile a plan was made with and the book's now."""
    habitat, units = habitat_or_404(request, pk), units_of(request.user)
    before = revisions.profile_of(habitat)
    try:
        after = profiles.current(habitat.room_id, habitat.species)[0]
    except UnknownSpeciesError:
        raise Http404 from None
    changes = [
        {
            "label": words.label(item.path, after),
            "before": words.value(item.before, item.path, units),
            "after": words.value(item.after, item.path, units),
            "note": (item.after or item.before).note,  # type: ignore[union-attr]
        }
        for item in differences(before, after)
    ]
    return render(request, "planner/book_changes.html", {"habitat": habitat, "profile": after, "changes": changes})


@require_POST
def take_book(request: HttpRequest, pk: int) -> HttpResponse:
    """Go by the book's profile as it is now."""
    habitat_or_404(request, pk)
    try:
        revisions.take_new_profile(pk, version_of(request), keeper_of(request), clock.now())
    except revisions.StaleEditError:
        messages.info(request, _("Somebody else changed the plan meanwhile; this is how it stands now."))
    return redirect("planner:bench", pk=pk)
