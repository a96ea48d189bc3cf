"""The plan screen: reading, previewing, saving. Views only translate between requests and the services below."""

import json
from typing import Any, Final

from django.db import transaction
from django.http import Http404, HttpRequest, HttpResponse, QueryDict
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from husbandry.assess import vetting
from husbandry.design import parts
from husbandry.plan.habitat import FORMAT, HabitatPlan
from husbandry.plan.reading import PlanProblems, read_data, read_text
from husbandry.species.book import UnknownSpeciesError
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.accounts.models import Keeper
from ridgeback.daybook.writing import intent_of
from ridgeback.drawing import section
from ridgeback.language import names, wording
from ridgeback.language.told import later
from ridgeback.planner import bench as screen
from ridgeback.planner import changed, doubts, fields, furnishing, inputs, mapping, revisions
from ridgeback.planner.view import View
from ridgeback.rooms.access import habitat_or_404, keeper_of
from ridgeback.rooms.models import Habitat
from ridgeback.units import KeeperUnits
from ridgeback.web.requests import download, version_of

MOST_SINCE: Final = 5  # of what was saved meanwhile, that many are told


def _page(request: HttpRequest, habitat: Habitat, plan: HabitatPlan, view: View, **more: Any) -> HttpResponse:
    """Render the whole screen, or only the bench inside it for htmx."""
    units = units_of(request.user)
    context = screen.context(habitat, plan, view, units, clock.today(), more.pop("rejected", None)) | more
    if getattr(request, "htmx", False):
        response = render(request, "planner/_bench.html", context)
        response["HX-Retarget"], response["HX-Reswap"] = "#bench", "outerHTML"
        return response
    return render(request, "planner/bench.html", context)


def _live(request: HttpRequest, habitat: Habitat, plan: HabitatPlan, view: View, **more: Any) -> HttpResponse:
    """Render the pieces that follow the hand, each swapped into its place."""
    context = screen.live(habitat, plan, view, units_of(request.user), clock.today(), more.pop("laid_by", None))
    return render(request, "planner/_live.html", context | more)


def _back(request: HttpRequest, habitat: Habitat, view: View, **more: Any) -> HttpResponse:
    """After a change: the new bench for htmx, otherwise back to the page."""
    if request.htmx:  # type: ignore[attr-defined]
        fresh = habitat_or_404(request, habitat.pk)
        return _page(request, fresh, mapping.plan_of(fresh), view, **more)
    return redirect(f"{reverse('planner:bench', args=[habitat.pk])}?{view.query()}")


def _stale(request: HttpRequest, pk: int, view: View, stale: revisions.StaleEditError) -> HttpResponse:
    """Two edits changed the same: show both sides of just that, and who made the other; overwrite nothing."""
    habitat = habitat_or_404(request, pk)
    theirs, units = mapping.plan_of(habitat), units_of(request.user)
    mine = None if stale.merged is None else read_data(stale.merged)
    context = {
        "habitat": habitat,
        "view": view,
        "differing": [] if mine is None else _differing(mine, theirs, stale.clashes, units),
        "mine": "" if mine is None else json.dumps(mine.model_dump(mode="json")),
        "since": _since(habitat, version_of(request), keeper_of(request)),
    }
    template = "planner/_stale.html" if request.htmx else "planner/stale.html"  # type: ignore[attr-defined]
    response = render(request, template, context, status=409)
    response["HX-Retarget"], response["HX-Reswap"] = "#bench", "outerHTML"
    return response


def _differing(mine: HabitatPlan, theirs: HabitatPlan, clashes: tuple[str, ...], units: KeeperUnits) -> list[dict[str, Any]]:
    """What both changed, each as it is typed; a whole list, such as the heaters, by its name."""
    found = []
    for path, (group, field) in inputs.every(mine).items():
        clashing = any(f"{path}.".startswith(f"{clash}.") for clash in clashes)
        if not clashing or fields.value_at(mine, path) == fields.value_at(theirs, path):
            continue
        here, there = fields.show(mine, field, units), fields.show(theirs, field, units)
        found.append({"title": group.title, "field": field, "mine": here, "theirs": there})
    return found


def _since(habitat: Habitat, version: int, keeper: Keeper) -> list[dict[str, Any]]:
    """What was saved since a version: what, when, by whom."""
    return [
        {"label": item.said, "at": item.created_at, "own": item.author_id == keeper.pk, "who": item.author}
        for item in revisions.changed_since(habitat, version)[-MOST_SINCE:]
    ]


def _begun(habitat: Habitat, version: int) -> HabitatPlan:
    """The plan as the page showed it that an edit comes from. Raises StaleEditError where nobody knows any more."""
    plan = revisions.plan_at(habitat, version)
    if plan is None:
        raise revisions.StaleEditError(habitat.version)
    return plan


@require_GET
def bench(request: HttpRequest, pk: int) -> HttpResponse:
    """The plan screen; without scripts the changes that would mend what is found are asked for by a link."""
    habitat, view = habitat_or_404(request, pk), View.of(request.GET)
    plan, more = mapping.plan_of(habitat), {}
    if request.GET.get("mend") == "yes":
        found = screen.findings(habitat, plan, view, units_of(request.user), clock.today())
        more = {name: found[name] for name in ("findings", "vetted", "not_held")}
    return _page(request, habitat, plan, view, **more)


@require_GET
def findings(request: HttpRequest, pk: int) -> HttpResponse:
    """What is found, with the changes that were tried and hold: it is asked for when the rest stands on the screen."""
    habitat, view = habitat_or_404(request, pk), View.of(request.GET)
    context = screen.findings(habitat, mapping.plan_of(habitat), view, units_of(request.user), clock.today())
    answer = render(request, "planner/_findings.html", context | {"let_go": request.GET.get("let_go") == "yes"})
    answer["X-Plan-State"] = str(habitat.version)  # the page may have gone on meanwhile
    return answer


@require_POST
def save(request: HttpRequest, pk: int) -> HttpResponse:
    """Take what was typed into a step's inputs, or a whole document from the stale page."""
    habitat, view, units = habitat_or_404(request, pk), View.of(request.POST), units_of(request.user)
    version = version_of(request)
    rejected: dict[str, fields.Rejected] = {}
    try:
        before = _begun(habitat, version)
        if "document" in request.POST:
            plan = read_text(request.POST["document"])
        else:
            posted = {name: str(value) for name, value in request.POST.items()}
            plan, rejected = fields.bind(before, view.step, posted, units)
            edit, profile = doubts.PlanEdit(before, plan, posted), revisions.profile_of(habitat, plan.species)
            plan, asked = doubts.of_typed(habitat, edit, clock.today(), profile, units)
            rejected |= asked
        behind = version != habitat.version
        if plan != before:
            label = later(lambda: changed.said(before, plan, units) or _("%(step)s changed") % {"step": names.STEPS[view.step]})
            habitat = revisions.save(pk, plan, version, keeper_of(request), clock.now(), label)
    except revisions.StaleEditError as stale:
        return _stale(request, pk, view, stale)
    except (PlanProblems, UnknownSpeciesError):
        raise Http404 from None
    if rejected:
        fresh = habitat_or_404(request, pk)
        return _page(request, fresh, mapping.plan_of(fresh), view, rejected=rejected)
    if behind or not request.htmx or _shape(before, view) != _shape(plan, view):  # type: ignore[attr-defined]
        return _back(request, habitat, view)
    return _live(request, habitat, plan, view, saved=True, **_fresh_fields(request, before, plan, view), **_status(habitat))


def _shape(plan: HabitatPlan, view: View) -> tuple[Any, ...]:
    """What decides whether the screen's layout changes, not only its numbers."""
    paths = tuple(field.path for group in inputs.groups(plan, view.step) for field in group.fields)
    counts = (len(plan.heaters), len(plan.uv_lamps), len(plan.light_bars))
    there = (plan.pool is None, plan.window is None)
    return (paths, counts, there, plan.enclosure, plan.ground, plan.things, plan.species, plan.name)


def _fresh_fields(request: HttpRequest, before: HabitatPlan, plan: HabitatPlan, view: View) -> dict[str, Any]:
    """The inputs whose value changed, to be shown as the plan has them; every shown fault is cleared."""
    units = units_of(request.user)
    changed, clean = [], []
    for group in inputs.groups(plan, view.step):
        for field in group.fields:
            clean.append(field)
            if fields.value_at(before, field.path) != fields.value_at(plan, field.path):
                changed.append(fields.show(plan, field, units))
    return {"changed_fields": changed, "clean_fields": clean}


def _status(habitat: Habitat) -> dict[str, Any]:
    return {
        "can_undo": habitat.head is not None and habitat.head.parent_id is not None,
        "can_redo": revisions.can_redo(habitat),
    }


def _moved(request: HttpRequest, plan: HabitatPlan) -> HabitatPlan:
    try:
        x_m, part = float(request.POST["x_m"]), request.POST.get("part", "")
        if "y_m" in request.POST:
            return parts.move_on_floor(plan, part, x_m, float(request.POST["y_m"]))
        return parts.move(plan, part, x_m, float(request.POST["height_m"]))
    except (KeyError, ValueError, parts.NoSuchPartError):
        raise Http404 from None


# Nothing is written, so no transaction: two round trips less while the hand waits.
@transaction.non_atomic_requests
@require_POST
def preview(request: HttpRequest, pk: int) -> HttpResponse:
    """What a part's new place would do; nothing is saved. While the hand is on its way only what the eye is on is answered."""
    habitat, view = habitat_or_404(request, pk), View.of(request.POST)
    before = mapping.plan_of(habitat)
    plan = _moved(request, before)
    if request.POST.get("near") != "yes":
        return _live(request, habitat, plan, view, laid_by=before)
    hand = screen.Hand(before, "above" if "y_m" in request.POST else "front")
    return render(request, "planner/_live.html", screen.near(habitat, plan, view, units_of(request.user), clock.today(), hand))


@require_POST
def move(request: HttpRequest, pk: int) -> HttpResponse:
    """A part was let go: save its place as one revision."""
    habitat, view, version = habitat_or_404(request, pk), View.of(request.POST), version_of(request)
    behind = version != habitat.version
    try:
        before = _begun(habitat, version)
        plan = _moved(request, before)
        units = units_of(request.user)
        label = later(lambda: changed.said(before, plan, units) or _("moved in the drawing"))
        habitat = revisions.save(pk, plan, version, keeper_of(request), clock.now(), label)
    except revisions.StaleEditError as stale:
        return _stale(request, pk, view, stale)
    if behind or section.frame_of(plan).scale != section.frame_of(before).scale:
        return _back(request, habitat, view)
    saved = {"saved": True, **_fresh_fields(request, before, plan, view), **_status(habitat)}
    if request.POST.get("shown") == "yes":
        # The last preview already showed this very place: only what saving changed is answered.
        return render(request, "planner/_live.html", {"habitat": habitat, "view": view, "shown_already": True, **saved})
    return _live(request, habitat, plan, view, **saved)


@require_POST
def part(request: HttpRequest, pk: int) -> HttpResponse:
    """Add a part or take one away."""
    habitat, view = habitat_or_404(request, pk), View.of(request.POST)
    version, path = version_of(request), request.POST.get("part", "")
    do = request.POST.get("do")
    try:
        before = _begun(habitat, version)
        if do == "furnish":
            return _furnished(request, habitat, before, view)
        plan, label = _with_part(before, do, path, request.POST)
        revisions.save(pk, plan, version, keeper_of(request), clock.now(), label)
    except revisions.StaleEditError as stale:
        return _stale(request, pk, view, stale)
    except (parts.NoSuchPartError, PlanProblems):
        raise Http404 from None
    return _back(request, habitat, view)


def _furnished(request: HttpRequest, habitat: Habitat, before: HabitatPlan, view: View) -> HttpResponse:
    """Place what the species wants, save it, and say what found no place. Raises revisions.StaleEditError."""
    found = furnishing.furnished(before, revisions.profile_of(habitat, before.species), clock.today())
    units, version = units_of(request.user), version_of(request)
    if found.plan != before:
        revisions.save_worked_out(habitat.pk, found.plan, version, keeper_of(request), clock.now(), later(lambda: _("furnished")))
    return _back(request, habitat, view, notice=furnishing.left_out(found, units))


def _with_part(before: HabitatPlan, do: str | None, path: str, posted: QueryDict) -> tuple[HabitatPlan, str]:
    """The plan with a part more or less, and what was done in words. Raises parts.NoSuchPartError and PlanProblems."""
    if do == "recipe":
        key = posted.get("recipe", "")
        plan = parts.take_recipe(before, key)
        return plan, later(lambda: _("ground: %(mix)s") % {"mix": names.CHOICES["recipe"][key]})
    if do == "copy":
        return parts.copy_thing(before, path), later(lambda: _("one more %(part)s") % {"part": changed.part_title(before, path)})
    if do == "turn":
        return parts.turn_thing(before, path), later(lambda: _("%(part)s turned") % {"part": changed.part_title(before, path)})
    if do in ("add", "thing"):
        path = f"things.{posted.get('thing', '')}" if do == "thing" else path
        plan = parts.add(before, path)
        if path.startswith("things."):
            path = f"things.{len(plan.things) - 1}"
        return plan, later(lambda: _("%(part)s added") % {"part": changed.part_title(plan, path)})
    return parts.take_away(before, path), later(lambda: _("%(part)s taken away") % {"part": changed.part_title(before, path)})


@require_POST
def remedy(request: HttpRequest, pk: int) -> HttpResponse:
    """Make a finding's change. The finding is found again in the plan that was shown: what the browser says is only its name."""
    habitat, view, version = habitat_or_404(request, pk), View.of(request.POST), version_of(request)
    try:
        before = _begun(habitat, version)
    except revisions.StaleEditError as stale:
        return _stale(request, pk, view, stale)
    profile, found = screen.assessed(habitat, before, clock.today(), view)
    asked = request.POST.get("finding", "")
    found = screen.vetted(habitat, before, profile, found, only=asked or "none")
    finding = next((item for item in found.findings if item.id == asked), None)
    if finding is None or finding.remedy is None or not finding.remedy.changes:
        return _back(request, habitat, view)  # mended already
    try:
        plan = read_data(vetting.applied(before, finding.remedy.changes))
    except PlanProblems as problems:
        said = " ".join(wording.problem(item, units_of(request.user)) for item in problems.problems)
        return _back(request, habitat, view, notice=said)
    units, mending = units_of(request.user), finding.remedy
    label = later(lambda: wording.remedy(mending, units))
    revisions.save_worked_out(pk, plan, version, keeper_of(request), clock.now(), label)
    return _back(request, habitat, view)


@require_POST
def undo(request: HttpRequest, pk: int) -> HttpResponse:
    return _step_back(request, pk, revisions.undo)


@require_POST
def redo(request: HttpRequest, pk: int) -> HttpResponse:
    return _step_back(request, pk, revisions.redo)


def _step_back(request: HttpRequest, pk: int, action: Any) -> HttpResponse:
    habitat, view = habitat_or_404(request, pk), View.of(request.POST)
    try:
        action(pk, version_of(request), intent_of(request))
    except revisions.StaleEditError:
        return _back(request, habitat, view, notice=_("The plan has changed since this page was shown; this is how it stands now."))
    return _back(request, habitat, view)


@require_GET
def export(request: HttpRequest, pk: int) -> HttpResponse:
    """The plan as the open JSON document; one that cannot be read is given out as it is kept."""
    habitat = habitat_or_404(request, pk)
    try:
        document = mapping.plan_of(habitat).model_dump(mode="json")
    except mapping.UnreadablePlanError:
        document = {"format": FORMAT, **mapping.document_of(habitat)}
    text = json.dumps(document, indent=2, ensure_ascii=False, default=str)
    return download(text.encode(), "application/json", habitat.name, "plan.json")
