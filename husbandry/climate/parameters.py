"""What the models are not sure of: ten parameters with their priors, and what the keeper's readings left of them.

Everything is told in standard deviations of the prior. Before any reading the parameters are independent, each with a
middle of nought and a spread of one; readings move the middle and shrink the spread, some combinations more than others
(`husbandry.climate.calibrate`).
"""

from dataclasses import dataclass
from functools import cached_property
from typing import Final

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

# One standard deviation of each parameter (estimates). Factors; those ending in _k are offsets in K.
SIGMA: Final = {
    "radiant": 0.15,
    "losses": 0.15,
    "air_changes": 0.69,
    "mixing": 0.4,
    "wetness": 0.5,
    "room_k": 1.0,
    "probe_k": 1.0,
    "beam": 0.3,  # what reaches the basking surface: the lamp's class, its beam, the mesh it shines through
    "room_humidity": 0.15,
    "plume": 0.4,  # what a dome on a mesh keeps inside of what is not its beam: set by the resolved reference, which keeps less
}
PARAMETERS: Final = tuple(SIGMA)
LOGNORMAL: Final = ("air_changes", "wetness", "room_humidity")
LEAST_FACTOR: Final = 0.2


@dataclass(frozen=True)
class Variation:
    """Factors on the uncertain parameters, each of shape (B,); `room_k` and `probe_k` are offsets in K."""

    radiant: Floats
    losses: Floats
    air_changes: Floats
    mixing: Floats
    wetness: Floats
    room_k: Floats
    probe_k: Floats
    beam: Floats
    room_humidity: Floats
    plume: Floats

    def repeated(self, times: int) -> "Variation":
        """The same set over and over, shape (times × B,)."""
        return Variation(*np.tile(np.stack([getattr(self, name) for name in PARAMETERS]), times))


@dataclass(frozen=True)
class Belief:
    """What is held of the parameters: `middle` (p,), and `root` (p × p, by rows) with root·rootᵀ their covariance.

    In standard deviations of the prior; no `root` is the prior's own, each parameter by itself.
    """

    middle: tuple[float, ...] = (0.0,) * len(SIGMA)
    root: tuple[tuple[float, ...], ...] = ()

    @cached_property
    def spread(self) -> Floats:
        """`root` as an array (p, p)."""
        return np.array(self.root) if self.root else np.eye(len(SIGMA))

    def at(self, normals: Floats) -> Variation:
        """The parameters for independent standard normals of shape (B, p)."""
        return variation(np.array(self.middle) + normals @ self.spread.T)

    def nominal(self) -> Variation:
        """The middle, one set; shared by all who ask, so nobody writes into it."""
        return self._nominal

    @cached_property
    def _nominal(self) -> Variation:
        return self.at(np.zeros((1, len(SIGMA))))

    def both_ways(self) -> Variation:
        """The middle, then one step up and one down in each independent direction: 1 + 2 p sets."""
        steps = np.zeros((1 + 2 * len(SIGMA), len(SIGMA)))
        for index in range(len(SIGMA)):
            steps[1 + 2 * index, index], steps[2 + 2 * index, index] = 1.0, -1.0
        return self.at(steps)


PRIOR: Final = Belief()


def variation(deviations: Floats) -> Variation:
    """Turn deviations (B, p), in standard deviations of the priors, into factors and offsets.

    Parameters
    ----------
    deviations
        Standard deviations from the priors' middles, shape (B, p).

    Returns
    -------
    Variation, of arrays of shape (B,).

    References
    ----------
    Log-normal factors and normal offsets; common practice. The priors are estimates (docs/models.md, How sure it is).
    """
    return Variation(**{name: factor(name, deviations[:, index]) for index, name in enumerate(PARAMETERS)})


def factor(name: str, deviation: Floats) -> Floats:
    """A parameter's factor or offset at `deviation` standard deviations from its prior's middle.

    Parameters
    ----------
    name
        A key of `PRIORS`.
    deviation
        Standard deviations from the middle, any shape.

    Returns
    -------
    Factor without unit or offset in K, of the same shape.

    References
    ----------
    The log-normal and the normal distribution.
    """
    sigma = SIGMA[name]
    if name.endswith("_k"):
        return np.asarray(sigma * deviation)
    return np.exp(sigma * deviation) if name in LOGNORMAL else np.maximum(1 + sigma * deviation, LEAST_FACTOR)


def deviation(name: str, value: float) -> float:
    """The inverse of `factor`: how many standard deviations a factor or offset lies from the prior's middle.

    Parameters
    ----------
    name
        A key of `PRIORS`.
    value
        Factor without unit, or offset in K.

    Returns
    -------
    Standard deviations.

    References
    ----------
    The log-normal and the normal distribution.
    """
    sigma = SIGMA[name]
    if name.endswith("_k"):
        return value / sigma
    return float(np.log(value)) / sigma if name in LOGNORMAL else (value - 1) / sigma
