"""The edge: what a request may hold at all, before anybody looks at it."""

from collections.abc import Callable
from typing import Final

from django.core.exceptions import RequestDataTooBig, TooManyFieldsSent
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.http.multipartparser import MultiPartParserError
from django.shortcuts import render
from django.utils.translation import gettext as _

from husbandry import numerals
from husbandry.documents import is_text

Respond = Callable[[HttpRequest], HttpResponse]
# Bytes of a body: signing in takes a name and a password; what is longer than a file may be comes in parts (uploads).
MOST_BYTES_OUTSIDE: Final = 20_000
MOST_BYTES: Final = 1_500_000
MOST_BYTES_OF_A_FILE: Final = 20_000_000
MOST_BYTES_OF_A_DEVICE: Final = 1_200_000  # five thousand readings and some
PHOTO: Final = "/photo/"
DEVICES: Final = "/api/readings/"
ROOM_FILE: Final = "/archive/bring-in/"
PROGRAMS: Final = "/api/v1/"
DAYBOOK_FILE: Final = "/daybook/bring-in/"
READINGS_FILE: Final = "/readings/file/"
PARTS: Final = "/uploads/"
PRIVATE: Final = "no-store"
# What no page of ours asks a browser for, and no foreign script may.
NOT_ASKED_FOR: Final = ", ".join(
    f"{name}=()"
    for name in ("accelerometer", "camera", "display-capture", "geolocation", "gyroscope", "magnetometer", "microphone", "midi",
                 "payment", "serial", "usb", "bluetooth", "hid", "browsing-topics")
)  # fmt: skip


def at_the_edge(respond: Respond) -> Respond:
    """Middleware: refuse bodies that are too long and signs that are no text; pages of a keeper are kept by nobody on the way."""

    def answer(request: HttpRequest) -> HttpResponse:
        signed_in = request.user.is_authenticated
        if _length(request) > _most_bytes(request, signed_in=signed_in):
            return _refused(request, 413, _("That is too much at once"))
        try:
            if not _is_text(request):
                return _refused(request, 400, _("That request holds characters that cannot be stored as text"))
        except (RequestDataTooBig, TooManyFieldsSent):
            return _refused(request, 413, _("That is too much at once"))
        except (MultiPartParserError, UnicodeError):
            return _refused(request, 400, _("That request made no sense"))
        response = respond(request)
        response["Permissions-Policy"] = NOT_ASKED_FOR
        if signed_in and not response.has_header("Cache-Control"):
            response["Cache-Control"] = PRIVATE
        return response

    return answer


def _most_bytes(request: HttpRequest, *, signed_in: bool) -> int:
    if not signed_in:
        spoken_for = request.path == DEVICES or request.path.startswith(PROGRAMS)
        return MOST_BYTES_OF_A_DEVICE if spoken_for and "Authorization" in request.headers else MOST_BYTES_OUTSIDE
    if request.method == "PATCH" and request.path.startswith(PARTS):
        return MOST_BYTES_OF_A_FILE
    return MOST_BYTES_OF_A_FILE if request.path.endswith((PHOTO, READINGS_FILE, DAYBOOK_FILE, ROOM_FILE)) else MOST_BYTES


def _length(request: HttpRequest) -> int:
    text = str(request.META.get("CONTENT_LENGTH") or "0")
    length = numerals.place(text)
    return MOST_BYTES + 1 if length is None else length


def _is_text(request: HttpRequest) -> bool:
    posted = request.POST.lists() if request.method == "POST" else ()
    every = (request.GET.lists(), posted)
    return is_text(request.path) and all(is_text(name) and all(map(is_text, values)) for lists in every for name, values in lists)


def _refused(request: HttpRequest, status: int, title: str) -> HttpResponse:
    if request.path.startswith(PROGRAMS):
        return JsonResponse({"error": title, "problems": []}, status=status)
    advice = _("Nothing was read of it and nothing was saved. Go back and try again.")
    return render(request, "error.html", {"title": title, "advice": advice, "status": status}, status=status)
