"""What is logged: a line with a number for each fault and request, and nothing of anybody."""

import json
import logging
import re
from collections.abc import Iterator
from typing import Any

import pytest
from django.db import OperationalError
from django.test import Client
from django.urls import reverse

from ridgeback import logs
from ridgeback.accounts.models import Keeper
from ridgeback.rooms.models import Habitat

SECRET = "tansy-typed-this"


class Kept(logging.Handler):
    """Keeps each line as it would be written."""

    def __init__(self) -> None:
        super().__init__()
        self.addFilter(logs.Plainly())
        self.setFormatter(logs.Lines("json"))
        self.lines: list[str] = []

    def emit(self, record: logging.LogRecord) -> None:
        self.lines.append(self.format(record))

    @property
    def told(self) -> list[dict[str, Any]]:
        return [json.loads(line) for line in self.lines]


@pytest.fixture
def kept() -> Iterator[Kept]:
    handler, before = Kept(), logs.access.level
    for logger in (logging.getLogger("django.request"), logs.access):
        logger.addHandler(handler)
    logs.access.setLevel(logging.INFO)
    yield handler
    for logger in (logging.getLogger("django.request"), logs.access):
        logger.removeHandler(handler)
    logs.access.setLevel(before)


def broken(error: Exception) -> Any:
    def page(*_all: Any, **_more: Any) -> None:
        raise error

    return page


def test_a_fault_has_a_number_that_its_page_shows_and_says_nothing_of_anybody(
    owner: Keeper, habitat: Habitat, kept: Kept, monkeypatch: pytest.MonkeyPatch
) -> None:
    client = Client(raise_request_exception=False)
    client.force_login(owner, backend="django.contrib.auth.backends.ModelBackend")
    monkeypatch.setattr("ridgeback.planner.mapping.plan_of", broken(ValueError(SECRET)))
    answer = client.get(f"{reverse('planner:bench', args=[habitat.pk])}?name={SECRET}")
    assert answer.status_code == 500
    number = answer[logs.HEADER]
    assert number in answer.content.decode()
    fault = next(line for line in kept.told if "fault" in line)
    assert fault["number"] == number
    assert fault["route"] == "planner:bench"
    assert fault["fault"] == "builtins.ValueError"
    assert re.search(r"ridgeback/planner/\w+\.py:\d+", fault["at_lines"])
    assert not [line for line in kept.lines if SECRET in line or "tansy" in line or habitat.name in line]


def test_a_database_that_is_away_is_one_short_line(
    owner: Keeper, habitat: Habitat, kept: Kept, monkeypatch: pytest.MonkeyPatch
) -> None:
    client = Client(raise_request_exception=False)
    client.force_login(owner, backend="django.contrib.auth.backends.ModelBackend")
    away = OperationalError("connection failed\nDETAIL: more of it")
    monkeypatch.setattr("ridgeback.planner.mapping.plan_of", broken(away))
    answer = client.get(reverse("planner:bench", args=[habitat.pk]))
    assert (answer.status_code, answer["Retry-After"]) == (503, "5")
    fault = next(line for line in kept.told if "fault" in line)
    assert fault["words"] == "connection failed"
    assert "at_lines" not in fault


def test_a_secret_address_is_never_logged(db: None, kept: Kept) -> None:
    Client().get(reverse("sharing:see", args=["a-secret-token"]))
    Client().get("/nowhere/a-secret-token/")
    assert {line["route"] for line in kept.told} == {"sharing:see", "nowhere"}
    assert not [line for line in kept.lines if "a-secret-token" in line]
    asked = [line for line in kept.told if line["from"] == "ridgeback.access"]
    assert [line["status"] for line in asked] == [404, 404]
    assert all(isinstance(line["ms"], int) and line["number"] for line in asked)


def test_a_terminal_reads_words() -> None:
    record = logging.LogRecord("ridgeback.access", 20, "", 0, "", (), None)
    record.number, record.route, record.status = "ab12", "keeping:round", 200
    line = logs.Lines().format(record)
    assert line.endswith("info ridgeback.access number=ab12 route=keeping:round status=200")
    assert "\n" not in line
