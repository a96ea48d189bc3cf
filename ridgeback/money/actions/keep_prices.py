"""Keeping what things cost in a room, and what of a habitat's bill is there."""

from husbandry.money.settings import Purse
from ridgeback.daybook.writing import Intent, Refused, writing
from ridgeback.money.models import RoomPurse, Shopping

TICKS = ("buy", "have", "bought")


def keep_prices(room_id: int, intent: Intent, said: Purse, version: int) -> RoomPurse:
    """Keep a room's prices, `version` being the one they were changed from, 0 for none. Raises AlreadyWritten, Refused."""
    with writing(intent, room=room_id):
        row = RoomPurse.objects.filter(room=room_id).first()
        if (0 if row is None else row.version) != version:
            raise Refused("stale_plan")
        row = row or RoomPurse(room_id=room_id, version=0)
        row.document, row.version = said.model_dump(mode="json"), row.version + 1
        row.save()
        return row


def tick(habitat_id: int, intent: Intent, what: str, state: str) -> Shopping:
    """Say of one thing that it is there, bought, or still to buy. Raises AlreadyWritten."""
    with writing(intent, [habitat_id]):
        row, _made = Shopping.objects.get_or_create(habitat_id=habitat_id)
        rest = {key: value for key, value in row.ticks.items() if key != what}
        row.ticks = rest if state == "buy" else rest | {what: state}
        row.save(update_fields=["ticks"])
        return row
