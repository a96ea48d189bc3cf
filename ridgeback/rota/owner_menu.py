"""The keeper's own menu as a form: a few rows of food, a few of powder."""

from typing import Any, Final

from django.http import QueryDict
from django.utils.translation import gettext as _

from husbandry.assessment import Change
from husbandry.errors import HusbandryError
from husbandry.numerals import Decimal, NumberError
from husbandry.plan.habitat import HabitatPlan
from ridgeback.language import foodchoices, rotawords, wording
from ridgeback.language.names import CHOICES
from ridgeback.web import typed

ROWS: Final = 5
POWDER_ROWS: Final = 4


class LineError(HusbandryError, ValueError):
    """A row that cannot be read; its text says which and why."""


def form(plan: HabitatPlan, posted: QueryDict | None = None) -> dict[str, Any]:
    """The rows as they stand, or as they were typed where that could not be read, with empty ones to fill."""
    if posted is not None:
        days, weeks = posted.getlist("weekday"), posted.get("every_weeks", "1")
        return _filled(
            _rows(posted, {"food": "food", "amount": "amount", "unit": "unit", "each": "each", "week": "week"}),
            _rows(posted, {"product": "product", "every": "every", "unit": "every_unit"}),
            own_powders=posted.get("powders") == "own",
            weekdays=tuple(int(day) for day in days if day in set("0123456")),
            every_weeks=int(weeks) if weeks in ("1", "2", "3", "4") else 1,
        )
    items = [
        {
            "food": item.food,
            "amount": _said(item.grams if item.count is None else item.count),
            "unit": "g" if item.grams else "piece",
            "each": _said(item.each_g),
            "week": _said(item.per_week),
        }
        for item in plan.feeding.items
    ]
    powders = [
        {
            "product": item.product,
            "every": _said(item.every_days or item.every_feeds),
            "unit": "days" if item.every_days else "feeds",
        }
        for item in plan.feeding.supplements or ()
    ]
    return _filled(
        items,
        powders,
        own_powders=plan.feeding.supplements is not None,
        weekdays=plan.feeding.weekdays,
        every_weeks=plan.feeding.every_weeks,
    )


def _rows(posted: QueryDict, columns: dict[str, str]) -> list[dict[str, str]]:
    """The rows as they were typed, without those left empty; `columns` are the names posted by the row's own."""
    told = zip(*(posted.getlist(name) for name in columns.values()), strict=False)
    rows = [{name: text[:60] for name, text in zip(columns, row, strict=True)} for row in told]
    return [row for row in rows if any(text.strip() for name, text in row.items() if name != "unit")]


def _filled(
    items: list[dict[str, str]], powders: list[dict[str, str]], *, own_powders: bool, weekdays: tuple[int, ...], every_weeks: int
) -> dict[str, Any]:
    return {
        "items": items + [{} for _place in range(max(ROWS - len(items), 1))],
        "powders": powders + [{} for _place in range(max(POWDER_ROWS - len(powders), 1))],
        "own_powders": own_powders,
        "foods": foodchoices.choices(),
        "products": list(CHOICES["product"].items()),
        "set": bool(items) or bool(weekdays),
        "weekdays": [(day, rotawords.weekday(day), day in weekdays) for day in range(7)],
        "every_weeks": [(weeks, weeks == every_weeks) for weeks in (1, 2, 3, 4)],
    }


def _said(number: float | None) -> str:
    return "" if number is None else f"{number:g}"


def _number(text: str, unit: str, row: int, decimal: Decimal) -> float:
    try:
        number = typed.amount(text, unit, decimal)
    except NumberError as error:
        raise LineError(_("Row %(row)s: %(why)s") % {"row": row, "why": wording.unread(error, text)}) from None
    if not number > 0:
        raise LineError(_("Row %(row)s: the amount must be above zero.") % {"row": row})
    return number


def read(posted: QueryDict, decimal: Decimal) -> tuple[Change, ...]:
    """Read the posted rows into changes of the plan. Raises LineError."""
    known = dict(foodchoices.choices())
    items = []
    columns = [posted.getlist(name) for name in ("food", "amount", "unit", "each", "week")]
    for row, (food, amount, unit, each, week) in enumerate(zip(*columns, strict=False), start=1):
        if not food and not amount.strip():
            continue
        if food not in known:
            raise LineError(_("Row %(row)s: choose a food.") % {"row": row})
        number = _number(amount, "g" if unit == "g" else "piece", row, decimal)
        item: dict[str, Any] = {"food": food} | ({"grams": number} if unit == "g" else {"count": max(round(number), 1)})
        if each.strip():
            item["each_g"] = _number(each, "g", row, decimal)
        if week.strip():
            item["per_week"] = min(_number(week, "", row, decimal), 7.0)
        items.append(item)
    changes = [Change("feeding.items", items)]
    if posted.get("powders") == "own":
        products = []
        rows = zip(*(posted.getlist(name) for name in ("product", "every", "every_unit")), strict=False)
        for row, (product, every, unit) in enumerate(rows, start=1):
            if not product or not every.strip():
                continue
            number = _number(every, "", row, decimal)
            products.append(
                {"product": product} | ({"every_days": number} if unit == "days" else {"every_feeds": max(round(number), 1)})
            )
        changes.append(Change("feeding.supplements", products))
    else:
        changes.append(Change("feeding.supplements", None))
    return (*changes, *_days(posted))


def _days(posted: QueryDict) -> list[Change]:
    """The days of the feeds: chosen weekdays stand in place of an interval."""
    days = sorted({int(day) for day in posted.getlist("weekday") if day in set("0123456")})
    if not days:
        return [Change("feeding.weekdays", [])]
    weeks = posted.get("every_weeks", "1")
    every = int(weeks) if weeks in ("1", "2", "3", "4") else 1
    return [Change("feeding.weekdays", days), Change("feeding.every_weeks", every), Change("feeding.interval_days", None)]
