"""The floor plan: the habitat from above, in a small drawing of its own."""

from typing import Any

from husbandry.plan.habitat import HabitatPlan


def draw(plan: HabitatPlan, room: tuple[float, float]) -> dict[str, Any]:
    """Return the floor with everything's place along the length, fitted into `room` (pixels)."""
    box = plan.enclosure
    scale = min((room[0] - 4) / box.length_m, (room[1] - 4) / box.width_m)
    left, top = 2.0, 2.0
    items = []
    middle = top + box.width_m * scale / 2
    if plan.platform is not None:
        side = plan.platform.length_m * scale
        deep = min(side, box.width_m * scale * 0.7)
        items.append(
            {"kind": "platform", "x": left + plan.platform.x_m * scale - side / 2, "y": middle - deep / 2, "w": side, "h": deep}
        )
    for index, hide in enumerate(plan.hides):
        side = hide.length_m * scale
        deep = min(side * 0.8, box.width_m * scale * 0.45)
        y = top + 3 if index % 2 else top + box.width_m * scale - deep - 3
        items.append(
            {"kind": "humid" if hide.humid else "hide", "x": left + hide.x_m * scale - side / 2, "y": y, "w": side, "h": deep}
        )
    bowl, pool = plan.bowl, plan.pool
    return {
        "width": box.length_m * scale + 4,
        "height": box.width_m * scale + 4,
        "x": left,
        "y": top,
        "w": box.length_m * scale,
        "h": box.width_m * scale,
        "items": items,
        "pool": {"x": left + (pool.x_m - pool.length_m / 2) * scale, "w": pool.length_m * scale} if pool else None,
        "bowl": {"x": left + bowl.x_m * scale, "y": middle, "r": bowl.diameter_m * scale / 2} if bowl else None,
        "tubes": [
            {"x": left + (lamp.x_m - lamp.tube_m / 2) * scale, "w": lamp.tube_m * scale, "y": middle - 2} for lamp in plan.uv_lamps
        ],
        "heaters": [{"x": left + heater.x_m * scale, "y": middle} for heater in plan.heaters],
    }
