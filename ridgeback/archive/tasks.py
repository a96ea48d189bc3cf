"""What the worker does for archives, and for what is deleted."""

from procrastinate.contrib.django import app

from ridgeback import clock
from ridgeback.accounts import nights
from ridgeback.archive import bringing, deleting


@app.task(name="archive.take_in")
def take_in(pk: int) -> None:
    """Take a room's archive in."""
    bringing.take_in(pk)


@app.periodic(cron="41 3 * * *")
@app.task(name="archive.delete_due", queueing_lock="archive.delete_due")
def delete_due(timestamp: int) -> None:
    """Delete for good what is due, unless the clock may have jumped."""
    if nights.follows("archive.delete_due", clock.now()):
        deleting.carry_out(clock.today())
