"""What an enclosure is built of: heat through its walls and its lid, and the air it changes.

U-values after ISO 6946 with the inner surface resistance on both sides, since both sides are indoors. Conductivities
and heat capacities are the usual table values; air changes are estimates that the keeper's readings replace. Where
vents are given, the stack flow through the lowest and the highest of them takes the estimate's place.
"""

import math
from dataclasses import dataclass, replace
from typing import Final

from husbandry.climate.case import EnclosureCase, VentCase

R_SIDEWAYS: Final = 0.13  # m²K/W, ISO 6946, horizontal heat flow
R_UP: Final = 0.10
R_DOWN: Final = 0.17
R_OUTSIDE: Final = 0.04
MESH_LOSS: Final = 6.0  # W/m²K over a mesh's area beside the air it lets through (trade)
OPEN_LOSS: Final = 8.0  # W/m²K over an open top: radiation to the room, and convection (estimate)
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
    """An enclosure kind: wall `thickness_m`, None where the walls are mesh; air changes per hour at 5 K by lid."""

    material: str
    thickness_m: float | None
    air_changes: dict[str, float]


# Air changes per hour with the inside 5 K above the room (estimate, lognormal, factor two).
BUILDS: Final = {
    "glass": Build("glass", 0.004, {"solid": 3.0, "mesh": 8.0, "open": 20.0}),
    "pvc": Build("pvc", 0.006, {"solid": 3.0, "mesh": 10.0, "open": 18.0}),
    "foamed-pvc": Build("foamed-pvc", 0.010, {"solid": 3.0, "mesh": 10.0, "open": 18.0}),
    "plywood": Build("plywood", 0.012, {"solid": 3.0, "mesh": 10.0, "open": 18.0}),
    "polypropylene": Build("polypropylene", 0.002, {"solid": 0.5, "mesh": 8.0, "open": 18.0}),
    "mesh": Build("mesh", None, {"solid": 40.0, "mesh": 60.0, "open": 70.0}),
    "open-table": Build("plywood", 0.018, {"solid": 10.0, "mesh": 25.0, "open": 40.0}),
}
FAN_AIR: Final = 4.0  # a fan over the water blows the room's air in through an open or mesh lid (estimate)
WIND: Final = 3.0  # out of doors the same openings change this much more air (estimate)
EARTH_CONDUCTIVITY: Final = 2.0  # W/mK, sand or gravel (ISO 13370; recalled)
REFERENCE_RISE_K: Final = 5.0
LEAST_AIR_CHANGE_SHARE: Final = 0.35  # fans, doors and draughts keep some air moving without any heat
CRACKS: Final = 0.5  # air changes per hour through doors and cable holes where the vents are known (estimate)
DISCHARGE: Final = 0.6  # of a sharp-edged opening (ASHRAE Fundamentals, ventilation and infiltration; recalled)
ONE_OPENING: Final = DISCHARGE / 3  # one opening in a wall breathes both ways (ASHRAE; recalled)
ROOM_K: Final = 295.0


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


def lid_u(build: Build, lid: str, covered: float = 0.0, *, outdoors: bool = False, insulation_m: float = 0.0) -> float:
    """Return the thermal transmittance of the top.

    Parameters
    ----------
    build
        What the walls are made of; a solid lid is made of the same.
    lid
        "solid", "mesh" or "open".
    covered
        Share (0–1) of a mesh or an opening over which a sheet of plastic lies.
    outdoors
        Whether wind blows over it.
    insulation_m
        Thickness of foam board laid on a solid lid, m.

    Returns
    -------
    W/m²K.

    References
    ----------
    ISO 6946:2017 (docs/models.md [1]; recalled).
    """
    over = R_OUTSIDE if outdoors else R_UP
    if lid != "solid":
        cover = u_value(COVER_M, MATERIALS["pvc"].conductivity, inside=R_UP, outside=over)
        return covered * cover + (1 - covered) * (MESH_LOSS if lid == "mesh" else OPEN_LOSS)
    thickness_m, material = (0.01, "plywood") if build.thickness_m is None else (build.thickness_m, build.material)
    bare = 1 / u_value(thickness_m, MATERIALS[material].conductivity, inside=R_UP, outside=over)
    return 1 / (bare + insulation_m / MATERIALS["foam-board"].conductivity)


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


def stack_flow(vents: tuple[VentCase, ...], rise_k: float) -> float:
    """Return the air that buoyancy drives through the lowest and the highest vent.

    Parameters
    ----------
    vents
        The openings, with their free areas (m²) and heights (m).
    rise_k
        By how much the inside is warmer than the room, K.

    Returns
    -------
    m³/s; 0 without vents.

    References
    ----------
    ASHRAE Handbook – Fundamentals (docs/models.md [2]; recalled).
    """
    if not vents or rise_k <= 0:
        return 0.0
    middle = (min(vent.height_m for vent in vents) + max(vent.height_m for vent in vents)) / 2
    low = [vent for vent in vents if vent.height_m <= middle]
    high = [vent for vent in vents if vent.height_m > middle]
    if not high:
        area = sum(vent.area_m2 for vent in low)
        return ONE_OPENING * area * math.sqrt(9.81 * math.sqrt(area) * rise_k / ROOM_K)
    areas = [sum(vent.area_m2 for vent in part) for part in (low, high)]
    heights = [sum(vent.height_m * vent.area_m2 for vent in part) / area for part, area in zip((low, high), areas, strict=True)]
    effective = areas[0] * areas[1] / math.hypot(*areas)
    return DISCHARGE * effective * math.sqrt(2 * 9.81 * (heights[1] - heights[0]) * rise_k / ROOM_K)


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


def air_changes(case: EnclosureCase) -> float:
    """Return the air changes with the inside 5 K above the room.

    Parameters
    ----------
    case
        The enclosure, its lid and its vents.

    Returns
    -------
    Air changes per hour; an estimate unless vents are given.

    References
    ----------
    ASHRAE Handbook – Fundamentals (docs/models.md [2]; recalled).
    """
    by_lid, wind = BUILDS[case.kind].air_changes, WIND if case.outdoors else 1.0
    if case.lid == "solid":
        if not case.vents:
            return wind * by_lid["solid"]
        return wind * (CRACKS + 3600 * stack_flow(case.vents, REFERENCE_RISE_K) / case.volume_m3)
    if case.water is not None and case.water.fan:
        wind *= FAN_AIR
    # A covered part shuts that much of what the opening adds to the closed box.
    return wind * (by_lid["solid"] + (by_lid[case.lid] - by_lid["solid"]) * (1 - case.lid_covered))
