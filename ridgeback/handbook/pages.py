"""The handbook in the program, and the help beside each page."""

from django.contrib.auth.decorators import login_not_required
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET

from ridgeback.handbook import pictures, reading
from ridgeback.language.glossary import KEYS, MARKS, WORDS, Word


def _words() -> list[Word]:
    return sorted(WORDS, key=lambda word: str(word.term).casefold())


@login_not_required
@require_GET
def contents(request: HttpRequest) -> HttpResponse:
    """All pages of the handbook."""
    return render(request, "handbook/contents.html", {"pages": reading.pages(reading.language())})


@login_not_required
@require_GET
def page(request: HttpRequest, key: str) -> HttpResponse:
    """One page of the handbook."""
    every = reading.pages(reading.language())
    place = next((place for place, one in enumerate(every) if one.key == key), None)
    if place is None:
        raise Http404
    one = every[place]
    sections = [{"ident": part.ident, "title": part.title, "html": pictures.html_of(part)} for part in one.sections]
    beside = {"before": every[place - 1] if place else None, "after": every[place + 1] if place + 1 < len(every) else None}
    return render(request, "handbook/page.html", {"page": one, "sections": sections} | beside)


@login_not_required
@require_GET
def words(request: HttpRequest) -> HttpResponse:
    """Every word of the trade and every mark."""
    return render(request, "handbook/words.html", {"words": _words(), "marks": MARKS.items()})


@login_not_required
@require_GET
def help_beside(request: HttpRequest) -> HttpResponse:
    """The help beside the page at an address by its name (`view`)."""
    context = {"page": reading.page_of(request.GET.get("view", "")), "words": _words(), "marks": MARKS.items(), "keys": KEYS}
    return render(request, "handbook/_help.html", context)
