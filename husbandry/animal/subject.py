"""The subject of an assessment: a plan, the profile it goes by, the day, and the animal's body on that day."""

from dataclasses import dataclass
from datetime import date

from husbandry.animal.body import Body, body_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage


@dataclass(frozen=True)
class Subject:
    """Whose enclosure is looked at, and when."""

    plan: HabitatPlan
    profile: Profile
    today: date
    body: Body

    @property
    def stage(self) -> Stage:
        """The life stage that the body puts it in."""
        return self.body.decision.stage


def subject_of(plan: HabitatPlan, profile: Profile, today: date) -> Subject:
    """Work out the body of the planned animal on `today`."""
    return Subject(plan, profile, today, body_of(plan, profile, today))
