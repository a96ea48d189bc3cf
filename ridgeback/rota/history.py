"""What was moved by hand and still lies ahead."""

from collections import defaultdict
from collections.abc import Iterable
from datetime import date

from django.db.models import Q

from ridgeback.daybook.models import Event

Moves = dict[str, dict[date, date]]


def origin(moved: dict[date, date], shown: date) -> date:
    """The day a turn was planned for before it was moved to the day it is shown on."""
    return next((planned for planned, to in moved.items() if to == shown), shown)


def moves_of(habitat_ids: Iterable[int], today: date) -> dict[int, Moves]:
    """What was moved by hand and still lies ahead, by habitat and chore; a later move of the same turn counts."""
    found: dict[int, Moves] = defaultdict(lambda: defaultdict(dict))
    # ISO dates sort as text: only those whose days are still to come are read, however long ago they were moved.
    rows = Event.objects.filter(habitat__in=list(habitat_ids), kind=Event.Kind.MOVED).order_by("at", "id")
    ahead = Q(payload__to__gte=today.isoformat()) | Q(payload__planned__gte=today.isoformat())
    rows = rows.filter(ahead)
    for key, payload in rows.values_list("habitat_id", "payload"):
        planned, to = date.fromisoformat(payload["planned"]), date.fromisoformat(payload["to"])
        if max(planned, to) < today:
            continue
        turns = found[key][payload["job"]]
        turns.pop(planned, None)
        if to != planned:
            turns[planned] = to
    return found
