"""How the program looks and which language it speaks, as whoever sits before it has chosen: a cookie of this device."""

from typing import Any, Final

from django.conf import settings
from django.http import HttpRequest
from django.utils.translation import get_language

from ridgeback.units import mark

COOKIE: Final = "ridgeback_look"
NIGHT: Final = "night"
LOOKS: Final = ("day", NIGHT)


def look(request: HttpRequest) -> dict[str, Any]:
    """For the templates: the look, and the languages there are."""
    return {
        "look": NIGHT if request.COOKIES.get(COOKIE) == NIGHT else "day",
        "tongues": settings.LANGUAGES,
        "mark": mark(),
        "tongue": (get_language() or settings.LANGUAGE_CODE).partition("-")[0],
    }
