"""Whatever file is sent to an importer: a page says what is wrong. The whole of it is run by hand (benchmarks/fuzz.py)."""

import tracemalloc
from collections.abc import Callable
from typing import Any

import pytest
from django.test import Client

from ridgeback.accounts.models import Keeper
from ridgeback.rooms.models import Habitat
from tests.anyfile import AnyFile, files
from tests.sample import times
from tests.web.sending import send

pytestmark = pytest.mark.sweep

SAMPLE = times(125, 250)


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


@pytest.mark.parametrize("seed", [101, 202])
def test_no_file_breaks_an_importer(client: Client, habitat: Habitat, seed: int) -> None:
    for item in files(seed, SAMPLE):
        assert send(client, habitat, item).status_code < 500, (item.to, item.text[:300])


BOMBS = {
    "a key of a hundred thousand parts": AnyFile("profile", "a." * 50_000 + "a=1"),
    "a table of as many": AnyFile("profile", "[" + "a." * 50_000 + "a]"),
    "a list of a line each": AnyFile("profile", "x=[\n" + "1,\n" * 11_000 + "]"),
    "lists in lists": AnyFile("profile", "x=" + "[" * 50_000),
    "tables in tables": AnyFile("profile", "x=" + "{a=" * 30_000),
    "a string that never ends": AnyFile("profile", 'x="' + '\\"' * 50_000),
    "json lines": AnyFile("profile", "{" + ",\n".join(f'"k{place}":\n1' for place in range(5_000)) + "}"),
    "json quotes": AnyFile("plan", '{"' + '\\"' * 90_000),
    "json depth": AnyFile("plan", "[" * 190_000),
    "digits": AnyFile("plan", '{"format": ' + "9" * 190_000 + "}"),
    "toml digits": AnyFile("profile", "x = " + "9" * 100_000),
    "a pantry of one field": AnyFile("pantry", "food,kind,unit,amount,received\n" + "x" * 500_000),
    "a pantry with one long name of a column": AnyFile("pantry", "food,kind,unit,amount,received" + "9" * 200_000),
    "a pantry of many quotes": AnyFile("pantry", "food,kind,unit,amount,received\n" + '"' * 500_000),
    "a reading of one field": AnyFile("readings", "When,Warm\n2026-11-01 10:00," + "9" * 300_000 + "\n2026-11-01 10:10,7\n"),
    "a reading of many quotes": AnyFile("readings", "When,Warm\n2026-11-01 10:00,7\n2026-11-01 10:10," + '"' * 300_000),
    "a reading that never ends": AnyFile("readings", 'When,Warm\n2026-11-01 10:00,7\n2026-11-01 10:10,"' + "7\n" * 150_000),
    "readings of no time": AnyFile("readings", "When,Warm\n0001-01-01 00:00,7\n9999-12-31 23:59,8\n0001-01-01 00:10,9\n"),
    "readings of too many columns": AnyFile("readings", ",".join(map(str, range(60_000))) + "\n" + "1," * 60_000),
    "a rig of lists": AnyFile("rig", '{"heaters": ' + "[" * 50_000 + "]" * 50_000 + ', "uv_lamps": []}'),
    "a rig of nothing": AnyFile("rig", '{"heaters": 5, "uv_lamps": {}}'),
}


@pytest.mark.parametrize("name", BOMBS)
def test_a_small_file_never_exhausts_the_machine(client: Client, habitat: Habitat, name: str) -> None:
    tracemalloc.start()
    answer: Any = send(client, habitat, BOMBS[name])
    _now, peak = tracemalloc.get_traced_memory()
    tracemalloc.stop()
    assert answer.status_code < 500
    assert peak < 150e6, f"{peak / 1e6:.0f} MB"
