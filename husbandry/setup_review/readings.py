"""What is read there: it counts against the bands, and it tells which ways it may be are likelier."""

from collections.abc import Sequence
from datetime import date
from typing import Final

import numpy as np

from husbandry.assess.assess import Records
from husbandry.assess.result import Assessment
from husbandry.assessment import SEASONS, Read
from husbandry.setup_review.told import ToldReadings

# The quantity and the phase that each reading is of.
OF: Final = {
    "basking_surface_c": ("basking_surface", "day"),
    "warm_air_c": ("warm_air", "day"),
    "cool_air_c": ("cool_air", "day"),
    "night_c": ("cool_air", "night"),
    "percent": ("cool_humidity", "day"),
}
# How far a home thermometer at a place only nearly named and the model may lie apart (estimates), K and % of humidity.
APART: Final = {"degC": 3.0, "%": 12.0}
SIGMA: Final = {"degC": 0.5, "%": 5.0}  # of the instrument alone (practice)
UNITS: Final = {"percent": "%"}
LEAST_WAYS: Final = 8.0  # that are left to weigh: fewer would make sure of what was only not drawn


def records_of(readings: ToldReadings, today: date) -> Records:
    """What was read, as an assessment takes it: of both halves of the year, for the room is told as one."""
    read = {}
    for name, value in _given(readings):
        key, phase = OF[name]
        for season in SEASONS:
            read[f"{key}/{season}/{phase}"] = Read(value, SIGMA[UNITS.get(name, "degC")], 1, today.isoformat())
    return Records(read=read)


def _given(readings: ToldReadings) -> list[tuple[str, float]]:
    return [(name, value) for name in OF if (value := getattr(readings, name)) is not None]


def likelier(readings: ToldReadings, shares: Sequence[float], found: Sequence[Assessment], *, drawn: bool) -> list[float]:
    """Return the shares of the ways after what was read.

    Parameters
    ----------
    readings
        What was read.
    shares
        How likely each way was before (sum 1).
    found
        What each way comes to.
    drawn
        Whether the ways are but some of many.

    Returns
    -------
    The shares, sum 1. Where few drawn ways would be left, all are weighed less sharply until `LEAST_WAYS` are, by Kong's count.

    References
    ----------
    Importance weights by a normal likelihood; the effective number of draws by Kong 1992, A note on importance sampling (recalled).
    """
    before = np.array(shares)
    misfit = np.array([_misfit(readings, one) for one in found])
    misfit -= misfit.min()
    least = min(LEAST_WAYS, _effective(before)) if drawn else 1.0
    sharp = 1.0
    while sharp > 1e-3:
        after = before * np.exp(-0.5 * sharp * misfit)
        after /= after.sum()
        if _effective(after) >= least * (1 - 1e-9) or sharp * misfit.max() < 1e-6:
            return [float(one) for one in after]
        sharp *= 0.7
    return list(shares)


def _misfit(readings: ToldReadings, found: Assessment) -> float:
    """The squared distance between what was read and what a way comes to, in the units of how far they may lie apart."""
    total = 0.0
    for name, value in _given(readings):
        key, phase = OF[name]
        apart = APART[UNITS.get(name, "degC")]
        modelled = [item.value for item in found.quantities if (item.key, item.phase) == (key, phase) and item.value is not None]
        total += min(((value - one) / apart) ** 2 for one in modelled) if modelled else 0.0
    return total


def _effective(shares: np.ndarray) -> float:
    return float(shares.sum() ** 2 / (shares**2).sum())
