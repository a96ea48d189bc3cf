"""Words of a room's electricity: what is plugged in, what is wrong with it and with its leads."""

from typing import Any, Final

from django.utils.translation import gettext
from django.utils.translation import gettext_lazy as _

from husbandry.wiring.cables import Hole, Lead, LeadTrouble
from husbandry.wiring.consumers import Consumer
from husbandry.wiring.loads import Trouble, WiringFault
from ridgeback.language.names import CHOICES
from ridgeback.units import written

KINDS: Final[dict[str, Any]] = {
    "hide-heater": _("heater of a hide"),
    "filter": _("filter"),
    "fan": _("fan"),
    "mister": _("misting pump"),
    "fogger": _("fogger"),
}
CONTROLS: Final[dict[str, Any]] = {
    "on-off": _("on/off thermostat"),
    "pulse": _("pulse thermostat"),
    "dimming": _("dimming thermostat"),
    "none": _("no thermostat"),
}
TROUBLES: Final[dict[Trouble, Any]] = {
    Trouble.STRIP_OVER: _(
        "“%(name)s” carries %(limit)s A, and %(amount)s A hang on it. It can burn: take something off before you switch on."
    ),
    Trouble.STRIP_HIGH: _(
        "%(amount)s A stay on for hours on “%(name)s”: keep to four fifths of what its plate says, which is %(limit)s A."
    ),
    Trouble.CIRCUIT_OVER: _(
        "The breaker of “%(name)s” has %(limit)s A, and %(amount)s A hang on it: it will go off, and all goes dark."
    ),
    Trouble.CIRCUIT_HIGH: _(
        "%(amount)s A stay on for hours on the circuit “%(name)s”: keep to four fifths of its breaker, which is %(limit)s A."
    ),
    Trouble.INRUSH: _(
        "All at once, as after a power cut, the lamps on “%(name)s” draw about %(amount)s A for a moment: "
        "its breaker may go off from "
        "%(limit)s A. Let timers switch on some minutes apart, or take a second circuit."
    ),
    Trouble.SOCKETS: _("“%(name)s” has %(limit)s sockets and %(amount)s plugs. Never plug one strip into another."),
    Trouble.NO_RESIDUAL: _(
        "Water and wet hands are near “%(name)s”, and no device of 30 mA or less is known to guard it. Have "
        "a licensed electrician look, "
        "and fit one where it is missing."
    ),
    Trouble.THERMOSTAT_OVER: _(
        "%(what)s of %(habitat)s takes %(amount)s W; its thermostat carries %(limit)s W. Read its plate: "
        "above it, it melts or sticks on."
    ),
    Trouble.THERMOSTAT_UNSUITED: _("%(what)s of %(habitat)s does not go with that kind of thermostat; what suits it: %(suits)s."),
    Trouble.UNCONTROLLED: _("%(what)s of %(habitat)s has no thermostat. What suits it: %(suits)s. Do not run it without."),
    Trouble.UNPLUGGED: _("%(what)s of %(habitat)s is on no strip yet."),
    Trouble.ONE_STRIP: _(
        "All %(amount)s heaters of %(habitat)s hang on “%(name)s”: if it fails, it is cold. Put one on another strip."
    ),
}
LEADS: Final[dict[LeadTrouble, Any]] = {
    LeadTrouble.HOT: _("crosses the heat of %(hot)s: lead it another way or hang one of them elsewhere"),
    LeadTrouble.IN_BEAM: _(
        "the probe lies in the beam of %(hot)s: only a probe made for that heat, fixed so that no animal "
        "pulls it off; one that slips "
        "off lets the lamp burn on"
    ),
    LeadTrouble.LONG: _("longer than the lead it comes with: hang the strip nearer rather than lay an extension"),
    LeadTrouble.SPLASH: _("the strip is within reach of drops: hang it farther away"),
    LeadTrouble.BELOW: _("the strip is beside and below water: what runs over runs into it; hang it higher and farther away"),
    LeadTrouble.ON_FLOOR: _("the strip lies on the floor, where water goes: hang it on the wall"),
}
WALLS: Final[dict[str, Any]] = {"back": _("back wall"), "left": _("left wall"), "right": _("right wall")}


def kind_of(one: Consumer) -> str:
    """What something plugged in is called."""
    known = KINDS.get(one.kind)
    for group in ("heater", "tube", "light_bar"):
        known = known or CHOICES[group].get(one.kind)
    return str(known or one.kind)


def said_of(fault: WiringFault, habitat: str) -> str:
    """A trouble in one or two sentences."""
    digits = 0 if fault.what in {Trouble.SOCKETS, Trouble.ONE_STRIP, Trouble.THERMOSTAT_OVER, Trouble.INRUSH} else 1
    what = kind_of(fault.consumer) if fault.consumer is not None else ""
    told = {
        "name": fault.name,
        "habitat": habitat,
        "what": gettext("The %(kind)s") % {"kind": what},
        "amount": f"{fault.amount:.{digits}f}",
        "limit": written(fault.limit),
        "suits": CONTROLS.get(fault.name, fault.name),
    }
    return str(TROUBLES[fault.what]) % told


def hole_of(hole: Hole | None, along: str, height: str) -> str:
    """Where a lead leaves, in words."""
    if hole is None:
        return gettext("needs none: it is outside")
    if not hole.drilled:
        return gettext("over the rim or through the lid's corner, %(along)s along the %(wall)s") % {
            "along": along,
            "wall": WALLS[hole.wall],
        }
    return gettext("%(wall)s, %(along)s along, %(height)s up") % {"wall": WALLS[hole.wall], "along": along, "height": height}


def troubles_of(lead: Lead, names: dict[str, str]) -> list[str]:
    """What is wrong with a lead."""
    hot = ", ".join(names.get(key, key) for key in lead.hot)
    return [str(LEADS[trouble]) % {"hot": hot} for trouble in lead.troubles]
