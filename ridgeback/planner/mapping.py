"""From a habitat to its plan, and from a plan to the columns that lists show."""

from typing import Any

from pydantic import ValidationError

from husbandry.errors import HusbandryError
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.reading import Problem, problem_of
from ridgeback.rooms.models import Company, Habitat


class UnreadablePlanError(HusbandryError, ValueError):
    """What is kept of a habitat is no plan by today's limits; `problems` say what, `habitat_id` whose."""

    def __init__(self, habitat_id: int, problems: list[Problem]) -> None:
        super().__init__(f"habitat {habitat_id}: {', '.join(problem.path for problem in problems)}")
        self.habitat_id, self.problems = habitat_id, problems


def document_of(habitat: Habitat) -> dict[str, Any]:
    """The plan's document as its newest revision keeps it, unchecked. Raises UnreadablePlanError where there is none."""
    if habitat.head is None:
        raise UnreadablePlanError(habitat.pk, [Problem("", "missing")])
    return dict(habitat.head.document)


def plan_of(habitat: Habitat) -> HabitatPlan:
    """The habitat's plan. Raises UnreadablePlanError."""
    try:
        return HabitatPlan.model_validate(document_of(habitat))
    except ValidationError as error:
        raise UnreadablePlanError(habitat.pk, [problem_of(item) for item in error.errors(include_url=False)]) from None


def fill(habitat: Habitat, plan: HabitatPlan) -> None:
    """Set the habitat's own columns to what the plan says; saving it is the caller's."""
    habitat.name, habitat.species = plan.name, plan.species


def write_company(habitat: Habitat, plan: HabitatPlan, before: HabitatPlan | None) -> None:
    """Make the row of whom it is planned for say what the plan says, where it differs from `before`; the habitat has been saved."""
    said = _company(plan)
    if before is None or said != _company(before):
        Company.objects.update_or_create(habitat=habitat, defaults=said)


def first_company(habitat: Habitat, plan: HabitatPlan) -> None:
    """Write the row of whom a habitat that has just been made is planned for."""
    Company.objects.create(habitat=habitat, **_company(plan))


def _company(plan: HabitatPlan) -> dict[str, Any]:
    return {"name": plan.animal.name, "count": plan.animal.count, "others": list(plan.animal.others)}
