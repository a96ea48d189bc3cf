"""A test run on its page: readings that count, corrected; thermostats seen; what is lacking; one change; the signature."""

from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse
from django.utils import timezone

from husbandry.assessment import Band, Basis, BasisKind
from husbandry.design.commissioning import ReadingPoint
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.building.commissioning import settled_at
from ridgeback.building.models import Build, DoneStep
from ridgeback.daybook import log
from ridgeback.daybook.models import Instrument
from ridgeback.planner import mapping, revisions
from ridgeback.rooms.models import Habitat
from ridgeback.series import intake
from ridgeback.series.models import Channel
from tests.web.test_building import HOW

MORNING = datetime(2026, 11, 24, 8, tzinfo=UTC).replace(tzinfo=None)


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


@pytest.fixture
def at(monkeypatch: pytest.MonkeyPatch) -> Callable[[datetime], None]:
    def stand(moment: datetime) -> None:
        monkeypatch.setattr(clock, "now", lambda: timezone.make_aware(moment))

    return stand


@pytest.fixture
def running(habitat: Habitat, client: Client, at: Callable[[datetime], None]) -> Habitat:
    """A build whose test run was switched on at eight in the morning, when the light comes on."""
    at(MORNING)
    client.post(reverse("building:build", args=[habitat.pk]), HOW)
    client.post(reverse("building:done", args=[habitat.pk]), {"step": "test-run", "once": "1"})
    assert DoneStep.objects.get().step == "test-run"
    return habitat


def read(habitat: Habitat, moment: datetime, place: str, value: float, gun: Instrument) -> None:
    room = {"room_c": 20.0, "room_percent": 50.0}
    log.was_read(habitat, timezone.make_aware(moment), None, gun, place=place, value=value, **room)


def page(client: Client, habitat: Habitat) -> Any:
    return client.get(reverse("building:test", args=[habitat.pk]))


def check(client: Client, habitat: Habitat, name: str = "basking surface") -> dict[str, Any]:
    return next(row for row in page(client, habitat).context["checks"] if row["name"] == name)


def gun(habitat: Habitat, reads_high: float = 0.0) -> Instrument:
    return Instrument.objects.create(room=habitat.room, name="gun", kind="infrared", reads_high=reads_high)


def test_the_page_says_what_to_read_by_what_and_from_when(running: Habitat, client: Client) -> None:
    Instrument.objects.filter(room=running.room).delete()
    gun(running)
    answer = page(client, running)
    assert answer.context["missing"] == ["a UV index meter", "a hygrometer", "a thermometer with a probe"]
    spot = check(client, running)
    assert spot["settled"].endswith("10:00")
    assert spot["wanted"] == "31–35 °C"
    assert "What this room lacks" in answer.content.decode()


def test_a_reading_counts_settled_and_corrected(running: Habitat, client: Client, at: Callable[[datetime], None]) -> None:
    """Two hours on 36.2 °C by an instrument that reads 1.4 K high: 34.8 °C, which passes (trade)."""
    high = gun(running, reads_high=1.4)
    at(MORNING + timedelta(hours=3))
    read(running, MORNING + timedelta(minutes=30), "basking-surface", 33.0, high)
    early = check(client, running)
    assert (early["early"], early["passes"]) == (True, False)
    read(running, MORNING + timedelta(hours=2, minutes=5), "basking-surface", 36.2, high)
    spot = check(client, running)
    assert (spot["passes"], spot["raw"], spot["value"]) == (True, "36.2 °C", "34.8 °C")


@pytest.mark.parametrize(
    ("phase", "settle_h", "read_at", "counts_at"),
    [
        ("day", 2.0, timedelta(hours=5), timedelta(hours=2)),
        ("day", 2.0, timedelta(days=1, hours=5), timedelta(days=1, hours=2)),
        # What takes a day settles once: on the second day it is read like anything else.
        ("day", 24.0, timedelta(hours=5), timedelta(days=1)),
        ("day", 24.0, timedelta(days=1, hours=5), timedelta(days=1, hours=2)),
        # The light goes off at eight in the evening, twelve hours on.
        ("night", 2.0, timedelta(hours=20), timedelta(hours=14)),
        ("night", 2.0, timedelta(hours=44), timedelta(hours=38)),
    ],
)
def test_a_place_settles_once_and_each_day_anew(
    habitat: Habitat, phase: str, settle_h: float, read_at: timedelta, counts_at: timedelta
) -> None:
    point = ReadingPoint("water", "water_temperature", phase, "degC", Band(20.0, 24.0, Basis(BasisKind.PRACTICE)), 22.0, settle_h)
    begun = timezone.make_aware(MORNING)
    assert settled_at(mapping.plan_of(habitat), point, begun, begun + read_at) == begun + counts_at


@pytest.mark.sweep
def test_too_hot_is_said_with_one_change_at_a_time(
    habitat: Habitat, owner: Keeper, client: Client, at: Callable[[datetime], None]
) -> None:
    free = mapping.plan_of(habitat)
    lamp = free.heaters[0].model_copy(update={"thermostat": free.heaters[0].thermostat.model_copy(update={"kind": "none"})})
    revisions.save(habitat.pk, free.model_copy(update={"heaters": (lamp,)}), 1, owner, clock.now(), "free")
    at(MORNING)
    client.post(reverse("building:build", args=[habitat.pk]), HOW)
    client.post(reverse("building:done", args=[habitat.pk]), {"step": "test-run", "once": "1"})
    at(MORNING + timedelta(hours=3))
    one = gun(habitat)
    read(habitat, MORNING + timedelta(hours=2, minutes=5), "basking-surface", 53.0, one)
    answer = page(client, habitat)
    assert check(client, habitat)["direction"] == 1
    rows = answer.context["ways"]["rows"]
    assert rows[0]["said"] == "On a dimming thermostat at 33.0 °C"
    assert all(row["in_band"] and float(row["spot"].split()[0]) < 49 for row in rows)
    assert "Outside its band: basking surface by day." in answer.context["lacking"]
    assert "Let the plan go by them" in answer.content.decode()
    # A reading that nothing explains is read again before anything is changed.
    read(habitat, MORNING + timedelta(hours=2, minutes=20), "basking-surface", 80.0, one)
    assert page(client, habitat).context["ways"] == {"again": True, "rows": []}
    # Hung another way the test runs anew: what was read of the old lamp counts no more.
    weaker = lamp.model_copy(update={"watts": 50.0})
    fresh = Habitat.objects.get(pk=habitat.pk)
    plan = mapping.plan_of(fresh).model_copy(update={"heaters": (weaker,)})
    revisions.save(habitat.pk, plan, fresh.version, owner, clock.now(), "weaker")
    assert page(client, habitat).context["lacking"] == ["It has not been switched on yet."]


def test_a_thermostat_is_seen_at_both_ends_and_that_can_be_taken_back(running: Habitat, client: Client) -> None:
    url = reverse("building:test", args=[running.pk])
    assert len(page(client, running).context["run"].unseen) == 2
    client.post(url, {"path": "heaters.0", "end": "on", "once": "a"})
    client.post(url, {"path": "heaters.0", "end": "off", "once": "b"})
    assert page(client, running).context["run"].unseen == ()
    client.post(url, {"path": "heaters.0", "end": "off", "do": "undo", "once": "c"})
    assert page(client, running).context["run"].unseen == (("heaters.0", "off"),)
    assert client.post(url, {"path": "heaters.7", "end": "on"}).status_code == 404


def test_where_only_a_logger_told_of_the_basking_place_it_is_read_by_hand_first(
    running: Habitat, client: Client, at: Callable[[datetime], None]
) -> None:
    channel = Channel.objects.create(
        room=running.room, habitat=running, place="basking-surface", code="spot", made_at=clock.now(), every_min=30.0
    )
    at(MORNING + timedelta(hours=11))
    moments = [timezone.make_aware(MORNING + timedelta(minutes=30 * n)) for n in range(1, 21)]
    intake.take({channel.pk: channel}, [intake.Given(channel.pk, moment, 26.0) for moment in moments], clock.now())
    answer = page(client, running)
    assert answer.context["ways"] == {"by_hand": True, "rows": []}
    assert "Read it once by hand" in answer.content.decode()
    read(running, MORNING + timedelta(hours=10), "basking-surface", 26.0, gun(running))
    assert "by_hand" not in page(client, running).context["ways"]


def test_a_log_that_strays_fails_what_one_reading_passed(running: Habitat, client: Client, at: Callable[[datetime], None]) -> None:
    channel = Channel.objects.create(
        room=running.room, habitat=running, place="cool-air", code="cool", made_at=clock.now(), every_min=30.0
    )
    at(MORNING + timedelta(hours=11))
    moments = [timezone.make_aware(MORNING + timedelta(minutes=30 * n)) for n in range(1, 21)]
    intake.take({channel.pk: channel}, [intake.Given(channel.pk, moment, 29.0) for moment in moments], clock.now())
    probe = Instrument.objects.create(room=running.room, name="test probe", kind="thermometer")
    read(running, MORNING + timedelta(hours=5), "cool-air", 24.0, probe)
    cool = next(
        one for one in page(client, running).context["run"].checks if (one.point.place, one.point.phase) == ("cool-air", "day")
    )
    assert cool.passes
    assert cool.strays
    assert cool in page(client, running).context["run"].failing


def test_a_passed_test_is_signed_without_a_reason(running: Habitat, client: Client, at: Callable[[datetime], None]) -> None:
    kinds = {"infrared": gun(running)} | {
        kind: Instrument.objects.create(room=running.room, name=f"test {kind}", kind=kind)
        for kind in ("thermometer", "hygrometer", "uv-meter")
    }
    channel = Channel.objects.create(
        room=running.room, habitat=running, place="cool-air", code="cool", made_at=clock.now(), every_min=30.0
    )
    at(MORNING + timedelta(hours=50))
    moments = [timezone.make_aware(MORNING + timedelta(minutes=30 * n)) for n in range(1, 98)]
    intake.take({channel.pk: channel}, [intake.Given(channel.pk, moment, 22.5) for moment in moments], clock.now())
    run = page(client, running).context["run"]
    assert run.logged_h >= 24
    # Nobody read the cool end by hand: its logger did. 22.5 °C is in band by day and by night.
    by_log = [one for one in run.checks if one.point.place == "cool-air"]
    assert [one.logger for one in by_log] == [22.5, 22.5]
    assert all(one.passes and not one.strays for one in by_log)
    for one in run.checks:
        moment = MORNING + timedelta(hours=15 if one.point.phase == "night" else 5)
        low = one.point.band.low or 0.0
        high = one.point.band.high if one.point.band.high is not None else low + 1
        kind = {"basking-surface": "infrared", "uv-back": "uv-meter"}.get(one.point.place)
        kind = kind or ("hygrometer" if one.point.unit == "%" else "thermometer")
        read(running, moment, one.point.place, (low + high) / 2, kinds[kind])
    url = reverse("building:test", args=[running.pk])
    for end in ("on", "off"):
        client.post(url, {"path": "heaters.0", "end": end, "once": end})
    answer = page(client, running)
    assert answer.context["lacking"] == []
    assert answer.context["run"].complete
    client.post(reverse("building:end", args=[running.pk]), {"do": "sign", "name": "Sedge", "once": "s"})
    assert Build.objects.get().test_by == "Sedge"
