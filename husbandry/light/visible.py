"""Visible light on a level surface, in lux: enough to say where an enclosure is brightest, and how bright.

A tube or bar of luminous flux P and length L gives `E = P/(π² L) · shape` below it (Keitz 1971, recalled, as for UV), its
reflector sending down more of it; a reflector lamp `I0 cos^m φ` with `I0 = P (m + 1)/2π`. Efficacies are usual ones
(trade, no source): a filament lamp gives mostly heat.
"""

import math
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import ArrayLike, NDArray

from husbandry.light.ultraviolet import point_shape, tube_shape

Floats = NDArray[np.float64]

# lm per electrical watt
EFFICACY: Final = {
    "reflector-flood": 9.0,
    "reflector-spot": 9.0,
    "halogen-flood": 14.0,
    "vapour-combined": 25.0,
    "halide-combined": 75.0,
    "tube": 55.0,
    "led-bar": 110.0,
    "plant-led": 80.0,
    "t5-white": 90.0,
}
TUBE_WATTS_PER_M: Final = 44.0  # a 24 W tube is 0.55 m long (common practice)
REFLECTOR_GAIN: Final = 1.7  # what a reflector sends down more (estimate)


@dataclass(frozen=True)
class Luminaire:
    """A light in place, m: a line of `length_m`, or a point with `half_angle_deg` where that is zero; flux in lm.

    It hangs `aside_m` behind the plane through the basking place; a line `across` goes from front to back.
    """

    x_m: float
    height_m: float
    lumens: float
    length_m: float = 0.0
    half_angle_deg: float = 42.0
    passed: float = 1.0
    aside_m: float = 0.0
    across: bool = False

    def lux_at(self, x_m: ArrayLike, height_m: ArrayLike, behind_m: ArrayLike = 0.0) -> Floats:
        """Illuminance of a level surface so far behind the basking place; arrays broadcast, zero above the light.

        None comes from walls.
        """
        aside_m = self.aside_m - np.asarray(behind_m, float)
        drop = self.height_m - np.asarray(height_m, float)
        below, along = np.maximum(drop, 0.01), np.asarray(x_m, float) - self.x_m
        if self.length_m:
            aside = np.asarray(aside_m)
            lengthwise, beside = (aside, along) if self.across else (along, aside)
            strength = REFLECTOR_GAIN * self.lumens / (math.pi**2 * self.length_m)
            shape = tube_shape(below, lengthwise, beside, self.length_m, self.passed) * strength
        else:
            m = math.log(0.5) / math.log(math.cos(math.radians(self.half_angle_deg)))
            shape = (
                point_shape(below, np.hypot(along, aside_m), self.half_angle_deg, self.passed)
                * self.lumens
                * (m + 1)
                / (2 * math.pi)
            )
        return np.asarray(np.where(drop > 0, shape, 0.0))


def lux_at(lights: tuple[Luminaire, ...], x_m: ArrayLike, height_m: ArrayLike, behind_m: ArrayLike = 0.0) -> Floats:
    """Return the illuminance of all lights together.

    Parameters
    ----------
    lights
        Tubes, bars and lamps.
    x_m, height_m
        Places along the enclosure and above its inner floor, in m; they broadcast.
    behind_m
        How far behind the basking place, m; broadcasts too.

    Returns
    -------
    Lux on a level surface. Limits: no light from walls.

    References
    ----------
    Keitz 1971, Light Calculations and Measurements (docs/models.md [7]; recalled).
    """
    x, height = np.asarray(x_m, float), np.asarray(height_m, float)
    total = np.zeros(np.broadcast_shapes(x.shape, height.shape))
    for light in lights:
        total = total + light.lux_at(x, height, behind_m)
    return total
