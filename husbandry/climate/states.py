"""What an enclosure comes to: the answer of `husbandry.climate.steady`."""

from dataclasses import dataclass, field
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate.basking import SurfaceSum
from husbandry.climate.nodes import Nodes
from husbandry.climate.phases import PeriodicModes, Phase

Floats = NDArray[np.float64]

DAY_AND_NIGHT: Final = ("day", "night")


@dataclass(frozen=True)
class Spread:
    """A value with its 10–90 % range; None where no spread was asked for: a value without one is not a sure one."""

    value: float
    low: float | None = None
    high: float | None = None

    def around(self, value: float) -> tuple[float | None, float | None]:
        """The same spread around what goes with this value, low and high; None twice where there is none."""
        if self.low is None or self.high is None:
            return None, None
        return value + self.low - self.value, value + self.high - self.value


@dataclass(frozen=True)
class SteadyState:
    """One season by day or by night: predictions by name, mean electrical watts.

    `duty` of each heater (0–1) and the nodes are those of one phase and its end: by day the one in which basking is hottest, by
    night the last.
    `draws` holds each prediction drawn from what is uncertain, (DRAWS,), none where no spread was asked
    for. `unbound_vapour_pa`: without condensation. `vapour_per_gram`: Pa that one more gram misted a day adds.
    `of_room_c`: what the nodes would have without any heat.
    """

    season: str
    phase: str
    predictions: dict[str, Spread]
    draws: dict[str, Floats]
    duty: tuple[float, ...]
    watts: float
    air_c: tuple[tuple[float, ...], ...]
    ground_c: tuple[float, ...]
    node_c: Floats
    vapour_pa: float
    unbound_vapour_pa: float
    vapour_per_gram: float
    air_changes_h: float
    h_conv: float
    h_rad: float
    latent_w: Floats
    of_room_c: Floats
    surface_sum: SurfaceSum


@dataclass(frozen=True)
class Start:
    """Where the search for nearly the same enclosure may begin. Rows: the first phase in all `seasons`, then the next.

    `air_changes` are those of the middle of what is believed; `latent_w` and `slope` (rows, n), `duty` (rows, heaters),
    `modes` of the seasons, `vapour_pa` (rows,).
    """

    seasons: tuple[str, ...]
    phases: tuple[Phase, ...]
    nodes: Nodes
    air_changes: Floats
    h_conv: Floats
    h_rad: Floats
    node_c: Floats
    latent_w: Floats
    slope: Floats
    duty: Floats
    modes: PeriodicModes
    vapour_pa: Floats

    def rows(self, seasons: tuple[str, ...]) -> list[int]:
        """The rows of some of its seasons. Raises ValueError for one that it does not have."""
        return [phase * len(self.seasons) + self.seasons.index(season) for phase in range(len(self.phases)) for season in seasons]


@dataclass(frozen=True)
class Climate:
    """The steady states by season and phase, and `start`, from which nearly the same enclosure settles faster."""

    states: dict[tuple[str, str], SteadyState]
    start: Start | None = field(default=None, repr=False, compare=False)
