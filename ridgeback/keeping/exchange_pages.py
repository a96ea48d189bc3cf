"""The daybook as files to take away, and one that is brought in."""

from collections.abc import Iterable
from datetime import timedelta
from typing import IO, Any, Final

from django.db.models import QuerySet
from django.http import FileResponse, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods

from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import answered, intent_of, writing
from ridgeback.keeping import exchange, timeline, with_photos
from ridgeback.keeping.access import animal_or_404
from ridgeback.keeping.actions import bringing
from ridgeback.keeping.animal_facts import age, facts_of, weights_of
from ridgeback.keeping.animal_pages import chart_of
from ridgeback.keeping.models import DaybookFile
from ridgeback.keeping.names import profile_name
from ridgeback.rooms.access import habitat_or_404, keeper_of, room_or_404, rooms_of
from ridgeback.rooms.models import Animal, Room
from ridgeback.rooms.residents import home_of
from ridgeback.uploads import arriving
from ridgeback.web.paper import printed
from ridgeback.web.requests import written, written_text

# What a veterinarian asks for first.
OF_HEALTH = ("body", "food", "skin", "health", "moves", "breeding")
MOST_ON_PAPER = 400
SHOWN: Final = 20
LATE: Final = timedelta(seconds=20)


def _csv(request: HttpRequest, events: QuerySet[Event], name: str) -> FileResponse:
    units = units_of(request.user)
    return written_text(lambda out: exchange.write_table(out, events.order_by("at", "id"), units), "text/csv", name, "daybook.csv")


@require_GET
def animal_csv(request: HttpRequest, pk: int) -> FileResponse:
    one = animal_or_404(request, pk)
    return _csv(request, timeline.of_animal(one), one.called)


@require_GET
def habitat_csv(request: HttpRequest, pk: int) -> FileResponse:
    habitat = habitat_or_404(request, pk)
    return _csv(request, timeline.of_habitat(habitat), habitat.name)


@require_GET
def room_csv(request: HttpRequest, pk: int) -> FileResponse:
    room = room_or_404(request, pk)
    return _csv(request, timeline.of_room(room), room.name)


@require_GET
def animal_json(request: HttpRequest, pk: int) -> FileResponse:
    """All that is known of an animal, as a document that another room can read."""
    one = animal_or_404(request, pk)
    return _document(request, one.room, [one], timeline.of_animal(one).filter(animal=one), one.called)


@require_GET
def room_json(request: HttpRequest, pk: int) -> FileResponse:
    room = room_or_404(request, pk)
    return _document(request, room, Animal.objects.filter(room=room), timeline.of_room(room), room.name)


def _document(request: HttpRequest, room: Room, animals: Iterable[Animal], events: QuerySet[Event], name: str) -> FileResponse:
    """The document alone, or with the photos where they are asked for."""
    events = events.order_by("at", "id")

    def write_document(out: IO[str]) -> None:
        exchange.write_document(out, room, animals, events)

    if "photos" in request.GET:
        return written(lambda file: with_photos.pack(file, write_document, events), "application/zip", name, "daybook.zip")
    return written_text(write_document, "application/json", name, "daybook.json")


@require_http_methods(["GET", "POST"])
def bring_in(request: HttpRequest, pk: int) -> HttpResponse:
    """Bring a daybook into a room: a document, one with photos, or a table; the worker takes it in."""
    room, keeper = room_or_404(request, pk), keeper_of(request)
    fault = ""
    if request.method == "POST":
        intent = intent_of(request)
        with writing(intent, room=pk):
            upload = arriving.brought(request, pk, keeper)
            if upload is not None:
                made = bringing.keep(pk, intent, upload)
                address = reverse("keeping:daybook-file", args=[made.pk])
                answered(intent, address)
                return redirect(address)
        fault = _("There is nothing in that file, or it did not arrive whole. Choose it again.")
    files = [_told(one) for one in DaybookFile.objects.filter(room=room)[:SHOWN]]
    context = {"room": room, "fault": fault, "files": files}
    return render(request, "keeping/bring_in.html", context, status=422 if fault else 200)


@require_GET
def daybook_file(request: HttpRequest, pk: int) -> HttpResponse:
    """How far a daybook is taken in, and what became of it."""
    made = get_object_or_404(DaybookFile.objects.select_related("room"), pk=pk, room__in=rooms_of(keeper_of(request)))
    template = "keeping/_file_progress.html" if request.headers.get("HX-Request") else "keeping/file.html"
    return render(request, template, {"room": made.room, "file": _told(made)})


def _told(made: DaybookFile) -> dict[str, Any]:
    """A file as a page shows it."""
    waits = made.state == DaybookFile.State.WAITS
    return {
        "row": made,
        "waits": waits,
        "late": waits and made.step == DaybookFile.Step.READS and clock.now() - made.at > LATE,
        "percent": round(100 * made.done / made.rows) if made.rows else 0,
    }


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
    return printed("keeping/history.html", context, "history")
