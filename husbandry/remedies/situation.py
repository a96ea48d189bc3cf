"""What a remedy is worked out from."""

from dataclasses import dataclass
from datetime import date
from functools import cached_property

from husbandry.animal.body import Body
from husbandry.animal.needs import climbs
from husbandry.animal.subject import Subject
from husbandry.assessment import Finding, Quantity
from husbandry.climate.case import EnclosureCase
from husbandry.climate.states import Climate
from husbandry.plan.habitat import HabitatPlan
from husbandry.remedies.hanging import HangingPlace, new_heater_place
from husbandry.remedies.heating import dark_watts, night_hold_c, rooms_wanted
from husbandry.review.facts import Facts
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage


@dataclass(frozen=True)
class Situation:
    """A plan, its animal, and what both come to; `facts` as the rules judged them.

    What takes a solve is worked out when it is asked for; nothing that does where only a `quick` look is wanted, which tells
    findings of both seasons together or apart by what would mend them, and offers nothing.
    """

    subject: Subject
    case: EnclosureCase
    climate: Climate
    facts: Facts
    quick: bool = False

    @property
    def plan(self) -> HabitatPlan:
        return self.subject.plan

    @property
    def profile(self) -> Profile:
        return self.subject.profile

    @property
    def stage(self) -> Stage:
        return self.subject.stage

    @property
    def body(self) -> Body:
        return self.subject.body

    @property
    def today(self) -> date:
        return self.subject.today

    @property
    def quantities(self) -> tuple[Quantity, ...]:
        return self.facts.quantities

    def about(self, finding: Finding) -> Quantity:
        """The quantity a finding is about. Raises LookupError for a finding that is about none."""
        found = next((item for item in self.quantities if item.id == finding.about), None)
        if found is None:
            raise LookupError(finding.id)
        return found

    @cached_property
    def dark_watts(self) -> dict[str, tuple[float, float]]:
        """How strong a further dark heater must be (W), and the share of what is missing that it brings, by "night" and "day"."""
        return {} if self.quick else dark_watts(self.plan, self.stage, self.quantities, self.climate, self.place_for)

    def place_for(self, phase: str) -> HangingPlace:
        """Where a further dark heater would hang by "day" or by "night"; looked for once."""
        if phase not in self._places:
            self._places[phase] = new_heater_place(self.plan, phase, climbed=climbs(self.profile))
        return self._places[phase]

    @cached_property
    def _places(self) -> dict[str, HangingPlace]:
        return {}

    @cached_property
    def night_hold_c(self) -> dict[int, float]:
        """By a dark heater's index, what its own probe reads in winter while it holds the cool end above its night low."""
        return {} if self.quick else night_hold_c(self.plan, self.stage, self.case, self.quantities, self.climate)

    @cached_property
    def rooms_wanted(self) -> dict[str, float]:
        """By the id of an air that is too hot, the room's temperature at which it would hold (°C)."""
        return {} if self.quick else rooms_wanted(self.case, self.quantities, self.climate)
