"""The pages that give the rota out."""

from datetime import timedelta

from django.conf import settings
from django.contrib import messages
from django.contrib.auth.decorators import login_not_required
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.utils.translation import override
from django.views.decorators.http import require_GET, require_POST

from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.daybook.writing import intent_of, writing
from ridgeback.rooms.access import keeper_of, rooms_of
from ridgeback.rota import cards, sharing
from ridgeback.rota.calendar_pages import day_of
from ridgeback.rota.models import Subscription
from ridgeback.web import typed
from ridgeback.web.paper import printed
from ridgeback.web.requests import download


@require_GET
def share(request: HttpRequest) -> HttpResponse:
    """Addresses given out, and the ways to take the rota along."""
    rooms = list(rooms_of(keeper_of(request)))
    given = Subscription.objects.filter(keeper=keeper_of(request), room__in=rooms, revoked_at__isnull=True).select_related("room")
    fresh = request.session.pop("fresh_address", None)
    today = clock.today()
    context = {"rooms": rooms, "given": given, "fresh": fresh, "today": today, "until": today + timedelta(days=6)}
    return render(request, "rota/share.html", context)


@require_POST
def subscribe(request: HttpRequest) -> HttpResponse:
    """Make a private address; it is shown once."""
    room = get_object_or_404(rooms_of(keeper_of(request)), pk=typed.key(request.POST.get("room")))
    name = request.POST.get("name", "").strip()
    if not name:
        messages.error(request, _("Say for whom it is."))
        return redirect("rota:share")
    ways = {way: request.POST.get(way) == "1" for way in ("feeds_only", "by_day")}
    _made, token = sharing.subscribe(room, keeper_of(request), name, intent_of(request), **ways)
    request.session["fresh_address"] = request.build_absolute_uri(reverse("rota:subscribed", args=[token]))
    return redirect("rota:share")


@require_POST
def revoke(request: HttpRequest, pk: int) -> HttpResponse:
    """Take an address back: it answers nobody any more."""
    found = get_object_or_404(Subscription, pk=pk, keeper=keeper_of(request), revoked_at__isnull=True)
    with writing(intent_of(request), room=found.room_id):
        Subscription.objects.filter(pk=found.pk, revoked_at__isnull=True).update(revoked_at=clock.now())
    messages.info(request, _("The address of %(name)s answers nobody any more.") % {"name": found.name})
    return redirect("rota:share")


@login_not_required
@require_GET
def subscribed(request: HttpRequest, token: str) -> HttpResponse:
    """The calendar of a private address; nothing for an unknown one."""
    found = sharing.found_by(token, clock.now())
    if found is None:
        raise Http404
    habitats = list(cards.habitats_of_room(found.room_id))
    units, extent = units_of(found.keeper), sharing.Extent(found.feeds_only, found.by_day)
    with override(found.keeper.language or settings.LANGUAGE_CODE):
        data = sharing.file(found.room.name, habitats, clock.today(), clock.now(), units, extent)
    response = HttpResponse(data, content_type="text/calendar; charset=utf-8")
    response["Cache-Control"] = "private, max-age=900"
    return response


@require_GET
def as_file(request: HttpRequest) -> HttpResponse:
    """The whole calendar as an iCalendar file."""
    habitats = list(cards.habitats_with_cards(keeper_of(request)))
    extent = sharing.Extent(feeds_only="feeds" in request.GET, by_day="days" in request.GET)
    data = sharing.file(_("Ridgeback"), habitats, clock.today(), clock.now(), units_of(request.user), extent)
    return download(data, "text/calendar; charset=utf-8", "rota", "calendar.ics")


@require_GET
def as_csv(request: HttpRequest) -> HttpResponse:
    """The next weeks as CSV."""
    today = clock.today()
    habitats = list(cards.habitats_with_cards(keeper_of(request)))
    data = sharing.table(habitats, today, sharing.AHEAD_DAYS, today).encode()
    return download(data, "text/csv; charset=utf-8", "rota", "calendar.csv")


@require_GET
def sitter_card(request: HttpRequest) -> HttpResponse:
    """The printed card for whoever looks after them meanwhile."""
    today = clock.today()
    room = get_object_or_404(rooms_of(keeper_of(request)), pk=typed.key(request.GET.get("room")))
    begin, end = day_of(request.GET.get("from", ""), today), day_of(request.GET.get("until", ""), today)
    days = (end - begin).days + 1
    if begin < today or not 1 <= days <= sharing.MOST_CARD_DAYS:
        messages.error(request, _("A card runs from today on, for a month at most."))
        return redirect("rota:share")
    habitats = list(cards.habitats_of_room(room.pk))
    told = sharing.sitter(habitats, begin, days, today, units_of(request.user))
    call = request.GET.get("call", "").strip()[:200]
    context = {"room": room.name, "call": call, "habitats": told, "begin": begin, "end": end, "today": today}
    return printed("rota/sitter.html", context, "sitter-card")
