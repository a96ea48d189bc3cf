"""The one reader of the log: nothing is forgotten because it is old, and days are the keeper's own."""

from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from django.utils import timezone

from husbandry.rota.card import compile_card
from ridgeback import clock
from ridgeback.daybook import log, reader
from ridgeback.daybook.actions.readings import Shown, forget_reading, take_reading
from ridgeback.daybook.models import Event, Instrument
from ridgeback.daybook.writing import Intent
from ridgeback.pantry.actions.stock import count_stock
from ridgeback.pantry.models import Item, Lot
from ridgeback.planner import growing, mapping, revisions
from ridgeback.rooms.models import Habitat
from ridgeback.rota import cards
from ridgeback.rota.models import RotaCard
from tests.plans import TODAY

NOON = datetime(2026, 11, 24, 12, tzinfo=UTC)


@pytest.fixture(autouse=True)
def _a_fixed_day(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(clock, "today", lambda: TODAY)
    monkeypatch.setattr(clock, "now", lambda: NOON)


@pytest.fixture
def old(habitat: Habitat) -> Habitat:
    """A habitat that has stood for four years."""
    Habitat.objects.filter(pk=habitat.pk).update(created_at=NOON - timedelta(days=1460))
    return Habitat.objects.select_related("company", "room", "head__profile").get(pk=habitat.pk)


def test_a_chore_of_a_long_period_is_remembered_as_done(old: Habitat) -> None:
    for days, job in ((900, "deep-clean"), (700, "uv-lamp/0"), (3, "water"), (2, "water")):
        log.done(old, NOON - timedelta(days=days), None, job, (TODAY - timedelta(days=days)).isoformat())
    done = reader.histories([old])[old.pk].done
    assert done == {
        "deep-clean": TODAY - timedelta(days=900), "uv-lamp/0": TODAY - timedelta(days=700), "water": TODAY - timedelta(days=2),
    }  # fmt: skip


def test_the_card_and_the_bench_name_the_same_day_for_the_next_stage(make_habitat: Any) -> None:
    young = make_habitat(animal={"name": "Dune", "hatched": "2026-03-01", "mass_kg": 0.02, "length_m": 0.07})
    Habitat.objects.filter(pk=young.pk).update(created_at=NOON - timedelta(days=1460))
    young = Habitat.objects.select_related("company", "room", "head__profile").get(pk=young.pk)
    for days, mass_kg in ((500, 0.004), (420, 0.009), (100, 0.016), (3, 0.02)):
        log.weighed(young, NOON - timedelta(days=days), None, mass_kg)
    assert growing.weighings(young) == reader.histories([young])[young.pk].weighings
    assert growing.weighings(young)[0].mass_kg == 0.004


def test_an_animal_that_has_not_eaten_for_two_years_is_known_to_have_eaten_then(old: Habitat) -> None:
    log.fed(old, NOON - timedelta(days=760), None, outcome="eaten", due="2024-10-25", products=[], foods=[])
    log.fed(old, NOON - timedelta(days=800), None, outcome="eaten", due="2024-09-15", products=[], foods=[])
    for days in (500, 300, 20):
        log.fed(old, NOON - timedelta(days=days), None, outcome="refused", due="2026-01-01", products=[], foods=[])
    history = reader.histories([old])[old.pk]
    assert history.last_eaten == TODAY - timedelta(days=760)
    assert history.refusals == 3


def test_a_reading_and_a_score_are_the_chores_they_were_taken_for(old: Habitat) -> None:
    gun = Instrument.objects.create(room=old.room, name="gun", kind="infrared")
    intent = Intent(None, NOON)
    event = take_reading(old.pk, intent, NOON - timedelta(days=450), gun, Shown("basking-surface", 33.0, 21.0, 50.0))
    log.was_read(old, NOON - timedelta(days=30), None, gun, place="uv-back", value=1.0, room_c=21.0, room_percent=50.0)
    log.scored(old, NOON - timedelta(days=600), None, 3)
    done = reader.last_done([old.pk])[old.pk]
    assert done == {
        "thermometers": TODAY - timedelta(days=450), "uv-check": TODAY - timedelta(days=30),
        "condition": TODAY - timedelta(days=600),
    }  # fmt: skip
    forget_reading(old.pk, intent, event.pk)
    assert "thermometers" not in reader.last_done([old.pk])[old.pk]


def test_a_forgotten_reading_leaves_no_card_that_still_knows_it(old: Habitat) -> None:
    gun = Instrument.objects.create(room=old.room, name="gun", kind="infrared")
    event = take_reading(old.pk, Intent(None, NOON), NOON, gun, Shown("basking-surface", 33.0, 21.0, 50.0))

    def last() -> Any:
        fresh = Habitat.objects.select_related("company", "room", "rota_card", "head__profile").get(pk=old.pk)
        card = cards.of_habitats([fresh], TODAY)[old.pk]
        return next(job.last_done for job in card.jobs if job.id == "thermometers")

    assert last() == TODAY
    forget_reading(old.pk, Intent(None, NOON), event.pk)
    assert last() is None


def test_a_card_made_by_another_program_is_made_again(old: Habitat, monkeypatch: pytest.MonkeyPatch) -> None:
    cards.of_habitats([old], TODAY)
    row = RotaCard.objects.get()
    monkeypatch.setattr("ridgeback.made_by.program", lambda: "another")
    cards._READ.clear()
    fresh = Habitat.objects.select_related("company", "room", "rota_card", "head__profile").get(pk=old.pk)
    cards.of_habitats([fresh], TODAY)
    assert RotaCard.objects.get().stamp != row.stamp


@pytest.mark.parametrize(("zone", "day"), [("Pacific/Auckland", 25), ("America/Los_Angeles", 24), ("UTC", 24)])
def test_days_are_those_where_the_keeper_lives(old: Habitat, zone: str, day: int) -> None:
    """Noon in Greenwich is the next morning in Auckland."""
    with timezone.override(zone):
        log.weighed(old, NOON, None, 0.06)
        log.fed(old, NOON, None, outcome="eaten", due="2026-11-24", products=[], foods=[])
        log.done(old, NOON, None, "water", "2026-11-24")
        history = reader.histories([old])[old.pk]
        assert history.weighings[-1].day.day == day
        assert history.meals[-1].day.day == day
        assert history.done["water"].day == day
        assert growing.weighings(old)[-1].day.day == day
        item = Item.objects.create(room=old.room, food="cricket", kind="live", unit="piece", pack_size=250)
        count_stock(item, Intent(None, NOON), 10, timezone.localdate(NOON))
        assert Lot.objects.get().received.day == day


def test_only_the_clock_is_asked_what_time_it_is() -> None:
    from pathlib import Path

    root = Path(__file__).resolve().parents[2]
    asking = ("timezone.now(", "datetime.now(", "date.today(", "localdate(", "time.time(")
    found = [
        f"{path.relative_to(root)}: {sign}"
        for path in [*root.glob("ridgeback/**/*.py"), *root.glob("husbandry/**/*.py")]
        for sign in asking
        if sign in path.read_text() and path.name not in ("clock.py", "command_line.py")  # that one runs on another machine
    ]
    assert found == []


def test_the_compile_of_a_habitats_whole_log_is_the_cards(old: Habitat) -> None:
    for days in range(40):
        log.fed(old, NOON - timedelta(days=3 * days), None, outcome="eaten", due="2026-01-01", products=["plain calcium"], foods=[])
    assert Event.objects.filter(kind=Event.Kind.FED).count() == 40
    made = compile_card(mapping.plan_of(old), revisions.profile_of(old), TODAY, reader.histories([old])[old.pk])
    assert cards.of_habitats([old], TODAY)[old.pk] == made
