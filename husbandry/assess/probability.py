"""How likely it is that numbers stand in their bands: each by itself, and all of them at once.

All predictions share the same draws of what is uncertain (`husbandry.climate.spread`), so that two numbers that fail
together are counted once.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.assessment import Band, Read
from husbandry.climate import spread
from husbandry.climate.calibrate import PLACES

Floats = NDArray[np.float64]

SAFE: Final = 0.75  # a chance from which a band is likely to hold; below one less it, it hardly will; between, it may go either way
INSTRUMENT: Final = {"degC": 0.5, "%": 3.0}  # what a keeper's instrument is sure to, once compared (common practice, no source)
SETTLED: Final = 0.5  # of a number's variance, from which a reading settles it
LEAST: Final = 1e-9  # of two spreads' product, below which nothing varies
READ_AT: Final = {
    "basking_surface": "basking-surface",
    "warm_air": "warm-air",
    "cool_air": "cool-air",
    "water_temperature": "water",
    "warm_humidity": "warm-humidity",
    "cool_humidity": "cool-humidity",
    "humid_hide": "humid-hide",
}


@dataclass(frozen=True)
class Settling:
    """The reading that would tell most of what is open: where, by "day" or "night", and how many of the open bands it settles."""

    place: str
    phase: str
    settles: int


@dataclass(frozen=True)
class Certainty:
    """Which bands are likely to hold, which may go either way and which hardly will, by the numbers' ids, the least likely first.

    `together` is the chance (0–1) that all of them hold at once; `reading` what would settle most of the open ones.
    """

    safe: tuple[str, ...] = ()
    open: tuple[str, ...] = ()
    lost: tuple[str, ...] = ()
    together: float | None = None
    reading: Settling | None = None

    @property
    def count(self) -> int:
        """How many bands there are."""
        return len(self.safe) + len(self.open) + len(self.lost)


@dataclass
class JointProbability:
    """Collects, for every number with a band, which draws hold it there. An empty draw counts for nothing.

    What was `read` (by the number's name) goes by its readings: the draws keep their order and take the readings' middle and
    spread, so that what hangs together still does.
    """

    read: Mapping[str, Read] = field(default_factory=dict)
    held: dict[str, NDArray[np.bool_]] = field(default_factory=dict)
    drawn: dict[str, Floats] = field(default_factory=dict)

    def of(self, name: str, band: Band | None, drawn: Floats | None, *, counts: bool = True) -> float | None:
        """Return the share of the draws inside `band`; None where nothing was drawn or nothing is wanted.

        Where it `counts`, it is one of those that all have to hold.
        """
        if band is None or drawn is None or not drawn.size:
            return None
        if name in self.read:
            width = float(drawn.std())
            drawn = self.read[name].value + self.read[name].sigma * (drawn - drawn.mean()) / (width or 1.0)
        inside = spread.within(drawn, band.low, band.high)
        self.drawn[name] = drawn
        if counts:
            self.held[name] = inside
        return float(inside.mean())

    def all_hold(self) -> float | None:
        """The share of the draws in which every number stands in its band; None where nothing was drawn."""
        if not self.held:
            return None
        return float(np.logical_and.reduce(list(self.held.values())).mean())

    def certainty(self) -> Certainty:
        """Part the bands by how likely each holds, and say which reading would tell most of those that may go either way."""
        chances = {name: float(inside.mean()) for name, inside in self.held.items()}
        ordered = sorted(chances, key=lambda name: chances[name])
        lost = tuple(name for name in ordered if chances[name] < 1 - SAFE)
        safe = tuple(name for name in ordered if chances[name] >= SAFE)
        undecided = tuple(name for name in ordered if name not in lost and name not in safe)
        return Certainty(safe, undecided, lost, self.all_hold(), self._telling(undecided))

    def _telling(self, undecided: tuple[str, ...]) -> Settling | None:
        """The reading, of those not yet taken, that explains most of the variance of what is open."""
        wanted = [self.drawn[name] for name in undecided if name in self.drawn]
        if not wanted:
            return None
        best: tuple[float, Settling] | None = None
        open_ones = np.stack(wanted)
        for name, drawn in self.drawn.items():
            key, _, when = name.partition("/")
            place = READ_AT.get(key)
            if place is None or name in self.read:
                continue
            known = PLACES[place]
            noise = known.model_sigma**2 + INSTRUMENT[known.unit] ** 2
            trusted = float(drawn.var()) / (float(drawn.var()) + noise)
            shares = trusted * _explained(drawn, open_ones)
            found = Settling(place, when.partition("/")[2], int((shares >= SETTLED).sum()))
            if found.settles and (best is None or (found.settles, shares.sum()) > (best[1].settles, best[0])):
                best = float(shares.sum()), found
        return best[1] if best else None


def _explained(one: Floats, others: Floats) -> Floats:
    """The share (m,) of the variance of each of the others (m, draws) that a straight line in the one (draws,) explains."""
    one, others = one - one.mean(), others - others.mean(axis=1, keepdims=True)
    both = np.sqrt((one**2).sum() * (others**2).sum(axis=1))
    return np.asarray(np.where(both < LEAST, 0.0, (others @ one) / np.maximum(both, LEAST)) ** 2)
