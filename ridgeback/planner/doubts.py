"""A weight far off the animal's last one, and a measurement that cannot be it, are asked about before they are kept."""

from dataclasses import dataclass
from datetime import date

from husbandry.animal.body import body_of
from husbandry.assessment import Measure, Parameter
from husbandry.diet import weighing
from husbandry.feeding import prey_measure
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.reading import Problem
from husbandry.species.profile import Profile
from ridgeback.daybook import log, reader
from ridgeback.planner import mapping
from ridgeback.planner.fields import Rejected
from ridgeback.rooms.models import Habitat
from ridgeback.units import KeeperUnits

FIELD = "animal.mass_kg"
PREY_FIELD = "feeding.measured_m"


@dataclass(frozen=True)
class LastWeight:
    """The last weight known, in kg, and the day it was taken."""

    mass_kg: float
    day: date


def last_weight(habitat: Habitat) -> LastWeight | None:
    """The last weight of a habitat's animal: the newest in the log, else the plan's own."""
    found = [one for one in reader.weighings([habitat])[habitat.pk] if one.mass_kg]
    if found:
        return LastWeight(found[-1].mass_kg or 0.0, found[-1].day)
    mass_kg = mapping.plan_of(habitat).animal.mass_kg
    return None if mass_kg is None else LastWeight(mass_kg, log.day_of(habitat.created_at))


def doubtful(habitat: Habitat, mass_kg: float, today: date) -> LastWeight | None:
    """The last weight, if a new one is so far off it that it must be asked about."""
    before = last_weight(habitat)
    if before is None or not weighing.doubtful(before.mass_kg, mass_kg, (today - before.day).days):
        return None
    return before


@dataclass(frozen=True)
class PlanEdit:
    """What was typed: the plan before and after it, and the fields as they were posted."""

    before: HabitatPlan
    after: HabitatPlan
    posted: dict[str, str]


def of_typed(
    habitat: Habitat, edit: PlanEdit, today: date, profile: Profile, units: KeeperUnits
) -> tuple[HabitatPlan, dict[str, Rejected]]:
    """The plan without what is doubted, and the question at its field; once it is said to be so, it is taken."""
    before, posted, mass_kg = edit.before, edit.posted, edit.after.animal.mass_kg
    other = edit.after.species != before.species
    plan, rejected = _prey_measure(edit, today, profile, units)
    if mass_kg is None or mass_kg == before.animal.mass_kg or other or posted.get(f"{FIELD}:sure") == "1":
        return plan, rejected
    last = doubtful(habitat, mass_kg, today)
    if last is None:
        return plan, rejected
    said: dict[str, Parameter] = {"now": Measure(mass_kg, "kg"), "before": Measure(last.mass_kg, "kg"), "day": last.day.isoformat()}
    kept = plan.animal.model_copy(update={"mass_kg": before.animal.mass_kg})
    rejected[FIELD] = Rejected(posted[FIELD], Problem(FIELD, "weight_far_off", said), asks=True)
    return plan.model_copy(update={"animal": kept}), rejected


def _prey_measure(edit: PlanEdit, today: date, profile: Profile, units: KeeperUnits) -> tuple[HabitatPlan, dict[str, Rejected]]:
    """The plan without a measurement that its prey cannot go by, and the question at its field."""
    before, plan, posted = edit.before, edit.after, edit.posted
    typed_m = plan.feeding.measured_m
    if typed_m is None or typed_m == before.feeding.measured_m or posted.get(f"{PREY_FIELD}:sure") == "1":
        return plan, {}
    body = body_of(plan, profile, today)
    by, should_be_m = prey_measure.measured_by(plan, body), prey_measure.expected_m(plan, profile, body)
    code, thick_m = ("", None) if should_be_m is None else prey_measure.doubt(by, typed_m, should_be_m)
    if not code:
        return plan, {}
    said: dict[str, Parameter] = {"now": Measure(typed_m, "m"), "expected": Measure(should_be_m or 0.0, "m")}
    offers = () if thick_m is None else (" ".join(units.number(thick_m, "m", typed=True)),)
    problem = Problem(PREY_FIELD, "taped_round" if code == "round" else "measure_far_off", said)
    kept = plan.feeding.model_copy(update={"measured_m": before.feeding.measured_m})
    return plan.model_copy(update={"feeding": kept}), {PREY_FIELD: Rejected(posted[PREY_FIELD], problem, offers, asks=True)}
