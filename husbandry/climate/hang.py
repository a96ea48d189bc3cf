"""Solve: the height at which lamps give the wanted surface together, everything else left as it is."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cache
from typing import Final

import scipy

from husbandry.climate.case import EnclosureCase
from husbandry.climate.heat_gains import on_lid, spot_irradiance
from husbandry.climate.states import Climate
from husbandry.climate.steady import predict

Lamps = tuple[int, ...]  # heaters of a case by index, moved together

CLOSE_K: Final = 0.1
ROUNDS: Final = 8
BRIGHTEST_STEPS: Final = 12  # of the travel looked at for where most of the beam falls on the spot
UNDER_LID_M: Final = 0.01
CLOSEST_M: Final = 0.10  # nearer than this a lamp burns what reaches up to it (trade)


def surface_at(case: EnclosureCase, lamps: Lamps, height_m: float, season: str, near: Climate | None = None) -> float:
    """Return the basking surface (°C) by day with the heaters `lamps` at `height_m`, full on; `near` as for `solve_steady`.

    Parameters
    ----------
    case
        The enclosure.
    lamps
        The heaters that hang together, as indices of `case.heaters`.
    height_m
        Their height in m.
    season
        "summer" or "winter".
    near
        What nearly the same enclosure came to.

    Returns
    -------
    °C.

    References
    ----------
    The steady state of `steady.predict`; no source outside.
    """
    heaters = list(case.heaters)
    for index in lamps:
        heaters[index] = replace(heaters[index], height_m=height_m, control="none")
    return predict(replace(case, heaters=tuple(heaters)), season, near)["day"]["basking_surface"]


@dataclass(frozen=True)
class HangHeight:
    """The height (m above the inner floor) that gives what is wanted, or why none does.

    Then `height_m` is None. `too_hot`: even at the highest place there is more. `between`: on the mesh there is less, and
    under it more. With neither every place is too cold.
    """

    height_m: float | None
    too_hot: bool = False
    between: bool = False


def height_for(
    case: EnclosureCase, lamps: Lamps, wanted_c: float, season: str, highest_m: float, near: Climate | None = None
) -> HangHeight:
    """Find the one height at which the heaters `lamps`, full on, give `wanted_c` by day together, to a few mm.

    From the place where most of the beam falls on the spot upwards a lamp is never hotter when it is higher: there is one
    answer there. Off its axis it may be too low to shine on the spot at all; such a height is never the answer.

    Parameters
    ----------
    case, lamps, season, near
        As for `surface_at`.
    wanted_c
        The surface that is wanted, °C.
    highest_m
        The highest place there is, m.

    Returns
    -------
    HangHeight in m.

    References
    ----------
    Bisection on a monotone function; common practice.
    """
    lowest_m = case.spot.top_m + CLOSEST_M
    if highest_m <= lowest_m:
        return HangHeight(None)

    @cache
    def missing_k(height_m: float) -> float:
        return surface_at(case, lamps, height_m, season, near) - wanted_c

    pieces = _pieces(case, lamps[0], lowest_m, highest_m)
    for low, high in pieces:
        found = _between(missing_k, lambda height_m: _falling(case, lamps, height_m), low, high)
        if found is not None:
            return HangHeight(found)
    ends = [missing_k(high) > 0 for _low, high in pieces]
    return HangHeight(None, too_hot=all(ends), between=any(ends) and not all(ends))


def _pieces(case: EnclosureCase, index: int, lowest_m: float, highest_m: float) -> list[tuple[float, float]]:
    """The travel in pieces without a jump, the one where the lamp hangs first: a mesh takes its share of the beam at once."""
    if case.lid == "solid" or not lowest_m < case.height_m <= highest_m:
        return [(lowest_m, highest_m)]
    inside, above = (lowest_m, case.height_m - UNDER_LID_M), (case.height_m, highest_m)
    return [above, inside] if on_lid(case, case.heaters[index]) else [inside, above]


def _between(missing_k: Callable[[float], float], falling: Callable[[float], float], low: float, high: float) -> float | None:
    """The height (m) between two where nothing is missing; None where the one is too cold or the other too hot."""
    if high <= low or missing_k(high) > 0:
        return None
    # Where most of the beam falls on the spot: below that the lamp shines past it.
    low = max((low + (high - low) * step / BRIGHTEST_STEPS for step in range(BRIGHTEST_STEPS)), key=falling)
    if missing_k(low) < 0:
        return None
    # The surface is nearly straight in the irradiance, which costs nothing to work out.
    for _ in range(ROUNDS):
        share = missing_k(high) / (missing_k(high) - missing_k(low)) if missing_k(high) != missing_k(low) else 0.5
        wanted = falling(high) + share * (falling(low) - falling(high))

        def over(height_m: float, aim: float = wanted) -> float:
            return falling(height_m) - aim

        crosses = over(low) * over(high) < 0
        middle = float(scipy.optimize.brentq(over, low, high, xtol=0.0005)) if crosses else (low + high) / 2
        found = missing_k(middle)
        if abs(found) < CLOSE_K:
            return middle
        low, high = (middle, high) if found > 0 else (low, middle)
    return (low + high) / 2


def _falling(case: EnclosureCase, lamps: Lamps, height_m: float) -> float:
    """Irradiance at the middle of the basking surface, in W/m² but for the kind's radiant share, with the lamps at `height_m`."""
    heaters = (replace(case.heaters[index], height_m=height_m) for index in lamps)
    return sum(heater.watts * spot_irradiance(case.shell, heater)[0] for heater in heaters)
