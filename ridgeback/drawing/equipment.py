"""Everything technical in the section: heaters, tubes, bars, vents and the thermostats' probes."""

import math
from typing import Any, Final

from husbandry.climate.heaters import HEATERS
from husbandry.inputs import probe_places
from husbandry.inputs.climate_case import USUAL_LENGTH_M
from husbandry.plan.equipment import Heater
from husbandry.plan.geometry import basking_top_m
from husbandry.plan.habitat import HabitatPlan
from ridgeback.drawing.fields import Frame

PROBES_APART_M: Final = 0.03


def heater(plan: HabitatPlan, index: int, frame: Frame, duty: float) -> dict[str, Any]:
    heater = plan.heaters[index]
    x, y = float(frame.x(heater.x_m)), float(frame.y(heater.height_m))
    kind = HEATERS[heater.kind]
    angle = heater.half_angle_deg or kind.half_angle_deg
    floor_y = float(frame.y(basking_top_m(plan, heater.x_m)))
    return {
        "x": x,
        "y": y,
        "index": index,
        "light": kind.light,
        "panel": heater.kind == "radiant-panel",
        "on": duty > 0,
        "cone": _cone(x, y, floor_y, angle, frame),
        "floor": floor_y,
        "guarded": heater.guarded,
        "hung": plan.enclosure.lid == "open" or heater.height_m > plan.enclosure.height_m + 0.03,
    }


def _cone(x: float, y: float, floor_y: float, half_angle_deg: float, frame: Frame) -> str:
    reach = (floor_y - y) * math.tan(math.radians(min(half_angle_deg, 75)))
    left, right = max(x - reach, frame.left), min(x + reach, float(frame.x(frame.length_m)))
    return f"M{x - 5:.1f},{y:.1f}L{left:.1f},{floor_y:.1f}L{right:.1f},{floor_y:.1f}L{x + 5:.1f},{y:.1f}Z"


def tube(plan: HabitatPlan, index: int, frame: Frame, day: bool) -> dict[str, Any]:
    lamp = plan.uv_lamps[index]
    half = lamp.tube_m / 2
    return {
        "x": float(frame.x(lamp.x_m - half)),
        "w": lamp.tube_m * frame.scale,
        "y": float(frame.y(lamp.height_m)),
        "path": f"uv_lamps.{index}",
        "top": float(frame.y(lamp.height_m)) - 5,
        "end": float(frame.x(lamp.x_m + half)),
        "hung": plan.enclosure.lid == "open" or lamp.height_m > plan.enclosure.height_m + 0.03,
        "on": day,
        "reflector": lamp.reflector,
    }


def lying(heater: Heater, frame: Frame, duty: float) -> dict[str, Any]:
    """A heater that does not shine down: under the ground, on the wall, in the air or in the water."""
    half = (heater.length_m or USUAL_LENGTH_M) / 2
    place = HEATERS[heater.kind].place
    left, right = max(heater.x_m - half, 0.0), min(heater.x_m + half, frame.length_m)
    y = {"under": frame.floor - 3, "wall": float(frame.y(0.5 * frame.height_m)), "water": float(frame.y(0.02))}
    return {
        "kind": heater.kind,
        "place": place,
        "on": duty > 0,
        "x": float(frame.x(left)),
        "end": float(frame.x(right)),
        "w": (right - left) * frame.scale,
        "middle": float(frame.x(heater.x_m)),
        "y": y.get(place, float(frame.y(heater.height_m))),
    }


def bar(plan: HabitatPlan, index: int, frame: Frame, day: bool) -> dict[str, Any]:
    bar = plan.light_bars[index]
    return {
        "x": float(frame.x(bar.x_m - bar.length_m / 2)),
        "w": bar.length_m * frame.scale,
        "y": float(frame.y(bar.height_m)),
        "top": float(frame.y(bar.height_m)) - 6,
        "on": day,
    }


def vent(plan: HabitatPlan, index: int, frame: Frame) -> dict[str, Any]:
    """An opening, drawn by turns in the left and the right wall; as high as a slot over a third of the width would be."""
    vent = plan.enclosure.vents[index]
    high = max(min(vent.area_m2 / (plan.enclosure.width_m / 3), 0.15) * frame.scale, 7.0)
    x = frame.left if index % 2 == 0 else frame.left + frame.length_m * frame.scale
    return {"x": x, "y": float(frame.y(vent.height_m)) - high / 2, "h": high}


def probes(plan: HabitatPlan, frame: Frame) -> list[dict[str, Any]]:
    """All probes where they lie, with a lead up to the lid: the thermostats' by their heater's number, thermometers' by a letter.

    Thermostats' probes at one place stand beside each other.
    """
    places = [(str(index + 1), *place, False) for index, place in probes_at(plan).items()]
    places += [(chr(ord("a") + index), probe.x_m, probe.height_m, True) for index, probe in enumerate(plan.probes)]
    lid = float(frame.y(frame.height_m))
    return [
        {"x": float(frame.x(x_m)), "y": float(frame.y(height_m)), "lid": lid, "number": sign, "reads": reads}
        for sign, x_m, height_m, reads in places
    ]


def probes_at(plan: HabitatPlan) -> dict[int, tuple[float, float]]:
    """Place and height of every thermostat's probe by its heater."""
    taken: dict[str, int] = {}
    found = {}
    for index, heater in enumerate(plan.heaters):
        probe = heater.thermostat.probe
        if heater.thermostat.kind == "none":
            continue
        places = probe_places.probe_places(plan, index)
        x_m, height_m = places.get(probe, places["basking-surface"])
        aside = 0 if probe == "own" else taken.get(probe, 0)
        taken[probe] = aside + 1
        found[index] = min(x_m + PROBES_APART_M * aside, plan.enclosure.length_m), height_m
    return found
