"""A room's webhooks: the addresses that are told what happens in it."""

import secrets
from typing import Final

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_http_methods, require_POST

from ridgeback import clock
from ridgeback.api import posting, telling
from ridgeback.api.models import Webhook
from ridgeback.daybook.writing import intent_of, writing
from ridgeback.rooms.access import keeper_of, owned_room_or_404, rooms_of

MOST: Final = 10
SEED_BYTES: Final = 32
LONGEST: Final = 300


@require_http_methods(["GET", "POST"])
def webhooks(request: HttpRequest, pk: int) -> HttpResponse:
    """The addresses that are told what happens; a new one."""
    room = owned_room_or_404(request, pk)
    standing = Webhook.objects.filter(room=room, ended_at__isnull=True).order_by("made_at")
    typed, fault = "", ""
    if request.method == "POST":
        typed = request.POST.get("address", "").strip()
        tells = [kind for kind in telling.TELLS if kind in request.POST.getlist("tells")]
        fault = _fault(typed, tells, standing.count())
        if not fault:
            intent = intent_of(request)
            with writing(intent, room=room.pk):
                made = Webhook(room=room, address=typed, tells=tells, seed=secrets.token_hex(SEED_BYTES))
                made.made_by, made.made_at = keeper_of(request), intent.at
                telling.begin(made)
                made.save()
            return redirect("api:webhooks", room.pk)
    rows = [{"one": one, "secret": posting.secret_of(one), "paused": one.failures >= telling.PAUSED_AFTER} for one in standing]
    context = {"room": room, "rows": rows, "tells": telling.TELLS.items(), "typed": typed, "fault": fault}
    return render(request, "api/webhooks.html", context, status=422 if fault else 200)


def _fault(address: str, tells: list[str], standing: int) -> str:
    """What is wrong with what was typed, in words; "" where nothing is."""
    try:
        posting.parts_of(address)
    except posting.UnfitAddressError:
        return _("Type a whole address, like https://example.org/told.")
    if len(address) > LONGEST:
        return _("That address is too long.")
    if not tells:
        return _("Choose what it is told.")
    return _("There are ten already: end one first.") if standing >= MOST else ""


def _mine(request: HttpRequest, pk: int) -> Webhook:
    found = get_object_or_404(Webhook, pk=pk, room__in=rooms_of(keeper_of(request)), ended_at__isnull=True)
    owned_room_or_404(request, found.room_id)
    return found


@require_POST
def end_webhook(request: HttpRequest, pk: int) -> HttpResponse:
    """Tell an address nothing more."""
    found = _mine(request, pk)
    with writing(intent_of(request), room=found.room_id):
        Webhook.objects.filter(pk=found.pk).update(ended_at=clock.now())
    return redirect("api:webhooks", found.room_id)


@require_POST
def try_webhook(request: HttpRequest, pk: int) -> HttpResponse:
    """Send a test now; one that was paused goes on where it is taken."""
    found = _mine(request, pk)
    try:
        telling.try_out(found, clock.now())
    except posting.NotTakenError as error:
        messages.error(request, _("The test was not taken: %(why)s.") % {"why": error.said})
    else:
        messages.success(request, _("The test was taken."))
    return redirect("api:webhooks", found.room_id)
