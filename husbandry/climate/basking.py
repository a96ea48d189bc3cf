"""The surface under the lamp: where radiation in meets convection, radiation and conduction out.

`α E = h_c (T_s − T_a) + ε σ (T_s⁴ − T_sur⁴) + k_g (T_s − T_g)`. h_c is natural convection above a hot level plate after
McAdams as given by Incropera & DeWitt: Nu = 0.54 Ra^¼ below Ra 10⁷, 0.15 Ra^⅓ above, with the plate's length
L = area/perimeter; properties of dry air near 35 °C.
"""

import math
from dataclasses import dataclass
from typing import Final, Generic, NamedTuple, TypeVar

import numpy as np
from numpy.typing import NDArray

from husbandry.climate.air import KELVIN
from husbandry.climate.compiled import compiled

Floats = NDArray[np.float64]
Celsius = TypeVar("Celsius", float, Floats)

STEFAN_BOLTZMANN: Final = 5.670374e-8
ABSORPTANCE: Final = 0.85  # dark stone (estimate; about 0.6 when pale)
EMITTANCE: Final = 0.95
GRAVITY: Final = 9.81
AIR_VISCOSITY: Final = 1.65e-5  # m²/s at 35 °C
AIR_DIFFUSIVITY: Final = 2.34e-5
AIR_CONDUCTIVITY: Final = 0.0268  # W/mK
TURBULENT: Final = 1e7
LAMINAR: Final = 0.54
COLD: Final = 0.27  # of a plate that is colder than the air above it
NEWTONS: Final = 4  # steps to a hundredth of a kelvin
STILL_AIR: Final = 1.5  # W/m²K that remains of draughts and the lamp's own plume (estimate)


@dataclass(frozen=True)
class BaskingPerch:
    """What the animal basks on: `bed` is the conductance to the ground below (W/m²K), a branch has none (estimates).

    `thickness_m` and `heat_capacity` (J/m³K, common tables) say how slowly it warms; `depth_share` how far it reaches
    across the enclosure, as a share of its length.
    """

    bed: float
    absorptance: float
    thickness_m: float
    heat_capacity: float
    depth_share: float = 1.0


PERCHES: Final = {
    "slate": BaskingPerch(2.5, 0.88, 0.012, 2.1e6),
    "stone": BaskingPerch(2.5, 0.85, 0.030, 2.0e6),
    "wood": BaskingPerch(1.0, 0.75, 0.025, 1.0e6),
    "branch": BaskingPerch(0.0, 0.75, 0.025, 1.0e6, 0.2),
    "ground": BaskingPerch(4.0, 0.80, 0.010, 1.3e6),
}


def spot_area(side_m: float, width_m: float, perch: str) -> float:
    """Return the area in m² of a basking surface in an enclosure of `width_m`."""
    return side_m * min(side_m * PERCHES[perch].depth_share, width_m)


def convection_at(surface_c: float, air_c: float, plate_m: float) -> float:
    """Return the convective coefficient above a level plate: hot, or colder than its air, over which the air then lies still.

    Parameters
    ----------
    surface_c, air_c
        Temperatures in °C.
    plate_m
        Side of the square plate in m; the length is its area over its perimeter, a quarter of the side.

    Returns
    -------
    h_conv in W/m²K, never below that of still air.

    References
    ----------
    McAdams, in Incropera and DeWitt, Fundamentals of Heat and Mass Transfer (docs/models.md [3]; recalled).
    """
    length, mean_k = plate_m / 4, (surface_c + air_c) / 2 + KELVIN
    difference = max(abs(surface_c - air_c), 1e-3)
    rayleigh = GRAVITY / mean_k * difference * length * length * length / (AIR_VISCOSITY * AIR_DIFFUSIVITY)
    if surface_c < air_c:
        nusselt = COLD * math.sqrt(math.sqrt(rayleigh))
    elif rayleigh < TURBULENT:
        nusselt = LAMINAR * math.sqrt(math.sqrt(rayleigh))
    else:
        nusselt = 0.15 * rayleigh ** (1.0 / 3.0)
    return max(nusselt * AIR_CONDUCTIVITY / length, STILL_AIR)


convection_of = compiled(convection_at)


class Surroundings(NamedTuple, Generic[Celsius]):
    """What a surface exchanges heat with, in °C: the air above it, what it sees, and the ground below it."""

    air_c: Celsius
    seen_c: Celsius
    ground_c: Celsius


def surface_temperature(irradiance_wm2: Floats, around: Surroundings[Floats], plate_m: float, perch: str) -> Floats:
    """Solve the balance of a basking surface by Newton's method.

    Parameters
    ----------
    irradiance_wm2
        What falls on the surface from the lamps, W/m²; it broadcasts with the temperatures.
    around
        What it exchanges heat with, °C.
    plate_m
        Side of the square plate in m.
    perch
        A key of `PERCHES`.

    Returns
    -------
    The surface temperature in °C, to a hundredth of a kelvin.

    References
    ----------
    Incropera and DeWitt, Fundamentals of Heat and Mass Transfer (docs/models.md [3]; recalled).
    """
    kind = PERCHES[perch]
    given = (kind.absorptance * np.asarray(irradiance_wm2, np.float64), *around)
    shape = np.broadcast_shapes(*(np.shape(each) for each in given))
    gain, air, seen, ground = (np.array(np.broadcast_to(each, shape), np.float64).ravel() for each in given)
    return _balanced(gain, air, seen, ground, float(plate_m), kind.bed).reshape(shape)


@compiled
def _balanced(gain: Floats, air: Floats, seen: Floats, ground: Floats, plate_m: float, bed: float) -> Floats:
    found = np.empty(len(gain))
    for place in range(len(gain)):
        surface = air[place] + gain[place] / (10.0 + bed)
        radiated_in = EMITTANCE * STEFAN_BOLTZMANN * (seen[place] + KELVIN) ** 4
        for _turn in range(NEWTONS):
            h_c, absolute = convection_of(surface, air[place], plate_m), surface + KELVIN
            radiated = EMITTANCE * STEFAN_BOLTZMANN * absolute**4 - radiated_in
            balance = gain[place] - h_c * (surface - air[place]) - radiated - bed * (surface - ground[place])
            surface += balance / (1.25 * h_c + 4 * EMITTANCE * STEFAN_BOLTZMANN * absolute**3 + bed)
        found[place] = surface
    return found


@dataclass(frozen=True)
class SurfaceSum:
    """The balance of a surface in W/m²: what it takes in from lamps, what it gives to air, to what it sees, to its bed."""

    lamps: float
    to_air: float
    to_walls: float
    to_bed: float


def surface_sum(irradiance_wm2: float, surface_c: float, around: Surroundings[float], plate_m: float, perch: str) -> SurfaceSum:
    """Return the terms of a surface's balance at a temperature that is known.

    Parameters
    ----------
    irradiance_wm2
        What falls on the surface from the lamps, W/m².
    surface_c
        The surface's temperature in °C.
    around
        What it exchanges heat with, °C.
    plate_m
        Side of the square plate in m.
    perch
        A key of `PERCHES`.

    Returns
    -------
    SurfaceSum in W/m²; the four add up to nothing at the temperature of balance.

    References
    ----------
    Incropera and DeWitt, Fundamentals of Heat and Mass Transfer (docs/models.md [3]; recalled).
    """
    kind = PERCHES[perch]
    convection = convection_at(surface_c, around.air_c, plate_m)
    return SurfaceSum(
        kind.absorptance * irradiance_wm2,
        convection * (surface_c - around.air_c),
        EMITTANCE * STEFAN_BOLTZMANN * ((surface_c + KELVIN) ** 4 - (around.seen_c + KELVIN) ** 4),
        kind.bed * (surface_c - around.ground_c),
    )


def radiative_conductance(hot_c: Celsius, cold_c: Celsius) -> Celsius:
    """Return the radiative coefficient between a surface and what it sees: εσ(T² + T₀²)(T + T₀).

    Parameters
    ----------
    hot_c, cold_c
        The two temperatures in °C, numbers or arrays of one shape.

    Returns
    -------
    h_rad in W/m²K, exact at these temperatures, of their shape.

    References
    ----------
    Incropera and DeWitt, Fundamentals of Heat and Mass Transfer (docs/models.md [3]; recalled).
    """
    hot, cold = hot_c + KELVIN, cold_c + KELVIN
    return EMITTANCE * STEFAN_BOLTZMANN * (hot * hot + cold * cold) * (hot + cold)


radiation_of = compiled(radiative_conductance)
