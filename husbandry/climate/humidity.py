"""Moisture: one vapour pressure for the whole enclosure, from what evaporates and what the air changes carry off.

`Σ a (e_s(T_w) − e)/(R_v T) + misting = ventilation (w − w_room) + condensation`, where each wet thing has an exchange
`a = h_m A` in m³/s. Water condenses on every inner skin below the dew point. The humid hide is a node of its own with
its wet moss and its doorway. Evaporation takes its latent heat from where it happens.
"""

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Final, NamedTuple

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import ground, walls
from husbandry.climate.air import (
    AIR_DENSITY,
    MAGNUS_A,
    MAGNUS_B_C,
    MAGNUS_PA,
    PRESSURE_PA,
    VAPOUR_GAS_CONSTANT,
    VAPOUR_RATIO,
    relative_humidity,
)
from husbandry.climate.case import EnclosureCase
from husbandry.climate.compiled import compiled
from husbandry.climate.heat_gains import covered_zones
from husbandry.climate.network import FAN_FACTOR
from husbandry.climate.nodes import ZONES, nodes_of
from husbandry.kept import kept

Floats = NDArray[np.float64]

# m/s in still air by the Lewis relation from h_c ≈ 3 W/m²K; ASHRAE's still pool lies above it.
MASS_TRANSFER: Final = ground.MASS_TRANSFER
MISTING_SHARE: Final = 0.7  # of the water misted, what evaporates inside and does not run into the ground (estimate)
LATENT_HEAT: Final = 2.45e6  # J/kg near 20 °C (common tables)
DAY_S: Final = 86_400.0
HIDE_MOSS_M2: Final = 0.02
HIDE_EXCHANGE_M3S: Final = 1.2e-5  # air through the doorway of a closed humid hide (estimate)
MEAN_AIR_K: Final = 298.0
PER_PASCAL: Final = 1 / (VAPOUR_GAS_CONSTANT * MEAN_AIR_K)  # kg/m³ of vapour per Pa
SWEEPS: Final = 4
# Vapour out of leaves with open stomata: 2 mm/s through them, 3 mm/s from leaf to air, in series (estimate).
LEAF_M_S: Final = 0.0012
STOMATA_IN_THE_DARK: Final = 0.1  # of it, what leaves give when they are shut (estimate)


def saturation(celsius: float) -> float:
    """Saturation vapour pressure in Pa; the same as `air.saturation_pressure` for one number.

    Parameters
    ----------
    celsius
        °C.

    Returns
    -------
    Pa.

    References
    ----------
    Alduchov and Eskridge 1996 (docs/models.md [4]; recalled).
    """
    return MAGNUS_PA * math.exp(MAGNUS_A * celsius / (celsius + MAGNUS_B_C))


class Wetting(NamedTuple):
    """The surfaces that give or take water, as m³ of air a second that each saturates.

    `exchange` (n,) is that of each node, `bowl` that of the bowl, `bowl_air` the bowl's shares of the air nodes beside it, `leaves`
    that of the leaves by air node with open stomata, `skins` (n,) that of the inner surfaces on which water condenses.
    `skin_share` is how far an inner surface lies from its wall node towards its air node, 0 to 1.
    """

    exchange: Floats
    bowl: float
    bowl_air: Floats
    leaves: Floats
    skins: Floats
    skin_share: float


@kept
@lru_cache(maxsize=16)
def wetting(case: EnclosureCase) -> Wetting:
    """Return every wet or condensing surface of a shell, by the mass transfer coefficient and its area.

    Parameters
    ----------
    case
        The enclosure.

    Returns
    -------
    Wetting: kg/s per Pa and per wet surface, with its share and place.

    References
    ----------
    The Lewis relation between heat and mass transfer, Incropera and DeWitt, Fundamentals of Heat and Mass Transfer
    (docs/models.md [3]; recalled). Leaves: two resistances in series, Jones, Plants and Microclimate ([33]; recalled).
    """
    nodes = nodes_of(case)
    exchange, skins = np.zeros(nodes.count), np.zeros(nodes.count)
    zone_m2 = case.length_m * case.width_m / ZONES
    dry = 1 - covered_zones(case)
    wet = ground.evaporating_share(case.dry_top_m) if case.ground_damp else 0.0
    exchange[nodes.ground_top] = MASS_TRANSFER * wet * zone_m2 * dry
    if nodes.watered and case.water is not None:
        fan = FAN_FACTOR if case.water.fan else 1.0
        exchange[nodes.water] = MASS_TRANSFER * fan * case.water.length_m * case.width_m
    if nodes.hiding:
        moss = MASS_TRANSFER * HIDE_MOSS_M2
        exchange[nodes.hide] = moss * HIDE_EXCHANGE_M3S / (moss + HIDE_EXCHANGE_M3S)
    share = 0.0
    if nodes.walled:
        sides = 2 * (case.length_m + case.width_m) * case.height_m
        lid = case.length_m * case.width_m if case.lid == "solid" else 0.0
        skins[nodes.walls] = MASS_TRANSFER * (sides + lid) / nodes.air_count
        half = walls.half_wall(walls.build_of(case.kind, case.wall_m))
        share = half / (half + walls.R_SIDEWAYS)
    bowl_air = nodes.air_shares(case, case.bowl_x_m, case.bowl_m2**0.5, 0.0)
    leaves = np.full(nodes.air_count, LEAF_M_S * case.leaf_m2 / nodes.air_count)
    return Wetting(exchange, MASS_TRANSFER * case.bowl_m2, bowl_air, leaves, skins, share)


@dataclass(frozen=True)
class Vapour:
    """The vapour in steady state, each of shape (B,): `pressure_pa`, the same without condensation (`unbound_pa`), the rise
    of the pressure per further gram misted a day (`per_gram`), and what the air carries off beyond what it brings (kg/s).

    `latent_w` (B, n) is what evaporation takes from each node (condensation gives), in W; `slope` (B, n) its change in W/K.
    """

    pressure_pa: Floats
    unbound_pa: Floats
    per_gram: Floats
    carried_kg_s: Floats
    latent_w: Floats
    slope: Floats


class Airing(NamedTuple):
    """Air changes (1/h) at a vapour pressure `at_pa`, and by how much they grow with it (1/h per Pa), each of shape (B,)."""

    changes_h: Floats
    more_h_pa: Floats
    at_pa: Floats


class Sources(NamedTuple):
    """What gives water, each of shape (B,): the factor on what evaporates, what is misted and fogged into the air (kg/s), and
    how far leaves are open (0–1).
    """

    wetness: Floats
    given: Floats
    stomata: Floats


def vapour_pressure(case: EnclosureCase, node_c: Floats, room_pa: Floats, airing: Airing, sources: Sources) -> Vapour:
    """Solve the water balance of the enclosure's air in steady state, at temperatures that are known.

    One vapour pressure stands for the whole enclosure. What evaporates and what the air brings is what the air carries off
    and what condenses.

    Parameters
    ----------
    case
        The enclosure.
    node_c
        Temperatures of the nodes in °C, shape (B, n).
    room_pa
        Vapour pressure of the room's air in Pa, shape (B,).
    airing
        Air changes near the pressure looked for: moist air is light and leaves the faster.
    sources
        What evaporates and what is given.

    Returns
    -------
    Vapour.

    References
    ----------
    ASHRAE Handbook – Fundamentals, psychrometrics (docs/models.md [2]); Alduchov and Eskridge 1996 (docs/models.md [4]);
    both recalled.
    """
    nodes, wet = nodes_of(case), wetting(case.shell)
    places = nodes.air.stop, nodes.walls.start, nodes.walls.stop
    return Vapour(*_balance(node_c, Around(room_pa, airing, sources), wet, case.volume_m3, places))


class Around(NamedTuple):
    """What the balance of each enclosure of a batch is worked out from; `room_pa` (B,) is the vapour pressure of the room's air."""

    room_pa: Floats
    airing: Airing
    sources: Sources


saturation_at = compiled(saturation)


@compiled
def dew_point_at(vapour_pa: float) -> float:
    """The dew point in °C of a vapour pressure in Pa; the same as `air.dew_point` for one number."""
    ratio = math.log(max(vapour_pa, 1e-6) / MAGNUS_PA)
    return MAGNUS_B_C * ratio / (MAGNUS_A - ratio)


class Gains(NamedTuple):
    """One enclosure's flows in kg/s per Pa: what air changes carry (`usual`, and `further` by its own lightness), the bowl's and
    each node's `rate`; `at` is the saturation at each node in Pa.
    """

    usual: float
    further: float
    bowl_rate: float
    rate: Floats
    at: Floats


@compiled
def _gains(t: Floats, around: Around, b: int, wet: Wetting, volume_m3: float, air_stop: int) -> Gains:
    """What gives and takes water at the nodes' temperatures, for one enclosure of the batch."""
    room_pa, wetness = around.room_pa[b], around.sources.wetness[b]
    # kg/s per Pa carried off by the air changes; w ≈ 0.622 e/(p − e) with p − e ≈ p − e_room
    per_change = AIR_DENSITY * volume_m3 / 3600 * VAPOUR_RATIO / (PRESSURE_PA - room_pa)
    usual = per_change * around.airing.changes_h[b]
    # Linear about the pressure where they are known: usual (e − e_room) + further (e − e_known).
    further = max(per_change * around.airing.more_h_pa[b] * (around.airing.at_pa[b] - room_pa), -usual / 2)
    rate, at = np.empty(len(t)), np.empty(len(t))
    for i in range(len(t)):
        rate[i] = wet.exchange[i] * PER_PASCAL * wetness
        if i < air_stop:
            rate[i] += wet.leaves[i] * PER_PASCAL * wetness * around.sources.stomata[b]
        at[i] = saturation_at(t[i])
    return Gains(usual, further, wet.bowl * PER_PASCAL * wetness, rate, at)


@compiled
def _unbound(t: Floats, around: Around, b: int, wet: Wetting, gains: Gains, air_stop: int) -> tuple[float, float, float, float]:
    """The pressure without condensation (Pa), what is gained (kg/s) and lost (kg/s per Pa), and the saturation at the bowl (Pa)."""
    room_pa = around.room_pa[b]
    lost = gains.usual + gains.further + gains.bowl_rate
    fixed = gains.usual * room_pa + gains.further * around.airing.at_pa[b] + around.sources.given[b]
    for i in range(len(t)):
        lost += gains.rate[i]
        fixed += gains.rate[i] * gains.at[i]
    bowl_air = 0.0
    for i in range(air_stop):
        bowl_air += t[i] * wet.bowl_air[i]
    unbound, gain, bowl_at = room_pa, 0.0, 0.0
    for _turn in range(3):
        # A bowl lies a third of the way from the air towards its dew point: about the wet bulb's place (rule of thumb).
        bowl_at = saturation_at(bowl_air - (bowl_air - dew_point_at(unbound)) / 3)
        gain = fixed + gains.bowl_rate * bowl_at
        unbound = gain / lost
    return unbound, gain, lost, bowl_at


@compiled
def _bound(t: Floats, wet: Wetting, balance: tuple[float, float, float], walls: tuple[int, int], latent: Floats) -> float:
    """The pressure with what condenses on the walls below its dew point; its heat is taken from `latent`.

    `balance` is the pressure without, the gain and the loss; `walls` where their nodes begin and end, one to each of the air.
    """
    unbound, gain, lost = balance
    start, count = walls[0], walls[1] - walls[0]
    skin_at = np.empty(count)
    for w in range(count):
        wall = t[start + w]
        skin_at[w] = saturation_at(wall + wet.skin_share * (t[w] - wall))
    bound, driest = unbound, unbound
    if count == 0 or unbound <= skin_at.min():
        return bound
    for _turn in range(SWEEPS):
        driest, gained, taken = bound, gain, lost
        for w in range(count):
            if driest > skin_at[w]:
                taking = wet.skins[start + w] * PER_PASCAL
                gained += taking * skin_at[w]
                taken += taking
        bound = gained / taken
    for w in range(count):
        if driest > skin_at[w] and bound > skin_at[w]:
            latent[start + w] -= LATENT_HEAT * wet.skins[start + w] * PER_PASCAL * (bound - skin_at[w])
    return bound


@compiled
def _balance(
    node_c: Floats, around: Around, wet: Wetting, volume_m3: float, places: tuple[int, int, int]
) -> tuple[Floats, Floats, Floats, Floats, Floats, Floats]:
    """The balance of every enclosure of a batch, one after the other: the fields of `Vapour` in their order.

    `places` are where the air nodes end, and where those of the walls, one to each of the air, begin and end.
    """
    batch, count = node_c.shape
    pressure, unbound_pa, per_gram, out = np.empty(batch), np.empty(batch), np.empty(batch), np.empty(batch)
    latent, slope = np.zeros((batch, count)), np.empty((batch, count))
    air_stop, walls = places[0], (places[1], places[2])
    for b in range(batch):
        t = node_c[b]
        gains = _gains(t, around, b, wet, volume_m3, air_stop)
        unbound, gain, lost, bowl_at = _unbound(t, around, b, wet, gains, air_stop)
        found = min(_bound(t, wet, (unbound, gain, lost), walls, latent[b]), saturation_at(t[:air_stop].min()))
        for i in range(count):
            latent[b, i] += LATENT_HEAT * gains.rate[i] * (gains.at[i] - found)
            if i < air_stop:
                latent[b, i] += LATENT_HEAT * gains.bowl_rate * (bowl_at - found) * wet.bowl_air[i]
            slope[b, i] = LATENT_HEAT * gains.rate[i] * gains.at[i] * (MAGNUS_A * MAGNUS_B_C / (t[i] + MAGNUS_B_C) ** 2)
        pressure[b], unbound_pa[b], per_gram[b] = found, unbound, MISTING_SHARE / 1000 / DAY_S / lost
        out[b] = gains.usual * (found - around.room_pa[b]) + gains.further * (found - around.airing.at_pa[b])
    return pressure, unbound_pa, per_gram, out, latent, slope


def humid_hide(vapour_pa: Floats, hide_c: Floats) -> Floats:
    """Return the relative humidity inside a humid hide whose moss is wet.

    Parameters
    ----------
    vapour_pa
        Vapour pressure outside the hide in Pa, shape (B,).
    hide_c
        Temperature inside it in °C, shape (B,).

    Returns
    -------
    Percent of saturation, at most 100, shape (B,). The moss's area and the air through the doorway are estimates.

    References
    ----------
    A water balance of the hide's air (docs/models.md, Water); no source outside.
    """
    wet = MASS_TRANSFER * HIDE_MOSS_M2
    outside = relative_humidity(vapour_pa, hide_c)
    return np.asarray(np.minimum((wet * 100 + HIDE_EXCHANGE_M3S * outside) / (wet + HIDE_EXCHANGE_M3S), 100.0))


def given_mean(case: EnclosureCase) -> float:
    """Return the water that misters and foggers put into the air, as a mean over the day, in kg/s.

    Parameters
    ----------
    case
        The enclosure.

    Returns
    -------
    kg/s.

    References
    ----------
    An amount over 86,400 s; `MISTING_SHARE` is an estimate.
    """
    misted = case.misting_kg_per_day + sum(item.kg for item in case.mistings)
    return MISTING_SHARE * misted / DAY_S + case.fogger_kg_per_h * case.light_hours / 24 / 3600
