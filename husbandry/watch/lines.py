"""Rules over what instruments report: out of band for too long, silent, and a hide that dries out."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.assessment import Band

Floats = NDArray[np.float64]

OUT_MIN: Final = 60.0  # out of its band for so long is told (common practice, no source): doors stand open for less
DANGER_MIN: Final = 15.0  # beyond what endangers the animal
SETTLED_MIN: Final = 120.0  # after the light came on, before what it warms is judged (trade)
UNJUDGED_MIN: Final = 30.0  # without a reading that is judged, what was out is told as past (no source)
GAP_FACTOR: Final = 4.0  # usual intervals without a reading that part one stretch from the next
SILENT_FACTOR, SILENT_MIN = 6.0, 30.0  # usual intervals, and minutes at least, without a word


@dataclass(frozen=True)
class Out:
    """Out of a band: minutes until the last reading that was judged, the side, the reading farthest out, whether it is a danger.

    `ago` is the minutes from that reading to the last one of all, `over` whether it is past by then: nothing has been judged for a
    while, and what was read since endangers nothing.
    """

    minutes: float
    high: bool
    worst: float
    danger: bool
    ago: float = 0.0
    over: bool = False


def out_of_band(
    minutes: Floats, values: Floats, bands: Sequence[Band | None], every_min: float, sure_to: float = 0.0
) -> Out | None:
    """Return how long readings have been out of their band up to the last one; None where they are not, or not for long enough.

    Parameters
    ----------
    minutes
        When each was read, ascending, in minutes from anywhere, shape (n,).
    values
        What was read, shape (n,).
    bands
        The band that held at each; None where nothing is judged then: such readings end no stretch and begin none.
    every_min
        How often is read; four times that without a reading ends a stretch.
    sure_to
        What the instrument is sure to, one way: only what is out for certain counts.

    Returns
    -------
    Out, of the danger where that has lasted long enough, else of the band. A band's own margin counts as inside.

    References
    ----------
    Common practice, no source.
    """
    found = None
    for danger, least in ((True, DANGER_MIN), (False, OUT_MIN)):
        judged = [place for place, band in enumerate(bands) if band is not None and _edges(band, danger=danger) != (None, None)]
        if not judged:
            continue
        side = [_side(float(values[place]), bands[place], sure_to, danger=danger) for place in judged]
        if side[-1] == 0:
            continue
        first = len(judged) - 1
        gap = max(GAP_FACTOR * every_min, least)
        while first > 0 and side[first - 1] == side[-1] and minutes[judged[first]] - minutes[judged[first - 1]] <= gap:
            first -= 1
        lasted = float(minutes[judged[-1]] - minutes[judged[first]])
        if lasted < least:
            continue
        stretch = values[[judged[place] for place in range(first, len(judged))]]
        ago = float(minutes[-1] - minutes[judged[-1]])
        still = danger and _side(float(values[-1]), bands[judged[-1]], sure_to, danger=True) == side[-1]
        worst = float(stretch.max() if side[-1] > 0 else stretch.min())
        found = Out(lasted, side[-1] > 0, worst, danger, ago, ago > UNJUDGED_MIN and not still)
        break
    return found


def _edges(band: Band, *, danger: bool) -> tuple[float | None, float | None]:
    return (band.danger_low, band.danger_high) if danger else (band.low, band.high)


def _side(value: float, band: Band | None, sure_to: float, *, danger: bool) -> int:
    """1 above, -1 below, 0 inside; by the limits of danger or by the band with its margin."""
    if band is None:
        return 0
    margin = sure_to if danger else max(sure_to, band.margin())
    low, high = _edges(band, danger=danger)
    if high is not None and value > high + margin:
        return 1
    return -1 if low is not None and value < low - margin else 0


def silent(since_last_min: float, every_min: float) -> bool:
    """Tell whether an instrument that reads every so many minutes should have been heard of by now."""
    return since_last_min > max(SILENT_FACTOR * every_min, SILENT_MIN)
