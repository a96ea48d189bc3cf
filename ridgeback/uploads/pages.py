"""Files sent in parts, by the open protocol tus 1.0.0 (https://tus.io/protocols/resumable-upload, core and creation).

A part that broke off on its way is sent again; what is here already is not.
"""

import base64
import binascii
from typing import Final

from django.db import transaction
from django.db.models import Q
from django.http import HttpRequest, HttpResponse
from django.http.request import UnreadablePostError
from django.shortcuts import get_object_or_404
from django.urls import reverse
from django.views.decorators.http import require_http_methods, require_POST

from husbandry import numerals
from husbandry.documents import is_text
from ridgeback.accounts.models import Keeper
from ridgeback.daybook.writing import may_write
from ridgeback.rooms.access import keeper_of, room_or_404, rooms_of
from ridgeback.uploads import arriving
from ridgeback.uploads.models import Upload

VERSION: Final = "1.0.0"
CONTENT: Final = "application/offset+octet-stream"


def _answer(status: int, **headers: str) -> HttpResponse:
    answer = HttpResponse(status=status, headers={"Tus-Resumable": VERSION, "Cache-Control": "no-store"})
    for name, value in headers.items():
        answer[name.replace("_", "-")] = value
    return answer


@require_POST
def begin(request: HttpRequest, pk: int) -> HttpResponse:
    """Announce a file for a room: how long it is and what it is called; answered by the address its parts are sent to."""
    room, keeper = room_or_404(request, pk), keeper_of(request)
    may_write(keeper, room.pk)
    return _begin(request, room.pk, keeper)


@require_POST
def begin_mine(request: HttpRequest) -> HttpResponse:
    """Announce a file that is of no room yet."""
    return _begin(request, None, keeper_of(request))


def _begin(request: HttpRequest, room_id: int | None, keeper: Keeper) -> HttpResponse:
    size = _number(request.headers.get("Upload-Length", ""))
    if size is None or size == 0:
        return _answer(400)
    if size > arriving.LARGEST_BYTES:
        return _answer(413, Tus_Max_Size=str(arriving.LARGEST_BYTES))
    made = arriving.begin(room_id, keeper, _name(request.headers.get("Upload-Metadata", "")), size)
    return _answer(201, Location=reverse("uploads:parts", args=[made.pk]))


@require_http_methods(["GET", "HEAD", "PATCH"])
def parts(request: HttpRequest, pk: int) -> HttpResponse:
    """How much of a file is here; or the next part of it."""
    keeper = keeper_of(request)
    found = Upload.objects.filter(Q(room__in=rooms_of(keeper)) | Q(room__isnull=True), author=keeper)
    if request.method != "PATCH":
        upload = get_object_or_404(found, pk=pk)
        return _answer(200, Upload_Offset=str(upload.received), Upload_Length=str(upload.size))
    if request.content_type != CONTENT:
        return _answer(415)
    begins = _number(request.headers.get("Upload-Offset", ""))
    try:
        content = request.read(arriving.LARGEST_PART + 1)
    except UnreadablePostError:
        return _answer(400)
    with transaction.atomic():
        upload = get_object_or_404(found.select_for_update(of=("self",)), pk=pk)
        if upload.room_id is not None:
            may_write(keeper, upload.room_id)
        try:
            arriving.add(upload, -1 if begins is None else begins, content)
        except arriving.UnfitPartError:
            return _answer(409, Upload_Offset=str(upload.received))
    return _answer(204, Upload_Offset=str(upload.received))


def _number(text: str) -> int | None:
    return numerals.place(text)


def _name(metadata: str) -> str:
    """The file's name out of the metadata, pairs of a key and its value in base 64; "" where there is none to be read."""
    for pair in metadata.split(","):
        key, _blank, value = pair.strip().partition(" ")
        if key == "filename":
            try:
                name = base64.b64decode(value, validate=True).decode()
            except (binascii.Error, UnicodeDecodeError):
                return ""
            return name if is_text(name) else ""
    return ""
