"""What the worker does for archives."""

from procrastinate.contrib.django import app

from ridgeback.archive import bringing


@app.task(name="archive.take_in")
def take_in(pk: int) -> None:
    """Take a room's archive in."""
    bringing.take_in(pk)
