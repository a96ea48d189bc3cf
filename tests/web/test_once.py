"""A plan's steps, its night and what is offered for it are worked out once; what changes any of it is worked out anew."""

from collections.abc import Callable, Iterator
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from husbandry.design import mounting, scenarios
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook import log
from ridgeback.money import reckoning
from ridgeback.planner import bench, choosing, once
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


def test_what_a_page_reckons_is_reckoned_once_and_anew_for_another_plan(
    owner: Keeper,
    client_of: Callable[[Keeper], Client],
    make_habitat: Callable[..., Habitat],
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    """The table of ways to hang a lamp and its button; costs of the year; scenarios; schools."""
    reckoned: list[str] = []

    def listen(module: Any, name: str) -> None:
        real: Callable[..., Any] = getattr(module, name)

        def heard(*given: Any, **named: Any) -> Any:
            reckoned.append(name)
            return real(*given, **named)

        monkeypatch.setattr(module, name, heard)

    for module, name in (
        (mounting, "ways"),
        (reckoning, "variants"),
        (reckoning, "year_energy"),
        (scenarios, "run"),
        (choosing, "assess"),
    ):
        listen(module, name)
    one, other = make_habitat(name="Reckoned once"), make_habitat(name="Reckoned anew")
    client = client_of(owner)

    def ask(habitat: Habitat) -> None:
        for page in ("planner:lamp", "money:habitat", "planner:what-if", "planner:schools"):
            assert client.get(reverse(page, args=[habitat.pk])).status_code == 200

    ask(one)
    first = len(reckoned)
    assert set(reckoned) == {"ways", "variants", "year_energy", "run", "assess"}
    ask(one)
    client.post(reverse("planner:take-lamp", args=[one.pk]), {"way": "none of these", "version": one.version})
    assert len(reckoned) == first
    ask(other)
    assert len(reckoned) == 2 * first
