"""The day as phases in which nothing is switched, and what of each phase's steady state is reached at any time of a periodic day.

In a phase of h hours a mode of rate λ goes from where it stood towards the phase's steady state: it keeps `e^{−λh}` of what it
lacked. Round the whole day this closes: the temperatures at the end of each phase are weighted means of the steady states of all
phases, with weights that are known mode by mode (docs/models.md, The steady periodic state).
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import accumulate
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate.case import EnclosureCase

Floats = NDArray[np.float64]

LASTING_H: Final = 2.0  # hours over which a basking surface is judged: its hottest in the light


@dataclass(frozen=True)
class Phase:
    """A stretch of the day in which no timer switches: where it begins (hour of the clock), its hours, whether it is light."""

    from_hour: float
    hours: float
    lit: bool

    @property
    def middle(self) -> float:
        """The hour of the clock in its middle."""
        return (self.from_hour + self.hours / 2) % 24.0


@lru_cache(maxsize=64)
def phases_of(case: EnclosureCase) -> tuple[Phase, ...]:
    """Part the day at every hour at which light, sun or a heater's timer changes; those in the light come first, from lights-on.

    Parameters
    ----------
    case
        The enclosure with its heaters.

    Returns
    -------
    Two phases or more; where the light never goes out the dark one has no hours.

    References
    ----------
    No source outside.
    """
    first, light = case.light_on_hour, max(_minutes(case.light_hours), 1)  # or there would be no day to speak of
    timers = [(heater.on_hour, heater.off_hour) for heater in case.heaters]
    if case.sun is not None:
        timers.append((case.sun.from_hour, case.sun.to_hour))
    edges = {0, light} | {_minutes((hour - first) % 24.0) for timer in timers if timer[0] != timer[1] for hour in timer}
    begins = sorted(edges - {_minutes(24.0)})
    stops = [*begins[1:], _minutes(24.0)]
    found = [Phase((first + at / 60) % 24.0, (stop - at) / 60, at < light) for at, stop in zip(begins, stops, strict=True)]
    if found[-1].lit:
        found.append(Phase(case.light_off_hour, 0.0, lit=False))
    return tuple(found)


def _minutes(hours: float) -> int:
    return round(hours * 60)


@dataclass(frozen=True)
class PeriodicModes:
    """The modes of each season's network through a day of phases.

    `rates` (seasons, n) in 1/h; `left` and `right` (seasons, n, n) from modes to nodes and back; `ends` (seasons, phases, phases,
    n) is the weight by mode that the second phase's steady state has at the end of the first.
    """

    hours: tuple[float, ...]
    rates: Floats
    left: Floats
    right: Floats
    ends: Floats

    @classmethod
    def of(cls, matrix: Floats, capacity: Floats, hours: Sequence[float]) -> "PeriodicModes":
        """Decompose the conductances `matrix` (seasons, n, n) in W/K with heat capacities (n,) in J/K."""
        scale = 1 / np.sqrt(capacity)
        rates, modes = np.linalg.eigh(matrix * scale[:, None] * scale[None, :])
        rates = 3600 * np.maximum(rates, 1e-12)
        ends = end_weights(rates, hours)
        return cls(tuple(hours), rates, modes * scale[:, None], modes.transpose(0, 2, 1) / scale[None, :], ends)

    def of_seasons(self, rows: list[int]) -> "PeriodicModes":
        """Those of some seasons."""
        return PeriodicModes(self.hours, self.rates[rows], self.left[rows], self.right[rows], self.ends[rows])

    def functionals(self, places: Floats, weights: Floats) -> Floats:
        """The rows (phases, seasons, k, n) that take each phase's steady state to its part of what `places` (k, n) read.

        `weights` (seasons, phases, n) are those of the modes.
        """
        into = places @ self.left
        return np.asarray((into[None] * weights.transpose(1, 0, 2)[:, :, None]) @ self.right)


def end_weights(rates: Floats, hours: Sequence[float]) -> Floats:
    """Return how far each phase's steady state is reached at the end of every phase of a periodic day, mode by mode.

    Parameters
    ----------
    rates
        Rates of the modes in 1/h, shape (…, n).
    hours
        The phases' hours, in order; they add up to 24.

    Returns
    -------
    Weights that add up to 1 over the last but one axis, shape (…, phases, phases, n): at the end of the first, of the second.

    References
    ----------
    The periodic solution of a linear system (docs/models.md, The steady periodic state).
    """
    count = len(hours)
    kept = [np.exp(-rates * each) for each in hours]
    whole = -np.expm1(-rates * sum(hours))
    found = np.zeros((*rates.shape[:-1], count, count, rates.shape[-1]))
    for phase, each in enumerate(hours):
        weight = -np.expm1(-rates * each) / whole
        found[..., phase, phase, :] = weight
        for later in range(1, count):
            at = (phase + later) % count
            weight = weight * kept[at]
            found[..., at, phase, :] = weight
    return found


def hottest_stretch(phases: Sequence[Phase], levels: Sequence[float]) -> Floats:
    """Return which phases make up the hottest LASTING_H of the light, and with what share.

    Parameters
    ----------
    phases
        The day's phases, the light ones first.
    levels
        What the basking surface comes to in each, °C.

    Returns
    -------
    Shares (phases,) that add up to 1; all of the light where that is shorter.

    References
    ----------
    No source outside.
    """
    hours = [phase.hours * phase.lit for phase in phases]
    stops = list(accumulate(hours))
    starts = [stop - own for stop, own in zip(stops, hours, strict=True)]
    lasting, best = min(LASTING_H, stops[-1]), (-math.inf, [0.0] * len(hours))
    # A mean over steps is highest where the stretch begins or ends with one of them.
    for begin in (*starts, *(stop - lasting for stop in stops)):
        at = min(max(begin, 0.0), stops[-1] - lasting)
        shares = [max(min(stop, at + lasting) - max(start, at), 0.0) / lasting for start, stop in zip(starts, stops, strict=True)]
        level = sum(share * each for share, each in zip(shares, levels, strict=True))
        if level > best[0]:
            best = level, shares
    return np.array(best[1])
