"""The ground in the section: its layers from the floor up, with slopes, and the parts of the floor with layers of their own."""

from typing import Any

from husbandry.plan.grounds import GroundArea, Layer
from husbandry.plan.habitat import HabitatPlan
from ridgeback.drawing.fields import Frame


def beds(plan: HabitatPlan, frame: Frame) -> list[dict[str, Any]]:
    """Every layer as a path with the class of its main material, cut midway from front to back."""
    length_m = plan.enclosure.length_m
    spans = sorted(
        (max(area.x_m - area.length_m / 2, 0.0), min(area.x_m + area.length_m / 2, length_m), area) for area in _cut(plan)
    )
    found, left_m = [], 0.0
    for begin_m, end_m, area in spans:
        found += _bed(plan, frame, plan.ground.layers, left_m, begin_m)
        found += _bed(plan, frame, area.layers, begin_m, end_m)
        left_m = max(left_m, end_m)
    return found + _bed(plan, frame, plan.ground.layers, left_m, length_m)


def _cut(plan: HabitatPlan) -> list[GroundArea]:
    """The areas that the section cuts: those that reach over the middle from front to back."""
    middle_m = plan.enclosure.width_m / 2
    return [area for area in plan.ground.areas if abs(area.y_m - middle_m) <= area.width_m / 2]


def _bed(plan: HabitatPlan, frame: Frame, layers: tuple[Layer, ...], begin_m: float, end_m: float) -> list[dict[str, Any]]:
    """The layers of one span along the length; the topmost takes the slope."""
    if end_m - begin_m <= 0:
        return []
    found, low_m = [], 0.0
    for index, layer in enumerate(layers):
        high_m = low_m + layer.depth_m
        top = index == len(layers) - 1
        lefts = [_risen(plan, begin_m, height_m, slopes=slopes) for height_m, slopes in ((low_m, False), (high_m, top))]
        rights = [_risen(plan, end_m, height_m, slopes=slopes) for height_m, slopes in ((low_m, False), (high_m, top))]
        corners = ((begin_m, lefts[0]), (begin_m, lefts[1]), (end_m, rights[1]), (end_m, rights[0]))
        path = "M" + "L".join(f"{float(frame.x(x)):.1f},{float(frame.y(y)):.1f}" for x, y in corners) + "Z"
        found.append({"d": path, "css": f"{layer.main}{' damp' if layer.damp else ''}"})
        low_m = high_m
    return found


def _risen(plan: HabitatPlan, x_m: float, height_m: float, *, slopes: bool) -> float:
    if not slopes:
        return height_m
    return max(height_m + plan.ground.rise_right_m * (x_m / plan.enclosure.length_m - 0.5), 0.0)
