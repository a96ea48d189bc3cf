"""A week of water: humidity hour by hour from freshly watered ground on, and how many mistings of how many grams hold it."""

from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.assessment import Band
from husbandry.climate.case import EnclosureCase, MistingCase
from husbandry.climate.day import DayModel
from husbandry.climate.day_water import Moist
from husbandry.climate.daycourse import DayCourse
from husbandry.climate.ground import HALF
from husbandry.climate.steady import solve_steady
from husbandry.climate.terms import ground_holds
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.habitat import HabitatPlan
from husbandry.remedies.misting import COVERS, may_be_misted
from husbandry.species.leaves import choose
from husbandry.species.stage import Stage

Floats = NDArray[np.float64]

DAYS: Final = 7
HOURLY: Final = slice(59, None, 60)
MOST_TIMES: Final = 4
CLEARLY: Final = 0.02  # of the day: less is no difference
ENOUGH: Final = 0.5  # of the day: where less is held, part of an open lid is covered
TRIED_G: Final = (5, 10, 15, 20, 30, 40, 60, 80, 120, 160, 240, 320, 480)


@dataclass(frozen=True)
class WeekOfWater:
    """Hours from lights-on (168,): % at either end; the share of its water that damp ground still has at each day's end.

    `half_dry_day` is when the ground passes half, None where it does not in the week; `holds_kg` what it can give in all.
    """

    cool_humidity: Floats
    warm_humidity: Floats
    ground_share: tuple[float, ...]
    half_dry_day: int | None
    holds_kg: float
    misted_kg: float


@dataclass(frozen=True)
class Mistings:
    """Mistings a day at clock `hours`, grams each, and the shares (0–1) of the day that the cool end is in its band.

    `share` with these mistings, `share_now` as the plan mists; `lid_covered` is the share of the lid that they need covered.
    """

    times: int
    grams: float
    share: float
    share_now: float
    hours: tuple[float, ...]
    lid_covered: float


def week(plan: HabitatPlan, season: str) -> WeekOfWater:
    """Step through seven days of `season` from ground that is full of water, as the plan waters and mists."""
    case = enclosure_case(plan)
    model = DayModel(case, solve_steady(case, spread=False, seasons=(season,)), season)
    start: tuple[Floats, Moist] | None = None
    cool, warm, shares, given = [], [], [], 0.0
    holds = ground_holds(case)
    for _ in range(DAYS):
        run = model.run(start=start)
        start, day = run.end, run.course()
        cool.append(np.roll(day.cool_humidity, -model.first_minute)[HOURLY])
        warm.append(np.roll(day.warm_humidity, -model.first_minute)[HOURLY])
        shares.append(day.water.ground / holds if holds else 0.0)
        given += day.water.given
    half = next((number + 1 for number, share in enumerate(shares) if share < HALF), None) if holds else None
    return WeekOfWater(np.concatenate(cool), np.concatenate(warm), tuple(shares), half, holds, given)


class NoMisting(StrEnum):
    """Why no mistings are offered: water does not belong into this air, its band is held as it is, or nothing holds it better."""

    DRY_PLACE = "dry_place"
    HELD = "held"
    NONE_BETTER = "none_better"


def mistings(plan: HabitatPlan, stage: Stage, season: str) -> Mistings | NoMisting:
    """Return the fewest mistings a day, evenly over the light, and the least water that hold the cool end best; or why none.

    Under a mesh or open lid that lets the water go at once, with part of the lid covered. They are for this season alone.
    """
    if not may_be_misted(plan, stage):
        return NoMisting.DRY_PLACE
    now = enclosure_case(plan)
    bands = choose(stage.moisture.day_percent, plan.schools).band(), choose(stage.moisture.night_percent, plan.schools).band()
    before = _held(now, season, bands)
    if before > 0.98:
        return NoMisting.HELD
    best: Mistings | None = None
    for covered in (now.lid_covered, *(share for share in COVERS if now.lid != "solid" and share > now.lid_covered)):
        best = _fewest(replace(now.without_water(), lid_covered=covered), season, bands, best or before)
        if best is not None and best.share > ENOUGH:
            break
    return best or NoMisting.NONE_BETTER


def _fewest(case: EnclosureCase, season: str, bands: tuple[Band, Band], than: Mistings | float) -> Mistings | None:
    """The best under one lid that is clearly better `than` what was found before, or holds so much of the day; else that."""
    best, before = (than, than.share_now) if isinstance(than, Mistings) else (None, than)
    for times in range(1, MOST_TIMES + 1):
        hours = tuple((case.light_on_hour + case.light_hours * (k + 0.25) / times) % 24 for k in range(times))
        last = 0.0
        for grams in TRIED_G:
            misted = replace(case, mistings=tuple(MistingCase(hour, grams / 1000) for hour in hours))
            share = _held(misted, season, bands)
            if share > (best.share if best else before) + CLEARLY:
                best = Mistings(times, float(grams), share, before, hours, case.lid_covered)
            if share < last - CLEARLY:
                break  # more only makes it wetter than it should be
            last = share
    return best


def _held(case: EnclosureCase, season: str, bands: tuple[Band, Band]) -> float:
    """The share of the day that the cool end's humidity stands in the band of its hour, by day and by night."""
    by_day, by_night = bands
    day: DayCourse = DayModel(case, solve_steady(case, spread=False, seasons=(season,)), season).run().course()
    low = np.where(day.lit, by_day.low or 0.0, by_night.low or 0.0)
    high = np.where(day.lit, by_day.high or 100.0, by_night.high or 100.0)
    return float(((day.cool_humidity >= low) & (day.cool_humidity <= high)).mean())
