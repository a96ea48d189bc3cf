"""The plan's inputs: one field per path of the document, typed in the keeper's units, checked by the document itself.

A form library would repeat every limit of the document; here the document's own validation answers, and its faults find
their way back to the field by path (docs/decisions/0004).
"""

from dataclasses import dataclass
from datetime import date, time
from typing import Any

from husbandry import numerals
from husbandry.assessment import Change
from husbandry.numerals import NumberError
from husbandry.plan.editing import apply, follow, refit
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.reading import PlanProblems, Problem, read_data
from husbandry.species.book import shipped
from ridgeback.language.booktext import book
from ridgeback.language.names import CHOICES
from ridgeback.planner.inputs import Field, groups
from ridgeback.units import KeeperUnits
from ridgeback.web import typed


@dataclass(frozen=True)
class ShownField:
    """A field as the template draws it."""

    field: Field
    value: str
    symbol: str
    options: tuple[tuple[str, Any], ...] = ()
    checked: bool = False
    error: str = ""
    offers: tuple[tuple[str, str], ...] = ()
    asks: bool = False
    picture: str = ""
    aside: str = ""


def value_at(plan: HabitatPlan, path: str) -> Any:
    """Return the plan's value at a path; None where the way there is empty."""
    place: Any = plan
    for step in path.split("."):
        if place is None:
            return None
        if isinstance(place, dict):
            place = place.get(step)
        elif (at := numerals.place(step)) is not None:
            place = place[at] if at < len(place) else None
        else:
            place = getattr(place, step)
    return place


def show(plan: HabitatPlan, field: Field, units: KeeperUnits) -> ShownField:
    """Return the field with its present value in the keeper's units."""
    value = value_at(plan, field.path)
    if field.kind == "check":
        return ShownField(field, "1", "", checked=field.usual if value is None else bool(value))
    if field.kind == "choice":
        return ShownField(field, "" if value is None else str(value), "", options=options(field))
    if field.kind == "quantity" and field.unit not in ("", "1"):
        number, symbol = units.number((value or 0.0) / field.scale, field.unit, typed=True)
        return ShownField(field, "" if value is None else number, symbol)
    if field.kind == "hours":
        numbers = [units.number(one, field.unit, typed=True) for one in value or ()]
        return ShownField(field, " ".join(number for number, _symbol in numbers), units.number(0.0, field.unit)[1])
    if isinstance(value, time):
        return ShownField(field, value.strftime("%H:%M"), "")
    if isinstance(value, date):
        return ShownField(field, value.isoformat(), "")
    return ShownField(field, "" if value is None else f"{value:g}" if isinstance(value, float) else str(value), "")


def options(field: Field) -> tuple[tuple[str, Any], ...]:
    if field.choices == "species":
        return tuple((profile.id, book(profile.common)) for profile in shipped().values())
    return tuple(CHOICES[field.choices].items())


@dataclass(frozen=True)
class Rejected:
    """What was typed into one field and why it was not taken; `offers` are texts that would be taken.

    One that only `asks` is taken as it is once the keeper says that it is so.
    """

    text: str
    problem: Problem
    offers: tuple[str, ...] = ()
    asks: bool = False


def bind(plan: HabitatPlan, step: str, posted: dict[str, str], units: KeeperUnits) -> tuple[HabitatPlan, dict[str, Rejected]]:
    """Apply what was posted for a step. Good fields are taken, bad ones returned by path; the plan stays valid."""
    rejected: dict[str, Rejected] = {}
    changed: dict[str, Any] = {}
    for group in groups(plan, step):
        for field in group.fields:
            if field.path not in posted and not (field.kind == "check" and f"{field.path}:shown" in posted):
                continue
            text = posted.get(field.path, "").strip()
            if field.kind not in ("check", "choice") and text == show(plan, field, units).value:
                continue  # untouched: what is shown is rounded, the plan is not
            if field.kind == "check" and (text == "1") == show(plan, field, units).checked:
                continue  # what the document leaves to the usual stays unsaid
            try:
                changed[field.path] = _parsed(field, text, units)
            except NumberError as error:
                parameters = {**error.parameters, "found": text[:40]}
                meant = tuple(error.parameters[name] for name in ("first", "second", "either", "other") if name in error.parameters)
                rejected[field.path] = Rejected(text, Problem(field.path, error.code, parameters), meant)
    try:
        return read_data(_with(plan, changed)), rejected
    except PlanProblems as problems:
        for problem in problems.problems:
            path = problem.path if problem.path in changed else next((p for p in changed if problem.path.startswith(p)), "")
            path = path or next(iter(changed), problem.path)
            if path in rejected and problem.path != path:
                continue  # what is wrong with the field itself is told before what it does to others
            rejected[path] = Rejected(posted.get(path, ""), problem, _offers(problem))
    # What is right on its own is kept; the rest waits in its field.
    kept: dict[str, Any] = {}
    for path, value in changed.items():
        try:
            read_data(_with(plan, kept | {path: value}))
        except PlanProblems:
            continue
        if path not in rejected:
            kept[path] = value
    return read_data(_with(plan, kept)), rejected


def _with(plan: HabitatPlan, changed: dict[str, Any]) -> dict[str, Any]:
    before = plan.model_dump(mode="json")
    document = before
    for path, value in changed.items():
        document = _changed(document, path, value, plan)
    resized = any(path.startswith("enclosure.") for path in changed)
    basking = "" if plan.platform is None else plan.path_of(plan.platform)
    if any(path in {f"{basking}.{name}" for name in ("x_m", "y_m", "height_m", "up_m")} for path in changed):
        document = follow(before, document)
    return refit(before, document) if resized else document


def _changed(document: dict[str, Any], path: str, value: Any, plan: HabitatPlan) -> dict[str, Any]:
    changes = [Change(path, value)]
    if path.endswith("thermostat.kind") and value != "none" and value_at(plan, path.replace(".kind", ".set_c")) is None:
        changes.insert(0, Change(path.replace(".kind", ".set_c"), 30.0))
    changed = apply(document, tuple(changes))
    if path == "schools.uvb" and not value:
        changed["schools"].pop("uvb", None)
    return changed


def _parsed(field: Field, text: str, units: KeeperUnits) -> Any:
    if field.kind == "check":
        return text == "1"
    if field.kind == "hours":
        return [round(units.read(one, field.unit), 3) for one in typed.several(text)]
    if not text and field.empty:
        return None
    if field.kind == "quantity":
        return round(units.read(text, field.unit or "1") * field.scale, 6)
    if field.kind == "whole":
        return numerals.whole(text, units.decimal)
    if field.kind == "date":
        return typed.day(text).isoformat()
    if field.kind == "time":
        return typed.clock_time(text).strftime("%H:%M")
    return text


def _offers(problem: Problem) -> tuple[str, ...]:
    """The text that says the likely meaning outright: "90 °F"."""
    return () if problem.typed is None else (f"{numerals.plain(problem.typed[0])} {problem.typed[1]}",)
