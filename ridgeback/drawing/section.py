"""The section: the habitat cut open along its length, to scale, with rulers."""

import json
from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace
from typing import Any, Final, Literal

import numpy as np
from django.utils.translation import gettext as _

from husbandry.animal.subject import subject_of
from husbandry.assess.result import Assessment
from husbandry.assess.views import burn_reaches_m
from husbandry.assessment import Measure
from husbandry.climate.heaters import HEATERS
from husbandry.climate.nodes import ZONES, nodes_of
from husbandry.climate.states import SteadyState
from husbandry.inputs.climate_case import enclosure_case
from husbandry.inputs.light_sources import shades, uv_lamps_on
from husbandry.plan import geometry
from husbandry.plan.geometry import basking_top_m, spot_x_m
from husbandry.plan.habitat import ABOVE_LID_M, HabitatPlan
from husbandry.species.profile import Profile
from husbandry.units import TOLERANCE_M, convert
from ridgeback.drawing import animals, bedding, equipment, fields, floor, furniture, overlays
from ridgeback.drawing.fields import Frame
from ridgeback.drawing.numbers import plain
from ridgeback.units import KeeperUnits, written

Side = Literal["front", "above"]  # the section, the floor plan

LEFT, TOP, BOTTOM = 46, 26, 30
RIGHT = 14
LAMP_ROOM_M: Final = 0.10  # drawn above the lid for a lamp that stands on it
GRIPPED_M: Final = 0.05  # above its foot at most, where a thing that only moves sideways is taken hold of
WATER_LABEL: Final = 24.0  # pixels under the surface
MEASURED_CM_M, MEASURED_IN_M = 0.005, 0.00635  # half a centimetre, a quarter of an inch
RULER_STEPS_CM: Final = (5, 10, 20, 50, 100)
RULER_STEPS_IN: Final = (2, 6, 12, 24, 48)


@dataclass(frozen=True)
class Layout:
    """How the bench is divided, in pixels: the most the drawing may take, the day strip's size, the floor plan's room.

    The floor plan lies under day and findings; a tall enclosure stands beside them all.
    """

    name: str
    width: float
    height: float
    strip: tuple[float, float]
    floor: tuple[float, float]


WIDE: Final = Layout("wide", 830, 336, (830, 152), (830, 330))
BESIDE: Final = Layout("beside", 830, 410, (830, 152), (830, 330))
TALL: Final = Layout("tall", 400, 600, (430, 290), (430, 300))
WIDE_FROM, BESIDE_FROM = 640.0, 330.0  # width of the drawing at full height


@dataclass(frozen=True)
class DrawnPart:
    """Something the keeper can drag: its path in the plan, pixels, metres, how it may move (x, h or both), name and place."""

    path: str
    x: str
    y: str
    x_m: str
    height_m: str
    moves: str
    name: str
    said: str


def _standing_m(plan: HabitatPlan) -> float:
    """Height of everything drawn: the enclosure, and what hangs above it."""
    box = plan.enclosure
    lamps = geometry.hanging(plan)
    above = [lamp.height_m - box.height_m + LAMP_ROOM_M for lamp in lamps if lamp.height_m >= box.height_m - 1e-6]
    return box.height_m + max([*above, 0.0])


def layout_of(plan: HabitatPlan) -> Layout:
    """Choose the bench's layout by the shape of the enclosure."""
    length_m, standing_m = plan.enclosure.length_m, _standing_m(plan)
    width = LEFT + RIGHT + length_m * min((WIDE.width - LEFT - RIGHT) / length_m, (WIDE.height - TOP - BOTTOM) / standing_m)
    return WIDE if width >= WIDE_FROM else BESIDE if width >= BESIDE_FROM else TALL


def frame_of(plan: HabitatPlan) -> Frame:
    """Fit the enclosure, and lamps above it, into the drawing."""
    box, layout, standing_m = plan.enclosure, layout_of(plan), _standing_m(plan)
    scale = min((layout.width - LEFT - RIGHT) / box.length_m, (layout.height - TOP - BOTTOM) / standing_m)
    return Frame(LEFT, max(TOP + standing_m * scale, 170.0), scale, box.length_m, box.height_m, plan.ground.depth_m)


@dataclass(frozen=True)
class Look:
    """Which state is drawn, in which units and words (`names` of kinds), and the plan whose frame is on the screen.

    While a lamp is dragged above the lid, the scale must not change: `laid_by` is the plan as it stood before.
    """

    season: str
    phase: str
    units: KeeperUnits
    names: dict[str, str]
    laid_by: HabitatPlan


def draw(
    plan: HabitatPlan, profile: Profile, found: Assessment, look: Look, sides: Collection[Side] = ("front", "above")
) -> dict[str, Any]:
    """Return everything the templates of the section and of the floor plan need; of one side alone while a hand is on it."""
    frame = replace(frame_of(look.laid_by), ground_m=plan.ground.depth_m)
    field = fields.air_field(frame, np.array(found.climate.states[look.season, look.phase].air_c))
    subject, case = subject_of(plan, profile, found.today), enclosure_case(plan)
    hides = overlays.hides(subject, found, look.season, look.phase, look.units)
    reaches = burn_reaches_m(subject, case, found.climate)
    drawn: dict[str, Any] = {"frame": frame}
    if "front" in sides:
        on_it = plain({"burns": overlays.burns_from_the_front(plan, reaches, case, frame),
                       "hides": overlays.hide_labels_from_the_front(plan, hides, frame)})  # fmt: skip
        drawn |= _from_the_front(plan, profile, found, look, frame, field) | on_it
    if "above" in sides:
        room = layout_of(look.laid_by).floor
        above = floor.FloorLook(look.season, look.phase, look.units, look.names, room, hides, reaches)
        drawn["floor"] = _floor(floor.draw(plan, profile, found, above, wash_range(found, field)))
    return drawn


def _from_the_front(
    plan: HabitatPlan, profile: Profile, found: Assessment, look: Look, frame: Frame, field: fields.Floats
) -> dict[str, Any]:
    """The habitat cut open, with its climate in it."""
    steady = found.climate.states[look.season, look.phase]
    drawn = {
        "width": round(frame.left + plan.enclosure.length_m * frame.scale + RIGHT, 1),
        "height": round(frame.floor + BOTTOM, 1),
        **_shell(plan, frame),
        "things": furniture.from_the_front(plan, frame),
        "pool": _pool(plan, frame),
        **_equipment(plan, frame, steady, day=look.phase == "day"),
        "animal": _animal(plan, profile, found, frame),
        "floor_end": frame.left + plan.enclosure.length_m * frame.scale,
        "lid_y": float(frame.y(plan.enclosure.height_m)) - 2.5,
        "ruler_text": frame.floor + 19,
        "ruler_left": frame.left - 10,
        "unit": look.units.length,
        "spot": _spot(plan, found, frame, look) if _basks(found, look.season) else None,
        "labels": _labels(plan, found, frame, look),
        "rulers": _rulers(plan, frame, look.units),
    }
    lamps = uv_lamps_on(plan, found.today) if look.phase == "day" else ()
    index = fields.uv_field(frame, lamps, shades(plan))
    factor, offset = (1.8, 32.0) if look.units.temperature == "degF" else (1.0, 0.0)
    drawn |= {
        "wash": fields.wash(field, *wash_range(found, field)),
        "isotherms": _lines(fields.isotherms(frame, field, (factor, offset), 4.0 if factor > 1 else 2.0)),
        "uv": _lines(fields.uv_lines(frame, lamps, shades(plan))),
        "dots": fields.stipple(frame, field, steady.vapour_pa),
    }
    # Metres and the scale keep their digits: the browser reckons with them.
    read = fields.samples(field, steady.vapour_pa, ground_layers(plan, steady.node_c), index, look.units)
    return plain(drawn) | {"parts": _parts(plan, frame, look.units, look.names), "samples": json.dumps(read)}


def _floor(drawn: dict[str, Any]) -> dict[str, Any]:
    """The floor plan with plain numbers; its frame and its parts' metres keep their digits."""
    kept = {name: drawn.pop(name) for name in ("frame", "parts")}
    return plain(drawn) | kept


def _shell(plan: HabitatPlan, frame: Frame) -> dict[str, Any]:
    """The enclosure's outline, the air in it and the ground."""
    enclosure, ground = plan.enclosure, plan.ground
    across = {"x": frame.left, "y": frame.y(enclosure.height_m), "w": enclosure.length_m * frame.scale}
    return {
        "box": across | {"h": enclosure.height_m * frame.scale, "lid": enclosure.lid, "kind": enclosure.kind},
        "air": across | {"h": (enclosure.height_m - ground.depth_m) * frame.scale},
        "ground": {
            "y": frame.y(ground.depth_m),
            "h": ground.depth_m * frame.scale,
            "kind": ground.kind,
            "damp": ground.damp,
        },
        "beds": bedding.beds(plan, frame),
    }


def _equipment(plan: HabitatPlan, frame: Frame, steady: SteadyState, *, day: bool) -> dict[str, Any]:
    """Heaters and how hard they work, lamps, vents, probes, and the window that lets the sun in by day."""
    heaters = list(enumerate(plan.heaters))
    return {
        "heaters": [equipment.heater(plan, index, frame, steady.duty[index]) for index, heater in heaters if heater.hangs],
        "lying": [equipment.lying(heater, frame, steady.duty[index]) for index, heater in heaters if not heater.hangs],
        "bars": [equipment.bar(plan, index, frame, day) for index in range(len(plan.light_bars))],
        "vents": [equipment.vent(plan, index, frame) for index in range(len(plan.enclosure.vents))],
        "probes": equipment.probes(plan, frame),
        "window": plan.window is not None and day,
        "tubes": [equipment.tube(plan, index, frame, day) for index in range(len(plan.uv_lamps))],
    }


def wash_range(found: Assessment, field: fields.Floats) -> tuple[float, float]:
    """The coldest and hottest °C the wash tells apart: the same for a whole habitat, whatever the hour."""
    return min(15.0, float(field.min())), max(36.0, found.body.decision.stage.heat.ceiling_c.value)


def ground_layers(plan: HabitatPlan, node_c: fields.Floats) -> fields.Floats:
    """The ground's temperatures (layers, 5) out of the network's nodes."""
    nodes = nodes_of(enclosure_case(plan))
    return node_c[nodes.ground].reshape(len(nodes.layer_m), ZONES)


def _lines(lines: Sequence[fields.Contour]) -> list[dict[str, Any]]:
    return [{"path": line.path, "text": line.text, "x": line.x, "y": line.y} for line in lines]


def _pool(plan: HabitatPlan, frame: Frame) -> dict[str, Any] | None:
    if plan.pool is None:
        return None
    top = float(frame.y(plan.pool.depth_m))
    return {
        "x": frame.x(plan.pool.x_m - plan.pool.length_m / 2),
        "y": top,
        "w": plan.pool.length_m * frame.scale,
        "h": frame.floor - top,
        "end": frame.x(plan.pool.x_m + plan.pool.length_m / 2),
        "wall": _pool_wall(plan, frame),
    }


def _pool_wall(plan: HabitatPlan, frame: Frame) -> str:
    """What parts the water from the land beside it, up to the higher of both: no ground lies under a pool that is shorter."""
    box, pool = plan.enclosure, plan.pool
    if pool is None or not geometry.leaves_land(plan):
        return ""
    ends = (pool.x_m - pool.length_m / 2, pool.x_m + pool.length_m / 2)
    inside = [frame.x(end) for end in ends if TOLERANCE_M < end < box.length_m - TOLERANCE_M]
    top = float(frame.y(max(pool.depth_m, plan.ground.depth_m)))
    return " ".join(f"M{x:.1f} {frame.floor:.1f}V{top:.1f}" for x in inside)


def _animal(plan: HabitatPlan, profile: Profile, found: Assessment, frame: Frame) -> dict[str, Any]:
    """The animal to scale, on its basking place, or on the bottom of the water it lives in."""
    body = profile.body
    spot_x = spot_x_m(plan)
    spot_top = basking_top_m(plan, spot_x)
    length_m = found.body.length_m or body.adult(plan.animal.sex).length_cm.middle / 100
    if plan.pool is not None and profile.habit == "aquatic" and found.body.decision.stage.heat.basking_surface_c is None:
        spot_x, spot_top = plan.pool.x_m, plan.ground.depth_m  # it walks on the bottom
    total_m = length_m / body.total_to_measure.value
    # The drawn outline is measured along the whole animal; the spot is under its trunk.
    shift = 0.2 * total_m if body.form in ("gecko", "lizard") else 0.0
    turned = spot_x < plan.enclosure.length_m / 2
    width_m = total_m * (animals.COIL_SHARE if body.form == "snake" else 1.0)
    middle_m = spot_x + (shift if turned else -shift)
    middle_m = min(max(middle_m, width_m / 2), max(plan.enclosure.length_m - width_m / 2, width_m / 2))
    outline, marks, eye = animals.place(
        body.form, total_m, float(frame.x(middle_m)), float(frame.y(spot_top)), frame.scale, turned=turned
    )
    return {"outline": outline, "marks": marks, "eye_x": eye[0], "eye_y": eye[1], "form": body.form}


def _labels(plan: HabitatPlan, found: Assessment, frame: Frame, look: Look) -> list[dict[str, Any]]:
    """Numbers on the drawing: air and humidity at either end, of an animal that lives in water the water in place of air."""
    season, phase, units = look.season, look.phase, look.units
    steady = found.climate.states[season, phase]
    warm_left = sum(h.watts * h.x_m for h in plan.heaters) <= sum(h.watts for h in plan.heaters) * frame.length_m / 2
    ends = {"warm": 0.03 if warm_left else 0.97, "cool": 0.97 if warm_left else 0.03}
    tall = len(steady.air_c) > 1
    labels = []
    for end, share in ends.items():
        if found.lives_in_water and found.quantity(f"{end}_air", season, phase).band is None:
            continue
        height_m = plan.ground.depth_m + (frame.height_m - plan.ground.depth_m) * (
            0.8 if tall and end == "warm" else 0.2 if tall else 0.5
        )
        degrees, symbol = units.number(steady.predictions[f"{end}_air"].value, "degC")
        humidity = steady.predictions[f"{end}_humidity"].value
        labels.append(
            {
                "x": float(frame.x(share * frame.length_m)),
                "y": float(frame.y(height_m)),
                "anchor": "start" if share < 0.5 else "end",
                "text": f"{degrees} {symbol}",
                "small": f"{humidity:.0f} %",
                "id": f"label-{end}",
            }
        )
    if found.lives_in_water and plan.pool is not None:
        water = found.quantity("water_temperature", season, phase).value
        text = "" if water is None else " ".join(units.number(water, "degC"))
        x, y = float(frame.x(plan.pool.x_m)), float(frame.y(plan.pool.depth_m)) + WATER_LABEL
        labels.append({"x": x, "y": y, "anchor": "middle", "text": text, "small": "", "id": "label-water"})
    return labels


def _basks(found: Assessment, season: str) -> bool:
    """Tell whether there is a basking place to speak of."""
    return not found.lives_in_water or found.quantity("basking_surface", season, "day").band is not None


def _spot(plan: HabitatPlan, found: Assessment, frame: Frame, look: Look) -> dict[str, Any]:
    """The basking surface's number, below the ground line, with a leader up to the spot."""
    surface = found.climate.states[look.season, look.phase].predictions["basking_surface"]
    degrees, symbol = look.units.number(surface.value, "degC")
    uv = next((item for item in found.quantities if item.key == "uv_back"), None)
    x, top = float(frame.x(spot_x_m(plan))), float(frame.y(basking_top_m(plan, spot_x_m(plan))))
    anchor = "start" if x < frame.left + 60 else "end" if x > frame.left + frame.length_m * frame.scale - 60 else "middle"
    text_y = min(top + 30, frame.floor - 5)
    return {
        "x": x,
        "y": top + 3,
        "line": text_y - 12,
        "text_y": text_y,
        "anchor": anchor,
        "text": f"{degrees} {symbol}",
        "uv": written(uv.value, ".1f") if uv is not None and uv.value and look.phase == "day" else "",
    }


def _rulers(plan: HabitatPlan, frame: Frame, units: KeeperUnits) -> dict[str, list[dict[str, Any]]]:
    unit = units.length
    steps = RULER_STEPS_CM if unit == "cm" else RULER_STEPS_IN
    long = convert(frame.length_m, "m", unit)
    step = next((size for size in steps if long / size <= 13), steps[-1])

    def ticks(limit_m: float, at: Any) -> list[dict[str, Any]]:
        last = int(convert(limit_m, "m", unit) / step + 1e-6)
        return [
            {"at": float(at(convert(k * step, unit, "m"))), "text": str(k * step), "label": k % 2 == 0 or last <= 6}
            for k in range(last + 1)
        ]

    return {"along": ticks(frame.length_m, frame.x), "up": ticks(frame.height_m, frame.y)}


def _parts(plan: HabitatPlan, frame: Frame, units: KeeperUnits, names: dict[str, str]) -> list[DrawnPart]:
    probes = equipment.probes_at(plan)
    found = []

    def add(path: str, x_m: float, height_m: float, moves: str, name: str) -> None:
        x, y = float(frame.x(x_m)), float(frame.y(height_m))
        along = _("%(place)s from the left") % {"place": units.say(Measure(x_m, "m"))}
        above = _("%(height)s above the floor") % {"height": units.say(Measure(height_m, "m"))}
        said = {"x": along, "h": above, "both": f"{along}, {above}"}[moves]
        found.append(DrawnPart(path, f"{x:.1f}", f"{y:.1f}", f"{x_m:.4g}", f"{height_m:.4g}", moves, name, said))

    for index, heater in enumerate(plan.heaters):
        place = HEATERS[heater.kind].place
        if place in ("over", "air"):
            add(f"heaters.{index}", heater.x_m, heater.height_m, "both", names[heater.kind])
        else:
            low_m = 0.5 * frame.height_m if place == "wall" else 0.01
            add(f"heaters.{index}", heater.x_m, low_m, "x", names[heater.kind])
        if heater.thermostat.kind != "none":
            add(f"heaters.{index}.thermostat.probe", *probes[index], "both", names["probe"])
    for index, probe in enumerate(plan.probes):
        name = probe.name or f"{names['thermometer']} {chr(ord('a') + index)}"
        add(f"probes.{index}", probe.x_m, probe.height_m, "both", name)
    for index, lamp in enumerate(plan.uv_lamps):
        add(f"uv_lamps.{index}", lamp.x_m, lamp.height_m, "both", names[lamp.kind])
    for index, bar in enumerate(plan.light_bars):
        add(f"light_bars.{index}", bar.x_m, bar.height_m, "both", names[bar.kind])
    for index, vent in enumerate(plan.enclosure.vents):
        add(f"enclosure.vents.{index}", 0.0 if index % 2 == 0 else frame.length_m, vent.height_m, "h", names["vent"])
    for index, thing in enumerate(plan.things):
        lifts = thing.basking or thing.lets_under
        foot = geometry.foot_m(plan, thing)
        held_m = foot + (thing.height_m if lifts else min(thing.height_m / 2, GRIPPED_M))
        add(f"things.{index}", thing.x_m, held_m, "both" if lifts else "x", thing.name or names[thing.kind])
    if plan.pool is not None:
        add("pool", plan.pool.x_m, plan.pool.depth_m, "h", names["pool"])
    add("ground", frame.length_m, plan.ground.depth_m, "h", names["ground"])
    return found


def limits(plan: HabitatPlan, units: KeeperUnits) -> dict[str, float]:
    """How far parts may be dragged, and by what steps: as one would measure it out, in m."""
    box = plan.enclosure
    return {
        "length": box.length_m,
        "width": box.width_m,
        "ceiling": box.height_m + (0.0 if box.lid == "solid" else ABOVE_LID_M),
        "measured": MEASURED_CM_M if units.length == "cm" else MEASURED_IN_M,
    }
