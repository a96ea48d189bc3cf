"""The water of one run through a day: vapour, what lies on walls, in the ground and in dry bedding.

The vapour pressure follows its own linear balance over the minutes that things are held, exactly:
`C de/dt = carried (e_room − e) + Σ r (e_at − e) + given`. What is misted lies as a film that shrinks as it dries; what
condenses stays on its wall and evaporates from there; dry bedding takes up and gives off vapour by its own humidity. Compiled.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final, NamedTuple

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import ground, humidity
from husbandry.climate.air import MAGNUS_A, MAGNUS_B_C
from husbandry.climate.compiled import compiled
from husbandry.climate.humidity import LATENT_HEAT, MISTING_SHARE, dew_point_at, saturation_at
from husbandry.climate.terms import AT_ONCE, BOWL, FILM_KG_M2, FULL, GIVEN, LEAVES, RATE, STOMATA, Ints, Terms

Floats = NDArray[np.float64]

STEEPNESS: Final = LATENT_HEAT * MAGNUS_A * MAGNUS_B_C / (MAGNUS_B_C + 20.0) ** 2  # W/K of evaporation per kg/s, near 20 °C

evaporating_share = compiled(ground.evaporating_share)


@dataclass(frozen=True)
class WaterBooks:
    """Kilograms so far: given to air and surfaces, evaporated, condensed, carried off by the air; what lies in ground and film.

    What bedding gives off counts as evaporated, less what it takes up.

    `dried` is what the ground has lost on balance, known only of a stretch of time (`since`).
    """

    given: float = 0.0
    evaporated: float = 0.0
    condensed: float = 0.0
    carried: float = 0.0
    ground: float = 0.0
    film: float = 0.0
    dried: float = 0.0

    def since(self, before: "WaterBooks") -> "WaterBooks":
        """What moved after `before`; what lies in ground and film stays as it is."""
        return WaterBooks(
            self.given - before.given,
            self.evaporated - before.evaporated,
            self.condensed - before.condensed,
            self.carried - before.carried,
            self.ground,
            self.film,
            before.ground - self.ground,
        )


@dataclass(frozen=True)
class Moist:
    """The water at one instant: vapour pressure, kg of dew on each wall, humidity (0–1) of each zone's bedding, the books."""

    pressure_pa: float
    dew_kg: tuple[float, ...]
    bed_humidity: tuple[float, ...]
    water: WaterBooks


def first_water(terms: Terms, pressure_pa: float, node_c: Sequence[float]) -> Moist:
    """The water of a day that begins in steady state: nothing on the walls, damp ground full, bedding as humid as the air at its
    own temperature.
    """
    wet = terms.wet
    bed = terms.source_node[wet.soil : wet.soil + wet.bed].tolist()
    humid = tuple(min(pressure_pa / humidity.saturation(node_c[node]), 1.0) for node in bed)
    return Moist(pressure_pa, (0.0,) * wet.skins, humid, WaterBooks(ground=terms.supply.ground_full))


# Places in `Water.books`: the pressure in Pa and the kg; then how the pressure goes on after a step: from, towards, rate in 1/s,
# and 1 where any water condenses.
PRESSURE, FILM, GROUND, WAS_GIVEN, EVAPORATED, CONDENSED, CARRIED = range(7)
NOW, TOWARDS, PACE, CONDENSES = range(7, 11)
# Rows of `Water.flow`.
RATE_NOW, AT, FLOW = range(3)


class Water(NamedTuple):
    """What a step changes of the water: the books, what each source holds (humidity of bedding, kg of dew), and the flows.

    `flow` (3, k): kg/s per Pa, 0 where it rests; the vapour pressure it gives to (Pa); kg/s. First the sources of `Terms`, then by
    air node the bowl and the leaves, then the film by wall; `node` says where each takes its heat from.
    """

    books: Floats
    holds: Floats
    flow: Floats
    node: Ints


def water_of(terms: Terms, moist: Moist) -> Water:
    """A run's own water, as it stands at its beginning."""
    wet, surface, books = terms.wet, terms.surface, moist.water
    air = np.arange(terms.air.shape[1])
    node = np.concatenate([terms.source_node, air, air, np.arange(surface.seen_from, surface.seen_to)])
    kept = [moist.pressure_pa, books.film - sum(moist.dew_kg), books.ground]
    done = [books.given, books.evaporated, books.condensed, books.carried]
    holds = np.concatenate([np.zeros(wet.soil), moist.bed_humidity, np.zeros(wet.other), moist.dew_kg])
    return Water(np.array([*kept, *done, 0.0, 0.0, 0.0, 0.0]), holds, np.zeros((3, node.size)), node)


def moist_of(terms: Terms, water: Water) -> Moist:
    """The water as it stands."""
    wet = terms.wet
    pressure, film, of_ground, given, evaporated, condensed, carried = water.books[:NOW].tolist()
    dew = water.holds[wet.soil + wet.bed + wet.other :].tolist()
    books = WaterBooks(given, evaporated, condensed, carried, of_ground, film + sum(dew))
    return Moist(pressure, tuple(dew), tuple(water.holds[wet.soil : wet.soil + wet.bed].tolist()), books)


@compiled
def find_lasting(terms: Terms, water: Water, t: Floats, now_pa: float, clock: int, seconds: float) -> None:
    """Set rate and pressure of every source but skins and film.

    Damp ground dries through the layer on top, which grows by what has gone; dry bedding gives off the mean of so many seconds in
    which it nears the air's humidity; a bowl lies a third of the way from the air to its dew point.
    """
    wet, supply, flow, of_ground = terms.wet, terms.supply, water.flow, water.books[GROUND]
    share = 1.0
    if supply.ground_full > 0.0:
        gone_m = (1.0 - of_ground / supply.ground_full) * supply.ground_m
        share = evaporating_share(supply.dry_m + gone_m) / evaporating_share(supply.dry_m) if of_ground > 0.0 else 0.0
    for k in range(wet.soil + wet.bed + wet.other):
        rate, at = terms.source[RATE, k], saturation_at(t[terms.source_node[k]])
        if k < wet.soil:
            rate *= share
        elif k < wet.soil + wet.bed:
            kg = terms.source[FULL, k]
            rate = kg * (1.0 - math.exp(-rate * at * seconds / kg)) / (seconds * at)
            at *= water.holds[k]
        flow[RATE_NOW, k], flow[AT, k] = rate, at
    count, at_bowl = terms.air.shape[1], 0.0
    if wet.bowl > 0.0:
        air_c = 0.0
        for i in range(count):
            air_c += terms.air[BOWL, i] * t[i]
        at_bowl = saturation_at(air_c - (air_c - dew_point_at(now_pa)) / 3.0)
    k = water.holds.size
    for i in range(count):
        flow[RATE_NOW, k + i], flow[AT, k + i] = wet.bowl * terms.air[BOWL, i], at_bowl
        leaves = terms.air[LEAVES, i] * terms.by_time[STOMATA, clock // 10]
        flow[RATE_NOW, k + count + i] = leaves
        flow[AT, k + count + i] = saturation_at(t[i]) if leaves > 0.0 else 0.0


@compiled
def _find_film(terms: Terms, water: Water, t: Floats, now_pa: float, seconds: float) -> int:
    """Set the film that a misting left, which shrinks as it dries: no more than lies there can go. Return where it begins."""
    first, stop, lies = terms.surface.seen_from, terms.surface.seen_to, water.books[FILM]
    size, mean_c = stop - first, 0.0
    for i in range(first, stop):
        mean_c += t[i] / size
    at, rate = saturation_at(mean_c), 0.0
    if lies > 0.0 and at > now_pa:
        wetted_m2 = min(lies / FILM_KG_M2, terms.wet.wettable_m2)
        rate = min(terms.wet.film_per_m2 * wetted_m2, lies / (seconds * (at - now_pa)))
    begin = water.node.size - size
    for i in range(begin, water.node.size):
        water.flow[RATE_NOW, i], water.flow[AT, i] = rate / size, at
    return begin


@compiled
def _find_skins(terms: Terms, water: Water, t: Floats, now_pa: float, seconds: float) -> bool:
    """Set the walls: water condenses on those below the dew point, what lies on others dries off. Tell whether any condenses."""
    wet, dew_c, condenses = terms.wet, dew_point_at(now_pa), False
    for k in range(wet.soil + wet.bed + wet.other, water.holds.size):
        node = terms.source_node[k]
        skin_c, dew_kg = t[node] + wet.skin_share * (t[node - wet.first_wall] - t[node]), water.holds[k]
        rate, at = terms.source[RATE, k], now_pa
        if skin_c >= dew_c and dew_kg <= 0.0:
            rate = 0.0
        else:
            at = saturation_at(skin_c)
            if now_pa < at:
                rate = min(rate * min(dew_kg / terms.source[FULL, k], 1.0), dew_kg / (seconds * (at - now_pa)))
            condenses = condenses or at < now_pa
        water.flow[RATE_NOW, k], water.flow[AT, k] = rate, at
    return condenses


@compiled
def _mist(terms: Terms, water: Water, clock: int) -> float:
    """Give what is misted at this minute; return by how much it raises the vapour pressure at once."""
    full, books, added = terms.supply.ground_full, water.books, terms.misted[clock]
    if added <= 0.0:
        return 0.0
    books[FILM] += MISTING_SHARE * added * (1.0 - AT_ONCE)
    if full > 0.0:
        books[GROUND] = min(books[GROUND] + (1.0 - MISTING_SHARE) * added, full)
    at_once = MISTING_SHARE * added * AT_ONCE
    books[WAS_GIVEN] += added
    books[EVAPORATED] += at_once
    return at_once / terms.supply.holds


class DayAiring(NamedTuple):
    """Air changes at the present pressure (1/h), how they grow with it (1/h per Pa), and the room's vapour (Pa)."""

    changes_h: float
    more_h_pa: float
    room_pa: float


@compiled
def step(terms: Terms, water: Water, t: Floats, airing: DayAiring, clock: int, seconds: float) -> None:
    """Step the vapour pressure through the time that is held, exactly, and book what every source gave.

    `t` are the nodes (°C) in its middle, `clock` the minute of the day.
    """
    changes_h, more_h_pa, room_pa = airing
    supply, books, flow = terms.supply, water.books, water.flow
    at_pa, given, usual = books[PRESSURE], terms.by_time[GIVEN, clock // 10], supply.per_change * changes_h
    # Linear about the present pressure: usual (e − e_room) + further (e − e_now).
    further = max(supply.per_change * more_h_pa * (at_pa - room_pa), -usual / 2.0)
    now = at_pa + _mist(terms, water, clock)
    find_lasting(terms, water, t, now, clock, seconds)
    film = _find_film(terms, water, t, now, seconds)
    books[CONDENSES] = 1.0 if _find_skins(terms, water, t, now, seconds) else 0.0
    gain, lost = usual * room_pa + further * at_pa + given, usual + further
    for k in range(water.node.size):
        gain += flow[RATE_NOW, k] * flow[AT, k]
        lost += flow[RATE_NOW, k]
    towards, pace = gain / lost, lost / supply.holds
    gone = math.exp(-pace * seconds)
    mean = towards + (now - towards) * (1.0 - gone) / (pace * seconds)
    books[NOW], books[TOWARDS], books[PACE] = now, towards, pace
    books[PRESSURE] = towards + (now - towards) * gone
    books[CARRIED] += (usual * (mean - room_pa) + further * (mean - at_pa)) * seconds
    books[WAS_GIVEN] += given * seconds
    for k in range(water.node.size):
        flow[FLOW, k] = flow[RATE_NOW, k] * (flow[AT, k] - mean)
    _book(terms, water, seconds, film)


@compiled
def _book(terms: Terms, water: Water, seconds: float, film: int) -> None:
    """Book the flows: what lies where, and what evaporated and condensed; the film's begin at `film`."""
    wet, books, holds = terms.wet, water.books, water.holds
    taken = total = of_film = of_soil = 0.0
    for k in range(water.node.size):
        flow = water.flow[FLOW, k]
        total += flow
        if k < wet.soil:
            of_soil += flow
        elif k < wet.soil + wet.bed:
            holds[k] = min(max(holds[k] - flow * seconds / terms.source[FULL, k], 0.0), 1.0)
        elif wet.soil + wet.bed + wet.other <= k < holds.size:
            taken += max(-flow, 0.0)
            holds[k] = min(max(holds[k] - flow * seconds, 0.0), terms.source[FULL, k])  # more runs down
        elif k >= film:
            of_film += flow
        elif k >= holds.size + terms.air.shape[1]:
            of_soil += flow  # leaves drink from the ground
    if of_film != 0.0:
        books[FILM] = max(books[FILM] - seconds * of_film, 0.0)
    if terms.supply.ground_full > 0.0:  # what falls on ground that is full runs through it
        books[GROUND] = min(max(books[GROUND] - seconds * of_soil, 0.0), terms.supply.ground_full)
    books[CONDENSED] += taken * seconds
    books[EVAPORATED] += seconds * (total + taken)
