"""Words for the core's codes: names, reasons, findings, remedies, problems. The only place that says them.

Sentences are translatable; `%(name)s` takes a parameter of the code, measures already in the keeper's units.
"""

from datetime import date
from typing import Any, Final

from django.utils.translation import gettext, ngettext
from django.utils.translation import gettext_lazy as _

from husbandry.assessment import Basis, Finding, Measure, Parameter, Parameters, Quantity, Reason, Remedy
from husbandry.numerals import NumberError
from husbandry.plan.reading import Problem
from ridgeback.language import dates
from ridgeback.language.advice import FINDINGS, REMEDIES
from ridgeback.language.booktext import book
from ridgeback.language.foodwords import INTAKE, LIMITS, prey
from ridgeback.language.names import (
    AT_PLACE,
    BASES,
    CHOICES,
    MEASURED,
    NAMES,
    PARTS,
    PHASES,
    PIECES,
    PROBLEMS,
    SCHOOLS,
    SEASONS,
    TOPICS,
)
from ridgeback.language.reasons import REASONS
from ridgeback.units import SYMBOLS, KeeperUnits, written

HELD_AGAINST: Final = ("low", "high", "limit", "expected")  # what a value may be told beside
PARAMETER_CHOICES = {
    "kind": ("heater", "tube", "light_bar", "ground"),
    "stuff": ("stuff",),
    "plant": ("plant",),
    "control": ("thermostat",),
    "gap_at": ("gap",),
    "suited": ("thermostat",),
}


def part_names() -> dict[str, str]:
    """What can be dragged, by the kind or the part."""
    kinds = ("heater", "tube", "light_bar", "thing")
    named = {key: str(text) for group in kinds for key, text in CHOICES[group].items()}
    return named | {key: str(text) for key, text in PARTS.items()}


# Digits after the point; -2 is to the hundred.
DIGITS: Final = {
    "changes": 1,
    "lamps": 0,
    "to_air": 0,
    "to_walls": 0,
    "to_bed": 0,
    "short": 1,
    "cost": 2,
    "lux": -2,
    "count": 0,
    "grams": 0,
    "nitrogen": 0,
    "free": 1,
    "share": 0,
}


def plain(name: str, value: float) -> str:
    """A number without a unit, with the digits that a parameter of this name is read to; elsewhere as many as it needs."""
    return written(_with_digits(name, value))


def _with_digits(name: str, value: float) -> str:
    digits = DIGITS.get(name)
    return f"{value:g}" if digits is None else f"{round(value, digits):.{max(digits, 0)}f}"


def text_of(name: str, value: Parameter, units: KeeperUnits) -> str:
    """Return a parameter as text in the keeper's words and units."""
    if isinstance(value, Measure):
        return units.say(value)
    if isinstance(value, float):
        return units.marked(_with_digits(name, value))
    if name == "leads":
        return str(CHOICES["decided"].get(str(value), value))
    if name in ("day", "until_day"):
        return dates.shown(date.fromisoformat(str(value)), "j F Y")
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
    if name == "school":
        return str(SCHOOLS[str(value)])
    if name in ("phase", "also_phase"):
        return str(PHASES.get(str(value), ""))
    if name == "quantity":
        named = str(NAMES.get(str(value), value))
        return named[:1].lower() + named[1:] if not named.startswith("UV") else named
    for group in PARAMETER_CHOICES.get(name, ()):
        if value in CHOICES[group]:
            return str(CHOICES[group][str(value)])
    return book(value)


def _fill(sentence: Any, parameters: Parameters, units: KeeperUnits) -> str:
    told = {name: text_of(name, value, units) for name, value in parameters.items()}
    value = parameters.get("value")
    for name in HELD_AGAINST:
        limit = parameters.get(name)
        # Nobody is told that 23.0 is too little where 23.0 is the least.
        if isinstance(value, Measure) and isinstance(limit, Measure) and told["value"] == told[name]:
            told["value"], told[name] = units.apart(value, limit)
    return gettext(str(sentence)) % told


def reason(quantity: Quantity, units: KeeperUnits) -> str:
    """Why this number, in one or two sentences."""
    parameters = quantity.reason.parameters
    code: str = quantity.reason.code
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
    bags = parameters.get("bags")
    if isinstance(bags, int):
        said += " " + _fill(
            ngettext("That is %(bags)s bag of %(bag)s.", "That is %(bags)s bags of %(bag)s.", bags), parameters, units
        )
    if "alone" in parameters:
        said += " " + _fill(REASONS["space.rule.group"], parameters, units)
    if "recommended" in parameters:
        said += " " + _fill(REASONS["space.recommended"], parameters, units)
    if parameters.get("limit") and code.startswith("feed."):
        said += " " + gettext("Prey %(limit)s.") % {"limit": book(parameters["limit"])}
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
    parts = [text_of(name, item.parameters[name], units) for name in ("season", "phase") if item.parameters.get(name)]
    return _fill(REASONS[item.code], {**item.parameters, "when": ", " + " ".join(parts) if parts else ""}, units)


def basis(item: Basis) -> str:
    """Where the number comes from."""
    said = str(BASES[item.kind])
    if item.citation:
        said += f": {book(item.citation)}"
    return f"{said} ({book(item.note)})" if item.note else said


def when(item: Quantity) -> str:
    """ "winter night" """
    parts = [str(SEASONS.get(item.season, "")), str(PHASES.get(item.phase, ""))]
    return " ".join(part for part in parts if part)


def finding(item: Finding, units: KeeperUnits) -> str:
    said = _fill(FINDINGS[item.code], item.parameters, units)
    if "also" in item.parameters:
        timed = "also_phase" in item.parameters
        sentence = _("On a %(also_season)s %(also_phase)s it is %(also)s.") if timed else _("In %(also_season)s it is %(also)s.")
        said += " " + _fill(sentence, item.parameters, units)
    return said


def remedy(item: Remedy, units: KeeperUnits) -> str:
    return _fill(REMEDIES[item.code], item.parameters, units)


def unread(error: NumberError, text: str) -> str:
    """Why what was typed was not taken."""
    if not text.strip():
        return str(PROBLEMS["empty"])
    return str(PROBLEMS[error.code] % {**error.parameters, "found": text.strip()[:40]})


def problem(item: Problem, units: KeeperUnits) -> str:
    """What is wrong with a typed or imported value, and the likely meaning."""
    if item.code == "bad_json" and "line" not in item.parameters:
        return gettext("This is not valid JSON.")
    if item.parameters.get("found") == "" and item.code.startswith("not_"):
        return str(PROBLEMS["empty"])
    code, told = item.code, item.parameters
    if code == "too_low" and text_of("value", told["value"], units) == text_of("limit", told["limit"], units):
        code = "not_above"  # both are shown as the same number
    said = _fill(PROBLEMS[code], told, units)
    said = said[:1].upper() + said[1:]
    if item.likely is not None and item.typed is not None:
        number, unit = item.typed
        meaning = units.say(item.likely)
        typed = f"{written(number)} {SYMBOLS[unit]}"
        said += " " + (
            gettext("Was %(typed)s meant?") % {"typed": typed}
            if meaning.rpartition(" ")[2] == SYMBOLS[unit]
            else gettext("%(typed)s would be %(meaning)s: was that meant?") % {"typed": typed, "meaning": meaning}
        )
    return said


def topic(code: str) -> str:
    """A topic keepers disagree on; a keeper's own by its own name."""
    return str(TOPICS.get(code, code))


def school(of_topic: str, code: str) -> str:
    """A school of a topic, in words."""
    return str(SCHOOLS.get(f"{of_topic}:{code}", code))


def perch_name(quantity: Quantity) -> str:
    """What is read at a place an animal gets up to, and at which."""
    _place, number, kind = quantity.key.split("_")
    told = quantity.reason.parameters
    where = str(told["name"]) or str(PIECES[str(told["part"])])
    return gettext(str(AT_PLACE[kind])) % {"part": f"{where} ({number})"}


def name(quantity: Quantity) -> str:
    if quantity.key.startswith("ration_"):
        return gettext("One feed")
    if quantity.key.startswith("probe_"):
        return str(quantity.reason.parameters["name"]) or _("Probe %(n)s") % {"n": quantity.key.removeprefix("probe_")}
    if quantity.key.startswith("place_"):
        return perch_name(quantity)
    if quantity.key.startswith("duty_"):
        return gettext("Work of the %(kind)s") % {"kind": CHOICES["heater"][str(quantity.reason.parameters["kind"])]}
    return str(NAMES[quantity.key])
