"""What an enclosure is built of: heat through its walls and its lid, and the air it changes.

U-values after ISO 6946 with the inner surface resistance on both sides, since both sides are indoors. Conductivities
are the usual table values; air changes are estimates that the keeper's readings will replace.
"""

from dataclasses import dataclass
from typing import Final

R_SIDEWAYS: Final = 0.13  # m²K/W, ISO 6946, horizontal heat flow
R_UP: Final = 0.10
R_DOWN: Final = 0.17
R_OUTSIDE: Final = 0.04
MESH_LOSS: Final = 6.0  # W/m²K over a mesh's area beside the air it lets through (trade)
OPEN_LOSS: Final = 8.0  # W/m²K over an open top: radiation to the room and its film (estimate)

# W/mK, common tables
CONDUCTIVITY: Final = {
    "glass": 1.0,
    "plywood": 0.13,
    "pvc": 0.17,
    "foamed-pvc": 0.07,
    "polypropylene": 0.22,
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
REFERENCE_RISE_K: Final = 5.0
LEAST_AIR_CHANGE_SHARE: Final = 0.35  # fans, doors and draughts keep some air moving without any heat


def u_value(thickness_m: float, conductivity: float, *, inside: float = R_SIDEWAYS, outside: float = R_SIDEWAYS) -> float:
    """Return the heat transmittance in W/m²K of one layer between two surface resistances (m²K/W)."""
    return 1.0 / (inside + thickness_m / conductivity + outside)


def wall_u(kind: str) -> float:
    """W/m²K of the side walls; mesh walls lose over their area like a mesh lid."""
    build = BUILDS[kind]
    if build.thickness_m is None:
        return MESH_LOSS
    return u_value(build.thickness_m, CONDUCTIVITY[build.material])


def lid_u(kind: str, lid: str) -> float:
    """W/m²K of the top: the walls' material when solid, mesh or an opening otherwise."""
    if lid == "mesh":
        return MESH_LOSS
    if lid == "open":
        return OPEN_LOSS
    build = BUILDS[kind]
    thickness_m, material = (0.01, "plywood") if build.thickness_m is None else (build.thickness_m, build.material)
    return u_value(thickness_m, CONDUCTIVITY[material], inside=R_UP, outside=R_UP)


def base_u(kind: str) -> float:
    """W/m²K from the underside of the ground through the floor and the stand to the room."""
    build = BUILDS[kind]
    thickness_m, material = (0.003, "pvc") if build.thickness_m is None else (build.thickness_m, build.material)
    return 1.0 / (thickness_m / CONDUCTIVITY[material] + R_DOWN + 0.15)  # 0.15: the stand's top


def air_changes(kind: str, lid: str) -> float:
    """Air changes per hour with the inside 5 K above the room."""
    return BUILDS[kind].air_changes[lid]
