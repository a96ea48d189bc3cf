"""Putting aside what the watch tells: seen, quiet until a day, with a reason."""

from datetime import date, timedelta
from typing import Final

from ridgeback.daybook.models import Quiet
from ridgeback.daybook.writing import Intent, Refused, writing
from ridgeback.rooms.models import Animal

LONGEST_DAYS: Final = 180


def put_aside(animal_id: int, intent: Intent, key: str, days: int, reason: str, today: date) -> Quiet:
    """Keep one occurrence of an alarm quiet for so many days. Raises AlreadyWritten, Refused for days out of range."""
    if not 1 <= days <= LONGEST_DAYS or not key or len(key) > 80:
        raise Refused("quiet_days", most=str(LONGEST_DAYS))
    room_id = Animal.objects.values_list("room_id", flat=True).get(pk=animal_id)
    with writing(intent, room=room_id):
        until = today + timedelta(days=days)
        told = {"until": until, "reason": reason[:300], "author": intent.author, "at": intent.at}
        return Quiet.objects.create(animal_id=animal_id, key=key, **told)
