"""The plan's inputs: one field per path of the document, typed in the keeper's units, checked by the document itself.

A form library would repeat every limit of the document; here the document's own validation answers, and its faults find
their way back to the field by path (docs/decisions/0004).
"""

from dataclasses import dataclass
from datetime import date, time
from typing import Any, Literal

from django.utils.translation import gettext_lazy as _

from husbandry.assessment import Change
from husbandry.plan.document import HabitatPlan
from husbandry.plan.edit import apply, refit
from husbandry.plan.reading import PlanProblems, Problem, read_data
from husbandry.quantities import UnitError, parse
from husbandry.species.book import shipped
from ridgeback.planner.wording import CHOICES
from ridgeback.units import KeeperUnits

Kind = Literal["quantity", "choice", "text", "date", "time", "check", "whole"]


@dataclass(frozen=True)
class Field:
    """One input. `unit` is SI and gives the dimension; `scale` turns the stored number into that unit."""

    path: str
    label: Any
    kind: Kind = "quantity"
    unit: str = ""
    choices: str = ""
    empty: bool = False
    scale: float = 1.0
    hint: Any = ""

    @property
    def html_id(self) -> str:
        return "f-" + self.path.replace(".", "-")


@dataclass(frozen=True)
class Shown:
    """A field as the template draws it."""

    field: Field
    value: str
    symbol: str
    options: tuple[tuple[str, Any], ...] = ()
    checked: bool = False
    error: str = ""
    offer: str = ""
    offer_words: str = ""


@dataclass(frozen=True)
class Group:
    """Fields that belong together; `part` names the list entry that can be taken away."""

    title: Any
    fields: tuple[Field, ...]
    part: str = ""


def _c(path: str, label: Any) -> Field:
    return Field(path, label, unit="degC")


def _m(path: str, label: Any) -> Field:
    return Field(path, label, unit="m")


ON_OFF = ((_("On at"), "on"), (_("Off at"), "off"))


def _clock(path: str) -> tuple[Field, ...]:
    return tuple(Field(f"{path}.{name}", label, "time") for label, name in ON_OFF)


def _season(name: str, title: Any) -> Group:
    path = f"room.{name}"
    return Group(
        title,
        (
            _c(f"{path}.day_c", _("By day")),
            _c(f"{path}.night_c", _("By night")),
            Field(f"{path}.humidity_percent", _("Humidity"), unit="%"),
        ),
    )


def groups(plan: HabitatPlan, step: str) -> tuple[Group, ...]:
    """Return the inputs of one step for this plan."""
    return GROUPS[step](plan)


def _animal(plan: HabitatPlan) -> tuple[Group, ...]:
    company = (
        Field("animal.males", _("Of them male"), "whole", empty=True, hint=_("not known")),
        Field("animal.young", _("Of them hatchlings"), "whole"),
        Field("animal.smallest_m", _("Length of the smallest"), unit="m", empty=True),
    )
    return (
        Group(
            "",
            (
                Field("species", _("Species"), "choice", choices="species"),
                Field("animal.name", _("Its name"), "text", empty=True),
                Field("animal.sex", _("Sex"), "choice", choices="sex"),
                Field("animal.hatched", _("Hatched"), "date", empty=True),
                Field("animal.hatched_is_estimate", _("The date is a guess"), "check"),
                Field("animal.mass_kg", _("Weight"), unit="kg", empty=True),
                Field("animal.length_m", _("Body length"), unit="m", empty=True),
                Field("animal.count", _("How many"), "whole"),
                *(company if plan.animal.count > 1 else ()),
            ),
        ),
    )


def _room(plan: HabitatPlan) -> tuple[Group, ...]:
    return (_season("summer", _("Room in summer")), _season("winter", _("Room in winter")))


def _enclosure(plan: HabitatPlan) -> tuple[Group, ...]:
    box = [
        Field("name", _("Name"), "text"),
        Field("enclosure.kind", _("Kind"), "choice", choices="enclosure"),
        _m("enclosure.length_m", _("Length")),
        _m("enclosure.width_m", _("Width")),
        _m("enclosure.height_m", _("Height")),
        Field("enclosure.lid", _("Lid"), "choice", choices="lid"),
    ]
    if plan.enclosure.lid == "mesh" or plan.enclosure.kind == "mesh":
        box.append(Field("enclosure.mesh_open_share", _("Mesh lets pass"), unit="%", scale=0.01))
    found = [Group("", tuple(box))]
    ground = (
        Field("ground.kind", _("Ground"), "choice", choices="ground"),
        _m("ground.depth_m", _("Depth")),
        Field("ground.damp", _("Kept damp below"), "check"),
    )
    found.append(Group(_("Ground"), ground))
    if plan.platform is not None:
        platform = (
            Field("platform.kind", _("Kind"), "choice", choices="platform"),
            _m("platform.x_m", _("From the left")),
            _m("platform.length_m", _("Length")),
            _m("platform.height_m", _("Top above ground")),
        )
        found.append(Group(_("Basking place"), platform, part="platform"))
    for index, hide in enumerate(plan.hides):
        path = f"hides.{index}"
        fields = (
            _m(f"{path}.x_m", _("From the left")),
            _m(f"{path}.length_m", _("Length")),
            _m(f"{path}.height_m", _("Height")),
            Field(f"{path}.humid", _("Damp moss inside"), "check"),
        )
        found.append(Group(_("Humid hide") if hide.humid else _("Hide"), fields, part=path))
    return tuple(found)


def _heat(plan: HabitatPlan) -> tuple[Group, ...]:
    found = []
    for index, heater in enumerate(plan.heaters):
        path = f"heaters.{index}"
        fields = [
            Field(f"{path}.kind", _("Kind"), "choice", choices="heater"),
            Field(f"{path}.watts", _("Power"), unit="W"),
            _m(f"{path}.x_m", _("From the left")),
            _m(f"{path}.height_m", _("Above the floor")),
            Field(f"{path}.thermostat.kind", _("Thermostat"), "choice", choices="thermostat"),
        ]
        if heater.thermostat.kind != "none":
            fields += [
                _c(f"{path}.thermostat.set_c", _("Set to")),
                Field(f"{path}.thermostat.probe", _("Probe at"), "choice", choices="probe"),
            ]
            if heater.thermostat.night_set_c is not None or heater.runs_at(plan.daylight.middle_of_dark):
                by_night = Field(f"{path}.thermostat.night_set_c", _("Set by night"), unit="degC", empty=True, hint=_("the same"))
                fields.insert(-1, by_night)
        fields += [*_clock(path), Field(f"{path}.guarded", _("Has a guard"), "check")]
        found.append(Group(CHOICES["heater"][heater.kind], tuple(fields), part=path))
    return tuple(found)


def _light(plan: HabitatPlan) -> tuple[Group, ...]:
    found = [
        Group(
            _("Day"),
            (
                Field("daylight.on", _("Lights on"), "time"),
                Field("daylight.off", _("Lights off"), "time"),
                Field("schools.uvb", _("UVB school"), "choice", choices="uvb", empty=True),
            ),
        )
    ]
    for index, _lamp in enumerate(plan.uv_lamps):
        path = f"uv_lamps.{index}"
        fields = (
            Field(f"{path}.kind", _("Kind"), "choice", choices="tube"),
            _m(f"{path}.tube_m", _("Lit length")),
            _m(f"{path}.x_m", _("Middle from the left")),
            _m(f"{path}.height_m", _("Above the floor")),
            Field(f"{path}.fitted", _("Fitted on"), "date", empty=True),
            *_clock(path),
            Field(f"{path}.reflector", _("Has a reflector"), "check"),
            Field(f"{path}.behind_glass", _("Behind glass or plastic"), "check"),
        )
        found.append(Group(_("UV lamp"), fields, part=path))
    return tuple(found)


def _moisture(plan: HabitatPlan) -> tuple[Group, ...]:
    fields = (
        Field("misting.grams_per_day", _("Misted water, g a day"), unit="1"),
        Field("ground.damp", _("Ground kept damp below"), "check"),
    )
    found = [Group("", fields)]
    if plan.bowl is not None:
        bowl = (_m("bowl.x_m", _("From the left")), _m("bowl.diameter_m", _("Across")))
        found.append(Group(_("Water bowl"), bowl, part="bowl"))
    if plan.pool is not None:
        pool = (
            _m("pool.x_m", _("Middle from the left")),
            _m("pool.length_m", _("Length")),
            _m("pool.depth_m", _("Depth from the floor")),
            Field("pool.filtered", _("Has a filter"), "check"),
        )
        found.append(Group(_("Water to live in"), pool, part="pool"))
    return tuple(found)


def _food(plan: HabitatPlan) -> tuple[Group, ...]:
    fields = (
        Field("feeding.starts", _("First feed"), "date", empty=True),
        Field("feeding.interval_days", _("Days between feeds"), "whole", empty=True, hint=_("by the stage")),
        Field("feeding.supplement_starts", _("Dusting counted from"), "date", empty=True, hint=_("empty: first feed")),
    )
    return (Group("", fields),)


GROUPS = {
    "animal": _animal,
    "room": _room,
    "enclosure": _enclosure,
    "heat": _heat,
    "light": _light,
    "moisture": _moisture,
    "food": _food,
}


def value_at(plan: HabitatPlan, path: str) -> Any:
    """Return the plan's value at a path; None where the way there is empty."""
    place: Any = plan
    for step in path.split("."):
        if place is None:
            return None
        if isinstance(place, dict):
            place = place.get(step)
        elif step.isdigit():
            place = place[int(step)] if int(step) < len(place) else None
        else:
            place = getattr(place, step)
    return place


def show(plan: HabitatPlan, field: Field, units: KeeperUnits) -> Shown:
    """Return the field with its present value in the keeper's units."""
    value = value_at(plan, field.path)
    if field.kind == "check":
        return Shown(field, "1", "", checked=bool(value))
    if field.kind == "choice":
        return Shown(field, "" if value is None else str(value), "", options=options(field))
    if field.kind == "quantity" and field.unit not in ("", "1"):
        number, symbol = units.number((value or 0.0) / field.scale, field.unit, typed=True)
        return Shown(field, "" if value is None else number, symbol)
    if isinstance(value, time):
        return Shown(field, value.strftime("%H:%M"), "")
    if isinstance(value, date):
        return Shown(field, value.isoformat(), "")
    return Shown(field, "" if value is None else f"{value:g}" if isinstance(value, float) else str(value), "")


def options(field: Field) -> tuple[tuple[str, Any], ...]:
    if field.choices == "species":
        return tuple((profile.id, profile.common) for profile in shipped().values())
    return tuple(CHOICES[field.choices].items())


@dataclass(frozen=True)
class Rejected:
    """What was typed into one field and why it was not taken; `offer` is a text that would be taken."""

    text: str
    problem: Problem
    offer: str = ""


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
            try:
                changed[field.path] = _parsed(field, text, units)
            except UnitError as error:
                parameters = {**error.parameters, "found": text[:40]}
                rejected[field.path] = Rejected(text, Problem(field.path, error.code, parameters))
    try:
        return read_data(_with(plan, changed)), rejected
    except PlanProblems as problems:
        for problem in problems.problems:
            path = problem.path if problem.path in changed else next((p for p in changed if problem.path.startswith(p)), "")
            path = path or next(iter(changed), problem.path)
            rejected[path] = Rejected(posted.get(path, ""), problem, _offer(problem))
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
    if not text and field.empty:
        return None
    if field.kind == "quantity":
        if field.unit == "1":
            return parse(text, "1")
        return round(parse(text, units.unit_for(field.unit)) * field.scale, 6)
    if field.kind == "whole":
        if not text.isdigit():
            raise UnitError("not_a_whole_number", text=text)
        return int(text)
    if field.kind == "date":
        try:
            return date.fromisoformat(text).isoformat()
        except ValueError:
            raise UnitError("not_a_date", text=text) from None
    if field.kind == "time":
        try:
            return time.fromisoformat(text).strftime("%H:%M")
        except ValueError:
            raise UnitError("not_a_time", text=text) from None
    return text


def _offer(problem: Problem) -> str:
    """The text that says the likely meaning outright: "90 °F"."""
    return "" if problem.typed is None else f"{problem.typed[0]:g} {problem.typed[1]}"
