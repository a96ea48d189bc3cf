"""What is not linear in a day: air changes by buoyancy, the basking surface's own losses, and the water.

They are evaluated at one instant and held for a few minutes. Plain floats: the arrays are too small for NumPy.
"""

import math
import operator
from typing import Final

from husbandry.climate.air import KELVIN, MAGNUS_A, MAGNUS_B_C
from husbandry.climate.basking import AIR_CONDUCTIVITY, COLD, EMITTANCE, LAMINAR, STEFAN_BOLTZMANN, STILL_AIR, TURBULENT
from husbandry.climate.day_water import Airing, Moist, RunningWater
from husbandry.climate.humidity import LATENT_HEAT, saturation
from husbandry.climate.openings import VIRTUAL_K_PA
from husbandry.climate.terms import Linear, Terms
from husbandry.errors import HusbandryError

SWING_K: Final = 0.2  # a correction that moves its node by so much, and back by as much, swings
BACK: Final = 0.5  # of what it moved before, in the other direction
MOST_SWINGS: Final = 2  # one after another: a hand's turn of things may look like one
STIFF: Final = 0.5  # of a node's heat that a change of its losses may move while it is held, where care is taken


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
        self.water = RunningWater(terms, moist)
        self.last: list[float] = []
        self.dry: list[float] = []
        self.held = 1
        self.room_pa = moist.pressure_pa
        self.change = 0.0
        self.moves: list[float] = []
        self.swings = 0

    @property
    def segment(self) -> tuple[float, float, float, bool]:
        return self.water.segment

    def switched(self) -> None:
        """Something was switched: that a correction turns round is no sign of anything."""
        self.moves, self.swings = [], 0

    def end(self) -> Moist:
        """Return the water as it stands."""
        return self.water.end()

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
        for node, rate, at in (*self.water.soil(t), *self.water.bed(t, 60.0), *self.water.others(t, self.water.pressure)):
            latent[node] += LATENT_HEAT * rate * at * MAGNUS_A * MAGNUS_B_C / (MAGNUS_B_C + t[node]) ** 2
        # Buoyancy: what air changes carry off goes with the rise to the power of one and a half.
        return Linear(1.5 * self._changes(t, room_c), 1.25 * h_conv, h_rad, tuple(latent))

    def _rise(self, t: list[float], room_c: float) -> float:
        """By how much the air inside is the lighter, in K of virtual temperature."""
        count = self.terms.air.count
        return sum(t[:count]) / count - room_c + VIRTUAL_K_PA * (self.water.pressure - self.room_pa)

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
        more = changes - terms.linear_h
        if self.careful:
            more *= self._kept(more * max(terms.conductance), terms.heat_capacity)
        each = zip(heat[:count], terms.conductance, t[:count], strict=True)
        heat[:count] = [was + more * conductance * (room_c - air) for was, conductance, air in each]

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
        """Step the water through the time that is held; take latent heat where it evaporates, and give it where it condenses."""
        air, rise = self.terms.air, self._rise(t, room_c)
        slope = air.factor * VIRTUAL_K_PA * air.exchange.slope_at_one(rise)
        airing = Airing(air.factor * air.exchange.at_one(rise), slope, self.room_pa)
        left = self.water.step(t, airing, clock, 60.0 * self.held)
        if not self.careful:
            for node, flow, _steep in left:
                heat[node] -= LATENT_HEAT * flow
            return
        for node, flow, steep in left:
            heat[node] -= LATENT_HEAT * flow * self._kept(steep, self.terms.capacity[node])
