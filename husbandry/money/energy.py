"""Electricity of a year: the day stepped in each month's room and light, hour by hour, at a tariff by day and by night."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, time, timedelta
from typing import Annotated, Any, Final

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from husbandry.animal.year import hours_on
from husbandry.climate.case import RoomState
from husbandry.climate.day import course
from husbandry.climate.steady import solve_steady
from husbandry.design.outdoors import SEASON, month_case
from husbandry.inputs.climate_case import enclosure_case
from husbandry.inputs.light_sources import glowing, inside_watts
from husbandry.plan.equipment import Part, Timed
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Profile
from husbandry.wiring.consumers import Consumer, consumers

COMMON_YEAR: Final = 2023
DAYS: Final = (31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)
PUMPS: Final = ("filter", "fan", "mister", "fogger")
Floats = NDArray[np.float64]


class Tariff(Part):
    """What a kWh costs, in the keeper's currency: by night another price where there is one, between two hours of the clock."""

    day: Annotated[float, Field(ge=0, le=1000)] = 0.0
    night: Annotated[float, Field(ge=0, le=1000)] | None = None
    night_from: Annotated[int, Field(ge=0, le=23)] = 22
    night_to: Annotated[int, Field(ge=0, le=23)] = 6

    def at(self, hour: int) -> float:
        """The price of a kWh in an hour of the day."""
        begin, end = self.night_from, self.night_to
        dark = begin <= hour < end if begin < end else hour >= begin or hour < end
        return self.night if self.night is not None and dark else self.day


@dataclass(frozen=True)
class MonthEnergy:
    """One month (1–12): the kWh of one of its days by hour of the clock, (24,), and how many days it has."""

    number: int
    by_hour: Floats
    days: int

    @property
    def kwh(self) -> float:
        """What the whole month takes."""
        return float(self.by_hour.sum()) * self.days

    def cost(self, tariff: Tariff) -> float:
        """What the whole month costs."""
        return float(sum(self.by_hour[hour] * tariff.at(hour) for hour in range(24))) * self.days


def year_energy(plan: HabitatPlan, profile: Profile) -> tuple[MonthEnergy, ...]:
    """Return the electricity of each month of a year.

    Parameters
    ----------
    plan
        The habitat. Between the summer's room and the winter's each month lies on a cosine, coldest in January, in the south in
        July; out of doors each month is its own. Lights follow the plan's year.
    profile
        Its species.

    Returns
    -------
    Twelve MonthEnergy, January first; kWh.

    References
    ----------
    The day of each month: `husbandry.climate.day.course`. The cosine between two seasons: an estimate.
    """
    known: dict[tuple[float, float], Floats] = {}
    found = []
    for number in range(1, 13):
        share, hours = _winter_share(plan, number), hours_on(plan, profile, date(COMMON_YEAR, number, 15))
        key = (float(number), hours) if plan.outdoors is not None else (round(share, 6), round(hours, 3))
        if key not in known:
            known[key] = _day(plan, number, share, hours)
        found.append(MonthEnergy(number, known[key], DAYS[number - 1]))
    return tuple(found)


def _winter_share(plan: HabitatPlan, number: int) -> float:
    """How far a month is winter, 0–1."""
    month = number + 6 if plan.southern else number
    return (1 + math.cos(2 * math.pi * (month - 1) / 12)) / 2


def _day(plan: HabitatPlan, number: int, share: float, hours: float) -> Floats:
    """The kWh of one day by hour."""
    lit = with_light(plan, hours)
    if plan.outdoors is not None:
        case, season = month_case(lit, number), SEASON
    else:
        season, case = "winter", enclosure_case(lit)
        cold, warm = case.rooms["winter"], case.rooms["summer"]
        case = replace(case, rooms={"winter": _between(warm, cold, share)}, winter=case.winter if share >= 0.5 else None)
    day = course(case, solve_steady(case, spread=False, seasons=(season,)), season)
    watts = np.array([heater.watts for heater in case.heaters])
    by_hour = (day.duty[:, : watts.size] @ watts).reshape(24, 60).sum(axis=1) / 60_000
    return by_hour + _outside(lit) + _pumped(consumers(lit))


def _between(warm: RoomState, cold: RoomState, share: float) -> RoomState:
    """The room, so far on the way from summer to winter."""

    def mixed(one: float, other: float) -> float:
        return one + share * (other - one)

    curve: tuple[float, ...] = ()
    if warm.curve_c and cold.curve_c:
        curve = tuple(mixed(one, other) for one, other in zip(warm.curve_c, cold.curve_c, strict=True))
    return RoomState(
        mixed(warm.day_c, cold.day_c),
        mixed(warm.night_c, cold.night_c),
        mixed(warm.humidity_percent, cold.humidity_percent),
        curve or (cold.curve_c if share >= 0.5 else warm.curve_c),
    )


def _shares_of_hours(timed: Timed) -> Floats:
    """How much of each hour of the clock something on a timer is on."""
    minutes = (np.arange(1440) + 0.5) / 60
    return np.array([timed.runs_at(float(at)) for at in minutes], float).reshape(24, 60).mean(axis=1)


def _outside(plan: HabitatPlan) -> Floats:
    """What of tubes and bars never gets inside."""
    total = np.zeros(24)
    for hung, watts, _length in glowing(plan):
        total += _shares_of_hours(hung) * (watts - inside_watts(plan, hung, watts)) / 1000
    return total


def _pumped(there: Sequence[Consumer]) -> Floats:
    """What pumps, filters and fans take, evenly over the day."""
    return np.full(24, sum(one.watts * one.hours / 24 for one in there if one.key in PUMPS) / 1000)


def with_light(plan: HabitatPlan, hours: float) -> HabitatPlan:
    """The plan with its day so many hours long: whatever is on while it is light goes on later and off earlier by the same."""
    now = plan.daylight.hours_a_day
    shift_h = (now - hours) / 2
    if abs(shift_h) < 0.01 or not 0.5 < hours < 23.5:
        return plan
    lit = plan.daylight

    def turned(one: Any) -> Any:
        if one.on == one.off or not lit.lights(one) or one.hours_a_day - 2 * shift_h < 0.25 or one.hours_a_day - 2 * shift_h >= 24:
            return one
        return one.model_copy(update={"on": _later(one.on, shift_h), "off": _later(one.off, -shift_h)})

    parts = {name: tuple(turned(one) for one in getattr(plan, name)) for name in ("heaters", "uv_lamps", "light_bars")}
    return plan.model_copy(update={"daylight": turned(plan.daylight), **parts})


def _later(at: time, hours: float) -> time:
    moved = datetime.combine(date(COMMON_YEAR, 1, 2), at) + timedelta(minutes=round(60 * hours))
    return moved.time().replace(second=0, microsecond=0)
