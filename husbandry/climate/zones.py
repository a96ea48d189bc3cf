"""The network of zones: air along the length (and in height where tall) over ground, with the heaters' watts booked.

Every conductance is linear, so temperatures are `T = T0 + R p` for heater duties p; the air changes follow √ΔT by
fixed-point iteration outside. All arrays carry a leading batch axis B (seasons × day and night × varied parameters), so
that one stacked solve answers for all. Simple where issue 4 will deepen: one layer of ground, walls without capacity.
"""

from dataclasses import dataclass
from functools import lru_cache
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import ground, heaters, walls
from husbandry.climate.air import AIR_DENSITY, AIR_HEAT_CAPACITY
from husbandry.climate.basking import ABSORPTANCE
from husbandry.climate.case import EnclosureCase, HeaterCase

Floats = NDArray[np.float64]

ZONES: Final = 5
MIXING: Final = 2.5  # W/mK, effective, between neighbouring zones (estimate)
GROUND_TO_AIR: Final = 11.0  # W/m²K, convection and radiation to the walls
AIR_CAPACITY_FACTOR: Final = 8.0  # air with furnishing and inner skin, over bare air (estimate)
FLOOR_STEPS: Final = (25, 8)
LAMP_ON_LID_M: Final = 0.03


@dataclass(frozen=True)
class Variation:
    """Factors on the uncertain parameters, each of shape (B,); `room_k` and `probe_k` are offsets in K."""

    radiant: Floats
    losses: Floats
    air_changes: Floats
    mixing: Floats
    room_k: Floats
    probe_k: Floats


@dataclass(frozen=True)
class Network:
    """`conductance` (B, n, n) W/K with the room's share on the diagonal; `to_room` (B, n); `vent` (n,) W/K per air change
    an hour; `per_watt` (B, n, heaters) W in each node per electrical watt; `capacity` (n,) J/K; `air` and `ground` index."""

    conductance: Floats
    to_room: Floats
    vent: Floats
    per_watt: Floats
    capacity: Floats
    levels: int

    @property
    def air(self) -> slice:
        return slice(0, ZONES * self.levels)

    @property
    def ground(self) -> slice:
        return slice(ZONES * self.levels, ZONES * (self.levels + 1))


@dataclass(frozen=True)
class Skeleton:
    """What walls, air and ground alone decide: coupling in the ground and between zones (n, n), losses to the room (n,)."""

    fixed: Floats
    mixing: Floats
    room: Floats
    vent: Floats
    capacity: Floats


@lru_cache(maxsize=16)
def _skeleton(case: EnclosureCase) -> Skeleton:
    """Assemble the unvaried network of a shell; kept, since a dragged lamp does not change it."""
    levels = case.levels
    count_air = ZONES * levels
    n = count_air + ZONES
    dx, dz = case.length_m / ZONES, case.height_m / levels
    fixed, mixing = np.zeros((n, n)), np.zeros((n, n))
    room = np.zeros(n)

    def couple(matrix: Floats, a: int, b: int, conductance: float) -> None:
        matrix[a, a] += conductance
        matrix[b, b] += conductance
        matrix[a, b] -= conductance
        matrix[b, a] -= conductance

    u_wall, u_lid, u_base = walls.wall_u(case.kind), walls.lid_u(case.kind, case.lid), walls.base_u(case.kind)
    conductivity = ground.conductivity(case.ground_kind, case.ground_damp)
    depth_m = max(case.ground_depth_m, 0.002)
    half_ground = depth_m / 2 / conductivity
    for level in range(levels):
        for zone in range(ZONES):
            node = level * ZONES + zone
            room[node] += u_wall * 2 * dx * dz
            if zone in (0, ZONES - 1):
                room[node] += u_wall * case.width_m * dz
            if level == levels - 1:
                room[node] += u_lid * dx * case.width_m
            if zone + 1 < ZONES:
                couple(mixing, node, node + 1, MIXING * case.width_m * dz / dx)
            if level + 1 < levels:
                couple(mixing, node, node + ZONES, MIXING * case.width_m * dx / dz)
    for zone in range(ZONES):
        node, area = count_air + zone, dx * case.width_m
        couple(fixed, zone, node, area / (1 / GROUND_TO_AIR + half_ground))
        room[node] += area / (half_ground + 1 / u_base)
        if zone + 1 < ZONES:
            couple(fixed, node, node + 1, conductivity * depth_m * case.width_m / dx)

    vent = np.zeros(n)
    vent[:count_air] = AIR_DENSITY * AIR_HEAT_CAPACITY * case.volume_m3 / 3600 / count_air
    capacity = np.empty(n)
    capacity[:count_air] = AIR_CAPACITY_FACTOR * AIR_DENSITY * AIR_HEAT_CAPACITY * case.volume_m3 / count_air
    per_area = ground.heat_capacity(case.ground_kind, case.ground_damp) * depth_m
    capacity[count_air:] = per_area * dx * case.width_m
    return Skeleton(fixed, mixing, room, vent, capacity)


def build(case: EnclosureCase, vary: Variation) -> Network:
    """Assemble the network of `case` for every variation."""
    shell = case.shell
    bones = _skeleton(shell)
    batch, n = vary.losses.size, bones.room.size
    to_room = vary.losses[:, None] * bones.room
    conductance = bones.fixed + vary.mixing[:, None, None] * bones.mixing
    conductance = conductance + to_room[:, :, None] * np.eye(n)
    per_watt = np.zeros((batch, n, len(case.heaters)))
    for index, heater in enumerate(case.heaters):
        radiant, rest = _booked(shell, heater)
        share = np.minimum(heaters.HEATERS[heater.kind].radiant_share * vary.radiant, 0.9)[:, None]
        per_watt[:, :, index] = share * radiant + (1 - share) * rest
    return Network(conductance, to_room, bones.vent, per_watt, bones.capacity, case.levels)


def on_lid(case: EnclosureCase, heater: HeaterCase) -> bool:
    """Tell whether the heater shines through the lid from outside."""
    return case.lid != "solid" and heater.height_m >= case.height_m - 1e-6


def passed_share(case: EnclosureCase, heater: HeaterCase) -> float:
    """The share of the beam's strength that the lid lets through."""
    return case.mesh_open_share if case.lid == "mesh" and on_lid(case, heater) else 1.0


@lru_cache(maxsize=64)
def _booked(case: EnclosureCase, heater: HeaterCase) -> tuple[Floats, Floats]:
    """Return where one radiated watt and one other watt end, each of shape (n,); the rest is lost to the room."""
    kind = heaters.HEATERS[heater.kind]
    levels = case.levels
    count_air = ZONES * levels
    n = count_air + ZONES
    drop = max(heater.height_m - case.ground_depth_m, 0.01)
    columns, rows = FLOOR_STEPS
    x = (np.arange(columns) + 0.5) * case.length_m / columns
    y = (np.arange(rows) + 0.5) * case.width_m / rows - case.width_m / 2
    cell = case.length_m / columns * case.width_m / rows
    field = heaters.irradiance(1.0, heater.half_angle_deg, kind.face_m, x[:, None] - heater.x_m, y[None, :], drop)
    floor = field.sum(axis=1).reshape(ZONES, columns // ZONES).sum(axis=1) * cell
    if floor.sum() > 1.0:
        floor = floor / floor.sum()
    passed, entering = passed_share(case, heater), 1.0
    outside = on_lid(case, heater)
    if outside and heater.height_m > case.height_m + LAMP_ON_LID_M:
        gap = heater.height_m - case.height_m
        opening = heaters.irradiance(1.0, heater.half_angle_deg, kind.face_m, x[:, None] - heater.x_m, y[None, :], gap)
        entering = max(min(float(opening.sum() * cell), 1.0), float(floor.sum()))
    # What a wall absorbs splits between the air inside and the room by the resistances on either side of its inner skin.
    kept_by_wall = max(1 - walls.wall_u(case.kind) * walls.R_SIDEWAYS, 0.2)
    radiant = np.zeros(n)
    radiant[count_air:] = passed * ABSORPTANCE * floor
    on_walls = passed * max(entering - float(floor.sum()), 0.0)
    reflected = passed * (1 - ABSORPTANCE) * float(floor.sum())
    centres = (np.arange(ZONES) + 0.5) * case.length_m / ZONES
    near = 1 / (1 + ((centres - heater.x_m) / max(drop, 0.1)) ** 2)
    spread = np.tile(near / near.sum(), levels) / levels
    radiant[:count_air] += (on_walls + reflected) * kept_by_wall * spread
    rest = np.zeros(n)
    plume = np.zeros(count_air)
    own_zone = min(int(heater.x_m / case.length_m * ZONES), ZONES - 1)
    plume[(levels - 1) * ZONES + own_zone] = 1.0
    inside = kind.inside_share if outside else 1.0
    rest[:count_air] = inside * plume
    radiant[:count_air] += (1 - passed) * inside * plume
    return radiant, rest


def responses(network: Network, room_c: Floats, air_changes_h: Floats) -> tuple[Floats, Floats]:
    """Return temperatures with every heater off, (B, n), and the rise per electrical watt, (B, n, heaters)."""
    extra = network.vent * air_changes_h[:, None]
    n = network.vent.size
    matrix = network.conductance + extra[:, :, None] * np.eye(n)
    forced = ((network.to_room + extra) * room_c[:, None])[:, :, None]
    solved = np.linalg.solve(matrix, np.concatenate([forced, network.per_watt], axis=2))
    return solved[:, :, 0], solved[:, :, 1:]


def end_weights(case: EnclosureCase, warm_x_m: float) -> tuple[Floats, Floats]:
    """Return the weights over the air nodes of warm-end and cool-end air: the third at either end of the length.

    In tall enclosures the warm end is the top level on the lamp's side and the cool end the bottom level away from it.
    """
    levels = case.levels
    third = np.array([0.6, 0.4, 0.0, 0.0, 0.0])
    low, high = (third, third[::-1]) if warm_x_m <= case.length_m / 2 else (third[::-1], third)
    warm, cool = np.zeros(ZONES * levels), np.zeros(ZONES * levels)
    warm[(levels - 1) * ZONES :] = low
    cool[:ZONES] = high
    return warm, cool
