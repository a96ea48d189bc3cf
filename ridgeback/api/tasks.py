"""What the worker does for other programs: telling their addresses what happened."""

from typing import Final

from procrastinate.contrib.django import app

from ridgeback import clock
from ridgeback.api import telling

LOCK: Final = "api.tell"


@app.periodic(cron="* * * * *")
@app.task(name="api.tell", queueing_lock=LOCK, lock=LOCK)
def tell(timestamp: int) -> None:
    """Tell webhooks what is new."""
    telling.tell(clock.now())
