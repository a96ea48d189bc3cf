"""The one reader of the log: what it says of meals, chores, weighings and readings, for one habitat or for many.

Nothing is forgotten because it is old: chores and weighings are read however long ago they were. Of meals all are read that were
written down since the last one eaten, and at least those of `MEALS_DAYS`; what lies before says nothing of those to come.
"""

from collections import defaultdict
from collections.abc import Iterable
from datetime import date, timedelta
from typing import Final, NamedTuple

from django.db.models import Max, OuterRef, Q, Subquery
from django.db.models.fields.json import KT

from husbandry.animal.weighings import Weighing
from husbandry.feeding.history import EATEN, History, Meal
from ridgeback import clock
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.rooms.models import Habitat

GROWTH: Final = (Event.Kind.WEIGHED, Event.Kind.MEASURED)
MEALS_DAYS: Final = 400  # beyond the longest period of a powder, which is a year
CHORES: Final = (Event.Kind.DONE, Event.Kind.CONDITION, Event.Kind.READ)


class Lived(NamedTuple):
    """What happened to an animal, oldest first: weighings and measurements, meals, and the events of what was read."""

    weighings: tuple[Weighing, ...]
    meals: tuple[Meal, ...]
    readings: tuple[Event, ...]


def weighing(event: Event) -> Weighing:
    """A weighing or measurement as the log has it, on the keeper's own day."""
    return Weighing(log.day_of(event.at), event.payload.get("mass_kg"), event.payload.get("length_m"))


def lived(habitats: Iterable[Habitat]) -> dict[int, Lived]:
    """What happened to the animals of some habitats, oldest first: one query, and one more where some have not eaten for long."""
    since = clock.now() - timedelta(days=MEALS_DAYS)
    old = {habitat.pk: habitat.created_at < since for habitat in habitats}
    keys = list(old)
    found = _rows(keys, Q(kind__in=(*GROWTH, Event.Kind.READ)) | Q(kind=Event.Kind.FED, at__gte=since))
    hungry = [key for key in keys if old[key] and not any(_was_eaten(event) for event in found.get(key, ()))]
    if hungry:
        eaten = Event.objects.filter(habitat=OuterRef("habitat"), kind=Event.Kind.FED, payload__outcome__in=EATEN).order_by("-at")
        before = _rows(hungry, Q(kind=Event.Kind.FED, at__lt=since, at__gte=Subquery(eaten.values("at")[:1])))
        found |= {key: [*before.get(key, ()), *found.get(key, ())] for key in hungry}
    return {key: _told(found.get(key, [])) for key in keys}


def _rows(keys: list[int], wanted: Q) -> dict[int, list[Event]]:
    found: dict[int, list[Event]] = defaultdict(list)
    for event in Event.objects.filter(wanted, habitat__in=keys).order_by("at", "id").only("habitat_id", "kind", "at", "payload"):
        found[event.habitat_id or 0].append(event)
    return found


def _was_eaten(event: Event) -> bool:
    return event.kind == Event.Kind.FED and event.payload["outcome"] in EATEN


def _told(events: list[Event]) -> Lived:
    return Lived(
        tuple(weighing(event) for event in events if event.kind in GROWTH),
        tuple(log.meal(log.day_of(event.at), event.payload) for event in events if event.kind == Event.Kind.FED),
        tuple(event for event in events if event.kind == Event.Kind.READ),
    )


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
