"""Keeping what things cost in a room, and what of a habitat's bill is there."""

from husbandry.money.settings import Purse
from ridgeback.daybook.actions.keep_document import keep_document
from ridgeback.daybook.writing import Intent, writing
from ridgeback.money.models import RoomPurse, Shopping

TICKS = ("buy", "have", "bought")


def keep_prices(room_id: int, intent: Intent, said: Purse, version: int) -> None:
    """Keep a room's prices, `version` being the one they were changed from, 0 for none. Raises AlreadyWritten, Refused."""
    keep_document(RoomPurse, room_id, intent, said.model_dump(mode="json"), version)


def tick(habitat_id: int, intent: Intent, what: str, state: str) -> Shopping:
    """Say of one thing that it is there, bought, or still to buy. Raises AlreadyWritten."""
    with writing(intent, [habitat_id]):
        row, _made = Shopping.objects.get_or_create(habitat_id=habitat_id)
        rest = {key: value for key, value in row.ticks.items() if key != what}
        row.ticks = rest if state == "buy" else rest | {what: state}
        row.save(update_fields=["ticks"])
        return row
