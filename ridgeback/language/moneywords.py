"""Words of money: what a bill's lines and a year's lines are called."""

from typing import Any, Final

from django.utils.translation import gettext
from django.utils.translation import gettext_lazy as _

from husbandry.assessment import Measure
from ridgeback.language import buildwords, wirewords
from ridgeback.language.names import CHOICES
from ridgeback.units import KeeperUnits, written

THINGS: Final[dict[str, Any]] = {
    "timer": _("timer for a socket"),
    "moss": _("damp moss for the humid hide"),
    "insulation-board": _("foam board for the walls, outside"),
}
AISLES: Final[dict[str, Any]] = {
    "enclosure": _("Enclosure and fixings"),
    "electrical": _("Electrical"),
    "lighting": _("Lamps and heaters"),
    "water": _("Water and mist"),
    "paint": _("Glue, foam, paint"),
    "ground": _("Ground"),
    "living": _("Plants and clean-up crew"),
    "furniture": _("Furniture"),
}
YEARLY: Final[dict[str, Any]] = {
    "energy": _("electricity"),
    "lamps": _("lamps, heaters and thermostats worn out"),
    "food": _("food and powders"),
    "ground": _("ground renewed"),
    "veterinarian": _("veterinarian"),
    "insurance": _("insurance"),
}
TICKS: Final[dict[str, Any]] = {"buy": _("to buy"), "have": _("is there"), "bought": _("bought")}


def thing_of(what: str) -> str:
    """What a line of a bill is called."""
    if what.startswith("enclosure-"):
        kind, _dash, sides = what.removeprefix("enclosure-").rpartition("-")
        told = {"kind": CHOICES["enclosure"].get(kind, kind), "sides": sides.replace("x", " × ")}
        return gettext("enclosure: %(kind)s, %(sides)s cm") % told
    if what.startswith("thermostat-"):
        return str(wirewords.CONTROLS.get(what.removeprefix("thermostat-"), what))
    if what.startswith("food:"):
        return what.removeprefix("food:")
    known = THINGS.get(what) or wirewords.KINDS.get(what)
    return str(known) if known else buildwords.thing_of(what)


def amount_of(amount: float, unit: str, units: KeeperUnits) -> str:
    """So much of a thing, in the keeper's units; whole pieces as they are."""
    if unit == "L" and amount < 1:
        return gettext("%(n)s ml") % {"n": round(1000 * amount)}
    if unit == "L":
        return units.say(Measure(amount / 1000, "m3"))
    if unit == "ml":
        return gettext("%(n)s ml") % {"n": round(amount)}
    if unit == "m":
        return gettext("%(n)s m") % {"n": written(amount, ".1f")}
    if unit:
        return units.say(Measure(amount, unit))
    return written(amount)


VARIANTS: Final[dict[str, Any]] = {
    "insulated": _("3 cm of foam board outside the walls"),
    "led": _("LED bars for its white tubes, as bright"),
    "halogen": _("a halogen flood for its reflector bulb, as warm"),
    "led-and-projector": _("LED for its bulb's light, an infrared projector for its warmth"),
    "panel": _("a radiant panel for its mat"),
}
