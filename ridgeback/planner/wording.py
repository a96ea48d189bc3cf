"""Words for the core's codes: names, reasons, findings, remedies, problems. The only place that says them.

Sentences are translatable; `%(name)s` takes a parameter of the code, measures already in the keeper's units.
"""

from datetime import date
from typing import Any

from django.utils import formats
from django.utils.translation import gettext
from django.utils.translation import gettext_lazy as _

from husbandry.assessment import Basis, BasisKind, Finding, Measure, Parameter, Parameters, Quantity, Reason, Remedy
from husbandry.numerals import NumberError
from husbandry.plan.reading import Problem
from ridgeback.planner.advice import FINDINGS, REMEDIES
from ridgeback.planner.foodwords import INTAKE, LIMITS, prey
from ridgeback.planner.reasons import REASONS
from ridgeback.units import SYMBOLS, KeeperUnits

STEPS = {
    "animal": _("Animal"),
    "room": _("Room"),
    "enclosure": _("Enclosure"),
    "heat": _("Heat"),
    "light": _("Light"),
    "moisture": _("Moisture"),
    "food": _("Food"),
}
SEASONS = {"summer": _("summer"), "winter": _("winter")}
PARTS = {
    "hide": _("hide"),
    "bowl": _("water bowl"),
    "pool": _("water's surface"),
    "ground": _("ground"),
    "probe": _("probe"),
    "vent": _("vent"),
}
PIECES = {"hide": _("hide"), "bowl": _("water bowl"), "platform": _("basking place")}
LENGTH_MEASURES = {
    "snout-vent": _("Length, snout to vent"),
    "total": _("Length, nose to tail's tip"),
    "shell": _("Length of the shell, straight"),
}
MEASURED = {"snout-vent": _("snout to vent"), "total": _("nose to tail's tip"), "shell": _("along the shell")}
MOMENTS = {"day": _("day"), "night": _("night")}
VERDICTS = {
    "inside": _("inside"),
    "near": _("close"),
    "outside": _("outside"),
    "dangerous": _("danger"),
    "unknown": _("unknown"),
    "not applicable": "",
}
NAMES = {
    "enclosure_length": _("Floor length"),
    "enclosure_width": _("Floor width"),
    "enclosure_height": _("Inner height"),
    "enclosure_stretch": _("Length and width"),
    "floor_area": _("Floor area"),
    "water_volume": _("Water"),
    "water_depth": _("Water depth"),
    "water_temperature": _("Water temperature"),
    "volume": _("Volume"),
    "ground_depth": _("Ground depth"),
    "basking_surface": _("Basking surface"),
    "warm_air": _("Warm-end air"),
    "cool_air": _("Cool-end air"),
    "hottest_air": _("Hottest air"),
    "warm_humidity": _("Humidity, warm end"),
    "cool_humidity": _("Humidity, cool end"),
    "humid_hide": _("Humid hide"),
    "heat_power": _("Heating power"),
    "basking_after": _("From lights on to basking"),
    "basking_held": _("Light hours in the basking band"),
    "surface_peak": _("Hottest the surface gets"),
    "coolest_air": _("Coldest the cool end gets"),
    "warm_held": _("Day in band, warm end"),
    "cool_held": _("Day in band, cool end"),
    "humidity_held": _("Day in band, humidity"),
    "energy": _("Electricity a day"),
    "water_used": _("Water the air carries off"),
    "wet_panes": _("Hours with wet panes"),
    "ground_dries": _("Ground half dry after"),
    "mat_contact": _("On the mat, under the ground"),
    "back": _("Its back under the lamp"),
    "warm_patch": _("Warm patch"),
    "lamp_distance": _("Lamp to basking spot"),
    "uv_back": _("UV index at the back"),
    "uv_distance": _("Tube to the back"),
    "uv_shade": _("UV index, darkest place"),
    "uv_coverage": _("Length under UV"),
    "uv_dose": _("UV dose on the spot"),
    "uv_hours": _("Hours of UV"),
    "light_apart": _("Brightest place from the spot"),
    "light_hours": _("Hours of light"),
    "feed_interval": _("Days between feeds"),
    "mass": _("Weight for its age"),
    "energy_week": _("Food energy a week"),
    "calcium_ratio": _("Calcium to phosphorus, dust and all"),
    "d3_share": _("Vitamin D3 in the dry food"),
    "a_share": _("Vitamin A in the dry food"),
    "fibre_share": _("Fibre in the dry food"),
    "protein_share": _("Protein in the dry food"),
    "fruit_share": _("Fruit in the bowl"),
}
CHOICES: dict[str, dict[str, Any]] = {
    "sex": {"female": _("female"), "male": _("male"), "unknown": _("not known")},
    "enclosure": {
        "glass": _("glass tank"),
        "pvc": _("PVC, front vents"),
        "foamed-pvc": _("foamed PVC, front vents"),
        "plywood": _("plywood, front vents"),
        "polypropylene": _("plastic tub"),
        "mesh": _("all mesh"),
        "open-table": _("open table"),
    },
    "lid": {"solid": _("solid"), "mesh": _("mesh"), "open": _("open")},
    "ground": {
        "paper": _("paper"),
        "sand": _("sand"),
        "sandy-loam": _("sandy loam"),
        "soil": _("soil"),
        "coir": _("coir"),
        "bark": _("bark"),
        "aspen": _("aspen shavings"),
        "moss": _("moss"),
    },
    "platform": {"slate": _("slate"), "stone": _("stone"), "wood": _("wood"), "branch": _("branch")},
    "heater": {
        "reflector-flood": _("reflector flood"),
        "reflector-spot": _("reflector spot"),
        "halogen-flood": _("halogen flood"),
        "ceramic-emitter": _("ceramic emitter"),
        "infrared-projector": _("infrared projector, no light"),
        "radiant-panel": _("radiant panel"),
        "vapour-combined": _("vapour lamp, heat and UV"),
        "halide-combined": _("metal-halide lamp, heat and UV"),
        "mat": _("heat mat under the ground"),
        "cable": _("heat cable in the ground"),
        "wall-mat": _("heat mat on the wall"),
        "tube-heater": _("tube heater"),
        "water-heater": _("water heater"),
        "water-chiller": _("water chiller"),
    },
    "holder": {
        "": _("not known"),
        "plastic": _("plastic, up to 60 W"),
        "ceramic": _("ceramic, up to 150 W"),
        "fixed": _("built in"),
    },
    "light_bar": {"led-bar": _("LED bar"), "plant-led": _("plant LED"), "t5-white": _("white tube")},
    "thermostat": {"none": _("none"), "on-off": _("on/off"), "pulse": _("pulse"), "dimming": _("dimming")},
    "probe": {
        "basking-surface": _("basking surface"),
        "warm-air": _("warm-end air"),
        "cool-air": _("cool-end air"),
        "warm-ground": _("ground, warm end"),
        "cool-ground": _("ground, cool end"),
        "mat": _("on the mat, under the ground"),
        "humid-hide": _("inside the humid hide"),
        "water": _("water"),
    },
    "tube": {
        "slim-6": _("slim high-output tube, 6 %"),
        "slim-10": _("slim high-output tube, 10 %"),
        "slim-12": _("slim high-output tube, 12 %"),
        "slim-14": _("slim high-output tube, 14 %"),
        "wide-5": _("older wide tube, 5 %"),
        "wide-10": _("older wide tube, 10 %"),
        "compact-5": _("compact lamp, 5 %"),
        "compact-10": _("compact lamp, 10 %"),
    },
    "product": {
        "plain calcium": _("plain calcium"),
        "calcium with D3": _("calcium with D3"),
        "multivitamin": _("multivitamin"),
        "all-in-one": _("all-in-one"),
    },
    "condition": {
        "": _("not scored"),
        "1": _("1 wasted"),
        "2": _("2 thin"),
        "3": _("3 right"),
        "4": _("4 fat"),
        "5": _("5 obese"),
    },
    "state": {"usual": _("as usual"), "gravid": _("carries eggs or young"), "off-feed": _("breeding season, off its food")},
    "where": {
        "": _("anywhere"),
        "slate": _("on the basking slate"),
        "cool-end": _("at the cool end"),
        "cup": _("in a cup"),
        "scattered": _("scattered, to be hunted"),
        "own-box": _("in a box of its own"),
    },
    "rationed": {"counted": _("counted"), "by-time": _("what it eats in a quarter of an hour")},
    "decided": {"age": _("age"), "mass": _("weight"), "length": _("length"), "": ""},
}
BASES = {
    BasisKind.SOURCE: _("Source"),
    BasisKind.PRACTICE: _("Common practice, no source"),
    BasisKind.MEMORY: _("From memory"),
    BasisKind.ESTIMATE: _("Estimate, until you measure"),
    BasisKind.KEEPER: _("Your own"),
}
PROBLEMS = {
    "bad_json": _("This is no valid JSON (line %(line)s, column %(column)s)."),
    "not_an_object": _("A plan is a JSON object."),
    "too_large": _("More than %(limit)s kB: that is no plan."),
    "other_format": _("The format is %(found)s; this program reads %(known)s."),
    "too_deep": _("This is nested too deeply, or holds too many values: that is no plan."),
    "too_long_number": _("It holds a number with too many digits."),
    "no_text": _("It holds signs that are no text."),
    "not_finite": _("It holds a number that is none."),
    "zoned_time": _("A time of day stands without a time zone."),
    "missing": _("This is missing."),
    "unknown_field": _("A plan has no such field."),
    "too_high": _("%(value)s is too much; %(limit)s is the limit."),
    "too_low": _("%(value)s is too little; %(limit)s is the limit."),
    "unknown_choice": _("%(found)s is not one of %(known)s."),
    "too_many": _("%(found)s are too many; %(limit)s is the most."),
    "vent_above_lid": _("A vent lies above the lid at %(limit)s."),
    "not_a_number": _("“%(found)s” is not a number with a unit."),
    "two_meanings": _("“%(found)s” can mean %(first)s or %(second)s: which is meant?"),
    "not_a_date": _("“%(found)s” is not a date."),
    "weight_far_off": _("It weighed %(before)s on %(day)s, and now %(now)s: is that right?"),
    "date_two_ways": _("“%(found)s” can be read as %(either)s or as %(other)s: which is meant?"),
    "date_far_off": _("“%(found)s” lies too far from today for an animal."),
    "not_a_time": _("“%(found)s” is not a time of day."),
    "not_valid": _("%(why)s."),
    "unknown_species": _("The book has no species “%(species)s”. It has: %(known)s."),
    "outside_length": _("That is outside the enclosure, which is %(limit)s long."),
    "lamp_above_lid": _("That is above the lid; %(limit)s is the highest it can hang."),
    "lamp_in_ground": _("That is inside what the animal stands on, which reaches %(limit)s."),
    "pool_too_long": _("The water would reach past the walls; %(limit)s is the length."),
    "pool_above_lid": _("The water would reach the lid at %(limit)s."),
    "platform_above_lid": _("That reaches the lid; %(limit)s is left above the ground."),
    "ground_above_lid": _("The ground would reach the lid at %(limit)s."),
    "bowl_too_wide": _("The bowl is wider than the floor, %(limit)s."),
    "unknown_unit": _("“%(unit)s” is not a unit Ridgeback knows."),
    "wrong_dimension": _("“%(unit)s” does not fit here."),
    "negative": _("“%(found)s” is below zero."),
    "not_a_whole_number": _("“%(found)s” is not a whole number."),
}
TOPICS = {
    "uvb": _("UVB"),
    "basking": _("Basking heat"),
    "humidity": _("Humidity"),
    "air": _("Air of the enclosure"),
    "ground": _("Ground"),
    "interval": _("Feeding interval"),
    "size": _("Size of the enclosure"),
    "growth": _("Growth"),
    "meal": _("Size of the meal"),
    "supplements": _("Supplements"),
}
SCHOOLS = {
    "uvb:sunbeam": _("sunbeam: strong where it basks, shade elsewhere"),
    "uvb:shade": _("shade: weak over a large part"),
    "uvb:sessions": _("sessions: once or twice a day for a short time"),
    "uvb:none": _("none, with vitamin D3 in the food"),
    "basking:slow": _("modest, for slow growth"),
    "basking:warm": _("warm"),
    "basking:hot": _("very hot stone"),
    "basking:mild": _("mild stone"),
    "humidity:cycle": _("daily cycle, dry by day and wet by night"),
    "humidity:steady": _("steady all day"),
    "humidity:usual": _("moist throughout life"),
    "humidity:dry": _("drier when grown"),
    "air:closed": _("closed and humid"),
    "air:open": _("open table, damp hide only"),
    "ground:deep": _("deep enough for a burrow"),
    "ground:older": _("shallow, as older advice has it"),
    "interval:weekly": _("often, small meals"),
    "interval:slow": _("seldom"),
    "growth:appetite": _("to appetite: fed at the shorter end of its interval"),
    "growth:lean": _("lean and slow: fed at the longer end, or the smaller meal"),
    "size:graduated": _("by stage, a larger one as it grows"),
    "size:adult": _("the adult's from the first day, with cover"),
    "meal:share": _("by share of body mass"),
    "meal:girth": _("by girth"),
    "supplements:separate": _("separate products in rotation"),
    "supplements:all-in-one": _("one all-in-one powder"),
}
CHOICES["uvb"] = {"": _("as the book has it")} | {name: SCHOOLS[f"uvb:{name}"] for name in ("sunbeam", "shade", "sessions", "none")}
PARAMETER_CHOICES = {"kind": ("heater", "tube", "ground"), "control": ("thermostat",), "suited": ("thermostat",)}


def part_names() -> dict[str, str]:
    """What can be dragged, by the kind or the part."""
    kinds = ("heater", "tube", "light_bar", "platform")
    named = {key: str(text) for group in kinds for key, text in CHOICES[group].items()}
    return named | {key: str(text) for key, text in PARTS.items()}


def text_of(name: str, value: Parameter, units: KeeperUnits) -> str:
    """Return a parameter as text in the keeper's words and units."""
    if isinstance(value, Measure):
        return units.say(value)
    if name == "leads":
        return str(CHOICES["decided"].get(str(value), value))
    if name == "day":
        return formats.date_format(date.fromisoformat(str(value)), "j F Y")
    if name in ("part", "other") and value in PIECES:
        return str(PIECES[str(value)])
    if name == "measure":
        return str(MEASURED.get(str(value), value))
    if name in ("season", "also_season"):
        return str(SEASONS.get(str(value), value))
    if name == "intake":
        return str(INTAKE[str(value)])
    if name == "by":
        return str(LIMITS.get(str(value), value))
    if name == "food":
        return prey(str(value))
    if name == "moment":
        return str(MOMENTS.get(str(value), ""))
    if name == "quantity":
        named = str(NAMES.get(str(value), value))
        return named[:1].lower() + named[1:] if not named.startswith("UV") else named
    for group in PARAMETER_CHOICES.get(name, ()):
        if value in CHOICES[group]:
            return str(CHOICES[group][str(value)])
    return str(value)


def _fill(sentence: Any, parameters: Parameters, units: KeeperUnits) -> str:
    return gettext(str(sentence)) % {name: text_of(name, value, units) for name, value in parameters.items()}


def reason(quantity: Quantity, units: KeeperUnits) -> str:
    """Why this number, in one or two sentences."""
    code, parameters = quantity.reason.code, quantity.reason.parameters
    if code == "space.rule" and "factor" in parameters:
        code = "space.rule.stretch" if parameters["rule"] == "stretch" else "space.rule.body"
    elif code == "uv.field":
        several, mesh = ".several" if parameters["lamps"] != 1 else "", "mesh" if parameters.get("mesh") else ""
        code = "uv.field.none" if not parameters["lamps"] else f"uv.field{several}{'_' if several else '.'}{mesh}".rstrip("_.")
    elif code == "uv.distance" and "right" not in parameters:
        code = "uv.distance.none"
    elif code in ("uv.distance", "heat.patch") and parameters["lamps"] != 1:
        code = f"{code}.several"
    elif code == "feed.interval" and parameters["by"] != "stage":
        code = f"feed.interval.{parameters['by']}"
    said = _fill(REASONS[code], parameters, units)
    if "alone" in parameters:
        said += " " + _fill(REASONS["space.rule.group"], parameters, units)
    if "recommended" in parameters:
        said += " " + _fill(REASONS["space.recommended"], parameters, units)
    if parameters.get("limit") and code.startswith("feed."):
        said += " " + gettext("Prey %(limit)s.") % {"limit": parameters["limit"]}
    if "most" in parameters and code.startswith("feed."):
        sentence = (
            _("Here %(most)s, as measured.") if parameters["measured"] else _("Here about %(most)s, by its length: measure it.")
        )
        said += " " + _fill(sentence, parameters, units)
    if "gravid" in parameters:
        said += " " + gettext("Moved one step, for she carries eggs or young.")
    if "condition" in parameters:
        said += " " + _fill(_("Moved one step for a condition of %(condition)s."), parameters, units)
    return said


def said(item: Reason, units: KeeperUnits) -> str:
    """A sentence of its own: what a scenario or a search found."""
    return _fill(REASONS[item.code], item.parameters, units)


def basis(item: Basis) -> str:
    """Where the number comes from."""
    said = str(BASES[item.kind])
    if item.citation:
        said += f": {item.citation}"
    return f"{said} ({item.note})" if item.note else said


def when(item: Quantity) -> str:
    """ "winter night" """
    parts = [str(SEASONS.get(item.season, "")), str(MOMENTS.get(item.moment, ""))]
    return " ".join(part for part in parts if part)


def finding(item: Finding, units: KeeperUnits) -> str:
    said = _fill(FINDINGS[item.code], item.parameters, units)
    if "also" in item.parameters:
        said += " " + _fill(_("In %(also_season)s it is %(also)s."), item.parameters, units)
    return said


def remedy(item: Remedy, units: KeeperUnits) -> str:
    return _fill(REMEDIES[item.code], item.parameters, units)


def unread(error: NumberError, text: str) -> str:
    """Why what was typed was not taken."""
    return str(PROBLEMS[error.code] % {**error.parameters, "found": text.strip()[:40]})


def problem(item: Problem, units: KeeperUnits) -> str:
    """What is wrong with a typed or imported value, and the likely meaning."""
    if item.code == "bad_json" and "line" not in item.parameters:
        return gettext("This is no valid JSON.")
    said = _fill(PROBLEMS[item.code], item.parameters, units)
    if item.likely is not None and item.typed is not None:
        number, unit = item.typed
        meaning = units.say(item.likely)
        typed = f"{number:g} {SYMBOLS[unit]}"
        said += " " + (
            gettext("Was %(typed)s meant?") % {"typed": typed}
            if typed == meaning
            else gettext("%(typed)s would be %(meaning)s: was that meant?") % {"typed": typed, "meaning": meaning}
        )
    return said


def topic(code: str) -> str:
    """A topic keepers disagree on; a keeper's own by its own name."""
    return str(TOPICS.get(code, code))


def school(of_topic: str, code: str) -> str:
    """A school of a topic, in words."""
    return str(SCHOOLS.get(f"{of_topic}:{code}", code))


def name(quantity: Quantity) -> str:
    if quantity.key.startswith("ration_"):
        return gettext("One feed")
    if quantity.key.startswith("duty_"):
        return gettext("Work of the %(kind)s") % {"kind": CHOICES["heater"][str(quantity.reason.parameters["kind"])]}
    return str(NAMES[quantity.key])
