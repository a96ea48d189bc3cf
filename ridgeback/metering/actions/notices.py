"""Putting aside what the watch over instruments tells."""

from datetime import timedelta
from typing import Final

from ridgeback.daybook import log
from ridgeback.daybook.models import Notice
from ridgeback.daybook.writing import Intent, Refused, writing

LONGEST_DAYS: Final = 180


def put_aside(notice: Notice, intent: Intent, days: int, reason: str) -> None:
    """Keep a notice quiet for so many days, with a reason. Raises AlreadyWritten, Refused for days out of range."""
    if not 1 <= days <= LONGEST_DAYS:
        raise Refused("quiet_days", most=str(LONGEST_DAYS))
    with writing(intent, room=notice.room_id):
        notice.quiet_until = log.day_of(intent.at) + timedelta(days=days)
        notice.quiet_reason, notice.quiet_by = reason[:300], intent.author
        notice.save(update_fields=["quiet_until", "quiet_reason", "quiet_by"])
