"""The air that an enclosure changes with its room: through cracks, vents, mesh walls and an open or mesh top.

Through the top warm or moist air leaves and the room's air sinks in by the same opening; air that is heavier than the room's stays
inside, but for what moves over the opening. Through everything else the flow goes with the square root of the difference, whichever
side is the lighter.
"""

import math
from functools import lru_cache
from typing import Final, NamedTuple, TypeVar

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import walls
from husbandry.climate.air import PRESSURE_PA
from husbandry.climate.case import EnclosureCase, VentCase
from husbandry.climate.compiled import compiled

Floats = NDArray[np.float64]
FloatsLike = TypeVar("FloatsLike", float, Floats)

GRAVITY: Final = 9.81  # m/s²
ROOM_K: Final = 295.0
VIRTUAL_K_PA: Final = 0.378 * ROOM_K / PRESSURE_PA  # K of virtual temperature for each Pa of vapour
REFERENCE_RISE_K: Final = 5.0
LEAST_SHARE: Final = 0.35  # fans, doors and draughts keep some air moving through cracks and vents without any heat (estimate)
LEAST_RISE_K: Final = LEAST_SHARE**2 * REFERENCE_RISE_K  # below which that is all that moves
CRACKS: Final = 0.5  # air changes per hour through doors and cable holes where the vents are known (estimate)
DISCHARGE: Final = 0.6  # of a sharp-edged opening (ASHRAE Fundamentals, ventilation and infiltration; recalled)
ONE_OPENING: Final = DISCHARGE / 3  # one opening in a wall breathes both ways (ASHRAE; recalled)
BOTH_WAYS: Final = 0.055  # of √(g D⁵ Δρ/ρ) through a level opening (Epstein 1988; recalled)
# Velocity heads of what drives the streams that a mesh breaks the exchange into, a few of its openings wide (estimate, trade).
STREAMS: Final = 0.5
WIRE_M: Final = 0.0003  # of a fly mesh (trade)
AIR_VISCOSITY: Final = 1.55e-5  # m²/s at 22 °C
SWEPT: Final = 0.015  # of the air's speed over an opening, the speed at which it changes what is below (estimate, street canyons)
ROOM_SPEED: Final = 0.1  # m/s of the air in a still room (ISO 7730 calls 0.1 to 0.2 comfortable; recalled)
FAN_SPEED: Final = 0.5  # m/s over water that a fan blows on (estimate)
WIND_SPEED: Final = 1.0  # m/s near the ground in a garden that has hedges (estimate)
TOP_UNSURE: Final = 1.4  # the power of the uncertain factor below a mesh or open top (by the resolved reference)
WIND_CRACKS: Final = 3.0  # out of doors cracks and vents change this much more air (estimate)


class AirExchange(NamedTuple):
    """Air changes per hour, by 5 K of rise: `cracks_h` through what breathes either way, `top_h` through the top where the inside
    is the lighter; `swept_h` by what moves over the top, whatever the temperatures.
    """

    cracks_h: float
    top_h: float
    swept_h: float

    @property
    def usual_h(self) -> float:
        """Air changes per hour at 5 K."""
        return changes_at(self, REFERENCE_RISE_K)


def changes_at(exchange: AirExchange, rise_k: float) -> float:
    """Return the air changes at a rise.

    Parameters
    ----------
    exchange
        How the enclosure changes its air.
    rise_k
        By how much the inside's virtual temperature stands above the room's, K.

    Returns
    -------
    1/h.

    References
    ----------
    Flow with the square root of the difference: the stack effect, ASHRAE Handbook – Fundamentals (docs/models.md [2]; recalled).
    """
    share = max(math.sqrt(abs(rise_k) / REFERENCE_RISE_K), LEAST_SHARE)
    return exchange.cracks_h * share + math.sqrt(exchange.top_h**2 * max(rise_k, 0.0) / REFERENCE_RISE_K + exchange.swept_h**2)


def slope_at(exchange: AirExchange, rise_k: float) -> float:
    """Return by how much the air changes grow with the rise.

    Parameters
    ----------
    exchange
        How the enclosure changes its air.
    rise_k
        By how much the inside's virtual temperature stands above the room's, K.

    Returns
    -------
    1/h per K.

    References
    ----------
    The derivative of `changes_at`.
    """
    cracks = 0.0
    if abs(rise_k) > LEAST_RISE_K:
        cracks = math.copysign(exchange.cracks_h / (2 * math.sqrt(abs(rise_k) * REFERENCE_RISE_K)), rise_k)
    if rise_k <= 0.0 or exchange.top_h < 1e-9:
        return cracks
    through_top = math.sqrt(exchange.top_h**2 * rise_k / REFERENCE_RISE_K + exchange.swept_h**2)
    return cracks + exchange.top_h**2 / (2 * REFERENCE_RISE_K * through_top)


def virtual_rise(rise_k: FloatsLike, vapour_pa: FloatsLike) -> FloatsLike:
    """Return by how much the inside's virtual temperature stands above the room's.

    Parameters
    ----------
    rise_k
        By how much the inside is warmer, K, a number or any shape.
    vapour_pa
        By how much its vapour pressure is higher, Pa, the same.

    Returns
    -------
    K, of the same shape: moist air is lighter than dry air of its temperature.

    References
    ----------
    T_v = T (1 + 0.378 e/p), the virtual temperature of moist air; common textbooks of meteorology (docs/models.md [24]; recalled).
    """
    return rise_k + VIRTUAL_K_PA * vapour_pa


changes_of, slope_of, rise_of = compiled(changes_at), compiled(slope_at), compiled(virtual_rise)


def level_opening(area_m2: float, rise_k: float) -> float:
    """Return the air that passes both ways at once through a bare level opening below lighter air's reach.

    Parameters
    ----------
    area_m2
        Area of the opening; a rectangle counts as the square of its area.
    rise_k
        By how much the virtual temperature below is higher than above, K.

    Returns
    -------
    m³/s in each direction; 0 where the air below is the heavier.

    References
    ----------
    Epstein 1988, buoyancy-driven exchange flow through small openings in horizontal partitions: 0.055 √(g D⁵ Δρ/ρ)
    (docs/models.md [25]; recalled).
    """
    return BOTH_WAYS * math.sqrt(GRAVITY * math.sqrt(area_m2) ** 5 * max(rise_k, 0.0) / ROOM_K)


def mesh_share(open_share: float, speed: float) -> float:
    """Return what a mesh leaves of the flow through a level opening: its open share, less what its wires hold back.

    Parameters
    ----------
    open_share
        Open part of its area, 0 to 1.
    speed
        The speed that the air would have without it, m/s.

    Returns
    -------
    Share without unit, 0 to 1.

    References
    ----------
    Loss of a wire screen `K = (7/Re + 0.9/log10(Re + 1.25) + 0.05 log10 Re)(1 − s²)/s²` with Re by the wire: Brundrett 1993
    (docs/models.md [26]; recalled). What drives the air through it is `STREAMS` (estimate, set by the trade's check values of
    a lamp over mesh-topped glass).
    """
    if open_share >= 1.0:
        return 1.0
    reynolds = max(speed * WIRE_M / AIR_VISCOSITY, 0.05)
    of_wire = 7 / reynolds + 0.9 / math.log10(reynolds + 1.25) + 0.05 * math.log10(reynolds)
    lost = max(of_wire, 0.0) * (1 - open_share**2) / open_share**2
    return open_share * math.sqrt(STREAMS / (STREAMS + lost))


def stack_flow(vents: tuple[VentCase, ...], rise_k: float) -> float:
    """Return the air that buoyancy drives through the lowest and the highest vent.

    Parameters
    ----------
    vents
        The openings, with their free areas (m²) and heights (m).
    rise_k
        By how much the inside is warmer than the room, K.

    Returns
    -------
    m³/s; 0 without vents.

    References
    ----------
    ASHRAE Handbook – Fundamentals (docs/models.md [2]; recalled).
    """
    if not vents or rise_k <= 0:
        return 0.0
    middle = (min(vent.height_m for vent in vents) + max(vent.height_m for vent in vents)) / 2
    low = [vent for vent in vents if vent.height_m <= middle]
    high = [vent for vent in vents if vent.height_m > middle]
    if not high:
        area = sum(vent.area_m2 for vent in low)
        return ONE_OPENING * area * math.sqrt(GRAVITY * math.sqrt(area) * rise_k / ROOM_K)
    areas = [sum(vent.area_m2 for vent in part) for part in (low, high)]
    heights = [sum(vent.height_m * vent.area_m2 for vent in part) / area for part, area in zip((low, high), areas, strict=True)]
    effective = areas[0] * areas[1] / math.hypot(*areas)
    return DISCHARGE * effective * math.sqrt(2 * GRAVITY * (heights[1] - heights[0]) * rise_k / ROOM_K)


@lru_cache(maxsize=64)
def exchange_of(case: EnclosureCase) -> AirExchange:
    """Return how an enclosure changes its air, from its openings.

    Parameters
    ----------
    case
        The shell (`EnclosureCase.shell`).

    Returns
    -------
    AirExchange, 1/h. What comes through cracks is an estimate for each way of building, unless vents are given.

    References
    ----------
    Epstein 1988 for the top (docs/models.md [25]), ASHRAE Handbook – Fundamentals for vents ([2]); both recalled.
    """
    out = case.outdoors is not None
    cracks_h = walls.BUILDS[case.kind].cracks_h
    if case.kind == "mesh":
        cracks_h *= _mesh_size(case)
    free_m2 = walls.open_top_m2(case)
    open_share = case.mesh_open_share if case.lid == "mesh" else 1.0
    through = mesh_share(open_share, _top_speed(free_m2))
    if case.vents:
        cracks_h = CRACKS
    stack_h = _changes(case, stack_flow(_with_top(case, free_m2 * through), REFERENCE_RISE_K)) if case.vents else 0.0
    both_ways_h = _changes(case, through * level_opening(free_m2, REFERENCE_RISE_K)) if free_m2 else 0.0
    swept = (WIND_SPEED if out else ROOM_SPEED) + (FAN_SPEED if case.water is not None and case.water.fan else 0.0)
    # A flow up through vents and top takes the place of the exchange: only what is more goes both ways.
    return AirExchange(
        (WIND_CRACKS if out else 1.0) * (cracks_h + stack_h),
        max(both_ways_h - stack_h, 0.0),
        _changes(case, SWEPT * swept * free_m2 * open_share),
    )


def unsure(case: EnclosureCase, factor: FloatsLike) -> FloatsLike:
    """Return the factor on the air changes of an enclosure from the uncertain one: what goes through its top is the less sure.

    Parameters
    ----------
    case
        The enclosure.
    factor
        The uncertain factor, any shape.

    Returns
    -------
    Factor without unit, of the same shape: its power of 1.4 below a mesh or open top, so that × or ÷ 2 becomes × or ÷ 2.6.

    References
    ----------
    The resolved reference changes several times more air through a wide top than Epstein's law (docs/models.md).
    """
    return factor**TOP_UNSURE if walls.open_top_m2(case) > 0 else factor


def _changes(case: EnclosureCase, flow_m3_s: float) -> float:
    """Air changes per hour of a flow."""
    return 3600 * flow_m3_s / case.volume_m3


def _top_speed(area_m2: float) -> float:
    """The speed of the air through a bare opening at the reference rise, half of it going each way, m/s."""
    return 2 * level_opening(area_m2, REFERENCE_RISE_K) / area_m2 if area_m2 else 0.0


def _with_top(case: EnclosureCase, free_m2: float) -> tuple[VentCase, ...]:
    """The vents, and the open top as one of them."""
    return (*case.vents, VentCase(case.height_m, free_m2)) if free_m2 else case.vents


def _mesh_size(case: EnclosureCase) -> float:
    """What breathes through mesh walls, against a cage of 45 × 45 × 90 cm: with their area and √height, by the air inside."""
    walls_m2 = 2 * (case.length_m + case.width_m) * case.height_m
    usual_m2, usual_m, usual_m3 = 2 * (0.45 + 0.45) * 0.9, 0.9, 0.45 * 0.45 * 0.9
    return walls_m2 / usual_m2 * math.sqrt(case.height_m / usual_m) * usual_m3 / case.volume_m3
