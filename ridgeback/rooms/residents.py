"""Who lives where."""

from collections import defaultdict
from collections.abc import Iterable

from ridgeback.rooms.models import Animal, Residence


def living_in(habitats: Iterable[int]) -> dict[int, list[Residence]]:
    """The residences that last, with their animals, by habitat, the longest first: one query."""
    found: dict[int, list[Residence]] = defaultdict(list)
    here = Residence.objects.filter(habitat__in=list(habitats), until__isnull=True).select_related("animal").order_by("id")
    for one in here:
        found[one.habitat_id].append(one)
    return found


def home_of(animal_id: int) -> Residence | None:
    """Where an animal lives now, with the habitat; None for one that lives nowhere."""
    return Residence.objects.filter(animal=animal_id, until__isnull=True).select_related("habitat").first()


def first_of(habitat_id: int) -> Animal | None:
    """The animal that a habitat is planned for: of those that live there the one that moved in first; None where nobody does."""
    here = living_in([habitat_id])[habitat_id]
    return here[0].animal if here else None
