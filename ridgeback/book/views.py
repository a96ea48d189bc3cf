"""The species book: the shelf of all species, one species' sheet, two side by side, on paper."""

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET

from husbandry.species.book import UnknownSpeciesError
from husbandry.species.profile import OWN_PREFIX, Profile
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.book import catalogue, comparison, numbers_from, profiles
from ridgeback.book import sheet as sheets
from ridgeback.book import shelf as shelves
from ridgeback.book.models import Entry, OwnProfile
from ridgeback.rooms.access import keeper_of, rooms_of
from ridgeback.web.paper import printed


def _room_ids(request: HttpRequest) -> list[int]:
    return list(rooms_of(keeper_of(request)).values_list("pk", flat=True))


def _profile(request: HttpRequest, species: str) -> tuple[Profile, OwnProfile | None]:
    """The profile of this id that the keeper may see; raises Http404."""
    own = None
    if species.startswith(OWN_PREFIX):
        own = OwnProfile.objects.filter(room_id__in=_room_ids(request), species=species).order_by("pk").first()
    try:
        return profiles.current(own.room_id if own else 0, species)[0], own
    except UnknownSpeciesError:
        raise Http404 from None


@require_GET
def shelf(request: HttpRequest) -> HttpResponse:
    """All species, narrowed by name, kind, light, warmth and the enclosure one has."""
    units = units_of(request.user)
    if not Entry.objects.filter(own__isnull=True).exists():
        catalogue.enter_shipped()
    wanted = shelves.ShelfQuery.of(request.GET, units)
    context = {"shelf": shelves.look(wanted, _room_ids(request), units), "wanted": wanted, "choices": shelves.choices(wanted)}
    return render(request, "book/_rows.html" if request.htmx else "book/shelf.html", context)  # type: ignore[attr-defined]


@require_GET
def sheet(request: HttpRequest, species: str) -> HttpResponse:
    """One species: is it for me, and its stages side by side."""
    profile, own = _profile(request, species)
    context = sheets.context(profile, units_of(request.user)) | {"own": own, "rooms": rooms_of(keeper_of(request))}
    return render(request, "book/sheet.html", context)


@require_GET
def sources(request: HttpRequest) -> HttpResponse:
    """Where every number of the book comes from: the tables it hangs on, and the shares of each species."""
    return render(request, "book/sources.html", numbers_from.context())


@require_GET
def compare(request: HttpRequest) -> HttpResponse:
    """Two species, stages or schools side by side."""
    choices = profiles.choices(_room_ids(request))
    sides = []
    for letter in comparison.SIDES:
        asked = comparison.ComparisonAsked.of(request.GET, letter, [species for species, _name in choices])
        sides.append(comparison.Side(letter, asked, _profile(request, asked.species)[0]))
    context = comparison.context(sides, units_of(request.user)) | {"choices": choices}
    return render(request, "book/compare.html", context)


@require_GET
def on_paper(request: HttpRequest, species: str) -> HttpResponse:
    """The sheet on two pages of paper."""
    profile, _own = _profile(request, species)
    units = units_of(request.user)
    return printed("book/paper.html", sheets.context(profile, units) | {"units": units, "today": clock.today()}, profile.id)
