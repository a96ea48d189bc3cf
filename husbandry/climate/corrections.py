"""What is not linear in a day: air changes by √ΔT, the basking surface's own losses, and the water.

They are evaluated at one instant and held for a few minutes. The vapour pressure follows its own linear balance over that time:
`C de/dt = carried (e_room − e) + Σ r (e_s(T) − e) + given`, exactly. Plain floats: the arrays are too small for NumPy.
"""

import math
import operator
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import ground, humidity
from husbandry.climate.air import (
    AIR_DENSITY,
    KELVIN,
    MAGNUS_A,
    MAGNUS_B_C,
    MAGNUS_PA,
    PRESSURE_PA,
    VAPOUR_RATIO,
)
from husbandry.climate.basking import (
    AIR_CONDUCTIVITY,
    COLD,
    EMITTANCE,
    LAMINAR,
    STEFAN_BOLTZMANN,
    STILL_AIR,
    TURBULENT,
    rayleigh_per_kelvin,
)
from husbandry.climate.case import EnclosureCase, RoomState
from husbandry.climate.humidity import LATENT_HEAT, MISTING_SHARE, PER_PASCAL, wetting
from husbandry.climate.network import Network
from husbandry.climate.openings import VIRTUAL_K_PA, AirExchange, exchange_of
from husbandry.errors import HusbandryError

Floats = NDArray[np.float64]

SWING_K: Final = 0.2  # a correction that moves its node by so much, and back by as much, swings
BACK: Final = 0.5  # of what it moved before, in the other direction
MOST_SWINGS: Final = 2  # one after another: a hand's turn of things may look like one
STIFF: Final = 0.5  # of a node's heat that a change of its losses may move while it is held, where care is taken
STEEPNESS: Final = LATENT_HEAT * MAGNUS_A * MAGNUS_B_C / (MAGNUS_B_C + 20.0) ** 2  # W/K of evaporation per kg/s, near 20 °C
AT_ONCE: Final = 0.15  # of what evaporates of a misting, the share that stays in the air as it falls (estimate)
FILM_KG_M2: Final = 0.05  # water that stays on a misted surface (estimate)
FILM_SHARE: Final = 0.6  # of walls and floor that a misting can wet (estimate)
BUFFER: Final = 3.0  # wood, leaves and ground take up and give off vapour: over the air's own (estimate)
DAMP_WATER: Final = 100.0  # kg per m³ of damp ground that can dry out (estimate: a tenth of its volume)
DRY_BELOW: Final = 0.5  # of that, below which the soil limits what evaporates


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


@dataclass(frozen=True)
class WaterBooks:
    """Kilograms so far: given to air and surfaces, evaporated, condensed, carried off by the air; what lies in ground and film.

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
    return DAMP_WATER * case.length_m * case.width_m * case.ground_depth_m if ground.WET_SHARE[case.ground_damp] else 0.0


@dataclass(frozen=True)
class Moist:
    """The water at one instant: vapour pressure, kg on surfaces and their area, and the books."""

    pressure_pa: float
    film_m2: float
    water: WaterBooks


@dataclass(frozen=True)
class AirTerms:
    """Air changes: how they go with the rise, the factor on them, and per 1/h the conductance of each air node (W/K).

    `linear_h` (1/h) is what the linear system already has; `count` air nodes come first.
    """

    count: int
    conductance: float
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
    """What evaporates and condenses, by node, in kg/s per Pa; the bowl's share of each air node."""

    soil: tuple[tuple[int, float], ...]
    others: tuple[tuple[int, float], ...]
    bowl: float
    bowl_air: tuple[tuple[int, float], ...]
    skin_share: float
    skins: tuple[tuple[int, int, float], ...]
    film_per_m2: float


@dataclass(frozen=True)
class Supply:
    """What is given and held: kg/s every ten minutes of the day, kg by the minute of a misting, the room's humidity (0–1).

    `per_change` is kg/s per Pa and 1/h carried off; `holds` is kg per Pa that air and surfaces take up; `ground_full` in kg.
    """

    humid: float
    per_change: float
    holds: float
    ground_full: float
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

    def first(self, pressure_pa: float) -> Moist:
        """The water of a day that begins in steady state: nothing on the walls, damp ground full."""
        return Moist(pressure_pa, 0.0, WaterBooks(ground=self.supply.ground_full))


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
    case: EnclosureCase, net: Network, room: RoomState, factors: tuple[float, float], linear: Linear, conductance: Floats
) -> Terms:
    """Build the corrections; `factors` are those on the air changes and on everything that evaporates.

    `conductance` (n,) is what each node has in the linear system, W/K.
    """
    air_changes, wetness = factors
    capacity = tuple(net.capacity.tolist())
    return Terms(
        AirTerms(
            net.nodes.air_count,
            float(net.vent[0]),  # the same in every air node
            exchange_of(case.shell),
            air_changes,
            linear.air_changes_h,
            capacity[0],
        ),
        _surface_terms(case, net, linear),
        _wet(case, net, wetness),
        _supply(case, room),
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
        others=tuple((index, float(rate)) for index, rate in enumerate(exchange) if rate and index not in soil),
        bowl=wet.bowl * PER_PASCAL * wetness,
        bowl_air=tuple((node, float(share)) for node, share in enumerate(wet.bowl_air) if share),
        skin_share=wet.skin_share,
        skins=tuple((index - first, index, float(rate) * PER_PASCAL) for index, rate in enumerate(wet.skins) if rate),
        film_per_m2=humidity.MASS_TRANSFER * PER_PASCAL * wetness,
    )


def _supply(case: EnclosureCase, room: RoomState) -> Supply:
    humid = room.humidity_percent / 100
    room_pa = humid * saturation((room.day_c + room.night_c) / 2)
    steady = MISTING_SHARE * case.misting_kg_per_day / humidity.DAY_S
    fogged = steady + case.fogger_kg_per_h / 3600
    return Supply(
        humid=humid,
        per_change=AIR_DENSITY * case.volume_m3 / 3600 * VAPOUR_RATIO / (PRESSURE_PA - room_pa),
        holds=case.air_m3 * PER_PASCAL * BUFFER,
        ground_full=ground_holds(case),
        wettable_m2=FILM_SHARE * (2 * (case.length_m + case.width_m) * case.height_m + case.length_m * case.width_m),
        given=tuple(fogged if case.is_day((minute + 0.5) / 60) else steady for minute in range(0, 1440, 10)),
        mistings={round(item.hour * 60) % 1440: item.kg for item in case.mistings},
    )


class StiffError(HusbandryError, ArithmeticError):
    """What is held swings to and fro: the linear system has too little of it. `linear` is what it has to have at least."""

    def __init__(self, linear: Linear) -> None:
        super().__init__("a correction swings")
        self.linear = linear


class Corrections:
    """The corrections of one run: `terms` at the present temperatures, and the run's own water.

    Where the corrections of a plan would overshoot between two evaluations, `careful` under-relaxes them: this takes more
    steps and does not oscillate.
    After `look`: `segment` says how the vapour pressure goes on (now, towards, rate in 1/s, whether water condenses), and
    `change` by how many K the corrections have moved any node since the last look.
    """

    def __init__(self, terms: Terms, moist: Moist, *, careful: bool) -> None:
        self.terms, self.careful = terms, careful
        self.pressure, self.film_m2 = moist.pressure_pa, moist.film_m2
        self.room_pa = moist.pressure_pa
        self.film_kg, self.ground_kg = moist.water.film, moist.water.ground
        water = moist.water
        self.given, self.evaporated, self.condensed, self.carried = water.given, water.evaporated, water.condensed, water.carried
        self.last: list[float] = []
        self.dry: list[float] = []
        self.held = 1
        self.segment = (0.0, 0.0, 0.0, False)
        self.change = 0.0
        self.moves: list[float] = []
        self.swings = 0

    def switched(self) -> None:
        """Something was switched: that a correction turns round is no sign of anything."""
        self.moves, self.swings = [], 0

    def end(self) -> Moist:
        """Return the water as it stands."""
        books = WaterBooks(self.given, self.evaporated, self.condensed, self.carried, self.ground_kg, self.film_kg)
        return Moist(self.pressure, self.film_m2, books)

    def look(self, t: list[float], ahead: list[float], rooms_c: tuple[float, float], clock: int, minutes: int) -> list[float]:
        """Return the heat in W at each node to hold for `minutes` from the minute `clock` of the day; step the water.

        `t` are the nodes in °C now, `ahead` in the middle of that time; `rooms_c` is the room at both. Raises StiffError where it
        swings, unless it is careful.
        """
        room_c, halfway_c = rooms_c
        heat = list(self.terms.outside_w)
        self.held, self.room_pa = minutes, self.terms.supply.humid * saturation(halfway_c)
        self._air(t, room_c, heat)
        self._surface(t, room_c, heat)
        self.dry = heat.copy()
        self._water(ahead, halfway_c, clock, heat)
        for node, more in self.terms.latent:
            heat[node] += more * (ahead[node] - halfway_c)
        before, self.moves = self.moves, list(map(operator.mul, map(operator.sub, heat, self.last), self.terms.softness))
        self.change = max(map(abs, self.moves), default=math.inf)
        if before and self.change > SWING_K and not self.careful:
            self._look_out(before, t, room_c)
        self.last = heat
        return heat

    def _look_out(self, before: list[float], t: list[float], room_c: float) -> None:
        """Raise StiffError where what moves goes back on what it moved `before`, time after time."""
        returned = sum(map(operator.mul, before, self.moves)) < -BACK * sum(map(operator.mul, before, before))
        self.swings = self.swings + 1 if returned else 0
        if self.swings >= MOST_SWINGS:
            raise StiffError(self._steepest(t, room_c))

    def _steepest(self, t: list[float], room_c: float) -> Linear:
        """By how much each correction grows with its node's temperature, at these temperatures."""
        _air, _mean, h_conv, h_rad = self._coefficients(t, room_c)
        latent = [0.0] * len(t)
        for node, rate, at in (*self._soil(t), *self._others(t, self.pressure)):
            latent[node] += LATENT_HEAT * rate * at * MAGNUS_A * MAGNUS_B_C / (MAGNUS_B_C + t[node]) ** 2
        # Buoyancy: what air changes carry off goes with the rise to the power of one and a half.
        return Linear(1.5 * self._changes(t, room_c), 1.25 * h_conv, h_rad, tuple(latent))

    def _rise(self, t: list[float], room_c: float) -> float:
        """By how much the air inside is the lighter, in K of virtual temperature."""
        count = self.terms.air.count
        return sum(t[:count]) / count - room_c + VIRTUAL_K_PA * (self.pressure - self.room_pa)

    def _changes(self, t: list[float], room_c: float) -> float:
        """Air changes per hour."""
        return self.terms.air.factor * self.terms.air.exchange.at_one(self._rise(t, room_c))

    def again(self, t: list[float], room_c: float) -> list[float]:
        """Return the last look's heat with air changes and surface as they are at other temperatures of the nodes."""
        dry = list(self.terms.outside_w)
        self._air(t, room_c, dry)
        self._surface(t, room_c, dry)
        return [whole - then + now for whole, then, now in zip(self.last, self.dry, dry, strict=True)]

    def _air(self, t: list[float], room_c: float, heat: list[float]) -> None:
        """The heat that air changes by buoyancy carry off beyond the linear system's."""
        terms = self.terms.air
        count, changes = terms.count, self._changes(t, room_c)
        more = terms.conductance * (changes - terms.linear_h)
        if self.careful:
            more *= self._kept(more, terms.heat_capacity)
        heat[:count] = [was + more * (room_c - air) for was, air in zip(heat[:count], t[:count], strict=True)]

    def _kept(self, conductance: float, heat: float) -> float:
        """How much of a further conductance (W/K) may be held for the time, lest it overshoot its node (J/K): as at its end."""
        reach = conductance * 60.0 * self.held / heat
        return 1 / (1 + reach) if reach > STIFF else 1.0

    def _coefficients(self, t: list[float], room_c: float) -> tuple[float, float, float, float]:
        """The basking surface's air and the walls it sees in °C, and its convective and radiative coefficient in W/m²K."""
        terms = self.terms.surface
        surface, air = t[terms.node], 0.0
        for node, part in terms.air:
            air += part * t[node]
        begin, stop = terms.seen
        mean = sum(t[begin:stop]) / (stop - begin)
        hot, cold = surface + KELVIN, room_c + terms.seen_share * (mean - room_c) + KELVIN
        h_rad = EMITTANCE * STEFAN_BOLTZMANN * (hot * hot + cold * cold) * (hot + cold)
        rayleigh = terms.rayleigh / ((surface + air) / 2 + KELVIN) * max(abs(surface - air), 1e-3)
        if surface < air:
            nusselt = COLD * math.sqrt(math.sqrt(rayleigh))
        else:
            nusselt = LAMINAR * math.sqrt(math.sqrt(rayleigh)) if rayleigh < TURBULENT else 0.15 * rayleigh ** (1 / 3)
        return air, mean, max(nusselt * AIR_CONDUCTIVITY / terms.plate_m, STILL_AIR), h_rad

    def _surface(self, t: list[float], room_c: float, heat: list[float]) -> None:
        """The heat that the basking surface gives beyond the linear system's, to the air, the walls it sees and the room."""
        terms = self.terms.surface
        at, surface = terms.node, t[terms.node]
        air, mean, h_conv, h_rad = self._coefficients(t, room_c)
        begin, stop = terms.seen
        seen = t[begin:stop]
        # Radiation to the walls and, through openings, to the room: each linear part is what the network already has.
        share = terms.seen_share
        given = terms.area_m2 * (h_rad - terms.h_rad)
        more = terms.area_m2 * (h_conv - terms.h_conv)
        if self.careful:
            kept = self._kept(given + more, terms.heat_capacity)
            given, more = given * kept, more * kept
        each = given * share / len(seen)
        to_room = given * (1 - share) * (surface - room_c)
        to_air = more * (surface - air)
        heat[at] -= given * share * (surface - mean) + to_room + to_air
        for node, part in terms.air:
            heat[node] += more * part * (surface - t[node])
        for node, wall in enumerate(seen, begin):
            heat[node] += each * (surface - wall)

    def _water(self, t: list[float], room_c: float, clock: int, heat: list[float]) -> None:
        """Step the vapour pressure through the time that is held, exactly; take latent heat where water evaporates."""
        supply, seconds, room_pa = self.terms.supply, 60.0 * self.held, self.room_pa
        given, at_pa = supply.given[clock // 10], self.pressure
        usual = supply.per_change * self._changes(t, room_c)
        slope = self.terms.air.factor * self.terms.air.exchange.slope_at_one(self._rise(t, room_c))
        grows = supply.per_change * VIRTUAL_K_PA * slope
        # Linear about the present pressure: usual (e − e_room) + further (e − e_now).
        further = max(grows * (at_pa - room_pa), -usual / 2)
        carried = usual + further
        now = at_pa + self._mist(clock)
        soil, others = self._soil(t), self._others(t, now)
        film_rate, film_at = self._film(t, now, seconds)
        skins = self._condensing(t, now)
        gain, lost = usual * room_pa + further * at_pa + given + film_rate * film_at, carried + film_rate
        for _index, rate, at in (*soil, *others, *skins):
            gain, lost = gain + rate * at, lost + rate
        towards, pace = gain / lost, lost / supply.holds
        gone = math.exp(-pace * seconds)
        mean = towards + (now - towards) * (1 - gone) / (pace * seconds)
        self.segment = (now, towards, pace, bool(skins))
        self.pressure = towards + (now - towards) * gone
        from_ground = self._latent(soil, mean, heat)
        elsewhere = self._latent(others, mean, heat)
        from_film = self._latent_of_film(film_rate, film_at, mean, heat)
        condensed = -self._latent(skins, mean, heat)
        self.film_kg = max(self.film_kg - from_film * seconds, 0.0)
        if supply.ground_full:
            self.ground_kg = max(self.ground_kg - from_ground * seconds, 0.0)
        self.given += given * seconds
        self.evaporated += (from_ground + elsewhere + from_film) * seconds
        self.condensed += condensed * seconds
        self.carried += (usual * (mean - room_pa) + further * (mean - at_pa)) * seconds

    def _soil(self, t: list[float]) -> list[tuple[int, float, float]]:
        """What evaporates from the ground: node, kg/s per Pa, saturation pressure; drying soil limits it."""
        full = self.terms.supply.ground_full
        share = min(self.ground_kg / (DRY_BELOW * full), 1.0) if full else 1.0
        return [(index, rate * share, saturation(t[index])) for index, rate in self.terms.wet.soil]

    def _others(self, t: list[float], now_pa: float) -> list[tuple[int, float, float]]:
        """The same from every other wet surface and the bowl, which lies a third of the way from the air to its dew point."""
        wet = self.terms.wet
        found = [(index, rate, saturation(t[index])) for index, rate in wet.others]
        if wet.bowl:
            air = sum(part * t[node] for node, part in wet.bowl_air)
            ratio = math.log(max(now_pa, 1e-6) / MAGNUS_PA)
            dew = MAGNUS_B_C * ratio / (MAGNUS_A - ratio)
            at_bowl = saturation(air - (air - dew) / 3)
            found += [(node, part * wet.bowl, at_bowl) for node, part in wet.bowl_air]
        return found

    def _film(self, t: list[float], now_pa: float, seconds: float) -> tuple[float, float]:
        """The rate (kg/s per Pa) and saturation pressure of a misting's film: what lies there is all that can evaporate."""
        if self.film_kg <= 0:
            return 0.0, 0.0
        begin, stop = self.terms.surface.seen
        at = saturation(sum(t[begin:stop]) / (stop - begin))
        return min(self.terms.wet.film_per_m2 * self.film_m2, self.film_kg / (seconds * max(at - now_pa, 1.0))), at

    def _condensing(self, t: list[float], now_pa: float) -> list[tuple[int, float, float]]:
        """The walls on which water condenses: node, kg/s per Pa, saturation pressure of its skin."""
        wet, found = self.terms.wet, []
        for air_node, wall, rate in wet.skins:
            at = saturation(t[wall] + wet.skin_share * (t[air_node] - t[wall]))
            if now_pa > at:
                found.append((wall, rate, at))
        return found

    def _mist(self, clock: int) -> float:
        """Give what is misted at this minute; return by how much it raises the vapour pressure at once."""
        supply = self.terms.supply
        added = supply.mistings.get(clock, 0.0)
        if not added:
            return 0.0
        self.film_kg += MISTING_SHARE * added * (1 - AT_ONCE)
        self.film_m2 = min(self.film_kg / FILM_KG_M2, supply.wettable_m2)
        if supply.ground_full:
            self.ground_kg = min(self.ground_kg + (1 - MISTING_SHARE) * added, supply.ground_full)
        at_once = MISTING_SHARE * added * AT_ONCE
        self.given += added
        self.evaporated += at_once
        return at_once / supply.holds

    def _latent(self, flows: list[tuple[int, float, float]], mean_pa: float, heat: list[float]) -> float:
        """Take the latent heat of what leaves each node; return kg/s of it all."""
        total = 0.0
        for index, rate, at in flows:
            flow = rate * (at - mean_pa)
            kept = self._kept(rate * at * STEEPNESS, self.terms.capacity[index]) if self.careful else 1.0
            heat[index] -= LATENT_HEAT * flow * kept
            total += flow
        return total

    def _latent_of_film(self, rate: float, at_pa: float, mean_pa: float, heat: list[float]) -> float:
        """The same of the film, from all walls alike."""
        flow = rate * (at_pa - mean_pa)
        if flow:
            begin, stop = self.terms.surface.seen
            each = LATENT_HEAT * flow / (stop - begin)
            if self.careful:
                each *= self._kept(rate * at_pa * STEEPNESS, self.terms.surface.seen_heat_capacity)
            for node in range(begin, stop):
                heat[node] -= each
        return flow
