"""What the keeper fills in at each step, in the order of the work: one field per path of the document."""

from dataclasses import dataclass
from typing import Any, Final, Literal

from django.utils.text import capfirst
from django.utils.translation import gettext_lazy as _

from husbandry.climate.heaters import HEATERS
from husbandry.light.ultraviolet import RATED_WATTS
from husbandry.plan.equipment import Heater
from husbandry.plan.grounds import Layer
from husbandry.plan.habitat import HabitatPlan, Pool, Watering
from husbandry.plan.things import Thing
from husbandry.review.warmth import REACHED
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
    usual: bool = False  # what a tick says where the document says nothing

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
    found = [Group("", tuple(box)), _opening(plan)]
    for index, _gap in enumerate(plan.enclosure.gaps):
        path = f"enclosure.gaps.{index}"
        gap = Field(f"{path}.at", _("Where"), "choice", choices="gap"), _m(f"{path}.width_m", _("Narrower side"))
        found.append(Group(_("Gap"), gap, part=path))
    for index, _vent in enumerate(plan.enclosure.vents):
        path = f"enclosure.vents.{index}"
        vent = (
            _m(f"{path}.height_m", _("Middle above the floor")),
            Field(f"{path}.area_m2", _("Free area"), unit="cm2", scale=1e-4),
        )
        found.append(Group(_("Vent"), vent, part=path))
    return tuple(found)


def _opening(plan: HabitatPlan) -> Group:
    """How it opens, where it is plugged in, and which walls seen through are covered."""
    fields = [Field("enclosure.opens", _("Opens"), "choice", choices="opens", empty=True)]
    if plan.enclosure.opens == "front":
        fields.append(Field("enclosure.sill_m", _("Lip under the door"), unit="m", empty=True, hint=_("not said")))
    fields.append(Field("enclosure.sockets", _("Sockets are"), "choice", choices="sockets", empty=True))
    if plan.enclosure.kind == "glass":
        walls = (("back", _("Back covered")), ("left", _("Left end covered")), ("right", _("Right end covered")))
        fields += [Field(f"enclosure.covered.{wall}", words, "check") for wall, words in (*walls, ("front", _("Front covered")))]
    return Group(_("Doors, sockets and views"), tuple(fields))


def _ground(plan: HabitatPlan) -> tuple[Group, ...]:
    """The layers, the topmost first as one sees them, then the slope and the parts that have layers of their own."""
    layers = plan.ground.layers
    found = []
    for index in reversed(range(len(layers))):
        path = f"ground.layers.{index}"
        title = _("Ground") if len(layers) == 1 else _("Top layer") if index == len(layers) - 1 else _("Lowest layer")
        if 0 < index < len(layers) - 1:
            title = _("Layer between")
        found.append(Group(title, _layer(path, layers[index]), part=path if len(layers) > 1 else ""))
    lie = (
        _m("ground.rise_right_m", _("Higher at the right by")),
        _m("ground.rise_back_m", _("Higher at the back by")),
        Field("ground.barrier", _("Moisture barrier under it"), "check"),
        Field("ground.living", _("Living, with a clean-up crew"), "check"),
        Field("ground.bucket_m3", _("Your bucket holds"), unit="m3", empty=True, hint=_("not said")),
    )
    found.append(Group(_("How it lies"), lie))
    for index, area in enumerate(plan.ground.areas):
        path = f"ground.areas.{index}"
        place = (
            Field(f"{path}.name", _("Called"), "text", empty=True),
            _m(f"{path}.x_m", _("Middle from the left")),
            _m(f"{path}.y_m", _("Middle from the front")),
            _m(f"{path}.length_m", _("Length")),
            _m(f"{path}.width_m", _("From front to back")),
        )
        layered = tuple(field for at, layer in enumerate(area.layers) for field in _layer(f"{path}.layers.{at}", layer))
        found.append(Group(area.name or _("A part of the floor"), place + layered, part=path))
    return tuple(found)


def _layer(path: str, layer: Layer) -> tuple[Field, ...]:
    """What a layer is made of, how deep it is and whether it is kept damp."""
    several = len(layer.parts) > 1
    mixed: list[Field] = []
    for index in range(len(layer.parts)):
        at = f"{path}.parts.{index}"
        mixed.append(Field(f"{at}.material", _("Material"), "choice", choices="mix"))
        if several:
            mixed.append(Field(f"{at}.parts", _("Parts of it"), unit="parts"))
    return (*mixed, _m(f"{path}.depth_m", _("Depth")), Field(f"{path}.damp", _("Kept damp"), "check"))


def _furniture(plan: HabitatPlan) -> tuple[Group, ...]:
    found = [_thing(thing, f"things.{index}") for index, thing in enumerate(plan.things)]
    plants = Field("plants", _("Further living plants"), "choice", choices="plants")
    return (*found, Group(_("Plants that are not listed"), (plants,)))


def thing_title(thing: Thing) -> Any:
    """What a thing is called: by its name, by what it is used for, else by its kind."""
    if thing.name:
        return thing.name
    if thing.heated_w is not None:
        return _("Heated hide")
    kind = CHOICES["plant"][thing.plant] if thing.plant else CHOICES["thing"][thing.kind]
    return _("%(thing)s to bask on") % {"thing": capfirst(kind)} if thing.basking else capfirst(kind)


def _thing(thing: Thing, path: str) -> Group:
    kind = thing.of
    fields: list[Field] = [
        Field(f"{path}.name", _("Called"), "text", empty=True),
        _m(f"{path}.x_m", _("From the left")),
        Field(
            f"{path}.y_m", _("From the front"), unit="m", empty=True, hint=_("at a wall") if "hide" in kind.roles else _("midway")
        ),
        _m(f"{path}.length_m", _("Across") if kind.round else _("Length")),
    ]
    if not kind.round:
        fields.append(
            Field(f"{path}.width_m", _("Thick") if kind.along else _("Front to back"), unit="m", empty=True, hint=_("the usual"))
        )
    fields.append(_m(f"{path}.height_m", _("Thickness") if kind.along else _("Height")))
    if thing.lets_under or thing.up_m or thing.basking:
        fields.append(_m(f"{path}.up_m", _("Foot above its base")))
    if not kind.round:
        fields.append(Field(f"{path}.turn_deg", _("Turned"), unit="deg"))
    if kind.along:
        fields.append(Field(f"{path}.slope_deg", _("Rises to the right"), unit="deg"))
    if len(kind.materials) > 1:
        fields.append(Field(f"{path}.material", _("Made of"), "choice", choices="stuff", empty=True))
    if len(kind.bases) > 1:
        fields.append(Field(f"{path}.base", _("Stands"), "choice", choices="stands", empty=True))
    if not thing.lets_under and thing.stands == "ground":
        fields.append(Field(f"{path}.footing", _("On footings down to the floor"), "check"))
    if kind.perch is not None:
        fields.append(Field(f"{path}.basking", _("It basks here"), "check"))
    if kind.entrance_m is not None:
        fields.append(Field(f"{path}.entrance_m", _("Its opening, wide"), unit="m", empty=True, hint=_("the usual")))
    if "hide" in kind.roles:
        fields.append(Field(f"{path}.dark", _("Dark inside"), "check", usual=kind.dark))
    if "plant" in kind.roles:
        fields.append(Field(f"{path}.plant", _("Plant"), "choice", choices="plant"))
        fields.append(Field(f"{path}.potted", _("In its pot"), "check"))
    if "drink" in kind.roles:
        fields.append(Field(f"{path}.water_m", _("Water in it"), unit="m", empty=True, hint=_("depth, if known")))
    if thing.heated_w is not None:
        fields += [
            Field(f"{path}.heated_w", _("Its own heater"), unit="W", empty=True, hint=_("none")),
            _c(f"{path}.heated_to_c", _("Held at")),
            _m(f"{path}.insulation_m", _("Foam board in its walls")),
        ]
    return Group(thing_title(thing), tuple(fields), part=path)


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
        if heater.hangs or heater.kind == "tube-heater":
            fields.append(_y(path))
            fields.append(_m(f"{path}.height_m", _("Above the floor")))
        fields.append(Field(f"{path}.thermostat.kind", _("Thermostat"), "choice", choices="thermostat"))
        if heater.thermostat.kind != "none":
            fields += _held(plan, heater, f"{path}.thermostat")
        fields += _clock(path)
        if heater.hangs:
            fields.append(Field(f"{path}.holder", _("Holder"), "choice", choices="holder"))
        if heater.kind in RATED_WATTS:
            fields.append(Field(f"{path}.fitted", _("Fitted on"), "date", empty=True))
        if HEATERS[heater.kind].place in REACHED:
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


def _filter(pool: Pool) -> tuple[Field, ...]:
    """What is told of a filter where there is one."""
    if not pool.filtered:
        return ()
    return (
        Field("pool.filter_m3_h", _("The filter moves, an hour"), unit="m3", empty=True, hint=_("not said")),
        Field("pool.filter_since", _("It has run since"), "date", empty=True, hint=_("not said")),
    )


def _mister() -> Group:
    fields = (
        Field("mister.nozzles", _("Nozzles"), "whole"),
        Field("mister.nozzle_g_min", _("Each gives, a minute"), unit="g of water"),
        Field("mister.cone_deg", _("Each sprays a cone of"), unit="deg"),
        Field("mister.pump_g_min", _("The pump gives, a minute"), unit="g of water", empty=True, hint=_("not known")),
        Field("mister.reservoir_m3", _("Reservoir holds"), unit="m3", empty=True, hint=_("not said")),
    )
    return Group(_("Mister's pump"), fields, part="mister")


def _moisture(plan: HabitatPlan) -> tuple[Group, ...]:
    layers = plan.ground.layers
    damp = tuple(
        Field(
            f"ground.layers.{index}.damp",
            _("Ground kept damp") if len(layers) == 1 else _("Layer %(n)s kept damp") % {"n": index + 1},
            "check",
        )
        for index in range(len(layers))
    )
    plants = Field("plants", _("Living plants"), "choice", choices="plants")
    found = [Group("", (*damp, plants)), *_watered("misting", plan.misting)]
    if plan.misting.winter is not None:
        found += _watered("misting.winter", plan.misting.winter)
    if plan.mister is not None:
        found.append(_mister())
    found += [_thing(thing, plan.path_of(thing)) for thing in plan.things if thing.good_for("drink")]
    if plan.pool is not None:
        pool = (
            _m("pool.x_m", _("Middle from the left")),
            _m("pool.length_m", _("Length")),
            _m("pool.depth_m", _("Depth from the floor")),
            Field("pool.filtered", _("Has a filter"), "check"),
            *_filter(plan.pool),
            Field("pool.change_share", _("Changed at a time"), unit="%", scale=0.01, empty=True, hint=_("the usual")),
            Field("pool.ph", _("pH, if measured"), unit="parts", empty=True, hint=_("not measured")),
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
    "ground": _ground,
    "furniture": _furniture,
    "heat": _heat,
    "light": _light,
    "moisture": _moisture,
    "food": _food,
}
