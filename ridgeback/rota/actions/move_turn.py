"""Moving one turn of a chore or feed to another day."""

from datetime import date

from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent, writing
from ridgeback.rota import history


def move_turn(habitat_id: int, intent: Intent, job: str, shown: date, to: date, today: date) -> Event:
    """Move the turn shown on a day to another one; where it was moved before, it is the same turn that moves on."""
    with writing(intent, [habitat_id]) as habitats:
        moved = history.moves_of([habitat_id], today).get(habitat_id, {}).get(job, {})
        planned = history.origin(moved, shown)
        return log.moved(habitats[habitat_id], intent.at, intent.author, job, planned.isoformat(), to.isoformat())
