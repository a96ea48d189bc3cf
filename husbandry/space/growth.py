"""Growth in length after Gompertz, refitted to an animal's own measurements.

`L(t) = L∞ e^(−g e^(−k t))` with `g = ln(L∞/L0)`: a sigmoid; mass, a power of length, is another of the same k (Winsor 1932, "The
Gompertz curve as a growth curve", Proceedings of the National Academy of Sciences 18, 1–8; recalled). L∞ and k begin at the
species' adult length and years to adult size, with a spread from the ranges given there. Each measurement moves them by least
squares towards itself and away from that prior; what few measurements cannot tell stays with the prior. Limits: one curve for
both sexes, no winters, no fasting.
"""

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Final

import numpy as np
import scipy
from numpy.typing import NDArray

Floats = NDArray[np.float64]

GROWN_SHARE: Final = 0.95  # of the last length, reached at "years to adult"
DECILE: Final = 1.2816
# At least this much, as the logarithm's sigma: last lengths differ little within a species, rates with every keeper's feeding.
LEAST_SIGMA: Final = np.array([0.05, 0.35])
LENGTH_SIGMA: Final = 0.03  # of a measured length's logarithm (estimate)
MASS_SIGMA: Final = 0.12  # of a mass's logarithm about the length–mass curve: meals and condition (estimate)
DAYS_PER_YEAR: Final = 365.2425


@dataclass(frozen=True)
class Prior:
    """What the species says: lengths in m, years to adult size; each range is taken as the 10th to 90th percentile."""

    hatch_m: float
    adult_m: tuple[float, float]
    years_to_adult: tuple[float, float]


@dataclass(frozen=True)
class Measurement:
    """A length in m at an age in days; `from_mass` when it was worked out from a weighing by a cube-like law."""

    age_days: float
    length_m: float
    from_mass: bool = False


@dataclass(frozen=True)
class Growth:
    """A fitted curve: logarithms of L∞ (m) and k (1/day), their covariance (2, 2), and the hatch length in m."""

    log_last: float
    log_rate: float
    covariance: Floats
    hatch_m: float

    def length(self, age_days: float | Floats) -> Floats:
        """Return the length in m at an age in days."""
        return _length(self.log_last, self.log_rate, self.hatch_m, np.asarray(age_days, float))

    def spread(self, age_days: float | Floats) -> tuple[Floats, Floats]:
        """Return the 10th and 90th percentile of length in m, by the covariance at first order in the logarithm."""
        age = np.asarray(age_days, float)
        middle = np.log(self.length(age))
        step = 1e-4
        slopes = np.stack(
            [
                (np.log(_length(self.log_last + step, self.log_rate, self.hatch_m, age)) - middle) / step,
                (np.log(_length(self.log_last, self.log_rate + step, self.hatch_m, age)) - middle) / step,
            ]
        )
        sigma = np.sqrt(np.einsum("i...,ij,j...->...", slopes, self.covariance, slopes))
        return np.exp(middle - DECILE * sigma), np.exp(middle + DECILE * sigma)

    def age_at(self, length_m: float) -> float | None:
        """Return the age in days at which the middle curve has this length; None where it never has."""
        last = math.exp(self.log_last)
        if length_m >= last:
            return None
        if length_m <= self.hatch_m:
            return 0.0
        return math.log(math.log(last / self.hatch_m) / math.log(last / length_m)) / math.exp(self.log_rate)


def _length(log_last: float, log_rate: float, hatch_m: float, age_days: Floats) -> Floats:
    return np.asarray(np.exp(log_last - (log_last - math.log(hatch_m)) * np.exp(-math.exp(log_rate) * age_days)))


def rate(hatch_m: float, last_m: float, years_to_adult: float) -> float:
    """Return k in 1/day of the curve that reaches nineteen twentieths of `last_m` at `years_to_adult`.

    Parameters
    ----------
    hatch_m, last_m
        Lengths at hatching and at last, m.
    years_to_adult
        Years.

    Returns
    -------
    1/day.

    References
    ----------
    Winsor 1932 (docs/models.md [12]; recalled).
    """
    return math.log(math.log(last_m / hatch_m) / -math.log(GROWN_SHARE)) / (years_to_adult * DAYS_PER_YEAR)


@lru_cache(maxsize=1024)
def fit(prior: Prior, measured: tuple[Measurement, ...] = ()) -> Growth:
    """Fit the growth curve to an animal's own measurements.

    Parameters
    ----------
    prior
        What the species tells: length at hatching and grown (m), years to grow up.
    measured
        Lengths (m) by age (days); those that follow from a weight count for less.

    Returns
    -------
    The curve `L(t) = L∞ e^(−ln(L∞/L₀) e^(−k t))` with the covariance of its parameters; the species' own without measurements.

    References
    ----------
    Winsor 1932, Proceedings of the National Academy of Sciences 18, 1–8 (docs/models.md [12]; recalled).
    """
    low_m, high_m = prior.adult_m
    fast, slow = prior.years_to_adult
    last_m = math.sqrt(low_m * high_m)
    centre = np.array([math.log(last_m), math.log(rate(prior.hatch_m, last_m, math.sqrt(fast * slow)))])
    sigma = np.maximum(np.log([high_m / low_m, slow / fast]) / (2 * DECILE), LEAST_SIGMA)
    if not measured:
        return Growth(float(centre[0]), float(centre[1]), np.diag(sigma**2), prior.hatch_m)
    ages = np.array([item.age_days for item in measured])
    logs = np.log([item.length_m for item in measured])
    weights = np.array([MASS_SIGMA / 3 if item.from_mass else LENGTH_SIGMA for item in measured])

    def missing(parameters: Floats) -> Floats:
        expected = np.log(np.maximum(_length(parameters[0], parameters[1], prior.hatch_m, ages), 1e-4))
        return np.concatenate([(logs - expected) / weights, (parameters - centre) / sigma])

    lowest = math.log(1.02 * prior.hatch_m)
    found = scipy.optimize.least_squares(missing, np.maximum(centre, [lowest, -20.0]), bounds=([lowest, -20.0], [4.0, 1.0]))
    slopes = np.asarray(found.jac, float)
    covariance = np.linalg.inv(slopes.T @ slopes)
    return Growth(float(found.x[0]), float(found.x[1]), covariance, prior.hatch_m)
