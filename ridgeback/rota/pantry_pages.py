"""The pantry's pages: what is in store and how long it lasts, what comes in and goes, the thaw list, CSV."""

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import date
from typing import Any, Final

from django.contrib import messages
from django.db.models import Count
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.text import slugify
from django.utils.translation import gettext as _
from django.utils.translation import ngettext
from django.views.decorators.http import require_GET, require_POST

from husbandry.numerals import NumberError
from husbandry.units import parse
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.daybook.writing import Refused, intent_of
from ridgeback.language import wording
from ridgeback.language.foodchoices import choices
from ridgeback.language.names import CHOICES
from ridgeback.language.pantrywords import KINDS, SAID, STATES, UNITS
from ridgeback.pantry import exchange, store
from ridgeback.pantry.actions import cultures, deliveries, stock
from ridgeback.pantry.models import Delivery, Item
from ridgeback.rooms.access import keeper_of, rooms_of
from ridgeback.rooms.models import Room
from ridgeback.rota import freezer, stock_forecasts
from ridgeback.web import typed
from ridgeback.web.requests import download

MOST_LITRES: Final = 3000.0
MOST_LEAD_DAYS: Final = 365
MOST_SHOWN: Final = 200  # lines of a file, before it is brought in


@require_GET
def shelf(request: HttpRequest) -> HttpResponse:
    """Every room's store, shortest first."""
    return render(request, "pantry/shelf.html", _context(request))


def _context(request: HttpRequest, faults: exchange.CsvFaults | None = None) -> dict[str, Any]:
    today = clock.today()
    rooms = []
    for room in rooms_of(keeper_of(request)):
        lines = stock_forecasts.lines(room, today)
        cost = sum(line.cost_a_month or 0.0 for line in lines)
        rooms.append(
            {
                "room": room,
                "lines": [{"line": line, "state": STATES[line.state], "kind": KINDS[line.item.kind]} for line in lines],
                "thaw": stock_forecasts.thaw(room, today),
                "cost": cost,
                "delivery": _last_delivery(room),
                "broken": stock_forecasts.left_out(room, today),
                "freezer": freezer.of_room(room, lines),
                "next_prey": freezer.next_sizes(room, today),
                "missing": [stock_forecasts.word(food) for food in stock_forecasts.missing(room, today)],
            }
        )
    foods = [*choices(), *((code, str(word)) for code, word in CHOICES["product"].items())]
    return {"rooms": rooms, "foods": foods, "kinds": KINDS.items(), "today": today, "faults": faults}


def _last_delivery(room: Room) -> Delivery | None:
    """The last file brought in, while it can be undone."""
    found = room.deliveries.filter(undone_at__isnull=True).select_related("author").annotate(count=Count("lots")).first()
    return found if found is not None and exchange.can_undo(found) else None


def _number(request: HttpRequest, name: str, unit: str) -> float:
    """A number of the form, of `unit`, in the keeper's way of writing. Raises NumberError."""
    return typed.amount(request.POST.get(name, ""), unit, units_of(request.user).decimal)


def _day(request: HttpRequest, name: str) -> date | None:
    """A day of the form, None where the field is empty. Raises NumberError."""
    text = request.POST.get(name, "").strip()
    return typed.day(text) if text else None


@require_POST
def receive(request: HttpRequest, pk: int) -> HttpResponse:
    """Something came in; an item not known yet is made."""
    room, today, given = _room(request, pk), clock.today(), request.POST
    known = {key for key, _word in choices()} | set(CHOICES["product"])
    food = given.get("food", "")
    if food not in known:
        messages.error(request, _("Choose what came in."))
        return redirect("pantry:shelf")
    item = Item.objects.filter(room=room, food=food).first()
    unit = given.get("unit", "") if given.get("unit") in Item.Unit.values else Item.Unit.PIECE
    if item is not None and item.unit != unit:
        messages.error(request, _("This is counted in %(unit)s here: tell it so.") % {"unit": UNITS[item.unit]})
        return redirect("pantry:shelf")
    with _told(request):
        amount, received = _number(request, "amount", unit), _day(request, "received") or today
        if received > today:
            raise Refused("not_a_plan", why=_("It came in on a day to come."))
        best_before = _day(request, "best_before")
        each = _number(request, "piece_g", "g") if given.get("piece_g", "").strip() and unit == Item.Unit.PIECE else None
        came = stock.Parcel(food, unit, amount, received, best_before, each)
        stock.receive_stock(room.pk, intent_of(request), came)
    return redirect("pantry:shelf")


@require_POST
def freezer_room(request: HttpRequest, pk: int) -> HttpResponse:
    """Say how much room the freezer has."""
    room = _room(request, pk)
    try:
        litres = parse(request.POST.get("litres", ""), "L", units_of(request.user).decimal) * 1000
    except NumberError as error:
        raise Refused("not_a_plan", why=wording.unread(error, error.parameters["text"])) from None
    if not 1 <= litres <= MOST_LITRES:
        raise Refused("not_a_plan", why=_("A freezer has room for 1 to 3,000 litres."))
    cultures.keep_freezer(room, intent_of(request), litres)
    return redirect("pantry:shelf")


@require_POST
def change(request: HttpRequest, pk: int) -> HttpResponse:
    """Count an item anew, write a loss down, or change what is known of its packs."""
    item = get_object_or_404(Item, pk=pk, room__in=rooms_of(keeper_of(request)))
    what, intent = request.POST.get("do", ""), intent_of(request)
    with _told(request):
        if what == "count":
            stock.count_stock(item, intent, _number(request, "amount", item.unit), clock.today())
        elif what == "lost":
            stock.lose_stock(item, intent, _number(request, "amount", item.unit))
        elif what == "packs":
            stock.set_packs(item, intent, _packs(request, item))
        elif what == "remove":
            stock.remove_item(item, intent)
        else:
            raise Http404
    return redirect("pantry:shelf")


@contextmanager
def _told(request: HttpRequest) -> Iterator[None]:
    """Say what could not be written, as a refusal: nothing of it is."""
    try:
        yield
    except store.StockError as error:
        raise Refused("not_a_plan", why=str(SAID[error.code])) from None
    except NumberError as error:
        raise Refused("not_a_plan", why=wording.unread(error, error.parameters["text"])) from None


def _packs(request: HttpRequest, item: Item) -> stock.Packs:
    size, price = (request.POST.get(name, "").strip() for name in ("pack_size", "pack_price"))
    text = request.POST.get("lead_days", "").strip()
    lead = typed.whole(text)
    if text and (lead is None or lead > MOST_LEAD_DAYS):
        raise Refused("not_a_plan", why=_("“%(text)s” is not a number of days.") % {"text": text[:20]})
    return stock.Packs(
        _number(request, "pack_size", item.unit) if size else None,
        _number(request, "pack_price", "") if price else None,
        lead,
    )


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
    """Read a CSV and show what it would do; once that was seen, do it. All of it or nothing."""
    room, upload = _room(request, pk), request.FILES.get("file")
    raw = upload.read(exchange.LARGEST_BYTES + 1) if upload else request.POST.get("text", "").encode()
    try:
        rows = exchange.read(raw, clock.today())
        planned = exchange.steps(room, rows)
        if "seen" in request.POST:
            count = deliveries.bring_in(room, intent_of(request), rows)
            messages.info(request, ngettext("%(n)s lot came in.", "%(n)s lots came in.", count) % {"n": count})
            return redirect("pantry:shelf")
    except exchange.CsvFaults as faults:
        return render(request, "pantry/shelf.html", _context(request, faults), status=422)
    fresh = [step for step in planned if step.there is None]
    context = {
        "room": room,
        "text": raw.decode("utf-8-sig"),
        "new": [_step(step) for step in fresh[:MOST_SHOWN]],
        "more": max(len(fresh) - MOST_SHOWN, 0),
        "there": len(planned) - len(fresh),
        "count": len(fresh),
    }
    return render(request, "pantry/bring_in.html", context)


def _step(step: exchange.ImportStep) -> dict[str, Any]:
    return {"row": step.row, "name": stock_forecasts.word(step.row.food), "unit": UNITS[step.row.unit], "new_item": step.new_item}


@require_POST
def undo(request: HttpRequest, pk: int) -> HttpResponse:
    """Take out again what a CSV brought in."""
    delivery = get_object_or_404(Delivery, pk=pk, room__in=rooms_of(keeper_of(request)))
    deliveries.undo_delivery(delivery, intent_of(request))
    messages.info(request, _("What that file had brought in is out again."))
    return redirect("pantry:shelf")
