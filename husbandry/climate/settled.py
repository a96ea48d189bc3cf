"""What an enclosure comes to: the answer of `husbandry.climate.steady`."""

from dataclasses import dataclass, field
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from husbandry.climate.basking import SurfaceSum

if TYPE_CHECKING:
    from husbandry.climate.steady import Settling

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Spread:
    """A value with its 10–90 % range."""

    value: float
    low: float
    high: float


@dataclass(frozen=True)
class Settled:
    """One season and moment: predictions by name, mean duty of each heater (0–1), electrical watts, node temperatures.

    `draws` holds each prediction drawn from what is uncertain, (DRAWS,), none where no spread was asked
    for. `unbound_vapour_pa`: without condensation. `vapour_per_gram`: Pa that one more gram misted a day adds.
    `of_room_c`: what the nodes would have without any heat.
    """

    season: str
    moment: str
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
    film: float
    radiation: float
    latent_w: Floats
    of_room_c: Floats
    surface_sum: SurfaceSum


@dataclass(frozen=True)
class Climate:
    """The settled states by season and moment, and `start`, from which nearly the same enclosure settles faster."""

    settled: dict[tuple[str, str], Settled]
    start: "Settling | None" = field(default=None, repr=False, compare=False)
