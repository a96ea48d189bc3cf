"""A plan's steps, its night and what is offered for it are worked out once; what changes any of it is worked out anew."""

from collections.abc import Callable, Iterator
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook import log
from ridgeback.planner import bench, once
from ridgeback.rooms.models import Habitat
from tests.plans import plan

BENCH = {"step": "heat", "season": "winter"}


@pytest.fixture
def counted(monkeypatch: pytest.MonkeyPatch) -> Iterator[list[str]]:
    """The plans that were assessed, by name."""
    asked: list[str] = []
    real: Callable[..., Any] = bench.assess

    def assess(made: Any, *more: Any, **named: Any) -> Any:
        asked.append(made.name)
        return real(made, *more, **named)

    once.forget()
    monkeypatch.setattr(bench, "assess", assess)
    yield asked
    once.forget()


def test_steps_nights_and_offers_are_one_assessment(
    owner: Keeper, client_of: Callable[[Keeper], Client], habitat: Habitat, counted: list[str]
) -> None:
    client, address = client_of(owner), reverse("planner:bench", args=[habitat.pk])
    for more in ({}, {"step": "food"}, {"step": "light", "phase": "night"}):
        assert client.get(address, BENCH | more).status_code == 200
    assert client.get(reverse("planner:findings", args=[habitat.pk]), BENCH).status_code == 200
    assert len(counted) == 1
    client.get(address, BENCH | {"season": "summer"})  # another day is looked at
    assert len(counted) == 2


def test_another_weight_another_day_and_another_plan_are_worked_out_anew(
    owner: Keeper,
    client_of: Callable[[Keeper], Client],
    habitat: Habitat,
    counted: list[str],
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    client, address = client_of(owner), reverse("planner:bench", args=[habitat.pk])
    first = client.get(address, BENCH).content
    log.weighed(habitat, clock.now(), owner, 0.031)
    client.get(address, BENCH)
    assert len(counted) == 2
    monkeypatch.setattr(clock, "today", lambda: plan().animal.hatched.replace(year=2031))  # type: ignore[union-attr]
    assert client.get(address, BENCH).content != first
    assert len(counted) == 3
