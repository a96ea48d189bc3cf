"""Solve: the height at which a heater gives the wanted surface, everything else left as it is."""

from dataclasses import replace
from typing import Final

from scipy.optimize import brentq

from husbandry.climate.case import EnclosureCase
from husbandry.climate.steady import settle

CLOSEST_M: Final = 0.10  # nearer than this a lamp burns what reaches up to it (trade)


def surface_at(case: EnclosureCase, index: int, height_m: float, season: str) -> float:
    """Return the basking surface (°C) by day with heater `index` at `height_m`, full on."""
    moved = replace(case.heaters[index], height_m=height_m, control="none")
    heaters = (*case.heaters[:index], moved, *case.heaters[index + 1 :])
    settled = settle(replace(case, heaters=heaters), spread=False, seasons=(season,)).settled[season, "day"]
    return settled.predictions["basking_surface"].value


def height_for(case: EnclosureCase, index: int, wanted_c: float, season: str, highest_m: float) -> float | None:
    """Return the height (m above the inner floor) that gives `wanted_c` by day with the heater full on, to 3 mm.

    None when the whole travel is too cold; `highest_m` when even there it is too hot. Straight under a lamp higher is
    never hotter, so there is one answer; off its axis this finds one of them.
    """
    lowest_m = case.spot.top_m + CLOSEST_M
    if highest_m <= lowest_m:
        return None
    top = surface_at(case, index, highest_m, season) - wanted_c
    if top >= 0:
        return highest_m
    bottom = surface_at(case, index, lowest_m, season) - wanted_c
    if bottom < 0:
        return None
    solved = brentq(lambda height: surface_at(case, index, height, season) - wanted_c, lowest_m, highest_m, xtol=0.003, rtol=1e-3)
    return float(solved)
