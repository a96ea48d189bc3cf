"""The same equations as `husbandry.climate.day`, continuous, for scipy's integrators: written from the arrays' side."""

from itertools import pairwise

import numpy as np
from scipy.integrate import solve_ivp

from husbandry.climate import basking, network, walls
from husbandry.climate.air import AIR_DENSITY, PRESSURE_PA, VAPOUR_RATIO, dew_point, saturation_pressure
from husbandry.climate.case import EnclosureCase, running
from husbandry.climate.day import DayModel, room_curve
from husbandry.climate.humidity import LATENT_HEAT, PER_PASCAL, wetting
from husbandry.climate.parameters import PRIOR
from husbandry.climate.residual import BUFFER, DAMP_WATER, DRY_BELOW
from husbandry.climate.steady import Climate


class Equations:
    """dT/dt, de/dt and d(ground water)/dt of one enclosure in one season; the heaters' duties are given from outside."""

    def __init__(self, case: EnclosureCase, season: str) -> None:
        self.case, self.room = case, case.rooms[season]
        self.net = network.build(case, PRIOR.nominal())
        self.nodes = self.net.nodes
        self.watts = np.array([heater.watts for heater in case.heaters])
        self.wet = wetting(case.shell)
        room_pa = self.room.humidity_percent / 100 * float(saturation_pressure((self.room.day_c + self.room.night_c) / 2))
        self.per_change = AIR_DENSITY * case.volume_m3 / 3600 * VAPOUR_RATIO / (PRESSURE_PA - room_pa)
        self.holds = case.volume_m3 * PER_PASCAL * BUFFER
        self.full = DAMP_WATER * case.length_m * case.width_m * case.ground_depth_m if case.ground_damp else 0.0

    def timers(self, hour: float) -> np.ndarray:
        return np.array([float(running(heater.on_hour, heater.off_hour, hour)) for heater in self.case.heaters])

    def room_c(self, hour: float) -> float:
        return float(room_curve(self.room, np.array([hour]))[0])

    def slope(self, seconds: float, state: np.ndarray, duty: np.ndarray) -> np.ndarray:
        net, nodes, case, wet = self.net, self.nodes, self.case, self.wet
        t, pressure, water = state[: nodes.count], state[nodes.count], state[nodes.count + 1]
        room_c = self.room_c(seconds / 3600 % 24)
        heat = net.per_watt[0] @ (self.watts * duty) - net.conductance[0] @ t + net.to_room[0] * room_c
        air = t[nodes.air]
        rise = air.mean() - room_c
        share = max(np.sqrt(abs(rise) / walls.REFERENCE_RISE_K), walls.LEAST_AIR_CHANGE_SHARE)
        changes = walls.air_changes(case) * share
        heat[nodes.air] -= net.vent[nodes.air] * changes * (air - room_c)
        spot = net.spot
        surface, near, seen = t[nodes.spot], t[spot.air], t[spot.seen].mean()
        film = basking.plate_convection(np.array([surface]), np.array([near]), case.spot.side_m)[0] * spot.area_m2
        sees = room_c + spot.seen_share * (seen - room_c)
        radiation = float(basking.radiative_conductance(np.array([surface]), np.array([sees]))[0]) * spot.area_m2
        inward = radiation * spot.seen_share / (spot.seen.stop - spot.seen.start) * (surface - t[spot.seen])
        heat[nodes.spot] -= film * (surface - near) + inward.sum() + radiation * (1 - spot.seen_share) * (surface - room_c)
        heat[spot.air] += film * (surface - near)
        heat[spot.seen] += inward
        # Water.
        room_pa = self.room.humidity_percent / 100 * float(saturation_pressure(room_c))
        rates = wet.exchange * PER_PASCAL
        if self.full:
            rates = rates.copy()
            rates[nodes.ground_top] *= min(water / (DRY_BELOW * self.full), 1.0)
        flows = rates * (saturation_pressure(t) - pressure)
        heat -= LATENT_HEAT * flows
        bowl_air = t[wet.bowl_air]
        bowl_c = bowl_air - (bowl_air - float(dew_point(pressure))) / 3
        bowl = wet.bowl * PER_PASCAL * (float(saturation_pressure(bowl_c)) - pressure)
        heat[wet.bowl_air] -= LATENT_HEAT * bowl
        gained = flows.sum() + bowl - self.per_change * changes * (pressure - room_pa)
        if nodes.walled:
            wall = t[nodes.walls]
            skins = wet.skins[nodes.walls] * PER_PASCAL
            taken = skins * np.maximum(pressure - saturation_pressure(wall + wet.skin_share * (air - wall)), 0.0)
            heat[nodes.walls] += LATENT_HEAT * taken
            gained -= taken.sum()
        return np.concatenate([heat / net.capacity, [gained / self.holds, -flows[nodes.ground_top].sum()]])


def timer_day(case: EnclosureCase, climate: Climate, season: str, method: str = "LSODA", tolerance: float = 1e-8) -> np.ndarray:
    """Step the day of a case without thermostats from lights-on; return states (1440, nodes + 2), first one minute after."""
    equations, model = Equations(case, season), DayModel(case, climate, season)
    state = np.concatenate(
        [model.start_c + model.of_room[model.first_minute, : model.nodes.count], [model.start_pa, equations.full]]
    )
    hours = {
        case.light_on_hour,
        case.light_off_hour,
        *(hour for heater in case.heaters for hour in (heater.on_hour, heater.off_hour)),
    }
    edges = [*sorted({(round(hour * 60) - model.first_minute) % 1440 for hour in hours} | {0}), 1440]
    found = np.empty((1440, state.size))
    for begin, end in pairwise(edges):
        duty = equations.timers((model.first_minute + begin + 0.5) / 60 % 24)
        offset = model.first_minute * 60
        minutes = np.arange(begin + 1, end + 1)
        solved = solve_ivp(
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
