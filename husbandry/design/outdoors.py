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
from husbandry.assess.vetting import harmless
from husbandry.climate.case import EnclosureCase, HeatedHideCase, OutsideCase, RoomState, SunCase
from husbandry.climate.day import course
from husbandry.climate.network import build, hide_loss_w_k
from husbandry.climate.nodes import nodes_of
from husbandry.climate.openings import exchange_of
from husbandry.climate.parameters import PRIOR
from husbandry.climate.steady import solve_steady
from husbandry.inputs.climate_case import enclosure_case
from husbandry.light.daylength import daylight_hours
from husbandry.plan.changes import added
from husbandry.plan.geometry import depth_of, spot_x_m
from husbandry.plan.habitat import HabitatPlan, Outdoors
from husbandry.plan.things import Thing
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
USED_DAYS: Final = 8.0  # warm enough in a month: from there on the pen is of use (estimate)
COLD_NIGHTS: Final = 2.0  # deviations below the month's mean that the heater is made for
STRETCHED, COILED = 1.5, 0.4  # of body length, the inner side of a hide to sleep in (trade; a snake coils)
FOAM_M: Final = 0.04  # in the walls of a heated hide (trade)
HELD_ABOVE_K: Final = 1.0  # over the night's least
HIDE_SIZES_W: Final = (15.0, 25.0, 40.0, 60.0, 80.0, 100.0, 150.0)  # of small guarded heaters and mats (trade)
MOST_HIDES: Final = 8


@dataclass(frozen=True)
class Month:
    """One month: the mean day's extremes inside (°C), hours of sun, and days in band without and with heat by night.

    `warm_days` reach the basking or warm-air band; `cold_nights` fall below the night's least; `good_days` do neither badly.
    `heat_w` holds the cool end at the night's least on the mean night, at full power all night. `hide_c` is the coldest a heated
    hide gets and `hide_w` what its heater draws on the mean of the day, None without one: nights are judged there.
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
    hide_c: float | None = None
    hide_w: float | None = None


@dataclass(frozen=True)
class NightHide:
    """A heated hide that would do for a pen: the hide as the plan takes it, the watts it needs on a cold night, and those that the
    whole pen would need then.
    """

    hide: Thing
    needs_w: float
    pen_w: float


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
    nodes = nodes_of(case)
    hide_c = float(day.nodes[:, nodes.heated_hide].min()) if nodes.heating else None
    hide_w = float(day.duty[:, -1].mean()) * case.heaters[-1].watts if nodes.heating else None
    ceiling_c = stage.heat.ceiling_c.value  # shade and burrow are near: it is not shut in at a cool end
    days = calendar.monthrange(COMMON_YEAR, number)[1]
    # It sleeps where it is warmest: in its heated hide, where it has one.
    warm_share, cold_share = _share_above(reached_c, wanted_c), 1 - _share_held(case, coldest_c, hide_c, least_c)
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
        hide_c,
        hide_w,
    )


def _share_held(case: EnclosureCase, coldest_c: float, hide_c: float | None, least_c: float) -> float:
    """The share of nights above a limit: by the coldest air, or by what the heated hide's heater can make up on a colder one."""
    if hide_c is None:
        return _share_above(coldest_c, least_c)
    heater, hide = case.heaters[-1], case.heated_hide
    assert hide is not None
    if heater.set_c < least_c:
        return _share_above(max(hide_c, coldest_c), least_c)
    return _share_above(coldest_c + heater.watts / hide_loss_w_k(hide), least_c)


def night_hide(plan: HabitatPlan, profile: Profile, today: date, found: tuple[Month, ...]) -> NightHide | None:
    """Return the heated hide that would hold the night's least in the months the pen is of use; None where none is needed or fits.

    Parameters
    ----------
    plan, profile, today
        The pen out of doors and its animal.
    found
        Its months as it stands.

    Returns
    -------
    The hide with its heater, one size of W above what a night two deviations colder than the mean takes. A tenth of what the pen
    takes or less is the rule: heat goes where the animal sleeps before it goes into the open.

    References
    ----------
    Common practice, no source, for the hide's size and foam board; the losses as `hide_loss_w_k`.
    """
    if plan.outdoors is None or any(hide.heated_w is not None for hide in plan.hides) or len(plan.hides) >= MOST_HIDES:
        return None
    body = body_of(plan, profile, today)
    stage = body.decision.stage
    least_c = choose(stage.heat.night_c, plan.schools).least
    used = [month for month in found if month.warm_days >= USED_DAYS and month.cold_nights >= 1.0]
    if not used or body.length_m is None:
        return None
    coldest_c = min(month.coldest_c for month in used)
    missing_k = least_c - (coldest_c - COLD_NIGHTS * STRAY_K)
    side_m = body.length_m * (COILED if profile.body.form == "snake" else STRETCHED) * math.sqrt(plan.animal.count)
    length_m, height_m = (round(max(side, least), 2) for side, least in ((side_m, 0.25), (0.5 * side_m, 0.15)))
    box = plan.enclosure
    if length_m > box.length_m / 2 or height_m + plan.ground.depth_m >= box.height_m:
        return None
    bare = Thing(kind="hide", x_m=0.0, length_m=length_m, height_m=height_m, insulation_m=FOAM_M)
    case = HeatedHideCase(0.0, length_m, depth_of(plan, bare), height_m, FOAM_M)
    needs_w = hide_loss_w_k(case) * missing_k
    watts = next((size for size in HIDE_SIZES_W if size >= needs_w), None)
    if watts is None:
        return None
    held = bare.model_copy(update={"heated_w": watts, "heated_to_c": round(least_c + HELD_ABOVE_K, 1)})
    hide = _placed(plan, profile, today, held)
    if hide is None:
        return None
    pen = enclosure_case(plan)
    pen = replace(pen, outdoors=OutsideCase(coldest_c, 0.0))
    return NightHide(hide, needs_w, _heat_for(pen, missing_k))


def _placed(plan: HabitatPlan, profile: Profile, today: date, hide: Thing) -> Thing | None:
    """The hide at the first place, from the far end on, where it adds no danger and makes nothing wrong, or None."""
    near_m, far_m = hide.length_m / 2, plan.enclosure.length_m - hide.length_m / 2
    ends = (near_m, far_m) if spot_x_m(plan) > plan.enclosure.length_m / 2 else (far_m, near_m)
    for x_m in (ends[0], (ends[0] + plan.enclosure.length_m / 2) / 2, plan.enclosure.length_m / 2, ends[1]):
        placed = hide.model_copy(update={"x_m": round(x_m, 3)})
        if harmless(plan, profile, today, (added(plan, placed.model_dump(mode="json")),)):
            return placed
    return None


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
