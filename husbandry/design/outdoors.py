"""A pen or a shed out of doors, month by month: sun in, nights out, and on how many days of the year it is in band.

Each month's mean day is stepped through with its sun; single days stray about it by a few degrees (normally distributed),
which turns a mean into a number of days.
"""

import calendar
import math
from dataclasses import dataclass, replace
from datetime import date
from typing import Final

from husbandry.animal.body import body_of
from husbandry.climate.case import EnclosureCase, OutsideCase, RoomState, SunCase
from husbandry.climate.day import course
from husbandry.climate.network import build
from husbandry.climate.openings import exchange_of
from husbandry.climate.parameters import PRIOR
from husbandry.climate.steady import solve_steady
from husbandry.inputs.climate_case import enclosure_case
from husbandry.light.daylength import daylight_hours
from husbandry.plan.habitat import HabitatPlan, Outdoors
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile

STRAY_K: Final = 3.5  # one standard deviation of a day about its month's mean (estimate, mild climates)
SEASON: Final = "winter"
MIDDAY: Final = 12.5
PEAK: Final = math.pi / 2  # of a sine from rise to set, over its mean
EARTH_WARMER_K: Final = 1.0  # deep below, than the year's mean of the air (estimate)
SKY_K: Final = 20.0  # colder than the air where it is clear (Swinbank 1963, near 10 °C; from memory)
CLEAR_SHARE: Final = 0.5  # of the time, in mild climates (estimate)
OUTSIDE_PERCENT: Final = 70.0  # relative humidity over a day (estimate)
COMMON_YEAR: Final = 2027


@dataclass(frozen=True)
class Month:
    """One month: the mean day's extremes inside (°C), hours of sun, and days in band without and with heat by night.

    `warm_days` reach the basking or warm-air band; `cold_nights` fall below the night's least; `good_days` do neither badly.
    `heat_w` holds the cool end at the night's least on the mean night, at full power all night.
    """

    number: int
    light_h: float
    warmest_c: float
    surface_c: float
    coldest_c: float
    warm_days: float
    cold_nights: float
    too_hot_days: float
    good_days: float
    heat_w: float


def months(plan: HabitatPlan, profile: Profile, today: date) -> tuple[Month, ...]:
    """Step through the twelve months; empty for a habitat that stands indoors."""
    if plan.outdoors is None:
        return ()
    return tuple(_month(plan, plan.outdoors, profile, today, number) for number in range(1, 13))


def month_case(plan: HabitatPlan, number: int) -> EnclosureCase:
    """The enclosure on the mean day of a month (1–12) out of doors. Raises ValueError for a plan that stands indoors."""
    outside = plan.outdoors
    if outside is None:
        raise ValueError("it stands indoors")
    light_h = daylight_hours(outside.latitude_deg, date(COMMON_YEAR, number, 15))
    # A day's sun as one block of its strongest hours: the peak of a sine from rise to set, and its energy.
    strong_h = light_h / PEAK
    sun_w = PEAK * 1000 * outside.sun_kwh_m2[number - 1] / max(light_h, 1.0)
    floor_m2 = plan.enclosure.length_m * plan.enclosure.width_m
    return replace(
        enclosure_case(plan),
        outdoors=OutsideCase(EARTH_WARMER_K + sum(outside.day_c + outside.night_c) / 24, SKY_K * CLEAR_SHARE),
        rooms={SEASON: RoomState(outside.day_c[number - 1], outside.night_c[number - 1], OUTSIDE_PERCENT)},
        sun=SunCase(sun_w * floor_m2 * outside.sun_share, MIDDAY - strong_h / 2, MIDDAY + strong_h / 2),
    )


def _month(plan: HabitatPlan, outside: Outdoors, profile: Profile, today: date, number: int) -> Month:
    stage = body_of(plan, profile, today).decision.stage
    light_h = daylight_hours(outside.latitude_deg, date(COMMON_YEAR, number, 15))
    case = month_case(plan, number)
    day = course(case, solve_steady(case, spread=False, seasons=(SEASON,)), SEASON)
    warm = choose(stage.heat.warm_air_c, plan.schools)
    basking = choose(stage.heat.basking_surface_c, plan.schools) if stage.heat.basking_surface_c else None
    night = choose(stage.heat.night_c, plan.schools)
    wanted_c = (basking or warm).least
    reached_c = float(day.basking_surface.max()) if basking else float(day.warm_air.max())
    least_c = night.least
    coldest_c, warmest_c = float(day.cool_air.min()), float(day.hottest_air.max())
    ceiling_c = stage.heat.ceiling_c.value
    days = calendar.monthrange(COMMON_YEAR, number)[1]
    warm_share, cold_share = _share_above(reached_c, wanted_c), 1 - _share_above(coldest_c, least_c)
    hot_share = _share_above(float(day.cool_air.max()), ceiling_c)
    return Month(
        number,
        light_h,
        warmest_c,
        reached_c,
        coldest_c,
        days * warm_share,
        days * cold_share,
        days * hot_share,
        days * max(warm_share - hot_share, 0.0) * (1 - cold_share),
        _heat_for(case, least_c - coldest_c),
    )


def _share_above(mean_c: float, limit_c: float) -> float:
    """The share of days above a limit, about a mean."""
    return 0.5 * math.erfc((limit_c - mean_c) / (STRAY_K * math.sqrt(2)))


def _heat_for(case: EnclosureCase, missing_k: float) -> float:
    """W that lift the whole inside by `missing_k` through the night, by what it loses in all; nought where nothing is missing."""
    if missing_k <= 0:
        return 0.0
    net = build(replace(case, heaters=(), belief=PRIOR), PRIOR.nominal())
    # What couples two nodes cancels: the sum is what all lose to the air outside and to the earth.
    lost = float(net.conductance[0].sum() + net.vent.sum() * exchange_of(case.shell).usual_h)
    return lost * missing_k
