"""The settled temperatures by day and by night, summer and winter, with their spread.

Thermostats hold the probe at the set point where their heater can: settled, an on/off and a dimming thermostat have the
same mean duty, which is what is found here. The spread is one standard deviation of each uncertain parameter, both ways,
added in quadrature, times 1.28: the 10–90 % range of a nearly linear model.
"""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import basking, heaters, humidity, walls, zones
from husbandry.climate.air import relative_humidity
from husbandry.climate.case import EnclosureCase, running

Floats = NDArray[np.float64]

# One standard deviation of each parameter (SCIENCE: estimates).
SIGMA: Final = {"radiant": 0.15, "losses": 0.15, "air_changes": 0.69, "mixing": 0.25, "room_k": 1.0, "probe_k": 1.0}
DECILE: Final = 1.2816
VENT_STEPS: Final = 3
TURNS: Final = 20  # at most, of thermostats that disturb one another; Newton steps, so four are usual
AGREED: Final = 0.003
SWEEPS: Final = 6


@dataclass(frozen=True)
class Spread:
    """A value with its 10–90 % range."""

    value: float
    low: float
    high: float


@dataclass(frozen=True)
class Settled:
    """One season and moment: predictions by name, mean duty of each heater (0–1), electrical watts, zone temperatures.

    `unbound_vapour_pa`: without condensation. `vapour_per_gram`: Pa that one more gram misted a day would add.
    """

    season: str
    moment: str
    predictions: dict[str, Spread]
    duty: tuple[float, ...]
    watts: float
    air_c: tuple[tuple[float, ...], ...]
    ground_c: tuple[float, ...]
    vapour_pa: float
    unbound_vapour_pa: float
    vapour_per_gram: float
    air_changes_h: float
    surface_sum: basking.SurfaceSum


@dataclass(frozen=True)
class Climate:
    """The settled states by season and moment."""

    settled: dict[tuple[str, str], Settled]


def _variations() -> dict[str, Floats]:
    """One unvaried set, then each parameter up and down; shape (13,) each."""
    count = 1 + 2 * len(SIGMA)
    columns = {name: np.zeros(count) if name.endswith("_k") else np.ones(count) for name in SIGMA}
    for index, (name, sigma) in enumerate(SIGMA.items()):
        up, down = 1 + 2 * index, 2 + 2 * index
        if name.endswith("_k"):
            columns[name][up], columns[name][down] = sigma, -sigma
        elif name == "air_changes":
            columns[name][up], columns[name][down] = np.exp(sigma), np.exp(-sigma)
        else:
            columns[name][up], columns[name][down] = 1 + sigma, 1 - sigma
    return columns


def nominal() -> zones.Variation:
    """The one unvaried set of parameters."""
    return zones.Variation(**{name: column[:1] for name, column in _variations().items()})


@dataclass(frozen=True)
class SpotModel:
    """The basking surface's inputs: irradiance per electrical watt (B, heaters), plate, perch, and the walls it sees."""

    per_watt: Floats
    side_m: float
    perch: str
    zone: int
    wall_share: float
    wall_kept: float

    def temperature(self, irradiance: Floats, places: Floats, room_c: Floats, near_c: Floats | None = None) -> Floats:
        """°C, shape (B,): irradiance in W/m², `places` as `places()` picks them (B, 3), room, and a near guess."""
        air_c, mean_air_c, ground_c = places[:, 0], places[:, 1], places[:, 2]
        surroundings = room_c + self.enclosed * (mean_air_c - room_c)
        return basking.surface_temperature(irradiance, air_c, surroundings, ground_c, self.side_m, self.perch, near_c)

    def sum_at(self, irradiance: float, surface_c: float, places: Floats, room_c: float) -> basking.SurfaceSum:
        """The balance at one known state: irradiance in W/m², the three places and the room in °C."""
        air_c, mean_air_c, ground_c = (float(place) for place in places)
        seen_c = room_c + self.enclosed * (mean_air_c - room_c)
        return basking.surface_sum(irradiance, surface_c, air_c, seen_c, ground_c, self.side_m, self.perch)

    @property
    def enclosed(self) -> float:
        """How far what the surface sees is the enclosure's own warmth (1) and not the room's (0)."""
        return self.wall_share * self.wall_kept

    def places(self, levels: int) -> Floats:
        """Rows that pick air at the spot, mean air and ground at the spot out of the nodes, shape (3, nodes)."""
        count_air = zones.ZONES * levels
        rows = np.zeros((3, count_air + zones.ZONES))
        rows[0, self.zone] = 1.0
        rows[1, :count_air] = 1 / count_air
        rows[2, count_air + self.zone % zones.ZONES] = 1.0
        return rows


def spot_model(case: EnclosureCase, radiant: Floats) -> SpotModel:
    """Describe the basking surface; `radiant` (B,) are the factors on the radiant share."""
    spot = case.spot
    columns = []
    for heater in case.heaters:
        kind = heaters.HEATERS[heater.kind]
        drop = max(heater.height_m - spot.top_m, 0.01)
        one = heaters.irradiance(1.0, heater.half_angle_deg, kind.face_m, spot.x_m - heater.x_m, 0.0, drop)
        share = np.minimum(kind.radiant_share * radiant, 0.9)
        columns.append(share * zones.passed_share(case, heater) * float(one))
    per_watt = np.stack(columns, axis=1) if columns else np.zeros((radiant.size, 0))
    along = min(int(spot.x_m / case.length_m * zones.ZONES), zones.ZONES - 1)
    level = min(int(spot.top_m / case.height_m * case.levels), case.levels - 1)
    sides = 2 * (case.length_m + case.width_m) * case.height_m
    lid = case.length_m * case.width_m
    openness = (case.mesh_open_share if case.lid == "mesh" else 1.0 if case.lid == "open" else 0.0) * lid
    openness += case.mesh_open_share * sides if case.kind == "mesh" else 0.0
    wall_share = 1 - openness / (sides + lid)
    kept = 1 - walls.wall_u(case.kind) * walls.R_SIDEWAYS
    return SpotModel(per_watt, spot.side_m, spot.perch, level * zones.ZONES + along, wall_share, kept)


def settle(case: EnclosureCase, *, spread: bool = True, seasons: tuple[str, ...] = ("summer", "winter")) -> Climate:
    """Solve the settled states of `case`, day and night of each season; without `spread` low and high equal the value."""
    columns = _variations()
    if not spread:
        columns = {name: column[:1] for name, column in columns.items()}
    varied = columns["losses"].size
    states = [(season, moment) for season in seasons for moment in ("day", "night")]
    vary = zones.Variation(**{name: np.tile(column, len(states)) for name, column in columns.items()})
    room_base, room_humidity, lit, set_points = [], [], [], []
    for season, moment in states:
        room = case.rooms[season]
        room_base.append(room.day_c if moment == "day" else room.night_c)
        room_humidity.append(room.humidity_percent)
        hour = case.middle_of_day if moment == "day" else (case.middle_of_day + 12.0) % 24.0
        lit.append([running(heater.on_hour, heater.off_hour, hour) for heater in case.heaters])
        set_points.append([heater.set_point(day=moment == "day") for heater in case.heaters])
    room_c = np.repeat(np.array(room_base), varied) + vary.room_k
    on = np.repeat(np.array(lit, dtype=float).reshape(len(states), len(case.heaters)), varied, axis=0)
    wanted = np.repeat(np.array(set_points).reshape(on.shape[0] // varied, -1), varied, axis=0) + vary.probe_k[:, None]
    watts = np.array([heater.watts for heater in case.heaters])

    network = zones.build(case, vary)
    spot = spot_model(case, vary.radiant)
    warm, cool = zones.end_weights(case, warm_side_x(case))
    at_spot = spot.places(case.levels)
    irradiance = spot.per_watt * watts
    air_changes = walls.air_changes(case.kind, case.lid) * vary.air_changes
    current, duty = air_changes.copy(), on
    for _ in range(VENT_STEPS):
        base, per_watt = zones.responses(network, room_c, current)
        rise = per_watt * watts
        thermostats = Thermostats(case, spot, irradiance, room_c, wanted, _probe_rows(at_spot, warm, cool))
        duty = thermostats.duties(base, rise, on, duty)
        nodes = base + (rise @ duty[:, :, None])[:, :, 0]
        above = np.abs(nodes[:, network.air].mean(axis=1) - room_c)
        current = air_changes * np.maximum(np.sqrt(above / walls.REFERENCE_RISE_K), walls.LEAST_AIR_CHANGE_SHARE)
    air, ground = nodes[:, network.air], nodes[:, network.ground]
    falling = (irradiance * duty).sum(axis=1)
    at_places = nodes @ at_spot.T
    surface = spot.temperature(falling, at_places, room_c)
    room_rh = np.repeat(np.array(room_humidity), varied)
    vapour, unbound, vapour_per_gram = humidity.vapour_pressure(case, air, ground, room_c, room_rh, current)
    predicted = {
        "basking_surface": surface,
        "warm_air": air @ warm,
        "cool_air": air @ cool,
        "hottest_air": air.max(axis=1),
        "warm_humidity": np.minimum(relative_humidity(vapour, air @ warm), 100.0),
        "cool_humidity": np.minimum(relative_humidity(vapour, air @ cool), 100.0),
    }
    if case.humid_hide:
        predicted["humid_hide"] = humidity.humid_hide(vapour, air @ (0.5 * warm + 0.5 * cool))
    spreads = _spreads(np.stack(list(predicted.values())).reshape(len(predicted), len(states), varied))
    settled = {}
    for index, (season, moment) in enumerate(states):
        first = index * varied
        settled[season, moment] = Settled(
            season,
            moment,
            {name: Spread(*numbers[index]) for name, numbers in zip(predicted, spreads, strict=True)},
            tuple(float(share) for share in duty[first]),
            float((duty[first] * watts).sum()),
            tuple(tuple(float(t) for t in row) for row in air[first].reshape(case.levels, zones.ZONES)),
            tuple(float(t) for t in ground[first]),
            float(vapour[first]),
            float(unbound[first]),
            float(vapour_per_gram[first]),
            float(current[first]),
            spot.sum_at(float(falling[first]), float(surface[first]), at_places[first], float(room_c[first])),
        )
    return Climate(settled)


def warm_side_x(case: EnclosureCase) -> float:
    """Where the warm end is: under the heaters by their watts, or at the basking spot when there are none."""
    total = sum(heater.watts for heater in case.heaters)
    if total == 0:
        return case.spot.x_m
    return sum(heater.watts * heater.x_m for heater in case.heaters) / total


def _probe_rows(at_spot: Floats, warm: Floats, cool: Floats) -> Floats:
    """The places a thermostat's reading depends on: at the spot (3 rows), warm-end air, cool-end air; shape (5, nodes)."""
    ends = np.zeros((2, at_spot.shape[1]))
    ends[0, : warm.size], ends[1, : cool.size] = warm, cool
    return np.vstack([at_spot, ends])


@dataclass(frozen=True)
class Thermostats:
    """Finds the duties at which every probe reads what is `wanted` (B, heaters) of it, or the heater's limit."""

    case: EnclosureCase
    spot: SpotModel
    irradiance: Floats
    room_c: Floats
    wanted: Floats
    rows: Floats

    def duties(self, base: Floats, rise: Floats, on: Floats, first: Floats) -> Floats:
        """Return mean duties (B, heaters) for temperatures `base + rise · duty`; heaters act in turn until they agree.

        `first` is where they begin: the last round's answer saves turns.
        """
        duty = first.copy()
        held = [index for index, heater in enumerate(self.case.heaters) if heater.control != "none"]
        start, gain = base @ self.rows.T, self.rows @ rise
        surface: Floats | None = None
        for _ in range(TURNS if held else 0):
            places = start + (gain @ duty[:, :, None])[:, :, 0]
            slopes_at_spot = gain[:, 0, :]
            if any(self.case.heaters[index].probe == "basking-surface" for index in held):
                surface = self.spot.temperature((self.irradiance * duty).sum(axis=1), places, self.room_c, surface)
                film = basking.film(surface, places[:, 0], self.spot.side_m, self.spot.perch)
                absorptance = basking.PERCHES[self.spot.perch].absorptance
                slopes_at_spot = gain[:, 0, :] + absorptance * self.irradiance / film[:, None]
            missing, slopes = {}, {}
            for index in held:
                heater = self.case.heaters[index]
                if heater.probe == "basking-surface" and surface is not None:
                    reading, slopes[index] = surface, slopes_at_spot
                else:
                    row = 3 if heater.probe == "warm-air" else 4
                    reading, slopes[index] = places[:, row], gain[:, row, :]
                missing[index] = self.wanted[:, index] - reading
            found = self._on_straight_lines(duty, on, missing, slopes)
            change = np.abs(found - duty).max()
            duty = found
            if change < AGREED:
                break
        return duty

    def _on_straight_lines(self, duty: Floats, on: Floats, missing: dict[int, Floats], slopes: dict[int, Floats]) -> Floats:
        """Return the duties at which every reading, straight in the duties, makes up what it misses, or the heater's limit.

        `missing` K by heater (B,), `slopes` K per unit of each heater's duty (B, heaters).
        """
        found = duty.copy()
        own = {index: np.maximum(slopes[index][:, index], 1e-6) for index in missing}
        cross = {(one, other): slopes[one][:, other] / own[one] for one in missing for other in missing if one != other}
        alone = {index: duty[:, index] + wanted / own[index] for index, wanted in missing.items()}
        step = {index: np.zeros(duty.shape[0]) for index in missing}
        for _ in range(1 if len(missing) == 1 else SWEEPS):
            for index in missing:
                wanted = alone[index]
                for other in missing:
                    if other != index:
                        wanted = wanted - cross[index, other] * step[other]
                found[:, index] = np.minimum(np.maximum(wanted, 0.0), on[:, index])
                step[index] = found[:, index] - duty[:, index]
        return found


def _spreads(values: Floats) -> list[list[list[float]]]:
    """Turn (..., varied) values, the unvaried first and its pairs after it, into value, low and high: (..., 3) as lists."""
    middle = values[..., 0]
    steps = values[..., 1:].reshape(*middle.shape, -1, 2) - middle[..., None, None]
    up = np.maximum(steps.max(axis=-1), 0.0) if steps.size else np.zeros((*middle.shape, 1))
    down = np.minimum(steps.min(axis=-1), 0.0) if steps.size else up
    reach = [DECILE * np.sqrt((part**2).sum(axis=-1)) for part in (down, up)]
    found: list[list[list[float]]] = np.stack([middle, middle - reach[0], middle + reach[1]], axis=-1).tolist()
    return found
