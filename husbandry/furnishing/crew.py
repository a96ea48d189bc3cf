"""A living ground: the clean-up crew by the litre, its litter, the weeks until it works."""

from dataclasses import dataclass
from math import ceil
from typing import Final

ISOPODS_A_LITRE: Final = {True: 0.5, False: 0.2}  # damp, dry (common practice, no source)
SPRINGTAIL_ML_A_LITRE: Final = {True: 3.0, False: 0.0}  # of a culture; none live in dry ground
LITTER_M: Final = 0.02
WEEKS: Final = (4, 8)
LEAST_ISOPODS: Final = 10


@dataclass(frozen=True)
class Crew:
    """Isopods, ml of a culture of springtails, L of leaf litter, and the weeks until it works, least and most."""

    isopods: int
    springtails_ml: float
    litter_l: float
    weeks: tuple[int, int]


def crew(ground_l: float, floor_m2: float, *, damp: bool) -> Crew:
    """Return the clean-up crew of a living ground.

    Parameters
    ----------
    ground_l
        The ground as it lies, L.
    floor_m2
        What it covers, m².
    damp
        Whether it is kept damp.

    Returns
    -------
    Crew.

    References
    ----------
    Common practice, no source.
    """
    isopods = max(ceil(ISOPODS_A_LITRE[damp] * ground_l), LEAST_ISOPODS)
    return Crew(isopods, SPRINGTAIL_ML_A_LITRE[damp] * ground_l, 1000 * LITTER_M * floor_m2, WEEKS)
