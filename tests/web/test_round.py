"""The round: walking order, what a phone sends of it at once or later, and two phones at once."""

import json
from collections.abc import Callable
from datetime import datetime, timedelta
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from husbandry.species.book import find
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.book import own
from ridgeback.daybook import reader
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent
from ridgeback.keeping import quarantine, walk
from ridgeback.keeping.actions.animals import Newcomer, welcome
from ridgeback.rooms.models import Animal, Habitat, Room

Make = Callable[..., Habitat]
Send = Callable[..., list[dict[str, str]]]


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


def entry(key: str, what: str, at: datetime | None = None, **more: Any) -> dict[str, Any]:
    return {"key": f"key-{key:0>6}", "what": what, "at": (at or clock.now()).isoformat()} | more


def sent(client: Client, *entries: dict[str, Any]) -> list[tuple[str, str]]:
    """Send entries; what became of each and why."""
    answer = client.post(reverse("keeping:round-entries"), json.dumps({"entries": entries}), content_type="application/json")
    assert answer.status_code == 200, answer.content
    return [(one["state"], one["said"]) for one in answer.json()["answers"]]


def animal_in(habitat: Habitat, owner: Keeper, name: str = "Samphire") -> Animal:
    facts = {"name": name, "species": habitat.species}
    day = clock.today() - timedelta(days=30)
    return welcome(habitat.pk, Intent(owner, clock.now()), [Newcomer(facts)], day, clock.today())[0]


@pytest.mark.parametrize(("copied", "told"), [("corn-snake", False), ("red-eyed-tree-frog", True)])
def test_what_is_said_of_amphibians_stands_in_their_round_alone(
    copied: str, told: bool, owner: Keeper, client: Client, make_habitat: Make
) -> None:
    """A room's own copy of a profile counts by its group, as a shipped one does."""
    room = Room.objects.get(members=owner)
    mine = own.copy(room, find(copied), Intent(owner, clock.now()))
    habitat = make_habitat(species=mine.species)
    animal_in(habitat, owner)
    shown = client.get(reverse("keeping:round")).content.decode()
    assert "Fresh water" in shown
    assert ("Amphibians:" in shown) is told
    lines = client.get(reverse("rota:file")).content.decode().replace("\r\n ", "")
    assert "Fresh water" in lines
    assert ("Amphibians:" in lines) is told


def test_a_chore_a_meal_a_weight_and_a_note_are_written_at_the_moment_they_were_pressed(
    habitat: Habitat, owner: Keeper, client: Client
) -> None:
    animal, today, then = animal_in(habitat, owner), clock.today(), clock.now() - timedelta(hours=5)
    states = sent(
        client,
        entry("1", "chore", then, habitat=habitat.pk, job="water", due=today.isoformat(), outcome="done"),
        entry("2", "feed", then, habitat=habitat.pk, due=today.isoformat(), outcome="refused"),
        entry("3", "weigh", then, animal=animal.pk, value="2.0 oz"),
        entry("4", "note", then, habitat=habitat.pk, value="Door was ajar."),
    )
    assert [state for state, _said in states] == ["written"] * 4
    written = Event.objects.filter(at=then)
    assert {event.kind for event in written} == {"job.done", "animal.fed", "animal.weighed", "note"}
    assert written.get(kind="animal.weighed").payload["mass_kg"] == pytest.approx(2.0 * 0.028349523125)
    assert reader.lived([habitat])[habitat.pk].meals[-1].outcome == "refused"


def test_what_is_sent_again_because_no_answer_came_is_known_and_written_once(
    habitat: Habitat, owner: Keeper, client: Client
) -> None:
    animal, today = animal_in(habitat, owner), clock.today().isoformat()
    entries = (
        entry("1", "chore", habitat=habitat.pk, job="water", due=today, outcome="done"),
        entry("2", "feed", habitat=habitat.pk, due=today, outcome="eaten"),
        entry("3", "weigh", animal=animal.pk, value="58 g"),
        entry("4", "note", habitat=habitat.pk, value="twice?"),
    )
    sent(client, *entries)
    before = Event.every.count()
    assert [state for state, _said in sent(client, *entries)] == ["already"] * 4
    assert Event.every.count() == before


def test_two_phones_that_did_the_same_lose_nothing_and_double_nothing(
    habitat: Habitat, owner: Keeper, client: Client, client_of: Callable[[Keeper], Client]
) -> None:
    today, other = clock.today().isoformat(), client_of(owner)
    chore: dict[str, Any] = {"habitat": habitat.pk, "job": "water", "due": today, "outcome": "done"}
    feed: dict[str, Any] = {"habitat": habitat.pk, "due": today, "outcome": "eaten"}
    assert [state for state, _said in sent(client, entry("1", "chore", **chore), entry("2", "feed", **feed))] == ["written"] * 2
    late = sent(
        other,
        entry("7", "chore", **chore),
        entry("8", "feed", **(feed | {"outcome": "refused"})),
        entry("9", "note", habitat=habitat.pk, value="mine"),
    )
    assert [state for state, _said in late] == ["already", "already", "written"]
    assert [event.payload["outcome"] for event in Event.objects.filter(kind="animal.fed")] == ["eaten"]


@pytest.mark.parametrize(
    ("more", "state"),
    [
        ({"what": "weigh", "value": "heavy"}, "refused"),
        ({"what": "weigh", "value": "58 cm"}, "refused"),
        ({"what": "weigh", "value": "5800 g"}, "asked"),
        ({"what": "chore", "job": "no-such-chore", "outcome": "done"}, "refused"),
        ({"what": "chore", "job": "water", "outcome": "perhaps"}, "refused"),
        ({"what": "feed", "outcome": "devoured"}, "refused"),
        ({"what": "note", "value": "", "habitat": 10**9}, "refused"),
        ({"what": "note", "value": "next year", "at": "2099-01-01T00:00:00Z"}, "refused"),
        ({"what": "note", "value": "long ago", "at": "2001-01-01T00:00:00Z"}, "refused"),
        ({"what": "note", "value": "no zone", "at": "2026-11-20T00:00:00"}, "refused"),
    ],
)
def test_one_that_cannot_be_holds_up_no_other_and_says_why(
    habitat: Habitat, owner: Keeper, client: Client, more: dict[str, Any], state: str
) -> None:
    animal = animal_in(habitat, owner)
    sent(client, entry("0", "weigh", clock.now() - timedelta(days=2), animal=animal.pk, value="58 g"))
    told = entry("1", more["what"], habitat=habitat.pk, animal=animal.pk, due=clock.today().isoformat()) | more
    first, second = sent(client, told, entry("2", "note", habitat=habitat.pk, value="the other"))
    assert first[0] == state
    assert first[1]
    assert told["what"] != "weigh" or told["value"] in first[1]
    assert second[0] == "written"
    if state == "asked":
        assert sent(client, told | {"key": "key-000009", "sure": True})[0][0] == "written"


@pytest.mark.parametrize(
    "body", ["", "[]", "{}", '{"entries": 3}', '{"entries": [{"key": "x"}]}', '{"entries": [{"what": "\\u0000"}]}']
)
def test_what_is_no_round_is_refused_whole(client: Client, body: str) -> None:
    assert client.post(reverse("keeping:round-entries"), body, content_type="application/json").status_code == 400


def test_somebody_elses_animals_and_habitats_are_not_there(
    habitat: Habitat, owner: Keeper, other: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    animal, before = animal_in(habitat, owner), Event.every.count()
    states = sent(
        client_of(other),
        entry("1", "weigh", animal=animal.pk, value="58 g"),
        entry("2", "note", habitat=habitat.pk, value="not mine"),
        entry("3", "feed", habitat=habitat.pk, due=clock.today().isoformat(), outcome="eaten"),
    )
    assert [state for state, _said in states] == ["refused"] * 3
    assert Event.every.count() == before


def test_the_walk_goes_by_the_shelves_and_quarantine_comes_last(make_habitat: Make, owner: Keeper, client: Client) -> None:
    first, second, third = (make_habitat(name=name) for name in ("A shelf", "B shelf", "C shelf"))

    def order() -> list[str]:
        (only,), _broken = walk.rounds(owner, clock.today())
        return [stop.habitat.name for stop in only.stops]

    assert order() == ["A shelf", "B shelf", "C shelf"]
    url = reverse("keeping:round-order", args=[first.room_id])
    client.post(url, {"habitat": third.pk, "way": "up", "once": "1"})
    client.post(url, {"habitat": third.pk, "way": "up", "once": "2"})
    client.post(url, {"habitat": third.pk, "way": "up", "once": "3"})  # it is the first already
    assert order() == ["C shelf", "A shelf", "B shelf"]
    quarantine.begin(third.pk, Intent(owner, clock.now()), clock.today(), clock.today() + timedelta(days=30))
    assert order() == ["A shelf", "B shelf", "C shelf"]
    assert Habitat.objects.get(pk=second.pk).place == 3


def test_the_round_asks_the_database_as_often_for_many_as_for_few(make_habitat: Make, owner: Keeper, client: Client) -> None:
    from django.db import connection
    from django.test.utils import CaptureQueriesContext

    def queries() -> int:
        client.get(reverse("keeping:round"))  # cards are made once
        with CaptureQueriesContext(connection) as caught:
            assert client.get(reverse("keeping:round")).status_code == 200
        return len(caught)

    for name in ("A", "B"):
        animal_in(make_habitat(name=name), owner, f"one of {name}")
    few = queries()
    for name in ("C", "D", "E", "F"):
        animal_in(make_habitat(name=name), owner, f"one of {name}")
    assert queries() == few


def test_the_worker_keeps_the_round_and_nothing_else_of_a_keepers(client: Client) -> None:
    answer = client.get(reverse("keeping:worker"))
    assert answer["Content-Type"].startswith("text/javascript")
    text = answer.content.decode()
    assert '"/round/"' in text
    for part in ("importScripts", "js/round.js", "css/look.css", "workbox-core"):
        assert part in text
    assert "/habitats/" not in text
    assert client.get(reverse("keeping:manifest")).json()["start_url"] == reverse("keeping:round")
