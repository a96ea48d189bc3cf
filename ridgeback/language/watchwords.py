"""What a watch tells in words: what was seen, what it may mean, what to measure or do first. Never a diagnosis."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any, Final

from django.utils import timezone
from django.utils.translation import gettext
from django.utils.translation import gettext_lazy as _

from husbandry.assessment import Measure, Parameters
from husbandry.codes import WatchCode
from husbandry.watch.behaviour import Cause
from husbandry.watch.faults import Fault
from husbandry.watch.rules import Alarm
from ridgeback.language import dates, entrywords, names
from ridgeback.language.placewords import PLACE_NAMES
from ridgeback.units import KeeperUnits, written


@dataclass(frozen=True)
class ToldAlarm:
    """What is told of an alarm, and what to do first."""

    said: Any
    first: Any


WORDS: Final[dict[WatchCode, ToldAlarm]] = {
    WatchCode.WEIGHT_LOST: ToldAlarm(
        _("It has lost %(lost)s against its own line: %(now)s now, %(usual)s usually."),
        _("Read the basking surface and the night's low; then a reptile veterinarian."),
    ),
    WatchCode.WEIGHT_AGAIN: ToldAlarm(
        _("One weighing is %(lost)s below its own line: %(now)s, %(usual)s usually."),
        _("Weigh it again within a week, at the same time of day and before a meal."),
    ),
    WatchCode.REST_LOSS: ToldAlarm(
        _("Its rest has cost %(lost)s; at %(limit)s a rest is broken off."),
        _("Wake it slowly, offer water, and ask a reptile veterinarian."),
    ),
    WatchCode.REFUSED_LONG: ToldAlarm(
        _("It has not eaten for %(days)s days; up to %(normal)s are normal for it now."),
        _("Weigh it; read the warm end and the night's low; then a reptile veterinarian."),
    ),
    WatchCode.BROUGHT_UP_TWICE: ToldAlarm(
        _("It brought up %(times)s meals within %(within)s days."),
        _("Offer nothing more, read the warm end, and ask a reptile veterinarian."),
    ),
    WatchCode.SHED_OVERDUE: ToldAlarm(
        _("Its last shed is %(days)s days ago; usually there are %(usual)s between two."),
        _("Look at its growth and its meals: one that eats little grows little and sheds seldom."),
    ),
    WatchCode.SHED_STUCK_TWICE: ToldAlarm(
        _("Skin stayed on in %(times)s of its last three sheds."),
        _("Read the humidity inside the humid hide: does it hold through the night?"),
    ),
    WatchCode.DROPPINGS_MISSING: ToldAlarm(
        _("No droppings for %(days)s days, though it ate; usually there are %(usual)s between two."),
        _("Read the warm end and soak it; where it strains or swells, a reptile veterinarian the same day."),
    ),
    WatchCode.DISH_EMPTIED: ToldAlarm(
        _("The calcium dish was emptied again and again within %(days)s days."),
        _("Measure the UV index at its back and look at the week's calcium in its menu."),
    ),
    WatchCode.BASKS_ALL_DAY: ToldAlarm(
        _("Seen basking all day %(times)s times within %(days)s days."),
        _("Read the basking surface: is the spot too weak, or does its body never get warm?"),
    ),
    WatchCode.NEVER_BASKS: ToldAlarm(
        _("Never seen basking %(times)s times within %(days)s days."),
        _("Read the cool end by night and by day: is all of it too warm, or does the light sting?"),
    ),
    WatchCode.ALWAYS_COOL: ToldAlarm(
        _("Seen at the cool end only %(times)s times within %(days)s days."),
        _("Read the air at the warm end, and the UV index at the basking place."),
    ),
    WatchCode.SHUTS_EYES: ToldAlarm(
        _("It shut its eyes under the lamp %(times)s times within %(days)s days."),
        _("Measure the UV index at its back before anything else; then a reptile veterinarian for the eyes."),
    ),
    WatchCode.SIGN_OPEN: ToldAlarm(
        _("A health sign that nobody has answered yet: %(sign)s."),
        _("Ask a reptile veterinarian and write down what was said."),
    ),
    WatchCode.COURSE_ENDED: ToldAlarm(
        _("A course has ended: %(what)s."), _("Does the veterinarian want to see it again? Weigh it.")
    ),
    WatchCode.GRAVID_LONG: ToldAlarm(
        _("Gravid for %(days)s days without a clutch."),
        _("A reptile veterinarian: eggs that stay inside kill. Offer a deep, warm, moist laying site meanwhile."),
    ),
    WatchCode.CLUTCH_OVERDUE: ToldAlarm(
        _("A clutch is %(days)s days past its window and nothing hatched."),
        _("Candle the eggs and read the incubator with a second thermometer. Do not open them."),
    ),
    WatchCode.RESULT_WAITING: ToldAlarm(
        _("The result of a sample is out since %(days)s days: %(what)s."), _("Ask the laboratory, and write it down.")
    ),
    WatchCode.READING_OUT: ToldAlarm(
        _("%(place)s has stood %(side)s %(limit)s for an hour and more; at its farthest it was %(worst)s."),
        _("Read it with a second thermometer; then look at lamp, thermostat and vents."),
    ),
    WatchCode.READING_DANGER: ToldAlarm(
        _("%(place)s stands %(side)s %(limit)s, where the animal is in danger: %(worst)s."),
        _("Go there now. Too hot: switch the heat off and let air in. Too cold: warm the room. Then find the cause."),
    ),
    WatchCode.HIDE_DRY: ToldAlarm(
        _("The humid hide has dried out: %(worst)s, where %(limit)s is wanted."),
        _("Wet its moss, and read it again tomorrow at the same hour."),
    ),
    WatchCode.LOGGER_SILENT: ToldAlarm(
        _("%(place)s: nothing is heard any more; usually it reports every %(every)s."),
        _("Look at its battery, its plug and the network. Until it is back, read that place by hand."),
    ),
    WatchCode.MODEL_DRIFT: ToldAlarm(_("What is measured and what is planned drift apart. Likeliest: %(suspects)s."), ""),
    WatchCode.LAMP_OLD: ToldAlarm(
        _("The UV lamp (%(kind)s) is over its life of %(life)s."),
        _("Measure the UV index at the back and replace it: an old one still shines. Pull the plug and let it cool first."),
    ),
    WatchCode.LAMP_HOURS: ToldAlarm(
        _("The lamp (%(kind)s) has burnt for %(hours)s hours; its like lasts about %(life)s."),
        _("Have a spare at hand before it fails. Let a lamp cool, and pull its plug, before it is changed."),
    ),
}


# A cause in words, what speaks for it where a number does, and the one change to try.
CAUSES: Final[dict[Cause, tuple[Any, Any]]] = {
    Cause.SPOT_WEAK: (_("the basking spot is too weak"), _("Hang the lamp lower or take a stronger one, and measure again.")),
    Cause.SPOT_HOT: (_("the basking spot is too hot"), _("Hang the lamp higher or dim it.")),
    Cause.WARM_END_COLD: (_("the warm end is too cold"), _("Raise the thermostat of the warm end by two degrees.")),
    Cause.WARM_END_HOT: (_("the warm end is too hot"), _("Lower the thermostat of the warm end, or open a vent there.")),
    Cause.COOL_END_HOT: (_("the cool end is too warm"), _("Cool the room, or shade and vent that end.")),
    Cause.NIGHT_COLD: (_("the night is too cold"), _("Let a dark heater hold the night's low.")),
    Cause.NIGHT_WARM: (_("the night is too warm"), _("Let the heat fall by night: timer or thermostat.")),
    Cause.UV_STRONG: (_("the UV is too strong at its back"), _("Hang the tube higher, and offer shade.")),
    Cause.UV_WEAK: (
        _("the UV is too weak at its back"),
        _("Hang the tube lower, or replace it: an old one still shines."),
    ),
    Cause.AIR_DRY: (_("the air is too dry"), _("Dampen the ground at the cool end, or cover a part of the lid.")),
    Cause.AIR_WET: (_("the air is too damp"), _("Vent more, and let it dry between two mistings.")),
    Cause.HIDE_DRY: (_("the humid hide has dried out"), _("Wet its moss, and look at it every day.")),
    Cause.WATER_WARM: (_("the water is too warm"), _("Cool the water slowly.")),
    Cause.CALCIUM_SHORT: (_("its food has too little calcium"), _("Dust as the menu says, every time.")),
    Cause.TOO_SMALL: (_("the enclosure is too small"), _("Plan the next size: Space and years says when and which.")),
    Cause.GROUND_SHALLOW: (_("the ground is too shallow"), _("Make a part of it deeper, or set in a digging box.")),
    Cause.NO_COOL_HIDE: (_("no hide is cool enough for the night"), _("Set a hide at the cool end.")),
    Cause.NEW_HERE: (_("it has not been here for long"), _("Leave it in peace; it passes within weeks.")),
    Cause.HATCHLING: (_("it is a hatchling: hiding is normal at that age"), _("Weigh it each week, and wait.")),
    Cause.RESTING: (_("it rests: its season for that has come"), _("Weigh it every two weeks, and let it rest.")),
    Cause.BREEDING_FAST: (_("it fasts for the breeding season"), _("Weigh it every two weeks; offer food now and then.")),
    Cause.GRAVID: (_("it is gravid"), _("Offer a laying site, calcium and quiet.")),
    Cause.SHEDDING: (_("it is about to shed"), _("Keep the humid hide wet, and leave it alone.")),
    Cause.DRAUGHT: (_("there is a draught or a cold corner"), _("Read the air in that corner, and move the vent or the hide.")),
    Cause.GLARE: (_("the light glares there"), _("Shade that place with leaves or cork.")),
    Cause.MIRROR: (_("it sees itself or another animal in the glass"), _("Cover that glass from outside.")),
    Cause.MATE: (_("it looks for a mate"), _("Wait for the season to pass; cover the view of others.")),
    Cause.MITES: (_("mites plague it"), _("Look under scales and at the water for dark dots; then a reptile veterinarian.")),
    Cause.PREY: (_("the food is the wrong size, kind or temperature"), _("Offer the next smaller size, warmed, at its hour.")),
    Cause.ILL: (_("it is ill"), _("A reptile veterinarian tells. Weigh it first, and take a sample along.")),
}
EVIDENCE: Final[dict[str, Any]] = {
    "for": _("speaks for it"),
    "open": _("nothing known speaks for or against it"),
    "against": _("speaks against it"),
}


# What has failed, and what to look at first. Of which heater or which place stands in brackets.
FAULTS: Final[dict[Fault, tuple[Any, Any]]] = {
    Fault.LAMP_DARK: (_("a lamp does not burn"), _("Does it burn? Pull its plug, let it cool, and change it.")),
    Fault.HEATER_COLD: (
        _("a heater gives nothing: burnt out, unplugged, or its thermostat stuck off"),
        _("Feel, without touching it, whether it warms; look at its plug and at its thermostat's display."),
    ),
    Fault.STUCK_ON: (
        _("a thermostat is stuck on, or its probe has slipped"),
        _("Switch that heater off now if it is too hot. Then look where the probe lies, and try the thermostat by its own dial."),
    ),
    Fault.VENTS_SHUT: (_("the vents are blocked"), _("Look at the vents and the lid: dust, leaves, a towel, a background?")),
    Fault.STANDS_OPEN: (
        _("a door or the lid stands open, or there is a draught"),
        _("Look at doors and lid, and count the animals."),
    ),
    Fault.NO_WATER: (_("the misting or fogging is missing"), _("Look at the reservoir, the pump and the nozzles.")),
    Fault.INSTRUMENT: (_("an instrument reads wrong"), _("Read that place with a second one; look at its probe and its battery.")),
}


# What is past by now: the light has gone out, and nothing is judged until it comes on again.
PAST: Final[dict[WatchCode, ToldAlarm]] = {
    WatchCode.READING_OUT: ToldAlarm(
        _("%(place)s stood %(side)s %(limit)s for an hour and more, until %(until)s; at its farthest it was %(worst)s."),
        _("Look at lamp, thermostat and vents before that hour comes again, and read it with a second thermometer."),
    ),
    WatchCode.READING_DANGER: ToldAlarm(
        _("%(place)s stood %(side)s %(limit)s until %(until)s, where the animal is in danger: %(worst)s."),
        _("Find the cause before that hour comes again: look at lamp, thermostat and vents."),
    ),
}


def suspects(text: str) -> list[tuple[str, str, str]]:
    """What has failed, likeliest first: in words, its chance in percent, and what to look at first."""
    found = []
    for one in text.split(";"):
        fault, share, of = one.split(":")
        said, first = FAULTS[Fault(fault)]
        name = PLACE_NAMES.get(of) or _kind(of)
        said = f"{said} ({name})" if name else str(said)
        found.append((said, str(_("over 99")) if float(share) >= 99 else share, str(first)))
    return found


def told(alarm: Alarm, units: KeeperUnits) -> tuple[str, str]:
    """What an alarm says and what to do first, in the keeper's units."""
    return words(alarm.code, alarm.parameters, units)


def words(code: WatchCode, parameters: Parameters, units: KeeperUnits) -> tuple[str, str]:
    """The same by its code and parameters."""
    said: dict[str, str] = {}
    tells = PAST.get(code, WORDS[code]) if "until" in parameters else WORDS[code]
    first = tells.first
    for name, value in parameters.items():
        if isinstance(value, Measure):
            said[name] = units.say(value)
        elif isinstance(value, float):
            said[name] = written(value)
        elif name == "suspects":
            found = suspects(value)
            said[name] = "; ".join(
                gettext("%(what)s, %(share)s %%") % {"what": what, "share": share} for what, share, _first in found
            )
            first = found[0][2]
        else:
            said[name] = _word(name, value)
    return str(tells.said) % said, str(first)


def _kind(value: str) -> str:
    """A heater's or a lamp's kind in words."""
    return str(names.CHOICES["heater"].get(value) or names.CHOICES["tube"].get(value) or "")


def _word(name: str, value: str) -> str:
    """A parameter that is a code, in words."""
    if name == "sign":
        return entrywords.choice("animal.sign", "what", value)
    if name == "place":
        said = str(PLACE_NAMES.get(value, value))
        return said[:1].upper() + said[1:]
    if name == "until":
        return dates.shown(timezone.localtime(datetime.fromisoformat(value)), "j M, H:i")
    if name == "side":
        return str(_("over") if value == "over" else _("under"))
    return _kind(value) or value if name == "kind" else value
