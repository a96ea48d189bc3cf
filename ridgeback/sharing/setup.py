"""The set-up drawing: the enclosure from the front and from above at a true scale, where everything stands, and the cut list."""

from typing import Any, Final

from husbandry.assessment import Measure
from husbandry.build.cutting import cut_list
from husbandry.plan.geometry import depth_of, top_of, y_of
from husbandry.plan.habitat import HabitatPlan
from ridgeback.language import cutwords, wording
from ridgeback.language.names import CHOICES
from ridgeback.units import KeeperUnits, written

SCALES: Final = (2, 5, 10, 20, 25, 50, 100)
PAPER_MM: Final = (270.0, 88.0)  # for each of the two views


def scale_of(drawn: dict[str, Any]) -> int:
    """The largest scale, 1 to so much, at which both views fit on a sheet."""
    floor = drawn["floor"]
    views = ((drawn, drawn["frame"].scale), (floor, floor["frame"].scale))
    for scale in SCALES:
        sizes = [(float(view["width"]) / px * 1000 / scale, float(view["height"]) / px * 1000 / scale) for view, px in views]
        if all(width <= PAPER_MM[0] and height <= PAPER_MM[1] for width, height in sizes):
            return scale
    return SCALES[-1]


def views(drawn: dict[str, Any], scale: int) -> dict[str, dict[str, str]]:
    """How large each view is on paper, mm."""

    def size(view: dict[str, Any]) -> dict[str, str]:
        px = view["frame"].scale
        return {side: f"{float(view[side]) / px * 1000 / scale:.2f}" for side in ("width", "height")}

    return {"front": size(drawn), "above": size(drawn["floor"])}


def places(plan: HabitatPlan, units: KeeperUnits) -> list[dict[str, str]]:
    """Where everything stands and hangs: its size, from the left, from the front, how high."""
    names = wording.part_names()

    def said(value_m: float) -> str:
        return units.say(Measure(value_m, "m"))

    rows = []
    for thing in plan.things:
        sides = (thing.length_m, depth_of(plan, thing), thing.height_m)
        rows.append(
            {
                "name": thing.name or names[thing.kind],
                "size": " × ".join(said(side) for side in sides),
                "left": said(thing.x_m),
                "front": said(y_of(plan, thing)),
                "high": said(top_of(plan, thing)),
            }
        )
    hung = [(f"{CHOICES['heater'][one.kind]}, {written(one.watts)} W", one) for one in plan.heaters]
    hung += [(str(CHOICES["tube"][one.kind]), one) for one in plan.uv_lamps]  # type: ignore[misc]
    for name, one in hung:
        rows.append({"name": name, "size": "", "left": said(one.x_m), "front": said(y_of(plan, one)), "high": said(one.height_m)})
    return rows


def cuts(plan: HabitatPlan) -> list[dict[str, str]]:
    """The cut list in mm, which is what is cut by."""
    rows = []
    for piece in cut_list(plan):
        sides = f"{1000 * piece.length_m:.0f} × {1000 * piece.width_m:.0f}"
        rows.append(
            {
                "count": str(piece.count),
                "name": cutwords.piece(piece.what),
                "sides": f"{1000 * piece.length_m:.0f}, ⌀ {1000 * piece.width_m:.0f}" if piece.round_ else sides,
                "thick": "" if piece.thick_m is None else f"{1000 * piece.thick_m:.0f}",
            }
        )
    return rows
