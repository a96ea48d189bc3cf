"""A room taken along whole, and brought in elsewhere; an account and what is its own, deleted."""

from datetime import timedelta
from typing import Final

from django.contrib import messages
from django.contrib.auth import logout
from django.core.exceptions import PermissionDenied
from django.db import transaction
from django.http import FileResponse, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.text import slugify
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.archive import bringing
from ridgeback.archive.models import ArchiveFile
from ridgeback.archive.writing_out import write_out
from ridgeback.daybook.writing import answered, intent_of, writing
from ridgeback.rooms.access import keeper_of, owned_room_or_404
from ridgeback.rooms.models import Habitat, Membership, Room
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
    """An account and what is its own, deleted after its password: rooms that nobody else owns go with it."""
    keeper = keeper_of(request)
    lone = _lone_rooms(keeper)
    fault = ""
    if request.method == "POST":
        if not keeper.check_password(request.POST.get("password", "")):
            fault = _("That is not your password; nothing was deleted.")
        elif keeper.is_staff and not Keeper.objects.filter(is_staff=True, is_active=True).exclude(pk=keeper.pk).exists():
            raise PermissionDenied  # somebody has to look after this Ridgeback
        else:
            with transaction.atomic():
                Room.objects.filter(pk__in=[room.pk for room in lone]).delete()
                keeper.delete()
            logout(request)
            return redirect("accounts:sign-in")
    rooms = [{"room": room, "habitats": Habitat.objects.filter(room=room).count()} for room in lone]
    context = {"rooms": rooms, "fault": fault}
    return render(request, "archive/delete_account.html", context, status=422 if fault else 200)


def _lone_rooms(keeper: Keeper) -> list[Room]:
    """The rooms that would be nobody's."""
    others = Membership.objects.filter(role=Membership.Role.OWNER, keeper__is_active=True).exclude(keeper=keeper).values("room")
    return list(Room.objects.filter(membership__keeper=keeper, membership__role=Membership.Role.OWNER).exclude(pk__in=others))
