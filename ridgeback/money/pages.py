"""What a habitat costs: its bill with ticks, the shopping by shop and aisle, what it comes to over the years."""

import csv
import io
from typing import Any, Final

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils.translation import gettext as _
from django.utils.translation import ngettext
from django.views.decorators.http import require_GET, require_POST

from husbandry.money.bill import BillLine
from husbandry.money.settings import Purse
from husbandry.money.shopping import Basket
from husbandry.money.years import Ledger
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.daybook.writing import intent_of
from ridgeback.drawing.marks import mark
from ridgeback.language import dates, moneywords, wording
from ridgeback.money.actions.keep_prices import TICKS, tick
from ridgeback.money.reckoning import Reckoned, VariantBeside, reckon, things_of
from ridgeback.rooms.access import habitat_or_404
from ridgeback.rota.sharing import safe
from ridgeback.units import KeeperUnits, amount, written
from ridgeback.web.requests import download

SPANS: Final = (1, 5, 15)
MONTHS: Final = range(1, 13)


@require_GET
def habitat(request: HttpRequest, pk: int) -> HttpResponse:
    """What one habitat costs."""
    where, units = habitat_or_404(request, pk), units_of(request.user)
    found = reckon(where, clock.today())
    ledger = found.ledger
    context = {
        "habitat": where,
        "set_up": amount(ledger.set_up),
        "to_buy": amount(found.to_buy.total),
        "unpriced": [moneywords.thing_of(what) for what in found.all_of_it.unpriced],
        "aisles": _aisles(found, units),
        "shops": _shops(found.to_buy, found.lines, found.purse, units),
        "shop_unpriced": [moneywords.thing_of(what) for what in found.to_buy.unpriced],
        "yearly": [(moneywords.YEARLY[name], amount(value)) for name, value in ledger.yearly.items()],
        "a_year": amount(ledger.a_year),
        "unpriced_years": [moneywords.thing_of(what) for what in found.unpriced_years],
        "spans": [(years, amount(ledger.over(years)), amount(ledger.over(years, found.purse.rate))) for years in SPANS],
        "rate": f"{100 * found.purse.rate:g}" if found.purse.rate else "",
        "kwh": f"{found.kwh:.0f}",
        "months": _months(found),
        "beside": [_as_planned(found), *(_beside(one, units) for one in found.beside)] if found.beside else [],
        "housing": _housing(found),
    }
    return render(request, "money/habitat.html", context)


def _as_planned(found: Reckoned) -> dict[str, Any]:
    ledger = found.ledger
    return {"name": _("as it is planned"), "kwh": f"{found.kwh:.0f}", "worse": [], "sums": _sums(ledger), "unpriced": []}


def _sums(ledger: Ledger) -> list[str]:
    return [amount(ledger.set_up), amount(ledger.a_year), *(amount(ledger.over(years)) for years in SPANS[1:])]


def _beside(one: VariantBeside, units: KeeperUnits) -> dict[str, Any]:
    """One variant as a row beside the plan."""
    marks = [(mark(item, units), wording.when(item)) for item in one.variant.worse]
    return {
        "name": moneywords.VARIANTS[one.variant.code],
        "kwh": f"{one.kwh:.0f}",
        "sums": _sums(one.ledger),
        "back": "" if one.pays_back is None else written(one.pays_back, ".1f"),
        "worse": [f"{shown.name} {when}: {shown.number} {shown.symbol}".replace("  ", " ") for shown, when in marks],
        "endangers": one.variant.endangers,
        "unpriced": [moneywords.thing_of(what) for what in one.unpriced],
    }


def _housing(found: Reckoned) -> dict[str, str] | None:
    """Buying the last enclosure at once beside stepping up to it, where both are priced on the page of space."""
    choice = found.housing
    if choice is None or choice.once is None:
        return None
    once, step_up = choice.once.total, choice.step_up.total
    outgrown = sum(price for price in choice.step_up.prices[:-1] if price is not None)
    return {
        "steps": str(len(choice.step_up.homes)),
        "once": "" if once is None else amount(once),
        "step_up": "" if step_up is None else amount(step_up),
        "outgrown": amount(outgrown) if outgrown else "",
    }


def _aisles(found: Reckoned, units: KeeperUnits) -> list[dict[str, Any]]:
    """The bill by aisle, each line with where it is cheapest and its tick."""
    bought = {line.what: line for line in found.all_of_it.lines}
    packs = {(price.what, price.shop): price.pack for price in found.purse.prices}
    aisles: dict[str, list[dict[str, Any]]] = {}
    for line in found.lines:
        at = bought.get(line.what)
        pack = packs.get((line.what, at.shop), 1.0) if at is not None else 1.0
        aisles.setdefault(line.aisle, []).append(
            {
                "what": line.what,
                "name": moneywords.thing_of(line.what),
                "amount": moneywords.amount_of(line.amount, line.unit, units),
                "shop": "" if at is None else at.shop,
                "count": "" if at is None else str(at.packs),
                "packs": "" if at is None or (pack == 1 and not line.unit) else _packs(at.packs, pack, line.unit, units),
                "cost": "" if at is None else amount(at.cost),
                "tick": found.ticks.get(line.what, "buy"),
            }
        )
    return [{"name": moneywords.AISLES[aisle], "lines": lines} for aisle, lines in aisles.items()]


def _packs(count: int, pack: float, unit: str, units: KeeperUnits) -> str:
    """So many packs: "3 × 20 L", "1 pack of 10", "2 ×" where a pack is one piece."""
    if unit:
        return f"{count} × {moneywords.amount_of(pack, unit, units)}"
    if pack == 1:
        return f"{count} ×"
    return ngettext("%(n)s pack of %(pack)s", "%(n)s packs of %(pack)s", count) % {"n": count, "pack": written(pack)}


def _shops(to_buy: Basket, lines: tuple[BillLine, ...], purse: Purse, units: KeeperUnits) -> list[dict[str, Any]]:
    """The shopping list, shop by shop, in the order of their aisles."""
    order = {line.what: place for place, line in enumerate(lines)}
    units_of_things = {line.what: line.unit for line in lines}
    packs = {(price.what, price.shop): price.pack for price in purse.prices}
    amounts = {line.what: moneywords.amount_of(line.amount, line.unit, units) for line in lines}
    shops = []
    for shop, shipping in to_buy.shipping.items():
        mine = sorted((line for line in to_buy.lines if line.shop == shop), key=lambda line: order[line.what])
        shops.append(
            {
                "name": shop,
                "shipping": amount(shipping) if shipping else "",
                "total": amount(shipping + sum(line.cost for line in mine)),
                "lines": [
                    {
                        "name": moneywords.thing_of(line.what),
                        "amount": amounts[line.what],
                        "needed": packs[line.what, shop] != 1 or units_of_things[line.what],
                        "packs": _packs(line.packs, packs[line.what, shop], units_of_things[line.what], units),
                        "cost": amount(line.cost),
                    }
                    for line in mine
                ],
            }
        )
    return shops


def _months(found: Reckoned) -> list[dict[str, Any]]:
    """The year's electricity as bars."""
    most = max(month.kwh for month in found.months) or 1.0
    tariff = found.purse.tariff
    return [
        {
            "name": dates.shown(clock.today().replace(month=month.number, day=1), "M"),
            "kwh": written(month.kwh, ".1f"),
            "cost": amount(month.cost(tariff)),
            "height": f"{80 * month.kwh / most:.1f}",
            "top": f"{90 - 80 * month.kwh / most:.1f}",
            "x": 40 * (month.number - 1) + 6,
            "text_x": 40 * (month.number - 1) + 19,
        }
        for month in found.months
    ]


@require_POST
def tick_line(request: HttpRequest, pk: int) -> HttpResponse:
    """One line of the bill is there, bought, or still to buy."""
    where = habitat_or_404(request, pk)
    what, state = request.POST.get("what", ""), request.POST.get("state", "")
    if state not in TICKS or what not in things_of(where):
        raise Http404
    tick(pk, intent_of(request), what, state)
    return redirect("money:habitat", pk)


@require_GET
def shopping_csv(request: HttpRequest, pk: int) -> HttpResponse:
    """The bill as a table to take along."""
    where, units = habitat_or_404(request, pk), units_of(request.user)
    found = reckon(where, clock.today())
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow([_("aisle"), _("thing"), _("amount"), _("state"), _("shop"), _("packs"), _("cost")])
    for aisle in _aisles(found, units):
        for line in aisle["lines"]:
            packs = line["packs"] or line["count"]
            row = [aisle["name"], line["name"], line["amount"], moneywords.TICKS[line["tick"]], line["shop"], packs, line["cost"]]
            writer.writerow([safe(str(cell)) for cell in row])
    return download(out.getvalue().encode("utf-8-sig"), "text/csv; charset=utf-8", where.name, "shopping.csv")
