"""What a part of a test writes is taken back, so that the next part finds what the first did."""

from collections.abc import Iterator
from contextlib import contextmanager

from django.db import transaction


@contextmanager
def undone() -> Iterator[None]:
    """Take back whatever is written to the database inside."""
    with transaction.atomic():
        yield
        transaction.set_rollback(True)
