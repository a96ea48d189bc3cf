"""A sitter reaches the round of their days, and nothing else."""

from collections.abc import Callable
from typing import Any, Final

from django.contrib.auth import logout
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.utils.translation import gettext as _

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.rooms.models import SitterLink

Respond = Callable[[HttpRequest], HttpResponse]
OPEN: Final = frozenset(
    {
        "keeping:round",
        "keeping:round-entries",
        "keeping:worker",
        "keeping:manifest",
        "sharing:sit",
        "accounts:appearance",
        "accounts:sign-out",
        "health",
    }
)


class OnlyTheRound:
    """Middleware: whose days are over, or have not come, is signed out; to whoever sits, what is not the round does not exist."""

    def __init__(self, respond: Respond) -> None:
        self.respond = respond

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if isinstance(request.user, Keeper) and request.user.sits and not sits_today(request.user):
            logout(request)
        return self.respond(request)

    def process_view(self, request: HttpRequest, view: Any, args: Any, kwargs: Any) -> HttpResponse | None:
        """Refuse whatever a sitter has no business with."""
        match = request.resolver_match
        if not (isinstance(request.user, Keeper) and request.user.sits) or (match is not None and match.view_name in OPEN):
            return None
        context = {"title": _("Nothing here"), "advice": _("While you sit, the round is what is open to you."), "status": 404}
        return render(request, "error.html", context, status=404)


def sits_today(keeper: Keeper) -> bool:
    """Tell whether a sitter's link is good today."""
    today = clock.today()
    return SitterLink.objects.filter(keeper=keeper, ended_at__isnull=True, first_day__lte=today, last_day__gte=today).exists()
