"""Solve: the height at which a heater gives the wanted surface, everything else left as it is."""

from dataclasses import replace
from typing import Final

from scipy.optimize import brentq

from husbandry.climate.booking import spot_irradiance
from husbandry.climate.case import EnclosureCase
from husbandry.climate.settled import Climate
from husbandry.climate.steady import settle

CLOSE_K: Final = 0.1
ROUNDS: Final = 8
CLOSEST_M: Final = 0.10  # nearer than this a lamp burns what reaches up to it (trade)


def surface_at(case: EnclosureCase, index: int, height_m: float, season: str, near: Climate | None = None) -> float:
    """Return the basking surface (°C) by day with heater `index` at `height_m`, full on; `near` as for `settle`."""
    moved = replace(case.heaters[index], height_m=height_m, control="none")
    heaters = (*case.heaters[:index], moved, *case.heaters[index + 1 :])
    settled = settle(replace(case, heaters=heaters), spread=False, seasons=(season,), near=near).settled[season, "day"]
    return settled.predictions["basking_surface"].value


def height_for(
    case: EnclosureCase, index: int, wanted_c: float, season: str, highest_m: float, near: Climate | None = None
) -> float | None:
    """Return the height (m above the inner floor) that gives `wanted_c` by day with the heater full on, to a few mm.

    None when the whole travel is too cold; `highest_m` when even there it is too hot. Straight under a lamp higher is
    never hotter, so there is one answer; off its axis this finds one of them.
    """
    lowest_m = case.spot.top_m + CLOSEST_M
    if highest_m <= lowest_m:
        return None
    missing = {highest_m: surface_at(case, index, highest_m, season, near) - wanted_c}
    if missing[highest_m] >= 0:
        return highest_m
    missing[lowest_m] = surface_at(case, index, lowest_m, season, near) - wanted_c
    if missing[lowest_m] < 0:
        return None
    # The surface is nearly straight in the irradiance, which costs nothing to work out.
    falls = {height: _falling(case, index, height) for height in missing}
    low, high = lowest_m, highest_m
    for _ in range(ROUNDS):
        share = missing[high] / (missing[high] - missing[low])
        wanted = falls[high] + share * (falls[low] - falls[high])

        def over(height_m: float, aim: float = wanted) -> float:
            return _falling(case, index, height_m) - aim

        crosses = over(low) * over(high) < 0
        middle = float(brentq(over, low, high, xtol=0.0005)) if crosses else (low + high) / 2
        found = surface_at(case, index, middle, season, near) - wanted_c
        if abs(found) < CLOSE_K:
            return middle
        missing[middle], falls[middle] = found, _falling(case, index, middle)
        low, high = (middle, high) if found > 0 else (low, middle)
    return (low + high) / 2


def _falling(case: EnclosureCase, index: int, height_m: float) -> float:
    """Irradiance per radiated watt at the middle of the basking surface, m⁻², with the heater at `height_m`."""
    return spot_irradiance(case.shell, replace(case.heaters[index], height_m=height_m))[0]
