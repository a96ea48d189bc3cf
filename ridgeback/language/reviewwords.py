"""Words of a review of what stands: what is asked, the answers, when something is done."""

from typing import Any, Final

from django.utils.translation import gettext
from django.utils.translation import gettext_lazy as _

from husbandry.assessment import Measure
from husbandry.setup_review.to_do import Urgency
from husbandry.setup_review.told import Told
from husbandry.setup_review.unknowns import Unknown, Value
from ridgeback.language.names import CHOICES
from ridgeback.units import KeeperUnits, written

ENDS: Final[dict[str, Any]] = {"warm": _("the warm end"), "middle": _("the middle"), "cool": _("the cool end")}
ASKS: Final[dict[str, Any]] = {
    "grown": _("Is the animal grown up? Weight or length says it better."),
    "lid": _("What is the lid: mesh, or closed?"),
    "room_c": _("How warm is the room by day?"),
    "room_percent": _("How humid is the room?"),
    "ground": _("What lies on the floor?"),
    "ground_m": _("How deep is the ground?"),
    "bowl": _("Is there a bowl of water?"),
    "mistings": _("How often a day is it misted?"),
    "watts": _("How many watts has the %(thing)s? It stands on it."),
    "mat_watts": _("How many watts has the %(thing)s? It stands on its lead."),
    "thermostat": _("Does a thermostat hold the %(thing)s?"),
    "guarded": _("Is there a guard around the %(thing)s?"),
    "tube": _("What kind is the UV lamp? It stands on its end."),
    "months": _("How old is the UV lamp?"),
    "reflector": _("Has the UV lamp a reflector?"),
    "humid": _("Is the hide at %(end)s kept damp inside?"),
    "dark": _("Is it dark inside the hide at %(end)s?"),
    "probe": _("Where is the probe of the thermostat that holds the %(thing)s?"),
    "thermometers": _("Is there a thermometer at the warm and at the cool end?"),
    "dusted": _("Is its food dusted with calcium or vitamins?"),
}
ABOUT: Final[dict[str, Any]] = {
    "grown": _("how far it is grown"),
    "lid": _("the lid"),
    "room_c": _("the room's warmth"),
    "room_percent": _("the room's humidity"),
    "ground": _("what lies on the floor"),
    "ground_m": _("how deep the ground is"),
    "bowl": _("whether there is water"),
    "mistings": _("how often it is misted"),
    "watts": _("the watts"),
    "mat_watts": _("the watts"),
    "thermostat": _("the thermostat"),
    "probe": _("the probe's place"),
    "guarded": _("the guard"),
    "tube": _("the UV lamp's kind"),
    "months": _("the UV lamp's age"),
    "reflector": _("the UV lamp's reflector"),
    "humid": _("whether the hide is damp"),
    "dark": _("whether the hide is dark"),
    "thermometers": _("whether there are thermometers"),
    "dusted": _("whether its food is dusted"),
}
# What the hand does tonight about a danger that is mended for good later, by what it is about.
UNTIL: Final[dict[str, Any]] = {
    "heat": _("Until then pull the plug of what is too hot, and keep the room itself warm."),
    "moisture": _("Until then pull the mains plug."),
    "": _("Until then take out what is dangerous, or the animal."),
}
WHENS: Final[dict[Urgency, Any]] = {
    Urgency.TONIGHT: _("Tonight, and free"),
    Urgency.WEEK: _("This week"),
    Urgency.LATER: _("Later"),
}
GROWN: Final[dict[str, Any]] = {"adult": _("grown up"), "half": _("half grown"), "young": _("a hatchling")}
PROBES: Final[dict[str, Any]] = {
    "spot": _("on the warm spot itself"),
    "air": _("in the air of the warm end"),
    "cool": _("at the cool end"),
}
READINGS: Final[dict[str, Any]] = {
    "basking_surface_c": _("on the basking place, by day"),
    "warm_air_c": _("air at the warm end, by day"),
    "cool_air_c": _("air at the cool end, by day"),
    "night_c": _("air at the cool end, by night"),
    "percent": _("humidity at the cool end, %"),
}
LIDS: Final[dict[str, Any]] = {"mesh": _("mesh"), "solid": _("closed"), "open": _("open")}


def asked(unknown: Unknown, told: Told) -> str:
    """A question in words."""
    group, _dot, rest = unknown.path.partition(".")
    index = int(rest.partition(".")[0]) if rest else 0
    about = {"thing": "", "end": ""}
    if group == "heaters":
        about["thing"] = str(CHOICES["heater"][told.heaters[index].kind])
    if group == "hides":
        about["end"] = str(ENDS[told.hides[index].end])
    return str(ASKS[unknown.asks]) % about


def unknown(one: Unknown, told: Told) -> str:
    """What is not known, in a few words."""
    group, _dot, rest = one.path.partition(".")
    name = str(ABOUT[one.asks])
    if group == "heaters":
        return gettext("%(what)s of the %(thing)s") % {"what": name, "thing": CHOICES["heater"][told.heaters[int(rest[0])].kind]}
    if group == "hides":
        return gettext("%(what)s at %(end)s") % {"what": name, "end": ENDS[told.hides[int(rest[0])].end]}
    return name


def answer(asks: str, value: Value, units: KeeperUnits) -> str:
    """An answer in words, in the keeper's units."""
    if isinstance(value, bool):
        return gettext("yes") if value else gettext("no")
    if isinstance(value, str):
        return str(
            {"grown": GROWN, "lid": LIDS, "probe": PROBES, "ground": CHOICES["ground"], "tube": CHOICES["tube"]}[asks][value]
        )
    if asks == "months":
        return gettext("about %(n)s months") % {"n": written(value)}
    if asks == "mistings":
        return gettext("%(n)s times") % {"n": written(value)} if value else gettext("never")
    return gettext("about %(value)s") % {
        "value": units.say(Measure(value, {"room_c": "degC", "room_percent": "%", "ground_m": "m"}.get(asks, "W")))
    }
