"""The course of a day: the zone network stepped exactly through 24 hours, from its periodic state.

Inputs are constant within a step of a quarter hour; the step's propagator is a matrix exponential, exact for the linear
network. The room swings between its night and day temperature as a cosine, coldest at five and warmest at fifteen
o'clock. Thermostats are ideal: each step finds the duty that brings the probe to its set point at the step's end. The
air changes stay at their settled mean of day and night, and the basking surface follows its air and its lamp without
lag: simplifications that issue 4 removes.
"""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import expm

from husbandry.climate import basking, zones
from husbandry.climate.air import relative_humidity
from husbandry.climate.case import EnclosureCase, running
from husbandry.climate.steady import Climate, nominal, spot_model, warm_side_x

Floats = NDArray[np.float64]

STEP_MINUTES: Final = 15
STEPS: Final = 24 * 60 // STEP_MINUTES
MOST_DAYS: Final = 5  # deep damp ground needs the most
SWEEPS: Final = 6  # at most, of thermostats that disturb one another, within a step
AGREED: Final = 0.001  # of a heater's full power
PERIODIC_K: Final = 0.08  # the day repeats itself to this
COLDEST_HOUR: Final = 5.0


@dataclass(frozen=True)
class DayCourse:
    """One season's day; arrays of shape (96,) at the end of each quarter hour, first at 00:15. °C, %, mean duty by heater."""

    hours: Floats
    basking_surface: Floats
    warm_air: Floats
    cool_air: Floats
    warm_humidity: Floats
    cool_humidity: Floats
    duty: Floats
    kwh: float


def room_curve(day_c: float, night_c: float, hours: Floats) -> Floats:
    """Return the room's °C at `hours`: a cosine from `night_c` at five o'clock to `day_c` at seventeen."""
    swing = 0.5 - 0.5 * np.cos(2 * np.pi * (hours - COLDEST_HOUR) / 24)
    return np.asarray(night_c + (day_c - night_c) * swing)


@dataclass(frozen=True)
class Engine:
    """Steps the network with its thermostats. `probes` (heaters, nodes), `offsets` and `lamp_rise` (heaters,) make the readings."""

    case: EnclosureCase
    network: zones.Network
    vent: Floats
    probes: Floats
    offsets: Floats
    lamp_rise: Floats

    def run(
        self, state: Floats, room_c: Floats, on: Floats, set_points: list[list[float]], step_minutes: int
    ) -> tuple[Floats, Floats]:
        """Return states (steps, nodes) and mean duties (steps, heaters) from `state` on.

        `on` (steps, heaters) is the most each may give, `set_points` (steps, heaters) what its probe should read in °C.
        """
        case, network = self.case, self.network
        watts = np.array([heater.watts for heater in case.heaters])
        scale = 1 / network.capacity
        system = -(network.conductance[0] + np.diag(self.vent)) * scale[:, None]
        step = expm(system * step_minutes * 60)
        # ∫ e^{As} ds · b = A⁻¹ (Φ − 1) b
        integral = np.linalg.solve(system, step - np.eye(step.shape[0]))
        room_input = room_c[:, None] * (integral @ ((network.to_room[0] + self.vent) * scale))
        from_heaters = integral @ (network.per_watt[0] * watts * scale[:, None])
        of_duty = self.probes @ from_heaters
        for index, heater in enumerate(case.heaters):
            if heater.probe == "basking-surface":
                of_duty[index] += self.lamp_rise
        crosstalk = of_duty.tolist()
        held = [index for index, heater in enumerate(case.heaters) if heater.control != "none"]
        readings_of_room = (self.offsets[None, :] * room_c[:, None]).tolist()
        most = on.tolist()
        states, duty = np.empty((room_c.size, state.size)), on.copy()
        for k in range(room_c.size):
            free = step @ state + room_input[k]
            acting = [index for index in held if most[k][index]]
            if acting:
                duties = most[k].copy()
                readings = (self.probes @ free).tolist()
                for _ in range(1 if len(acting) == 1 else SWEEPS):
                    moved = 0.0
                    for index in acting:
                        row = crosstalk[index]
                        reading = readings[index] + readings_of_room[k][index]
                        for other, share in enumerate(duties):
                            if other != index:
                                reading += row[other] * share
                        share = min(max((set_points[k][index] - reading) / max(row[index], 1e-9), 0.0), most[k][index])
                        moved = max(moved, abs(share - duties[index]))
                        duties[index] = share
                    if moved < AGREED:
                        break
                duty[k] = duties
            state = free + from_heaters @ duty[k]
            states[k] = state
        return states, duty


def course(case: EnclosureCase, climate: Climate, season: str) -> DayCourse:
    """Step `case` through a day of `season`."""
    network = zones.build(case, nominal())
    day, night = climate.settled[season, "day"], climate.settled[season, "night"]
    vent = network.vent * (day.air_changes_h + night.air_changes_h) / 2
    watts = np.array([heater.watts for heater in case.heaters])
    hours = (np.arange(STEPS) + 1) * STEP_MINUTES / 60
    middle = hours - STEP_MINUTES / 120
    room = case.rooms[season]
    room_c = room_curve(room.day_c, room.night_c, middle)
    on = np.array([[running(heater.on_hour, heater.off_hour, hour) for heater in case.heaters] for hour in middle], float)
    on = on.reshape(STEPS, len(case.heaters))
    set_points = [[heater.set_point(day=case.is_day(hour)) for heater in case.heaters] for hour in middle]
    warm, cool = zones.end_weights(case, warm_side_x(case))
    spot = spot_model(case, np.ones(1))
    at_spot = spot.places(case.levels)
    irradiance = spot.per_watt[0] * watts
    rows = []
    state = np.concatenate([np.array(day.air_c).ravel(), np.array(day.ground_c)])
    # The thermostat's surface as a straight line through the settled day.
    at_air, at_mean, _at_ground = (float(value) for value in at_spot @ state)
    seen_c = room.day_c + spot.enclosed * (at_mean - room.day_c)
    plate = basking.linear_surface(day.predictions["basking_surface"].value, at_air, seen_c, spot.side_m, spot.perch)
    surface_row = plate.air * at_spot[0] + plate.surroundings * spot.enclosed * at_spot[1] + plate.ground * at_spot[2]
    from_room_directly = plate.surroundings * (1 - spot.enclosed)
    lamp_rise = plate.per_irradiance * irradiance
    offsets = []
    for heater in case.heaters:
        row = np.zeros(network.capacity.size)
        if heater.probe == "basking-surface":
            row = surface_row
        else:
            row[: warm.size] = warm if heater.probe == "warm-air" else cool
        rows.append(row)
        offsets.append(from_room_directly if heater.probe == "basking-surface" else 0.0)
    # Deep ground swings little about its mean over the day: beginning there saves days of warming up.
    lit = float(np.mean([case.is_day(hour) for hour in middle]))
    ground_c = lit * np.array(day.ground_c) + (1 - lit) * np.array(night.ground_c)
    state = np.concatenate([np.array(night.air_c).ravel(), ground_c])
    engine = Engine(
        case, network, vent, np.array(rows).reshape(len(case.heaters), network.capacity.size), np.array(offsets), lamp_rise
    )
    # Hours to find the midnight that repeats itself, quarter hours for the day that is shown.
    for _ in range(MOST_DAYS):
        midnight = state
        by_hour = room_c.reshape(24, -1).mean(axis=1), on.reshape(24, STEPS // 24, len(case.heaters)).mean(axis=1)
        hourly, _duty = engine.run(state, *by_hour, set_points[2 :: STEPS // 24], 60)
        state = hourly[-1]
        if np.abs(state - midnight).max() < PERIODIC_K:
            break
    states, duty = engine.run(state, room_c, on, set_points, STEP_MINUTES)
    air = states[:, network.air]
    places = states @ at_spot.T
    surface = spot.temperature(duty @ irradiance, places, room_c)
    vapour = _vapour(case, hours, day.vapour_pa, night.vapour_pa)
    return DayCourse(
        hours,
        surface,
        air @ warm,
        air @ cool,
        np.minimum(relative_humidity(vapour, air @ warm), 100.0),
        np.minimum(relative_humidity(vapour, air @ cool), 100.0),
        duty,
        float((duty @ watts).sum() * STEP_MINUTES / 60 / 1000),
    )


def _vapour(case: EnclosureCase, hours: Floats, day_pa: float, night_pa: float) -> Floats:
    """The vapour pressure settles within the hour, so it follows day and night over an hour's ramp."""
    lit = np.array([case.is_day(hour % 24) for hour in hours], float)
    window = 60 // STEP_MINUTES
    ramp = np.convolve(np.concatenate([lit[-window:], lit]), np.full(window, 1 / window), "valid")[1:]
    return np.asarray(night_pa + (day_pa - night_pa) * ramp)


def hours_to_fall(case: EnclosureCase, climate: Climate, season: str, hours: float) -> float:
    """Return how far mean air stands above the room `hours` after all heat is off, from the settled day, in K."""
    network = zones.build(case, nominal())
    day = climate.settled[season, "day"]
    vent = network.vent * climate.settled[season, "night"].air_changes_h
    system = -(network.conductance[0] + np.diag(vent)) / network.capacity[:, None]
    room_c = case.rooms[season].day_c
    state = np.concatenate([np.array(day.air_c).ravel(), np.array(day.ground_c)]) - room_c
    after = expm(system * hours * 3600) @ state
    return float(after[network.air].mean())
