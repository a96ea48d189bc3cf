"""What is not linear in a day: draught by √ΔT, the basking surface's own losses, and the water.

Evaluated at one moment and held for a few minutes. The vapour pressure follows its own linear balance over that time:
`C de/dt = carried (e_room − e) + Σ r (e_s(T) − e) + given`, exactly. Plain floats: the arrays are too small for NumPy.
"""

import math
import operator
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import ground, humidity, walls
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

Floats = NDArray[np.float64]

STIFF: Final = 0.5  # of a node's heat that a change of its losses may move while it is held, where care is taken
STEEPNESS: Final = LATENT_HEAT * MAGNUS_A * MAGNUS_B_C / (MAGNUS_B_C + 20.0) ** 2  # W/K of evaporation per kg/s, near 20 °C
AT_ONCE: Final = 0.15  # of what evaporates of a misting, the share that stays in the air as it falls (estimate)
FILM_KG_M2: Final = 0.05  # water that stays on a misted surface (estimate)
FILM_SHARE: Final = 0.6  # of walls and floor that a misting can wet (estimate)
BUFFER: Final = 3.0  # wood, leaves and ground take up and give off vapour: over the air's own (estimate)
DAMP_WATER: Final = 100.0  # kg per m³ of damp ground that can dry out (estimate: a tenth of its volume)
DRY_BELOW: Final = 0.5  # of that, below which the soil limits what evaporates


def saturation(celsius: float) -> float:
    """Saturation vapour pressure in Pa; the same as `air.saturation_pressure` for one number."""
    return MAGNUS_PA * math.exp(MAGNUS_A * celsius / (celsius + MAGNUS_B_C))


@dataclass(frozen=True)
class Water:
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

    def since(self, before: "Water") -> "Water":
        """What moved after `before`; what lies in ground and film stays as it is."""
        return Water(
            self.given - before.given,
            self.evaporated - before.evaporated,
            self.condensed - before.condensed,
            self.carried - before.carried,
            self.ground,
            self.film,
            before.ground - self.ground,
        )


def ground_holds(case: EnclosureCase) -> float:
    """The water in kg that damp ground can give up until it is dry; none where it is kept dry."""
    return DAMP_WATER * case.length_m * case.width_m * case.ground_depth_m if ground.WET_SHARE[case.ground_damp] else 0.0


@dataclass(frozen=True)
class Moist:
    """The water at one moment: vapour pressure, kg on surfaces and their area, and the books."""

    pressure_pa: float
    film_m2: float
    water: Water


class Residual:
    """The corrections of one enclosure in one season, against the linear system's own coefficients; steps its own water.

    Where a plan is so wild that what is held would overshoot, `careful` holds less of it: slower to step, and never far off.
    After `look`: `segment` says how the vapour pressure goes on (now, towards, rate in 1/s, whether water condenses), and
    `change` by how many K the corrections have moved any node since the last look.
    """

    def __init__(
        self,
        case: EnclosureCase,
        net: Network,
        room: RoomState,
        factors: tuple[float, float],
        linear: tuple[float, float, float],
        conductance: Floats,
    ) -> None:
        nodes = net.nodes
        air_changes, wetness = factors
        self.count, self.air_count, self.spot_at = nodes.count, nodes.air_count, nodes.spot
        self.area, self.share = net.spot.area_m2, net.spot.seen_share
        self.spot_air = [(node, float(share)) for node, share in enumerate(net.spot.air) if share]
        self.seen_from, self.seen_to = net.spot.seen.start, net.spot.seen.stop
        self.vent = float(net.vent[0])  # the same in every air node
        self.usual = walls.air_changes(case) * air_changes
        # Air changes (1/h), film and radiation (W/m²K) that the linear system has; each node's conductance in W/K.
        self.linear_h, self.film, self.radiation = linear
        self.softness = (1 / conductance).tolist()
        self.humid = room.humidity_percent / 100
        room_pa = self.humid * saturation((room.day_c + room.night_c) / 2)
        wet = wetting(case.shell)
        exchange = wet.exchange * PER_PASCAL * wetness
        top = nodes.ground_top
        self.soil_rates = [(index, float(exchange[index])) for index in range(top.start, top.stop) if exchange[index]]
        self.wet_rates = [(index, float(rate)) for index, rate in enumerate(exchange) if rate and not top.start <= index < top.stop]
        self.bowl = wet.bowl * PER_PASCAL * wetness
        self.bowl_air = [(node, float(share)) for node, share in enumerate(wet.bowl_air) if share]
        self.skin_share, first = wet.skin_share, nodes.walls.start
        self.skins = [(index - first, index, float(rate) * PER_PASCAL) for index, rate in enumerate(wet.skins) if rate]
        self.per_change = AIR_DENSITY * case.volume_m3 / 3600 * VAPOUR_RATIO / (PRESSURE_PA - room_pa)
        self.holds = case.volume_m3 * PER_PASCAL * BUFFER
        self.plate = case.spot.side_m / 4
        self.heat, self.held, self.careful = net.capacity.tolist(), 1, False
        self.spot_heat, self.air_heat = self.heat[nodes.spot], self.heat[0]
        self.seen_heat = float(net.capacity[net.spot.seen].sum())
        self.rayleigh = rayleigh_per_kelvin(0.0, self.plate) * KELVIN  # over the absolute mean temperature
        self.inner_m2 = 2 * (case.length_m + case.width_m) * case.height_m + case.length_m * case.width_m
        self.ground_full = ground_holds(case)
        steady = MISTING_SHARE * case.misting_kg_per_day / humidity.DAY_S
        fogged = steady + case.fogger_kg_per_h / 3600
        self.given = [fogged if case.is_day((minute + 0.5) / 60) else steady for minute in range(0, 1440, 10)]
        self.mistings = {round(item.hour * 60) % 1440: item.kg for item in case.mistings}
        self.film_per_m2 = humidity.MASS_TRANSFER * PER_PASCAL * wetness
        self.segment = (0.0, 0.0, 0.0, False)
        self.change = 0.0

    def first(self, pressure_pa: float) -> Moist:
        """The water of a day that begins settled: nothing on the walls, damp ground full."""
        return Moist(pressure_pa, 0.0, Water(ground=self.ground_full))

    def begin(self, moist: Moist) -> None:
        """Take up the water where it stands."""
        self.pressure, self.film_m2 = moist.pressure_pa, moist.film_m2
        water = moist.water
        self.film_kg, self.ground_kg = water.film, water.ground
        self.total, self.evaporated, self.condensed, self.carried = water.given, water.evaporated, water.condensed, water.carried
        self.last: list[float] = []

    def end(self) -> Moist:
        """Return the water as it stands."""
        books = Water(self.total, self.evaporated, self.condensed, self.carried, self.ground_kg, self.film_kg)
        return Moist(self.pressure, self.film_m2, books)

    def look(self, t: list[float], room_c: float, halfway_c: float, clock: int, minutes: int) -> list[float]:
        """Return the heat in W at each node to hold for `minutes` from the minute `clock` of the day; step the water.

        `t` are the nodes and `room_c` the room in °C now, `halfway_c` the room in the middle of that time.
        """
        heat = [0.0] * self.count
        self.held = minutes
        changes = self._draught(t, room_c, heat)
        self._surface(t, room_c, heat)
        self.dry = heat.copy()
        self._water(t, halfway_c, changes, clock, minutes, heat)
        moved = map(operator.mul, map(abs, map(operator.sub, heat, self.last)), self.softness)
        self.change = max(moved, default=math.inf)
        self.last = heat
        return heat

    def again(self, t: list[float], room_c: float) -> list[float]:
        """Return the last look's heat with draught and surface as they are at other temperatures of the nodes."""
        dry = [0.0] * self.count
        self._draught(t, room_c, dry)
        self._surface(t, room_c, dry)
        return [whole - then + now for whole, then, now in zip(self.last, self.dry, dry, strict=True)]

    def _draught(self, t: list[float], room_c: float, heat: list[float]) -> float:
        count = self.air_count
        rise = sum(t[:count]) / count - room_c
        changes = self.usual * max(math.sqrt(abs(rise) / walls.REFERENCE_RISE_K), walls.LEAST_AIR_CHANGE_SHARE)
        more = self.vent * (changes - self.linear_h)
        if self.careful:
            more *= self._kept(more, self.air_heat)
        heat[:count] = [more * (room_c - air) for air in t[:count]]
        return changes

    def _kept(self, conductance: float, heat: float) -> float:
        """How much of a further conductance (W/K) may be held for the time, lest it overshoot its node (J/K): as at its end."""
        reach = conductance * 60.0 * self.held / heat
        return 1 / (1 + reach) if reach > STIFF else 1.0

    def _surface(self, t: list[float], room_c: float, heat: list[float]) -> None:
        at, surface, air = self.spot_at, t[self.spot_at], 0.0
        for node, part in self.spot_air:
            air += part * t[node]
        seen = t[self.seen_from : self.seen_to]
        mean = sum(seen) / len(seen)
        # Radiation to the walls and, through openings, to the room: each linear part is what the network already has.
        hot, cold = surface + KELVIN, room_c + self.share * (mean - room_c) + KELVIN
        given = self.area * (EMITTANCE * STEFAN_BOLTZMANN * (hot * hot + cold * cold) * (hot + cold) - self.radiation)
        rayleigh = self.rayleigh / ((surface + air) / 2 + KELVIN) * max(abs(surface - air), 1e-3)
        nusselt = LAMINAR * math.sqrt(math.sqrt(rayleigh)) if rayleigh < TURBULENT else 0.15 * rayleigh ** (1 / 3)
        film = max(nusselt * AIR_CONDUCTIVITY / self.plate, STILL_AIR)
        more = self.area * (film - self.film)
        if self.careful:
            kept = self._kept(given + more, self.spot_heat)
            given, more = given * kept, more * kept
        each = given * self.share / len(seen)
        to_room = given * (1 - self.share) * (surface - room_c)
        to_air = more * (surface - air)
        heat[at] -= given * self.share * (surface - mean) + to_room + to_air
        for node, part in self.spot_air:
            heat[node] += more * part * (surface - t[node])
        for node, wall in enumerate(seen, self.seen_from):
            heat[node] += each * (surface - wall)

    def _water(self, t: list[float], halfway_c: float, changes: float, clock: int, minutes: int, heat: list[float]) -> None:
        now, seconds = self.pressure, 60.0 * minutes
        carried = self.per_change * changes
        room_pa = self.humid * saturation(halfway_c)
        given = self.given[clock // 10]
        now += self._mist(clock)
        soil = min(self.ground_kg / (DRY_BELOW * self.ground_full), 1.0) if self.ground_full else 1.0
        sources = [(index, rate * soil, saturation(t[index])) for index, rate in self.soil_rates]
        others = [(index, rate, saturation(t[index])) for index, rate in self.wet_rates]
        if self.bowl:
            air = sum(part * t[node] for node, part in self.bowl_air)
            ratio = math.log(max(now, 1e-6) / MAGNUS_PA)
            dew = MAGNUS_B_C * ratio / (MAGNUS_A - ratio)
            at_bowl = saturation(air - (air - dew) / 3)
            others += [(node, part * self.bowl, at_bowl) for node, part in self.bowl_air]
        gain, lost = carried * room_pa + given, carried
        for _index, rate, at in sources:
            gain, lost = gain + rate * at, lost + rate
        for _index, rate, at in others:
            gain, lost = gain + rate * at, lost + rate
        film_rate = film_at = 0.0
        if self.film_kg > 0:
            film_at = saturation(sum(t[self.seen_from : self.seen_to]) / (self.seen_to - self.seen_from))
            # What lies there is all that can evaporate.
            film_rate = min(self.film_per_m2 * self.film_m2, self.film_kg / (seconds * max(film_at - now, 1.0)))
            gain, lost = gain + film_rate * film_at, lost + film_rate
        taking = []
        for air_node, wall, rate in self.skins:
            at = saturation(t[wall] + self.skin_share * (t[air_node] - t[wall]))
            if now > at:
                gain, lost = gain + rate * at, lost + rate
                taking.append((wall, rate, at))
        towards, pace = gain / lost, lost / self.holds
        gone = math.exp(-pace * seconds)
        mean = towards + (now - towards) * (1 - gone) / (pace * seconds)
        self.segment = (now, towards, pace, bool(taking))
        self.pressure = towards + (now - towards) * gone
        from_ground = self._latent(sources, mean, heat)
        elsewhere = self._latent(others, mean, heat)
        from_film = film_rate * (film_at - mean)
        if from_film:
            each = LATENT_HEAT * from_film / (self.seen_to - self.seen_from)
            if self.careful:
                each *= self._kept(film_rate * film_at * STEEPNESS, self.seen_heat)
            for node in range(self.seen_from, self.seen_to):
                heat[node] -= each
        condensed = -self._latent(taking, mean, heat)
        self.film_kg = max(self.film_kg - from_film * seconds, 0.0)
        if self.ground_full:
            self.ground_kg = max(self.ground_kg - from_ground * seconds, 0.0)
        self.total += given * seconds
        self.evaporated += (from_ground + elsewhere + from_film) * seconds
        self.condensed += condensed * seconds
        self.carried += carried * (mean - room_pa) * seconds

    def _mist(self, clock: int) -> float:
        """Give what is misted at this minute; return by how much it raises the vapour pressure at once."""
        added = self.mistings.get(clock, 0.0)
        if not added:
            return 0.0
        self.total += added
        self.film_kg += MISTING_SHARE * added * (1 - AT_ONCE)
        self.film_m2 = min(self.film_kg / FILM_KG_M2, FILM_SHARE * self.inner_m2)
        if self.ground_full:
            self.ground_kg = min(self.ground_kg + (1 - MISTING_SHARE) * added, self.ground_full)
        self.evaporated += MISTING_SHARE * added * AT_ONCE
        return MISTING_SHARE * added * AT_ONCE / self.holds

    def _latent(self, flows: list[tuple[int, float, float]], mean_pa: float, heat: list[float]) -> float:
        """Take the latent heat of what leaves each node; return kg/s of it all."""
        total = 0.0
        for index, rate, at in flows:
            flow = rate * (at - mean_pa)
            heat[index] -= LATENT_HEAT * flow * (self._kept(rate * at * STEEPNESS, self.heat[index]) if self.careful else 1.0)
            total += flow
        return total
