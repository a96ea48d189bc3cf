"""The daybook as files to take away, and one that is brought in."""

from typing import Any

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.template.loader import render_to_string
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods

from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.book import paper
from ridgeback.daybook.writing import intent_of
from ridgeback.keeping import exchange, timeline
from ridgeback.keeping.access import animal_or_404, room_or_404
from ridgeback.keeping.animal_pages import age, chart_of, facts_of, weights_of
from ridgeback.keeping.names import profile_name
from ridgeback.rooms.access import habitat_or_404
from ridgeback.rooms.models import Animal
from ridgeback.rooms.residents import home_of
from ridgeback.web.requests import download

# What a veterinarian asks for first.
OF_HEALTH = ("body", "food", "skin", "health", "moves", "breeding")
MOST_ON_PAPER = 400


def _csv(request: HttpRequest, events: Any, name: str) -> HttpResponse:
    rows = events.order_by("at", "id")
    return download(exchange.table(rows, units_of(request.user)).encode(), "text/csv; charset=utf-8", name, "daybook.csv")


@require_GET
def animal_csv(request: HttpRequest, pk: int) -> HttpResponse:
    one = animal_or_404(request, pk)
    return _csv(request, timeline.of_animal(one), one.called)


@require_GET
def habitat_csv(request: HttpRequest, pk: int) -> HttpResponse:
    habitat = habitat_or_404(request, pk)
    return _csv(request, timeline.of_habitat(habitat), habitat.name)


@require_GET
def room_csv(request: HttpRequest, pk: int) -> HttpResponse:
    room = room_or_404(request, pk)
    return _csv(request, timeline.of_room(room), room.name)


@require_GET
def animal_json(request: HttpRequest, pk: int) -> HttpResponse:
    """All that is known of an animal, as a document that another room can read."""
    one = animal_or_404(request, pk)
    data = exchange.document(one.room, [one], timeline.of_animal(one).filter(animal=one).order_by("at", "id"))
    return download(data.encode(), "application/json", one.called, "daybook.json")


@require_GET
def room_json(request: HttpRequest, pk: int) -> HttpResponse:
    room = room_or_404(request, pk)
    animals = Animal.objects.filter(room=room)
    data = exchange.document(room, animals, timeline.of_room(room).order_by("at", "id"))
    return download(data.encode(), "application/json", room.name, "daybook.json")


@require_http_methods(["GET", "POST"])
def bring_in(request: HttpRequest, pk: int) -> HttpResponse:
    """Read a daybook's document into a room; what it holds already is not written twice."""
    room = room_or_404(request, pk)
    fault = ""
    if request.method == "POST":
        sent = request.FILES.get("file")
        try:
            told = exchange.read(sent.read() if sent else b"")
        except exchange.UnreadableDaybookError as error:
            fault = _("That is no daybook of ours: %(why)s. Nothing was written.") % {"why": error.why}
        else:
            animals, entries = exchange.take_in(pk, intent_of(request), told)
            said = _("%(animals)s animals and %(entries)s entries are new; what stood here already was left as it is.")
            messages.info(request, said % {"animals": animals, "entries": entries})
            return redirect("keeping:room-daybook", pk)
    return render(request, "keeping/bring_in.html", {"room": room, "fault": fault}, status=422 if fault else 200)


@require_GET
def animal_pdf(request: HttpRequest, pk: int) -> HttpResponse:
    """An animal's history for a veterinarian, on paper."""
    one, units, today = animal_or_404(request, pk), units_of(request.user), clock.today()
    events = timeline.of_animal(one).filter(taken_back_at__isnull=True, kind__in=timeline.kinds_of(OF_HEALTH))
    rows = [timeline.row(event, units) for event in events[: MOST_ON_PAPER + 1]]
    home = home_of(one.pk)
    context = {
        "animal": one,
        "name": one.called,
        "kind": profile_name(one),
        "age": age(one, today),
        "facts": facts_of(one),
        "weights": weights_of(one, units, 24),
        "chart": chart_of(one, units),
        "rows": rows[:MOST_ON_PAPER],
        "cut": len(rows) > MOST_ON_PAPER,
        "home": home,
        "today": today,
    }
    html = render_to_string("keeping/history.html", context | paper.fonts())
    response = HttpResponse(bytes(paper.laid_out(html).write_pdf() or b""), content_type="application/pdf")
    response["Content-Disposition"] = 'inline; filename="history.pdf"'
    return response
