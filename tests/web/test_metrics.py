"""Figures for whoever runs it, and whether it is ready."""

import re
from typing import Any

import pytest
from django.db import connection
from django.db.migrations.recorder import MigrationRecorder
from django.test import Client
from django.urls import reverse

from ridgeback.accounts.models import Keeper
from ridgeback.keeping import tasks
from ridgeback.rooms.models import Habitat

TOKEN = "salt-and-sedge"


def figures(**headers: str) -> Any:
    return Client(headers=headers).get(reverse("metrics"))


@pytest.mark.parametrize("given", ["", "Bearer wrong", "Bearer ", f"Basic {TOKEN}", "Bearer ÿ"])
def test_nobody_reads_them_without_the_token(db: None, settings: Any, given: str) -> None:
    assert figures(Authorization=given).status_code == 404  # there is no such page
    settings.METRICS_TOKEN = TOKEN
    assert figures(Authorization=given).status_code == 404


def test_requests_are_counted_by_page_and_nothing_is_told_of_anybody(owner: Keeper, habitat: Habitat, settings: Any) -> None:
    settings.METRICS_TOKEN = TOKEN
    client = Client()
    client.force_login(owner, backend="django.contrib.auth.backends.ModelBackend")

    def counted() -> float:
        text = figures(Authorization=f"Bearer {TOKEN}").content.decode()
        found = re.search(r'ridgeback_requests_total{method="GET",route="keeping:now",status="200"} (\S+)', text)
        return float(found[1]) if found else 0.0

    before = counted()
    client.get(reverse("keeping:now", args=[habitat.pk]))
    client.get(reverse("keeping:now", args=[habitat.pk]))
    assert counted() == before + 2
    tasks.take_file.defer(pk=0)
    text = figures(Authorization=f"Bearer {TOKEN}").content.decode()
    assert "ridgeback_database_up 1.0" in text
    assert 'ridgeback_jobs{state="todo"} 1.0' in text
    assert 'ridgeback_request_seconds_bucket{le="0.5",route="keeping:now"}' in text
    assert owner.username not in text
    assert habitat.name not in text


def test_it_is_ready_when_its_database_is_of_this_version(db: None) -> None:
    assert Client().get(reverse("ready")).content == b"ready\n"
    MigrationRecorder(connection).record_unapplied("planner", "0006_told")
    answer = Client().get(reverse("ready"))
    assert (answer.status_code, answer.content) == (503, b"not migrated\n")


def test_a_browser_is_told_what_no_page_asks_for(owner: Keeper) -> None:
    assert "camera=()" in Client().get(reverse("accounts:sign-in"))["Permissions-Policy"]
