"""The water of one run through a day: vapour, what lies on walls, in the ground and in dry bedding.

The vapour pressure follows its own linear balance over the minutes that things are held, exactly:
`C de/dt = carried (e_room − e) + Σ r (e_at − e) + given`. What is misted lies as a film that shrinks as it dries; what
condenses stays on its wall and evaporates from there; dry bedding takes up and gives off vapour by its own humidity. Plain floats.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from husbandry.climate.air import MAGNUS_A, MAGNUS_B_C, MAGNUS_PA
from husbandry.climate.ground import KEPT_DRY_M, evaporating_share
from husbandry.climate.humidity import LATENT_HEAT, MISTING_SHARE, saturation
from husbandry.climate.terms import AT_ONCE, FILM_KG_M2, Terms

STEEPNESS: Final = LATENT_HEAT * MAGNUS_A * MAGNUS_B_C / (MAGNUS_B_C + 20.0) ** 2  # W/K of evaporation per kg/s, near 20 °C

Source = tuple[int, float, float]  # a node, kg/s per Pa, and the vapour pressure in Pa that it gives to


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


@dataclass(frozen=True)
class Airing:
    """Air changes of one look: 1/h at the present vapour pressure, how they grow with it (1/h per Pa), the room's vapour (Pa)."""

    changes_h: float
    more_h_pa: float
    room_pa: float


def first_water(terms: Terms, pressure_pa: float, node_c: Sequence[float]) -> Moist:
    """The water of a day that begins in steady state: nothing on the walls, damp ground full, bedding as humid as the air at its
    own temperature.
    """
    humid = tuple(min(pressure_pa / saturation(node_c[node]), 1.0) for node, _rate, _kg in terms.wet.bed)
    return Moist(pressure_pa, (0.0,) * len(terms.wet.skins), humid, WaterBooks(ground=terms.supply.ground_full))


def _dew_point(vapour_pa: float) -> float:
    """Dew point in °C; the same as `air.dew_point` for one number."""
    ratio = math.log(max(vapour_pa, 1e-6) / MAGNUS_PA)
    return MAGNUS_B_C * ratio / (MAGNUS_A - ratio)


class RunningWater:
    """What a step changes of the water. After `step`, `segment` says how the pressure goes on: now, towards, rate in 1/s, whether
    any water condenses.
    """

    def __init__(self, terms: Terms, moist: Moist) -> None:
        self.wet, self.supply, self.seen = terms.wet, terms.supply, terms.surface.seen
        books = moist.water
        self.pressure, self.dew_kg, self.bed_humidity = moist.pressure_pa, list(moist.dew_kg), list(moist.bed_humidity)
        self.film_kg, self.ground_kg = books.film - sum(moist.dew_kg), books.ground
        self.given, self.evaporated, self.condensed, self.carried = books.given, books.evaporated, books.condensed, books.carried
        self.segment = (0.0, 0.0, 0.0, False)
        self.walls: list[int] = []

    def end(self) -> Moist:
        """Return the water as it stands."""
        film = self.film_kg + sum(self.dew_kg)
        books = WaterBooks(self.given, self.evaporated, self.condensed, self.carried, self.ground_kg, film)
        return Moist(self.pressure, tuple(self.dew_kg), tuple(self.bed_humidity), books)

    def step(self, t: list[float], airing: Airing, clock: int, seconds: float) -> list[Source]:
        """Step the vapour pressure through the time that is held, exactly.

        `t` are the nodes (°C) in its middle, `clock` the minute of the day. Returns by node what leaves it in kg/s, and by how many
        watts that grows with each kelvin.
        """
        supply, at_pa, room_pa = self.supply, self.pressure, airing.room_pa
        given, usual = supply.given[clock // 10], supply.per_change * airing.changes_h
        # Linear about the present pressure: usual (e − e_room) + further (e − e_now).
        further = max(supply.per_change * airing.more_h_pa * (at_pa - room_pa), -usual / 2)
        now = at_pa + self._mist(clock)
        soil, bed, others = self.soil(t), self.bed(t, seconds), self.others(t, now)
        film, skins = self._film(t, now, seconds), self._skins(t, now, seconds)
        gain, lost = usual * room_pa + further * at_pa + given, usual + further
        for _node, rate, at in (*soil, *bed, *others, *film, *skins):
            gain, lost = gain + rate * at, lost + rate
        towards, pace = gain / lost, lost / supply.holds
        gone = math.exp(-pace * seconds)
        mean = towards + (now - towards) * (1 - gone) / (pace * seconds)
        self.segment = (now, towards, pace, any(at < now for _node, _rate, at in skins))
        self.pressure = towards + (now - towards) * gone
        self.carried += (usual * (mean - room_pa) + further * (mean - at_pa)) * seconds
        self.given += given * seconds
        return self._moved((soil, bed, others, film, skins), mean, seconds)

    def _moved(self, sources: tuple[list[Source], ...], mean: float, seconds: float) -> list[Source]:
        """Book what each source gave at a mean vapour pressure."""
        found: list[Source] = []
        given = []
        for part in sources:
            flows = [rate * (at - mean) for _node, rate, at in part]
            found += [(node, flow, rate * at * STEEPNESS) for (node, rate, at), flow in zip(part, flows, strict=True)]
            given.append(flows)
        soil, bed, _others, film, skins = given
        taken = 0.0
        for wall, flow in zip(self.walls, skins, strict=True):
            taken += max(-flow, 0.0)
            lies = self.dew_kg[wall] - flow * seconds
            self.dew_kg[wall] = min(max(lies, 0.0), self.wet.skins[wall][3])  # more runs down
        self.condensed += taken * seconds
        if film:
            self.film_kg = max(self.film_kg - seconds * sum(film), 0.0)
        if soil and self.supply.ground_full:
            self.ground_kg = max(self.ground_kg - seconds * sum(soil), 0.0)
        for zone, flow in enumerate(bed):
            humid = self.bed_humidity[zone] - flow * seconds / self.wet.bed[zone][2]
            self.bed_humidity[zone] = min(max(humid, 0.0), 1.0)
        self.evaporated += seconds * (sum(map(sum, given)) + taken)
        return found

    def soil(self, t: list[float]) -> list[Source]:
        """What evaporates from damp ground through the dry layer on top: it grows by what has gone, shrinks by what is added."""
        full = self.supply.ground_full
        gone_m = (1 - self.ground_kg / full) * self.supply.ground_m if full else 0.0
        share = evaporating_share(KEPT_DRY_M + gone_m) / evaporating_share(KEPT_DRY_M) if self.ground_kg or not full else 0.0
        return [(node, rate * share, saturation(t[node])) for node, rate in self.wet.soil]

    def bed(self, t: list[float], seconds: float) -> list[Source]:
        """What dry bedding gives off, or takes up, by its own humidity: the mean of so many seconds in which it nears the air's."""
        found = []
        for (node, rate, kg), humid in zip(self.wet.bed, self.bed_humidity, strict=True):
            at = saturation(t[node])
            part = 1 - math.exp(-rate * at * seconds / kg)
            found.append((node, kg * part / (seconds * at), humid * at))
        return found

    def others(self, t: list[float], now_pa: float) -> list[Source]:
        """The same from every other wet surface and the bowl, which lies a third of the way from the air to its dew point."""
        wet = self.wet
        found = [(node, rate, saturation(t[node])) for node, rate in wet.others]
        if wet.bowl:
            air = sum(part * t[node] for node, part in wet.bowl_air)
            at_bowl = saturation(air - (air - _dew_point(now_pa)) / 3)
            found += [(node, part * wet.bowl, at_bowl) for node, part in wet.bowl_air]
        return found

    def _film(self, t: list[float], now_pa: float, seconds: float) -> list[Source]:
        """A misting's film on all that it met: it shrinks as it dries, and no more than lies there can evaporate."""
        begin, stop = self.seen
        at = saturation(sum(t[begin:stop]) / (stop - begin))
        if self.film_kg <= 0 or at <= now_pa:
            return []
        wetted_m2 = min(self.film_kg / FILM_KG_M2, self.supply.wettable_m2)
        rate = min(self.wet.film_per_m2 * wetted_m2, self.film_kg / (seconds * (at - now_pa)))
        return [(node, rate / (stop - begin), at) for node in range(begin, stop)]

    def _skins(self, t: list[float], now_pa: float, seconds: float) -> list[Source]:
        """The walls: water condenses on those below the dew point, and what lies on others dries off; `walls` says which."""
        wet, found, dew_c = self.wet, [], _dew_point(now_pa)
        self.walls = []
        for wall, (air_node, node, rate, full_kg) in enumerate(wet.skins):
            skin_c, dew_kg = t[node] + wet.skin_share * (t[air_node] - t[node]), self.dew_kg[wall]
            if skin_c >= dew_c and not dew_kg:
                continue
            at = saturation(skin_c)
            if now_pa < at:
                rate = min(rate * min(dew_kg / full_kg, 1.0), dew_kg / (seconds * (at - now_pa)))
            self.walls.append(wall)
            found.append((node, rate, at))
        return found

    def _mist(self, clock: int) -> float:
        """Give what is misted at this minute; return by how much it raises the vapour pressure at once."""
        supply = self.supply
        added = supply.mistings.get(clock, 0.0)
        if not added:
            return 0.0
        self.film_kg += MISTING_SHARE * added * (1 - AT_ONCE)
        if supply.ground_full:
            self.ground_kg = min(self.ground_kg + (1 - MISTING_SHARE) * added, supply.ground_full)
        at_once = MISTING_SHARE * added * AT_ONCE
        self.given += added
        self.evaporated += at_once
        return at_once / supply.holds
