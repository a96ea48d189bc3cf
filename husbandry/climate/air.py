"""Water vapour in air.

Saturation over water after Alduchov & Eskridge (1996), "Improved Magnus form approximation of saturation vapor
pressure", J. Appl. Meteor. 35, recalled: within 0.24 % of ASHRAE from 20 to 40 °C.
All functions take scalars or arrays.
"""

from typing import Final

import numpy as np
from numpy.typing import ArrayLike, NDArray

Floats = NDArray[np.float64]

MAGNUS_PA: Final = 610.94
MAGNUS_A: Final = 17.625
MAGNUS_B_C: Final = 243.04
PRESSURE_PA: Final = 101_325.0
VAPOUR_RATIO: Final = 0.622  # molar masses, water over dry air
VAPOUR_GAS_CONSTANT: Final = 461.5  # J/(kg K)
AIR_HEAT_CAPACITY: Final = 1006.0  # J/(kg K)
AIR_DENSITY: Final = 1.18  # kg/m³ near 25 °C
KELVIN: Final = 273.15


def saturation_pressure(temperature_c: ArrayLike) -> Floats:
    """Return the saturation vapour pressure over water.

    Parameters
    ----------
    temperature_c
        Temperature in °C; any shape.

    Returns
    -------
    Pascals, of the same shape.

    References
    ----------
    Alduchov and Eskridge 1996, J. Appl. Meteor. 35, 601–609 (docs/models.md [4]; recalled).
    """
    t = np.asarray(temperature_c, dtype=float)
    return np.asarray(MAGNUS_PA * np.exp(MAGNUS_A * t / (t + MAGNUS_B_C)))


def dew_point(vapour_pressure_pa: ArrayLike) -> Floats:
    """Return the dew point of air.

    Parameters
    ----------
    vapour_pressure_pa
        Vapour pressure in Pa, above zero; any shape.

    Returns
    -------
    °C, of the same shape.

    References
    ----------
    Alduchov and Eskridge 1996, J. Appl. Meteor. 35, 601–609 (docs/models.md [4]; recalled).
    """
    ratio = np.log(np.maximum(np.asarray(vapour_pressure_pa, dtype=float), 1e-6) / MAGNUS_PA)
    return np.asarray(MAGNUS_B_C * ratio / (MAGNUS_A - ratio))


def relative_humidity(vapour_pressure_pa: ArrayLike, temperature_c: ArrayLike) -> Floats:
    """Return the relative humidity of air.

    Parameters
    ----------
    vapour_pressure_pa
        Vapour pressure in Pa.
    temperature_c
        Temperature in °C; the two broadcast.

    Returns
    -------
    Percent of saturation; above 100 where the air is oversaturated.

    References
    ----------
    Alduchov and Eskridge 1996, J. Appl. Meteor. 35, 601–609 (docs/models.md [4]; recalled).
    """
    return np.asarray(100 * np.asarray(vapour_pressure_pa, dtype=float) / saturation_pressure(temperature_c))


def moved_humidity(percent: ArrayLike, from_c: ArrayLike, to_c: ArrayLike) -> Floats:
    """Return the relative humidity that air has at another temperature, with the same vapour in it.

    Parameters
    ----------
    percent
        Relative humidity at `from_c`, in %.
    from_c, to_c
        Temperatures in °C; all three broadcast.

    Returns
    -------
    Percent of saturation at `to_c`.

    References
    ----------
    Alduchov and Eskridge 1996, J. Appl. Meteor. 35, 601–609 (docs/models.md [4]; recalled).
    """
    return relative_humidity(np.asarray(percent, dtype=float) / 100 * saturation_pressure(from_c), to_c)
