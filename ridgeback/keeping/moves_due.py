"""Moves that are due: who outgrows what when, hatchlings beside adults, males too many, a quarantine that ends."""

from dataclasses import dataclass
from datetime import date, timedelta
from functools import partial
from typing import Final

from django.utils.translation import gettext as _

from husbandry.animal.growth_outlook import outlook
from husbandry.assess.assess import NO_RECORDS, Depth, assess
from husbandry.codes import FindingCode
from ridgeback.accounts.models import Keeper
from ridgeback.daybook import reader
from ridgeback.language import wording
from ridgeback.planner import mapping, revisions
from ridgeback.planner.once import once
from ridgeback.rooms.access import habitats_to_see
from ridgeback.rooms.models import Habitat
from ridgeback.rooms.residents import living_in
from ridgeback.units import KeeperUnits

AHEAD: Final = timedelta(days=365)
APART: Final = frozenset(
    {
        *(FindingCode.ANIMAL_YOUNG, FindingCode.ANIMAL_MALES, FindingCode.ANIMAL_TOO_MANY),
        *(FindingCode.ANIMAL_COMPANY, FindingCode.ANIMAL_EATEN),
    }
)
DEPTH: Final = Depth(days_of=(), spread=False, hanging=False, propose=False, only=frozenset())


@dataclass(frozen=True)
class Due:
    """A move that is due in a habitat: why, whose, and about when; None for now."""

    habitat: Habitat
    names: tuple[str, ...]
    said: str
    day: date | None


def of_habitats(keeper: Keeper, today: date, units: KeeperUnits) -> list[Due]:
    """The moves that are due in the keeper's habitats within a year, what is due now first: a constant number of queries."""
    mine = habitats_to_see(keeper).filter(set_aside_at__isnull=True).defer("head__profile__document")
    habitats = list(mine.select_related("room").order_by("name"))
    here, weighed = living_in(habitat.pk for habitat in habitats), reader.weighings(habitats)
    found: list[Due] = []
    for habitat in habitats:
        if not here[habitat.pk]:
            continue
        names = tuple(one.animal.called for one in here[habitat.pk])
        try:
            plan = mapping.plan_of(habitat)
        except mapping.UnreadablePlanError:
            continue
        profile = revisions.profile_of(habitat, plan.species)
        lived = (plan.model_dump_json(), id(profile), today, repr(weighed[habitat.pk]))
        told = once(("outlook", *lived), partial(outlook, plan, profile, today, weighed[habitat.pk]))
        outgrown = None if told is None else told.outgrown.day
        if outgrown is not None and outgrown <= today + AHEAD:
            said = _("it outgrows this enclosure") if outgrown > today else _("it has outgrown this enclosure")
            found.append(Due(habitat, names, said, outgrown if outgrown > today else None))
        if len(names) > 1:
            key = ("company", plan.model_dump_json(), id(profile), today)
            findings = once(key, partial(assess, plan, profile, today, NO_RECORDS, DEPTH)).findings
            found += [Due(habitat, names, wording.finding(item, units), None) for item in findings if item.code in APART]
        until = plan.upkeep.quarantine_until
        if until is not None and today <= until <= today + timedelta(days=21):
            found.append(Due(habitat, names, _("its quarantine ends, if the checks were clean"), until))
    return sorted(found, key=lambda one: (one.day is not None, one.day or today, one.habitat.name))
