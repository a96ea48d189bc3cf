"""The same equations as `husbandry.climate.day`, continuous, for scipy's integrators: written from the arrays' side."""

from itertools import pairwise
from typing import Any

import numpy as np
from scipy.integrate import solve_ivp

from husbandry.climate import basking, network
from husbandry.climate.air import AIR_DENSITY, PRESSURE_PA, VAPOUR_RATIO, dew_point, saturation_pressure
from husbandry.climate.case import EnclosureCase, running
from husbandry.climate.day import DayModel
from husbandry.climate.daycourse import room_curve
from husbandry.climate.ground import KEPT_DRY_M, SOIL_DIFFUSIVITY, TAKES_UP
from husbandry.climate.heat_gains import covered_zones, sun_gains
from husbandry.climate.humidity import LATENT_HEAT, LEAF_M_S, MASS_TRANSFER, PER_PASCAL, STOMATA_IN_THE_DARK, wetting
from husbandry.climate.openings import changes_at, exchange_of, virtual_rise
from husbandry.climate.parameters import PRIOR
from husbandry.climate.probes import probe_row
from husbandry.climate.states import Climate
from husbandry.climate.terms import BED_M, BED_TRANSFER, BUFFER, DAMP_WATER, FILM_KG_M2
from husbandry.climate.thermostats import PROBE_HEAT, PROBE_LINK


class Equations:
    """dT/dt, de/dt and what the ground's water, the bedding's humidity and the dew on each wall do, of one enclosure in one season.

    The heaters' duties are given from outside; nothing is misted.
    """

    def __init__(self, case: EnclosureCase, season: str) -> None:
        self.case, self.room = case, case.rooms[season]
        self.net = network.build(case, PRIOR.nominal())
        self.nodes = self.net.nodes
        self.watts = np.array([heater.watts for heater in case.heaters])
        self.sun_gain, self.sun_w = sun_gains(case.shell, self.net.spot.area_m2), 0.0
        self.ground_top, self.walled = self.nodes.ground_top, self.nodes.walled
        self.wet, self.exchange = wetting(case.shell), exchange_of(case.shell)
        room_pa = self.room.humidity_percent / 100 * float(saturation_pressure((self.room.day_c + self.room.night_c) / 2))
        self.per_change = AIR_DENSITY * case.volume_m3 / 3600 * VAPOUR_RATIO / (PRESSURE_PA - room_pa)
        self.holds = case.air_m3 * PER_PASCAL * BUFFER
        floor = case.length_m * case.width_m
        self.full = DAMP_WATER * floor * case.ground_depth_m if case.ground_damp else 0.0
        bare = np.zeros(5) if case.ground_damp else 1 - covered_zones(case)
        self.bed = BED_TRANSFER * PER_PASCAL * floor / 5 * bare
        self.bed_kg = TAKES_UP[case.ground_kind] * floor / 5 * np.maximum(bare, 1e-9) * min(case.ground_depth_m / BED_M, 1.0)
        self.skins = self.wet.skins[self.nodes.walls] if self.walled else np.zeros(0)
        self.dew_full = self.skins / MASS_TRANSFER * FILM_KG_M2
        self.leaves = LEAF_M_S * case.leaf_m2 / self.nodes.air_count
        self.inner = self.nodes.count + 7 + self.skins.size

    def timers(self, hour: float) -> np.ndarray:
        return np.array([float(running(heater.on_hour, heater.off_hour, hour)) for heater in self.case.heaters])

    def room_c(self, hour: float) -> float:
        return float(room_curve(self.room, np.array([hour]))[0])

    def slope(self, seconds: float, state: np.ndarray, duty: np.ndarray) -> np.ndarray:
        net, nodes, case, wet = self.net, self.nodes, self.case, self.wet
        t, (pressure, water) = state[: nodes.count], state[nodes.count : nodes.count + 2]
        humid, dew = state[nodes.count + 2 : nodes.count + 7], state[nodes.count + 7 : self.inner]
        room_c = self.room_c(seconds / 3600 % 24)
        heat = net.per_watt[0] @ (self.watts * duty) - net.conductance[0] @ t + net.to_room[0] * room_c
        heat += self.sun_gain * self.sun_w + net.outside_w[0]
        air = t[nodes.air]
        room_pa = self.room.humidity_percent / 100 * float(saturation_pressure(room_c))
        changes = changes_at(self.exchange, float(virtual_rise(air.mean() - room_c, pressure - room_pa)))
        heat[nodes.air] -= net.vent[nodes.air] * changes * (air - room_c)
        spot = net.spot
        surface, near, seen = t[nodes.spot], t[nodes.air] @ spot.air, t[spot.seen].mean()
        h_conv_w_k = basking.convection_at(surface, float(near), case.spot.side_m) * spot.area_m2
        sees = room_c + spot.seen_share * (seen - room_c)
        radiation = float(basking.radiative_conductance(surface, sees)) * spot.area_m2
        inward = radiation * spot.seen_share / (spot.seen.stop - spot.seen.start) * (surface - t[spot.seen])
        heat[nodes.spot] -= h_conv_w_k * (surface - near) + inward.sum() + radiation * (1 - spot.seen_share) * (surface - room_c)
        heat[nodes.air] += h_conv_w_k * spot.air * (surface - air)
        heat[spot.seen] += inward
        # Water.
        rates = wet.exchange * PER_PASCAL
        if self.full:
            rates = rates.copy()
            # The dry layer on top has grown by what is gone: 1/h and δ/D in series, against the layer as it is kept.
            dry_m = KEPT_DRY_M + (1 - water / self.full) * self.case.ground_depth_m
            rates[self.ground_top] *= (1 / MASS_TRANSFER + KEPT_DRY_M / SOIL_DIFFUSIVITY) / (
                1 / MASS_TRANSFER + dry_m / SOIL_DIFFUSIVITY
            )
        flows = rates * (saturation_pressure(t) - pressure)
        heat -= LATENT_HEAT * flows
        bowl_air = t[nodes.air] @ wet.bowl_air
        bowl_c = bowl_air - (bowl_air - float(dew_point(pressure))) / 3
        bowl = wet.bowl * PER_PASCAL * (float(saturation_pressure(bowl_c)) - pressure)
        heat[nodes.air] -= LATENT_HEAT * bowl * wet.bowl_air
        bed = self.bed * (humid * saturation_pressure(t[self.ground_top]) - pressure)
        heat[self.ground_top] -= LATENT_HEAT * bed
        open_share = 1.0 if case.is_day(seconds / 3600 % 24) else STOMATA_IN_THE_DARK
        leaves = self.leaves * open_share * PER_PASCAL * (saturation_pressure(air) - pressure)
        heat[nodes.air] -= LATENT_HEAT * leaves
        gained = flows.sum() + bowl + bed.sum() + leaves.sum() - self.per_change * changes * (pressure - room_pa)
        lies = np.zeros(0)
        if self.walled:
            wall = t[nodes.walls]
            over = pressure - saturation_pressure(wall + wet.skin_share * (air - wall))
            share = np.where(over > 0, 1.0, np.clip(dew / self.dew_full, 0.0, 1.0))
            taken = self.skins * PER_PASCAL * share * over
            heat[nodes.walls] += LATENT_HEAT * taken
            gained -= taken.sum()
            lies = np.where((taken > 0) & (dew >= self.dew_full), 0.0, taken)
        moist = [gained / self.holds, -flows[self.ground_top].sum() - (leaves.sum() if self.full else 0.0)]
        return np.concatenate([heat / net.capacity, moist, -bed / self.bed_kg, lies])

    def first(self, model: DayModel, node_c: np.ndarray) -> np.ndarray:
        """The state from which a day begins."""
        humid = np.minimum(model.start_pa / saturation_pressure(node_c[self.ground_top]), 1.0)
        return np.concatenate([node_c, [model.start_pa, self.full], humid, np.zeros(self.skins.size)])


def timer_day(case: EnclosureCase, climate: Climate, season: str, method: str = "LSODA", tolerance: float = 1e-8) -> np.ndarray:
    """Step the day of a case without thermostats from lights-on; return states (1440, …), nodes and vapour first, one minute after.

    The sun shines in one block, as `SunCase` has it.
    """
    equations, model = Equations(case, season), DayModel(case, climate, season)
    state = equations.first(model, model.start_c + model.room.of_nodes[model.first_minute])
    hours = {
        case.light_on_hour,
        case.light_off_hour,
        *(hour for heater in case.heaters for hour in (heater.on_hour, heater.off_hour)),
        *((case.sun.from_hour, case.sun.to_hour) if case.sun is not None else ()),
    }
    edges = [*sorted({(round(hour * 60) - model.first_minute) % 1440 for hour in hours} | {0}), 1440]
    found = np.empty((1440, state.size))
    for begin, end in pairwise(edges):
        hour = (model.first_minute + begin + 0.5) / 60 % 24
        duty = equations.timers(hour)
        shines = case.sun is not None and running(case.sun.from_hour, case.sun.to_hour, hour)
        equations.sun_w = case.sun.watts if case.sun is not None and shines else 0.0
        offset = model.first_minute * 60
        minutes = np.arange(begin + 1, end + 1)
        solved = solve_ivp(  # type: ignore[call-overload]
            equations.slope,
            (offset + begin * 60, offset + end * 60),
            state,
            method=method,
            t_eval=offset + minutes * 60,
            rtol=tolerance,
            atol=tolerance,
            args=(duty,),
        )
        found[begin:end] = solved.y.T
        state = solved.y[:, -1]
    return found


class Cycling(Equations):
    """The same with the probes of on/off thermostats as small nodes of their own, behind vapour and ground water."""

    def __init__(self, case: EnclosureCase, season: str) -> None:
        super().__init__(case, season)
        self.cycling = [index for index, heater in enumerate(case.heaters) if heater.control == "on-off"]
        self.rows = np.array([probe_row(case, self.nodes, case.heaters[index]) for index in self.cycling])

    def slope(self, seconds: float, state: np.ndarray, duty: np.ndarray) -> np.ndarray:
        inner = state[: self.inner]
        own = super().slope(seconds, inner, duty)
        lag = PROBE_LINK * (self.rows @ inner[: self.nodes.count] - state[self.inner :])
        own[: self.nodes.count] -= self.rows.T @ lag / self.net.capacity
        return np.concatenate([own, lag / PROBE_HEAT])

    def jacobian(self, _seconds: float, state: np.ndarray, _duty: np.ndarray) -> np.ndarray:
        """Its linear part: what implicit methods need to step far."""
        n = self.nodes.count
        found = np.zeros((state.size, state.size))
        usual = self.exchange.usual_h
        matrix, _room = self.net.bound(np.array([usual]), np.array([4.0]), np.array([6.0]))
        found[:n, :n] = -(matrix[0] + PROBE_LINK * self.rows.T @ self.rows) / self.net.capacity[:, None]
        found[:n, self.inner :] = PROBE_LINK * self.rows.T / self.net.capacity[:, None]
        found[self.inner :, :n] = PROBE_LINK / PROBE_HEAT * self.rows
        found[self.inner :, self.inner :] -= PROBE_LINK / PROBE_HEAT * np.eye(len(self.cycling))
        found[n, n] = -self.per_change * usual / self.holds
        return found


def thermostat_day(
    case: EnclosureCase, climate: Climate, season: str, method: str = "LSODA", tolerance: float = 1e-6
) -> tuple[np.ndarray, np.ndarray]:
    """Step a day of on/off thermostats, restarted at every switch; states (1440, n) and duties (1440, heaters) by the minute."""
    equations, model = Cycling(case, season), DayModel(case, climate, season)
    n, probes = equations.nodes.count, len(equations.cycling)
    start = model.start_c + model.room.of_all[model.first_minute, :n]
    inner, state = equations.inner, np.concatenate([equations.first(model, start), equations.rows @ start])
    hours = {hour for heater in case.heaters for hour in (heater.on_hour, heater.off_hour)} | {
        case.light_on_hour,
        case.light_off_hour,
    }
    edges = [*sorted({(round(hour * 60) - model.first_minute) % 1440 for hour in hours} | {0}), 1440]
    states, duties = np.empty((1440, state.size)), np.zeros((1440, len(case.heaters)))
    on, offset = [False] * probes, model.first_minute * 60.0
    jac = {} if method in ("RK23", "RK45", "DOP853") else {"jac": equations.jacobian}
    for begin, end in pairwise(edges):
        hour = (model.first_minute + begin + 0.5) / 60 % 24
        limit = equations.timers(hour)
        wanted = [case.heaters[index].set_point(day=case.is_day(hour)) for index in equations.cycling]
        now = begin * 60.0
        while now < end * 60.0 - 1e-6:
            duty = limit.copy()
            for place, index in enumerate(equations.cycling):
                on[place] = on[place] and limit[index] > 0
                duty[index] = limit[index] if on[place] else 0.0

            def edge_of(place: int, on: tuple[bool, ...] = tuple(on), wanted: tuple[float, ...] = tuple(wanted)) -> Any:
                half = case.heaters[equations.cycling[place]].hysteresis_k / 2
                bound = wanted[place] + (half if on[place] else -half)

                def crossed(_s: float, y: np.ndarray, _duty: np.ndarray) -> float:
                    return float(y[inner + place] - bound)

                crossed.terminal, crossed.direction = True, 1.0 if on[place] else -1.0  # type: ignore[attr-defined]
                return crossed

            # One that stands past its bound already turns at once.
            turned = [
                place
                for place, index in enumerate(equations.cycling)
                if limit[index] > 0 and edge_of(place)(0.0, state, duty) * edge_of(place).direction > 0
            ]
            if turned:
                for place in turned:
                    on[place] = not on[place]
                continue
            minutes = np.arange(int(now // 60) + 1, end + 1)
            events = [edge_of(place) for place, index in enumerate(equations.cycling) if limit[index] > 0]
            held = [place for place, index in enumerate(equations.cycling) if limit[index] > 0]
            span = (offset + now, offset + end * 60.0)
            times = offset + minutes * 60.0
            solved = solve_ivp(  # type: ignore[call-overload]
                equations.slope,
                span,
                state,
                method=method,
                t_eval=times,
                rtol=tolerance,
                atol=tolerance,
                args=(duty,),
                events=events,
                **jac,
            )
            reached = len(solved.t)
            if reached:  # it may turn before the next whole minute
                states[minutes[:reached] - 1], duties[minutes[:reached] - 1] = solved.y.T, duty
            if solved.status != 1:
                state, now = solved.y[:, -1], end * 60.0
                continue
            which = next(place for place, found in enumerate(solved.t_events) if found.size)
            stopped = float(solved.t_events[which][0]) - offset
            # The minute in which it turns is partly on and partly off.
            last = int(stopped // 60)
            if last < 1440:
                duties[last] = duty
            state, now = solved.y_events[which][0].copy(), stopped
            on[held[which]] = not on[held[which]]
            state[inner + held[which]] += 1e-9 if on[held[which]] else -1e-9
    return states, duties
