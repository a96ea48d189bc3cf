"""What an enclosure is built of: heat through its walls, its lid and its open top.

U-values after ISO 6946 with the inner surface resistance on both sides, since both sides are indoors. Conductivities
and heat capacities are the usual table values.
"""

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Final

from husbandry.climate.case import EnclosureCase, LiningCase

R_SIDEWAYS: Final = 0.13  # m²K/W, ISO 6946, horizontal heat flow
R_UP: Final = 0.10
R_DOWN: Final = 0.17
R_OUTSIDE: Final = 0.04
MESH_LOSS: Final = 6.0  # W/m²K over a mesh wall's area beside the air it lets through (trade)
RADIATION: Final = 5.5  # W/m²K between surfaces near 22 °C of an emittance of 0.95: 4 ε σ T³
COVER_M: Final = 0.003  # a sheet of plastic laid on a mesh


@dataclass(frozen=True)
class Material:
    """`conductivity` in W/mK and `heat_capacity` in J/m³K (common tables)."""

    conductivity: float
    heat_capacity: float


MATERIALS: Final = {
    "glass": Material(1.0, 2.1e6),
    "plywood": Material(0.13, 0.7e6),
    "pvc": Material(0.17, 1.3e6),
    "foamed-pvc": Material(0.07, 0.5e6),
    "polypropylene": Material(0.22, 1.7e6),
    "foam-board": Material(0.033, 0.05e6),
}


@dataclass(frozen=True)
class Build:
    """An enclosure kind: wall `thickness_m`, None where the walls are mesh; `cracks_h` air changes per hour with the inside 5 K
    above the room, under a solid lid; for mesh walls those of a cage of 45 × 45 × 90 cm.
    """

    material: str
    thickness_m: float | None
    cracks_h: float


# Of doors, sliding glass and the small vents that the kind has (estimate, lognormal, factor two).
BUILDS: Final = {
    "glass": Build("glass", 0.004, 3.0),
    "pvc": Build("pvc", 0.006, 3.0),
    "foamed-pvc": Build("foamed-pvc", 0.010, 3.0),
    "plywood": Build("plywood", 0.012, 3.0),
    "polypropylene": Build("polypropylene", 0.002, 0.5),
    "mesh": Build("mesh", None, 40.0),
    "open-table": Build("plywood", 0.018, 10.0),
}
EARTH_CONDUCTIVITY: Final = 2.0  # W/mK, sand or gravel (ISO 13370; recalled)


def u_value(thickness_m: float, conductivity: float, *, inside: float = R_SIDEWAYS, outside: float = R_SIDEWAYS) -> float:
    """Return the thermal transmittance of one layer.

    Parameters
    ----------
    thickness_m
        Thickness in m.
    conductivity
        Thermal conductivity in W/mK.
    inside, outside
        Surface resistances in m²K/W; two indoor ones by default.

    Returns
    -------
    W/m²K.

    References
    ----------
    ISO 6946:2017 (docs/models.md [1]; recalled).
    """
    return 1.0 / (inside + thickness_m / conductivity + outside)


def build_of(kind: str, wall_m: float | None = None) -> Build:
    """Return the kind's usual build, its walls as thick as the keeper says; mesh stays mesh."""
    usual = BUILDS[kind]
    return usual if wall_m is None or usual.thickness_m is None else replace(usual, thickness_m=wall_m)


def half_wall(build: Build) -> float:
    """Return the thermal resistance of half the wall's thickness in m²K/W. Raises ValueError for mesh.

    Parameters
    ----------
    build
        The wall.

    Returns
    -------
    m²K/W.

    References
    ----------
    ISO 6946:2017 (docs/models.md [1]; recalled).
    """
    if build.thickness_m is None:
        raise ValueError("mesh has no thickness")
    return build.thickness_m / 2 / MATERIALS[build.material].conductivity


def wall_u(build: Build, insulation_m: float = 0.0) -> float:
    """Return the thermal transmittance of the side walls.

    Parameters
    ----------
    build
        What the walls are made of; mesh walls lose over their area like a mesh lid.
    insulation_m
        Thickness of foam board laid on them, m.

    Returns
    -------
    W/m²K.

    References
    ----------
    ISO 6946:2017 (docs/models.md [1]; recalled).
    """
    if build.thickness_m is None:
        return MESH_LOSS
    bare = 1 / u_value(build.thickness_m, MATERIALS[build.material].conductivity)
    return 1 / (bare + insulation_m / MATERIALS["foam-board"].conductivity)


def wall_heat(build: Build) -> float:
    """Return the heat capacity of a square metre of wall in J/m²K; 0 for mesh.

    Parameters
    ----------
    build
        The wall.

    Returns
    -------
    J/m²K.

    References
    ----------
    Density times specific heat times thickness; common tables, from memory.
    """
    return 0.0 if build.thickness_m is None else build.thickness_m * MATERIALS[build.material].heat_capacity


def lid_u(build: Build, *, outdoors: bool = False, insulation_m: float = 0.0) -> float:
    """Return the thermal transmittance of a solid lid.

    Parameters
    ----------
    build
        What the walls are made of; the lid is made of the same.
    outdoors
        Whether wind blows over it.
    insulation_m
        Thickness of foam board laid on it, m.

    Returns
    -------
    W/m²K.

    References
    ----------
    ISO 6946:2017 (docs/models.md [1]; recalled).
    """
    thickness_m, material = (0.01, "plywood") if build.thickness_m is None else (build.thickness_m, build.material)
    over = R_OUTSIDE if outdoors else R_UP
    bare = 1 / u_value(thickness_m, MATERIALS[material].conductivity, inside=R_UP, outside=over)
    return 1 / (bare + insulation_m / MATERIALS["foam-board"].conductivity)


def cover_u(*, outdoors: bool = False) -> float:
    """Return the thermal transmittance of a sheet of plastic laid over a part of a mesh or an opening.

    Parameters
    ----------
    outdoors
        Whether wind blows over it.

    Returns
    -------
    W/m²K.

    References
    ----------
    ISO 6946:2017 (docs/models.md [1]; recalled).
    """
    return u_value(COVER_M, MATERIALS["pvc"].conductivity, inside=R_UP, outside=R_OUTSIDE if outdoors else R_UP)


def open_top_m2(case: EnclosureCase) -> float:
    """The area of the top, in m², that is mesh or open and not covered."""
    return 0.0 if case.lid == "solid" else case.length_m * case.width_m * (1 - case.lid_covered)


def open_top_w_k(case: EnclosureCase) -> float:
    """Return the conductance by which what stands inside radiates to the room through an open or mesh top.

    Parameters
    ----------
    case
        The enclosure.

    Returns
    -------
    W/K; a mesh's wires, halfway between inside and room, pass half of what they catch.

    References
    ----------
    The opening of a cavity radiates like a black surface, Incropera and DeWitt, Fundamentals of Heat and Mass Transfer
    (docs/models.md [3]; recalled).
    """
    passed = (1 + case.mesh_open_share) / 2 if case.lid == "mesh" else 1.0
    return RADIATION * passed * open_top_m2(case)


def floor_view(case: EnclosureCase) -> float:
    """Return the share of what leaves the ground that meets the top: the view factor of two equal parallel rectangles.

    Parameters
    ----------
    case
        The enclosure.

    Returns
    -------
    Share without unit, 0 to 1.

    References
    ----------
    Howell, A Catalog of Radiation Heat Transfer Configuration Factors, C-11 (docs/models.md [22]; recalled).
    """
    high = max(case.height_m - case.ground_depth_m, 0.01)
    x, y = case.length_m / high, case.width_m / high
    to_x, to_y = math.hypot(1, x), math.hypot(1, y)
    total = math.log(to_x * to_y / math.sqrt(1 + x * x + y * y))
    total += x * to_y * math.atan(x / to_y) + y * to_x * math.atan(y / to_x) - x * math.atan(x) - y * math.atan(y)
    return 2 * total / (math.pi * x * y)


def earth_u(case: EnclosureCase) -> float:
    """Return the thermal transmittance from the underside of the ground to the earth deep below an enclosure that stands on it.

    Parameters
    ----------
    case
        The enclosure.

    Returns
    -------
    W/m²K.

    References
    ----------
    ISO 13370:2017, slab on ground (docs/models.md [20]; recalled): B' = A / ½P, equivalent thickness with the surface
    resistances 0.17 and 0.04 m²K/W and the insulation under it, earth of 2 W/mK.
    """
    floor = _floor(build_of(case.kind, case.wall_m), case.insulation_m)
    across = case.length_m * case.width_m / (case.length_m + case.width_m)
    thick = EARTH_CONDUCTIVITY * (R_DOWN + floor + R_OUTSIDE)
    if thick < across:
        whole = 2 * EARTH_CONDUCTIVITY / (math.pi * across + thick) * math.log(math.pi * across / thick + 1)
    else:
        whole = EARTH_CONDUCTIVITY / (0.457 * across + thick)
    return 1 / (1 / whole - R_DOWN)


def base_u(build: Build, insulation_m: float = 0.0) -> float:
    """Return the thermal transmittance from the underside of the ground through the floor and the stand to the room.

    Parameters
    ----------
    build
        What the walls are made of; the floor is made of the same.
    insulation_m
        Thickness of foam board under it, m.

    Returns
    -------
    W/m²K; the resistance of the stand's top, 0.15 m²K/W, is an estimate.

    References
    ----------
    ISO 6946:2017 (docs/models.md [1]; recalled).
    """
    return 1.0 / (_floor(build, insulation_m) + R_DOWN + 0.15)  # 0.15: the stand's top


def _floor(build: Build, insulation_m: float) -> float:
    """The thermal resistance of the floor with the board under it, m²K/W; a cage of mesh stands in a tray."""
    thickness_m, material = (0.003, "pvc") if build.thickness_m is None else (build.thickness_m, build.material)
    return thickness_m / MATERIALS[material].conductivity + insulation_m / MATERIALS["foam-board"].conductivity


def lined(area_m2: float, resistance: float, linings: Iterable[LiningCase]) -> float:
    """Return the conductance through a wall that backgrounds cover in part: the bare part and each covered one side by side.

    Parameters
    ----------
    area_m2, resistance
        Of the wall, m² and m²K/W.
    linings
        The backgrounds on it.

    Returns
    -------
    W/K.

    References
    ----------
    Parallel paths (ISO 6946:2017, docs/models.md [1]; recalled).
    """
    bare, found = 1.0, 0.0
    for lining in linings:
        share = min(lining.share, bare)
        found += share * area_m2 / (resistance + lining.resistance)
        bare -= share
    return found + bare * area_m2 / resistance


def outer_resistance(case: EnclosureCase) -> float:
    """Return the surface resistance outside the side walls in m²K/W: that of still room air, or of wind.

    References
    ----------
    ISO 6946:2017 (docs/models.md [1]; recalled).

    Parameters
    ----------
    case
        The enclosure.

    Returns
    -------
    m²K/W.
    """
    return R_OUTSIDE if case.outdoors else R_SIDEWAYS
