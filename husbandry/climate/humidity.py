"""Moisture: one vapour pressure for the whole enclosure, from what evaporates and what the air changes carry off.

`sources (e_s(T_w) − e) + misting = ventilation (w − w_room)`, held at the saturation of the coldest inner skin, where
water condenses. The humid hide is a node of its own with its wet moss and its doorway.
"""

from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import ground, walls
from husbandry.climate.air import (
    AIR_DENSITY,
    KELVIN,
    PRESSURE_PA,
    VAPOUR_GAS_CONSTANT,
    VAPOUR_RATIO,
    dew_point,
    relative_humidity,
    saturation_pressure,
)
from husbandry.climate.case import EnclosureCase
from husbandry.climate.zones import ZONES

Floats = NDArray[np.float64]

# m/s in still air by the Lewis relation from h_c ≈ 3 W/m²K; ASHRAE's still pool lies above it.
MASS_TRANSFER: Final = 0.003
MISTING_SHARE: Final = 0.7  # of the water misted, what evaporates inside and does not run into the ground (estimate)
DAY_S: Final = 86_400.0
HIDE_MOSS_M2: Final = 0.02
HIDE_EXCHANGE_M3S: Final = 1.2e-5  # air through the doorway of a closed humid hide (estimate)


def vapour_pressure(
    case: EnclosureCase, air_c: Floats, ground_c: Floats, room_c: Floats, room_percent: Floats, air_changes_h: Floats
) -> tuple[Floats, Floats, Floats]:
    """Return the vapour pressure in Pa, what it would be without condensation, and its rise per further gram misted a day.

    All of shape (B,). Air (B, nodes) and ground (B, zones) in °C, the room in °C and %, air changes per hour. The rise is
    in Pa, before condensation, at unchanged temperatures.
    """
    room_e = room_percent / 100 * saturation_pressure(room_c)
    mean = air_c.mean(axis=1)
    # kg/s per Pa carried off by the air changes; w ≈ 0.622 e/(p − e) with p − e ≈ p − e_room
    carried = AIR_DENSITY * case.volume_m3 * air_changes_h / 3600 * VAPOUR_RATIO / (PRESSURE_PA - room_e)
    floor = case.length_m * case.width_m
    per_pascal = MASS_TRANSFER / (VAPOUR_GAS_CONSTANT * (mean + KELVIN))
    bowl_zone = min(int(case.bowl_x_m / case.length_m * ZONES), ZONES - 1)
    wet = ground.WET_SHARE[case.ground_damp] * floor
    per_gram = MISTING_SHARE / 1000 / DAY_S
    lost = carried + per_pascal * (case.bowl_m2 + wet)
    e = room_e
    for _ in range(3):
        # Water lies a third of the way from the air towards its dew point: about the wet bulb's place (rule of thumb).
        bowl_air = air_c[:, bowl_zone]
        bowl_c = bowl_air - (bowl_air - dew_point(e)) / 3
        gain = per_pascal * (case.bowl_m2 * saturation_pressure(bowl_c) + wet * saturation_pressure(ground_c.mean(axis=1)))
        e = (carried * room_e + gain + per_gram * case.misting_kg_per_day * 1000) / lost
    skin = air_c.min(axis=1) - (air_c.min(axis=1) - room_c) * walls.wall_u(case.kind) * walls.R_SIDEWAYS
    return np.asarray(np.minimum(e, saturation_pressure(np.minimum(skin, mean)))), np.asarray(e), np.asarray(per_gram / lost)


def humid_hide(vapour_pa: Floats, hide_c: Floats) -> Floats:
    """Return the relative humidity in % inside a humid hide whose moss is wet, shape (B,)."""
    wet = MASS_TRANSFER * HIDE_MOSS_M2
    outside = relative_humidity(vapour_pa, hide_c)
    return np.asarray(np.minimum((wet * 100 + HIDE_EXCHANGE_M3S * outside) / (wet + HIDE_EXCHANGE_M3S), 100.0))
