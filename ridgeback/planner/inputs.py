"""What the keeper fills in at each step, in the order of the work: one field per path of the document."""

from dataclasses import dataclass
from typing import Any, Final, Literal

from django.utils.translation import gettext_lazy as _

from husbandry.light.ultraviolet import RATED_WATTS
from husbandry.plan.equipment import Heater
from husbandry.plan.habitat import HabitatPlan, Hide, Watering
from ridgeback.language.names import CHOICES

Kind = Literal["quantity", "choice", "text", "date", "time", "check", "whole", "hours"]


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
class Group:
    """Fields that belong together; `part` names the list entry that can be taken away."""

    title: Any
    fields: tuple[Field, ...]
    part: str = ""


def _c(path: str, label: Any) -> Field:
    return Field(path, label, unit="degC")


def _m(path: str, label: Any) -> Field:
    return Field(path, label, unit="m")


# Heaters that reach along the enclosure.
LYING: Final = ("mat", "cable", "wall-mat", "tube-heater")
ON_OFF = ((_("On at"), "on"), (_("Off at"), "off"))


def _clock(path: str) -> tuple[Field, ...]:
    return tuple(Field(f"{path}.{name}", label, "time") for label, name in ON_OFF)


def _y(path: str) -> Field:
    """How far from the front something stands or hangs."""
    return Field(f"{path}.y_m", _("From the front"), unit="m", empty=True, hint=_("midway"))


def _season(name: str, title: Any) -> Group:
    path = f"room.{name}"
    return Group(
        title,
        (
            _c(f"{path}.day_c", _("By day")),
            _c(f"{path}.night_c", _("By night")),
            Field(f"{path}.humidity_percent", _("Humidity"), unit="%"),
            Field(f"{path}.curve_c", _("Or hour by hour"), "hours", unit="degC", empty=True, hint=_("24 values from midnight")),
        ),
    )


def groups(plan: HabitatPlan, step: str) -> tuple[Group, ...]:
    """Return the inputs of one step for this plan."""
    return GROUPS[step](plan)


def every(plan: HabitatPlan) -> dict[str, tuple[Group, Field]]:
    """Return all inputs of all steps by path; what is asked at two steps, such as damp ground, counts once, at the first."""
    found: dict[str, tuple[Group, Field]] = {}
    for step in GROUPS:
        for group in groups(plan, step):
            for field in group.fields:
                found.setdefault(field.path, (group, field))
    return found


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
    found = [_season("summer", _("Room in summer")), _season("winter", _("Room in winter"))]
    if plan.window is not None:
        sun = (Field("window.watts", _("Sun that gets in"), unit="W"), *_clock("window"))
        found.append(Group(_("Sun through a window"), sun, part="window"))
    price = Field("prices.kwh", _("Electricity, a kWh"), unit="1", empty=True, hint=_("your currency"))
    found.append(Group(_("Price"), (price,)))
    return tuple(found)


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
    if plan.enclosure.lid != "solid":
        box.append(Field("enclosure.lid_covered", _("Lid covered"), unit="%", scale=0.01))
    if plan.enclosure.kind != "mesh":
        box.append(Field("enclosure.wall_m", _("Walls thick"), unit="m", empty=True, hint=_("the usual")))
        box.append(Field("enclosure.insulation_m", _("Foam board outside"), unit="m"))
    found = [Group("", tuple(box))]
    for index, _vent in enumerate(plan.enclosure.vents):
        path = f"enclosure.vents.{index}"
        vent = (
            _m(f"{path}.height_m", _("Middle above the floor")),
            Field(f"{path}.area_m2", _("Free area"), unit="cm2", scale=1e-4),
        )
        found.append(Group(_("Vent"), vent, part=path))
    ground = (
        Field("ground.kind", _("Ground"), "choice", choices="ground"),
        _m("ground.depth_m", _("Depth")),
        Field("ground.damp", _("Kept damp below"), "check"),
        Field("plants", _("Living plants"), "choice", choices="plants"),
    )
    found.append(Group(_("Ground"), ground))
    if plan.platform is not None:
        platform = (
            Field("platform.kind", _("Kind"), "choice", choices="platform"),
            _m("platform.x_m", _("From the left")),
            _y("platform"),
            _m("platform.length_m", _("Length")),
            _m("platform.height_m", _("Top above ground")),
        )
        found.append(Group(_("Basking place"), platform, part="platform"))
    found += [_hide(hide, f"hides.{index}") for index, hide in enumerate(plan.hides)]
    return tuple(found)


def _hide(hide: Hide, path: str) -> Group:
    fields: tuple[Field, ...] = (
        _m(f"{path}.x_m", _("From the left")),
        Field(f"{path}.y_m", _("From the front"), unit="m", empty=True, hint=_("at a wall")),
        _m(f"{path}.length_m", _("Length")),
        _m(f"{path}.height_m", _("Height")),
        Field(f"{path}.humid", _("Damp moss inside"), "check"),
    )
    if hide.heated_w is not None:
        fields += (
            Field(f"{path}.heated_w", _("Its own heater"), unit="W", empty=True, hint=_("none")),
            _c(f"{path}.heated_to_c", _("Held at")),
            _m(f"{path}.insulation_m", _("Foam board in its walls")),
        )
    title = _("Heated hide") if hide.heated_w is not None else _("Humid hide") if hide.humid else _("Hide")
    return Group(title, fields, part=path)


def _heat(plan: HabitatPlan) -> tuple[Group, ...]:
    found = []
    for index, heater in enumerate(plan.heaters):
        path = f"heaters.{index}"
        fields = [
            Field(f"{path}.kind", _("Kind"), "choice", choices="heater"),
            Field(f"{path}.watts", _("Power"), unit="W"),
            _m(f"{path}.x_m", _("From the left")),
        ]
        if heater.kind in LYING:
            fields.append(Field(f"{path}.length_m", _("Length"), unit="m", empty=True, hint=_("the usual")))
        if heater.hangs:
            fields.append(_y(path))
        if heater.hangs or heater.kind == "tube-heater":
            fields.append(_m(f"{path}.height_m", _("Above the floor")))
        fields.append(Field(f"{path}.thermostat.kind", _("Thermostat"), "choice", choices="thermostat"))
        if heater.thermostat.kind != "none":
            fields += _held(plan, heater, f"{path}.thermostat")
        fields += _clock(path)
        if heater.hangs:
            fields.append(Field(f"{path}.holder", _("Holder"), "choice", choices="holder"))
        if heater.kind in RATED_WATTS:
            fields.append(Field(f"{path}.fitted", _("Fitted on"), "date", empty=True))
        if heater.hangs:
            fields.append(Field(f"{path}.guarded", _("Has a guard"), "check"))
        found.append(Group(CHOICES["heater"][heater.kind], tuple(fields), part=path))
    for index, _probe in enumerate(plan.probes):
        path = f"probes.{index}"
        probe = (
            Field(f"{path}.name", _("Name"), "text", empty=True, hint=_("Probe %(n)s") % {"n": index + 1}),
            _m(f"{path}.x_m", _("From the left")),
            _m(f"{path}.height_m", _("Above the floor")),
        )
        found.append(Group(_("Probe of a thermometer"), probe, part=path))
    return tuple(found)


def _held(plan: HabitatPlan, heater: Heater, path: str) -> list[Field]:
    """A thermostat's set points and its probe."""
    fields = [_c(f"{path}.set_c", _("Set to"))]
    if heater.thermostat.night_set_c is not None or heater.runs_at(plan.daylight.middle_of_dark):
        fields.append(Field(f"{path}.night_set_c", _("Set by night"), unit="degC", empty=True, hint=_("the same")))
    fields.append(Field(f"{path}.probe", _("Probe at"), "choice", choices="probe"))
    if heater.thermostat.probe == "own":
        fields += [
            Field(f"{path}.probe_x_m", _("Probe from the left"), unit="m", empty=True, hint=_("under its heater")),
            Field(f"{path}.probe_height_m", _("Probe above the floor"), unit="m", empty=True, hint=_("half-way up")),
        ]
    fields.append(Field(f"{path}.probe_error_k", _("Probe reads high by"), unit="K"))
    if heater.thermostat.kind == "on-off":
        fields.append(Field(f"{path}.hysteresis_k", _("Swings between on and off over"), unit="K"))
    return fields


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
            _y(path),
            _m(f"{path}.height_m", _("Above the floor")),
            Field(f"{path}.fitted", _("Fitted on"), "date", empty=True),
            *_clock(path),
            Field(f"{path}.again_on", _("And again from"), "time", empty=True),
            Field(f"{path}.again_off", _("until"), "time", empty=True),
            Field(f"{path}.across", _("Hangs from front to back"), "check"),
            Field(f"{path}.reflector", _("Has a reflector"), "check"),
            Field(f"{path}.behind_glass", _("Behind glass or plastic"), "check"),
        )
        found.append(Group(_("UV lamp"), fields, part=path))
    for index, _bar in enumerate(plan.light_bars):
        path = f"light_bars.{index}"
        bar = (
            Field(f"{path}.kind", _("Kind"), "choice", choices="light_bar"),
            Field(f"{path}.watts", _("Power"), unit="W"),
            _m(f"{path}.length_m", _("Lit length")),
            _m(f"{path}.x_m", _("Middle from the left")),
            _y(path),
            _m(f"{path}.height_m", _("Above the floor")),
            *_clock(path),
        )
        found.append(Group(_("Light bar"), bar, part=path))
    return tuple(found)


def _watered(path: str, water: Watering) -> list[Group]:
    """The water given all year, or in one season of it."""
    found = [
        Group(
            _("Winter") if path != "misting" else "",
            (
                Field(f"{path}.grams_per_day", _("Misted by hand, a day"), unit="g of water"),
                Field(f"{path}.fogger_g_per_hour", _("Fogger, an hour by day"), unit="g of water"),
            ),
            part=path if path != "misting" else "",
        )
    ]
    for index, _time in enumerate(water.times):
        at = f"{path}.times.{index}"
        pumped = (Field(f"{at}.at", _("At"), "time"), Field(f"{at}.grams", _("Water"), unit="g of water"))
        found.append(Group(_("Misting in winter") if path != "misting" else _("Misting"), pumped, part=at))
    return found


def _moisture(plan: HabitatPlan) -> tuple[Group, ...]:
    damp = Field("ground.damp", _("Ground kept damp below"), "check")
    plants = Field("plants", _("Living plants"), "choice", choices="plants")
    found = [Group("", (damp, plants)), *_watered("misting", plan.misting)]
    if plan.misting.winter is not None:
        found += _watered("misting.winter", plan.misting.winter)
    if plan.bowl is not None:
        depth = Field("bowl.depth_m", _("Water in it"), unit="m", empty=True, hint=_("depth, if known"))
        bowl = (_m("bowl.x_m", _("From the left")), _y("bowl"), _m("bowl.diameter_m", _("Across")), depth)
        found.append(Group(_("Water bowl"), bowl, part="bowl"))
    if plan.pool is not None:
        pool = (
            _m("pool.x_m", _("Middle from the left")),
            _m("pool.length_m", _("Length")),
            _m("pool.depth_m", _("Depth from the floor")),
            Field("pool.filtered", _("Has a filter"), "check"),
            Field("pool.fan", _("A fan blows over it"), "check"),
        )
        found.append(Group(_("Water to live in"), pool, part="pool"))
    return tuple(found)


def _food(plan: HabitatPlan) -> tuple[Group, ...]:
    interval = Field("feeding.interval_days", _("Days between feeds"), "whole", empty=True, hint=_("by the stage"))
    fields = (
        Field("feeding.starts", _("First feed"), "date", empty=True),
        *(() if plan.feeding.weekdays else (interval,)),  # weekdays chosen on the menu stand in its place
        Field("feeding.supplement_starts", _("Dusting counted from"), "date", empty=True, hint=_("empty: first feed")),
        Field("feeding.state", _("State"), "choice", choices="state"),
        Field("feeding.where", _("Where it is fed"), "choice", choices="where"),
        Field("feeding.rationed", _("How much"), "choice", choices="rationed"),
        Field("feeding.measured_m", _("What its prey goes by"), unit="m", empty=True),
        Field("feeding.dust_mg_per_g", _("Powder that sticks, mg a g"), unit="1", empty=True, hint=_("empty: 15 mg")),
        Field("feeding.calcium_dish", _("A dish of plain calcium stands by"), "check"),
        Field("upkeep.arrived", _("Came on"), "date", empty=True),
        Field("upkeep.quarantine_until", _("Quarantine until"), "date", empty=True),
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
