"""A room taken along whole, and brought in elsewhere; an account and what is its own, deleted."""

import tempfile

from django.contrib import messages
from django.contrib.auth import logout
from django.core.exceptions import PermissionDenied
from django.db import transaction
from django.http import FileResponse, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils.text import slugify
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.archive.reading_in import NoArchiveError, read_in
from ridgeback.archive.writing_out import write_out
from ridgeback.rooms.access import keeper_of, owned_room_or_404
from ridgeback.rooms.models import Habitat, Membership, Room
from ridgeback.web.requests import written


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
    upload = request.FILES.get("file")
    if upload is None:
        messages.error(request, _("Choose the archive of a room."))
        return redirect("accounts:account")
    with tempfile.TemporaryFile() as kept:
        for chunk in upload.chunks():
            kept.write(chunk)
        kept.seek(0)
        try:
            room = read_in(kept, keeper_of(request), clock.now())
        except NoArchiveError as error:
            messages.error(request, error.said)
            return redirect("accounts:account")
    messages.success(request, _("%(room)s is here, with everything in it.") % {"room": room.name})
    return redirect("rooms:habitats")


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
