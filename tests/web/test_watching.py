"""The watch on the pages: what the logs show, with what to do first; put aside with a reason, and told when it comes again."""

from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django.urls import reverse

from husbandry.assessment import Measure, Parameter
from husbandry.codes import WatchCode
from husbandry.watch.behaviour import Cause
from husbandry.watch.rules import Alarm
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook import log
from ridgeback.daybook.models import Notice, Quiet
from ridgeback.daybook.writing import Intent
from ridgeback.keeping import watching
from ridgeback.keeping.actions.animals import Newcomer, welcome
from ridgeback.keeping.actions.entries import whose_animal, write_entry_surely
from ridgeback.keeping.noticing import notice_animals
from ridgeback.language import watchwords
from ridgeback.rooms.models import Animal, Habitat
from ridgeback.units import METRIC, KeeperUnits

Make = Callable[..., Habitat]


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


def animal_in(habitat: Habitat, owner: Keeper, *names: str) -> list[Animal]:
    day, intent = clock.today() - timedelta(days=300), Intent(owner, clock.now())
    coming = [Newcomer({"name": name, "species": habitat.species}) for name in names]
    return welcome(habitat.pk, intent, coming, day, clock.today())


def note(animal: Animal, owner: Keeper, days: int, kind: str, **payload: Any) -> None:
    at = clock.now() - timedelta(days=days)
    write_entry_surely(whose_animal(animal), Intent(owner, clock.now()), at, kind, payload, clock.today())


def loses(animal: Animal, owner: Keeper) -> None:
    for days, mass_kg in ((90, 0.06), (76, 0.061), (62, 0.06), (48, 0.0605), (34, 0.06), (20, 0.056), (6, 0.05)):
        note(animal, owner, days, "animal.weighed", mass_kg=mass_kg)


def told(client: Client, name: str = "loud") -> list[tuple[str, str]]:
    found = client.get(reverse("keeping:watch")).context[name]
    return [(one.name, one.alarm.code.value) for one in found]


def test_a_loss_is_told_on_the_watch_and_on_its_habitats_page_with_what_to_do_first(
    make_habitat: Make, owner: Keeper, client: Client
) -> None:
    habitat = make_habitat(animal={})
    (samphire,) = animal_in(habitat, owner, "Samphire")
    loses(samphire, owner)
    assert told(client) == [("Samphire", "weight.lost")]
    for url in (reverse("keeping:watch"), reverse("keeping:now", args=[habitat.pk])):
        page = client.get(url).content.decode()
        assert "It has lost 17 % against its own line" in page
        assert "reptile veterinarian" in page


def test_what_is_put_aside_is_quiet_for_its_days_with_its_reason_and_the_next_is_told(
    make_habitat: Make, owner: Keeper, client: Client, monkeypatch: pytest.MonkeyPatch
) -> None:
    habitat = make_habitat(animal={})
    (samphire,) = animal_in(habitat, owner, "Samphire")
    note(samphire, owner, 8, "animal.sign", what="swelling")
    (alarm,) = client.get(reverse("keeping:watch")).context["loud"]
    url = reverse("keeping:put-aside", args=[samphire.pk])
    posted = {"key": alarm.alarm.key, "days": "3", "reason": "seen by the vet", "once": "1"}
    client.post(url, posted)
    client.post(url, posted)
    assert Quiet.objects.count() == 1
    assert (told(client), told(client, "quiet")) == ([], [("Samphire", "health.sign")])
    assert "seen by the vet" in client.get(reverse("keeping:watch")).content.decode()
    note(samphire, owner, 1, "animal.sign", what="limp")
    assert told(client) == [("Samphire", "health.sign")]
    later = clock.today() + timedelta(days=4)
    monkeypatch.setattr(clock, "today", lambda: later)
    assert ("Samphire", "health.sign") in told(client)


def test_what_the_watch_tells_is_kept_as_a_notice_once_and_ends_when_it_is_put_aside(
    make_habitat: Make, owner: Keeper, client: Client
) -> None:
    """Letters and calendars ask the notices alone."""
    habitat = make_habitat(animal={})
    (samphire,) = animal_in(habitat, owner, "Samphire")
    loses(samphire, owner)
    (new,) = notice_animals([habitat], clock.now())
    assert (new.code, new.animal, new.room) == (WatchCode.WEIGHT_LOST, samphire, habitat.room)
    assert notice_animals([habitat], clock.now()) == []
    assert Notice.objects.filter(ended_at=None).count() == 1
    (alarm,) = client.get(reverse("keeping:watch")).context["loud"]
    put_aside = {"key": alarm.alarm.key, "days": "3", "reason": "seen by the vet", "once": "1"}
    client.post(reverse("keeping:put-aside", args=[samphire.pk]), put_aside)
    assert notice_animals([habitat], clock.now()) == []
    assert not Notice.objects.filter(ended_at=None).exists()


@pytest.mark.parametrize("days", ["", "0", "-3", "9999", "week"])
def test_nothing_is_put_aside_for_ever_or_for_nonsense(make_habitat: Make, owner: Keeper, client: Client, days: str) -> None:
    (samphire,) = animal_in(make_habitat(animal={}), owner, "Samphire")
    client.post(reverse("keeping:put-aside", args=[samphire.pk]), {"key": "health.sign/2026-01-01", "days": days, "once": "1"})
    assert not Quiet.objects.exists()


def test_each_of_a_group_is_watched_by_its_own_line_and_by_the_meals_it_was_at(
    make_habitat: Make, owner: Keeper, client: Client
) -> None:
    habitat = make_habitat(animal={"count": 2})
    first, second = animal_in(habitat, owner, "Samphire", "Sedge")
    loses(second, owner)
    for days in (40, 36, 33, 29, 26):
        note(first, owner, days, "animal.droppings", look="firm")
        note(second, owner, days, "animal.droppings", look="firm")
    log.fed(habitat, clock.now() - timedelta(days=4), owner, outcome="eaten", who=["Samphire"])
    # Sedge was at no meal: its droppings are not missed, its weight is.
    assert sorted(told(client)) == [("Samphire", "droppings.missing"), ("Sedge", "weight.lost")]


def test_the_watch_asks_the_database_as_often_for_many_as_for_few(make_habitat: Make, owner: Keeper, client: Client) -> None:
    def queries() -> int:
        client.get(reverse("keeping:watch"))  # cards are made once
        with CaptureQueriesContext(connection) as caught:
            assert client.get(reverse("keeping:watch")).status_code == 200
        return len(caught)

    for name in ("A", "B"):
        animal_in(make_habitat(name=name, animal={}), owner, f"one of {name}")
    few = queries()
    for name in ("C", "D", "E", "F"):
        animal_in(make_habitat(name=name, animal={}), owner, f"one of {name}")
    assert queries() == few


def test_somebody_else_is_told_nothing(
    make_habitat: Make, owner: Keeper, other: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    (samphire,) = animal_in(make_habitat(animal={}), owner, "Samphire")
    loses(samphire, owner)
    assert told(client_of(other)) == []


@pytest.mark.parametrize("code", list(WatchCode))
@pytest.mark.parametrize("units", [METRIC, KeeperUnits(mass="oz", temperature="degF", length="in")], ids=["metric", "inches"])
def test_every_alarm_has_a_sentence_and_something_to_do_first(code: WatchCode, units: KeeperUnits) -> None:
    known: dict[str, Parameter] = {
        "lost": Measure(12.0, "%"), "limit": Measure(10.0, "%"), "usual": Measure(0.06, "kg"), "now": Measure(0.05, "kg"),
        "days": 12.0, "normal": 10.0, "times": 2.0, "within": 60.0, "sign": "limp", "what": "faecal sample",
        "place": "warm-air", "side": "over", "worst": Measure(41.0, "degC"), "every": Measure(10.0, "min"), "kind": "wide-5",
        "life": Measure(12.0, "months"), "hours": 2100.0, "suspects": "lamp-dark:84:reflector-flood;instrument:16:warm-air",
    }  # fmt: skip
    said, first = watchwords.told(Alarm(code, "look", clock.today(), known), units)
    assert "%(" not in said
    assert said.endswith(".")
    assert first.endswith((".", "?"))


def test_a_plan_that_cannot_be_read_hides_nobody_elses_alarm(make_habitat: Make, owner: Keeper) -> None:
    good, bad = make_habitat(name="Good", animal={}), make_habitat(name="Bad", animal={})
    (samphire,) = animal_in(good, owner, "Samphire")
    (sedge,) = animal_in(bad, owner, "Sedge")
    note(samphire, owner, 2, "animal.sign", what="limp")
    note(sedge, owner, 2, "animal.sign", what="limp")
    for habitat in Habitat.objects.select_related("head").filter(pk=bad.pk):
        assert habitat.head is not None
        habitat.head.document = {"ground": {"kind": "lava"}}
        habitat.head.save()
    habitats = list(Habitat.objects.select_related("company", "room", "rota_card", "head__profile"))
    assert "Samphire" in [one.name for one in watching.of_habitats(habitats, clock.today(), METRIC)]


def test_a_behaviour_leads_to_its_causes_the_one_reading_and_the_one_change(
    make_habitat: Make, owner: Keeper, client: Client
) -> None:
    habitat = make_habitat(animal={}, heaters__0__watts=15.0)
    (samphire,) = animal_in(habitat, owner, "Samphire")
    url = reverse("keeping:write-animal", args=[samphire.pk, "animal-behaviour"])
    posted = {"day": clock.today().isoformat(), "time": "", "what": "basks-all-day", "once": "1"}
    answer = client.post(url, posted, follow=True)
    page = answer.content.decode()
    assert "Measure this first: basking surface" in page
    assert "The basking spot is too weak" in page
    assert "Hang the lamp lower" in page
    note(samphire, owner, 3, "animal.behaviour", what="basks-all-day")
    assert "2 times within two weeks" in client.get(answer.redirect_chain[-1][0]).content.decode()
    # As always: nothing to explain.
    assert "daybook" in client.post(url, posted | {"what": "normal", "once": "2"}).headers["Location"]


def test_a_newcomer_that_hides_is_new_and_one_that_is_long_here_is_not(make_habitat: Make, owner: Keeper, client: Client) -> None:
    habitat = make_habitat(animal={})
    intent, facts = Intent(owner, clock.now()), {"name": "Tansy", "species": habitat.species}
    (tansy,) = welcome(habitat.pk, intent, [Newcomer(facts)], clock.today() - timedelta(days=3), clock.today())
    note(tansy, owner, 0, "animal.behaviour", what="hides-always")
    old = make_habitat(name="Other", animal={})
    (samphire,) = animal_in(old, owner, "Samphire")
    note(samphire, owner, 0, "animal.behaviour", what="hides-always")
    for animal, evidence in ((tansy, "for"), (samphire, "against")):
        event = animal.events.filter(kind="animal.behaviour").get()
        causes = client.get(reverse("keeping:meaning", args=[event.pk])).context["causes"]
        assert [one["evidence"] for one in causes if one["said"] == "it has not been here for long"] == [evidence]


@pytest.mark.parametrize("cause", list(Cause))
def test_every_cause_has_a_sentence_and_a_change(cause: Cause) -> None:
    said, change = watchwords.CAUSES[cause]
    assert str(said)[0].islower()
    assert str(change).endswith(".")
