"""The UV index below a lamp: a straight tube as a line source, a compact as a point.

Tube: `E = (I'/2d) [F(a2) − F(a1)]`, `F(a) = a + sin a cos a`, `a = atan((±L/2 − x)/d)`: the field of a diffuse line
source, at the middle the formula of Keitz (1971), "Light Calculations and Measurements", used to rate UV lamps; recalled.
One UV index is 0.025 W/m² erythemally weighted (WHO, Global Solar UV Index, 2002).
Lamp strengths are estimates until a meter reading replaces them. Limits: no light from walls, no angle losses in mesh.
"""

import math
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import ArrayLike, NDArray

Floats = NDArray[np.float64]

WATTS_PER_INDEX: Final = 0.025
RATED_TUBE_M: Final = 0.55
RATED_DISTANCE_M: Final = 0.30
NO_REFLECTOR: Final = 0.6
AGED_SHARE: Final = 0.7
COMPACT_HALF_ANGLE_DEG: Final = 50.0
SEARCHED_M: Final = np.geomspace(0.03, 3.0, 120)
FINER_STEPS: Final = 41
STRENGTH_SIGMA: Final = 0.15  # one standard deviation of a lamp's strength about its class (estimate)


@dataclass(frozen=True)
class LampKind:
    """UV index at 0.30 m below the middle of a 0.55 m tube, new, with reflector, no mesh; `rated_life_months` to 70 %."""

    index: float
    rated_life_months: float
    point: bool = False


LAMPS: Final = {
    "slim-6": LampKind(2.0, 12),
    "slim-10": LampKind(3.5, 12),
    "slim-12": LampKind(4.5, 12),
    "slim-14": LampKind(6.0, 12),
    "wide-5": LampKind(0.5, 6),
    "wide-10": LampKind(1.2, 6),
    "compact-5": LampKind(0.5, 6, point=True),
    "compact-10": LampKind(1.0, 6, point=True),
}


def ageing(kind: str, age_months: float) -> float:
    """Return the share of its first strength a lamp still gives: exponential, 70 % at rated life (trade)."""
    return float(AGED_SHARE ** (max(age_months, 0.0) / LAMPS[kind].rated_life_months))


def line_shape(distance_m: ArrayLike, along_m: ArrayLike, tube_m: float) -> Floats:
    """Return the irradiance of a line source of unit strength per metre on a receiver that faces it.

    `distance_m` perpendicular (above zero), `along_m` from the tube's middle; arrays broadcast.
    """
    d, x = np.broadcast_arrays(np.asarray(distance_m, float), np.asarray(along_m, float))
    upper, lower = np.arctan((tube_m / 2 - x) / d), np.arctan((-tube_m / 2 - x) / d)
    integral = upper + np.sin(upper) * np.cos(upper) - lower - np.sin(lower) * np.cos(lower)
    return np.asarray(integral / (2 * d))


def point_shape(distance_m: ArrayLike, along_m: ArrayLike) -> Floats:
    """Return the irradiance on a level surface below a point source of `cos^m`, unit axial intensity."""
    m = math.log(0.5) / math.log(math.cos(math.radians(COMPACT_HALF_ANGLE_DEG)))
    d, x = np.broadcast_arrays(np.asarray(distance_m, float), np.asarray(along_m, float))
    return np.asarray(d ** (m + 1) / (d**2 + x**2) ** ((m + 3) / 2))


@dataclass(frozen=True)
class Lamp:
    """A UV lamp in place: `x_m`, `height_m` above the inner floor; `passed` is the open share of mesh below it (1 without)."""

    kind: str
    tube_m: float
    x_m: float
    height_m: float
    reflector: bool = True
    age_months: float = 0.0
    passed: float = 1.0

    @property
    def strength(self) -> float:
        """Everything that multiplies the field's shape, in UV index × the shape's unit."""
        kind = LAMPS[self.kind]
        rated = point_shape(RATED_DISTANCE_M, 0.0) if kind.point else line_shape(RATED_DISTANCE_M, 0.0, RATED_TUBE_M)
        share = (1.0 if self.reflector else NO_REFLECTOR) * ageing(self.kind, self.age_months) * self.passed
        return float(kind.index / rated * share)

    def index_at(self, x_m: ArrayLike, height_m: ArrayLike) -> Floats:
        """UV index on a level surface at `x_m` and `height_m` (arrays broadcast); zero beside or above the lamp."""
        drop = self.height_m - np.asarray(height_m, float)
        below = np.maximum(drop, 0.01)
        offset = np.asarray(x_m, float) - self.x_m
        shape = point_shape(below, offset) if LAMPS[self.kind].point else line_shape(below, offset, self.tube_m)
        return np.asarray(np.where(drop > 0, self.strength * shape, 0.0))


def index_at(lamps: tuple[Lamp, ...], x_m: ArrayLike, height_m: ArrayLike) -> Floats:
    """Return the UV index of all lamps together at the given places."""
    x, height = np.broadcast_arrays(np.asarray(x_m, float), np.asarray(height_m, float))
    total = np.zeros(x.shape)
    for lamp in lamps:
        total = total + lamp.index_at(x, height)
    return total


def distance_for(lamp: Lamp, wanted: float, along_m: float = 0.0) -> float | None:
    """Return the perpendicular distance in m at which this lamp alone gives `wanted` UV index `along_m` from its middle.

    Beside the tube's end the index first rises with distance: the farthest answer is returned. None when none exists.
    """
    shape = point_shape if LAMPS[lamp.kind].point else lambda d, x: line_shape(d, x, lamp.tube_m)
    distances = SEARCHED_M
    for finer in (True, False):
        given = lamp.strength * shape(distances, along_m)
        reached = np.flatnonzero(given >= wanted)
        if reached.size == 0 or reached[-1] == distances.size - 1:
            return None
        near, far = reached[-1], reached[-1] + 1
        if finer:
            distances = np.linspace(distances[near], distances[far], FINER_STEPS)
    # Within a thousandth of the distance the field is a straight line.
    share = (given[near] - wanted) / (given[near] - given[far])
    return float(distances[near] + share * (distances[far] - distances[near]))


def lit_share(lamps: tuple[Lamp, ...], length_m: float, height_m: float, least: float) -> float:
    """Return the share of the length (0–1) where the UV index at `height_m` is `least` or more."""
    x = (np.arange(200) + 0.5) * length_m / 200
    return float((index_at(lamps, x, height_m) >= least).mean())


def mesh_open_share(aperture_mm: float, wire_mm: float) -> float:
    """Return the open share of a square mesh, `(w/(w + t))²`, seen straight on."""
    return (aperture_mm / (aperture_mm + wire_mm)) ** 2
