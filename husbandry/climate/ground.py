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
# Damp ground dries from the top: what evaporates comes through a dry layer, by diffusion.
KEPT_DRY_M: Final = 0.0125  # of it where ground is kept damp below (trade: the top finger's breadth)
SOIL_DIFFUSIVITY: Final = (
    6.6e-6  # m²/s of vapour through dry soil: 2.5e-5 in air, times 0.66 of its air-filled 0.4 (Penman 1940; recalled)
)
HALF: Final = 0.5  # of its water: from there on damp ground counts as dry
MASS_TRANSFER: Final = 0.003  # m/s of vapour from a wet surface into still air (Lewis relation)

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


def evaporating_share(dry_m: float) -> float:
    """Return what evaporates through a dry layer, over what an open wet surface would give.

    Parameters
    ----------
    dry_m
        The layer's thickness in m, from nought.

    Returns
    -------
    Share without unit, 0–1: 1 at nought, 0.15 where ground is kept damp below.

    References
    ----------
    Two resistances in series, 1/h_m and δ/D; D by H. L. Penman, "Gas and vapour movements in the soil", 1940 (docs/models.md [32];
    recalled).
    """
    return 1 / (1 + MASS_TRANSFER * dry_m / SOIL_DIFFUSIVITY)


def drying_slows(depth_m: float) -> float:
    """Return how many times longer half of the water of damp ground takes to go than it would at the first day's rate.

    Parameters
    ----------
    depth_m
        The depth of the ground in m.

    Returns
    -------
    Factor without unit, 1 or more.

    References
    ----------
    The mean of 1/`evaporating_share` while the dry layer grows from KEPT_DRY_M by half the depth: it is straight in the layer.
    """
    return evaporating_share(KEPT_DRY_M) / evaporating_share(KEPT_DRY_M + depth_m / 4)
