"""The floor from above with the circles that the mister's nozzles reach."""

from typing import Any, Final

from husbandry.wiring.nozzles import Spray

WIDTH: Final = 420.0
EDGE: Final = 10.0


def draw(length_m: float, width_m: float, found: Spray) -> dict[str, Any]:
    """Return coordinates in px: the floor, front edge below, and each nozzle with its circle."""
    scale = (WIDTH - 2 * EDGE) / length_m
    deep = width_m * scale
    return {
        "width": WIDTH,
        "height": deep + 2 * EDGE,
        "x": EDGE,
        "y": EDGE,
        "long": length_m * scale,
        "deep": deep,
        "radius": found.radius_m * scale,
        "nozzles": [{"x": EDGE + x_m * scale, "y": EDGE + deep - y_m * scale} for x_m, y_m in found.places],
    }
