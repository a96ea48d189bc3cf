"""Keeping what a keeper says of a room's electricity."""

from husbandry.wiring.settings import Wiring
from ridgeback.daybook.actions.keep_document import keep_document
from ridgeback.daybook.writing import Intent
from ridgeback.electrics.models import RoomWiring


def keep_wiring(room_id: int, intent: Intent, said: Wiring, version: int) -> None:
    """Keep a room's wiring, `version` being the one it was changed from, 0 for none. Raises AlreadyWritten, Refused."""
    keep_document(RoomWiring, room_id, intent, said.model_dump(mode="json"), version)
