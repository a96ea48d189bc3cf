"""The pages beside the bench: how the animal's space grows, where keepers disagree, how the book has moved on."""

from typing import Final

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from husbandry.assessment import Change
from husbandry.design.enclosure_steps import MOST_STEPS
from husbandry.numerals import NumberError
from husbandry.space.sizing import SIDES
from husbandry.species.book import UnknownSpeciesError
from husbandry.species.difference import differences
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.book import profiles, words
from ridgeback.daybook.writing import Refused
from ridgeback.drawing import hours as drawn_hours
from ridgeback.language import wording
from ridgeback.language.told import later
from ridgeback.planner import bench, choosing, growing, mapping, revisions, spacing
from ridgeback.planner.saving import save
from ridgeback.planner.view import View
from ridgeback.rooms.access import habitat_or_404, keeper_of
from ridgeback.web import typed
from ridgeback.web.requests import version_of

DEAREST: Final = 1_000_000.0


@require_GET
def space(request: HttpRequest, pk: int) -> HttpResponse:
    """What the animal needs, its years, the ways to house it, and what a tank holds inside."""
    habitat, units = habitat_or_404(request, pk), units_of(request.user)
    plan, profile = mapping.plan_of(habitat), revisions.profile_of(habitat)
    context = spacing.context(plan, profile, clock.today(), growing.weighings(habitat), request.GET, units)
    context |= {"habitat": habitat, "plan": plan, "profile": profile, "now_size": bench.size(plan, units)}
    changes = _size_changes(spacing.helper(request.GET, units))
    if changes:
        context["there"] = choosing.after(plan, profile, clock.today(), growing.weighings(habitat), changes, units)
    return render(request, "planner/space.html", context)


def _size_changes(worked: spacing.Helper) -> tuple[Change, ...]:
    """What makes a plan's enclosure the one that was worked out; nothing where none was."""
    if worked.sizes is None:
        return ()
    changes = [Change(f"enclosure.{side}_m", round(size, 4)) for side, size in zip(SIDES, worked.sizes, strict=True)]
    if worked.kind:
        changes += [Change("enclosure.kind", worked.kind), Change("enclosure.lid", worked.lid)]
    return tuple(changes)


@require_GET
def hours(request: HttpRequest, pk: int) -> HttpResponse:
    """The section through one season's day, for the time slider."""
    habitat = habitat_or_404(request, pk)
    plan, view = mapping.plan_of(habitat), View.of(request.GET)
    _profile, found = bench.assessed(habitat, plan, clock.today(), view)
    return JsonResponse({"frames": drawn_hours.frames(plan, found, view.season, units_of(request.user))})


@require_POST
def prices(request: HttpRequest, pk: int) -> HttpResponse:
    """Keep what the enclosures of either path would cost."""

    decimal = units_of(request.user).decimal

    def price(name: str) -> float | None:
        text = request.POST.get(name, "").strip()
        try:
            found = typed.amount(text, "", decimal) if text else None
        except NumberError as error:
            raise Refused("not_a_plan", why=wording.unread(error, text)) from None
        if found is not None and found > DEAREST:
            raise Refused("not_a_plan", why=_("“%(text)s” is no price.") % {"text": text[:30]})
        return found

    steps = [price(f"price_steps_{place}") for place in range(MOST_STEPS) if f"price_steps_{place}" in request.POST]
    changes = (Change("prices", {"once": price("price_once_0"), "steps": steps}),)
    save(request, pk, changes, later(lambda: _("prices of enclosures")))
    return redirect("planner:space", pk=pk)


@require_POST
def take_size(request: HttpRequest, pk: int) -> HttpResponse:
    """Plan with the enclosure that was worked out."""
    changes = _size_changes(spacing.helper(request.POST, units_of(request.user)))
    if not changes:
        raise Http404
    bench_page = redirect(f"{reverse('planner:bench', args=[pk])}?step=enclosure")
    save(request, pk, changes, later(lambda: _("another enclosure")))
    return bench_page


@require_GET
def schools(request: HttpRequest, pk: int) -> HttpResponse:
    """Where keepers disagree on this animal, and what each school would change in this plan."""
    habitat, units = habitat_or_404(request, pk), units_of(request.user)
    plan, profile = mapping.plan_of(habitat), revisions.profile_of(habitat)
    topics = choosing.topics(plan, profile, clock.today(), growing.weighings(habitat), units)
    return render(request, "planner/schools.html", {"habitat": habitat, "plan": plan, "profile": profile, "topics": topics})


@require_POST
def take_school(request: HttpRequest, pk: int) -> HttpResponse:
    """Go by a school from now on; an empty one goes by the book's first."""
    topic, _colon, school = request.POST.get("school", "").partition(":")
    plan = mapping.plan_of(habitat_or_404(request, pk))
    offered = choosing.offered(revisions.profile_of(habitat_or_404(request, pk)))
    if topic not in offered or school not in offered[topic]:
        raise Http404
    changes = (Change("schools", plan.schools | {topic: school}),)
    said = later(lambda: f"{wording.topic(topic)}: {wording.school(topic, school)}")
    save(request, pk, changes, said)
    return redirect("planner:schools", pk=pk)


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
