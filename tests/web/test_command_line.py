"""Ridgeback from a terminal: the command line asks a running server by its API."""

import json
from pathlib import Path
from typing import Any

import pytest

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.api import access
from ridgeback.command_line import main
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent
from ridgeback.keeping.actions.animals import Newcomer, welcome
from ridgeback.rooms.models import Habitat
from tests.plans import document


@pytest.fixture
def at(live_server: Any, habitat: Habitat, owner: Keeper, monkeypatch: pytest.MonkeyPatch) -> Habitat:
    """The command line speaks to the server of a room with one habitat."""
    token = access.make(habitat.room, owner, "terminal", ["read", "write"], clock.now())[1]
    monkeypatch.setenv("RIDGEBACK_ADDRESS", live_server.url)
    monkeypatch.setenv("RIDGEBACK_TOKEN", token)
    return habitat


def test_it_lists_and_writes(at: Habitat, owner: Keeper, capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    animal = welcome(at.pk, Intent(owner, clock.now()), [Newcomer({"name": "Thrift"})], clock.today(), clock.today())[0]
    assert main(["habitats"]) == 0
    assert capsys.readouterr().out.split("\t")[:2] == [str(at.pk), at.name]
    assert main(["animals"]) == 0
    assert "Thrift" in capsys.readouterr().out
    assert main(["due", "--days", "7"]) == 0
    assert at.name in capsys.readouterr().out
    assert main(["note", str(at.pk), "New moss."]) == 0
    assert main(["weigh", str(animal.pk), "61 g"]) == 0
    assert capsys.readouterr().out.splitlines() == ["written down", "written down"]
    assert Event.objects.get(room=at.room, kind=Event.Kind.NOTED).payload == {"note": "New moss."}
    assert main(["plan", str(at.pk)]) == 0
    plan = tmp_path / "plan.json"
    plan.write_text(capsys.readouterr().out)
    assert main(["assess", str(plan)]) == 0
    assert json.loads(capsys.readouterr().out)["format"] == "ridgeback-assessment/1"


def test_what_is_refused_is_said_and_told_by_its_exit_code(
    at: Habitat, capsys: pytest.CaptureFixture[str], tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    assert main(["note", "987654", "Nowhere."]) == 1
    assert "not in this room" in capsys.readouterr().err
    assert main(["plan", "987654"]) == 1
    bad = tmp_path / "bad.json"
    bad.write_text(json.dumps(document() | {"lamps": 3}))
    assert main(["assess", str(bad)]) == 1
    assert "lamps" in capsys.readouterr().err
    bad.write_text("not json")
    assert main(["assess", str(bad)]) == 2
    monkeypatch.setenv("RIDGEBACK_TOKEN", "nobody-made-this")
    assert main(["habitats"]) == 1
    assert "not known" in capsys.readouterr().err
    monkeypatch.setenv("RIDGEBACK_TOKEN", "")
    assert main(["habitats"]) == 2
    monkeypatch.setenv("RIDGEBACK_TOKEN", "x")
    assert main(["--address", "http://127.0.0.1:9", "habitats"]) == 1
    assert "does not answer" in capsys.readouterr().err
