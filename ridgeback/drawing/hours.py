"""The section through the day: what the wash, the lines, the dots and the numbers are at each half hour."""

from typing import Any, Final

import numpy as np
from numpy.typing import NDArray

from husbandry.assess.result import Assessment
from husbandry.climate.air import relative_humidity
from husbandry.climate.nodes import ZONES, nodes_of
from husbandry.inputs.climate_case import enclosure_case
from husbandry.inputs.light_sources import shades, uv_sources
from husbandry.plan.habitat import HabitatPlan
from husbandry.units import clock_text
from ridgeback.drawing import fields, section
from ridgeback.units import KeeperUnits

Floats = NDArray[np.float64]

EVERY_MIN: Final = 30


def frames(plan: HabitatPlan, found: Assessment, season: str, units: KeeperUnits) -> list[dict[str, Any]]:
    """Return 48 pictures of one season's day, first at 00:30, in the terms that clockwork.js puts into the drawing."""
    day, case = found.days[season], enclosure_case(plan)
    nodes, frame = nodes_of(case), section.frame_of(plan)
    factor, offset = (1.8, 32.0) if units.temperature == "degF" else (1.0, 0.0)
    sources = uv_sources(plan, found.today)
    by_running: dict[tuple[bool, ...], Floats] = {}
    pictures = []
    for minute in range(EVERY_MIN, 24 * 60 + 1, EVERY_MIN):
        row = minute - 1
        node_c, vapour = day.nodes[row], float(day.vapour_pa[row])
        air = fields.air_field(frame, node_c[nodes.air].reshape(-1, ZONES))
        lit = bool(day.lit[row]) or any(lamp.runs_at(row / 60) for lamp in plan.uv_lamps)
        # Each lamp by its own timer; few sets of them run in one day.
        running = tuple(hung.runs_at(row / 60) for _path, _lamp, hung in sources)
        if running not in by_running:
            lamps = tuple(lamp for (_path, lamp, _hung), on in zip(sources, running, strict=True) if on)
            by_running[running] = fields.uv_field(frame, lamps, shades(plan))
        lines = fields.isotherms(frame, air, (factor, offset), 4.0 if factor > 1 else 2.0)
        ends = {end: float(getattr(day, f"{end}_air")[row]) for end in ("warm", "cool")}
        pictures.append(
            {
                "clock": clock_text(minute / 60),
                "wash": fields.wash(air, *section.wash_range(found, air)),
                "lines": [{"path": line.path, "text": line.text, "x": round(line.x), "y": round(line.y)} for line in lines],
                "dots": fields.stipple(frame, air, vapour),
                "ends": {end: " ".join(units.number(value, "degC")) for end, value in ends.items()},
                "damp": {end: f"{min(float(relative_humidity(vapour, value)), 100.0):.0f} %" for end, value in ends.items()},
                "water": "" if day.water_c is None else " ".join(units.number(float(day.water_c[row]), "degC")),
                "spot": " ".join(units.number(float(day.basking_surface[row]), "degC")),
                "working": [bool(share > 0) for share in day.duty[row, : len(plan.heaters)]],
                "lit": lit,
                "samples": fields.samples(air, vapour, section.ground_layers(plan, node_c), by_running[running], units),
            }
        )
    return pictures
