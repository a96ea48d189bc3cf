"""A keeper's own profiles: the list, copying, editing with live checks, export and import."""

import json
from typing import Any

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from husbandry.species.book import UnknownSpeciesError, find
from husbandry.species.profile import Profile
from husbandry.species.reading import LARGEST_BYTES, ProfileProblem, ProfileProblems, read_text
from husbandry.species.revising import NotInAListError
from husbandry.species.writing import to_toml
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.book import editing, own, parts, profiles, words
from ridgeback.book.models import OwnProfile
from ridgeback.daybook.writing import answered, intent_of
from ridgeback.rooms.access import keeper_of, rooms_of
from ridgeback.rooms.models import Habitat, Room
from ridgeback.units import KeeperUnits
from ridgeback.web import typed


def _own_or_404(request: HttpRequest, pk: int) -> OwnProfile:
    return get_object_or_404(OwnProfile.objects.filter(room__in=rooms_of(keeper_of(request))), pk=pk)


def _room(request: HttpRequest) -> Room:
    """The room that was chosen, or the keeper's only one."""
    rooms = list(rooms_of(keeper_of(request)))
    asked = request.POST.get("room", "")
    for room in rooms:
        if str(room.pk) == asked or (not asked and len(rooms) == 1):
            return room
    raise Http404


def _profile(item: OwnProfile) -> Profile:
    return profiles.validated(item.sha256, lambda: item.document)


@require_GET
def index(request: HttpRequest) -> HttpResponse:
    """All own profiles of the keeper's rooms, with how many habitats go by each."""
    found = OwnProfile.objects.filter(room__in=rooms_of(keeper_of(request))).select_related("room", "author")
    rows = [
        {"own": item, "used": Habitat.objects.filter(room=item.room, species=item.species, set_aside_at__isnull=True).count()}
        for item in found
    ]
    return render(request, "book/mine.html", {"rows": rows, "rooms": rooms_of(keeper_of(request)), "problems": [], "text": ""})


@require_POST
def copy(request: HttpRequest, species: str) -> HttpResponse:
    """Copy a shipped profile into the room."""
    try:
        made = own.copy(_room(request), find(species), intent_of(request))
    except UnknownSpeciesError:
        raise Http404 from None
    return _led_to(request, made)


def _led_to(request: HttpRequest, made: OwnProfile) -> HttpResponse:
    """Go to a profile that was made; a second press of the same goes there too."""
    answer = reverse("book:edit", args=[made.pk])
    answered(intent_of(request), answer)
    return redirect(answer)


@require_POST
def take_in(request: HttpRequest) -> HttpResponse:
    """Read a profile from TOML or JSON; every fault names its line and field, and nothing is half-imported."""
    upload = request.FILES.get("file")
    raw = upload.read(LARGEST_BYTES + 1) if upload else request.POST.get("text", "").encode()
    problems: list[dict[str, str]] = []
    text = ""
    try:
        text = raw.decode("utf-8-sig")
        profile = read_text(text)
    except UnicodeDecodeError:
        problems = [{"path": "", "text": _("This file is not text in UTF-8.")}]
    except ProfileProblems as found:
        problems = [{"path": item.path, "text": words.problem(item, units_of(request.user))} for item in found.problems]
    else:
        return _led_to(request, own.take_in(_room(request), profile, intent_of(request)))
    context = {"rows": [], "rooms": rooms_of(keeper_of(request)), "problems": problems, "text": text}
    return render(request, "book/mine.html", context, status=422)


@require_GET
def export(request: HttpRequest, pk: int, kind: str) -> HttpResponse:
    """The profile as TOML or JSON."""
    item = _own_or_404(request, pk)
    profile = _profile(item)
    text = to_toml(profile) if kind == "toml" else json.dumps(profiles.document_of(profile), indent=2, ensure_ascii=False)
    response = HttpResponse(text, content_type="application/toml" if kind == "toml" else "application/json")
    response["Content-Disposition"] = f'attachment; filename="{item.species}.{kind}"'
    return response


def _page(request: HttpRequest, item: OwnProfile, section: str, edit: editing.Edit | None = None, **more: Any) -> HttpResponse:
    profile = _profile(item)
    units = units_of(request.user)
    lines = editing.rows(profile, section, units, edit)
    context = {
        "own": item,
        "profile": profile,
        "section": section,
        "sections": editing.sections(profile),
        "lines": lines,
        "panels": parts.panels(profile, section, lines, {} if more.get("saved") else request.POST, more.pop("unread", {})),
        "edit": edit,
        "wrong": [{"number": place, "label": line.label} for place, line in enumerate(lines, 1) if line.faults],
        "elsewhere": _elsewhere(edit, section, profile, units),
        "used": Habitat.objects.filter(room_id=item.room_id, species=item.species, set_aside_at__isnull=True),
    } | more
    whole = "book/_edit_rows.html" if request.htmx else "book/edit.html"  # type: ignore[attr-defined]
    # While one types only the faults are replaced: never the fields under the hand.
    return render(request, "book/_edit_checks.html" if "check" in request.POST and request.htmx else whole, context)  # type: ignore[attr-defined]


def _elsewhere(edit: editing.Edit | None, section: str, profile: Profile, units: KeeperUnits) -> list[dict[str, str]]:
    """Faults that lie outside the section being edited, with their place."""
    if edit is None:
        return []

    def here(path: str) -> bool:
        return editing.section_of(path) == section

    found: list[ProfileProblem] = [item for item in edit.problems if not here(item.path)]
    said = [{"label": words.label(item.path, profile), "text": words.problem(item, units)} for item in found]
    for path, all_said in edit.warned.items():
        if not here(path):
            said += [{"label": words.label(path, profile), "text": text} for text in all_said]
    return said


def _section(request: HttpRequest, item: OwnProfile) -> str:
    asked = (request.POST if request.method == "POST" else request.GET).get("section", "general")
    known = [name for name, _said in editing.sections(_profile(item))]
    return asked if asked in known else known[0]


def edit(request: HttpRequest, pk: int) -> HttpResponse:
    """Change one section; with "check" nothing is saved and the faults come back while one types."""
    item = _own_or_404(request, pk)
    section = _section(request, item)
    if request.method != "POST":
        bare = editing.bind(_profile(item), section, request.GET, units_of(request.user))
        return _page(request, item, section, bare)
    bound = editing.bind(_profile(item), section, request.POST, units_of(request.user))
    if "check" in request.POST or not bound.good:
        return _page(request, item, section, bound)
    version = typed.whole(request.POST.get("version"))
    if version is None:
        raise Http404
    revised = parts.Revised()
    try:
        if "do" in request.POST:
            posted = {name: str(value) for name, value in request.POST.items()}
            revised = parts.revise(bound.document, posted["do"], section, posted, units_of(request.user))
        own.save(pk, bound.document, version, keeper_of(request), clock.now())
    except (own.StaleProfileError, NotInAListError):
        return _page(request, item, section, bound, stale=True)
    except parts.Unread as found:
        return _page(request, item, section, bound, unread=found.reasons)
    except ProfileProblems as found:
        said = [f"{words.label(problem.path)}: {words.problem(problem, units_of(request.user))}" for problem in found.problems]
        return _page(request, item, section, bound, refused=said)
    if request.htmx:  # type: ignore[attr-defined]
        fresh = _own_or_404(request, pk)
        bare = editing.bind(_profile(fresh), section, request.GET, units_of(request.user))
        return _page(request, fresh, section, bare, saved=True, added=revised.added, gone=revised.gone)
    return redirect(f"{request.path}?section={section}")


@require_POST
def delete(request: HttpRequest, pk: int) -> HttpResponse:
    """Take an own profile away; plans made with it keep theirs."""
    own.remove(_own_or_404(request, pk), intent_of(request))
    return redirect("book:mine")
