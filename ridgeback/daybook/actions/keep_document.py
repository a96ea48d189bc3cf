"""Keeping one document of a room: prices, wiring, whatever has a `room`, a `document` and a `version`."""

from typing import Any

from django.db.models import Model

from ridgeback.daybook.writing import Intent, Refused, writing


def keep_document(model: type[Model], room_id: int, intent: Intent, document: dict[str, Any], version: int) -> None:
    """Keep a room's document, `version` being the one it was changed from, 0 for none. Raises AlreadyWritten, Refused."""
    with writing(intent, room=room_id):
        row: Any = model._default_manager.filter(room=room_id).first()
        if (0 if row is None else row.version) != version:
            raise Refused("stale_plan")
        row = row or model(room_id=room_id, version=0)
        row.document, row.version = document, row.version + 1
        row.save()
