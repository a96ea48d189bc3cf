"""The floor plan: the habitat from above, to scale, with its own warmth and UV; what stands or hangs there can be dragged.

The front is at the bottom. Warmth is that of a surface like the basking place's on the ground there: the ground's own along the
length, and what the lamps' beams make of it more. The UV index is that at the animal's back.
"""

from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Final

import contourpy
import numpy as np
from django.utils.translation import gettext as _
from numpy.typing import NDArray

from husbandry.animal.widths import COIL_SHARE, SLENDER, WIDTHS
from husbandry.assess.result import Assessment
from husbandry.assess.views import HideState
from husbandry.assess.warmth import basking_lamps
from husbandry.assessment import Measure
from husbandry.climate import heaters
from husbandry.climate.case import EnclosureCase
from husbandry.climate.heat_gains import passed_share
from husbandry.climate.nodes import ZONES
from husbandry.climate.states import SteadyState
from husbandry.inputs.climate_case import USUAL_LENGTH_M, enclosure_case
from husbandry.inputs.light_sources import shades_from_above, uv_lamps_on
from husbandry.light import ultraviolet
from husbandry.plan.equipment import LightBar, UvLamp
from husbandry.plan.geometry import depth_of, half_sides_m, spot_x_m, spot_y_m, y_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Profile
from ridgeback.drawing import furniture, overlays
from ridgeback.drawing.fields import KEPT, MOST_UV_LINES, UV_LEVELS, wash
from ridgeback.units import KeeperUnits, written

Floats = NDArray[np.float64]

COLUMNS, ROWS = 61, 31
EDGE: Final = 12.0  # pixels round the floor, so that what stands at a wall can be taken hold of
TUBE_PX: Final = 4.0
THICK_M: Final = 0.04  # of a tube heater or one for water, as drawn
ZONE_PX: Final = 5.0  # above the front
GRIP_PX: Final = 13.0  # how far from a corner or an end a part is taken hold of


@dataclass(frozen=True)
class FloorFrame:
    """Where the floor lies in pixels: its left, the pixel row of the front, pixels a metre, and its size in m."""

    left: float
    front: float
    scale: float
    length_m: float
    width_m: float

    @classmethod
    def of(cls, plan: HabitatPlan, room: tuple[float, float]) -> "FloorFrame":
        """Fit the floor into `room` (pixels)."""
        box = plan.enclosure
        scale = min((room[0] - 2 * EDGE) / box.length_m, (room[1] - 2 * EDGE) / box.width_m)
        return cls(EDGE, EDGE + box.width_m * scale, scale, box.length_m, box.width_m)

    def x(self, x_m: float) -> float:
        return self.left + x_m * self.scale

    def y(self, y_m: float) -> float:
        return self.front - y_m * self.scale

    def block(self, x_m: float, y_m: float, length_m: float, depth_m: float) -> dict[str, float]:
        """A rectangle about a middle, in pixels."""
        return {
            "x": self.x(x_m - length_m / 2),
            "y": self.y(y_m + depth_m / 2),
            "w": length_m * self.scale,
            "h": depth_m * self.scale,
        }

    @property
    def grid(self) -> tuple[Floats, Floats]:
        """Places in m: x (COLUMNS,), from the front (ROWS,)."""
        return np.linspace(0, self.length_m, COLUMNS), np.linspace(0, self.width_m, ROWS)


@dataclass(frozen=True)
class FloorLook:
    """Which state is drawn, in which units, with which words for kinds, in how much room (pixels).

    `hides` are told as they are, `reaches` say how far below each lamp it burns (m).
    """

    season: str
    phase: str
    units: KeeperUnits
    names: dict[str, str]
    room: tuple[float, float]
    hides: list[tuple[HideState, str, str]]
    reaches: dict[int, float]


def draw(plan: HabitatPlan, profile: Profile, found: Assessment, look: FloorLook, colours: tuple[float, float]) -> dict[str, Any]:
    """Return the floor with everything at its place; `colours` are the coldest and the hottest °C that the wash tells apart."""
    frame, steady = FloorFrame.of(plan, look.room), found.climate.states[look.season, look.phase]
    drawn = {
        "width": frame.x(plan.enclosure.length_m) + EDGE,
        "height": frame.front + EDGE,
        "frame": frame,
        "x": frame.left,
        "y": frame.y(frame.width_m),
        "w": frame.length_m * frame.scale,
        "h": frame.width_m * frame.scale,
        "front_y": frame.front,
        "zone_y": frame.front - ZONE_PX,
        "front_end": frame.x(frame.length_m),
        "things": furniture.from_above(plan, frame),
        "pool": frame.block(plan.pool.x_m, frame.width_m / 2, plan.pool.length_m, frame.width_m) if plan.pool else None,
        "tubes": [_tube(plan, lamp, lamp.tube_m, frame, across=lamp.across) for lamp in plan.uv_lamps],
        "bars": [_tube(plan, bar, bar.length_m, frame, across=False) for bar in plan.light_bars],
        "heaters": _heaters(plan, steady, frame),
        "lying": _lying(plan, steady, frame),
        "body": _body(plan, profile, found, frame),
        "parts": _parts(plan, frame, look),
        "hides": overlays.hide_labels_from_above(plan, look.hides, frame),
        "free": overlays.free_floor(plan, frame),
        "zones": overlays.zones(plan, steady.ground_c, frame, look.units),
        "burns": overlays.burns_from_above(plan, look.reaches, enclosure_case(plan), frame),
    }
    surface = surface_c(plan, steady, frame)
    drawn["wash"] = wash(surface, *colours)
    drawn["warm"] = _warm_patch(plan, frame)
    drawn["uv"] = _uv(plan, found, frame) if look.phase == "day" else []
    return drawn


def surface_c(plan: HabitatPlan, steady: SteadyState, frame: FloorFrame) -> Floats:
    """What a surface like the basking place's has on the ground at the frame's grid, °C (ROWS, COLUMNS)."""
    case = enclosure_case(plan)
    x, y = frame.grid
    ground = np.interp(x, (np.arange(ZONES) + 0.5) * frame.length_m / ZONES, np.array(steady.ground_c))
    field = _irradiance(case, frame, steady.duty, case.spot.top_m)
    at_spot = float(np.interp(case.spot.x_m, x, field[_row(frame, spot_y_m(plan))]))
    if at_spot < 1.0:
        return np.repeat(ground[None, :], y.size, axis=0)
    rise = steady.predictions["basking_surface"].value - float(np.interp(case.spot.x_m, x, ground))
    return np.asarray(ground[None, :] + max(rise, 0.0) * np.minimum(field / at_spot, 1.5))


def _row(frame: FloorFrame, y_m: float) -> int:
    return round(y_m / frame.width_m * (ROWS - 1))


def _irradiance(case: EnclosureCase, frame: FloorFrame, duty: tuple[float, ...], height_m: float) -> Floats:
    """W/m² of all lamps' beams at a height on the frame's grid, (ROWS, COLUMNS)."""
    x, y = frame.grid
    total = np.zeros((ROWS, COLUMNS))
    for heater, share in zip(case.heaters, duty, strict=True):
        kind = heaters.HEATERS[heater.kind]
        if kind.place != "over" or share <= 0 or heater.height_m <= height_m:
            continue
        watts = kind.radiant_share * heater.watts * share * passed_share(case, heater)
        aside = y[:, None] - frame.width_m / 2 - heater.off_m
        beam = (watts, heater.half_angle_deg, kind.face_m)
        total += heaters.irradiance(*beam, x[None, :] - heater.x_m, aside, heater.height_m - height_m)
    return total


def _warm_patch(plan: HabitatPlan, frame: FloorFrame) -> str:
    """The line within which the lamps over the basking place give at least half their most: the warm patch, as a path."""
    case = enclosure_case(plan)
    lamps = basking_lamps(case)
    field = _irradiance(case, frame, tuple(float(index in lamps) for index in range(len(case.heaters))), case.spot.top_m)
    return "" if field.max() <= 0 else _path(field, 0.5 * float(field.max()), frame)


def _path(field: Floats, level: float, frame: FloorFrame) -> str:
    lines: Any = contourpy.contour_generator(*frame.grid, field).lines(level)
    return "".join("M" + "L".join(f"{frame.x(px):.0f},{frame.y(py):.0f}" for px, py in piece) for piece in lines if len(piece) > 3)


def _uv(plan: HabitatPlan, found: Assessment, frame: FloorFrame) -> list[dict[str, Any]]:
    """Lines of equal UV index at the animal's back, on the ground and on the basking place, with their values."""
    lamps = uv_lamps_on(plan, found.today)
    if not lamps:
        return []
    part = plan.platform
    raised = None if part is None else (part.x_m, part.length_m, y_of(plan, part), depth_of(plan, part), part.top_m)
    back_m = plan.ground.depth_m + found.body.back_m
    return _uv_lines(frame, lamps, shades_from_above(plan), back_m, raised, spot_y_m(plan))


@lru_cache(maxsize=KEPT)
def _uv_lines(
    frame: FloorFrame,
    lamps: tuple[ultraviolet.Lamp, ...],
    shades: tuple[ultraviolet.Shade, ...],
    back_m: float,
    raised: tuple[float, float, float, float, float] | None,
    spot_y_m: float,
) -> list[dict[str, Any]]:
    """The same by all that they follow from; `raised` is the basking place: its middle, length, y, depth and height (m)."""
    x, y = frame.grid
    height = np.full((ROWS, COLUMNS), back_m)
    if raised is not None:
        x_m, length_m, y_m, depth_m, height_m = raised
        on_it = np.abs(x[None, :] - x_m) <= length_m / 2
        height[on_it & (np.abs(y[:, None] - y_m) <= depth_m / 2)] += height_m
    field = ultraviolet.index_at(lamps, x[None, :], height, shades, y[:, None] - spot_y_m)
    levels = [level for level in UV_LEVELS if field.min() < level < field.max()][-MOST_UV_LINES:]
    drawn = []
    for level in levels:
        lines: Any = contourpy.contour_generator(x, y, field).lines(level)
        longest = max(lines, key=len)
        px, py = longest[int(longest[:, 0].argmax())]
        drawn.append({"path": _path(field, level, frame), "text": written(level), "x": frame.x(float(px)), "y": frame.y(float(py))})
    return drawn


def _body(plan: HabitatPlan, profile: Profile, found: Assessment, frame: FloorFrame) -> dict[str, float] | None:
    """The animal on its basking place, as what the warm patch has to cover: an oval of its length and width."""
    if found.body.length_m is None or not basking_lamps(enclosure_case(plan)):
        return None
    form = profile.body.form
    long_m = found.body.length_m * (COIL_SHARE if form == "snake" else 1.0)
    wide_m = long_m if form == "snake" else 2 * WIDTHS.get(form, SLENDER) * long_m
    place = {"x": frame.x(spot_x_m(plan)), "y": frame.y(spot_y_m(plan))}
    return place | {"rx": long_m / 2 * frame.scale, "ry": wide_m / 2 * frame.scale}


def _tube(plan: HabitatPlan, hung: UvLamp | LightBar, length_m: float, frame: FloorFrame, *, across: bool) -> dict[str, float]:
    """A tube or bar from above, along or across."""
    thick_m = TUBE_PX / frame.scale
    sides = (thick_m, length_m) if across else (length_m, thick_m)
    return frame.block(hung.x_m, y_of(plan, hung), *sides)


def _heaters(plan: HabitatPlan, steady: SteadyState, frame: FloorFrame) -> list[dict[str, Any]]:
    """What shines down, as discs."""
    found = []
    for index, heater in enumerate(plan.heaters):
        if heater.hangs:
            kind = heaters.HEATERS[heater.kind]
            place = {"x": frame.x(heater.x_m), "y": frame.y(y_of(plan, heater)), "r": max(kind.face_m / 2 * frame.scale, 5.0)}
            found.append(place | {"on": steady.duty[index] > 0.0, "light": kind.light})
    return found


def _lying(plan: HabitatPlan, steady: SteadyState, frame: FloorFrame) -> list[dict[str, Any]]:
    """What does not shine down: a mat or cable under the ground, a tube in the air or the water, as it lies."""
    found = []
    for index, heater in enumerate(plan.heaters):
        place = heaters.HEATERS[heater.kind].place
        if place in ("under", "air", "water"):
            length_m = heater.length_m or (THICK_M if place == "water" else USUAL_LENGTH_M)
            deep_m = min(length_m, frame.width_m) if place == "under" else THICK_M
            block = frame.block(heater.x_m, y_of(plan, heater), min(length_m, frame.length_m), deep_m)
            found.append(block | {"kind": place, "on": steady.duty[index] > 0.0})
    return found


def _parts(plan: HabitatPlan, frame: FloorFrame, look: FloorLook) -> list[dict[str, Any]]:
    """What can be dragged on the floor: path, place in pixels and in m, its name, and its place in words."""
    places: list[tuple[str, float, float, str]] = []
    aside: dict[str, tuple[float, float]] = {}  # a lamp hangs over its middle: those are taken hold of elsewhere
    for at, thing in enumerate(plan.things):
        places.append((f"things.{at}", thing.x_m, y_of(plan, thing), thing.name or look.names[thing.kind]))
        if thing.basking:
            half_x, half_y = (half * frame.scale for half in half_sides_m(plan, thing))
            aside[f"things.{at}"] = -max(half_x - GRIP_PX, 0.0), max(half_y - GRIP_PX, 0.0)
    for at, lamp in enumerate(plan.uv_lamps):
        end = lamp.tube_m / 2 * frame.scale - GRIP_PX
        aside[f"uv_lamps.{at}"] = (0.0, -end) if lamp.across else (end, 0.0)
    for group in ("heaters", "uv_lamps", "light_bars"):
        for at, hung in enumerate(getattr(plan, group)):
            if group != "heaters" or hung.hangs or hung.kind == "tube-heater":
                places.append((f"{group}.{at}", hung.x_m, y_of(plan, hung), look.names[hung.kind]))
    units = look.units
    found = []
    for path, x_m, y_m, name in places:
        told = {"along": units.say(Measure(x_m, "m")), "front": units.say(Measure(y_m, "m"))}
        said = _("%(along)s from the left, %(front)s from the front") % told
        place = {"x": f"{frame.x(x_m):.1f}", "y": f"{frame.y(y_m):.1f}", "x_m": f"{x_m:.4g}", "y_m": f"{y_m:.4g}"}
        off = aside.get(path, (0.0, 0.0))
        grip = {"off_x": f"{off[0]:.1f}", "off_y": f"{off[1]:.1f}"}
        found.append(place | grip | {"path": path, "name": name, "said": said})
    return found
