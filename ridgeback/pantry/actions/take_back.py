"""Taking back a meal or a chore."""

from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent, Refused, writing
from ridgeback.pantry import store


def take_back(event_id: int, habitat_id: int, intent: Intent) -> None:
    """Undo a meal or a chore: the store gets back what it took, once. Raises Refused where it is gone already."""
    with writing(intent, [habitat_id]):
        event = Event.objects.filter(pk=event_id, habitat_id=habitat_id, kind__in=(Event.Kind.FED, Event.Kind.DONE)).first()
        if event is None:
            raise Refused("gone")
        store.give_back(event)
        log.strike(event, intent.at, intent.author)
