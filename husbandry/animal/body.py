"""The animal's body on a day: age, stage, length, weight and the height of its back."""

from dataclasses import dataclass, replace
from datetime import date

from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Profile
from husbandry.species.stages import StageDecision, decide_stage, expected_length_m, expected_mass_kg


@dataclass(frozen=True)
class Body:
    """The animal as the models see it; `*_known` tells a measurement from an estimate out of the other one.

    `length_m` by the species' own measure. None where nothing is known. `back_m` is the back's height above what it
    stands on, from an adult where the length is unknown.
    """

    decision: StageDecision
    age_days: int | None
    length_m: float | None
    length_known: bool
    mass_kg: float | None
    mass_known: bool
    back_m: float


def body_of(plan: HabitatPlan, profile: Profile, today: date) -> Body:
    """Work out age, size and life stage on `today`."""
    animal = plan.animal
    age_days = None if animal.hatched is None else max((today - animal.hatched).days, 0)
    decision = decide_stage(profile, age_days=age_days, mass_kg=animal.mass_kg, length_m=animal.length_m)
    decision = replace(decision, stage=decision.stage.of_source(plan.schools).of_sex(animal.sex))
    length_m, mass_kg = animal.length_m, animal.mass_kg
    if length_m is None and mass_kg is not None:
        length_m = expected_length_m(profile, mass_kg, animal.sex)
    if mass_kg is None and length_m is not None:
        mass_kg = expected_mass_kg(profile, length_m, animal.sex)
    adult_m = profile.body.adult(animal.sex).length_cm.middle / 100
    back_m = profile.body.back_height_share.value * (length_m or adult_m)
    return Body(decision, age_days, length_m, animal.length_m is not None, mass_kg, animal.mass_kg is not None, back_m)
