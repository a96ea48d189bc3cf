"""A plan and those that live in its habitat: the plan follows them, and what a plan is told of its animal is told of the animal.

Whom a plan is for may be another than who lives there: one plans before the animal comes, and for two where one lives. That is
said where it is so (`differs`); nobody is moved by editing a plan.
"""

from collections.abc import Sequence
from datetime import date
from typing import Final

from django.utils.translation import gettext as _

from husbandry.animal.residents import Resident, as_planned
from husbandry.plan.habitat import Animal as PlannedAnimal
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Profile
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent
from ridgeback.language.told import later
from ridgeback.planner import mapping, revisions
from ridgeback.planner.telling import OWN_FACTS
from ridgeback.rooms.models import Animal, Habitat
from ridgeback.rooms.residents import living_in

MEASURED_AS: Final = {Event.Kind.WEIGHED: "mass_kg", Event.Kind.MEASURED: "length_m"}


def bodies(animals: Sequence[Animal]) -> dict[int, tuple[float | None, float | None]]:
    """The last mass in kg and length in m of some animals, by their keys: two queries."""
    found: dict[int, tuple[float | None, float | None]] = {}
    keys = [animal.pk for animal in animals if animal.pk is not None]
    for place, (kind, name) in enumerate(MEASURED_AS.items()):
        last = Event.objects.filter(animal__in=keys, kind=kind).order_by("animal_id", "-at", "-id").distinct("animal_id")
        for event in last:
            now = list(found.get(event.animal_id or 0, (None, None)))
            now[place] = event.payload.get(name)
            found[event.animal_id or 0] = (now[0], now[1])
    return found


def of_kind(animals: Sequence[Animal], species: str) -> list[Animal]:
    """Of those that live somewhere the ones of the species that the plan is made for; others are judged by their own profile."""
    return [one for one in animals if one.species == species]


def planned(animals: Sequence[Animal], plan: HabitatPlan, profile: Profile, today: date) -> PlannedAnimal:
    """The plan's animal as those that live there make it; of a first one that was never measured, what the plan says of its size.

    Raises ValueError where none is given.
    """
    sizes = bodies(animals)
    known = [
        Resident(**{name: getattr(one, name) for name in OWN_FACTS}, mass_kg=size[0], length_m=size[1])
        for one in animals
        for size in (sizes.get(one.pk, (None, None)),)
    ]
    made = as_planned(known, profile, today)
    if made.name != plan.animal.name:
        return made
    # A size that was taken back is not known any more; one that the plan alone says, of before there was a daybook, stays.
    first = animals[0].pk or 0  # one that is still to come has none
    ever = set(Event.every.filter(animal_id=first, kind__in=MEASURED_AS).values_list("kind", flat=True).distinct())
    kept = {name: getattr(plan.animal, name) for kind, name in MEASURED_AS.items() if kind not in ever}
    return made.model_copy(update=kept)


def follow(habitat_id: int, intent: Intent, today: date, label: str = "") -> Habitat:
    """Make the plan that of those who live there now, as a revision with a label; as it is where nobody of its species does.

    To be called inside the transaction that changed them.
    """
    habitat = revisions.locked(habitat_id)
    plan = mapping.plan_of(habitat)
    animals = of_kind([one.animal for one in living_in([habitat_id])[habitat_id]], plan.species)
    if not animals:
        return habitat
    made = planned(animals, plan, revisions.profile_of(habitat, plan.species), today)
    if made == plan.animal:
        return habitat
    changed = HabitatPlan.model_validate(plan.model_dump() | {"animal": made.model_dump()})
    return revisions.save_following(habitat_id, changed, habitat.version, intent, label or later(lambda: _("who lives here")))


def differs(habitat: Habitat, plan: HabitatPlan, animals: Sequence[Animal], profile: Profile, today: date) -> bool:
    """Tell whether the plan is made for others than those of its species that live there."""
    if not animals:
        return False
    made = planned(animals, plan, profile, today)
    same = {"mass_kg": plan.animal.mass_kg, "length_m": plan.animal.length_m, "smallest_m": plan.animal.smallest_m}
    return made.model_copy(update=same) != plan.animal
