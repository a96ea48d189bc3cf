"""A room's prices out of their form: by shop and pack, typed in any units; what cannot be, in words."""

from collections.abc import Mapping
from itertools import zip_longest
from typing import Any, Final

from django.http import QueryDict
from django.utils.translation import gettext as _
from pydantic import ValidationError

from husbandry.money.settings import Purse
from husbandry.numerals import NumberError
from husbandry.units import parse
from ridgeback.language import moneywords, wording
from ridgeback.units import KeeperUnits
from ridgeback.web import typed

OFFER: Final = ("what", "shop", "price", "pack")
# Of the thing's own unit: what a bare number is in, and how many of it the unit of reckoning has.
PACKS: Final = {"L": ("L", 1000.0), "ml": ("ml", 1e6), "kg": ("kg", 1.0), "m": ("m", 1.0), "m2": ("m2", 1.0)}


class PostedPurse:
    """A form as it was posted: its purse, or the `faults` in words.

    A part of the page is posted at a time: prices of things that it does not name, and what it does not say, stay as `before`.
    `sold_in` is the unit of each thing.
    """

    def __init__(self, posted: QueryDict, units: KeeperUnits, before: Purse, sold_in: Mapping[str, str]) -> None:
        self.units, self.sold_in = units, sold_in
        self.faults: list[str] = []
        self.purse: Purse | None = None
        columns = [posted.getlist(f"offer-{name}") for name in OFFER]
        self.rows = [dict(zip(OFFER, (cell.strip() for cell in row), strict=True)) for row in zip_longest(*columns, fillvalue="")]
        named = {row["what"] for row in self.rows}
        told: dict[str, Any] = before.model_dump()
        told["prices"] = [price.model_dump() for price in before.prices if price.what not in named]
        told["prices"] += [made for made in map(self._price, self.rows) if made is not None]
        if "day" in posted:
            told |= self._besides(posted)
        if self.faults:
            return
        try:
            self.purse = Purse.model_validate(told)
        except ValidationError as error:
            self.faults += list(dict.fromkeys(said_of(item) for item in error.errors(include_url=False)))

    def _besides(self, posted: QueryDict) -> dict[str, Any]:
        """The tariff, the shops' shipping, what a year brings besides."""
        shops = zip(posted.getlist("shop-name"), posted.getlist("shop-shipping"), strict=False)
        return {
            "shipping": {shop.strip()[:40]: self._money(cost) for shop, cost in shops if shop.strip() and cost.strip()},
            "tariff": self._tariff(posted),
            "veterinarian": self._money(posted.get("veterinarian", "")),
            "insurance": self._money(posted.get("insurance", "")),
            "ground_share": self._share(posted.get("ground-share", ""), 0.5),
            "rate": self._share(posted.get("rate", ""), 0.0),
        }

    def _price(self, row: dict[str, str]) -> dict[str, Any] | None:
        """One price; None for a row without one."""
        if not row["price"]:
            return None
        name = moneywords.thing_of(row["what"])
        if not row["shop"]:
            self.faults.append(_("Which shop asks that for the %(what)s?") % {"what": name})
        return {
            "what": row["what"],
            "shop": row["shop"][:40] or "?",
            "price": self._money(row["price"]),
            "pack": self._pack(row, name),
        }

    def _pack(self, row: dict[str, str], name: str) -> float:
        text = row["pack"]
        if not text:
            return 1.0
        try:
            sold_in = self.sold_in.get(row["what"], "")
            if sold_in in PACKS:
                unit, times = PACKS[sold_in]
                found = parse(text, unit, self.units.decimal) * times
            else:
                found = typed.amount(text, "piece", self.units.decimal)
        except NumberError as error:
            self.faults.append(f"{name}: {wording.unread(error, text)}")
            return 1.0
        if found <= 0:
            self.faults.append(_("A pack of the %(what)s holds more than nothing.") % {"what": name})
            return 1.0
        return found

    def _money(self, text: str) -> float:
        if not text.strip():
            return 0.0
        try:
            return typed.amount(text, "", self.units.decimal)
        except NumberError as error:
            if error.code == "negative":
                self.faults.append(_("“%(text)s”: a price is not below nothing.") % {"text": text[:30]})
            else:
                self.faults.append(_("“%(text)s” is no price.") % {"text": text[:30]})
            return 0.0

    def _share(self, text: str, usual: float) -> float:
        """A share out of a percentage."""
        said = text.strip().rstrip("%").strip()
        if not said:
            return usual
        try:
            return typed.amount(said, "", self.units.decimal) / 100
        except NumberError:
            self.faults.append(_("“%(text)s” is no percentage.") % {"text": text[:30]})
            return usual

    def _tariff(self, posted: QueryDict) -> dict[str, Any]:
        night = posted.get("night", "").strip()
        hours = {}
        for name in ("night_from", "night_to"):
            text = posted.get(name, "").strip()
            try:
                if text:
                    at = typed.clock_time(text if ":" in text or not text.isdigit() else f"{text}:00")
                    if at.minute:
                        raise NumberError("not_a_time", text=text)
                    hours[name] = at.hour
            except NumberError:
                self.faults.append(_("“%(text)s” is no hour of the day.") % {"text": text[:30]})
        return {"day": self._money(posted.get("day", "")), "night": self._money(night) if night else None} | hours


def said_of(item: Any) -> str:
    """What is wrong with the prices, in words."""
    context = item.get("ctx") or {}
    if item["type"] == "price_twice":
        return _("“%(shop)s” has two prices for the %(what)s: keep one.") % {
            "shop": context["shop"],
            "what": moneywords.thing_of(context["what"]),
        }
    where = {
        "rate": _("the interest"),
        "ground_share": _("the ground renewed in a year"),
        "price": _("a price"),
        "pack": _("a pack"),
    }
    return _("The number for %(what)s is more or less than can be.") % {"what": where.get(str(item["loc"][-1]), _("money"))}
