"""What is not linear in a day: air changes by buoyancy, the basking surface's own losses, and the water.

They are evaluated at one instant and held for a few minutes. Compiled: the arrays are too small for NumPy.
"""

import math
from typing import Final, NamedTuple

import numpy as np
from numpy.typing import NDArray

from husbandry.climate.air import MAGNUS_A, MAGNUS_B_C
from husbandry.climate.basking import convection_of, radiation_of
from husbandry.climate.compiled import compiled
from husbandry.climate.day_water import AT, FLOW, PRESSURE, RATE_NOW, STEEPNESS, DayAiring, Water, find_lasting, step
from husbandry.climate.humidity import LATENT_HEAT, saturation_at
from husbandry.climate.openings import VIRTUAL_K_PA, changes_of, rise_of, slope_of
from husbandry.climate.terms import CAPACITY, LATENT, NEAR, OUTSIDE, SOFTNESS, VENT, Terms

Floats = NDArray[np.float64]

SWING_K: Final = 0.2  # a correction that moves its node by so much, and back by as much, swings
BACK: Final = 0.5  # of what it moved before, in the other direction
MOST_SWINGS: Final = 2  # one after another: a hand's turn of things may look like one
STIFF: Final = 0.5  # of a node's heat that a change of its losses may move while it is held, where care is taken

# Rows of `Held.node`, and places in `Held.marks`.
HEAT, DRY, MOVES, BEFORE = range(4)
LOOKED, MOVED, CHANGE, SWUNG = range(4)


class Held(NamedTuple):
    """What is held of one run: `node` (4, n) W, the part of it that is not water's, by how many K it moved each node, and before.

    `marks`: whether it was looked at, whether moves are known, by how many K the last look moved a node, how often it swung.
    """

    node: Floats
    marks: Floats


@compiled
def switched(held: Held) -> None:
    """Something was switched: that a correction turns round is no sign of anything."""
    held.marks[MOVED] = held.marks[SWUNG] = 0.0


@compiled
def _rise(terms: Terms, water: Water, t: Floats, room_c: float, room_pa: float) -> float:
    """By how much the air inside is the lighter, in K of virtual temperature."""
    count, mean = terms.air.shape[1], 0.0
    for i in range(count):
        mean += t[i] / count
    return rise_of(mean - room_c, water.books[PRESSURE] - room_pa)


@compiled
def _kept(conductance: float, heat: float, minutes: float) -> float:
    """How much of a further conductance (W/K) may be held for the time, lest it overshoot its node (J/K): as at its end."""
    reach = conductance * 60.0 * minutes / heat
    return 1.0 / (1.0 + reach) if reach > STIFF else 1.0


@compiled
def _coefficients(terms: Terms, t: Floats, room_c: float) -> tuple[float, float, float, float]:
    """The basking surface's air and the walls it sees in °C, and its convective and radiative coefficient in W/m²K."""
    surface = terms.surface
    at, air, mean = t[surface.node], 0.0, 0.0
    for i in range(terms.air.shape[1]):
        air += terms.air[NEAR, i] * t[i]
    for i in range(surface.seen_from, surface.seen_to):
        mean += t[i]
    mean /= surface.seen_to - surface.seen_from
    sees = room_c + surface.seen_share * (mean - room_c)
    return air, mean, convection_of(at, air, surface.plate_m), radiation_of(at, sees)


@compiled
def find_dry(terms: Terms, rise_k: float, t: Floats, room_c: float, careful: float, heat: Floats) -> None:
    """Add to `heat` what air changes by buoyancy carry off, and what the basking surface gives to air, walls and room, beyond what
    the linear system has of both; `careful` for so many minutes, 0 for not.
    """
    airing, surface = terms.airing, terms.surface
    more = airing.factor * changes_of(airing.exchange, rise_k) - airing.linear_h
    air, mean, h_conv, h_rad = _coefficients(terms, t, room_c)
    # Radiation to the walls and, through openings, to the room: each linear part is what the network already has.
    given = surface.area_m2 * (h_rad - surface.h_rad)
    convected = surface.area_m2 * (h_conv - surface.h_conv)
    count = terms.air.shape[1]
    if careful > 0.0:
        most = 0.0
        for i in range(count):
            most = max(most, terms.air[VENT, i])
        more *= _kept(more * most, terms.node[CAPACITY, 0], careful)
        kept = _kept(given + convected, terms.node[CAPACITY, surface.node], careful)
        given, convected = given * kept, convected * kept
    at, share = t[surface.node], surface.seen_share
    for i in range(count):
        heat[i] += more * terms.air[VENT, i] * (room_c - t[i]) + convected * terms.air[NEAR, i] * (at - t[i])
    each = given * share / (surface.seen_to - surface.seen_from)
    for i in range(surface.seen_from, surface.seen_to):
        heat[i] += each * (at - t[i])
    heat[surface.node] -= given * share * (at - mean) + given * (1.0 - share) * (at - room_c) + convected * (at - air)


class Moment(NamedTuple):
    """From which minute of the clock the corrections are held, and for how many; the room then and in the middle of it, °C; how
    long the last ones were held, 0 where a thermostat turned since; whether much moves soon after a switch; whether care is taken.
    """

    clock: int
    minutes: int
    room_c: float
    halfway_c: float
    before: int
    soon: bool
    careful: bool


@compiled
def look(terms: Terms, water: Water, held: Held, t: Floats, ahead: Floats, at: Moment) -> bool:
    """Set the heat in W at each node to hold for a time, and step the water through it; tell whether it swings.

    `t` are the nodes now, `ahead` in the middle of that time, °C.
    """
    room_c, halfway_c, careful = at.room_c, at.halfway_c, at.careful
    care = float(at.minutes) if careful else 0.0
    room_pa = terms.supply.humid * saturation_at(halfway_c)
    airing, node, marks = terms.airing, held.node, held.marks
    dry = node[DRY]
    for i in range(t.size):
        dry[i], node[BEFORE, i], node[MOVES, i] = terms.node[OUTSIDE, i], node[MOVES, i], node[HEAT, i]
    find_dry(terms, _rise(terms, water, t, room_c, room_pa), t, room_c, care, dry)
    for i in range(t.size):
        node[HEAT, i] = dry[i] + terms.node[LATENT, i] * (ahead[i] - halfway_c)
    rise_k = _rise(terms, water, ahead, halfway_c, room_pa)
    factor, more_h_k = airing.factor, slope_of(airing.exchange, rise_k)
    air = DayAiring(factor * changes_of(airing.exchange, rise_k), factor * VIRTUAL_K_PA * more_h_k, room_pa)
    step(terms, water, ahead, air, at.clock, 60.0 * at.minutes)
    for k in range(water.node.size):
        place = water.node[k]
        kept = 1.0
        if careful:
            kept = _kept(water.flow[RATE_NOW, k] * water.flow[AT, k] * STEEPNESS, terms.node[CAPACITY, place], care)
        node[HEAT, place] -= LATENT_HEAT * water.flow[FLOW, k] * kept
    most = back = forth = 0.0
    for i in range(t.size):
        moved = (node[HEAT, i] - node[MOVES, i]) * terms.node[SOFTNESS, i]
        node[MOVES, i] = moved
        most = max(most, abs(moved))
        back += node[BEFORE, i] * moved
        forth += node[BEFORE, i] * node[BEFORE, i]
    first, had_moves = marks[LOOKED] == 0.0, marks[MOVED] > 0.0
    marks[CHANGE] = math.inf if first else most
    marks[LOOKED], marks[MOVED] = 1.0, 0.0 if first else 1.0
    if not had_moves or most <= SWING_K or careful:
        return False
    marks[SWUNG] = marks[SWUNG] + 1.0 if back < -BACK * forth else 0.0
    return marks[SWUNG] >= MOST_SWINGS


@compiled
def again(terms: Terms, water: Water, held: Held, t: Floats, at: Moment, heat: Floats) -> None:
    """Set `heat` to the last look's, with air changes and surface as they are halfway, at other temperatures `t` of the nodes."""
    room_c, careful = at.halfway_c, float(at.minutes) if at.careful else 0.0
    room_pa = terms.supply.humid * saturation_at(room_c)
    for i in range(t.size):
        heat[i] = held.node[HEAT, i] - held.node[DRY, i] + terms.node[OUTSIDE, i]
    find_dry(terms, _rise(terms, water, t, room_c, room_pa), t, room_c, careful, heat)


@compiled
def find_steepest(terms: Terms, water: Water, t: Floats, at: Moment, found: Floats) -> None:
    """Set how steep each correction is in its node's temperature: air changes (1/h), h_conv and h_rad (W/m²K), W/K by node."""
    room_c, room_pa = at.room_c, terms.supply.humid * saturation_at(at.halfway_c)
    _air, _mean, h_conv, h_rad = _coefficients(terms, t, room_c)
    # Buoyancy: what air changes carry off goes with the rise to the power of one and a half.
    found[0] = 1.5 * terms.airing.factor * changes_of(terms.airing.exchange, _rise(terms, water, t, room_c, room_pa))
    found[1], found[2] = 1.25 * h_conv, h_rad
    find_lasting(terms, water, t, water.books[PRESSURE], at.clock, 60.0)
    size, lasting = water.holds.size, terms.wet.soil + terms.wet.bed + terms.wet.other
    for k in range(water.node.size - terms.surface.seen_to + terms.surface.seen_from):
        if lasting <= k < size:
            continue
        place = water.node[k]
        steep = MAGNUS_A * MAGNUS_B_C / (MAGNUS_B_C + t[place]) ** 2
        found[3 + place] += LATENT_HEAT * water.flow[RATE_NOW, k] * water.flow[AT, k] * steep
