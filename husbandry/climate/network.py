"""The network: conductances between the nodes, losses to the room, heat capacities, and where the watts go.

All but three things are linear: the air changes follow √ΔT, the basking surface loses by natural convection and
radiation, and water takes its latent heat. The first two enter as conductances at a known state (`bound`, and in
`elimination`), so that temperatures are `T = T0 + R p` for heater duties p. All arrays carry a leading axis V of the
variations of what is uncertain: a network is the same in every season and phase of the day.
"""

from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import ground, heaters, walls
from husbandry.climate.air import AIR_DENSITY, AIR_HEAT_CAPACITY
from husbandry.climate.basking import PERCHES
from husbandry.climate.case import EnclosureCase, HeatedHideCase
from husbandry.climate.elimination import Order, Surface, order_of
from husbandry.climate.heat_gains import covered_zones, heat_gains, on_lid, spot_irradiance, wall_share, warm_area
from husbandry.climate.nodes import LEVELS, ZONES, Nodes, nodes_of, shares
from husbandry.climate.openings import exchange_of
from husbandry.climate.parameters import Variation

Floats = NDArray[np.float64]

MIXING: Final = 1.3  # W/mK, effective, between neighbouring zones (estimate, set by the trade's whole enclosures)
MIXING_UNDER_LID: Final = 2.3  # W/mK, the same where warm air spreads under the lid (estimate)
MIXING_UP: Final = 6.0  # W/mK, between the levels: what is warm below rises and stirs (estimate)
GROUND_TO_AIR: Final = 11.0  # W/m²K, convection and radiation to the walls
WATER_TO_AIR: Final = 9.0  # W/m²K above still water, convection and radiation (estimate)
WATER_TO_WALL: Final = 0.005  # m²K/W from water to what it touches (estimate)
FAN_FACTOR: Final = 3.0  # what a fan over the water does to its convection and evaporation (estimate)
WATER_HEAT: Final = 4.18e6  # J/m³K
AIR_CAPACITY_FACTOR: Final = 6.0  # air with furnishing, over bare air (estimate)
HIDE_TO_AIR: Final = 0.25  # W/K through the shell and doorway of a humid hide (estimate)
HIDE_TO_GROUND: Final = 0.15  # W/K
HIDE_LENGTH_M: Final = 0.2
HIDE_WALL_M: Final = 0.012  # of a heated hide, plywood (trade)
# W/K through a doorway of 15 by 12 cm under a flap: a third of what a bare one exchanges at 15 K (Brown and Solvason 1962).
DOORWAY: Final = 0.35
HIDE_HEAT: Final = 1500.0  # J/K of shell and wet moss
FROM_UPPER: Final = 0.5  # of what is changed through the top, the share that is the upper level's alone (estimate)
WARMEST: Final = 0.3  # of a basking surface's length: what is as warm as its middle, and by which it lies over the zones (estimate)
COOLS_AT_MOST_K: Final = 15.0  # a chiller takes its water no further below what is around it (trade: ten to fifteen)
SKY_COEFFICIENT: Final = 4.9  # W/m²K of long-wave radiation near 10 °C at an emittance of 0.95
LEAST_BED_M: Final = 0.002
FIRST_H_CONV: Final = 4.0  # W/m²K of convection above a basking surface where nothing is known yet
FIRST_H_RAD: Final = 6.0


@dataclass(frozen=True)
class Spot:
    """The basking surface: its warm `area_m2`, the shares (air nodes,) of the air over it and (5,) of the ground below it.

    It sees the nodes `seen`, and the room by what is left of `seen_share`. `per_watt` (heaters,) is the irradiance at its
    middle in m⁻² per radiated watt.
    """

    area_m2: float
    air: Floats
    ground: Floats
    seen: slice
    seen_share: float
    per_watt: Floats


@dataclass(frozen=True)
class Network:
    """`conductance` (V, n, n) W/K with the room's share on the diagonal; `to_room` (V, n) W/K; `vent` (n,) W/K per air
    change an hour; `per_watt` (V, n, heaters) W in each node per electrical watt; `capacity` (n,) J/K; `irradiance`
    (V, heaters) m⁻² at the spot's middle per electrical watt; `outside_w` (V, n) W that each node is given by the earth
    (beside its conductance) and loses to the sky, out of doors.

    Without air changes and the surface's own losses, which `bound` and the elimination add.
    """

    nodes: Nodes
    conductance: Floats
    to_room: Floats
    vent: Floats
    per_watt: Floats
    capacity: Floats
    spot: Spot
    irradiance: Floats
    outside_w: Floats

    def bound(self, air_changes_h: Floats, h_conv: Floats, h_rad: Floats) -> tuple[Floats, Floats]:
        """Return conductance (B, n, n) and loss to the room (B, n) with everything that depends on the state.

        B is a multiple of V, the variations one behind the other.
        `air_changes_h`, `h_conv` (W/m²K of the basking surface to its air) and `h_rad` (W/m²K to what it sees): (B,).
        """
        times = len(air_changes_h) // len(self.to_room)
        matrix = np.tile(self.conductance, (times, 1, 1))
        room = np.tile(self.to_room, (times, 1)) + self.vent * air_changes_h[:, None]
        diagonal = np.arange(self.nodes.count)
        spot, at = self.spot, self.nodes.spot
        matrix[:, diagonal, diagonal] += self.vent * air_changes_h[:, None]
        over = self.nodes.air
        air = (h_conv * spot.area_m2)[:, None] * spot.air
        matrix[:, at, at] += air.sum(axis=1)
        matrix[:, diagonal[over], diagonal[over]] += air
        matrix[:, at, over] -= air
        matrix[:, over, at] -= air
        seen = h_rad * spot.area_m2
        each = (seen * spot.seen_share / (spot.seen.stop - spot.seen.start))[:, None]
        matrix[:, at, at] += seen
        matrix[:, diagonal[spot.seen], diagonal[spot.seen]] += each
        matrix[:, at, spot.seen] -= each
        matrix[:, spot.seen, at] -= each
        room[:, at] += seen * (1 - spot.seen_share)
        return matrix, room

    @cached_property
    def surface(self) -> Surface:
        """The basking surface's own losses, for the elimination."""
        spot, air_m2, seen_m2 = self.spot, np.zeros(self.nodes.count), np.zeros(self.nodes.count)
        air_m2[self.nodes.air] = spot.area_m2 * spot.air
        seen_m2[spot.seen] = spot.area_m2 * spot.seen_share / (spot.seen.stop - spot.seen.start)
        return Surface(np.array([self.nodes.spot]), air_m2, seen_m2, np.array([spot.area_m2 * (1 - spot.seen_share)]))

    @cached_property
    def order(self) -> Order:
        """In which the nodes are eliminated."""
        at, coupled = self.nodes.spot, (self.conductance != 0).any(axis=0)
        beside = (self.surface.air_m2 > 0) | (self.surface.seen_m2 > 0)
        coupled[at] |= beside
        coupled[:, at] |= beside
        return order_of(coupled)


@dataclass(frozen=True)
class Skeleton:
    """What walls, air and ground alone decide: coupling inside (n, n), between zones (n, n), losses to the room (n,), to the
    earth (n,), and what the sky takes (n,) in W.
    """

    fixed: Floats
    mixing: Floats
    room: Floats
    vent: Floats
    capacity: Floats
    earth: Floats
    sky_w: Floats


def _couple(matrix: Floats, a: int, b: int, conductance: float) -> None:
    matrix[a, a] += conductance
    matrix[b, b] += conductance
    matrix[a, b] -= conductance
    matrix[b, a] -= conductance


@lru_cache(maxsize=16)
def _skeleton(case: EnclosureCase) -> Skeleton:
    """Assemble the unvaried network of a shell; kept, since a dragged lamp does not change it."""
    nodes = nodes_of(case)
    fixed, mixing = np.zeros((nodes.count, nodes.count)), np.zeros((nodes.count, nodes.count))
    room, vent, capacity = np.zeros(nodes.count), np.zeros(nodes.count), np.zeros(nodes.count)
    _air_and_walls(case, nodes, fixed, mixing, room, capacity)
    _ground(case, nodes, fixed, room, capacity)
    if nodes.watered:
        _water(case, nodes, fixed, room, capacity)
    if nodes.hiding:
        for zone, share in enumerate(shares(case, case.humid_hide_x_m, HIDE_LENGTH_M)):
            _couple(fixed, nodes.hide, zone, share * HIDE_TO_AIR)
            _couple(fixed, nodes.hide, nodes.ground_top.start + zone, share * HIDE_TO_GROUND)
        capacity[nodes.hide] = HIDE_HEAT
    if case.heated_hide is not None:
        _heated_hide(case, case.heated_hide, nodes, fixed, capacity)
    if case.lid != "solid":
        room += _through_top(case, nodes)
    per_change = AIR_DENSITY * AIR_HEAT_CAPACITY * case.volume_m3 / 3600
    exchange = exchange_of(case.shell)
    by_top = FROM_UPPER * (1 - exchange.cracks_h / exchange.usual_h) if exchange.usual_h else 0.0
    under_lid = slice(nodes.air_count - ZONES, nodes.air_count)
    # Through cracks and vents the air of both levels is changed alike; through the top more of the upper level's.
    vent[nodes.air] = per_change * (1 - by_top) / nodes.air_count
    vent[under_lid] += per_change * by_top / ZONES
    earth, sky_w = np.zeros(nodes.count), np.zeros(nodes.count)
    if case.outdoors is not None:
        earth[nodes.ground_bottom] = _to_earth(case, nodes)
        sky_w = case.outdoors.sky_k * SKY_COEFFICIENT * _sees_sky(case, nodes)
    return Skeleton(fixed, mixing, room, vent, capacity, earth, sky_w)


def hide_loss_w_k(hide: HeatedHideCase) -> float:
    """Return what a heated hide loses in all: walls of plywood and foam board, and a doorway with a flap.

    Parameters
    ----------
    hide
        Its inner sides and the foam board in its walls.

    Returns
    -------
    W/K.

    References
    ----------
    ISO 6946:2017 (docs/models.md [1]) for the walls; W. G. Brown and K. R. Solvason, "Natural convection through rectangular
    openings in partitions", 1962 (docs/models.md [29]), for the doorway; both recalled.
    """
    return sum(_hide_losses(hide))


def _skin_m2(hide: HeatedHideCase) -> float:
    return hide.length_m * hide.width_m + 2 * (hide.length_m + hide.width_m) * hide.height_m


def _hide_losses(hide: HeatedHideCase) -> tuple[float, float]:
    """What a heated hide loses to the air around it, and into the ground, W/K."""
    shell = HIDE_WALL_M / walls.MATERIALS["plywood"].conductivity
    shell += hide.insulation_m / walls.MATERIALS["foam-board"].conductivity
    to_air = _skin_m2(hide) / (2 * walls.R_SIDEWAYS + shell) + DOORWAY
    return to_air, hide.length_m * hide.width_m / (walls.R_DOWN + shell)


def _heated_hide(case: EnclosureCase, hide: HeatedHideCase, nodes: Nodes, fixed: Floats, capacity: Floats) -> None:
    """Couple a heated hide to the air and the ground around it."""
    base, skin, (to_air, to_ground) = hide.length_m * hide.width_m, _skin_m2(hide), _hide_losses(hide)
    for zone, share in enumerate(shares(case, hide.x_m, hide.length_m)):
        _couple(fixed, nodes.heated_hide, zone, share * to_air)
        _couple(fixed, nodes.heated_hide, nodes.ground_top.start + zone, share * to_ground)
    air = AIR_CAPACITY_FACTOR * AIR_DENSITY * AIR_HEAT_CAPACITY * base * hide.height_m
    capacity[nodes.heated_hide] = air + HIDE_WALL_M * walls.MATERIALS["plywood"].heat_capacity * (skin + base) / 2


def _bed(case: EnclosureCase, zone: int) -> tuple[float, float, float]:
    """The ground of one zone: its depth over the enclosure's, conductivity in W/mK, heat capacity in J/m³K."""
    if not case.beds:
        conductivity = ground.conductivity(case.ground_kind, case.ground_damp)
        return 1.0, conductivity, ground.heat_capacity(case.ground_kind, case.ground_damp)
    bed = case.beds[zone]
    times = max(bed.depth_m, LEAST_BED_M) / max(case.ground_depth_m, LEAST_BED_M)
    return times, bed.conductivity, bed.heat_capacity


def _halves(case: EnclosureCase, nodes: Nodes, zone: int) -> list[float]:
    """The resistance of half of each layer of a zone's ground, m²K/W."""
    times, conductivity, _heat = _bed(case, zone)
    return [times * thick / 2 / conductivity for thick in nodes.layer_m]


def _to_earth(case: EnclosureCase, nodes: Nodes) -> Floats:
    """The conductance of each zone's lowest ground to the earth deep below, W/K."""
    half = np.array([_halves(case, nodes, zone)[-1] for zone in range(ZONES)])
    return np.asarray(case.length_m / ZONES * case.width_m / (half + 1 / walls.earth_u(case)))


def _sees_sky(case: EnclosureCase, nodes: Nodes) -> Floats:
    """The area in m² by which each node sees the sky: the lid's outside, else the ground and the water through the opening."""
    area = np.zeros(nodes.count)
    top = case.length_m * case.width_m
    if case.lid == "solid":
        build = walls.build_of(case.kind, case.wall_m)
        outer = walls.R_OUTSIDE * walls.lid_u(build, outdoors=True, insulation_m=case.insulation_m)
        # What the lid's skin loses reaches the inside by as much as the skin's resistance is of the whole.
        under_lid = slice(nodes.air_count - ZONES, nodes.air_count)
        area[under_lid] = outer * top / ZONES
        return area
    return _through_top(case, nodes) / walls.RADIATION


def _through_top(case: EnclosureCase, nodes: Nodes) -> Floats:
    """The conductance (n,) in W/K by which each node radiates through the open top: the floor by its view, walls the rest."""
    found, under_water = np.zeros(nodes.count), covered_zones(case)
    whole, view = walls.open_top_w_k(case), walls.floor_view(case)
    found[nodes.ground_top] = whole * view / ZONES * (1 - under_water)
    if nodes.watered:
        found[nodes.water] = whole * view / ZONES * float(under_water.sum())
    around = nodes.walls if nodes.walled else nodes.air
    found[around] = whole * (1 - view) / nodes.air_count
    return found


def _air_and_walls(case: EnclosureCase, nodes: Nodes, fixed: Floats, mixing: Floats, room: Floats, capacity: Floats) -> None:
    dx, dz = case.length_m / ZONES, case.height_m / LEVELS
    build = walls.build_of(case.kind, case.wall_m)
    out = case.outdoors is not None
    if case.lid == "solid":
        u_lid = walls.lid_u(build, outdoors=out, insulation_m=case.insulation_m)
    else:
        u_lid = case.lid_covered * walls.cover_u(outdoors=out)
    under_water = covered_zones(case)
    on = {side: [lining for lining in case.linings if lining.wall == side] for side in ("front", "back", "left", "right")}
    for node in range(nodes.air_count):
        level, zone = divmod(node, ZONES)
        sunk = under_water[zone] * case.water.depth_m if case.water is not None and level == 0 else 0.0
        high = max(dz - sunk, 0.02)
        sides = {"front": dx * high, "back": dx * high}
        if zone in (0, ZONES - 1):
            sides["right" if zone else "left"] = case.width_m * high
        area = sum(sides.values())
        top = dx * case.width_m if level == LEVELS - 1 else 0.0
        capacity[node] = AIR_CAPACITY_FACTOR * AIR_DENSITY * AIR_HEAT_CAPACITY * case.air_m3 / nodes.air_count
        if nodes.walled:
            wall = nodes.walls.start + node
            half, insulation = walls.half_wall(build), case.insulation_m / walls.MATERIALS["foam-board"].conductivity
            # A background lies inside: what gets to the wall comes through it.
            inner = sum(walls.lined(part, walls.R_SIDEWAYS + half, on[side]) for side, part in sides.items())
            outer = area / (walls.outer_resistance(case) + half + insulation)
            stored = area
            if top and case.lid == "solid":
                inner, outer, stored = inner + 2 * u_lid * top, outer + 2 * u_lid * top, stored + top
            elif top:
                room[node] += u_lid * top
            _couple(fixed, node, wall, inner)
            room[wall] += outer
            capacity[wall] = max(stored * walls.wall_heat(build), 1.0)
        else:
            through = 1 / walls.wall_u(build)
            room[node] += sum(walls.lined(part, through, on[side]) for side, part in sides.items()) + u_lid * top
        if zone + 1 < ZONES:
            along = MIXING_UNDER_LID if level == LEVELS - 1 else MIXING
            _couple(mixing, node, node + 1, along * case.width_m * dz / dx)
        if level + 1 < LEVELS:
            _couple(mixing, node, node + ZONES, MIXING_UP * case.width_m * dx / dz)


def _ground(case: EnclosureCase, nodes: Nodes, fixed: Floats, room: Floats, capacity: Floats) -> None:
    dx = case.length_m / ZONES
    area = dx * case.width_m
    beds = [_bed(case, zone) for zone in range(ZONES)]
    dry = 1 - covered_zones(case)
    # What the ground radiates out through the top does not reach the walls.
    to_air = GROUND_TO_AIR - walls.floor_view(case) * walls.open_top_w_k(case) / (case.length_m * case.width_m)
    for zone in range(ZONES):
        top, half = nodes.ground_top.start + zone, _halves(case, nodes, zone)
        times, conductivity, heat = beds[zone]
        if dry[zone] > 0:
            _couple(fixed, zone, top, dry[zone] * area / (1 / to_air + half[0]))
        if case.outdoors is None:
            base = walls.base_u(walls.build_of(case.kind, case.wall_m), case.insulation_m)
            room[nodes.ground_bottom.start + zone] += area / (half[-1] + 1 / base)
        for layer, thick in enumerate(nodes.layer_m):
            node = top + layer * ZONES
            stored = case.stored_j_k[zone] if case.stored_j_k and layer == 0 else 0.0
            capacity[node] = heat * times * thick * area + stored
            if layer + 1 < len(nodes.layer_m):
                _couple(fixed, node, node + ZONES, area / (half[layer] + half[layer + 1]))
            if zone + 1 < ZONES:
                # Half a zone through each of the two beds.
                beside = thick * case.width_m / dx
                through = (times * conductivity, beds[zone + 1][0] * beds[zone + 1][1])
                _couple(fixed, node, node + 1, 2 * beside / (1 / through[0] + 1 / through[1]))


def _water(case: EnclosureCase, nodes: Nodes, fixed: Floats, room: Floats, capacity: Floats) -> None:
    water = case.water
    if water is None:
        return
    share = covered_zones(case)
    dx = case.length_m / ZONES
    above = WATER_TO_AIR * (FAN_FACTOR / 2 if water.fan else 1.0)  # radiation is not blown
    for zone in range(ZONES):
        if share[zone] <= 0:
            continue
        area, half = share[zone] * dx * case.width_m, _halves(case, nodes, zone)[0]
        _couple(fixed, nodes.water, zone, above * area)
        _couple(fixed, nodes.water, nodes.ground_top.start + zone, area / (half + WATER_TO_WALL))
    left, right = water.x_m - water.length_m / 2, water.x_m + water.length_m / 2
    ends = int(left < 0.01) + int(right > case.length_m - 0.01)
    wetted = water.depth_m * (2 * water.length_m + ends * case.width_m)
    if nodes.walled:
        half_wall = walls.half_wall(walls.build_of(case.kind, case.wall_m))
        through = 2 * half_wall + case.insulation_m / walls.MATERIALS["foam-board"].conductivity
        room[nodes.water] += wetted / (WATER_TO_WALL + through + walls.R_SIDEWAYS)
    else:
        room[nodes.water] += wetted * walls.MESH_LOSS
    capacity[nodes.water] = WATER_HEAT * water.length_m * case.width_m * water.depth_m


def build(case: EnclosureCase, vary: Variation) -> Network:
    """Assemble the network of `case` for every variation.

    Parameters
    ----------
    case
        The enclosure.
    vary
        Variations of what is uncertain, (V,).

    Returns
    -------
    Network, with conductances in W/K and capacities in J/K.

    References
    ----------
    The thermal network of nodes and conductances, Incropera and DeWitt, Fundamentals of Heat and Mass Transfer (docs/models.md
    [3]; recalled).
    """
    shell, nodes = case.shell, nodes_of(case)
    bones, area_m2 = _skeleton(shell), warm_area(case)
    perch, spot_x = PERCHES[case.spot.perch], case.spot.x_m
    on_ground = shares(case, spot_x, case.spot.side_m * WARMEST)
    fixed, capacity = bones.fixed.copy(), bones.capacity.copy()
    capacity[nodes.spot] = perch.thickness_m * perch.heat_capacity * area_m2
    bed = perch.bed * area_m2
    for zone, share in enumerate(on_ground):
        _couple(fixed, nodes.spot, nodes.ground_top.start + zone, share * bed)
    batch, diagonal = vary.losses.size, np.arange(nodes.count)
    to_room = vary.losses[:, None] * bones.room
    conductance = fixed + vary.mixing[:, None, None] * bones.mixing
    to_earth = vary.losses[:, None] * bones.earth
    conductance[:, diagonal, diagonal] += to_room + to_earth
    outside_w = to_earth * case.outdoors.earth_c - bones.sky_w if case.outdoors is not None else np.zeros_like(to_room)
    per_watt = np.zeros((batch, nodes.count, len(case.heaters)))
    irradiance = np.zeros((batch, len(case.heaters)))
    for index, heater in enumerate(case.heaters):
        kind = heaters.HEATERS[heater.kind]
        radiant, rest = heat_gains(shell, heater, area_m2)
        share = np.minimum(kind.radiant_share * vary.radiant, 0.9)
        taken = kind.heat_per_watt
        if kind.cools:
            # The colder its water the less a chiller takes out of it: nothing ends far below what is around it.
            most = COOLS_AT_MOST_K / _rise_per_watt(case, nodes, fixed + bones.mixing, bones, rest) / max(heater.watts, 1e-9)
            taken = max(taken, -most)
        beamed = _beamed(radiant, nodes.spot, vary.beam)
        stays = np.minimum(vary.plume, 1 / max(float(rest.sum()), 1e-9)) if kind.place == "over" and on_lid(shell, heater) else 1.0
        per_watt[:, :, index] = taken * (share[:, None] * beamed + ((1 - share) * stays)[:, None] * rest)
        irradiance[:, index] = share * vary.beam * spot_irradiance(shell, heater)[0]
    seen = nodes.walls if nodes.walled else nodes.air
    over = nodes.air_shares(case, spot_x, case.spot.side_m * WARMEST, case.spot.top_m)
    spot = Spot(area_m2, over, on_ground, seen, wall_share(case), irradiance[0])
    return Network(nodes, conductance, to_room, bones.vent, per_watt, capacity, spot, irradiance, outside_w)


def _beamed(radiant: Floats, spot: int, beam: Floats) -> Floats:
    """Where a radiated watt ends (B, n) where the basking surface gets `beam` (B,) times its usual part: the others give it."""
    caught = radiant[spot]
    if caught <= 0:
        return radiant[None, :]
    others = radiant.copy()
    others[spot] = 0.0
    more = np.minimum((beam - 1) * caught, float(others.sum()))
    found = radiant - more[:, None] * others / max(float(others.sum()), 1e-12)
    found[:, spot] = caught + more
    return np.asarray(found)


def _rise_per_watt(case: EnclosureCase, nodes: Nodes, coupling: Floats, bones: Skeleton, place: Floats) -> float:
    """K by which a place, as shares (n,) of the nodes, rises in the end for each watt that it is given there."""
    matrix = coupling.copy()
    diagonal = np.arange(nodes.count)
    matrix[diagonal, diagonal] += bones.room + bones.earth + bones.vent * exchange_of(case.shell).usual_h
    matrix[nodes.spot, nodes.spot] += FIRST_H_CONV  # its own losses come later: enough that it is not left hanging
    return float(place @ np.linalg.solve(matrix, place))
