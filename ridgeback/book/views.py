"""The species book: the shelf of all species, and one species' sheet."""

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET

from husbandry.species.book import UnknownSpeciesError, find
from ridgeback.accounts.context import units_of
from ridgeback.book import sheet as sheets
from ridgeback.book import shelf as shelves


@require_GET
def shelf(request: HttpRequest) -> HttpResponse:
    """All species, narrowed by name, kind, light, warmth and the enclosure one has."""
    units = units_of(request.user)
    wanted = shelves.Wanted.of(request.GET, units)
    context = {"rows": shelves.rows(wanted, units), "wanted": wanted, "choices": shelves.choices(wanted)}
    return render(request, "book/_rows.html" if request.htmx else "book/shelf.html", context)  # type: ignore[attr-defined]


@require_GET
def sheet(request: HttpRequest, species: str) -> HttpResponse:
    """One species: is it for me, and its stages side by side."""
    try:
        profile = find(species)
    except UnknownSpeciesError:
        raise Http404 from None
    return render(request, "book/sheet.html", sheets.context(profile, units_of(request.user)))
