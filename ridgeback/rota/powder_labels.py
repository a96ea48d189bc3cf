"""What stands on the keeper's own powders, as a form: a row for each kind, in the units that tins are printed in."""

import re
from typing import Any, Final

from django.http import QueryDict
from django.utils.translation import gettext
from django.utils.translation import gettext_lazy as _

from husbandry.assessment import Change
from husbandry.numerals import Decimal, NumberError
from husbandry.plan.feeding_settings import PowderLabel
from husbandry.plan.habitat import HabitatPlan
from husbandry.units import POUND_KG
from ridgeback.language import wording
from ridgeback.language.names import CHOICES
from ridgeback.rota.owner_menu import LineError
from ridgeback.web import typed

# By column: the unit a bare number is in, and how many of it each other one is.
SHARES: Final = {"%": 1.0, "g/kg": 0.1, "mg/g": 0.1, "mg/kg": 1e-4}
VITAMINS: Final = {"iu/kg": 1.0, "iu/g": 1000.0, "iu/100g": 10.0, "iu/lb": 1 / POUND_KG}
TRACES: Final = {"mg/kg": 1.0, "ppm": 1.0, "µg/g": 1.0, "ug/g": 1.0, "mcg/g": 1.0, "%": 10_000.0}
HEADS: Final = {
    "calcium_percent": _("Calcium, %"),
    "phosphorus_percent": _("Phosphorus, %"),
    "d3_iu_per_kg": _("Vitamin D3, IU/kg"),
    "a_iu_per_kg": _("Vitamin A, IU/kg"),
    "iodine_mg_per_kg": _("Iodine, mg/kg"),
}
COLUMNS: Final[dict[str, dict[str, float]]] = {
    "calcium_percent": SHARES,
    "phosphorus_percent": SHARES,
    "d3_iu_per_kg": VITAMINS,
    "a_iu_per_kg": VITAMINS,
    "iodine_mg_per_kg": TRACES,
}
_UNIT: Final = re.compile(
    r"^(.*?\d)\s*((?:i\.?\s?u\.?|%|g|mg|µg|ug|mcg|ppm)\s*(?:(?:/|per)\s*(?:100\s*g|kg|g|lb))?)$", re.IGNORECASE
)


def form(plan: HabitatPlan, posted: QueryDict | None = None) -> list[dict[str, Any]]:
    """The rows as they stand, one for each kind of powder; as they were typed where that could not be read."""
    known: dict[str, PowderLabel] = {item.product: item for item in plan.feeding.labels}

    def shown(product: str, column: str) -> str:
        if posted is not None:
            return posted.get(f"{product}/{column}", "")[:60]
        return _said(getattr(known.get(product), column, None))

    return [
        {
            "product": product,
            "name": name,
            "fields": [(column, head, shown(product, column)) for column, head in HEADS.items()],
        }
        for product, name in CHOICES["product"].items()
    ]


def _said(number: float | None) -> str:
    return "" if not number else f"{number:.10g}"


def read(posted: QueryDict, decimal: Decimal) -> tuple[Change, ...]:
    """Read the posted rows into a change of the plan; a row without any number goes by what is usual. Raises LineError."""
    labels = []
    for product, name in CHOICES["product"].items():
        given = {column: posted.get(f"{product}/{column}", "").strip() for column in COLUMNS}
        if any(given.values()):
            values = {column: _amount(text, column, name, decimal) for column, text in given.items() if text}
            labels.append({"product": product} | values)
    return (Change("feeding.labels", labels),)


def _amount(text: str, column: str, name: str, decimal: Decimal) -> float:
    """A content in the column's own unit."""
    factors = COLUMNS[column]
    found = _UNIT.match(text)
    number, factor = text, 1.0
    if found:
        unit = re.sub(r"[\s.]", "", found[2].lower()).replace("per", "/")
        if unit not in factors:
            said = {"name": name, "text": text, "units": ", ".join(factors)}
            raise LineError(gettext("%(name)s: “%(text)s” is in a unit that does not fit here; these do: %(units)s") % said)
        number, factor = found[1], factors[unit]
    try:
        return typed.amount(number, "", decimal) * factor
    except NumberError as error:
        raise LineError(gettext("%(name)s: %(why)s") % {"name": name, "why": wording.unread(error, text)}) from None
