"""A clock that jumped: what deletes by the date waits until a night has followed on the night before.

A machine whose battery is empty, or whose time came from nowhere, may wake up years ahead; everything would be old enough to go.
"""

from datetime import datetime, timedelta
from typing import Final

from ridgeback.accounts.models import Night

SHORTEST: Final = timedelta(hours=12)
LONGEST: Final = timedelta(hours=48)


def follows(task: str, now: datetime) -> bool:
    """Note that a nightly task runs; tell whether its last run was the night before. After a pause or a jump it is not, once."""
    night, made = Night.objects.get_or_create(task=task, defaults={"at": now})
    if made:
        return True  # the first of all: nothing is known to be wrong
    passed, night.at = now - night.at, now
    night.save(update_fields=["at"])
    return SHORTEST <= passed <= LONGEST
