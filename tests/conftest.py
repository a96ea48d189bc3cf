"""What all tests share."""

import gc

import pytest
from hypothesis import settings as hypothesis_settings

from tests.sample import TURN, taken

# How long an example takes says something of the machine, nothing of the program.
hypothesis_settings.register_profile("ridgeback", deadline=None)
hypothesis_settings.load_profile("ridgeback")


def pytest_collection_modifyitems(config: pytest.Config, items: list[pytest.Item]) -> None:
    """Leave those cases of the sweeps out that have their turn at another commit (`./test`, tests/sample.py)."""
    if TURN is None:
        return
    sweeps = {item.nodeid for item in items if item.get_closest_marker("sweep")}
    left_out = sweeps - taken(sorted(sweeps), TURN)
    config.hook.pytest_deselected(items=[item for item in items if item.nodeid in left_out])
    items[:] = [item for item in items if item.nodeid not in left_out]


def pytest_collection_finish() -> None:
    """What was loaded so far stays to the end: Python need not look through it for what can be thrown away."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(20_000, 20, 40)  # as the web processes do (ridgeback/wsgi.py)
