"""What the corrections of a day are made of, built once for an enclosure and a season: numbers and arrays, no run's own state."""

from dataclasses import dataclass
from typing import Final, NamedTuple

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import ground, humidity
from husbandry.climate.air import AIR_DENSITY, PRESSURE_PA, VAPOUR_RATIO
from husbandry.climate.case import EnclosureCase, RoomState
from husbandry.climate.heat_gains import covered_zones
from husbandry.climate.humidity import MISTING_SHARE, PER_PASCAL, saturation, wetting
from husbandry.climate.network import Network
from husbandry.climate.nodes import ZONES
from husbandry.climate.openings import AirExchange, exchange_of

Floats = NDArray[np.float64]
Ints = NDArray[np.int_]

AT_ONCE: Final = 0.15  # of what evaporates of a misting, the share that stays in the air as it falls (estimate)
FILM_KG_M2: Final = 0.05  # water that stays on a misted or dripping surface (estimate)
FILM_SHARE: Final = 0.6  # of walls and floor that a misting can wet (estimate)
BUFFER: Final = 3.0  # wood, leaves and furnishing take up and give off vapour at once: over the air's own (estimate)
BED_TRANSFER: Final = 0.0009  # m/s between the air and loose bedding: still air, and the way into it (estimate)
BED_M: Final = 0.03  # of bedding that a day reaches; thinner beds hold less (estimate)
DAMP_WATER: Final = 100.0  # kg per m³ of damp ground that can dry out (estimate: a tenth of its volume)


def ground_holds(case: EnclosureCase) -> float:
    """The water in kg that damp ground can give up until it is dry; none where it is kept dry.

    Parameters
    ----------
    case
        The enclosure.

    Returns
    -------
    kg.

    References
    ----------
    Plant-available water of potting soils; common tables, from memory.
    """
    return DAMP_WATER * case.length_m * case.width_m * case.ground_depth_m if case.ground_damp else 0.0


# Rows of `Terms.node`, of `Terms.air`, of `Terms.source` and of `Terms.by_time`.
SOFTNESS, CAPACITY, LATENT, OUTSIDE = range(4)
VENT, NEAR, BOWL, LEAVES = range(4)
RATE, FULL = range(2)
GIVEN, STOMATA = range(2)


class AirTerms(NamedTuple):
    """Air changes: how they go with the rise, the factor on them, and what the linear system already has of them, 1/h."""

    exchange: AirExchange
    factor: float
    linear_h: float


class SurfaceTerms(NamedTuple):
    """The basking surface: its node, area (m²), share of walls in what it sees, the first wall it sees and the one behind the last.

    `h_conv` and `h_rad` (W/m²K) are what the linear system already has; `plate_m` is the side of its plate.
    """

    node: int
    area_m2: float
    seen_share: float
    seen_from: int
    seen_to: int
    h_conv: float
    h_rad: float
    plate_m: float


class Wet(NamedTuple):
    """How many sources there are of each kind, soil, dry bedding, other wet things and skins; the bowl, kg/s per Pa.

    `skin_share` is how far a skin lies from its wall node, the first of which is `first_wall`, towards its air node; `film_per_m2`
    is what evaporates of a film, kg/s per Pa and m², on at most `wettable_m2`.
    """

    soil: int
    bed: int
    other: int
    skins: int
    bowl: float
    skin_share: float
    first_wall: int
    film_per_m2: float
    wettable_m2: float


class Supply(NamedTuple):
    """What is held: the room's humidity (0–1), kg/s per Pa and 1/h carried off, kg per Pa that air and surfaces take up, and the
    water of full damp ground in kg over its depth in m, under a layer that is dry from the first.
    """

    humid: float
    per_change: float
    holds: float
    ground_full: float
    ground_m: float
    dry_m: float


class Terms(NamedTuple):
    """The corrections of one enclosure in one season, against the linear system's own coefficients; built once, never written to.

    `node` (4, n): softness (K/W), heat capacity (J/K), what the linear system already has of evaporation (W/K), what earth and sky
    give (W). `air` (4, air nodes): W/K per 1/h of air changes, the basking surface's and the bowl's shares, the leaves' kg/s per Pa
    with open stomata. `source` (2, k): kg/s per Pa and the kg that are held, by the nodes `source_node`: soil, bedding, other wet
    things, skins. `by_time` (2, 144): kg/s given and how far leaves are open, every ten minutes; `misted` (1440,) kg by the minute.
    """

    node: Floats
    air: Floats
    source_node: Ints
    source: Floats
    by_time: Floats
    misted: Floats
    airing: AirTerms
    surface: SurfaceTerms
    wet: Wet
    supply: Supply


@dataclass(frozen=True)
class Linear:
    """What the linear system already has of what is not linear: air changes (1/h), the surface's coefficients (W/m²K), and by
    node what evaporation takes more where it is a kelvin warmer (W/K).
    """

    air_changes_h: float
    h_conv: float
    h_rad: float
    latent: tuple[float, ...]

    def at_least(self, other: "Linear") -> "Linear":
        """The stronger of each."""
        return Linear(
            max(self.air_changes_h, other.air_changes_h),
            max(self.h_conv, other.h_conv),
            max(self.h_rad, other.h_rad),
            tuple(map(max, self.latent, other.latent)),
        )


def terms_of(
    case: EnclosureCase, net: Network, room: RoomState, factors: tuple[float, float, float], linear: Linear, conductance: Floats
) -> Terms:
    """Build the corrections; `factors` are those on the air changes, on everything that evaporates and on the room's humidity.

    `conductance` (n,) is what each node has in the linear system, W/K.
    """
    air_changes, wetness, room_humidity = factors
    wet, nodes = wetting(case.shell), net.nodes
    rates, counts, source_node, source = _sources(case, net, wetness)
    return Terms(
        np.array([1 / conductance, net.capacity, np.array(linear.latent), net.outside_w[0]], dtype=float),
        np.array([net.vent[nodes.air], net.spot.air, wet.bowl_air, wet.leaves * rates], dtype=float),
        source_node,
        source,
        _by_time(case),
        _misted(case),
        AirTerms(exchange_of(case.shell), air_changes, float(linear.air_changes_h)),
        _surface_terms(case, net, linear),
        Wet(
            *counts,
            bowl=float(wet.bowl * rates),
            skin_share=float(wet.skin_share),
            first_wall=nodes.walls.start,
            film_per_m2=float(humidity.MASS_TRANSFER * rates),
            wettable_m2=float(FILM_SHARE * (2 * (case.length_m + case.width_m) * case.height_m + case.length_m * case.width_m)),
        ),
        _supply(case, room, room_humidity),
    )


def _surface_terms(case: EnclosureCase, net: Network, linear: Linear) -> SurfaceTerms:
    spot = net.spot
    return SurfaceTerms(
        node=net.nodes.spot,
        area_m2=float(spot.area_m2),
        seen_share=float(spot.seen_share),
        seen_from=spot.seen.start,
        seen_to=spot.seen.stop,
        h_conv=float(linear.h_conv),
        h_rad=float(linear.h_rad),
        plate_m=float(case.spot.side_m),
    )


def _sources(case: EnclosureCase, net: Network, wetness: float) -> tuple[float, tuple[int, int, int, int], Ints, Floats]:
    """kg/s per Pa of each m³/s, how many sources there are of each kind, their nodes, and rate and kg held (2, k)."""
    wet, top, rates = wetting(case.shell), net.nodes.ground_top, PER_PASCAL * wetness
    on_top = np.zeros(wet.exchange.size, bool)
    on_top[top] = True
    soil, other, skin = (np.flatnonzero(found) for found in (wet.exchange * on_top, wet.exchange * ~on_top, wet.skins))
    bare_m2 = (1 - covered_zones(case)) * case.length_m * case.width_m / ZONES
    bed_kg = ground.TAKES_UP[case.ground_kind] * min(case.ground_depth_m / BED_M, 1.0) * bare_m2
    bed = np.flatnonzero(np.zeros(ZONES) if case.ground_damp else bed_kg > 0)
    rate = [wet.exchange[soil] * rates, BED_TRANSFER * PER_PASCAL * bare_m2[bed], wet.exchange[other] * rates]
    full = [np.zeros(soil.size), bed_kg[bed], np.zeros(other.size), wet.skins[skin] / humidity.MASS_TRANSFER * FILM_KG_M2]
    counts = (soil.size, bed.size, other.size, skin.size)
    each = np.concatenate([*rate, wet.skins[skin] * PER_PASCAL])
    return rates, counts, np.concatenate([soil, top.start + bed, other, skin]), np.array([each, np.concatenate(full)])


def _by_time(case: EnclosureCase) -> Floats:
    """kg/s given and how far leaves are open every ten minutes (2, 144)."""
    lit = np.array([case.is_day((minute + 0.5) / 60) for minute in range(0, 1440, 10)])
    steady = MISTING_SHARE * case.misting_kg_per_day / humidity.DAY_S
    return np.array([steady + lit * case.fogger_kg_per_h / 3600, np.where(lit, 1.0, humidity.STOMATA_IN_THE_DARK)])


def _misted(case: EnclosureCase) -> Floats:
    """kg by the minute of the day (1440,)."""
    found = np.zeros(1440)
    for item in case.mistings:
        found[round(item.hour * 60) % 1440] = item.kg
    return found


def _supply(case: EnclosureCase, room: RoomState, room_humidity: float) -> Supply:
    humid = min(room.humidity_percent / 100 * room_humidity, 1.0)
    room_pa = humid * saturation((room.day_c + room.night_c) / 2)
    return Supply(
        humid=float(humid),
        per_change=float(AIR_DENSITY * case.volume_m3 / 3600 * VAPOUR_RATIO / (PRESSURE_PA - room_pa)),
        holds=float(case.air_m3 * PER_PASCAL * BUFFER),
        ground_full=float(ground_holds(case)),
        ground_m=float(case.ground_depth_m),
        dry_m=float(case.dry_top_m),
    )
