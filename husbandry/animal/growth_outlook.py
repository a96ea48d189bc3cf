"""What is to come: the dates of the next life stages, and when the enclosure will be too small."""

import math
from bisect import bisect_left
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.animal.body import Body, body_of
from husbandry.animal.needs import box_of, minimum_needs
from husbandry.animal.subject import Subject
from husbandry.animal.weighings import Weighing
from husbandry.plan.habitat import HabitatPlan
from husbandry.space.growth import DAYS_PER_YEAR, Growth, Measurement, Prior, fit, rate
from husbandry.space.sizing import short, sides_for
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage
from husbandry.species.stages import decide_stage, expected_length_m, expected_mass_kg

# Half months for two years, two months for the thirteen after them.
STEPS_DAYS: Final = np.concatenate([np.arange(0.0, 730.0, 15.0), np.arange(730.0, 15 * DAYS_PER_YEAR, 60.0)])
Floats = NDArray[np.float64]
Curves = dict[str, Floats]


@dataclass(frozen=True)
class When:
    """A date with its earliest and latest; None where it does not come within the years looked at."""

    day: date | None
    earliest: date | None
    latest: date | None


@dataclass(frozen=True)
class Course:
    """Ages (days) and dates ahead, with the middle, slow and fast length (m) at each; all of shape (n,)."""

    days: tuple[date, ...]
    length_m: tuple[float, ...]
    low_m: tuple[float, ...]
    high_m: tuple[float, ...]


@dataclass(frozen=True)
class Outlook:
    """`stages` to come with their dates; `outgrown` when the enclosure falls short of the minimum, and the size it then takes.

    `measured` counts the measurements the curve was fitted to.
    """

    course: Course
    stages: tuple[tuple[Stage, When], ...]
    outgrown: When
    next_size_m: tuple[float, float, float] | None
    measured: int


def outlook(plan: HabitatPlan, profile: Profile, today: date, weighings: tuple[Weighing, ...] = ()) -> Outlook | None:
    """Look ahead from `today`; None where neither age nor size is known."""
    body = body_of(plan, profile, today)
    if body.length_m is None and body.age_days is None:
        return None
    growth, now_days, measured = _growth(plan, profile, today, weighings, body)
    steps = STEPS_DAYS
    lengths = _middle(growth, body, now_days, steps)
    low, high = growth.spread(now_days + steps)
    if body.length_known and body.length_m is not None:
        # Every curve starts from what was measured today; the spread opens from there.
        low, high = (_from(body.length_m, line, growth) for line in (low, high))
        low, high = np.minimum(low, lengths), np.maximum(high, lengths)
    curves = {"day": lengths, "latest": low, "earliest": high}
    return Outlook(
        Course(
            tuple(today + timedelta(days=float(step)) for step in steps),
            tuple(lengths.tolist()),
            tuple(low.tolist()),
            tuple(high.tolist()),
        ),
        _stages(Subject(plan, profile, today, body), now_days, steps, curves),
        *_outgrown(Subject(plan, profile, today, body), now_days, steps, curves, float(lengths[-1])),
        measured,
    )


def outgrown_within(
    plan: HabitatPlan, profile: Profile, body: Body, today: date, days: float, weighings: tuple[Weighing, ...] = ()
) -> tuple[date, tuple[float, float, float]] | None:
    """Return when, within `days`, the enclosure falls short of the minimum, and the sides (m) the grown animal takes.

    None where it does not, where it is short today, or where neither age nor size is known.
    """
    if body.length_m is None and body.age_days is None:
        return None
    growth, now_days, _measured = _growth(plan, profile, today, weighings, body)
    steps = np.arange(0.0, days + 1, STEPS_DAYS[1])
    grown_m = float(_middle(growth, body, now_days, STEPS_DAYS)[-1])
    line = {"day": _middle(growth, body, now_days, steps)}
    when, size = _outgrown(Subject(plan, profile, today, body), now_days, steps, line, grown_m)
    return None if when.day is None or size is None or when.day == today else (when.day, size)


def courses(
    plan: HabitatPlan, profile: Profile, today: date, weighings: tuple[Weighing, ...], body: Body
) -> tuple[float, Floats] | None:
    """Return the age today in days and the middle length (m) at each of `STEPS_DAYS` ahead; None where nothing is known."""
    if body.length_m is None and body.age_days is None:
        return None
    growth, now_days, _measured = _growth(plan, profile, today, weighings, body)
    return now_days, _middle(growth, body, now_days, STEPS_DAYS)


def _growth(
    plan: HabitatPlan, profile: Profile, today: date, weighings: tuple[Weighing, ...], body: Body
) -> tuple[Growth, float, int]:
    """The fitted curve, the animal's age in days on it, and how many measurements it was fitted to."""
    measured = _measurements(plan, profile, today, weighings, body)
    growth = fit(_prior(profile, plan.animal.sex), measured)
    if body.age_days is not None:
        return growth, body.age_days, len(measured)
    # Without a hatch date the animal is as old as its size says.
    known = growth.age_at(min(body.length_m or 0.0, 0.995 * float(np.exp(growth.log_last))))
    return growth, round(known or 0.0), len(measured)


def _middle(growth: Growth, body: Body, now_days: float, steps: Floats) -> Floats:
    lengths = growth.length(now_days + steps)
    return _from(body.length_m, lengths, growth) if body.length_known and body.length_m is not None else lengths


def _from(start_m: float, line: Floats, growth: Growth) -> Floats:
    """Return the curve's further growth from where the animal is, by the share of it that is left."""
    last = float(np.exp(growth.log_last))
    left = max(last - start_m, 0.0) / max(last - float(line[0]), 1e-6) if line[0] < last else 0.0
    return np.asarray(np.maximum(start_m + (line - line[0]) * left, start_m))


def _prior(profile: Profile, sex: str) -> Prior:
    body = profile.body
    adult, years = body.adult(sex).length_cm, body.years_to_adult
    adult_m = (adult.least / 100, adult.most / 100)
    return Prior(body.hatch_length_cm.value / 100, adult_m, (years.least, years.most))


def next_stage(
    plan: HabitatPlan, profile: Profile, body: Body, today: date, weighings: tuple[Weighing, ...] = ()
) -> tuple[Stage, date] | None:
    """Return the stage to come and the day it is expected; None for the last stage, or where nothing is known of the animal."""
    if body.decision.stage.id == profile.stages[-1].id:
        return None
    course = courses(plan, profile, today, weighings, body)
    if course is None:
        return None
    now_days, lengths = course
    order = [stage.id for stage in profile.stages]
    now = order.index(body.decision.stage.id)

    def further(index: int) -> bool:
        then = stage_at(plan, profile, body, now_days + float(STEPS_DAYS[index]), float(lengths[index]), now_days)
        return order.index(then.id) > now

    # An animal never goes back a stage: the first step that is further is found by halving.
    index = bisect_left(range(len(STEPS_DAYS)), True, key=further)
    if index == len(STEPS_DAYS):
        return None
    reached = stage_at(plan, profile, body, now_days + float(STEPS_DAYS[index]), float(lengths[index]), now_days)
    return reached, max(today + timedelta(days=float(STEPS_DAYS[index])), today + timedelta(days=1))


def weekly_gain_kg(profile: Profile, sex: str, body: Body) -> float:
    """Return what an animal of this size is expected to put on in a week by the species' own curve; 0 when grown."""
    if body.mass_kg is None or body.length_m is None:
        return 0.0
    growth = fit(_prior(profile, sex))
    last_m = float(np.exp(growth.log_last))
    longer = float(np.exp(growth.log_rate)) * max(float(np.log(last_m / body.length_m)), 0.0) * 7  # share of its length
    return profile.body.length_mass_exponent(sex) * body.mass_kg * longer


LEAN_YEARS: Final = 1.2  # of the longest the book gives for growing up: fed lean, and rested through winters (estimate)


@dataclass(frozen=True)
class MassCourse:
    """What an animal weighs at an age, kg: on the `lean` curve, on the middle one and on the `fast` one."""

    lean_kg: float
    middle_kg: float
    fast_kg: float


def masses_at(profile: Profile, sex: str, age_days: float) -> MassCourse:
    """Return what the species' curves give at an age.

    The lean one leads from hatching to the least adult size in LEAN_YEARS of the longest time that growing up takes, the fast
    one to the largest in the shortest. Mass goes by the power of length that leads from hatching to that size.

    Parameters
    ----------
    profile, sex
        The species and the animal's sex, "unknown" where it is not known.
    age_days
        Days since hatching.

    Returns
    -------
    MassCourse.

    References
    ----------
    Winsor 1932 (docs/models.md [12]; recalled); the two curves are an estimate.
    """
    body, adult = profile.body, profile.body.adult(sex)
    hatch_m, hatch_kg = body.hatch_length_cm.value / 100, body.hatch_mass_g.value / 1000
    length, mass, years = adult.length_cm, adult.mass_g, body.years_to_adult

    def kg(last_cm: float, last_g: float, grown_years: float) -> float:
        last_m = last_cm / 100
        growth = Growth(math.log(last_m), math.log(rate(hatch_m, last_m, grown_years)), np.zeros((2, 2)), hatch_m)
        power = math.log(last_g / 1000 / hatch_kg) / math.log(last_m / hatch_m)
        return hatch_kg * (float(growth.length(age_days)) / hatch_m) ** power

    return MassCourse(
        kg(length.least, mass.least, LEAN_YEARS * years.most),
        expected_mass_kg(profile, expected_length_at(profile, sex, age_days), sex),
        kg(length.most, mass.most, years.least),
    )


def expected_length_at(profile: Profile, sex: str, age_days: float) -> float:
    """Return the length (m) the species' own curve gives at an age, before any measurement."""
    return float(fit(_prior(profile, sex)).length(age_days))


def _measurements(
    plan: HabitatPlan, profile: Profile, today: date, weighings: tuple[Weighing, ...], body: Body
) -> tuple[Measurement, ...]:
    """Everything dated that says how long the animal was; needs a hatch date."""
    hatched = plan.animal.hatched
    if hatched is None:
        return ()
    found = []
    for item in weighings:
        age = (item.day - hatched).days
        if age < 0:
            continue
        if item.length_m is not None:
            found.append(Measurement(age, item.length_m))
        elif item.mass_kg is not None:
            found.append(Measurement(age, expected_length_m(profile, item.mass_kg, plan.animal.sex), from_mass=True))
    if not weighings and body.length_m is not None and body.age_days is not None:
        found.append(Measurement(body.age_days, body.length_m, from_mass=not body.length_known))
    return tuple(found)


def stage_at(plan: HabitatPlan, profile: Profile, body: Body, age_days: float, length_m: float, now_days: float) -> Stage:
    """Return the stage at an age to come (days) and a length (m); `now_days` is the age today."""
    known_age = age_days if body.age_days is not None else None
    grown = body.mass_kg is not None and age_days <= now_days
    mass_kg = body.mass_kg if grown else expected_mass_kg(profile, length_m, plan.animal.sex)
    return decide_stage(profile, age_days=known_age, mass_kg=mass_kg, length_m=length_m).stage


def _when(first: dict[str, int | None], today: date, steps: Floats) -> When:
    dates = {name: None if index is None else today + timedelta(days=float(steps[index])) for name, index in first.items()}
    return When(dates["day"], dates.get("earliest"), dates.get("latest"))


def _stages(subject: Subject, now_days: float, steps: Floats, curves: Curves) -> tuple[tuple[Stage, When], ...]:
    """When each of the stages to come is reached."""
    plan, profile, body, today = subject.plan, subject.profile, subject.body, subject.today
    order = [stage.id for stage in profile.stages]
    at = order.index(body.decision.stage.id)

    def place_at(step: float, length_m: float) -> int:
        return order.index(stage_at(plan, profile, body, now_days + step, length_m, now_days).id)

    reached = {name: [place_at(step, float(line[k])) for k, step in enumerate(steps)] for name, line in curves.items()}
    coming = []
    for index in range(at + 1, len(order)):
        first = {name: next((k for k, stage in enumerate(line) if stage >= index), None) for name, line in reached.items()}
        if first["day"] is not None:
            coming.append((profile.stages[index], _when(first, today, steps)))
    return tuple(coming)


def _outgrown(
    subject: Subject, now_days: float, steps: Floats, curves: Curves, grown_m: float
) -> tuple[When, tuple[float, float, float] | None]:
    """When the enclosure falls short, and the sides that the grown animal takes."""
    plan, profile, body, today = subject.plan, subject.profile, subject.body, subject.today
    box = box_of(plan)
    first: dict[str, int | None] = {}
    size: tuple[float, float, float] | None = None
    for name, line in curves.items():
        first[name], enough_for = None, ("", -1.0)
        for k, step in enumerate(steps):
            length_m = float(line[k])
            stage = stage_at(plan, profile, body, now_days + step, length_m, now_days)
            if (stage.id, length_m) == enough_for:
                continue  # a grown animal asks for the same at every step
            if short(box, minimum_needs(plan, profile, stage, length_m)):
                first[name] = k
                if name == "day":
                    size = sides_for(minimum_needs(plan, profile, profile.stages[-1], grown_m))
                break
            enough_for = stage.id, length_m
    return _when(first, today, steps), size
