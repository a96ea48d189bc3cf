"""What a plan is told of its animal is told of the animal that lives there: its name, its sex, its day of hatching, its profile."""

from husbandry.plan.habitat import HabitatPlan
from ridgeback.rooms.models import Animal, Habitat
from ridgeback.rooms.residents import living_in

OWN_FACTS = ("name", "sex", "hatched", "hatched_is_estimate")


def tell_animals(habitat: Habitat, plan: HabitatPlan, before: HabitatPlan | None) -> None:
    """Write what differs between two states of a plan to those that live there; the habitat is locked by the caller."""
    if before is None or (before.animal == plan.animal and before.species == plan.species):
        return
    here = [one.animal for one in living_in([habitat.pk])[habitat.pk] if one.animal.species == before.species]
    if not here:
        return
    if before.species != plan.species:
        Animal.objects.filter(pk__in=[one.pk for one in here]).update(species=plan.species)
    first, rest = here[0], [one for one in here[1:] if one.name]
    changed = {name: getattr(plan.animal, name) for name in OWN_FACTS if getattr(plan.animal, name) != getattr(before.animal, name)}
    if changed:
        Animal.objects.filter(pk=first.pk).update(**changed, version=first.version + 1)
    if len(rest) == len(plan.animal.others) == len(before.animal.others):
        for one, name in zip(rest, plan.animal.others, strict=True):
            if one.name[:40] != name:
                Animal.objects.filter(pk=one.pk).update(name=name, version=one.version + 1)
