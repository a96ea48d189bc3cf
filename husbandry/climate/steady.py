"""What an enclosure comes to by day and by night, summer and winter, with its spread.

Predictions are those at the end of the light and at the end of the dark of a day that repeats itself. With inputs
constant by day and by night the periodic state is a mixture of the two settled states, exact mode by mode: in light of
L hours a mode of rate λ has gone the part `(1 − a)/(1 − a b)` of the way to the day's settled state, `a = e^{−λL}`,
`b = e^{−λ(24 h − L)}`. Air and stones settle in both halves; deep ground and water hardly move from their mean.

Thermostats hold the probe at the set point where their heater can: an on/off and a dimming thermostat have the same mean
duty, which is what is found here. Each uncertain parameter is moved by one standard deviation both ways; what that does
to every prediction makes their spread (`husbandry.climate.spread`).
"""

from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import basking, heaters, humidity, network, spread, walls
from husbandry.climate.air import relative_humidity, saturation_pressure
from husbandry.climate.case import EnclosureCase, running
from husbandry.climate.halves import TURNS, Halves, Readings, contented, mixtures
from husbandry.climate.nodes import ZONES
from husbandry.climate.parameters import Variation
from husbandry.climate.probes import direct_rises, probe_row, warm_side_x
from husbandry.climate.settled import Climate, Settled, Spread, Start

Floats = NDArray[np.float64]

MOMENTS: Final = ("day", "night")
ROUNDS: Final = 4  # of air changes, the surface's losses and latent heat; each halves what is left and better
ROUNDS_NEAR: Final = 2
TRIAL_K: Final = 0.08  # the same for a trial
LEAST_BEYOND_PA: Final = 5.0
FEW_TURNS: Final = 3
STILL_K: Final = 0.04  # where what is left to move comes to less, by how fast it shrinks, the round is the last
MIXED_ANEW: Final = (0, 2)


def settle(
    case: EnclosureCase,
    *,
    spread: bool = True,
    seasons: tuple[str, ...] = ("summer", "winter"),
    near: Climate | None = None,
) -> Climate:
    """Solve the ends of day and night of `case` in each season; without `spread` low and high equal the value.

    `near` is what nearly the same enclosure came to in these seasons: the search begins there.
    """
    return Settling(case, spread=spread, seasons=seasons, near=near.start if near else None).climate()


def predict(case: EnclosureCase, season: str, near: Climate | None = None) -> dict[str, dict[str, float]]:
    """Solve one season for a trial: every prediction, by moment and name, without its spread; to a tenth of a kelvin."""
    start = near.start if near else None
    found = Settling(case, spread=False, seasons=(season,), near=start, still_k=TRIAL_K).predicted()
    return {moment: {name: float(values[half]) for name, values in found.items()} for half, moment in enumerate(MOMENTS)}


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
    halves: Halves

    def __init__(
        self,
        case: EnclosureCase,
        *,
        spread: bool,
        seasons: tuple[str, ...],
        vary: Variation | None = None,
        near: Start | None = None,
        still_k: float = STILL_K,
    ) -> None:
        self.case, self.seasons, self.still_k = case, seasons, still_k
        # The middle alone first: the varied ones then begin next to their answer.
        self.middle = Settling(case, spread=False, seasons=seasons, near=near) if spread or vary is not None else self
        near = near if self.middle is self else self.middle.start()
        if vary is None:
            vary = case.belief.both_ways() if spread else case.belief.nominal()
        self.varied = vary.losses.size
        self.batch = self.varied * len(seasons)
        self.vary = vary.repeated(2 * len(seasons))
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
        self.wanted = np.repeat(np.array(wanted).reshape(shape), self.varied, axis=0) - self.vary.probe_k[:, None]
        self.watts = np.array([heater.watts for heater in case.heaters])
        self.rows = np.array([probe_row(case, self.network.nodes, heater) for heater in case.heaters])
        self.rows = self.rows.reshape(len(case.heaters), self.network.nodes.count)
        self.direct = direct_rises(case)
        self.given = np.repeat([humidity.given_mean(case.in_season(season)) for season, _moment in states], self.varied)
        self._solve(near, ROUNDS if self.middle is self else ROUNDS_NEAR)

    def _solve(self, near: Start | None, rounds: int) -> None:
        case, net = self.case, self.network
        count = 2 * self.batch
        usual = walls.air_changes(case) * self.vary.air_changes
        self.air_changes = usual.copy()
        film, radiation = np.full(count, network.FIRST_FILM), np.full(count, network.FIRST_RADIATION)
        latent, slope = np.zeros((count, net.nodes.count)), np.zeros((count, net.nodes.count))
        self.node_c = np.repeat(self.room_c[:, None], net.nodes.count, axis=1)
        duty = (self.most[: self.batch], self.most[self.batch :])
        if near is not None and near.nodes == net.nodes:
            rows = near.rows(self.seasons)
            self.air_changes = self._of(near.air_changes[rows]) * self.vary.air_changes
            film, radiation, self.node_c = (self._of(part[rows]) for part in (near.film, near.radiation, near.node_c))
            latent, slope = self._of(near.latent_w[rows]), self._of(near.slope[rows])
            if near.duty.shape[1] == len(case.heaters):
                first = self._of(near.duty[rows])
                duty = (first[: self.batch], first[self.batch :])
            seasons = rows[: len(self.seasons)]
            self.mixes = near.mixes[0][seasons], near.mixes[1][seasons]
        else:
            near = None
        diagonal, before = np.arange(net.nodes.count), np.inf
        for turn in range(rounds):
            matrix, room = net.bound(self.air_changes, film, radiation)
            forced = room * self.room_c[:, None] - latent + slope * self.node_c
            matrix[:, diagonal, diagonal] += slope
            solved = np.linalg.solve(matrix, np.concatenate([forced[:, :, None], net.per_watt], axis=2))
            base, rise = solved[:, :, 0], solved[:, :, 1:] * self.watts
            if turn in MIXED_ANEW and near is None:
                self.mixes = self._mixes(matrix)
            self.halves = self._halves(base, rise)
            # What follows moves them again: only the last round goes to the end.
            duty = self.halves.duties(duty, TURNS if turn == rounds - 1 else FEW_TURNS)
            ends = np.concatenate(self.halves.ends(duty))
            moved = float(np.abs(ends - self.node_c).max())
            still = turn > 0 and _left(moved, before) < self.still_k
            self.node_c, before = ends, moved
            self.duty = np.concatenate(duty)
            self.air_changes = usual * self._draught()
            film, radiation, self.seen_c = self._surface()
            self.vapour = humidity.vapour_pressure(
                case, self.node_c, self.room_c, self.room_percent, self.air_changes, self.vary.wetness, self.given
            )
            latent, slope = self.vapour.latent_w, self.vapour.slope
            if still:
                break
        self.film, self.radiation = film, radiation

    def start(self) -> Start:
        """Where a further search may begin; of the unvaried states alone."""
        return Start(
            self.seasons,
            self.network.nodes,
            self.air_changes / self.vary.air_changes,
            self.film,
            self.radiation,
            self.node_c,
            self.vapour.latent_w,
            self.vapour.slope,
            self.duty,
            self.mixes,
        )

    def _of(self, middles: Floats) -> Floats:
        """Values of the unvaried states (moments × seasons, …), repeated for every variation."""
        return np.repeat(middles, self.varied, axis=0)

    def _mixes(self, matrix: Floats) -> tuple[Floats, Floats]:
        """The mixtures of each season (seasons, n, n), by the unvaried network of its day and night."""
        pairs = []
        for index in range(len(self.seasons)):
            first = index * self.varied
            mean = (matrix[first] + matrix[self.batch + first]) / 2
            pairs.append(mixtures(mean, self.network.capacity, self.case.light_hours))
        return np.stack([pair[0] for pair in pairs]), np.stack([pair[1] for pair in pairs])

    def _halves(self, base: Floats, rise: Floats) -> Halves:
        held = [index for index, heater in enumerate(self.case.heaters) if heater.control != "none"]

        def halved(values: Floats) -> tuple[Floats, Floats]:
            return values[: self.batch], values[self.batch :]

        return Halves(self.rows, held, self.direct, halved(base), halved(rise), halved(self.most), halved(self.wanted), self.mixes)

    def _draught(self) -> Floats:
        return draught(self.node_c[:, self.network.nodes.air].mean(axis=1) - self.room_c)

    def _surface(self) -> tuple[Floats, Floats, Floats]:
        """Film and radiation (W/m²K) of the basking surface as it stands, and the temperature it sees."""
        spot, nodes = self.network.spot, self.network.nodes
        surface, air = self.node_c[:, nodes.spot], self.node_c[:, nodes.air] @ spot.air
        seen = self.room_c + spot.seen_share * (self.node_c[:, spot.seen].mean(axis=1) - self.room_c)
        film = basking.plate_convection(surface, air, self.case.spot.side_m)
        return film, basking.radiative_conductance(surface, seen), seen

    def predicted(self) -> dict[str, Floats]:
        """Every prediction for the whole batch, (days then nights,)."""
        return self._named(self.node_c @ self._places().T, self.vapour.pressure_pa, self.duty, 3600 * self.vapour.carried_kg_s)

    def _places(self) -> Floats:
        """The rows over the nodes that predictions are made of: air, surface, then hide and water where there are any."""
        nodes = self.network.nodes
        wanted = [*range(nodes.air.start, nodes.air.stop), nodes.spot]
        wanted += [nodes.hide] * nodes.hiding + [nodes.water] * nodes.watered
        return np.eye(nodes.count)[wanted]

    def _named(self, read_c: Floats, pressure: Floats, duty: Floats, vapour_out: Floats) -> dict[str, Floats]:
        """Name what the places of `_places` read (B, k), with vapour in Pa, duties (B, heaters) and vapour carried off in kg/h."""
        case, nodes = self.case, self.network.nodes
        warm, cool = network.end_weights(case, warm_side_x(case))
        air, more = read_c[:, : nodes.air_count], nodes.air_count + 1
        found = {
            "basking_surface": read_c[:, nodes.air_count],
            "warm_air": air @ warm,
            "cool_air": air @ cool,
            "hottest_air": air.max(axis=1),
            "warm_humidity": np.minimum(relative_humidity(pressure, air @ warm), 100.0),
            "cool_humidity": np.minimum(relative_humidity(pressure, air @ cool), 100.0),
        }
        if nodes.hiding:
            found["humid_hide"] = humidity.humid_hide(pressure, read_c[:, more])
        if nodes.watered:
            found["water"] = read_c[:, more + int(nodes.hiding)]
        found["heat_power"] = duty @ self.watts if self.watts.size else np.zeros(len(read_c))
        found["vapour_out"] = vapour_out
        for index, heater in enumerate(case.heaters):
            if heaters.HEATERS[heater.kind].place != "light":
                found[f"duty_{index}"] = 100 * duty[:, index]
        return found

    def drawn(self) -> dict[str, Floats]:
        """Every prediction for many draws of what is uncertain, (days then nights × seasons, DRAWS).

        What the nodes read is drawn without and per unit of heat; then the thermostats find their duties anew.
        """
        seasons = len(self.seasons)

        def draw(values: Floats) -> Floats:
            return spread.draws(values.reshape(seasons, self.varied, -1)).reshape(seasons * spread.DRAWS, *values.shape[1:])

        def all_drawn(readings: tuple[Readings, Readings]) -> tuple[Readings, Readings]:
            found = [Readings(draw(item.still), draw(item.own), draw(item.other)) for item in readings]
            return found[0], found[1]

        halves, first = self.halves, (self.duty[: self.batch], self.duty[self.batch :])
        places = all_drawn(halves.read(self._places()))
        most = draw(halves.most[0]), draw(halves.most[1])
        duty = most
        if halves.held:
            wanted = draw(halves.wanted[0]), draw(halves.wanted[1])
            begin = [np.repeat(part[:: self.varied], spread.DRAWS, axis=0) for part in first]
            duty = contented(all_drawn(halves.probes()), most, wanted, halves.held, (begin[0], begin[1]))
        read = np.concatenate([places[half].at(duty[half], duty[1 - half]) for half in (0, 1)])
        # Vapour is a matter of factors: what it has over the room's is drawn by its logarithm, else all of it.
        of_room = self.room_percent / 100 * saturation_pressure(self.room_c)
        beyond, out = self.vapour.pressure_pa - of_room, 3600 * self.vapour.carried_kg_s
        logarithm = bool(beyond.min() > LEAST_BEYOND_PA)
        parts = (np.log(beyond), of_room, out) if logarithm else (np.log(self.vapour.pressure_pa), of_room, out)
        both = [np.concatenate([draw(part[: self.batch]), draw(part[self.batch :])]) for part in parts]
        pressure = np.exp(both[0]) + (both[1] if logarithm else 0.0)
        named = self._named(read, pressure, np.concatenate(duty), both[2])
        return {name: values.reshape(2 * seasons, spread.DRAWS) for name, values in named.items()}

    def _of_room(self, half: int, season: int) -> Floats:
        """Node temperatures at the end of the half with the room alone, (n,)."""
        first = season * self.varied
        own, other = float(self.room_c[half * self.batch + first]), float(self.room_c[(1 - half) * self.batch + first])
        reached = self.mixes[half][season].sum(axis=1)
        return np.asarray(other + reached * (own - other))

    def climate(self) -> Climate:
        """The answer in the caller's terms."""
        predicted = self.predicted()
        drawn = self.drawn() if self.varied > 1 else {}
        low, high = spread.deciles(np.stack(list(drawn.values()))) if drawn else (np.zeros(0), np.zeros(0))
        net, nodes = self.network, self.network.nodes
        settled = {}
        for half, moment in enumerate(MOMENTS):
            for index, season in enumerate(self.seasons):
                first = half * self.batch + index * self.varied
                row = half * len(self.seasons) + index
                spreads = {}
                for place, (name, values) in enumerate(predicted.items()):
                    middle = float(values[first])
                    spreads[name] = Spread(middle, *(float(edge[place, row]) if drawn else middle for edge in (low, high)))
                draws = {name: values[row] for name, values in drawn.items()}
                node_c = self.node_c[first]
                falling = float(net.irradiance[first] @ (self.watts * self.duty[first])) if self.watts.size else 0.0
                settled[season, moment] = Settled(
                    season,
                    moment,
                    spreads,
                    draws,
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
                        float(node_c[nodes.air] @ net.spot.air),
                        float(self.seen_c[first]),
                        float(node_c[nodes.ground_top] @ net.spot.ground),
                        self.case.spot.side_m,
                        self.case.spot.perch,
                    ),
                )
        return Climate(settled, self.middle.start())


def _left(moved: float, before: float) -> float:
    """What rounds to come will still move where each moves a constant share of the one `before`; at most what this one did."""
    share = min(moved / before, 0.5) if before > 0 else 0.5
    return moved * share / (1 - share)


def draught(rise_k: Floats) -> Floats:
    """Return the factor on the air changes when the inside stands `rise_k` above (or below) the room: √(ΔT/5 K)."""
    return np.asarray(np.maximum(np.sqrt(np.abs(rise_k) / walls.REFERENCE_RISE_K), walls.LEAST_AIR_CHANGE_SHARE))
