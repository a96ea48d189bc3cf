"""The Round: the day's work in walking order, on a phone that may be without a network; and what makes it installable."""

from typing import Any, Final

from django.contrib.auth.decorators import login_not_required
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.http.request import RawPostDataException
from django.shortcuts import redirect, render
from django.templatetags.static import static
from django.utils import timezone
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from husbandry.codes import WatchCode
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.accounts.models import Keeper
from ridgeback.daybook import log
from ridgeback.daybook.writing import intent_of, writing
from ridgeback.keeping import walk
from ridgeback.keeping.actions.round_entries import EntryAnswer, Sent, read, write_round
from ridgeback.language import dates
from ridgeback.metering import telling
from ridgeback.rooms.access import keeper_of, room_or_404, rooms_of
from ridgeback.rooms.models import Habitat, SitterLink
from ridgeback.web import typed

SHELL: Final = (
    *("vendor/bootstrap/bootstrap.min.css", "css/look.css", "css/phone.css", "css/work.css", "css/keeping.css"),
    *("vendor/htmx/htmx.min.js", "js/leaving.js", "js/place.js", "js/trouble.js"),
    *("vendor/idb-keyval/umd.js", "js/round-queue.js", "js/round.js", "img/mark.svg"),
)


@require_GET
def day(request: HttpRequest) -> HttpResponse:
    """Today's round."""
    keeper, today = keeper_of(request), clock.today()
    rounds, broken = walk.rounds(keeper, today)
    shown = [
        {"round": one, "stops": [{"stop": stop, "turns": [walk.words_of(turn) for turn in stop.turns]} for stop in one.stops]}
        for one in rounds
    ]
    habitats = Habitat.objects.filter(room__in=rooms_of(keeper), set_aside_at__isnull=True).values_list("pk", flat=True)
    told = telling.standing(habitats, [], today, units_of(keeper))
    context = {
        "rounds": shown,
        "dangers": [one for one in told if one.notice.code == WatchCode.READING_DANGER.value and not one.quiet],
        "broken": broken,
        "today": today,
        "made": timezone.localtime(clock.now()),
        "keeper": keeper.pk,
        "sits": SitterLink.objects.filter(keeper=keeper).first() if keeper.sits else None,
        "mass_unit": units_of(keeper).number(1.0, "kg", typed=True)[1],
    }
    return render(request, "keeping/round.html", context)


@require_POST
def entries(request: HttpRequest) -> HttpResponse:
    """What a phone sends of a round: every entry is answered by its key."""
    keeper = keeper_of(request)
    try:
        sent = read(request.body)
    except (ValueError, RawPostDataException):
        return JsonResponse({"fault": _("That is no round.")}, status=400)
    mine = [one for one in sent if _is_theirs(keeper, one)]
    answers = write_round(mine, keeper, units_of(keeper), clock.today())
    said = _("That is no day of yours here; nothing was written down.")
    answers += [EntryAnswer(one.key, "refused", said) for one in sent if one not in mine]
    told = [{"key": one.key, "state": one.state, "said": one.said} for one in answers]
    return JsonResponse({"answers": told, "at": dates.shown(timezone.localtime(clock.now()), "H:i")})


def _is_theirs(keeper: Keeper, one: Sent) -> bool:
    """Tell whether an entry is of a day on which its keeper may write: a sitter's are those of their link."""
    link = SitterLink.objects.filter(keeper=keeper).first() if keeper.sits else None
    if link is None or one.at.tzinfo is None:  # a moment without its zone is refused further on
        return not keeper.sits or link is not None
    return link.first_day <= log.day_of(one.at) <= link.last_day


@require_http_methods(["GET", "POST"])
def order(request: HttpRequest, pk: int) -> HttpResponse:
    """The walking order of a room: one habitat up or down."""
    room = room_or_404(request, pk)
    if request.method == "POST":
        with writing(intent_of(request), room=room.pk):
            _shift(room.pk, typed.key(request.POST.get("habitat")), -1 if request.POST.get("way") == "up" else 1)
        return redirect("keeping:round-order", pk)
    return render(request, "keeping/round_order.html", {"room": room, "habitats": _ordered(room.pk)})


def _ordered(room_id: int) -> list[Habitat]:
    return list(Habitat.objects.filter(room=room_id, set_aside_at__isnull=True).order_by("place", "name", "id"))


def _shift(room_id: int, key: int, by: int) -> None:
    habitats = _ordered(room_id)
    at = next((place for place, one in enumerate(habitats) if one.pk == key), None)
    if at is None or not 0 <= at + by < len(habitats):
        return
    habitats[at], habitats[at + by] = habitats[at + by], habitats[at]
    for place, one in enumerate(habitats, start=1):
        if one.place != place:
            Habitat.objects.filter(pk=one.pk).update(place=place)


@login_not_required
@require_GET
def worker(request: HttpRequest) -> HttpResponse:
    """The service worker: it keeps the round's page and what it needs, for when there is no network."""
    libraries = [static(f"vendor/workbox-{name}/workbox-{name}.prod.js") for name in ("core", "routing", "strategies")]
    context: dict[str, Any] = {"libraries": libraries, "shell": [static(name) for name in SHELL]}
    response = render(request, "keeping/worker.js", context, content_type="text/javascript")
    response["Cache-Control"] = "no-cache"
    response["Service-Worker-Allowed"] = "/"
    return response


@login_not_required
@require_GET
def manifest(request: HttpRequest) -> HttpResponse:
    """What a phone needs to install Ridgeback on its home screen."""
    icon = {"src": static("img/mark.svg"), "sizes": "any", "type": "image/svg+xml", "purpose": "any"}
    told = {
        "name": "Ridgeback",
        "short_name": "Ridgeback",
        "start_url": "/round/",
        "scope": "/",
        "display": "standalone",
        "background_color": "#f4efe2",
        "theme_color": "#1d5c63",
        "icons": [icon],
    }
    return JsonResponse(told, content_type="application/manifest+json")
