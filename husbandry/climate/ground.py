"""Ground as the heat and the vapour see it: conductivity, heat capacity, wetness."""

from dataclasses import dataclass
from typing import Final


@dataclass(frozen=True)
class GroundMaterial:
    """`conductivity` W/mK and `heat_capacity` J/m³K, dry and damp (common tables; Carslaw & Jaeger for sand)."""

    conductivity_dry: float
    conductivity_damp: float
    heat_capacity_dry: float
    heat_capacity_damp: float


GROUND: Final = {
    "paper": GroundMaterial(0.08, 0.2, 0.5e6, 1.5e6),
    "sand": GroundMaterial(0.3, 1.0, 1.3e6, 2.3e6),
    "sandy-loam": GroundMaterial(0.3, 1.0, 1.3e6, 2.3e6),
    "soil": GroundMaterial(0.25, 1.0, 1.3e6, 2.5e6),
    "coir": GroundMaterial(0.08, 0.3, 0.4e6, 1.8e6),
    "bark": GroundMaterial(0.10, 0.2, 0.5e6, 1.2e6),
    "aspen": GroundMaterial(0.06, 0.15, 0.3e6, 1.0e6),
    "moss": GroundMaterial(0.06, 0.3, 0.3e6, 2.0e6),
}
# Share of the surface that evaporates like open water (estimate): damp ground is dry on top under a lamp.
WET_SHARE: Final = {False: 0.0, True: 0.15}

# kg of vapour that a square metre takes up in a day between dry and saturated air: moisture buffer values of 0.2 to 2 g/m² for
# each per cent (Rode and others 2005; recalled, by what the kind is made of).
TAKES_UP: Final = {
    "paper": 0.05,
    "sand": 0.02,
    "sandy-loam": 0.05,
    "soil": 0.10,
    "coir": 0.20,
    "bark": 0.12,
    "aspen": 0.15,
    "moss": 0.20,
}


def conductivity(kind: str, damp: bool) -> float:
    """Return the thermal conductivity of a ground in W/mK (common tables). Raises KeyError for an unknown kind.

    Parameters
    ----------
    kind
        A key of `GROUNDS`.
    damp
        Whether it is kept damp.

    Returns
    -------
    W/mK.

    References
    ----------
    Common tables of soils, sands and wood; from memory.
    """
    return GROUND[kind].conductivity_damp if damp else GROUND[kind].conductivity_dry


def heat_capacity(kind: str, damp: bool) -> float:
    """Return the heat capacity of a ground in J/m³K (common tables). Raises KeyError for an unknown kind.

    Parameters
    ----------
    kind
        A key of `GROUNDS`.
    damp
        Whether it is kept damp.

    Returns
    -------
    J/m³K.

    References
    ----------
    Common tables of soils, sands and wood; from memory.
    """
    return GROUND[kind].heat_capacity_damp if damp else GROUND[kind].heat_capacity_dry
