"""What all tests share."""

import gc

from hypothesis import settings as hypothesis_settings

# How long an example takes says something of the machine, nothing of the program.
hypothesis_settings.register_profile("ridgeback", deadline=None)
hypothesis_settings.load_profile("ridgeback")


def pytest_collection_finish() -> None:
    """What was loaded so far stays to the end: Python need not look through it for what can be thrown away."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(20_000, 20, 40)  # as the web processes do (ridgeback/wsgi.py)
