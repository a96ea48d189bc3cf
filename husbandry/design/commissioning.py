"""The test run of an enclosure: where to read, by when it has settled, which thermostats are to be seen switching."""

from dataclasses import dataclass
from datetime import date
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assessment import Band, Verdict
from husbandry.climate.calibrate import PLACES, places_of, read
from husbandry.climate.case import EnclosureCase
from husbandry.climate.day import DayModel
from husbandry.climate.day_water import first_water
from husbandry.climate.daycourse import MINUTES
from husbandry.climate.steady import solve_steady
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Profile

UV_PLACE: Final = "uv-back"
# Where is read, which quantity that is, by day or night; UV has neither.
CHECKS: Final = (
    ("basking-surface", "basking_surface", "day"),
    ("warm-air", "warm_air", "day"),
    ("cool-air", "cool_air", "day"),
    ("water", "water_temperature", "day"),
    ("warm-humidity", "warm_humidity", "day"),
    ("cool-humidity", "cool_humidity", "day"),
    ("humid-hide", "humid_hide", "day"),
    (UV_PLACE, "uv_back", ""),
    ("warm-air", "warm_air", "night"),
    ("cool-air", "cool_air", "night"),
    ("water", "water_temperature", "night"),
)
SETTLED: Final = {"degC": 0.5, "%": 3.0}  # this near to where it ends, it has settled: as near as an instrument tells (estimate)
LEAST_H: Final = 2.0  # nobody reads sooner after switching on (common practice)
LAMP_H: Final = 0.5  # that a UV lamp burns before it is read (common practice)
MOST_H: Final = 24.0
LOG_H: Final = 24.0  # of a log at the least; 48 is better (common practice)


@dataclass(frozen=True)
class ReadingPoint:
    """One thing to read: a place of `climate.calibrate.PLACES` or "uv-back", its quantity, its band, what is foretold, in `unit`.

    `settle_h` after lights-on, or after switching on where that is later; 24 stands for "the next day".
    """

    place: str
    key: str
    phase: str
    unit: str
    band: Band
    foretold: float | None
    settle_h: float

    def verdict(self, value: float | None) -> Verdict:
        """What a reading, corrected for its instrument, says."""
        return self.band.judge(value)

    def direction(self, value: float) -> int:
        """Tell whether a reading is above the band (1), below it (-1) or neither (0)."""
        if self.band.high is not None and value > self.band.high:
            return 1
        return -1 if self.band.low is not None and value < self.band.low else 0


@dataclass(frozen=True)
class Switch:
    """A thermostat to be seen at work: the heater's path, its kind, and where it goes on and off at its probe, °C."""

    path: str
    kind: str
    on_c: float
    off_c: float


@dataclass(frozen=True)
class Protocol:
    """What a test run is: what to read, which thermostats to watch."""

    season: str
    points: tuple[ReadingPoint, ...]
    switches: tuple[Switch, ...]


def protocol(plan: HabitatPlan, profile: Profile, today: date, season: str) -> Protocol:
    """Return the protocol of a plan's test run.

    Parameters
    ----------
    plan, profile, today
        The habitat, its species, and the day for the animal's stage.
    season
        "summer" or "winter": the one whose room is nearest to today's.

    Returns
    -------
    Protocol; only places there are, only quantities that have a band.

    References
    ----------
    Settling: the plan's own model from a cold start. Two hours and a logged day: common practice, no source.
    """
    found = {item.id: item for item in assess(plan, profile, today, depth=NO_DAYS).quantities}
    case = enclosure_case(plan)
    there = (*places_of(case), UV_PLACE)
    hours = settle_hours(case, season)
    points = []
    for place, key, phase in CHECKS:
        item = found.get("/".join(part for part in (key, season if phase else "", phase) if part))
        if place not in there or item is None or item.band is None or item.verdict is Verdict.NOT_APPLICABLE:
            continue
        unit = "UVI" if place == UV_PLACE else PLACES[place].unit
        settle_h = LAMP_H if place == UV_PLACE else hours[place] if phase == "day" else LEAST_H
        points.append(ReadingPoint(place, key, phase, unit, item.band, item.value, settle_h))
    return Protocol(season, tuple(points), _switches(plan))


def _switches(plan: HabitatPlan) -> tuple[Switch, ...]:
    found = []
    for place, heater in enumerate(plan.heaters):
        held = heater.thermostat
        if held.kind != "none" and held.set_c is not None:
            half = held.hysteresis_k / 2 if held.kind == "on-off" else 0.0
            found.append(Switch(f"heaters.{place}", held.kind, held.set_c - half, held.set_c + half))
    return tuple(found)


def settle_hours(case: EnclosureCase, season: str) -> dict[str, float]:
    """Return how long each place takes from a cold start until it shows what it shows on any other day.

    Parameters
    ----------
    case
        The enclosure.
    season
        "summer" or "winter".

    Returns
    -------
    Hours after lights-on by place, 2 at least; 24 where the first day is not enough.

    References
    ----------
    The day stepped from the room's own temperature, beside the day that repeats itself (`husbandry.climate.day`).
    """
    model = DayModel(case, solve_steady(case, spread=False, seasons=(season,)), season)
    cold_c = np.full(model.nodes.count, float(model.room.room_c[model.first_minute]))
    moist = first_water(model.terms, model.start_pa, cold_c.tolist())
    first = model.run(start=(np.append(cold_c, model.thermostats.probes @ cold_c), moist)).course()
    usual = model.periodic()
    lit = round(case.light_hours * 60) % MINUTES or MINUTES
    found = {}
    for place in places_of(case):
        pair = [np.roll(read(day, case, place), -model.first_minute)[:lit] for day in (first, usual)]
        found[place] = _settled_h(np.abs(pair[0] - pair[1]), SETTLED[PLACES[place].unit])
    return found


def _settled_h(apart: NDArray[np.float64], near: float) -> float:
    """After how many hours two courses stay together."""
    off = np.flatnonzero(apart > near)
    if not off.size:
        return LEAST_H
    if off[-1] >= apart.size - 1:
        return MOST_H
    return max(LEAST_H, float(np.ceil((off[-1] + 1) / 15) / 4))
