"""Checking instruments: against melting ice, over damp salt, against one another, in the keeper's hand. What they read too high."""

from dataclasses import dataclass
from enum import StrEnum
from typing import Final

import numpy as np

ICE_C: Final = 0.0  # melting ice in water
ICE_SURE_K: Final = 0.2  # as a kitchen makes it: crushed, stirred, the probe not on the glass (common practice, no source)
# Equilibrium relative humidity over saturated sodium chloride, %, by °C (Greenspan 1977, table 2; recalled).
SALT: Final = ((10.0, 75.67), (15.0, 75.61), (20.0, 75.47), (25.0, 75.29), (30.0, 75.09), (35.0, 74.87))
SALT_SURE_PERCENT: Final = 1.5  # in a closed bag for eight hours, not the laboratory's 0.1 (common practice, no source)
LEAST_SURE: Final = {"degC": 0.2, "%": 1.0, "UVI": 0.1, "kg": 0.0001}
CHECKED_DAYS: Final = 365  # a check holds for a year (common practice, no source)


class How(StrEnum):
    """How an instrument was checked."""

    ICE = "ice"
    SALT = "salt"
    BESIDE = "beside"
    WEIGHT = "weight"


@dataclass(frozen=True)
class Checked:
    """What an instrument reads too high, and what it is sure to from now on, in its own unit."""

    reads_high: float
    sure_to: float


def over_salt(temperature_c: float) -> float:
    """Return the relative humidity over saturated table salt.

    Parameters
    ----------
    temperature_c
        °C; beyond 10 to 35 the nearest known.

    Returns
    -------
    %.

    References
    ----------
    Greenspan 1977, Humidity fixed points of binary saturated aqueous solutions, table 2 (recalled).
    """
    return float(np.interp(temperature_c, [point[0] for point in SALT], [point[1] for point in SALT]))


def check(how: How, shown: float, unit: str, *, true: float | None = None, true_sure: float = 0.0, room_c: float = 20.0) -> Checked:
    """Return what a check tells of an instrument.

    Parameters
    ----------
    how
        The check.
    shown
        What the instrument showed, in its own unit.
    unit
        That unit: "degC", "%", "UVI" or "kg".
    true
        Of BESIDE the other's corrected reading, of WEIGHT what the weight has; raises ValueError without it.
    true_sure
        What that is sure to, one way.
    room_c
        The temperature of SALT, °C.

    Returns
    -------
    Checked.

    References
    ----------
    Independent errors added in squares. ICE: the definition of 0 °C to 0.2 K; SALT: `over_salt`.
    """
    if how is How.ICE:
        true, true_sure = ICE_C, ICE_SURE_K
    elif how is How.SALT:
        true, true_sure = over_salt(room_c), SALT_SURE_PERCENT
    elif true is None:
        raise ValueError("a comparison needs what it is compared with")
    return Checked(shown - true, max(true_sure, LEAST_SURE[unit]))


def possible(unit: str) -> tuple[How, ...]:
    """Which checks there are for an instrument of a unit."""
    own = {"degC": (How.ICE,), "%": (How.SALT,), "kg": (How.WEIGHT,)}.get(unit, ())
    return (*own, How.BESIDE)
