"""A room taken along whole, and brought in elsewhere; rooms, habitats, animals and accounts deleted after a time of grace."""

from datetime import timedelta
from typing import Final

from django.contrib import messages
from django.contrib.auth import logout
from django.core.exceptions import PermissionDenied
from django.http import FileResponse, Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.formats import date_format
from django.utils.text import slugify
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from ridgeback import clock
from ridgeback.accounts import happened, tries
from ridgeback.archive import bringing, deleting
from ridgeback.archive.models import ArchiveFile, Deletion
from ridgeback.archive.writing_out import write_out
from ridgeback.daybook.writing import answered, intent_of, writing
from ridgeback.rooms.access import keeper_of, owned_room_or_404, rooms_of
from ridgeback.rooms.models import Animal, Habitat
from ridgeback.uploads import arriving
from ridgeback.web.requests import written

LATE: Final = timedelta(seconds=20)


@require_GET
def take_out(request: HttpRequest, pk: int) -> FileResponse:
    """Everything of a room as one ZIP."""
    room = owned_room_or_404(request, pk)
    at = clock.now()
    name = f"{slugify(room.name) or 'room'}-{at:%Y-%m-%d}"
    return written(lambda file: write_out(room, file, at), "application/zip", name, "room.zip")


@require_POST
def bring_in(request: HttpRequest) -> HttpResponse:
    """A room out of its archive; it is new here, and whoever brings it owns it."""
    keeper, intent = keeper_of(request), intent_of(request)
    with writing(intent):
        upload = arriving.brought(request, None, keeper)
        if upload is not None:
            address = reverse("archive:file", args=[bringing.keep(intent, upload).pk])
            answered(intent, address)
            return redirect(address)
    messages.error(request, _("There is nothing in that file, or it did not arrive whole. Choose it again."))
    return redirect("accounts:account")


@require_GET
def archive_file(request: HttpRequest, pk: int) -> HttpResponse:
    """How far a room's archive is taken in, and what became of it."""
    file = get_object_or_404(ArchiveFile, pk=pk, author=keeper_of(request))
    waits = file.state == ArchiveFile.State.WAITS
    context = {
        "file": file,
        "waits": waits,
        "late": waits and not file.done and clock.now() - file.at > LATE,
        "percent": round(100 * file.done / file.rows) if file.rows else 0,
    }
    template = "archive/_file_progress.html" if request.headers.get("HX-Request") else "archive/file.html"
    return render(request, template, context)


@require_http_methods(["GET", "POST"])
def delete_account(request: HttpRequest) -> HttpResponse:
    """An account and what is its own, to be deleted after its password: rooms that nobody else owns go with it."""
    keeper = keeper_of(request)
    fault = ""
    if request.method == "POST":
        if not keeper.check_password(request.POST.get("password", "")[:300]):
            if tries.lost_the_session(request):
                return redirect("accounts:sign-in")
            fault = _("That is not your password; nothing was deleted.")
        elif deleting.last_administrator(keeper):
            raise PermissionDenied  # somebody has to look after this Ridgeback
        else:
            deleting.ask(keeper, keeper, clock.now(), clock.today())
            happened.note(keeper, "deletion")
            logout(request)
            return redirect("accounts:sign-in")
    rooms = [{"room": room, "habitats": Habitat.objects.filter(room=room).count()} for room in deleting.lone_rooms(keeper)]
    context = {"rooms": rooms, "fault": fault, "days": deleting.grace().days}
    return render(request, "archive/delete_account.html", context, status=422 if fault else 200)


@require_http_methods(["GET", "POST"])
def delete_room(request: HttpRequest, pk: int) -> HttpResponse:
    """A room with all that is in it, to be deleted by its owner."""
    room = owned_room_or_404(request, pk)
    along = reverse("archive:take-out", args=[room.pk])
    return _delete(request, room, room.name, along, reverse("sharing:people", args=[room.pk]))


@require_http_methods(["GET", "POST"])
def delete_habitat(request: HttpRequest, pk: int) -> HttpResponse:
    """A habitat that was set aside, with its plans, its readings and its part of the daybook; its animals stay."""
    habitat = get_object_or_404(Habitat, pk=pk, set_aside_at__isnull=False, room__in=rooms_of(keeper_of(request)))
    room = owned_room_or_404(request, habitat.room_id)
    return _delete(request, habitat, habitat.name, reverse("archive:take-out", args=[room.pk]), reverse("rooms:habitats"))


@require_http_methods(["GET", "POST"])
def delete_animal(request: HttpRequest, pk: int) -> HttpResponse:
    """An animal with its entries, pictures and papers."""
    animal = get_object_or_404(Animal, pk=pk, room__in=rooms_of(keeper_of(request)))
    owned_room_or_404(request, animal.room_id)
    along = reverse("keeping:animal-json", args=[animal.pk]) + "?photos=1"
    return _delete(request, animal, animal.name, along, reverse("keeping:animal", args=[animal.pk]))


def _delete(request: HttpRequest, thing: deleting.Thing, name: str, along: str, back: str) -> HttpResponse:
    """Ask whether; say what goes and until when it can be kept after all."""
    if request.method == "POST":
        found = deleting.ask(thing, keeper_of(request), clock.now(), clock.today())
        day = date_format(found.due_on, "j F Y")
        messages.success(request, _("%(name)s is deleted for good on %(day)s, unless you keep it.") % {"name": name, "day": day})
        return redirect("rooms:habitats")
    context = {"name": name, "kind": deleting.kind_of(thing), "along": along, "back": back, "days": deleting.grace().days}
    return render(request, "archive/delete.html", context)


@require_POST
def keep(request: HttpRequest, pk: int) -> HttpResponse:
    """Keep after all what was to be deleted."""
    found = next((one for one in deleting.pending(keeper_of(request)) if one.pk == pk), None)
    if found is not None:
        deleting.keep(found)
        messages.success(request, _("It is kept."))
    elif Deletion.objects.filter(pk=pk).exists():
        raise Http404
    else:  # pressed twice, or in a page that was open since before
        messages.info(request, _("It was kept before, or its time was over."))
    return redirect("rooms:habitats")
