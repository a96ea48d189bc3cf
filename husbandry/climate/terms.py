"""What the corrections of a day are made of, built once for an enclosure and a season: plain floats, no run's own state."""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import ground, humidity
from husbandry.climate.air import AIR_DENSITY, KELVIN, PRESSURE_PA, VAPOUR_RATIO
from husbandry.climate.basking import rayleigh_per_kelvin
from husbandry.climate.case import EnclosureCase, RoomState
from husbandry.climate.heat_gains import covered_zones
from husbandry.climate.humidity import MISTING_SHARE, PER_PASCAL, saturation, wetting
from husbandry.climate.network import Network
from husbandry.climate.nodes import ZONES
from husbandry.climate.openings import AirExchange, exchange_of

Floats = NDArray[np.float64]

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


@dataclass(frozen=True)
class AirTerms:
    """Air changes: how they go with the rise, the factor on them, and per 1/h the conductance of each air node, W/K (count,).

    `linear_h` (1/h) is what the linear system already has; `count` air nodes come first.
    """

    count: int
    conductance: tuple[float, ...]
    exchange: AirExchange
    factor: float
    linear_h: float
    heat_capacity: float


@dataclass(frozen=True)
class SurfaceTerms:
    """The basking surface: its node, area (m²), the air it stands in and the walls it sees.

    `h_conv` and `h_rad` (W/m²K) are what the linear system already has; `rayleigh` is over the absolute mean temperature.
    """

    node: int
    area_m2: float
    seen_share: float
    air: tuple[tuple[int, float], ...]
    seen: tuple[int, int]
    h_conv: float
    h_rad: float
    plate_m: float
    rayleigh: float
    heat_capacity: float
    seen_heat_capacity: float


@dataclass(frozen=True)
class Wet:
    """What evaporates and condenses, by node, in kg/s per Pa; the bowl's share of each air node.

    `bed` is dry ground that takes vapour up and gives it off, with the kg it takes between dry and saturated air; `skins` name air
    node, wall node, rate and the kg that stay on it.
    """

    soil: tuple[tuple[int, float], ...]
    bed: tuple[tuple[int, float, float], ...]
    others: tuple[tuple[int, float], ...]
    bowl: float
    bowl_air: tuple[tuple[int, float], ...]
    skin_share: float
    skins: tuple[tuple[int, int, float, float], ...]
    film_per_m2: float


@dataclass(frozen=True)
class Supply:
    """What is given and held: kg/s every ten minutes of the day, kg by the minute of a misting, the room's humidity (0–1).

    `per_change` is kg/s per Pa and 1/h carried off; `holds` is kg per Pa that air and surfaces take up; `ground_full` in kg, over
    `ground_m` of depth.
    """

    humid: float
    per_change: float
    holds: float
    ground_full: float
    ground_m: float
    wettable_m2: float
    given: tuple[float, ...]
    mistings: dict[int, float]


@dataclass(frozen=True)
class Terms:
    """The corrections of one enclosure in one season, against the linear system's own coefficients; built once.

    `softness` (K/W) and `capacity` (J/K) by node; `latent` (W/K) of the nodes whose evaporation the linear system has a part of;
    `outside_w` what earth and sky give and take, out of doors.
    """

    air: AirTerms
    surface: SurfaceTerms
    wet: Wet
    supply: Supply
    softness: tuple[float, ...]
    capacity: tuple[float, ...]
    latent: tuple[tuple[int, float], ...]
    outside_w: tuple[float, ...]


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
    capacity = tuple(net.capacity.tolist())
    return Terms(
        AirTerms(
            net.nodes.air_count,
            tuple(net.vent[net.nodes.air].tolist()),
            exchange_of(case.shell),
            air_changes,
            linear.air_changes_h,
            capacity[0],
        ),
        _surface_terms(case, net, linear),
        _wet(case, net, wetness),
        _supply(case, room, room_humidity),
        tuple((1 / conductance).tolist()),
        capacity,
        tuple((node, more) for node, more in enumerate(linear.latent) if more),
        tuple(net.outside_w[0].tolist()),
    )


def _surface_terms(case: EnclosureCase, net: Network, linear: Linear) -> SurfaceTerms:
    spot, plate_m = net.spot, case.spot.side_m / 4
    return SurfaceTerms(
        node=net.nodes.spot,
        area_m2=spot.area_m2,
        seen_share=spot.seen_share,
        air=tuple((node, float(share)) for node, share in enumerate(spot.air) if share),
        seen=(spot.seen.start, spot.seen.stop),
        h_conv=linear.h_conv,
        h_rad=linear.h_rad,
        plate_m=plate_m,
        rayleigh=rayleigh_per_kelvin(0.0, plate_m) * KELVIN,
        heat_capacity=float(net.capacity[net.nodes.spot]),
        seen_heat_capacity=float(net.capacity[spot.seen].sum()),
    )


def _wet(case: EnclosureCase, net: Network, wetness: float) -> Wet:
    wet, top, first = wetting(case.shell), net.nodes.ground_top, net.nodes.walls.start
    exchange = wet.exchange * PER_PASCAL * wetness
    soil = range(top.start, top.stop)
    return Wet(
        soil=tuple((index, float(exchange[index])) for index in soil if exchange[index]),
        bed=() if case.ground_damp else _bed(case, top.start),
        others=tuple((index, float(rate)) for index, rate in enumerate(exchange) if rate and index not in soil),
        bowl=wet.bowl * PER_PASCAL * wetness,
        bowl_air=tuple((node, float(share)) for node, share in enumerate(wet.bowl_air) if share),
        skin_share=wet.skin_share,
        skins=tuple(
            (index - first, index, float(rate) * PER_PASCAL, float(rate) / humidity.MASS_TRANSFER * FILM_KG_M2)
            for index, rate in enumerate(wet.skins)
            if rate
        ),
        film_per_m2=humidity.MASS_TRANSFER * PER_PASCAL * wetness,
    )


def _bed(case: EnclosureCase, first: int) -> tuple[tuple[int, float, float], ...]:
    """Each zone's dry ground: its node, kg/s per Pa, and what it takes up."""
    holds_kg_m2 = ground.TAKES_UP[case.ground_kind] * min(case.ground_depth_m / BED_M, 1.0)
    bare_m2 = (1 - covered_zones(case)) * case.length_m * case.width_m / ZONES
    each = enumerate(bare_m2.tolist(), first)
    return tuple((node, BED_TRANSFER * PER_PASCAL * m2, holds_kg_m2 * m2) for node, m2 in each if holds_kg_m2 * m2 > 0)


def _supply(case: EnclosureCase, room: RoomState, room_humidity: float) -> Supply:
    humid = min(room.humidity_percent / 100 * room_humidity, 1.0)
    room_pa = humid * saturation((room.day_c + room.night_c) / 2)
    steady = MISTING_SHARE * case.misting_kg_per_day / humidity.DAY_S
    fogged = steady + case.fogger_kg_per_h / 3600
    return Supply(
        humid=humid,
        per_change=AIR_DENSITY * case.volume_m3 / 3600 * VAPOUR_RATIO / (PRESSURE_PA - room_pa),
        holds=case.air_m3 * PER_PASCAL * BUFFER,
        ground_full=ground_holds(case),
        ground_m=case.ground_depth_m,
        wettable_m2=FILM_SHARE * (2 * (case.length_m + case.width_m) * case.height_m + case.length_m * case.width_m),
        given=tuple(fogged if case.is_day((minute + 0.5) / 60) else steady for minute in range(0, 1440, 10)),
        mistings={round(item.hour * 60) % 1440: item.kg for item in case.mistings},
    )
