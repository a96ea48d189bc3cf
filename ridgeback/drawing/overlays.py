"""What is laid over both drawings: floor that is free, the ground's warmth zone by zone, each hide's state, how far lamps burn."""

import math
from typing import Any, Final

from husbandry.animal.subject import Subject
from husbandry.assess.result import Assessment
from husbandry.assess.views import HideState, hide_states
from husbandry.climate.case import EnclosureCase
from husbandry.climate.nodes import ZONES
from husbandry.furnishing.floor import Footprint, free_cells
from husbandry.inputs.furniture import footprints
from husbandry.plan.geometry import surface_m, top_of, y_of
from husbandry.plan.habitat import HabitatPlan
from ridgeback.drawing.furniture import Scaled
from ridgeback.units import KeeperUnits

CELL_M: Final = 0.02
LABEL_PX: Final = 22.0  # below a hide's middle, clear of what it is dragged by
LINE_PX: Final = 13.0
LEAST_BURN_PX: Final = 4.0


def free_floor(plan: HabitatPlan, frame: Scaled) -> str:
    """The floor that nothing stands on, as a path of strips."""
    box = plan.enclosure
    places = footprints(plan)
    if plan.pool is not None:
        places = (*places, Footprint(plan.pool.x_m, box.width_m / 2, plan.pool.length_m, box.width_m))
    free, _cell = free_cells(box.length_m, box.width_m, places, CELL_M)
    rows, columns = free.shape
    cell = box.length_m / columns
    high = box.width_m / rows * frame.scale
    strips = []
    for row in range(rows):
        top = float(frame.y((row + 1) * box.width_m / rows))
        begin = None
        for column in range(columns + 1):
            if column < columns and free[row, column]:
                begin = column if begin is None else begin
            elif begin is not None:
                left, right = (float(frame.x(min(at * cell, box.length_m))) for at in (begin, column))
                strips.append(f"M{left:.0f} {top:.1f}h{right - left:.0f}v{high:.1f}h{left - right:.0f}z")
                begin = None
    return "".join(strips)


def zones(plan: HabitatPlan, ground_c: tuple[float, ...], frame: Scaled, units: KeeperUnits) -> list[dict[str, Any]]:
    """How warm the ground is in each fifth of the length: the line at its right, and its temperature at its middle."""
    length_m = plan.enclosure.length_m
    found = []
    for zone, value in enumerate(ground_c):
        number, symbol = units.number(value, "degC")
        line = float(frame.x((zone + 1) * length_m / ZONES)) if zone < ZONES - 1 else None
        found.append({"x": float(frame.x((zone + 0.5) * length_m / ZONES)), "line": line, "text": f"{number} {symbol}"})
    return found


def burns_from_above(plan: HabitatPlan, reaches: dict[int, float], case: EnclosureCase, frame: Scaled) -> list[dict[str, float]]:
    """Circles about the lamps within which what gets up to them is burnt."""
    found = []
    for index, reach_m in reaches.items():
        lamp = plan.heaters[index]
        radius = reach_m * math.sin(math.radians(min(case.heaters[index].half_angle_deg, 90.0))) * frame.scale
        if radius >= LEAST_BURN_PX:
            found.append({"x": float(frame.x(lamp.x_m)), "y": float(frame.y(y_of(plan, lamp))), "r": radius})
    return found


def burns_from_the_front(plan: HabitatPlan, reaches: dict[int, float], case: EnclosureCase, frame: Scaled) -> list[str]:
    """The same from the front: pieces of a pie below the lamps."""
    found = []
    for index, reach_m in reaches.items():
        lamp, radius = plan.heaters[index], reach_m * frame.scale
        if radius < LEAST_BURN_PX:
            continue
        half = math.radians(min(case.heaters[index].half_angle_deg, 89.0))
        x, y = float(frame.x(lamp.x_m)), float(frame.y(lamp.height_m))
        across, down = radius * math.sin(half), radius * math.cos(half)
        found.append(
            f"M{x:.1f} {y:.1f}L{x - across:.1f} {y + down:.1f}A{radius:.1f} {radius:.1f} 0 0 0 {x + across:.1f} {y + down:.1f}Z"
        )
    return found


def hides(subject: Subject, found: Assessment, season: str, phase: str, units: KeeperUnits) -> list[tuple[HideState, str, str]]:
    """Every hide with how warm it is to lie in, and how damp, and what is wrong with it: "tight", "lit" or nothing."""
    said = []
    for item in hide_states(subject, found.climate, season):
        at_c, humidity = (item.day_c, item.humidity) if phase == "day" else (item.night_c, item.night_humidity)
        degrees, symbol = units.number(at_c, "degC")
        wrong = "tight" if item.tight else "" if item.dark else "lit"
        damp = "" if humidity is None else f" · {humidity:.0f} %"
        said.append((item, f"{degrees} {symbol}{damp}", wrong))
    return said


def hide_labels_from_above(plan: HabitatPlan, said: list[tuple[HideState, str, str]], frame: Scaled) -> list[dict[str, Any]]:
    """The labels beside the hides on the floor plan."""
    return [
        {"x": float(frame.x(item.thing.x_m)), "y": float(frame.y(y_of(plan, item.thing))) + LABEL_PX, "text": text, "wrong": wrong}
        for item, text, wrong in said
        if not item.thing.lets_under
    ]


def hide_labels_from_the_front(plan: HabitatPlan, said: list[tuple[HideState, str, str]], frame: Scaled) -> list[dict[str, Any]]:
    """The labels of the hides in the section: below them in the ground where it is deep enough, else above; neighbours by turns."""
    order, found = sorted(said, key=lambda one: one[0].thing.x_m), []
    for place, (item, text, wrong) in enumerate(order):
        x, y, turn = item.thing.x_m, y_of(plan, item.thing), LINE_PX * (place % 2)
        below = item.thing.stands == "ground" and surface_m(plan, x, y) * frame.scale > 2 * LINE_PX + LINE_PX / 2
        at = (
            float(frame.y(surface_m(plan, x, y))) + LINE_PX + turn
            if below
            else float(frame.y(top_of(plan, item.thing))) - 6.0 - turn
        )
        found.append({"x": float(frame.x(x)), "y": at, "text": text, "wrong": wrong})
    return found
