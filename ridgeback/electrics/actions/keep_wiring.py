"""Keeping what a keeper says of a room's electricity."""

from husbandry.wiring.settings import Wiring
from ridgeback.daybook.writing import Intent, Refused, writing
from ridgeback.electrics.models import RoomWiring


def keep_wiring(room_id: int, intent: Intent, said: Wiring, version: int) -> RoomWiring:
    """Keep a room's wiring, `version` being the one it was changed from, 0 for none. Raises AlreadyWritten, Refused."""
    with writing(intent, room=room_id):
        row = RoomWiring.objects.filter(room=room_id).first()
        if (0 if row is None else row.version) != version:
            raise Refused("stale_plan")
        row = row or RoomWiring(room_id=room_id, version=0)
        row.document, row.version = said.model_dump(mode="json"), row.version + 1
        row.save()
        return row
