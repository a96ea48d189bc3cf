"""Making a plan that of those who live in its habitat."""

from datetime import date

from ridgeback.daybook.writing import Intent, writing
from ridgeback.planner import residents
from ridgeback.rooms.models import Habitat


def follow_residents(habitat_id: int, intent: Intent, today: date) -> Habitat:
    """Let the plan follow those that live there now. Raises AlreadyWritten."""
    with writing(intent, [habitat_id]):
        return residents.follow(habitat_id, intent, today)
