"""The page on which anything is found."""

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET

from ridgeback.finding.search import LEAST_LETTERS, search
from ridgeback.rooms.access import keeper_of


@require_GET
def find(request: HttpRequest) -> HttpResponse:
    """What fits the words; the list alone where a script asks."""
    query = request.GET.get("q", "").strip()
    context = {"query": query, "hits": search(keeper_of(request), query), "short": len(query) < LEAST_LETTERS}
    return render(request, "finding/_hits.html" if request.headers.get("HX-Request") else "finding/search.html", context)
