"""A room's prices: entered once for every kind of thing, for all its habitats."""

from typing import Any, Final

from django.http import HttpRequest, HttpResponse, QueryDict
from django.shortcuts import redirect, render
from django.views.decorators.http import require_http_methods

from husbandry.money.bill import aisle_of
from husbandry.money.settings import Purse
from ridgeback.accounts.context import units_of
from ridgeback.daybook.writing import intent_of
from ridgeback.language import moneywords
from ridgeback.money import forms
from ridgeback.money.actions.keep_prices import keep_prices
from ridgeback.money.reckoning import purse_of
from ridgeback.money.things import units_of_things
from ridgeback.rooms.access import room_or_404
from ridgeback.rooms.models import Room
from ridgeback.units import KeeperUnits
from ridgeback.web import typed

BLANK_SHOPS: Final = 2


@require_http_methods(["GET", "POST"])
def prices(request: HttpRequest, pk: int) -> HttpResponse:
    """The prices of a room's things, its tariff, what a year brings besides."""
    room, units = room_or_404(request, pk), units_of(request.user)
    purse, version = purse_of(pk)
    if request.method == "POST":
        bound = forms.PostedPurse(request.POST, units, purse, units_of_things(room))
        if bound.purse is not None:
            keep_prices(pk, intent_of(request), bound.purse, typed.whole(request.POST.get("version")) or 0)
            return redirect("money:prices", pk)
        shown = _context(room, purse, version, units)
        context = shown | {"wrong": bound.faults} | _typed(request.POST, bound, shown)
        return render(request, "money/prices.html", context, status=422)
    return render(request, "money/prices.html", _context(room, purse, version, units))


def _context(room: Room, purse: Purse, version: int, units: KeeperUnits) -> dict[str, Any]:
    there = units_of_things(room)
    there |= {price.what: "" for price in purse.prices if price.what not in there}
    rows = [_offer(what, unit, purse, units) for what, unit in there.items()]
    aisles = []
    for aisle, name in moneywords.AISLES.items():
        mine = sorted((row for row in rows if aisle_of(row["what"]) == aisle), key=lambda row: str(row["name"]))
        if mine:
            aisles.append({"name": name, "things": mine})
    shops = dict.fromkeys([*purse.shipping, *(price.shop for price in purse.prices)])
    tariff = purse.tariff
    return {
        "room": room,
        "version": version,
        "aisles": aisles,
        "shops": [{"name": shop, "shipping": _said(purse.shipping.get(shop))} for shop in shops]
        + [{"name": "", "shipping": ""}] * BLANK_SHOPS,
        "day": _said(tariff.day or None),
        "night": _said(tariff.night),
        "night_from": f"{tariff.night_from:02d}:00",
        "night_to": f"{tariff.night_to:02d}:00",
        "veterinarian": _said(purse.veterinarian or None),
        "insurance": _said(purse.insurance or None),
        "ground_share": f"{100 * purse.ground_share:g}",
        "rate": f"{100 * purse.rate:g}",
    }


def _said(value: float | None) -> str:
    return "" if value is None else f"{value:g}"


def _offer(what: str, unit: str, purse: Purse, units: KeeperUnits) -> dict[str, Any]:
    offers = [
        {"shop": price.shop, "price": _said(price.price), "pack": moneywords.amount_of(price.pack, unit, units)}
        for price in purse.prices
        if price.what == what
    ]
    blank = {"shop": "", "price": "", "pack": ""}
    pack = moneywords.amount_of(1.0, unit, units)
    return {"what": what, "pack": pack, "name": moneywords.thing_of(what), "offers": [*offers, blank]}


def _typed(posted: QueryDict, bound: forms.PostedPurse, shown: dict[str, Any]) -> dict[str, Any]:
    """The fields as they were typed, for a part that could not be kept."""
    offers: dict[str, list[dict[str, str]]] = {}
    for row in bound.rows:
        offers.setdefault(row["what"], []).append({name: row[name] for name in ("shop", "price", "pack")})
    aisles = [
        aisle | {"things": [thing | {"offers": offers.get(thing["what"], thing["offers"])} for thing in aisle["things"]]}
        for aisle in shown["aisles"]
    ]
    if "day" not in posted:
        return {"aisles": aisles}
    names = ("day", "night", "night_from", "night_to", "veterinarian", "insurance", "rate")
    shops = zip(posted.getlist("shop-name"), posted.getlist("shop-shipping"), strict=False)
    return {name: posted.get(name, "") for name in names} | {
        "aisles": aisles,
        "shops": [{"name": name, "shipping": cost} for name, cost in shops],
        "ground_share": posted.get("ground-share", ""),
    }
