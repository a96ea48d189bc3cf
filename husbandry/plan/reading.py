"""Reading a plan from outside: every fault names its field and, where a unit slipped, the likely meaning."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, Final

from pydantic import ValidationError
from pydantic_core import ErrorDetails

from husbandry import documents
from husbandry.assessment import Measure, Parameters
from husbandry.documents import DocumentError
from husbandry.errors import HusbandryError
from husbandry.plan.habitat import FORMAT, HabitatPlan
from husbandry.plan.older import BEFORE, is_older, path_before, upgraded
from husbandry.plan.placement import check_places
from husbandry.species.book import UnknownSpeciesError, find
from husbandry.species.profile import OWN_PREFIX
from husbandry.units import convert

KNOWN_FORMATS: Final = (FORMAT, BEFORE)
LARGEST_BYTES: Final = 200_000
MOST_TOLD: Final = 60  # of the faults of one document
# What the end of a field's name says about its unit, and the unit whose numbers are written into it by mistake.
SLIPS: Final = {"_c": ("degC", "degF"), "_m": ("m", "cm"), "_kg": ("kg", "g")}


@dataclass(frozen=True)
class Problem:
    """One fault: the field as a path with dots, a code, what goes into the sentence, and the likely meaning if any.

    `likely` is that meaning in SI; `typed` is the same as number and unit, the way it could have been typed.
    """

    path: str
    code: str
    parameters: Parameters = field(default_factory=dict)
    likely: Measure | None = None
    typed: tuple[float, str] | None = None


# Kinds of the document's own errors, with words of their own.
OWN_KINDS: Final = ("parts_of_nothing", "part_twice", "unknown_thing", "unknown_plant", "wrong_base", "no_perch")
# Kinds of pydantic's errors where something of another shape stands.
SHAPES: Final = {
    **dict.fromkeys(("string_type", "string_unicode"), "not_a_text"),
    **dict.fromkeys(("bool_type", "bool_parsing"), "not_yes_or_no"),
    **dict.fromkeys(("tuple_type", "list_type", "iterable_type"), "not_several"),
    **dict.fromkeys(("model_type", "model_attributes_type", "dict_type", "mapping_type", "dataclass_type"), "not_a_part"),
}


class PlanProblems(HusbandryError, ValueError):
    """The document is no plan; `problems` holds every fault found."""

    def __init__(self, problems: list[Problem]) -> None:
        super().__init__("; ".join(f"{problem.path}: {problem.code}" for problem in problems))
        self.problems = tuple(problems)


def read_text(text: str | bytes) -> HabitatPlan:
    """Read a plan from JSON text. Raises PlanProblems."""
    if len(text) > LARGEST_BYTES:
        raise PlanProblems([Problem("", "too_large", {"limit": LARGEST_BYTES // 1000})])
    try:
        data = documents.read(text.decode("utf-8-sig") if isinstance(text, bytes) else text, "json", LARGEST_BYTES)
    except UnicodeDecodeError:
        raise PlanProblems([Problem("", "bad_json")]) from None
    except DocumentError as error:
        raise PlanProblems([_unread(error)]) from None
    return read_data(data)


def _unread(error: DocumentError) -> Problem:
    if error.code == "bad_json" and error.line:
        return Problem("", "bad_json", {"line": error.line, "column": int(error.parameters["column"])})
    return Problem("", error.code, dict(error.parameters))


def read_data(data: Any) -> HabitatPlan:
    """Read a plan from parsed JSON. Raises PlanProblems."""
    if not isinstance(data, dict):
        raise PlanProblems([Problem("", "not_an_object")])
    if data.get("format", FORMAT) not in KNOWN_FORMATS:
        raise PlanProblems([Problem("format", "other_format", {"found": str(data["format"])[:40], "known": FORMAT})])
    try:
        documents.check(data)
    except DocumentError as error:
        if error.code != "not_finite":  # the plan's own fields say which number it is
            raise PlanProblems([_unread(error)]) from None
    # A fault in a document of before is named by where it stands in that document.
    data, stood = upgraded(data, FORMAT) if is_older(data) else (data, {})
    try:
        plan = HabitatPlan.model_validate(data)
    except ValidationError as error:
        raise PlanProblems([problem_of(item, stood) for item in error.errors(include_url=False)[:MOST_TOLD]]) from None
    problems = []
    try:
        if not plan.species.startswith(OWN_PREFIX):  # a keeper's own profile is looked for where it is kept
            find(plan.species)
    except UnknownSpeciesError as unknown:
        problems.append(Problem("species", "unknown_species", {"species": plan.species, "known": ", ".join(unknown.known)}))
    for wrong in check_places(plan):
        problems.append(Problem(path_before(wrong.path, stood), wrong.code, {"limit": Measure(wrong.limit_m, "m")}))
    if problems:
        raise PlanProblems(problems)
    return plan


def problem_of(error: ErrorDetails, stood: Mapping[str, str] | None = None) -> Problem:
    """Turn one of pydantic's errors into a problem; `stood` says where a path was in the document that was read."""
    path = path_before(".".join(str(part) for part in error["loc"]), dict(stood or {}))
    kind, context = error["type"], error.get("ctx", {})
    if kind == "missing":
        return Problem(path, "missing")
    if kind == "extra_forbidden":
        return Problem(path, "unknown_field")
    if kind in ("less_than_equal", "less_than", "greater_than_equal", "greater_than") and isinstance(error["input"], int | float):
        limit = next(value for value in context.values() if isinstance(value, int | float))
        code = "too_high" if kind.startswith("less") else "too_low"
        if kind == "greater_than" and error["input"] <= limit:
            return Problem(path, "not_above", {"limit": _measured(path, float(limit))})
        return _out_of_range(path, code, float(error["input"]), float(limit))
    if kind in OWN_KINDS:
        return Problem(path, kind, {name: value for name, value in context.items() if isinstance(value, str)})
    if kind in ("date_far_off", "zoned_time"):
        return Problem(path, kind, {"found": str(error["input"])[:40]})
    if kind == "too_short":
        return Problem(path, "too_few", {"limit": int(context["min_length"]), "found": int(context.get("actual_length") or 0)})
    if kind == "string_too_short":
        return Problem(path, "empty")
    if kind == "string_too_long":
        return Problem(path, "long_text", {"limit": int(context["max_length"])})
    if kind in SHAPES:
        return Problem(path, SHAPES[kind])
    if kind == "too_long":
        return Problem(path, "too_many", {"limit": int(context["max_length"]), "found": int(context.get("actual_length") or 0)})
    if kind in ("literal_error", "enum"):
        return Problem(path, "unknown_choice", {"found": str(error["input"])[:40], "known": str(context.get("expected", ""))})
    if kind in ("float_type", "float_parsing", "int_type", "int_parsing", "finite_number", "int_from_float"):
        return Problem(path, "not_a_number", {"found": str(error["input"])[:40]})
    if kind.startswith(("date", "time")):
        return Problem(path, "not_a_date" if kind.startswith("date") else "not_a_time", {"found": str(error["input"])[:40]})
    return Problem(path, "not_valid", {"why": error["msg"].removeprefix("Value error, ")})


def _measured(path: str, value: float) -> Measure | float:
    """A number of a field with its unit, plain where it has none."""
    suffix = next((end for end in SLIPS if path.endswith(end)), "")
    return Measure(value, SLIPS[suffix][0]) if suffix else value


def _out_of_range(path: str, code: str, value: float, limit: float) -> Problem:
    suffix = next((end for end in SLIPS if path.endswith(end)), "")
    if not suffix:
        return Problem(path, code, {"value": value, "limit": limit})
    unit, smaller = SLIPS[suffix]
    parameters = {"value": Measure(value, unit), "limit": Measure(limit, unit)}
    if code == "too_high":
        meaning = convert(value, smaller, unit)
        plausible, typed = meaning <= limit, (value, smaller)
    else:
        meaning = convert(value, unit, smaller)
        plausible, typed = meaning >= limit, (round(meaning, 4), unit)
    if not plausible or (suffix == "_c" and not 0 <= meaning <= 60):
        return Problem(path, code, parameters)
    return Problem(path, code, parameters, Measure(meaning, unit), typed)
