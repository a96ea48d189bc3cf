"""The pantry's pages: what is in store and how long it lasts, what comes in and goes, the thaw list, CSV."""

from datetime import date
from typing import Any

from django.contrib import messages
from django.db import transaction
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.text import slugify
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from ridgeback import clock, typed
from ridgeback.pantry import exchange, forecasts, store
from ridgeback.pantry.models import Change, Item
from ridgeback.pantry.words import KINDS, SAID, STATES
from ridgeback.planner.views import download
from ridgeback.planner.wording import CHOICES
from ridgeback.rooms.access import keeper_of, rooms_of
from ridgeback.rooms.models import Room
from ridgeback.rota.owner_menu import choices


@require_GET
def shelf(request: HttpRequest) -> HttpResponse:
    """Every room's store, shortest first."""
    return render(request, "pantry/shelf.html", _context(request))


def _context(request: HttpRequest, faults: exchange.CsvFaults | None = None) -> dict[str, Any]:
    today = clock.today()
    rooms = []
    for room in rooms_of(keeper_of(request)):
        lines = forecasts.lines(room, today)
        cost = sum(line.cost_a_month or 0.0 for line in lines)
        rooms.append(
            {
                "room": room,
                "lines": [{"line": line, "state": STATES[line.state], "kind": KINDS[line.item.kind]} for line in lines],
                "thaw": forecasts.thaw(room, today),
                "cost": cost,
                "missing": [forecasts.word(food) for food in forecasts.missing(room, today)],
            }
        )
    foods = [*choices(), *((code, str(word)) for code, word in CHOICES["product"].items())]
    return {"rooms": rooms, "foods": foods, "kinds": KINDS.items(), "today": today, "faults": faults}


def _number(text: str) -> float:
    try:
        number = float(text.replace(",", "."))
    except ValueError:
        raise store.StockError("not_a_number") from None
    if number != number or abs(number) == float("inf"):
        raise store.StockError("not_a_number")
    return number


def _day(text: str, today: date) -> date | None:
    try:
        return date.fromisoformat(text) if text else None
    except ValueError:
        raise Http404 from None


@require_POST
def receive(request: HttpRequest, pk: int) -> HttpResponse:
    """Something came in; an item not known yet is made."""
    room, today, given = _room(request, pk), clock.today(), request.POST
    known = {key for key, _word in choices()} | set(CHOICES["product"])
    food = given.get("food", "")
    if food not in known:
        messages.error(request, _("Choose what came in."))
        return redirect("pantry:shelf")
    received = _day(given.get("received", ""), today) or today
    try:
        with transaction.atomic():
            amount = _number(given.get("amount", ""))
            unit = given.get("unit", "")
            defaults = {"kind": exchange.guess_kind(food), "unit": unit if unit in Item.Unit.values else Item.Unit.PIECE}
            item, _made = Item.objects.get_or_create(room=room, food=food, defaults=defaults | {"pack_size": max(amount, 0.001)})
            store.receive(item, amount, min(received, today), clock.now(), _day(given.get("best_before", ""), today))
    except store.StockError as error:
        messages.error(request, SAID[error.code])
    return redirect("pantry:shelf")


@require_POST
def change(request: HttpRequest, pk: int) -> HttpResponse:
    """Count an item anew, write a loss down, or change what is known of its packs."""
    item = get_object_or_404(Item, pk=pk, room__in=rooms_of(keeper_of(request)))
    given, what = request.POST, request.POST.get("do", "")
    try:
        if what == "count":
            store.count(item, _number(given.get("amount", "")), clock.now())
        elif what == "lost":
            store.take(item, _number(given.get("amount", "")), Change.Why.LOST, clock.now())
        elif what == "packs":
            _packs(item, given)
        elif what == "remove":
            item.delete()
        else:
            raise Http404
    except store.StockError as error:
        messages.error(request, SAID[error.code])
    return redirect("pantry:shelf")


def _packs(item: Item, given: Any) -> None:
    size, price = (given.get(name, "").strip() for name in ("pack_size", "pack_price"))
    lead = typed.whole(given.get("lead_days"))
    item.pack_size = _number(size) if size else item.pack_size
    item.pack_price = _number(price) if price else None
    item.lead_days = item.lead_days if lead is None else min(lead, 365)
    if item.pack_size <= 0 or (item.pack_price or 0) < 0:
        raise store.StockError("negative")
    item.save()


def _room(request: HttpRequest, pk: int) -> Room:
    return get_object_or_404(rooms_of(keeper_of(request)), pk=pk)


@require_GET
def export(request: HttpRequest, pk: int) -> HttpResponse:
    """The store as CSV."""
    room = _room(request, pk)
    data = exchange.write(room, clock.today()).encode()
    return download(data, "text/csv; charset=utf-8", slugify(room.name), "pantry.csv")


@require_POST
def bring_in(request: HttpRequest, pk: int) -> HttpResponse:
    """Read a CSV; all of it or nothing."""
    room, upload = _room(request, pk), request.FILES.get("file")
    raw = upload.read(exchange.LARGEST_BYTES + 1) if upload else b""
    try:
        rows = exchange.read(raw, clock.today())
    except exchange.CsvFaults as faults:
        return render(request, "pantry/shelf.html", _context(request, faults), status=422)
    count = exchange.bring_in(room, rows, clock.now())
    messages.info(request, _("%(count)s lots came in.") % {"count": count})
    return redirect("pantry:shelf")
