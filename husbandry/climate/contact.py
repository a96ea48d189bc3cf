"""What touches the animal: the ground over a mat, the mat below it, and the back under a lamp.

A mat covers a part of a zone, so its own place is hotter than the zone's mean. With q W/m² under ground of resistance
R_up (ground and its surface) and R_down (floor and stand), contact rises by `q R_up R_down/(R_up + R_down)` over what it
would be without: deeper ground makes the mat hotter and the surface cooler.
"""

from dataclasses import dataclass
from functools import lru_cache
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import basking, ground, heaters, walls
from husbandry.climate.case import EnclosureCase
from husbandry.climate.heat_gains import passed_share
from husbandry.climate.network import GROUND_TO_AIR
from husbandry.climate.nodes import ZONES, nodes_of, shares

Floats = NDArray[np.float64]

HIDE_RESISTANCE: Final = 0.12  # m²K/W of a flat hide and the still air below it (estimate)
SKIN_ABSORPTANCE: Final = 0.80  # of a dark back (estimate)
LEAST_BACK_M: Final = 0.04
LEAST_REACH_M, REACH_STEP_M, MOST_REACH_M = 0.001, 0.04, 1.5  # below a lamp, looked at


@dataclass(frozen=True)
class MatContact:
    """Where a mat's heat is felt: the shares (n,) of the nodes below and above its ground; the rise in K of each at full power."""

    below: Floats
    above: Floats
    contact_rise_k: float
    surface_rise_k: float


@lru_cache(maxsize=64)
def mat_contact(case: EnclosureCase, index: int, covered_by_hide: bool = False) -> MatContact | None:
    """Return what lies on a heat mat feels of it, by two resistances in parallel: up through the ground, down through the floor.

    Parameters
    ----------
    case
        The enclosure.
    index
        The heater's place in `case.heaters`. A mat is as deep as it is long, and no deeper than the enclosure.
    covered_by_hide
        Whether a flat hide stands on that place.

    Returns
    -------
    MatContact; None for a heater that does not lie under the ground.

    References
    ----------
    Incropera and DeWitt, Fundamentals of Heat and Mass Transfer (docs/models.md [3]; recalled). Its chapter on one-dimensional
    conduction.
    """
    heater = case.heaters[index]
    if heaters.HEATERS[heater.kind].place != "under":
        return None
    nodes, along = nodes_of(case), shares(case, heater.x_m, heater.length_m)
    if case.beds:
        bed = case.beds[min(int(heater.x_m / case.length_m * ZONES), ZONES - 1)]
        conductivity, depth_m = bed.conductivity, bed.depth_m
    else:
        conductivity, depth_m = ground.conductivity(case.ground_kind, case.ground_damp), case.ground_depth_m
    through = max(depth_m, 0.002) / conductivity
    over = 1 / GROUND_TO_AIR + (HIDE_RESISTANCE if covered_by_hide else 0.0)
    up, down = through + over, 1 / walls.base_u(walls.build_of(case.kind, case.wall_m))
    both = up * down / (up + down)
    length_m = max(heater.length_m, 0.02)
    local = heater.watts / (length_m * min(length_m, case.width_m))
    zone_m2 = case.length_m / ZONES * case.width_m
    spread = heater.watts * float((along**2).sum()) / zone_m2  # what the zones under it take of it themselves
    half = nodes.layer_m[-1] / 2 / conductivity
    more = max(local - spread, 0.0) * both + spread * half * both / up
    below, above = np.zeros(nodes.count), np.zeros(nodes.count)
    below[nodes.ground_bottom], above[nodes.ground_top] = along, along
    return MatContact(below, above, more, max(local - spread, 0.0) * both * over / up)


def back_temperature(
    case: EnclosureCase, duty: tuple[float, ...], back_m: float, length_m: float, air_c: float, seen_c: float
) -> float:
    """Return the temperature of a dry, dark back under the lamps, without the blood that cools it: the most it can be.

    Parameters
    ----------
    case
        The enclosure and its basking spot.
    duty
        The duty cycle of each heater (0–1), in the order of `case.heaters`.
    back_m
        Height of the back above the basking surface, m.
    length_m
        The animal's length, m.
    air_c, seen_c
        The air at the spot, and what the back sees, °C.

    Returns
    -------
    °C.

    References
    ----------
    The balance of `basking.surface_temperature` (docs/models.md [3]; recalled) for a plate that has no bed.
    """
    height_m, falling, believed = case.spot.top_m + back_m, 0.0, case.belief.nominal()
    stronger = float(believed.radiant[0] * believed.beam[0])
    for heater, share in zip(case.heaters, duty, strict=True):
        kind = heaters.HEATERS[heater.kind]
        drop_m = heater.height_m - height_m
        if kind.place != "over" or share <= 0 or drop_m <= 0.01:
            continue
        one = heaters.irradiance(
            1.0, heater.half_angle_deg, kind.face_m, case.spot.x_m - heater.x_m, case.spot.off_m - heater.off_m, drop_m
        )
        falling += share * heater.watts * kind.radiant_share * passed_share(case, heater) * float(one)
    gain = stronger * falling * SKIN_ABSORPTANCE / basking.PERCHES["branch"].absorptance
    air = np.array([air_c])
    around = basking.Surroundings(air, np.array([seen_c]), air)
    surface = basking.surface_temperature(np.array([gain]), around, max(length_m, LEAST_BACK_M), "branch")
    return float(surface[0])


def burn_reach_m(case: EnclosureCase, index: int, limit_c: float, air_c: float) -> float:
    """Return how far straight below a lamp's face, full on, a dark back gets hotter than a limit.

    Parameters
    ----------
    case
        The enclosure.
    index
        The lamp's place in `case.heaters`.
    limit_c
        The hottest that the back bears, °C.
    air_c
        The air there, °C.

    Returns
    -------
    m, to a millimetre; nought where it never does.

    References
    ----------
    The balance of `basking.surface_temperature` (docs/models.md [3]; recalled) for a plate that has no bed.
    """
    heater = case.heaters[index]
    kind, believed = heaters.HEATERS[heater.kind], case.belief.nominal()
    if kind.place != "over":
        return 0.0
    share = float(believed.radiant[0] * believed.beam[0]) * kind.radiant_share * passed_share(case, heater)

    def farthest_hot_m(drops: Floats) -> float | None:
        falling = heater.watts * share * heaters.irradiance(1.0, heater.half_angle_deg, kind.face_m, 0.0, 0.0, drops)
        air = np.full(drops.shape, air_c)
        gain = falling * SKIN_ABSORPTANCE / basking.PERCHES["branch"].absorptance
        back_c = basking.surface_temperature(gain, basking.Surroundings(air, air, air), LEAST_BACK_M, "branch")
        hot = np.flatnonzero(back_c > limit_c)
        return float(drops[hot[-1]]) if hot.size else None

    # Straight below a lamp it is the less hot the farther: first by steps, then by the millimetre within one.
    begin = farthest_hot_m(np.arange(REACH_STEP_M, MOST_REACH_M, REACH_STEP_M)) or LEAST_REACH_M
    return min(farthest_hot_m(begin + np.arange(0.0, REACH_STEP_M, LEAST_REACH_M)) or 0.0, MOST_REACH_M)
