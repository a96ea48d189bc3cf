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
from ridgeback.keeping import exchange, from_table, timeline, with_photos
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
    events = timeline.of_animal(one).filter(animal=one).order_by("at", "id")
    return _document(request, exchange.document(one.room, [one], events), events, one.called)


@require_GET
def room_json(request: HttpRequest, pk: int) -> HttpResponse:
    room = room_or_404(request, pk)
    animals = Animal.objects.filter(room=room)
    events = timeline.of_room(room).order_by("at", "id")
    return _document(request, exchange.document(room, animals, events), events, room.name)


def _document(request: HttpRequest, data: str, events: Any, name: str) -> HttpResponse:
    """The document alone, or with the photos where they are asked for."""
    if "photos" not in request.GET:
        return download(data.encode(), "application/json", name, "daybook.json")
    made = with_photos.packed(data, events.filter(photo__isnull=False).values_list("pk", flat=True))
    return download(made, "application/zip", name, "daybook.zip")


@require_http_methods(["GET", "POST"])
def bring_in(request: HttpRequest, pk: int) -> HttpResponse:
    """Read a daybook into a room: a document, one with photos, or a table; what the room holds already is not written twice."""
    room = room_or_404(request, pk)
    fault = ""
    if request.method == "POST":
        sent = request.FILES.get("file")
        try:
            animals, entries = _taken_in(request, pk, sent.read() if sent else b"")
        except exchange.UnreadableDaybookError as error:
            fault = _("That is no daybook of ours: %(why)s. Nothing was written.") % {"why": error.why}
        else:
            said = _("%(animals)s animals and %(entries)s entries are new; what stood here already was left as it is.")
            messages.info(request, said % {"animals": animals, "entries": entries})
            return redirect("keeping:room-daybook", pk)
    return render(request, "keeping/bring_in.html", {"room": room, "fault": fault}, status=422 if fault else 200)


def _taken_in(request: HttpRequest, room_id: int, raw: bytes) -> tuple[int, int]:
    """How many animals and entries are new. Raises UnreadableDaybookError."""
    intent = intent_of(request)
    if raw.startswith(b"PK"):
        data, photos = with_photos.unpacked(raw)
        return exchange.take_in(room_id, intent, exchange.read(data), photos)
    if raw.lstrip(b"\xef\xbb\xbf \r\n\t").startswith((b"{", b"[")) or not raw.strip():
        return exchange.take_in(room_id, intent, exchange.read(raw))
    return 0, from_table.take_in(room_id, intent, from_table.read(raw, room_id, units_of(request.user)))


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
