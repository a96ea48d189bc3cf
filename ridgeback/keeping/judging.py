"""Before animals are put together: what their coming changes in a habitat, by the rules that judge every plan."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from husbandry.assess.assess import NO_RECORDS, Depth, assess
from husbandry.assessment import Finding, Severity
from husbandry.design.mixing import Mixing, mixed
from husbandry.plan.habitat import Animal as PlannedAnimal
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.book import UnknownSpeciesError
from husbandry.species.profile import Profile
from ridgeback.book import profiles
from ridgeback.planner import mapping, residents, revisions
from ridgeback.rooms.models import Animal, Habitat
from ridgeback.rooms.residents import living_in

DEPTH = Depth(days_of=(), spread=False, hanging=False, propose=False, only=frozenset())
STEPS = ("animal", "space")  # what company and room are judged by


@dataclass(frozen=True)
class Verdict:
    """What comes of a move: findings that it adds and takes away where the animal goes, and what mixing kinds costs.

    `worst` is the severity of the worst that it adds, "" for none. `apart_until` is the last day of a quarantine in the habitat.
    """

    habitat: Habitat
    adds: tuple[Finding, ...]
    mends: tuple[Finding, ...]
    mixing: Mixing | None
    apart_until: date | None
    here: tuple[Animal, ...]

    @property
    def worst(self) -> str:
        if self.mixing is not None and not self.mixing.possible:
            return Severity.DANGER.value
        return self.adds[0].severity.value if self.adds else "advice" if self.mixing is not None else ""


def judged(animals: Sequence[Animal], habitat: Habitat, today: date) -> Verdict:
    """Judge what happens where `animals`, of one kind, come to live in a habitat beside those that live there now.

    Raises mapping.UnreadablePlanError.
    """
    plan = mapping.plan_of(habitat)
    profile = revisions.profile_of(habitat, plan.species)
    here = [one.animal for one in living_in([habitat.pk])[habitat.pk]]
    coming = [one for one in animals if one.pk is None or one.pk not in {other.pk for other in here}]
    until = plan.upkeep.quarantine_until
    apart_until = until if until is not None and until >= today else None
    kin, others = residents.of_kind(here, plan.species), [one for one in coming if one.species != plan.species]
    mixing = _mixing(plan, profile, others, today) if others and here else None
    joined = [*kin, *(one for one in coming if one.species == plan.species)]
    before = plan if not kin else _with(plan, residents.planned(kin, plan, profile, today))
    adds: list[Finding] = []
    mends: list[Finding] = []
    if joined and not others:
        after = _with(plan, residents.planned(joined, plan, profile, today))
        was, will = (_told(one, profile, today) for one in (before, after))
        adds = [item for key, item in will.items() if key not in was]
        mends = [item for key, item in was.items() if key not in will]
    elif others and not here:
        # Another kind alone in it: the enclosure is judged by its own profile.
        own = _profile(others[0])
        if own is not None:
            adds = list(_told(_with(plan, _alone(others), own.id), own, today).values())
    return Verdict(habitat, tuple(adds), tuple(mends), mixing, apart_until, tuple(here))


def _with(plan: HabitatPlan, animal: PlannedAnimal, species: str = "") -> HabitatPlan:
    changed = {"animal": animal} | ({"species": species, "schools": {}} if species else {})
    return plan.model_copy(update=changed)


def _told(plan: HabitatPlan, profile: Profile, today: date) -> dict[str, Finding]:
    found = assess(plan, profile, today, NO_RECORDS, DEPTH).findings
    return {item.id: item for item in found if item.step in STEPS or item.severity is Severity.DANGER}


def _profile(animal: Animal) -> Profile | None:
    try:
        return profiles.current(animal.room_id, animal.species)[0]
    except UnknownSpeciesError:
        return None


def _alone(animals: Sequence[Animal]) -> PlannedAnimal:
    first = animals[0]
    mass_kg, length_m = residents.bodies([first] if first.pk else []).get(first.pk or 0, (None, None))
    return PlannedAnimal(
        name=first.name, sex=first.sex, hatched=first.hatched, mass_kg=mass_kg, length_m=length_m, count=len(animals)
    )


def _mixing(plan: HabitatPlan, profile: Profile, others: Sequence[Animal], today: date) -> Mixing | None:
    own = _profile(others[0])
    return None if own is None else mixed(plan, profile, _alone(others), own, today)
