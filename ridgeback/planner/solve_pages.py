"""The pages that reckon on the plan: what if, hang this lamp right, suggest a rig."""

import json
from collections.abc import Iterator

from django.http import Http404, HttpRequest, HttpResponse, StreamingHttpResponse
from django.shortcuts import redirect, render
from django.template.loader import render_to_string
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from husbandry import documents
from husbandry.assessment import Change
from husbandry.design import rigs
from husbandry.design.rig import Progress, RigsFound
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.language import wording
from ridgeback.language.told import later
from ridgeback.planner import mapping, revisions, solving
from ridgeback.planner.saving import begun, save
from ridgeback.planner.view import View
from ridgeback.rooms.access import habitat_or_404

MOST_RIG_BYTES = 20_000
MOST_STATES = 60  # the newest are offered


@require_GET
def what_if(request: HttpRequest, pk: int) -> HttpResponse:
    """One scenario after the other, each beside the usual day."""
    habitat, units = habitat_or_404(request, pk), units_of(request.user)
    plan, profile = mapping.plan_of(habitat), revisions.profile_of(habitat)
    context = solving.what_if(plan, profile, clock.today(), request.GET.get("case", ""), units)
    return render(request, "planner/what_if.html", context | {"habitat": habitat, "plan": plan, "profile": profile})


@require_GET
def compare(request: HttpRequest, pk: int) -> HttpResponse:
    """Two states of the plan side by side."""
    habitat, units = habitat_or_404(request, pk), units_of(request.user)
    states = list(habitat.revisions.defer("profile__document")[:MOST_STATES])
    by_pk = {str(state.pk): state for state in states}
    head = habitat.head
    other = None if head is None else head.parent or next((state for state in states if state.pk != head.pk), None)
    right = by_pk.get(request.GET.get("b", "")) or head
    left = by_pk.get(request.GET.get("a", "")) or other
    view = View.of(request.GET)
    context = solving.states(habitat, states, (left, right), view.season, clock.today(), units)
    return render(request, "planner/compare.html", context | {"habitat": habitat, "season": view.season})


@require_GET
def lamp(request: HttpRequest, pk: int) -> HttpResponse:
    """The ways to hang the lamp over the basking spot, with their prices."""
    habitat, units = habitat_or_404(request, pk), units_of(request.user)
    plan, profile = mapping.plan_of(habitat), revisions.profile_of(habitat)
    context = solving.lamp_ways(plan, profile, clock.today(), units)
    return render(request, "planner/lamp.html", context | {"habitat": habitat, "plan": plan, "profile": profile})


@require_POST
def take_lamp(request: HttpRequest, pk: int) -> HttpResponse:
    """Hang the lamp one of these ways. The way is worked out again here: what the browser says is only its name."""
    habitat = habitat_or_404(request, pk)
    plan, profile = begun(request, habitat), revisions.profile_of(habitat)
    ways = {way.code: way for way in solving.ways_to_hang(plan, profile, clock.today())}
    way = ways.get(request.POST.get("way", ""))
    if way is None or not way.changes or way.code == "full_on":
        raise Http404
    units = units_of(request.user)
    save(request, habitat.pk, way.changes, later(lambda: wording.said(way.said, units)), worked_out=True)
    return redirect("planner:bench", pk=habitat.pk)


@require_GET
def rig(request: HttpRequest, pk: int) -> HttpResponse:
    """The page a search is started from; without scripts it carries the answer itself."""
    habitat = habitat_or_404(request, pk)
    plan, profile = mapping.plan_of(habitat), revisions.profile_of(habitat)
    context = {"habitat": habitat, "plan": plan, "profile": profile}
    if "now" in request.GET:
        found = [step for step in rigs.search(plan, profile, clock.today()) if isinstance(step, RigsFound)]
        context |= solving.rig_answer(found[0], units_of(request.user)) | {"searched": True}
    return render(request, "planner/rig.html", context)


@require_GET
def rig_search(request: HttpRequest, pk: int) -> StreamingHttpResponse:
    """Search, one line of JSON for each step, the answer as HTML in the last."""
    habitat, units, today = habitat_or_404(request, pk), units_of(request.user), clock.today()
    plan, profile = mapping.plan_of(habitat), revisions.profile_of(habitat)

    def lines() -> Iterator[str]:
        for step in rigs.search(plan, profile, today):
            if isinstance(step, Progress):
                yield json.dumps({"done": step.done, "of": step.of}) + "\n"
            else:
                context = solving.rig_answer(step, units) | {"habitat": habitat, "plan": plan, "searched": True}
                yield json.dumps({"html": render_to_string("planner/_rigs.html", context, request)}) + "\n"

    return StreamingHttpResponse(lines(), content_type="application/x-ndjson")


@require_POST
def take_rig(request: HttpRequest, pk: int) -> HttpResponse:
    """Hang a suggested rig. The plan checks it like anything typed."""
    habitat = habitat_or_404(request, pk)
    try:
        given = documents.read(request.POST.get("rig", ""), "json", MOST_RIG_BYTES)
        changes = (Change("heaters", list(given["heaters"])), Change("uv_lamps", list(given["uv_lamps"])))
    except (ValueError, KeyError, TypeError):
        raise Http404 from None
    save(request, habitat.pk, changes, later(lambda: _("a suggested rig")), worked_out=True)
    return redirect("planner:bench", pk=habitat.pk)
