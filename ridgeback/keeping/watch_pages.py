"""The watch: what the logs of all animals show, and putting aside what was seen."""

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.daybook.writing import intent_of
from ridgeback.keeping import watching
from ridgeback.keeping.access import animal_or_404
from ridgeback.keeping.actions.put_aside import put_aside
from ridgeback.language.entrywords import VET
from ridgeback.metering import telling
from ridgeback.rooms.access import habitats_to_see, keeper_of
from ridgeback.web import typed
from ridgeback.web.addresses import own_address


@require_GET
def watch(request: HttpRequest) -> HttpResponse:
    """Everything that the watch tells in the keeper's rooms."""
    keeper, units, today = keeper_of(request), units_of(request.user), clock.today()
    wanted = (
        habitats_to_see(keeper).filter(set_aside_at__isnull=True).select_related("company", "room", "rota_card", "head__profile")
    )
    habitats = list(wanted.order_by("name"))
    found = watching.of_habitats(habitats, today, units)
    rooms = {habitat.room_id for habitat in habitats}
    told = telling.standing([habitat.pk for habitat in habitats], rooms, today, units)
    context = {
        "notices": [one for one in told if not one.quiet],
        "quiet_notices": [one for one in told if one.quiet],
        "loud": [one for one in found if one.quiet is None],
        "quiet": [one for one in found if one.quiet is not None],
        "vet": VET,
    }
    return render(request, "keeping/watch.html", context)


@require_POST
def aside(request: HttpRequest, pk: int) -> HttpResponse:
    """Put an alarm aside for a while."""
    animal_or_404(request, pk)
    days, key = typed.whole(request.POST.get("days")) or 0, request.POST.get("key", "")
    put_aside(pk, intent_of(request), key, days, request.POST.get("reason", "").strip(), clock.today())
    messages.info(request, _("Seen. It is quiet for %(days)s days.") % {"days": days})
    return redirect(own_address(request, request.POST.get("next", "")) or reverse("keeping:watch"))
