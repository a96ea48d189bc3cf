"""The standing chores of a habitat: which there are, how often, and what each hangs on (all common practice, no source).

Each has a name that the edge puts into words; the keeper sets another interval, or none, by that name in the plan.
"""

from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from datetime import date, time, timedelta
from typing import Final

from husbandry.animal.body import Body
from husbandry.animal.year import TimerTurn, rest_of, year_plan
from husbandry.assessment import SEASONS
from husbandry.feeding.history import Appointment
from husbandry.inputs.water_changes import USUAL_DAYS
from husbandry.light.ultraviolet import LAMPS
from husbandry.plan.habitat import HabitatPlan, Watering
from husbandry.species.leaves import choose, in_school
from husbandry.species.profile import Profile
from husbandry.units import clock_text
from husbandry.upkeep.batching import slack_of
from husbandry.upkeep.jobs import Job
from husbandry.upkeep.recur import EveryDays, Monthly, Once, Season, Weekly, spread_over_week

SOAK_DAYS: Final = spread_over_week(3)  # Monday, Wednesday, Friday
HAND_MISTING: Final = (time(8, 0), time(19, 30))
SOON_PAST: Final = timedelta(days=14)  # a rest that ended before is done with
LOOK_AHEAD: Final = timedelta(days=400)
DEEP_CLEAN_DAYS: Final = 60
WET_FROM_PERCENT: Final = 60.0  # of humidity wanted by day: from there up everything is sprayed
LIVES_LOW: Final = ("terrestrial", "burrowing", "rock", "semi-arboreal")
AMPHIBIANS: Final = ("frog", "salamander")
MOST_TAKEN_OUT_M3: Final = 0.05  # of ground: more is renewed in parts, and what lives in it stays
WEIGH_DAYS: Final = (7, 14, 30)  # hatchling, growing, grown
FAECAL_CHECK_BEFORE: Final = timedelta(days=14)
APPOINTMENT_STANDS: Final = timedelta(days=14)  # that one stands as late


@dataclass(frozen=True)
class Done:
    """What the log says of the chores: the last day of each by its id, and the day the habitat was made."""

    since: date
    last: dict[str, date] = field(default_factory=dict)
    next_stage: tuple[str, date] | None = None
    appointments: tuple[Appointment, ...] = ()


def chores(plan: HabitatPlan, profile: Profile, body: Body, done: Done, today: date) -> tuple[Job, ...]:
    """Every chore of this habitat, with the keeper's own intervals."""
    found = []
    for job in _all(plan, profile, body, done, today):
        days = plan.upkeep.every_days.get(job.key)
        if days == 0:
            continue
        if days is not None and isinstance(job.rule, EveryDays | Weekly | Monthly):
            job = replace(job, rule=EveryDays(days, done.since), slack_days=slack_of(days), from_done=days > 1)
        # A lamp was last seen to when it was fitted, or when its replacement was written down.
        last = max((day for day in (job.last_done, done.last.get(job.id)) if day is not None), default=None)
        found.append(replace(job, last_done=last))
    return tuple(found)


def _every(key: str, days: int, since: date, *, at_once: bool = True) -> Job:
    """A chore every so many days; what a new habitat does not need yet first comes after one interval."""
    first = since if at_once else since + timedelta(days=days)
    return Job(key, EveryDays(days, first), from_done=days > 1, slack_days=slack_of(days))


def _all(plan: HabitatPlan, profile: Profile, body: Body, done: Done, today: date) -> Iterator[Job]:
    yield from _water(plan, profile, body, done.since)
    yield from _cleaning(plan, profile, done.since)
    yield from _lamps(plan, done.since)
    yield from _animal(plan, profile, body, done)
    yield from _seasons(plan, profile, done.since, today)
    yield from _lying_food(plan, body, done.since)
    yield from _own(plan, done.since)
    yield from _appointments(done)


def _appointments(done: Done) -> Iterator[Job]:
    """What an entry of the daybook makes due; what was not done in its time is not asked for ever after."""
    for item in done.appointments:
        rule = Once(item.first) if item.every_days is None else EveryDays(item.every_days, item.first)
        until = item.until if item.until is not None else item.first + APPOINTMENT_STANDS
        yield Job(item.key, rule, item.detail, until=until)


def _lying_food(plan: HabitatPlan, body: Body, since: date) -> Iterator[Job]:
    """What always lies there is all renewed before it is old."""
    meals = () if plan.feeding.items else in_school(body.decision.stage.feeding.meals, plan.schools)
    days = [meal.fresh_days for meal in meals if meal.fresh_days is not None]
    if days:
        yield _every("food-renew", round(min(days)), since, at_once=False)


def _own(plan: HabitatPlan, since: date) -> Iterator[Job]:
    """The keeper's own, by their names."""
    for item in plan.upkeep.own:
        season = None
        if item.from_month is not None and item.until_month is not None:
            season = Season.of_months(item.from_month, item.until_month)
        if item.every_days is not None:
            job = Job(
                "own", EveryDays(item.every_days, since), item.name, item.every_days > 1, slack_days=slack_of(item.every_days)
            )
        else:
            job = Job("own", Weekly(tuple(sorted(set(item.weekdays))), since), item.name)
        yield replace(job, season=season)


def _water(plan: HabitatPlan, profile: Profile, body: Body, since: date) -> Iterator[Job]:
    aquatic = profile.habit == "aquatic"
    if plan.bowl is not None and not aquatic:
        yield _every("water", 1, since)
    if profile.group == "tortoise":
        young = body.decision.stage.id != profile.stages[-1].id
        yield Job("soak", Weekly(SOAK_DAYS if young else (2,), since))
    if plan.misting.winter is None:
        yield from _mistings(plan, plan.misting, profile, body, since)
    else:
        for season in SEASONS:
            half = half_year(season, southern=plan.southern)
            yield from _mistings(plan, plan.misting.of(season), profile, body, since, half)
    if plan.misting.fogger_g_per_hour > 0 or plan.misting.of("winter").fogger_g_per_hour > 0:
        yield _every("fogger", 7, since, at_once=False)
    if plan.pool is not None:
        yield _every("water-change", USUAL_DAYS[plan.pool.filtered], since, at_once=False)
        if plan.pool.filtered:
            yield _every("filter", 30, since, at_once=False)
    if any(hide.humid for hide in plan.hides):
        yield _every("moss-damp", 2, since)
        yield _every("moss-change", 14, since, at_once=False)


def _mistings(
    plan: HabitatPlan, water: Watering, profile: Profile, body: Body, since: date, season: Season | None = None
) -> Iterator[Job]:
    """One chore a clock time: each is done for itself; by hand twice a day where no times are set.

    What lives dry is not sprayed: its keeper pours the water on the ground at the cool end, in the evening.
    """
    times = sorted(item.at for item in water.times)
    if not times and water.grams_per_day > 0:
        wanted = choose(body.decision.stage.moisture.day_percent, plan.schools)
        if wanted.middle < WET_FROM_PERCENT and profile.habit in LIVES_LOW and profile.group not in AMPHIBIANS:
            yield Job("dampen", EveryDays(1, since), times=HAND_MISTING[1:], season=season)
            return
        times = list(HAND_MISTING)
    for at in dict.fromkeys(times):
        yield Job("misting", EveryDays(1, since), f"{at:%H:%M}", times=(at,), season=season)


def half_year(season: str, *, southern: bool) -> Season:
    """April to September or October to March, whichever is that season where the keeper lives."""
    return Season.of_months(4, 9) if (season == "summer") != southern else Season.of_months(10, 3)


def _cleaning(plan: HabitatPlan, profile: Profile, since: date) -> Iterator[Job]:
    yield _every("spot-clean", 2 if profile.group == "snake" else 1, since)
    if plan.ground.kind == "paper":
        yield _every("paper", 7, since, at_once=False)
    elif profile.habit != "aquatic":
        cubic_m = plan.ground.depth_m * plan.enclosure.length_m * plan.enclosure.width_m
        lives = plan.ground.damp or profile.group in AMPHIBIANS or cubic_m > MOST_TAKEN_OUT_M3
        if lives:
            yield _every("ground-renew", DEEP_CLEAN_DAYS, since, at_once=False)
        else:
            yield _every("deep-clean", DEEP_CLEAN_DAYS, since, at_once=False)


def _lamps(plan: HabitatPlan, since: date) -> Iterator[Job]:
    if plan.heaters:
        yield _every("thermometers", 7, since)
    if any(heater.thermostat.kind != "none" for heater in plan.heaters):
        yield _every("thermostats", 30, since)
    for index, lamp in enumerate(plan.uv_lamps):
        if lamp.fitted is not None:
            months = round(LAMPS[lamp.kind].rated_life_months)
            yield Job("uv-lamp", Monthly(months, lamp.fitted), str(index), True, lamp.fitted, slack_days=7)
    if plan.uv_lamps:
        yield _every("uv-check", 90, since)


def _animal(plan: HabitatPlan, profile: Profile, body: Body, done: Done) -> Iterator[Job]:
    stages = [stage.id for stage in profile.stages]
    place = stages.index(body.decision.stage.id)
    grown = place == len(stages) - 1
    yield _every("weigh", WEIGH_DAYS[2] if grown else WEIGH_DAYS[min(place, 1)], done.since)
    yield _every("condition", 30, done.since)
    if plan.feeding.calcium_dish:
        yield _every("calcium-dish", 7, done.since)
    if plan.upkeep.quarantine_until is not None:
        yield Job("faecal-check", Once(plan.upkeep.quarantine_until - FAECAL_CHECK_BEFORE))
        yield Job("quarantine-ends", Once(plan.upkeep.quarantine_until))
    if done.next_stage is not None:
        yield Job("next-stage", Once(done.next_stage[1]), done.next_stage[0])


def _seasons(plan: HabitatPlan, profile: Profile, since: date, today: date) -> Iterator[Job]:
    """The timers' turns, the days of a winter rest, and those of a rest the keeper set as days without food."""
    if plan.year.mode != "fixed" or plan.year.cooling is not None:
        year = year_plan(plan, profile, today)
        for turn in year.turns if year.turned else year.turns[1:]:
            if turn.day <= today + LOOK_AHEAD:
                yield Job("timers", Once(max(turn.day, since)), turn.day.isoformat(), why=_hours(turn))
    if plan.year.cooling is not None:
        rest = rest_of(plan.year.cooling, profile)
        yield Job("last-meal", Once(rest.last_meal))
        yield Job("rest-begins", Once(rest.falls))
        yield Job("rest-weigh", EveryDays(7, rest.rests), from_done=False, until=rest.rises)
        yield Job("rest-ends", Once(rest.rises))
        yield Job("first-meal", Once(rest.wakes))
    for item in plan.feeding.fasts:
        if item.why == "rest" and item.last >= today - SOON_PAST:
            yield Job("rest-weigh", EveryDays(7, item.first), item.first.isoformat(), until=item.last)
            yield Job("first-meal", Once(item.last + timedelta(days=1)), item.first.isoformat())


def _hours(turn: TimerTurn) -> str:
    return f"{clock_text(turn.on_hour)}–{clock_text(turn.off_hour)}"
