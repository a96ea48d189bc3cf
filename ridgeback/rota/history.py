"""What the log says of meals and chores, for many habitats in one query."""

from collections import defaultdict
from collections.abc import Iterable
from datetime import date, timedelta
from typing import Final

from django.utils import timezone

from husbandry.plan.card import History
from husbandry.plan.feeding import Meal
from husbandry.plan.outlook import Weighing
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.rooms.access import GROWTH, LOG_DAYS
from ridgeback.rooms.models import Habitat

KINDS: Final = (*GROWTH, Event.Kind.FED, Event.Kind.DONE, Event.Kind.CONDITION, Event.Kind.READ)
Moves = dict[str, dict[date, date]]


def of_habitats(habitats: Iterable[Habitat], today: date) -> dict[int, History]:
    """The history of each, by the habitat's key."""
    found = {habitat.pk: habitat for habitat in habitats}
    since = timezone.now() - timedelta(days=LOG_DAYS)
    meals: dict[int, list[Meal]] = defaultdict(list)
    done: dict[int, dict[str, date]] = defaultdict(dict)
    weighings: dict[int, list[Weighing]] = defaultdict(list)
    rows = Event.objects.filter(habitat__in=found, kind__in=KINDS, at__gte=since).order_by("at", "id")
    for key, kind, at, payload in rows.values_list("habitat_id", "kind", "at", "payload"):
        day = timezone.localtime(at).date()
        if kind == Event.Kind.FED:
            meals[key].append(log.meal(day, payload))
        elif kind == Event.Kind.DONE:
            done[key][payload["job"]] = day
        elif kind == Event.Kind.CONDITION:
            done[key]["condition"] = day
        elif kind == Event.Kind.READ:
            # A reading is the chore it was taken for.
            done[key]["uv-check" if str(payload.get("place", "")).startswith("uv") else "thermometers"] = day
        else:
            weighings[key].append(Weighing(day, payload.get("mass_kg"), payload.get("length_m")))
    return {
        key: History(timezone.localtime(habitat.created_at).date(), tuple(meals[key]), done[key], tuple(weighings[key]))
        for key, habitat in found.items()
    }


def moves_of(habitat_ids: Iterable[int], today: date) -> dict[int, Moves]:
    """What was moved by hand and still lies ahead, by habitat and chore; a later move of the same turn counts."""
    found: dict[int, Moves] = defaultdict(lambda: defaultdict(dict))
    since = timezone.now() - timedelta(days=120)
    rows = Event.objects.filter(habitat__in=list(habitat_ids), kind=Event.Kind.MOVED, at__gte=since).order_by("at", "id")
    for key, payload in rows.values_list("habitat_id", "payload"):
        planned, to = date.fromisoformat(payload["planned"]), date.fromisoformat(payload["to"])
        if max(planned, to) < today:
            continue
        turns = found[key][payload["job"]]
        turns.pop(planned, None)
        if to != planned:
            turns[planned] = to
    return found
