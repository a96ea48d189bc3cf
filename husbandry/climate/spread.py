"""How sure a prediction is: many draws of the uncertain parameters through what the full model says of each alone.

A number goes `y + Σ max(z, 0) y⁺ + Σ max(−z, 0) y⁻` with the changes y⁺ and y⁻ that the full model gives for one standard
deviation up and down. What goes so is the enclosure without and per unit of heat; thermostats, which bend everything at
their limits, find their duties anew in every draw (`husbandry.climate.steady`). All predictions of a plan share the same
draws, so that what fails together is counted once. Checked against draws through the full model in tests/core/test_spread.py.
"""

from functools import cache
from typing import Final

import numpy as np
import scipy
from numpy.typing import NDArray

from husbandry.climate.parameters import PARAMETERS

Floats = NDArray[np.float64]

DRAWS: Final = 320
UV: Final = len(PARAMETERS)  # the column of what lamps give of UV, which no temperature knows


@cache
def normals() -> Floats:
    """Standard normals (DRAWS, p + 1), the last for UV, spread evenly and always the same: of mean 0, spread 1, uncorrelated.

    Returns
    -------
    Shape (DRAWS, p + 1).

    References
    ----------
    The R-sequence of the generalised golden ratio (M. Roberts 2018), made normal by the inverse distribution function, each draw
    with its mirror (antithetic), the second moments matched by a linear map (Barraquand 1995, quadratic resampling); from memory.
    """
    count = len(PARAMETERS) + 1
    ratio = 2.0
    for _ in range(64):
        ratio = (1 + ratio) ** (1 / (count + 1))  # x^(n+1) = x + 1
    steps = ratio ** -np.arange(1.0, count + 1)
    half = scipy.special.ndtri((0.5 + np.arange(1, DRAWS // 2 + 1)[:, None] * steps) % 1)
    drawn = np.stack([half, -half], axis=1).reshape(DRAWS, count)  # side by side: the first so many are mirrored too
    return np.asarray(np.linalg.solve(np.linalg.cholesky(np.cov(drawn.T, bias=True)), drawn.T).T)


@cache
def _bent() -> Floats:
    """How far each draw goes of the step up and of the step down of every parameter in turn, (DRAWS, 2 p)."""
    drawn = normals()[:, : len(PARAMETERS)]
    return np.stack([np.maximum(drawn, 0.0), np.maximum(-drawn, 0.0)], axis=2).reshape(DRAWS, -1)


def draws(values: Floats) -> Floats:
    """Draw what was worked out for `Belief.both_ways`, (S, 1 + 2 p, K): the middle, then each step up and down; (S, DRAWS, K).

    Parameters
    ----------
    values
        What was worked out at the middle and a step up and down of each parameter, shape (S, 1 + 2 p, K).

    Returns
    -------
    Shape (S, DRAWS, K), in the unit of `values`.

    References
    ----------
    A response that is linear on either side of the middle; checked against the model itself in the tests.
    """
    middle = values[:, :1]
    drawn = _bent() @ (values[:, 1:] - middle)
    drawn += middle
    return np.asarray(drawn)


def deciles(drawn: Floats) -> tuple[Floats, Floats]:
    """The 10th and 90th percentile over the last axis.

    Parameters
    ----------
    drawn
        Any shape, draws last.

    Returns
    -------
    Two arrays without the last axis.

    References
    ----------
    numpy.quantile.
    """
    place = DRAWS // 10
    ordered = np.partition(drawn, (place, DRAWS - 1 - place), axis=-1)
    return ordered[..., place], ordered[..., DRAWS - 1 - place]


def within(drawn: Floats, low: float | None, high: float | None) -> NDArray[np.bool_]:
    """Tell which draws lie between two limits, either of them open.

    Parameters
    ----------
    drawn
        Any shape.
    low, high
        Limits in its unit; None is open.

    Returns
    -------
    Booleans of the same shape.

    References
    ----------
    No source outside.
    """
    held = np.ones(drawn.shape, bool)
    if low is not None:
        held &= drawn >= low
    if high is not None:
        held &= drawn <= high
    return held
