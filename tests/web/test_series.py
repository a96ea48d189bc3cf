"""Readings that come by themselves: taken once whichever way they come, kept by the hour, refused with a reason."""

import json
import shutil
import socket
import subprocess
import time
from collections.abc import Callable, Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import paho.mqtt.client as mqtt
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.urls import reverse
from paho.mqtt.enums import CallbackAPIVersion
from procrastinate.contrib.django.models import ProcrastinateJob

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook.models import Event, Instrument
from ridgeback.daybook.writing import Intent
from ridgeback.keeping.actions.animals import Newcomer, welcome
from ridgeback.rooms.models import Habitat
from ridgeback.series import broker, devices, filing, intake, reading, tasks
from ridgeback.series.intake import Given
from ridgeback.series.models import Channel, Device, Hour, Sample, TableFile, TableMapping
from ridgeback.web.bucket import Bucket

API = "/api/readings/"


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


@pytest.fixture
def warm(habitat: Habitat) -> Channel:
    return channel(habitat, "warm-air")


def channel(habitat: Habitat, place: str, **more: Any) -> Channel:
    return Channel.objects.create(room=habitat.room, habitat=habitat, place=place, code=place, made_at=clock.now(), **more)


def taken(one: Channel, *given: tuple[datetime, float]) -> intake.Outcome:
    one = Channel.objects.select_related("instrument", "animal", "habitat").get(pk=one.pk)
    return intake.take({one.pk: one}, [Given(one.pk, at, value) for at, value in given], clock.now())


@pytest.fixture(autouse=True)
def _one_moment() -> None:
    """What a test says twice is the same moment, also where a minute ends in between."""
    _began[:] = [clock.now().replace(second=0, microsecond=0)]


_began: list[datetime] = []


def ago(minutes: float) -> datetime:
    """So long before the test began, to the minute."""
    return _began[0] - timedelta(minutes=minutes)


def test_the_same_reading_twice_adds_nothing(warm: Channel) -> None:
    at = ago(10)
    assert taken(warm, (at, 25.0), (at, 25.0)).new == 1
    again = taken(warm, (at, 25.0), (ago(5), 25.5))
    assert (again.new, again.known) == (1, 1)
    assert Sample.objects.filter(channel=warm).count() == 2


def test_hours_follow_whatever_comes_late(warm: Channel) -> None:
    hour = ago(300).replace(minute=0)
    taken(warm, (hour + timedelta(minutes=10), 20.0), (hour + timedelta(minutes=20), 30.0))
    taken(warm, (hour + timedelta(minutes=5), 10.0))
    kept = Hour.objects.get(channel=warm)
    assert (kept.count, kept.mean, kept.low, kept.high) == (3, 20.0, 10.0, 30.0)


def test_what_cannot_be_is_refused_with_its_reason(warm: Channel) -> None:
    now = clock.now()
    found = taken(
        warm, (now, 2500.0), (now + timedelta(hours=2), 25.0), (datetime(2000, 1, 1, tzinfo=UTC), 25.0), (now, float("nan"))
    )
    assert found.refused == {"cannot_be": 2, "future": 1, "clock_unset": 1}
    assert not Sample.objects.exists()


def test_an_instruments_error_is_taken_off_as_it_was_known_then(habitat: Habitat) -> None:
    meter = Instrument.objects.create(room=habitat.room, name="stick", kind="thermometer", reads_high=1.5)
    warm = channel(habitat, "warm-air", instrument=meter)
    taken(warm, (ago(20), 26.5))
    meter.reads_high = 0.5
    meter.save()
    taken(warm, (ago(10), 26.5))
    assert list(Sample.objects.order_by("at").values_list("value", flat=True)) == [25.0, 26.0]


def test_old_readings_go_and_their_hours_stay(warm: Channel, settings: Any) -> None:
    settings.RAW_DAYS = 10
    old = ago(20 * 1440).replace(minute=0)
    taken(warm, *((old + timedelta(minutes=turn), 20.0 + turn) for turn in range(5)), (ago(1), 25.0))
    assert intake.let_go(clock.now()) == 5
    assert Sample.objects.filter(channel=warm).count() == 1
    assert Hour.objects.get(channel=warm, at=old).mean == 22.0
    taken(warm, (old + timedelta(minutes=2), 22.0))  # one of them comes once more: the hour knows more than that
    assert Hour.objects.get(channel=warm, at=old).count == 5


def test_a_line_is_as_fine_as_its_span_asks_for(warm: Channel) -> None:
    taken(warm, *((ago(minutes), 25.0) for minutes in range(0, 3 * 1440, 30)))
    now = clock.now()
    assert reading.line(warm, now - timedelta(hours=6), now).step == timedelta(minutes=30)
    assert reading.line(warm, now - timedelta(days=3), now).step == timedelta(hours=1)
    days = reading.line(warm, now - timedelta(days=90), now)
    assert days.step == timedelta(days=1)
    assert 3 <= len(days.points) <= 4


def test_what_is_kept_goes_out_as_csv_and_comes_in_again(habitat: Habitat, warm: Channel, client: Client, settings: Any) -> None:
    settings.RAW_DAYS = 10
    old = ago(20 * 1440).replace(minute=0)
    taken(warm, (old, 20.0), (old + timedelta(minutes=30), 22.0), *((ago(turn), 25.0 + turn) for turn in range(3)))
    intake.let_go(clock.now())
    raw = client.get(reverse("metering:readings-csv", args=[warm.pk]), {"span": "month"}).getvalue()
    lines = raw.decode().splitlines()
    assert lines[0] == "at,value (degC),lowest,highest,readings"
    assert lines[1].endswith(",21,20,22,2")
    assert len(lines) == 5
    sent = SimpleUploadedFile("again.csv", raw, "text/csv")
    asked = client.post(reverse("metering:bring-file", args=[habitat.room_id]), {"file": sent}, follow=True)
    assert [one["column"].kind for one in asked.context["columns"]][:2] == ["moment", "value"]


def post(key: str, *readings: dict[str, Any], client: Client | None = None) -> Any:
    body = json.dumps({"readings": list(readings)})
    return (client or Client()).post(API, body, content_type="application/json", HTTP_AUTHORIZATION=f"Bearer {key}")


def test_a_device_reports_by_its_key_and_in_its_own_unit(warm: Channel) -> None:
    device, key = devices.make(warm.room_id, "hub", clock.now())
    at = ago(1).isoformat()
    answer = post(
        key, {"channel": "warm-air", "at": at, "value": 77.0, "unit": "degF"}, {"channel": "nowhere", "at": at, "value": 1}
    )
    assert answer.json() == {"new": 1, "known": 0, "refused": {"no_channel": 1}}
    assert Sample.objects.get().value == pytest.approx(25.0)
    device.refresh_from_db()
    assert device.heard_at is not None
    assert device.refused == "no_channel: 1"


def test_a_key_that_is_wrong_renewed_or_revoked_opens_nothing(warm: Channel, client: Client) -> None:
    device, key = devices.make(warm.room_id, "hub", clock.now())
    one = {"channel": "warm-air", "at": ago(1).isoformat(), "value": 25.0}
    assert post("guess", one).status_code == 401
    assert Client().post(API, "{}", content_type="application/json").status_code == 401
    shown = client.post(reverse("metering:renew-key", args=[device.pk]))
    assert shown["Cache-Control"] == "no-store"
    assert post(key, one).status_code == 401
    new = shown.context["key"]
    assert post(new, one).status_code == 200
    client.post(reverse("metering:revoke-device", args=[device.pk]))
    assert post(new, one).status_code == 401
    assert not Device.objects.filter(digest=new).exists()  # only its digest is kept


def test_a_device_reaches_no_other_room(warm: Channel, other: Keeper) -> None:
    _device, key = devices.make(other.room_set.get().pk, "theirs", clock.now())
    answer = post(key, {"channel": "warm-air", "at": ago(1).isoformat(), "value": 25.0})
    assert answer.json()["refused"] == {"no_channel": 1}


def test_too_many_requests_wait(warm: Channel, monkeypatch: pytest.MonkeyPatch) -> None:
    # A busy machine gives the bucket no time to fill.
    monkeypatch.setattr(devices, "REQUESTS", Bucket(burst=3.0, a_second=0.01))
    _device, key = devices.make(warm.room_id, "hub", clock.now())
    Device.objects.update(allowance=3.0)
    one = {"channel": "warm-air", "at": ago(1).isoformat(), "value": 25.0}
    answers = [post(key, one) for _ in range(5)]
    assert [answer.status_code for answer in answers][:3] == [200, 200, 200]
    assert [answer.status_code for answer in answers][3:] == [429, 429]
    assert int(answers[3]["Retry-After"]) >= 1


@pytest.mark.parametrize(
    "body",
    [
        "no json",
        '{"readings": [{"channel": "warm-air", "at": "yesterday", "value": 25}]}',
        '{"readings": [{"channel": "warm-air", "at": "2026-11-01T10:00:00", "value": 25}]}',  # a clock without a zone
        '{"readings": [{"channel": "warm-air", "at": "2026-11-01T10:00:00Z", "value": NaN}]}',
        '{"readings": {}, "more": 1}',
        "[]",
    ],
)
def test_what_is_no_batch_is_told_where(warm: Channel, body: str) -> None:
    _device, key = devices.make(warm.room_id, "hub", clock.now())
    answer = Client().post(API, body, content_type="application/json", HTTP_AUTHORIZATION=f"Bearer {key}")
    assert answer.status_code == 422
    assert answer.json()["problems"]
    assert not Sample.objects.exists()


def test_a_batch_of_five_thousand_goes_through_and_more_does_not(warm: Channel) -> None:
    _device, key = devices.make(warm.room_id, "hub", clock.now())
    many = [{"channel": "warm-air", "at": ago(turn).isoformat(), "value": 25.0} for turn in range(5_001)]
    assert post(key, *many).status_code == 422
    assert post(key, *many[:5_000]).json()["new"] == 5_000


def test_a_scale_writes_into_the_daybook_once_and_no_slip(habitat: Habitat, owner: Keeper) -> None:
    intent = Intent(owner, clock.now())
    coming = [Newcomer({"name": "Sedge", "species": habitat.species})]
    animal = welcome(habitat.pk, intent, coming, clock.today() - timedelta(days=90), clock.today())[0]
    scale = channel(habitat, "weight", animal=animal)
    found = taken(scale, (ago(60), 58.0), (ago(50), 5_800.0), (ago(40), 58.4))
    assert (found.new, found.refused) == (2, {"weight_slip": 1})
    assert taken(scale, (ago(60), 58.0)).known == 1
    masses = Event.objects.filter(animal=animal, kind=Event.Kind.WEIGHED, author=None).values_list("payload__mass_kg", flat=True)
    assert sorted(masses) == pytest.approx([0.058, 0.0584])


# A broker


@pytest.fixture(scope="module")
def mosquitto(tmp_path_factory: pytest.TempPathFactory) -> Iterator[int]:
    """Debian's own broker on loopback."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    settings = tmp_path_factory.mktemp("broker") / "mosquitto.conf"
    settings.write_text(f"listener {port} 127.0.0.1\nallow_anonymous true\npersistence false\n")
    program = shutil.which("mosquitto") or "/usr/sbin/mosquitto"
    assert Path(program).exists(), "./test installs Debian's mosquitto"
    process = subprocess.Popen([program, "-c", str(settings)], stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    deadline = time.monotonic() + 20
    while time.monotonic() < deadline:
        try:
            socket.create_connection(("127.0.0.1", port), timeout=1).close()
            break
        except OSError:
            time.sleep(0.05)
    yield port
    process.terminate()
    process.wait(10)


def until(test: Callable[[], bool], seconds: float = 20.0) -> None:
    deadline = time.monotonic() + seconds
    while not test():
        assert time.monotonic() < deadline, "nothing came"
        time.sleep(0.05)


@pytest.mark.sweep
def test_readings_come_by_way_of_a_broker(warm: Channel, mosquitto: int) -> None:
    device, _key = devices.make(warm.room_id, "hub", clock.now())
    heard: list[tuple[str, bytes]] = []
    url = f"mqtt://127.0.0.1:{mosquitto}/ridgeback"
    listening, host, port = broker.client_of(url, lambda topic, said: heard.append((topic, said)))
    listening.connect(host, port)
    listening.loop_start()
    until(listening.is_connected)
    time.sleep(0.3)  # its subscription is on the way
    sender = mqtt.Client(CallbackAPIVersion.VERSION2)
    sender.connect("127.0.0.1", mosquitto)
    sender.loop_start()
    topic = f"ridgeback/{device.name_in_topics}/warm-air"
    for said in ("25.5", json.dumps({"value": 80.6, "unit": "degF", "at": ago(5).isoformat()}), "lukewarm"):
        sender.publish(topic, said, qos=1).wait_for_publish(10)
    sender.publish("ridgeback/nobody/warm-air", "25", qos=1).wait_for_publish(10)
    until(lambda: len(heard) == 4)
    sender.loop_stop()
    listening.loop_stop()
    outcomes = [broker.receive(topic, said) for topic, said in heard]
    assert sum(one.new for one in outcomes) == 2
    assert outcomes[2].refused == {"no_number": 1}
    assert outcomes[3].refused == {"no_device": 1}
    assert sorted(Sample.objects.values_list("value", flat=True)) == pytest.approx([25.5, 27.0])


@pytest.mark.parametrize("url", ["", "http://127.0.0.1", "mqtt://", "mqtt://host:port/x", "127.0.0.1:1883"])
def test_an_address_that_is_no_brokers_is_refused(url: str) -> None:
    with pytest.raises(broker.BrokerError):
        broker.client_of(url, lambda topic, said: None)


# Files


def bring(client: Client, habitat: Habitat, text: str, name: str = "log.csv") -> Any:
    sent = SimpleUploadedFile(name, text.encode(), "text/csv")
    return client.post(reverse("metering:bring-file", args=[habitat.room_id]), {"file": sent}, follow=True)


def log_of(*values: float) -> str:
    begin = ago(60 * 24)
    rows = [f"{(begin + timedelta(minutes=10 * turn)):%Y-%m-%d %H:%M},{value}" for turn, value in enumerate(values)]
    return "When,Warm end (°F)\n" + "\n".join(rows) + "\n"


def test_a_file_is_asked_about_once_and_taken_in_once(habitat: Habitat, warm: Channel, client: Client) -> None:
    page = bring(client, habitat, log_of(77.0, 78.8, 80.6))
    made = TableFile.objects.get()
    assert page.context["columns"][1]["unit"] == "degF"
    said = {"column-1": str(warm.pk), "unit-1": "degF", "zone": "UTC"}
    assert client.post(reverse("metering:file", args=[made.pk]), said).status_code == 302
    tasks.take_file(made.pk)
    made.refresh_from_db()
    assert (made.state, made.outcome["new"], made.content) == ("taken", 3, None)
    assert sorted(Sample.objects.values_list("value", flat=True)) == pytest.approx([25.0, 26.0, 27.0])
    # The next file of the same logger is asked nothing; what is known of it adds nothing.
    bring(client, habitat, log_of(77.0, 78.8, 80.6, 82.4))
    again = TableFile.objects.first()
    assert again is not None
    assert again.state == "waits"
    tasks.take_file(again.pk)
    again.refresh_from_db()
    assert (again.outcome["new"], again.outcome["known"]) == (1, 3)
    assert TableMapping.objects.count() == 1
    page = client.get(reverse("metering:file", args=[again.pk])).content.decode()
    assert "3 were known already" in page


def test_a_file_waits_for_the_worker_as_a_job(habitat: Habitat, warm: Channel, client: Client) -> None:
    bring(client, habitat, log_of(77.0, 78.8))
    made = TableFile.objects.get()
    client.post(reverse("metering:file", args=[made.pk]), {"column-1": str(warm.pk), "unit-1": "degF", "zone": "UTC"})
    job = ProcrastinateJob.objects.get(task_name="series.take_file")
    assert (job.status, job.args) == ("todo", {"pk": made.pk})


@pytest.mark.parametrize(
    ("said", "words"),
    [
        ({}, "Say of at least one column"),
        ({"column-1": "0"}, "Say of at least one column"),
        ({"column-1": "warm", "zone": "Mars/Crater"}, "That zone is not known"),
    ],
)
def test_what_was_not_said_is_asked_again(
    habitat: Habitat, warm: Channel, client: Client, said: dict[str, str], words: str
) -> None:
    bring(client, habitat, log_of(77.0, 78.8))
    posted = {name: str(warm.pk) if value == "warm" else value for name, value in said.items()}
    answer = client.post(reverse("metering:file", args=[TableFile.objects.get().pk]), posted)
    assert answer.status_code == 422
    assert words in answer.content.decode()


def test_a_file_of_another_planet_is_told(habitat: Habitat, warm: Channel, client: Client) -> None:
    page = bring(client, habitat, "\x00\x01\x02 glorp")
    assert page.status_code == 422
    assert "That is no text" in page.content.decode()
    assert not TableFile.objects.exists()


def test_readings_far_off_and_of_the_future_are_counted_not_kept(habitat: Habitat, warm: Channel, client: Client) -> None:
    future = (clock.now() + timedelta(days=400)).strftime("%Y-%m-%d %H:%M")
    bring(client, habitat, log_of(7700.0, 77.0) + f"{future},77.0\n")
    made = TableFile.objects.get()
    client.post(reverse("metering:file", args=[made.pk]), {"column-1": str(warm.pk), "unit-1": "degF", "zone": "UTC"})
    made.refresh_from_db()
    outcome = filing.take_file(made)
    assert (outcome.new, dict(outcome.refused)) == (1, {"cannot_be": 1, "future": 1})
    page = client.get(reverse("metering:file", args=[made.pk])).content.decode()
    assert "from the future" in page
