"""Writing down meals and chores, and taking them back."""

from datetime import date, datetime
from typing import Any, Final

from django.db import transaction

from ridgeback.accounts.models import Keeper
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.pantry import store
from ridgeback.rooms.models import Habitat

OUTCOMES: Final = ("eaten", "part", "refused", "skipped")
Foods = list[tuple[str, float | None, float]]


class OutcomeError(ValueError):
    """No such outcome of a meal or a chore."""


@transaction.atomic
def fed(
    habitat: Habitat,
    at: datetime,
    author: Keeper | None,
    outcome: str,
    due: date,
    products: list[str],
    foods: Foods,
    dust_g: float,
    **told_too: Any,
) -> Event:
    """Write a meal down and take it out of the store; what was refused is gone too, for nobody freezes it again.

    `foods` as (food, pieces, grams); what else is told, as `who` of a group ate or
    `eaten_g`, is kept where it is known. Raises OutcomeError.
    """
    if outcome not in OUTCOMES:
        raise OutcomeError(outcome)
    offered = outcome != "skipped"
    told: dict[str, Any] = {"outcome": outcome, "due": due.isoformat(), "products": [], "foods": []}
    if offered:
        told |= {"products": products, "foods": foods}
        told |= {name: value for name, value in told_too.items() if value is not None}
    event = log.fed(habitat, at, author, **told)
    if offered:
        powders: Foods = [(name, None, dust_g / len(products)) for name in products]
        store.for_meal(habitat.room, [*foods, *powders], at, event)
    return event


@transaction.atomic
def done(habitat: Habitat, at: datetime, author: Keeper | None, job: str, due: date, outcome: str) -> Event:
    """Write a chore down as done, or as left out on purpose. Raises OutcomeError."""
    if outcome not in ("done", "skipped"):
        raise OutcomeError(outcome)
    return log.done(habitat, at, author, job, due.isoformat(), outcome)


@transaction.atomic
def take_back(event: Event) -> None:
    """Undo a meal or a chore: the store gets back what it took."""
    store.give_back(event)
    if event.habitat_id is not None:
        log.counted(event.habitat_id)
    event.delete()
