"""What all tests share."""

import gc
from collections import Counter

import pytest
from hypothesis import settings as hypothesis_settings

from tests.sample import EVERY, MANY, TURN, taken
from tests.waiting import may_begin

gc.disable()  # until everything is collected
# How long an example takes says something of the machine, nothing of the program.
hypothesis_settings.register_profile("ridgeback", deadline=None, max_examples=100 if TURN is None else 30)
hypothesis_settings.load_profile("ridgeback")


@pytest.hookimpl(trylast=True)
def pytest_collection_modifyitems(config: pytest.Config, items: list[pytest.Item]) -> None:
    """Leave those cases out that have their turn at another commit (`./test`, tests/sample.py); begin with what takes longest."""
    if TURN is not None:
        tests = [item.nodeid.partition("[")[0] for item in items]
        many = Counter(tests)
        found = taken([(test, one_of(item, many[test])) for test, item in zip(tests, items, strict=True)], TURN)
        config.hook.pytest_deselected(items=[item for item, kept in zip(items, found, strict=True) if not kept])
        items[:] = [item for item, kept in zip(items, found, strict=True) if kept]
    # Or one worker would have nothing left to do for as long as another is at the last of them.
    items.sort(key=lambda item: item.get_closest_marker("long") is None)


def one_of(item: pytest.Item, cases: int) -> int:
    """Of how many cases of its test one is taken: each, but of sweeps and of what goes through every species."""
    sweep = item.get_closest_marker("sweep")
    return int(sweep.kwargs.get("every", EVERY)) if sweep else (4 if cases >= MANY else 1)


def pytest_collection_finish() -> None:
    """What was loaded so far stays to the end: Python need not look through it for what can be thrown away."""
    gc.collect()
    gc.freeze()
    gc.enable()
    gc.set_threshold(200_000, 20, 40)  # a run of minutes may hold more than a web process (ridgeback/wsgi.py)
    if not may_begin():
        pytest.exit("The tests before these were broken off.")
