"""The one reader of the log: what it says of meals, chores, weighings and readings, for one habitat or for many.

Nothing is forgotten because it is old: chores and weighings are read however long ago they were. Of meals all are read that were
written down since the last one eaten, and at least those of `MEALS_DAYS`; what lies before says nothing of those to come.
"""

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, timedelta
from functools import cached_property
from typing import Final, NamedTuple

from django.db.models import Max, OuterRef, Q, Subquery
from django.db.models.fields.json import KT

from husbandry.animal.weighings import Weighing
from husbandry.feeding.history import EATEN, History, RecordedMeal
from ridgeback import clock
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.rooms.models import Habitat, Residence
from ridgeback.rooms.residents import first_of, living_in

GROWTH: Final = (Event.Kind.WEIGHED, Event.Kind.MEASURED)
MEALS_DAYS: Final = 400  # beyond the longest period of a powder, which is a year
CHORES: Final = (Event.Kind.DONE, Event.Kind.CONDITION, Event.Kind.READ)


class Lived(NamedTuple):
    """What happened to an animal, oldest first: weighings and measurements, meals, and the events of what was read."""

    weighings: tuple[Weighing, ...]
    meals: tuple[RecordedMeal, ...]
    readings: tuple[Event, ...]


def weighing(event: Event) -> Weighing:
    """A weighing or measurement as the log has it, on the keeper's own day."""
    return Weighing(log.day_of(event.at), event.payload.get("mass_kg"), event.payload.get("length_m"))


@dataclass(frozen=True)
class _Household:
    """The habitats asked about, and who lives in each, the first of them first."""

    keys: tuple[int, ...]
    residents: dict[int, list[Residence]]

    @cached_property
    def home(self) -> dict[int, int]:
        """The habitat of each that lives in one of them."""
        return {one.animal_id: key for key in self.keys for one in self.residents[key]}

    def where_it_counts(self, event: Event) -> int | None:
        """The habitat for which an entry counts: what an animal's life was so far moves with it; a group's newcomer brings nothing.

        None where it counts for none of them: the weighing of one that has moved out, or of one the plan is not made by.
        """
        if event.kind == Event.Kind.READ:
            return event.habitat_id
        key = event.habitat_id if event.animal_id is None else self.home.get(event.animal_id)
        here = self.residents[key] if key in self.keys else []
        if not here or event.animal_id is None:
            return key if not here or log.day_of(event.at) >= min(one.since for one in here) else None
        if event.animal_id != here[0].animal_id:
            mine = next(one for one in here if one.animal_id == event.animal_id)
            return key if event.kind == Event.Kind.FED and log.day_of(event.at) >= mine.since else None
        return key


def lived(habitats: Iterable[Habitat]) -> dict[int, Lived]:
    """What happened to the animals of some habitats, oldest first: two queries, and one more where some have not eaten for long."""
    since = clock.now() - timedelta(days=MEALS_DAYS)
    old = {habitat.pk: habitat.created_at < since for habitat in habitats}
    household = _Household(tuple(old), living_in(old))
    found = _rows(household, Q(kind__in=(*GROWTH, Event.Kind.READ)) | Q(kind=Event.Kind.FED, at__gte=since))
    hungry = [key for key in old if old[key] and not any(_was_eaten(event) for event in found.get(key, ()))]
    if hungry:
        eaten = Event.objects.filter(habitat=OuterRef("habitat"), kind=Event.Kind.FED, payload__outcome__in=EATEN).order_by("-at")
        fasting = _Household(tuple(hungry), household.residents)
        before = _rows(fasting, Q(kind=Event.Kind.FED, at__lt=since, at__gte=Subquery(eaten.values("at")[:1])))
        found |= {key: [*before.get(key, ()), *found.get(key, ())] for key in hungry}
    return {key: _told(found.get(key, [])) for key in old}


def _rows(household: _Household, wanted: Q) -> dict[int, list[Event]]:
    found: dict[int, list[Event]] = defaultdict(list)
    theirs = Q(habitat__in=household.keys) | Q(animal__in=list(household.home))
    columns = ("habitat_id", "animal_id", "kind", "at", "payload")
    for event in Event.objects.filter(wanted & theirs).order_by("at", "id").only(*columns):
        key = household.where_it_counts(event)
        if key is not None:
            found[key].append(event)
    return found


def _was_eaten(event: Event) -> bool:
    return event.kind == Event.Kind.FED and event.payload["outcome"] in EATEN


def _told(events: list[Event]) -> Lived:
    return Lived(
        tuple(weighing(event) for event in events if event.kind in GROWTH),
        tuple(log.meal(log.day_of(event.at), event.payload) for event in events if event.kind == Event.Kind.FED),
        tuple(event for event in events if event.kind == Event.Kind.READ),
    )


def weighings(habitats: Iterable[Habitat]) -> dict[int, tuple[Weighing, ...]]:
    """The weighings and measurements of the animals that some habitats are planned for, oldest first: two queries."""
    keys = [habitat.pk for habitat in habitats]
    found = _rows(_Household(tuple(keys), living_in(keys)), Q(kind__in=GROWTH))
    return {key: tuple(weighing(event) for event in found.get(key, ())) for key in keys}


def own(habitat: Habitat) -> Q:
    """The entries of the animal that a habitat is planned for: its own wherever they were made, and those of the habitat alone."""
    first = first_of(habitat.pk)
    alone = Q(habitat=habitat, animal__isnull=True)
    return alone if first is None else alone | Q(animal=first)


def last_done(habitats: Iterable[int]) -> dict[int, dict[str, date]]:
    """The last day of each chore by its id, however long ago; a score and a reading are the chores they were taken for."""
    found: dict[int, dict[str, date]] = defaultdict(dict)
    events = Event.objects.filter(habitat__in=list(habitats), kind__in=CHORES).order_by()
    for row in events.values("habitat_id", "kind", job=KT("payload__job"), place=KT("payload__place")).annotate(last=Max("at")):
        if row["kind"] == Event.Kind.DONE:
            job = row["job"]
        elif row["kind"] == Event.Kind.CONDITION:
            job = "condition"
        else:
            job = "uv-check" if str(row["place"] or "").startswith("uv") else "thermometers"
        mine, day = found[row["habitat_id"]], log.day_of(row["last"])
        mine[job] = max(day, mine.get(job, day))
    return found


def histories(habitats: Iterable[Habitat]) -> dict[int, History]:
    """What the log says of each habitat, by its key, in two queries."""
    by_key = {habitat.pk: habitat for habitat in habitats}
    told, done = lived(by_key.values()), last_done(by_key)
    return {
        key: History(log.day_of(habitat.created_at), told[key].meals, done.get(key, {}), told[key].weighings)
        for key, habitat in by_key.items()
    }


def lived_by(habitat: Habitat) -> Lived:
    """The same of one habitat, asked once however often it is looked at in a request."""
    found: Lived | None = getattr(habitat, "lived_so_far", None)
    if found is None:
        found = lived([habitat])[habitat.pk]
        keep(habitat, found)
    return found


def keep(habitat: Habitat, found: Lived) -> None:
    """Let `lived_by` answer this for a habitat."""
    habitat.lived_so_far = found  # type: ignore[attr-defined]
