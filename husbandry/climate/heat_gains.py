"""Where a heater's watts end: on the ground, the basking surface, the water, the walls, in the air, or outside.

A beam is integrated over the floor; what the basking surface catches is taken from it; what misses the floor strikes
the walls; what is reflected is spread there too. Every watt is accounted for or known to be lost to the room.
"""

from functools import lru_cache
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import heaters
from husbandry.climate.basking import ABSORPTANCE, PERCHES, spot_area
from husbandry.climate.case import EnclosureCase, HeaterCase
from husbandry.climate.nodes import LEVELS, ZONES, Nodes, between, nodes_of, overlap, shares
from husbandry.units import TOLERANCE_M

Floats = NDArray[np.float64]

FLOOR_STEPS: Final = (25, 8)
SPOT_STEPS: Final = 5
LAMP_ON_LID_M: Final = 0.03
LEAST_DROP_M: Final = 0.01
PLUME_M: Final = 0.05  # of warm air over a lamp, along the length (estimate)
RISES: Final = 0.7  # of a heater's warm air, what reaches the upper half (estimate)
ENTRAINMENT: Final = 0.12  # by how much a plume grows to either side as it rises (Morton, Taylor and Turner 1956; recalled)
DIFFUSE_DEG: Final = 60.0  # half-angle of what radiates by the cosine
MESH_KEEPS: Final = 0.6  # of a dome's plume that a glass box would keep, a cage of mesh keeps this (estimate)


def on_lid(case: EnclosureCase, heater: HeaterCase) -> bool:
    """Tell whether the heater shines through the lid from outside."""
    return heaters.HEATERS[heater.kind].place == "over" and case.lid != "solid" and heater.height_m >= case.height_m - TOLERANCE_M


def passed_share(case: EnclosureCase, heater: HeaterCase) -> float:
    """The share of the beam's strength that the lid lets through.

    Parameters
    ----------
    case
        The enclosure.
    heater
        One of its heaters.

    Returns
    -------
    Share without unit, 0–1.

    References
    ----------
    The open share of a mesh for a ray that falls straight; common practice, no source.
    """
    return case.mesh_open_share if case.lid == "mesh" and on_lid(case, heater) else 1.0


def covered_zones(case: EnclosureCase) -> Floats:
    """The share of each zone's floor that lies under water, shape (5,).

    Parameters
    ----------
    case
        The enclosure.

    Returns
    -------
    Shares without unit, shape (5,).

    References
    ----------
    Geometry; no source outside.
    """
    if case.water is None:
        return np.zeros(ZONES)
    return np.minimum(overlap(case, case.water.x_m, case.water.length_m) * ZONES / case.length_m, 1.0)


@lru_cache(maxsize=256)
def spot_irradiance(case: EnclosureCase, heater: HeaterCase) -> tuple[float, float]:
    """Return the irradiance in m⁻² per radiated watt at the middle of the basking surface, and its mean over the surface.

    Parameters
    ----------
    case
        The enclosure.
    heater
        One of its heaters.

    Returns
    -------
    Two values in m⁻² (W/m² per radiated watt).

    References
    ----------
    The inverse square law for a beam cos^m from a disc (docs/models.md, Heaters).
    """
    kind = heaters.HEATERS[heater.kind]
    if kind.place != "over":
        return 0.0, 0.0
    spot = case.spot
    drop = max(heater.height_m - spot.top_m, LEAST_DROP_M)
    along = (np.arange(SPOT_STEPS) + 0.5) / SPOT_STEPS - 0.5
    across = along if PERCHES[spot.perch].depth_share > 0.5 else np.zeros(1)
    x = np.append((spot.x_m + along[:, None] * spot.side_m - heater.x_m + 0 * across).ravel(), spot.x_m - heater.x_m)
    y = np.append((0 * along[:, None] + across * min(spot.side_m, case.width_m)).ravel(), 0.0) + spot.off_m - heater.off_m
    field = heaters.irradiance(1.0, heater.half_angle_deg, kind.face_m, x, y, drop) * passed_share(case, heater)
    if heater.height_m <= spot.top_m:
        return 0.0, 0.0
    return float(field[-1]), float(field[:-1].mean())


def warm_area(case: EnclosureCase) -> float:
    """Return the area in m² of the basking surface that is as warm as its middle.

    The surface node has the irradiance of its middle; this area times that is what the whole surface catches with every
    heater full on, so no watt is counted twice.

    Parameters
    ----------
    case
        The enclosure.

    Returns
    -------
    m².

    References
    ----------
    The mean of the irradiance over its middle; no source outside.
    """
    area = spot_area(case.spot.side_m, case.width_m, case.spot.perch)
    middle = mean = 0.0
    for heater in case.heaters:
        at_middle, on_mean = spot_irradiance(case.shell, heater)
        radiated = heaters.HEATERS[heater.kind].radiant_share * heater.watts
        middle, mean = middle + radiated * at_middle, mean + radiated * on_mean
    return area if middle <= 0 else area * min(max(mean / middle, 0.2), 1.0)


@lru_cache(maxsize=256)
def heat_gains(case: EnclosureCase, heater: HeaterCase, area_m2: float) -> tuple[Floats, Floats]:
    """Return where one radiated watt and one other watt end, each of shape (nodes,); the rest is lost to the room.

    `case` is the shell; `area_m2` is that of the basking surface's warm part.

    Parameters
    ----------
    case
        The shell.
    heater
        One of the enclosure's heaters.
    area_m2
        The basking surface's warm part, m².

    Returns
    -------
    Two arrays of shares without unit, shape (nodes,); each adds up to 1 at most.

    References
    ----------
    An energy balance (docs/models.md, Heaters); the shares that air and walls take are estimates.
    """
    kind, nodes = heaters.HEATERS[heater.kind], nodes_of(case)
    if kind.place != "over":
        return _in_place(case, heater, nodes)
    radiant, rest = np.zeros(nodes.count), np.zeros(nodes.count)
    drop = max(heater.height_m - case.ground_depth_m, LEAST_DROP_M)
    columns, rows = FLOOR_STEPS
    x = (np.arange(columns) + 0.5) * case.length_m / columns
    y = (np.arange(rows) + 0.5) * case.width_m / rows - case.width_m / 2 - heater.off_m
    cell = case.length_m / columns * case.width_m / rows
    field = heaters.irradiance(1.0, heater.half_angle_deg, kind.face_m, x[:, None] - heater.x_m, y[None, :], drop)
    floor = field.sum(axis=1).reshape(ZONES, columns // ZONES).sum(axis=1) * cell
    if floor.sum() > 1.0:
        floor = floor / floor.sum()
    passed, entering, outside = passed_share(case, heater), 1.0, on_lid(case, heater)
    inside = (MESH_KEEPS if case.kind == "mesh" else 1.0) * kind.inside_share if outside else 1.0
    if outside and heater.height_m > case.height_m + LAMP_ON_LID_M:
        gap = heater.height_m - case.height_m
        places = x[:, None] - heater.x_m, y[None, :], gap
        opening = heaters.irradiance(1.0, heater.half_angle_deg, kind.face_m, *places)
        entering = max(min(float(opening.sum() * cell), 1.0), float(floor.sum()))
        # Its plume rises away from the lid; what its hot dome gives downwards, it gives to all sides alike.
        seen = float(heaters.irradiance(1.0, DIFFUSE_DEG, kind.face_m, *places).sum() * cell)
        inside *= min(seen, 1.0)
    at_middle, _mean = spot_irradiance(case, heater)
    caught = min(at_middle * area_m2, 0.95 * passed)  # already behind the mesh
    reached = float(floor.sum())
    left = max(1 - caught / max(passed * reached, 1e-9), 0.0) if reached > 0 else 0.0
    on_floor = passed * floor * left
    under_water = covered_zones(case)
    radiant[nodes.ground_top] = ABSORPTANCE * on_floor * (1 - under_water)
    if nodes.watered:
        radiant[nodes.water] = float((ABSORPTANCE * on_floor * under_water).sum())
    absorptance = PERCHES[case.spot.perch].absorptance
    radiant[nodes.spot] = absorptance * caught
    # What misses the floor, and what floor and surface throw back, strikes the walls near by.
    on_walls = passed * entering - float(on_floor.sum()) - caught
    scattered = max(on_walls, 0.0) + (1 - ABSORPTANCE) * float(on_floor.sum()) + (1 - absorptance) * caught
    centres = (np.arange(ZONES) + 0.5) * case.length_m / ZONES
    near = 1 / (1 + ((centres - heater.x_m) / max(drop, 0.1)) ** 2)
    spread = np.tile(near / near.sum(), LEVELS) / LEVELS
    solid, kept = _taken_by(case, nodes)
    radiant[solid] += scattered * kept * spread
    plume, under_lid = _plume(case, heater, PLUME_M), slice(nodes.air_count - ZONES, nodes.air_count)
    rest[under_lid] = inside * plume
    radiant[under_lid] += (1 - passed) * entering * inside * plume  # the mesh itself grows warm
    return radiant, rest


def sun_gains(case: EnclosureCase, spot_m2: float) -> Floats:
    """Return where one watt of the sun that reaches the inside ends; what is thrown back out again is lost.

    Parameters
    ----------
    case
        The shell.
    spot_m2
        The basking place's area, m²; it takes its part by its share of the floor.

    Returns
    -------
    Shares without unit, shape (nodes,); they add up to 1 at most.

    References
    ----------
    An energy balance with the absorptances that lamps have (docs/models.md, Heaters); no source outside.
    """
    nodes, gains = nodes_of(case), np.zeros(nodes_of(case).count)
    on_spot = min(spot_m2 / (case.length_m * case.width_m), 1.0)
    on_floor, under_water = (1 - on_spot) / ZONES, covered_zones(case)
    absorptance = PERCHES[case.spot.perch].absorptance
    gains[nodes.spot] = absorptance * on_spot
    gains[nodes.ground_top] = ABSORPTANCE * on_floor * (1 - under_water)
    if nodes.watered:
        gains[nodes.water] = float((ABSORPTANCE * on_floor * under_water).sum())
    solid, kept = _taken_by(case, nodes)
    thrown_back = (1 - absorptance) * on_spot + (1 - ABSORPTANCE) * (1 - on_spot)
    gains[solid] += thrown_back * kept / (solid.stop - solid.start)
    return gains


def _taken_by(case: EnclosureCase, nodes: Nodes) -> tuple[slice, float]:
    """The nodes that take scattered radiation, and the share of it that does not leave through openings."""
    return (nodes.walls, wall_share(case)) if nodes.walled else (nodes.air, wall_share(case))


def wall_share(case: EnclosureCase) -> float:
    """The share of what the basking surface sees that is the enclosure and not the room through an opening.

    Parameters
    ----------
    case
        The enclosure.

    Returns
    -------
    Share without unit, 0–1.

    References
    ----------
    Areas stand for view factors (estimate).
    """
    sides, lid = 2 * (case.length_m + case.width_m) * case.height_m, case.length_m * case.width_m
    through_lid = {"mesh": case.mesh_open_share, "open": 1.0}.get(case.lid, 0.0) * (1 - case.lid_covered)
    open_m2 = through_lid * lid + (case.mesh_open_share * sides if case.kind == "mesh" else 0.0)
    return 1 - open_m2 / (sides + lid)


def _plume(case: EnclosureCase, heater: HeaterCase, length_m: float) -> Floats:
    """The shares (5,) of the zones under the lid that a heater's plume reaches: it grows as it rises."""
    rise_m = max(case.height_m - heater.height_m, 0.0)
    return shares(case, heater.x_m, length_m + 2 * ENTRAINMENT * rise_m)


def _in_place(case: EnclosureCase, heater: HeaterCase, nodes: Nodes) -> tuple[Floats, Floats]:
    """Mats, cables, tube heaters and what stands in the water: all of it ends where it lies."""
    kind = heaters.HEATERS[heater.kind]
    radiant, rest = np.zeros(nodes.count), np.zeros(nodes.count)
    along = shares(case, heater.x_m, heater.length_m)
    if kind.place == "under":
        rest[nodes.ground_bottom] = along
    elif kind.place == "wall":
        place = nodes.walls if nodes.walled else nodes.air
        rest[place] = np.tile(along, LEVELS) / LEVELS
    elif kind.place == "hide":
        rest[nodes.heated_hide] = 1.0
    elif kind.place == "water":
        if nodes.watered:
            rest[nodes.water] = 1.0
        else:
            rest[nodes.air] = nodes.air_shares(case, heater.x_m, heater.length_m, 0.0)
    else:
        # Its warm air rises: some is left on the way, the rest spreads under the lid.
        rest[nodes.air] = (1 - RISES) * np.outer(between(heater.height_m / case.height_m, LEVELS), along).ravel()
        rest[nodes.air_count - ZONES : nodes.air_count] += RISES * _plume(case, heater, heater.length_m)
        solid, kept = _taken_by(case, nodes)
        radiant[solid] = kept * np.tile(along, LEVELS) / LEVELS
    return radiant, rest
