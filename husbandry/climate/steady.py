"""What an enclosure comes to by day and by night, summer and winter, with its spread.

Predictions are those at the end of the light and at the end of the dark of a day that repeats itself. With inputs
constant by day and by night the periodic state is a mixture of the two settled states, exact mode by mode: in light of
L hours a mode of rate λ has gone the part `(1 − a)/(1 − a b)` of the way to the day's settled state, `a = e^{−λL}`,
`b = e^{−λ(24 h − L)}`. Air and stones settle in both halves; deep ground and water hardly move from their mean.

Thermostats hold the probe at the set point where their heater can: an on/off and a dimming thermostat have the same mean
duty, which is what is found here. The spread is one standard deviation of each uncertain parameter, both ways, added in
quadrature, times 1.28: the 10–90 % range of a nearly linear model (`husbandry.climate.spread` for what follows).
"""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import basking, heaters, humidity, network, walls
from husbandry.climate.air import relative_humidity
from husbandry.climate.case import EnclosureCase, HeaterCase, running
from husbandry.climate.contact import mat_contact
from husbandry.climate.network import Variation
from husbandry.climate.nodes import ZONES, Nodes, zone_at

Floats = NDArray[np.float64]

# One standard deviation of each parameter (SCIENCE: estimates).
SIGMA: Final = {
    "radiant": 0.15,
    "losses": 0.15,
    "air_changes": 0.69,
    "mixing": 0.25,
    "wetness": 0.5,
    "room_k": 1.0,
    "probe_k": 1.0,
}
LOGNORMAL: Final = ("air_changes", "wetness")
DECILE: Final = 1.2816
MOMENTS: Final = ("day", "night")
ROUNDS: Final = 4  # of air changes, the surface's losses and latent heat; each halves what is left and better
ROUNDS_NEAR: Final = 2
MIXED_ANEW: Final = (0, 2)
TURNS: Final = 12  # at most, of thermostats that disturb one another, between day and night
SWEEPS: Final = 6
AGREED: Final = 0.002
SURFACE_RISE_K: Final = 12.0  # of a basking surface over its air, where nothing is known yet


@dataclass(frozen=True)
class Spread:
    """A value with its 10–90 % range."""

    value: float
    low: float
    high: float


@dataclass(frozen=True)
class Settled:
    """One season and moment: predictions by name, mean duty of each heater (0–1), electrical watts, node temperatures.

    `steps` holds each prediction's change (K or %) for one standard deviation of each parameter, up and down, shape
    (parameters, 2). `unbound_vapour_pa`: without condensation. `vapour_per_gram`: Pa that one more gram misted a day adds.
    `of_room_c`: what the nodes would have without any heat.
    """

    season: str
    moment: str
    predictions: dict[str, Spread]
    steps: dict[str, Floats]
    duty: tuple[float, ...]
    watts: float
    air_c: tuple[tuple[float, ...], ...]
    ground_c: tuple[float, ...]
    node_c: Floats
    vapour_pa: float
    unbound_vapour_pa: float
    vapour_per_gram: float
    air_changes_h: float
    film: float
    radiation: float
    latent_w: Floats
    of_room_c: Floats
    surface_sum: basking.SurfaceSum


@dataclass(frozen=True)
class Climate:
    """The settled states by season and moment."""

    settled: dict[tuple[str, str], Settled]


def variations() -> dict[str, Floats]:
    """One unvaried set, then each parameter up and down; shape (15,) each."""
    count = 1 + 2 * len(SIGMA)
    columns = {name: np.zeros(count) if name.endswith("_k") else np.ones(count) for name in SIGMA}
    for index, name in enumerate(SIGMA):
        for place, sign in ((1 + 2 * index, 1.0), (2 + 2 * index, -1.0)):
            columns[name][place] = varied(name, np.array([sign]))[0]
    return columns


def varied(name: str, normal: Floats) -> Floats:
    """Return the parameter's factor or offset at `normal` standard deviations from its prior's middle."""
    sigma = SIGMA[name]
    if name.endswith("_k"):
        return np.asarray(sigma * normal)
    return np.exp(sigma * normal) if name in LOGNORMAL else np.maximum(1 + sigma * normal, 0.2)


def nominal() -> Variation:
    """The one unvaried set of parameters."""
    return Variation(**{name: column[:1] for name, column in variations().items()})


def warm_side_x(case: EnclosureCase) -> float:
    """Where the warm end is: under the heaters by their watts, or at the basking spot when there are none."""
    warming = [heater for heater in case.heaters if heaters.HEATERS[heater.kind].place not in ("water", "light")]
    total = sum(heater.watts for heater in warming)
    if total == 0:
        return case.spot.x_m
    return sum(heater.watts * heater.x_m for heater in warming) / total


def direct_rises(case: EnclosureCase) -> Floats:
    """What each heater's own probe reads at once over its place in the network, K at full power, (heaters,): on a mat."""
    found = np.zeros(len(case.heaters))
    for index, heater in enumerate(case.heaters):
        contact = mat_contact(case, index) if heater.probe == "mat" else None
        if contact is not None:
            found[index] = contact.contact_rise_k
    return found


def probe_row(case: EnclosureCase, nodes: Nodes, heater: HeaterCase) -> Floats:
    """The weights over the nodes that a heater's probe reads, shape (n,). Raises KeyError for an unknown place."""
    row, probe = np.zeros(nodes.count), heater.probe
    warm, cool = network.end_weights(case, warm_side_x(case))
    if probe == "basking-surface":
        row[nodes.spot] = 1.0
    elif probe == "mat":
        row[nodes.ground_bottom.start + zone_at(case, heater.x_m)] = 1.0
    elif probe == "water":
        row[nodes.water if nodes.watered else nodes.spot] = 1.0
    elif probe == "humid-hide" and nodes.hiding:
        row[nodes.hide] = 1.0
    elif probe in ("warm-ground", "cool-ground", "humid-hide"):
        row[nodes.ground_top] = (cool if probe == "cool-ground" else warm).reshape(case.levels, ZONES).sum(axis=0)
    else:
        row[nodes.air] = {"warm-air": warm, "cool-air": cool}[probe]
    return row


@dataclass(frozen=True)
class _Halves:
    """Day and night of every batch element: rises (b, n, heaters), temperatures without heat (b, n), limits and wishes.

    `mix_day` and `mix_night` (b, n, n) take the settled day and night to the end of the light and of the dark.
    """

    rows: Floats
    held: list[int]
    direct: Floats
    base: tuple[Floats, Floats]
    rise: tuple[Floats, Floats]
    most: tuple[Floats, Floats]
    wanted: tuple[Floats, Floats]
    mix: tuple[Floats, Floats]

    def ends(self, duties: tuple[Floats, Floats]) -> tuple[Floats, Floats]:
        """Temperatures (b, n) at the end of the light and of the dark."""
        day, night = (
            base + (rise @ duty[:, :, None])[:, :, 0] for base, rise, duty in zip(self.base, self.rise, duties, strict=True)
        )
        apart = (day - night)[:, :, None]
        return night + (self.mix[0] @ apart)[:, :, 0], day - (self.mix[1] @ apart)[:, :, 0]

    def duties(self, first: tuple[Floats, Floats]) -> tuple[Floats, Floats]:
        """Mean duties (b, heaters) by day and by night at which every probe reads what is wanted, or the heater's limit."""
        if not self.held:
            return self.most
        found = [first[0].copy(), first[1].copy()]
        idle = [index for index in range(found[0].shape[1]) if index not in self.held]
        for half in (0, 1):
            found[half][:, idle] = self.most[half][:, idle]
        # Readings at the end of either half, straight in the duties of both.
        own = [self.rows @ self.mix[half] for half in (0, 1)]
        other = [self.rows - part for part in own]
        gain = [own[half] @ self.rise[half] for half in (0, 1)]
        places = np.arange(self.direct.size)
        for half in (0, 1):
            gain[half][:, places, places] += self.direct
        cross = [other[half] @ self.rise[1 - half] for half in (0, 1)]
        still = [
            (own[half] @ self.base[half][:, :, None] + other[half] @ self.base[1 - half][:, :, None])[:, :, 0] for half in (0, 1)
        ]
        for _ in range(TURNS):
            moved = 0.0
            for half in (0, 1):
                given = (gain[half] @ found[half][:, :, None] + cross[half] @ found[1 - half][:, :, None])[:, :, 0]
                missing = self.wanted[half] - still[half] - given
                new = _on_straight_lines(found[half], self.most[half], missing, gain[half], self.held)
                moved = max(moved, float(np.abs(new - found[half]).max()))
                found[half] = new
            if moved < AGREED:
                break
        return found[0], found[1]


def _on_straight_lines(duty: Floats, most: Floats, missing: Floats, gain: Floats, held: list[int]) -> Floats:
    """Return the duties at which every held reading makes up what it misses, or the heater's limit; heaters act in turn.

    `missing` K by heater (b, h), `gain` K per unit of each heater's duty (b, h, h).
    """
    found = duty.copy()
    step = np.zeros_like(duty)
    for _ in range(1 if len(held) == 1 else SWEEPS):
        for index in held:
            own = gain[:, index, index]
            own = np.where(np.abs(own) < 1e-6, 1e-6, own)
            wanted = missing[:, index]
            for other in held:
                if other != index:
                    wanted = wanted - gain[:, index, other] * step[:, other]
            found[:, index] = np.minimum(np.maximum(duty[:, index] + wanted / own, 0.0), most[:, index])
            step[:, index] = found[:, index] - duty[:, index]
    return found


def _mixtures(matrix: Floats, capacity: Floats, light_h: float) -> tuple[Floats, Floats]:
    """Return how far the settled day is reached at the end of the light, and the settled night at the end of the dark: (n, n)."""
    scale = 1 / np.sqrt(capacity)
    rates, modes = np.linalg.eigh(matrix * scale[:, None] * scale[None, :])
    rates = np.maximum(rates, 1e-12)
    light, dark = np.exp(-rates * light_h * 3600), np.exp(-rates * (24 - light_h) * 3600)
    both = 1 - light * dark
    left, right = modes * scale[:, None], modes.T / scale[None, :]
    return (left * ((1 - light) / both)) @ right, (left * ((1 - dark) / both)) @ right


def settle(
    case: EnclosureCase,
    *,
    spread: bool = True,
    seasons: tuple[str, ...] = ("summer", "winter"),
    vary: Variation | None = None,
) -> Climate:
    """Solve the ends of day and night of `case` in each season; without `spread` low and high equal the value.

    `vary` replaces the parameters by the keeper's calibrated ones (one set, shape (1,)).
    """
    return Settling(case, spread=spread, seasons=seasons, centre=vary).climate()


class Settling:
    """One run of `settle`; kept as an object because its steps share much."""

    air_changes: Floats
    mixes: tuple[Floats, Floats]
    node_c: Floats
    duty: Floats
    film: Floats
    radiation: Floats
    seen_c: Floats
    vapour: humidity.Vapour

    def __init__(
        self,
        case: EnclosureCase,
        *,
        spread: bool,
        seasons: tuple[str, ...],
        centre: Variation | None = None,
        vary: Variation | None = None,
    ) -> None:
        self.case, self.seasons = case, seasons
        # The middle alone first: the varied ones then begin next to their answer.
        near = Settling(case, spread=False, seasons=seasons, centre=centre) if spread else None
        columns = variations() if spread else {name: column[:1] for name, column in variations().items()}
        if vary is not None:
            columns = {name: getattr(vary, name) for name in SIGMA}
        if centre is not None:
            for name in SIGMA:
                shift = getattr(centre, name)[0]
                columns[name] = columns[name] + shift if name.endswith("_k") else columns[name] * shift
        self.varied = columns["losses"].size
        self.batch = self.varied * len(seasons)
        self.vary = Variation(**{name: np.tile(column, 2 * len(seasons)) for name, column in columns.items()})
        self.network = network.build(case, self.vary)
        # Order of the batch: all seasons' days with their variations, then all nights.
        states = [(season, moment) for moment in MOMENTS for season in seasons]
        rooms = [case.rooms[season] for season, _moment in states]
        base = [room.day_c if moment == "day" else room.night_c for room, (_season, moment) in zip(rooms, states, strict=True)]
        self.room_c = np.repeat(np.array(base), self.varied) + self.vary.room_k
        self.room_percent = np.repeat(np.array([room.humidity_percent for room in rooms]), self.varied)
        lit, wanted = [], []
        for _season, moment in states:
            hour = case.middle_of_day if moment == "day" else (case.middle_of_day + 12.0) % 24.0
            lit.append([float(running(heater.on_hour, heater.off_hour, hour)) for heater in case.heaters])
            wanted.append([heater.set_point(day=moment == "day") for heater in case.heaters])
        shape = (len(states), len(case.heaters))
        self.most = np.repeat(np.array(lit).reshape(shape), self.varied, axis=0)
        self.wanted = np.repeat(np.array(wanted).reshape(shape), self.varied, axis=0) + self.vary.probe_k[:, None]
        self.watts = np.array([heater.watts for heater in case.heaters])
        self.rows = np.array([probe_row(case, self.network.nodes, heater) for heater in case.heaters])
        self.rows = self.rows.reshape(len(case.heaters), self.network.nodes.count)
        self.direct = direct_rises(case)
        self.given = np.full(2 * self.batch, humidity.given_mean(case))
        self._solve(near)

    def _solve(self, near: "Settling | None") -> None:
        case, net = self.case, self.network
        count = 2 * self.batch
        usual = walls.air_changes(case) * self.vary.air_changes
        self.air_changes = usual.copy()
        film, radiation = np.full(count, network.FIRST_FILM), np.full(count, network.FIRST_RADIATION)
        latent, slope = np.zeros((count, net.nodes.count)), np.zeros((count, net.nodes.count))
        self.node_c = np.repeat(self.room_c[:, None], net.nodes.count, axis=1)
        duty = (self.most[: self.batch], self.most[self.batch :])
        if near is not None:
            self.air_changes = np.repeat(near.air_changes, self.varied) * self.vary.air_changes / near.vary.air_changes[0]
            film, radiation = np.repeat(near.film, self.varied), np.repeat(near.radiation, self.varied)
            latent, slope = (np.repeat(part, self.varied, axis=0) for part in (near.vapour.latent_w, near.vapour.slope))
            self.node_c = np.repeat(near.node_c, self.varied, axis=0)
            first = np.repeat(near.duty, self.varied, axis=0)
            duty = (first[: self.batch], first[self.batch :])
            self.mixes = near.mixes
        diagonal = np.arange(net.nodes.count)
        for turn in range(ROUNDS if near is None else ROUNDS_NEAR):
            matrix, room = net.bound(self.air_changes, film, radiation)
            forced = room * self.room_c[:, None] - latent + slope * self.node_c
            matrix[:, diagonal, diagonal] += slope
            solved = np.linalg.solve(matrix, np.concatenate([forced[:, :, None], net.per_watt], axis=2))
            base, rise = solved[:, :, 0], solved[:, :, 1:] * self.watts
            if turn in MIXED_ANEW and near is None:
                self.mixes = self._mixes(matrix)
            halves = self._halves(base, rise)
            duty = halves.duties(duty)
            self.node_c = np.concatenate(halves.ends(duty))
            self.duty = np.concatenate(duty)
            self.air_changes = usual * self._draught()
            film, radiation, self.seen_c = self._surface()
            self.vapour = humidity.vapour_pressure(
                case, self.node_c, self.room_c, self.room_percent, self.air_changes, self.vary.wetness, self.given
            )
            latent, slope = self.vapour.latent_w, self.vapour.slope
        self.film, self.radiation = film, radiation

    def _mixes(self, matrix: Floats) -> tuple[Floats, Floats]:
        """The mixtures of each season (seasons, n, n), by the unvaried network of its day and night."""
        pairs = []
        for index in range(len(self.seasons)):
            first = index * self.varied
            mean = (matrix[first] + matrix[self.batch + first]) / 2
            pairs.append(_mixtures(mean, self.network.capacity, self.case.light_hours))
        return np.stack([pair[0] for pair in pairs]), np.stack([pair[1] for pair in pairs])

    def _halves(self, base: Floats, rise: Floats) -> _Halves:
        held = [index for index, heater in enumerate(self.case.heaters) if heater.control != "none"]

        def halved(values: Floats) -> tuple[Floats, Floats]:
            return values[: self.batch], values[self.batch :]

        mix = np.repeat(self.mixes[0], self.varied, axis=0), np.repeat(self.mixes[1], self.varied, axis=0)
        return _Halves(self.rows, held, self.direct, halved(base), halved(rise), halved(self.most), halved(self.wanted), mix)

    def _draught(self) -> Floats:
        return draught(self.node_c[:, self.network.nodes.air].mean(axis=1) - self.room_c)

    def _surface(self) -> tuple[Floats, Floats, Floats]:
        """Film and radiation (W/m²K) of the basking surface as it stands, and the temperature it sees."""
        spot, nodes = self.network.spot, self.network.nodes
        surface, air = self.node_c[:, nodes.spot], self.node_c[:, spot.air]
        seen = self.room_c + spot.seen_share * (self.node_c[:, spot.seen].mean(axis=1) - self.room_c)
        film = basking.plate_convection(surface, air, self.case.spot.side_m)
        return film, basking.radiative_conductance(surface, seen), seen

    def predicted(self) -> dict[str, Floats]:
        """Every prediction for the whole batch, (days then nights,)."""
        case, nodes = self.case, self.network.nodes
        warm, cool = network.end_weights(case, warm_side_x(case))
        air = self.node_c[:, nodes.air]
        pressure = self.vapour.pressure_pa
        found = {
            "basking_surface": self.node_c[:, nodes.spot],
            "warm_air": air @ warm,
            "cool_air": air @ cool,
            "hottest_air": air.max(axis=1),
            "warm_humidity": np.minimum(relative_humidity(pressure, air @ warm), 100.0),
            "cool_humidity": np.minimum(relative_humidity(pressure, air @ cool), 100.0),
        }
        if nodes.hiding:
            found["humid_hide"] = humidity.humid_hide(pressure, self.node_c[:, nodes.hide])
        if nodes.watered:
            found["water"] = self.node_c[:, nodes.water]
        found["heat_power"] = self.duty @ self.watts if self.watts.size else np.zeros(2 * self.batch)
        return found

    def _of_room(self, half: int, season: int) -> Floats:
        """Node temperatures at the end of the half with the room alone, (n,)."""
        first = season * self.varied
        own, other = float(self.room_c[half * self.batch + first]), float(self.room_c[(1 - half) * self.batch + first])
        reached = self.mixes[half][season].sum(axis=1)
        return np.asarray(other + reached * (own - other))

    def climate(self) -> Climate:
        """The answer in the caller's terms."""
        predicted = self.predicted()
        net, nodes = self.network, self.network.nodes
        settled = {}
        for half, moment in enumerate(MOMENTS):
            for index, season in enumerate(self.seasons):
                first = half * self.batch + index * self.varied
                own = slice(first, first + self.varied)
                spreads, steps = {}, {}
                for name, values in predicted.items():
                    spreads[name], steps[name] = _spread(values[own])
                node_c = self.node_c[first]
                falling = float(net.irradiance[first] @ (self.watts * self.duty[first])) if self.watts.size else 0.0
                settled[season, moment] = Settled(
                    season,
                    moment,
                    spreads,
                    steps,
                    tuple(float(share) for share in self.duty[first]),
                    float(predicted["heat_power"][first]),
                    tuple(tuple(float(t) for t in row) for row in node_c[nodes.air].reshape(self.case.levels, ZONES)),
                    tuple(float(t) for t in node_c[nodes.ground_top]),
                    node_c,
                    float(self.vapour.pressure_pa[first]),
                    float(self.vapour.unbound_pa[first]),
                    float(self.vapour.per_gram[first]),
                    float(self.air_changes[first]),
                    float(self.film[first]),
                    float(self.radiation[first]),
                    self.vapour.latent_w[first],
                    self._of_room(half, index),
                    basking.surface_sum(
                        falling,
                        float(node_c[nodes.spot]),
                        float(node_c[net.spot.air]),
                        float(self.seen_c[first]),
                        float(node_c[net.spot.ground]),
                        self.case.spot.side_m,
                        self.case.spot.perch,
                    ),
                )
        return Climate(settled)


def draught(rise_k: Floats) -> Floats:
    """Return the factor on the air changes when the inside stands `rise_k` above (or below) the room: √(ΔT/5 K)."""
    return np.asarray(np.maximum(np.sqrt(np.abs(rise_k) / walls.REFERENCE_RISE_K), walls.LEAST_AIR_CHANGE_SHARE))


def _spread(values: Floats) -> tuple[Spread, Floats]:
    """Turn (varied,) values, the unvaried first and its pairs after it, into value, low and high, and the steps (n, 2)."""
    middle = float(values[0])
    steps = (values[1:] - middle).reshape(-1, 2)
    if not steps.size:
        return Spread(middle, middle, middle), steps
    up, down = np.maximum(steps.max(axis=1), 0.0), np.minimum(steps.min(axis=1), 0.0)
    return Spread(middle, middle - DECILE * float(np.sqrt((down**2).sum())), middle + DECILE * float(np.sqrt((up**2).sum()))), steps
