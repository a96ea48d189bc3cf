"""The one road: a plan and a profile in, the assessment out."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import date
from typing import Final

from husbandry.animal.subject import subject_of
from husbandry.animal.weighings import Weighing
from husbandry.assess import feeding, furnished, light, nutrition, perches, space, warmth, water_quality, whole_day
from husbandry.assess.facts import Modelled, facts
from husbandry.assess.probability import JointProbability
from husbandry.assess.result import Assessment
from husbandry.assessment import SEASONS, Read
from husbandry.climate.day import course
from husbandry.climate.states import Climate
from husbandry.climate.steady import solve_steady
from husbandry.codes import FindingCode
from husbandry.feeding import history, schedule, week_food
from husbandry.inputs import ultraviolet
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.habitat import HabitatPlan
from husbandry.remedies.second_pass import proposed
from husbandry.remedies.situation import Situation
from husbandry.review.measured import by_readings
from husbandry.review.rules import review, told
from husbandry.species.profile import Profile


@dataclass(frozen=True)
class Records:
    """What was written down: weighings for the growth still to come, the last meals for the feeds to come, and readings.

    `read` is what was read in the plan as it stands, by the quantity's id: readings count whatever the model says.
    """

    weighings: tuple[Weighing, ...] = ()
    meals: tuple[history.RecordedMeal, ...] = ()
    read: Mapping[str, Read] = field(default_factory=dict)


@dataclass(frozen=True)
class Depth:
    """How much is worked out.

    `days_of` names the seasons whose day's course is wanted. `near` is what nearly the same plan came to: then this is a trial,
    without spread and without looking for changes that would mend what it finds. Without `spread` low and high are left out,
    without `hanging` the height at which the lamp would be right. `propose` looks for changes in a trial too, or for none
    where it is no trial; `only` for findings of some codes, for any where None. Without `telling` the findings stay as the rules
    found them, each season's apart and with what its rule itself proposes: enough to compare two plans. Without `judged` no rule
    is asked and nothing is found: enough for the numbers alone.
    """

    days_of: tuple[str, ...] = SEASONS
    near: Climate | None = None
    spread: bool = True
    hanging: bool = True
    propose: bool | None = None
    only: frozenset[FindingCode] | None = None
    telling: bool = True
    judged: bool = True

    @property
    def quick(self) -> bool:
        """Tell whether no change is looked for."""
        return self.near is not None if self.propose is None else not self.propose


NO_RECORDS: Final = Records()
WHOLE: Final = Depth()
NO_DAYS: Final = Depth(days_of=())


def assess(plan: HabitatPlan, profile: Profile, today: date, records: Records = NO_RECORDS, depth: Depth = WHOLE) -> Assessment:
    """Assess `plan` by `profile` as of `today`.

    Parameters
    ----------
    plan
        Its parts must be in their places (`check_places`).
    records
        What the log holds of the animal and its enclosure.
    depth
        How much is worked out; everything by default.

    Returns
    -------
    The quantities, the findings with what would mend them, the menu, the steady climate and the days asked for.
    Pure: no clock, no files, no randomness.
    """
    subject = subject_of(plan, profile, today)
    body, stage = subject.body, subject.stage
    case = enclosure_case(plan)
    climate = solve_steady(case, spread=depth.spread and depth.near is None, near=depth.near)
    uvb = ultraviolet.uvb_given(plan, stage, body, today)
    fed = week_food.fed(plan, profile, stage, body, uvb=uvb)
    menu = schedule.menu(subject, fed, uvb=uvb, meals=records.meals)
    days = {season: course(case, climate, season) for season in depth.days_of}
    joint = JointProbability(dict(records.read))
    quantities = tuple(
        space.quantities(subject, climate, joint)
        + furnished.quantities(subject, climate)
        + perches.quantities(subject, case, climate)
        + warmth.quantities(subject, case, climate, joint, hanging=depth.hanging and depth.near is None)
        + light.quantities(subject, joint)
        + [item for season, day in days.items() for item in whole_day.quantities(subject, case, climate, season, day)]
        + feeding.quantities(plan, stage, menu)
        + water_quality.quantities(subject, climate, fed)
        + nutrition.quantities(subject, climate, fed, records.weighings)
    )
    if joint.read:
        quantities = tuple(replace(item, read=joint.read.get(item.id)) for item in quantities)
    if not depth.judged:
        return Assessment(today, profile.id, body, quantities, (), menu, climate, days, joint.certainty())
    gathered = facts(subject, Modelled(case, climate, by_readings(quantities), fed), records.weighings)
    findings = review(gathered)
    if depth.telling:
        findings = told(proposed(findings, Situation(subject, case, climate, gathered, depth.quick), depth.only))
    return Assessment(today, profile.id, body, quantities, findings, menu, climate, days, joint.certainty())
