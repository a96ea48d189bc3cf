"""The year of a habitat: how long the light burns week by week, a winter rest with its ramps, and when to turn the timers.

The middle of the day stays where the plan's own light has it; morning and evening move by the same time.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from operator import itemgetter
from typing import Final

from husbandry.light.daylength import daylight_hours
from husbandry.plan.equipment import hours_of
from husbandry.plan.habitat import Cooling, HabitatPlan, LightFrom
from husbandry.species.profile import Dormancy, Profile

STEP_MIN: Final = 15  # what a timer is turned by; less is not worth the walk
LEAST_H, MOST_H = 6.0, 16.0  # a rest by lamps does without less, and no animal needs more (trade)
REST_H: Final = 6.0  # of light a day in the depth of a winter rest (trade: six to eight, or none)
WEEK: Final = timedelta(days=7)
MID_WEEK: Final = timedelta(days=3)  # a timer is right on the average of its week
LOOK_BACK_WEEKS: Final = 60  # further back than a year the light was the same as now
WEEKS: Final = 53
MOST_WEEKS: Final = 90  # where a rest reaches beyond the year
LATEST_FALL_DAYS: Final = 30  # after the usual day: later, the rest would run into spring
DEFAULT_EMPTY_DAYS: Final = 21  # from the last meal until the gut is empty, where the book does not say (trade)
RESTS: Final = ("winter cooling", "hibernation")


@dataclass(frozen=True)
class Week:
    """One week from `day`: hours of light, and how far warmth and light are drawn down (0 awake, 1 at rest)."""

    day: date
    hours: float
    rest: float


@dataclass(frozen=True)
class TimerTurn:
    """A day on which the timer is turned, to clock hours; with none or twenty-four `hours` the light stays off or on."""

    day: date
    on_hour: float
    off_hour: float
    hours: float


@dataclass(frozen=True)
class Rest:
    """A winter rest's dates: the last meal, the fall, the rest, the rise, awake again; `terms` are the species' own."""

    last_meal: date
    falls: date
    rests: date
    rises: date
    wakes: date
    terms: Dormancy | None


@dataclass(frozen=True)
class YearPlan:
    """A year of weeks from the first day asked for, the timer's turns, and the rest where there is one.

    The first of the turns is the one in force on the first day; without `turned` the light was never otherwise before.
    """

    weeks: tuple[Week, ...]
    turns: tuple[TimerTurn, ...]
    rest: Rest | None
    turned: bool = True


def year_plan(plan: HabitatPlan, profile: Profile, first: date) -> YearPlan:
    """Work out the year that begins at `first`, and on to the end of a rest that begins in it."""
    rest = None if plan.year.cooling is None else rest_of(plan.year.cooling, profile)
    weeks = []
    through = WEEKS if rest is None else max(WEEKS, min((rest.wakes - first).days // 7 + 2, MOST_WEEKS))
    for number in range(through):
        day = first + number * WEEK
        weeks.append(Week(day, _light(plan, profile, rest, day), _drawn_down(rest, day)))
    turns, turned = _turns(plan, profile, rest, first, weeks[-1].day)
    return YearPlan(tuple(weeks), turns, rest, turned)


def hours_on(plan: HabitatPlan, profile: Profile, day: date) -> float:
    """Hours of light on one day; a winter rest is left out of account but where the keeper's own dates hold it."""
    year = plan.year
    if year.mode == "dates":
        return _in_force(year.days, day)[1].hours
    fixed = plan.daylight.hours_a_day
    latitude = latitude_of(plan, profile)
    if year.mode == "fixed" or latitude is None:
        return fixed
    return min(max(daylight_hours(latitude, day), LEAST_H), MOST_H)


def light_on(plan: HabitatPlan, profile: Profile, day: date) -> Week:
    """What the timer is to give on one day, a winter rest and all."""
    rest = None if plan.year.cooling is None else rest_of(plan.year.cooling, profile)
    return Week(day, _light(plan, profile, rest, day), _drawn_down(rest, day))


def awake_hours(plan: HabitatPlan, profile: Profile, first: date) -> tuple[Week, ...]:
    """The shortest and the longest day of the year from `first`, outside a winter rest; none where every day is as long."""
    if plan.year.mode == "fixed":
        return ()
    awake = [light_on(plan, profile, first + timedelta(days=days)) for days in range(366)]
    awake = [day for day in awake if not day.rest]
    if not awake or len({round(day.hours, 1) for day in awake}) == 1:
        return ()
    return min(awake, key=lambda day: day.hours), max(awake, key=lambda day: day.hours)


def _in_force(days: Sequence[LightFrom], day: date) -> tuple[date, LightFrom]:
    """The keeper's own length of day that holds on a day, and since when."""
    begins = [(step.day_of(year), step) for step in days for year in {day.year, max(day.year - 1, date.min.year)}]
    return max((item for item in begins if item[0] <= day), key=itemgetter(0), default=min(begins, key=itemgetter(0)))


def latitude_of(plan: HabitatPlan, profile: Profile) -> float | None:
    """The latitude whose days the light follows, on the keeper's side of the equator; None where none is known."""
    year = plan.year
    if year.mode == "native" and profile.native_latitude is not None:
        return -profile.native_latitude.value if plan.southern else profile.native_latitude.value
    return plan.latitude_deg if year.mode == "latitude" else None


def terms_of(profile: Profile) -> Dormancy | None:
    """The species' own terms of a winter rest, None where the book has none."""
    return next((item for item in profile.dormancy if item.kind in RESTS), None)


def never_rests(profile: Profile) -> Dormancy | None:
    """What the book says where an animal of this species is never cooled; None where it may be, or where the book says nothing."""
    return next((item for item in profile.dormancy if item.kind == "never"), None)


def rest_of(cooling: Cooling, profile: Profile) -> Rest:
    """Lay out the dates of a winter rest; the gut is empty before the warmth falls."""
    rests = cooling.begins + cooling.down_weeks * WEEK
    rises = rests + cooling.rest_weeks * WEEK
    last_meal = cooling.begins - empty_after(profile)
    return Rest(last_meal, cooling.begins, rests, rises, rises + cooling.up_weeks * WEEK, terms_of(profile))


def empty_after(profile: Profile) -> timedelta:
    """Return how long after a meal the gut is empty at the longest."""
    terms = terms_of(profile)
    empty = terms.last_meal_days if terms is not None else None
    return timedelta(days=round(empty.most) if empty is not None else DEFAULT_EMPTY_DAYS)


def usual_cooling(profile: Profile, today: date, *, southern: bool) -> Cooling | None:
    """A first proposal: the fall begins with November (May in the south), or as soon as the gut can be empty where that is
    still this autumn; weeks by the species. None where it has no rest.
    """
    terms = terms_of(profile)
    if terms is None:
        return None
    month = 5 if southern else 11
    begins = max(date(today.year, month, 1), today + empty_after(profile))
    if (begins - date(today.year, month, 1)).days > LATEST_FALL_DAYS:
        begins = date(today.year + 1, month, 1)
    weeks = terms.weeks.middle if terms.weeks is not None else 8.0
    return Cooling(begins=begins, rest_weeks=max(round(weeks), 1))


def _drawn_down(rest: Rest | None, day: date) -> float:
    if rest is None or not rest.falls <= day < rest.wakes:
        return 0.0
    if day < rest.rests:
        return (day - rest.falls).days / (rest.rests - rest.falls).days
    if day < rest.rises:
        return 1.0
    return 1 - (day - rest.rises).days / (rest.wakes - rest.rises).days


def _light(plan: HabitatPlan, profile: Profile, rest: Rest | None, day: date) -> float:
    """Hours of light on a day, a winter rest and all."""
    usual = hours_on(plan, profile, day)
    if plan.year.mode == "dates":
        return usual
    return usual + (min(REST_H, usual) - usual) * _drawn_down(rest, day)


def _turns(plan: HabitatPlan, profile: Profile, rest: Rest | None, first: date, last: date) -> tuple[tuple[TimerTurn, ...], bool]:
    """The timer's turns, and whether the first of them is one.

    What a timer shows in a week is a matter of that week alone, on Mondays of the calendar: whoever works the year out, and
    whenever, finds the same dates. The first turn is the one in force on `first`, on the day it came into force. The keeper's
    own dates are turns on those days.
    """
    middle = (hours_of(plan.daylight.on) + plan.daylight.hours_a_day / 2) % 24
    if plan.year.mode == "dates":
        return _own_turns(plan.year.days, middle, first, last)

    def half(monday: date) -> float:
        return round(_light(plan, profile, rest, monday + MID_WEEK) * 60 / 2 / STEP_MIN) * STEP_MIN / 60

    monday, steps = first - timedelta(days=first.weekday()), 0
    while steps < LOOK_BACK_WEEKS and half(monday - WEEK) == half(monday):
        monday, steps = monday - WEEK, steps + 1
    found = [monday]
    while (monday := monday + WEEK) <= last:
        if half(monday) != half(found[-1]):
            found.append(monday)
    turns = tuple(TimerTurn(day, (middle - half(day)) % 24, (middle + half(day)) % 24, 2 * half(day)) for day in found)
    return turns, steps < LOOK_BACK_WEEKS


def _own_turns(days: Sequence[LightFrom], middle: float, first: date, last: date) -> tuple[tuple[TimerTurn, ...], bool]:
    since, step = _in_force(days, first)
    begins = sorted(((item.day_of(year), item) for item in days for year in range(first.year, last.year + 1)), key=itemgetter(0))
    found = [(since, step)]
    for day, item in begins:
        if first < day <= last and item.hours != found[-1][1].hours:
            found.append((day, item))
    turns = tuple(TimerTurn(day, (middle - item.hours / 2) % 24, (middle + item.hours / 2) % 24, item.hours) for day, item in found)
    return turns, len({item.hours for item in days}) > 1
