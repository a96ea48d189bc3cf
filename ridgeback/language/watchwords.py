"""What a watch tells in words: what was seen, what it may mean, what to measure or do first. Never a diagnosis."""

from dataclasses import dataclass
from typing import Any, Final

from django.utils.translation import gettext_lazy as _

from husbandry.assessment import Measure
from husbandry.codes import WatchCode
from husbandry.watch.rules import Alarm
from ridgeback.language import entrywords
from ridgeback.units import KeeperUnits


@dataclass(frozen=True)
class Told:
    """What is told of an alarm, and what to do first."""

    said: Any
    first: Any


WORDS: Final[dict[WatchCode, Told]] = {
    WatchCode.WEIGHT_LOST: Told(
        _("It has lost %(lost)s against its own line: %(now)s now, %(usual)s usually."),
        _("Read the basking surface and the night's low; then a reptile veterinarian."),
    ),
    WatchCode.WEIGHT_AGAIN: Told(
        _("One weighing is %(lost)s below its own line: %(now)s, %(usual)s usually."),
        _("Weigh it again within a week, at the same time of day and before a meal."),
    ),
    WatchCode.REST_LOSS: Told(
        _("Its rest has cost %(lost)s; at %(limit)s a rest is broken off."),
        _("Wake it slowly, offer water, and ask a reptile veterinarian."),
    ),
    WatchCode.REFUSED_LONG: Told(
        _("It has not eaten for %(days)s days; up to %(normal)s are normal for it now."),
        _("Weigh it; read the warm end and the night's low; then a reptile veterinarian."),
    ),
    WatchCode.BROUGHT_UP_TWICE: Told(
        _("It brought up %(times)s meals within %(within)s days."),
        _("Offer nothing more, read the warm end, and ask a reptile veterinarian."),
    ),
    WatchCode.SHED_OVERDUE: Told(
        _("Its last shed is %(days)s days ago; usually there are %(usual)s between two."),
        _("Look at its growth and its meals: one that eats little grows little and sheds seldom."),
    ),
    WatchCode.SHED_STUCK_TWICE: Told(
        _("Skin stayed on in %(times)s of its last three sheds."),
        _("Read the humidity inside the humid hide: does it hold through the night?"),
    ),
    WatchCode.DROPPINGS_MISSING: Told(
        _("No droppings for %(days)s days, though it ate; usually there are %(usual)s between two."),
        _("Read the warm end and soak it; where it strains or swells, a reptile veterinarian the same day."),
    ),
    WatchCode.DISH_EMPTIED: Told(
        _("The calcium dish was emptied again and again within %(days)s days."),
        _("Measure the UV index at its back and look at the week's calcium in its menu."),
    ),
    WatchCode.BASKS_ALL_DAY: Told(
        _("Seen basking all day %(times)s times within %(days)s days."),
        _("Read the basking surface: is the spot too weak, or does its body never get warm?"),
    ),
    WatchCode.NEVER_BASKS: Told(
        _("Never seen basking %(times)s times within %(days)s days."),
        _("Read the cool end by night and by day: is all of it too warm, or does the light sting?"),
    ),
    WatchCode.ALWAYS_COOL: Told(
        _("Seen at the cool end only %(times)s times within %(days)s days."),
        _("Read the air at the warm end, and the UV index at the basking place."),
    ),
    WatchCode.SHUTS_EYES: Told(
        _("It shut its eyes under the lamp %(times)s times within %(days)s days."),
        _("Measure the UV index at its back before anything else; then a reptile veterinarian for the eyes."),
    ),
    WatchCode.SIGN_OPEN: Told(
        _("A health sign that nobody has answered yet: %(sign)s."),
        _("Ask a reptile veterinarian and write down what was said."),
    ),
    WatchCode.COURSE_ENDED: Told(_("A course has ended: %(what)s."), _("Does the veterinarian want to see it again? Weigh it.")),
    WatchCode.GRAVID_LONG: Told(
        _("Gravid for %(days)s days without a clutch."),
        _("A reptile veterinarian: eggs that stay inside kill. Offer a deep, warm, moist laying site meanwhile."),
    ),
    WatchCode.CLUTCH_OVERDUE: Told(
        _("A clutch is %(days)s days past its window and nothing hatched."),
        _("Candle the eggs and read the incubator with a second thermometer. Do not open them."),
    ),
    WatchCode.RESULT_WAITING: Told(
        _("The result of a sample is out since %(days)s days: %(what)s."), _("Ask the laboratory, and write it down.")
    ),
}


def told(alarm: Alarm, units: KeeperUnits) -> tuple[str, str]:
    """What an alarm says and what to do first, in the keeper's units."""
    said: dict[str, str] = {}
    for name, value in alarm.parameters.items():
        if isinstance(value, Measure):
            said[name] = units.say(value)
        elif isinstance(value, float):
            said[name] = f"{value:g}"
        else:
            said[name] = entrywords.choice("animal.sign", "what", value) if name == "sign" else str(value)
    words = WORDS[alarm.code]
    return str(words.said) % said, str(words.first)
