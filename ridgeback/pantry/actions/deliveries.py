"""Bringing a pantry's CSV in, and undoing that."""

from ridgeback.daybook.writing import Intent, Refused, writing
from ridgeback.pantry import exchange
from ridgeback.pantry.models import Delivery
from ridgeback.rooms.models import Room


def bring_in(room: Room, intent: Intent, rows: list[exchange.PantryRow]) -> int:
    """Put in what a file has and the pantry has not; return how many lots came in. Raises AlreadyWritten, CsvFaults."""
    with writing(intent, room=room.pk):
        _delivery, count = exchange.bring_in(room, rows, intent.author, intent.at)
        return count


def undo_delivery(delivery: Delivery, intent: Intent) -> None:
    """Take out everything a file brought in. Raises AlreadyWritten, and Refused where some of it was used since."""
    with writing(intent, room=delivery.room_id):
        found = Delivery.objects.select_for_update(no_key=True).get(pk=delivery.pk)
        if found.undone_at is not None:
            raise Refused("gone")
        if not exchange.can_undo(found):
            raise Refused("used_since")
        exchange.take_out(found, intent.at)
