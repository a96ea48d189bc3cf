"""How likely it is that numbers stand in their bands: each by itself, and all of them at once.

All predictions share the same draws of what is uncertain (`husbandry.climate.spread`), so that two numbers that fail
together are counted once.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from husbandry.assessment import Band, Read
from husbandry.climate import spread

Floats = NDArray[np.float64]


@dataclass
class JointProbability:
    """Collects, for every number with a band, which draws hold it there. An empty draw counts for nothing.

    What was `read` (by the number's name) goes by its readings: the draws keep their order and take the readings' middle and
    spread, so that what hangs together still does.
    """

    read: Mapping[str, Read] = field(default_factory=dict)
    held: dict[str, NDArray[np.bool_]] = field(default_factory=dict)

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
        if counts:
            self.held[name] = inside
        return float(inside.mean())

    def all_hold(self) -> float | None:
        """The share of the draws in which every number stands in its band; None where nothing was drawn."""
        if not self.held:
            return None
        return float(np.logical_and.reduce(list(self.held.values())).mean())
