"""Writing chores down as done, one or a whole round."""

from collections.abc import Iterable
from datetime import date, datetime
from typing import Final

from husbandry.errors import HusbandryError
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent, writing

OUTCOMES: Final = ("done", "skipped")
Turn = tuple[int, date, str]  # the habitat, the day it was due, the chore's id


class NoSuchOutcomeError(HusbandryError, ValueError):
    """No such outcome of a meal or a chore."""


def do_chores(turns: Iterable[Turn], intent: Intent, at: datetime, outcome: str = "done") -> int:
    """Write chores down as done, or as left out on purpose; return how many were not written down before.

    Raises NoSuchOutcomeError, AlreadyWritten.
    """
    if outcome not in OUTCOMES:
        raise NoSuchOutcomeError(outcome)
    wanted = dict.fromkeys(turns)
    with writing(intent, [key for key, _due, _job in wanted]) as habitats:
        told = _told(habitats)
        fresh = [turn for turn in wanted if turn not in told]
        for key, due, job in fresh:
            log.done(habitats[key], at, intent.author, job, due.isoformat(), outcome)
    return len(fresh)


def _told(habitats: Iterable[int]) -> set[Turn]:
    """The turns that were written down already, by somebody else or in another window."""
    rows = Event.objects.filter(habitat__in=list(habitats), kind=Event.Kind.DONE)
    return {
        (key or 0, date.fromisoformat(due), job)
        for key, due, job in rows.values_list("habitat_id", "payload__due", "payload__job")
        if due and job
    }
