"""Measured beside foretold: stand-ins with planted faults, what is noticed of them, letters, calendars, and the pages."""

from collections.abc import Callable, Iterator
from datetime import datetime, timedelta
from email import message_from_bytes, policy
from typing import Any

import numpy as np
import pytest
from aiosmtpd.controller import Controller
from django.core.management import call_command
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django.urls import reverse
from django.utils import timezone
from django.utils.text import slugify
from icalendar import Calendar
from procrastinate.contrib.django.models import ProcrastinateJob

from husbandry.codes import WatchCode
from husbandry.watch.faults import Fault
from launch.machine import free_port
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook.models import Event, Instrument, Letter, Notice
from ridgeback.daybook.writing import Intent, Refused
from ridgeback.drawing import section
from ridgeback.home.demo_instruments import METERS, READ_BY
from ridgeback.keeping import letters, tasks
from ridgeback.metering import foretelling, looking, measured, picture, telling
from ridgeback.metering.actions import what_reports
from ridgeback.metering.stand_ins import Planted, StandIn, room_reading
from ridgeback.planner import mapping
from ridgeback.planner.models import PlanRevision
from ridgeback.planner.reported import reported
from ridgeback.rooms.models import Habitat, Room
from ridgeback.rota import sharing
from ridgeback.series import devices, intake, reading
from ridgeback.series.intake import Given
from ridgeback.series.models import Channel, Correction, ForetoldHour, Hour, Sample
from ridgeback.series.places import PLACES as EVERY
from ridgeback.units import METRIC

Make = Callable[..., Habitat]
HOUR = timedelta(hours=1)
PLACES = ("basking-surface", "warm-air", "cool-air", "cool-humidity")
EMITTER = {
    "kind": "ceramic-emitter", "watts": 60, "x_m": 0.44, "height_m": 0.38, "guarded": True,
    "thermostat": {"kind": "pulse", "set_c": 29.0, "probe": "warm-air"},
}  # fmt: skip


@pytest.fixture(autouse=True)
def evening(monkeypatch: pytest.MonkeyPatch) -> datetime:
    """It is eighteen o'clock of one day, so that the stand-ins show the same each time: the light has burnt for ten hours."""
    now = datetime(2026, 10, 18, 18, 0, tzinfo=timezone.get_current_timezone())
    monkeypatch.setattr(clock, "now", lambda: now)
    return now


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


def equip(habitat: Habitat) -> None:
    """Channels at the usual places, a plug for each heater, and the room's own air."""
    made = clock.now() - timedelta(days=40)
    about = {"room": habitat.room, "made_at": made}
    for place in PLACES:
        Channel.objects.create(**about, habitat=habitat, place=place, code=slugify(f"{habitat.name} {place}"))
    for heater in range(len(mapping.plan_of(habitat).heaters)):
        code = slugify(f"{habitat.name} power {heater}")
        Channel.objects.create(**about, habitat=habitat, place="power", heater=heater, code=code)
    Channel.objects.get_or_create(room=habitat.room, place="room-air", code="room-air", defaults={"made_at": made})


def report(habitat: Habitat, days: float, planted: tuple[Planted, ...] = (), every: timedelta = timedelta(minutes=20)) -> None:
    """Let stand-ins report for some days up to now."""
    stand_in, now = StandIn.of(habitat, planted), clock.now().replace(second=0, microsecond=0)
    channels = {channel.pk: channel for channel in Channel.objects.filter(room=habitat.room).select_related("instrument")}
    since = now - timedelta(days=days)
    given = [Given(channel.pk, at, value) for channel, at, value in stand_in.readings(since, now, every)]
    room = Channel.objects.get(room=habitat.room, place="room-air")
    for turn in range(int(timedelta(days=days) / every) + 1):
        at = since + turn * every
        given.append(Given(room.pk, at, room_reading(stand_in.plan, habitat.room.name, "room-air", at)))
    intake.take(channels, given, now)


def codes(habitat: Habitat) -> dict[str, Notice]:
    return {row.code: row for row in Notice.objects.filter(habitat=habitat, ended_at__isnull=True)}


def grown_old(habitat: Habitat) -> Habitat:
    """The plan has stood for a month: what was measured before counts for it."""
    long_ago = clock.now() - timedelta(days=40)
    Event.every.filter(habitat=habitat).update(at=long_ago)
    PlanRevision.objects.filter(pk=habitat.head_id).update(created_at=long_ago)
    return Habitat.objects.select_related("company", "head__profile", "room").get(pk=habitat.pk)


@pytest.fixture
def measured_habitat(make_habitat: Make) -> Habitat:
    habitat = grown_old(make_habitat(heaters__1=EMITTER))
    equip(habitat)
    return habitat


def test_a_sound_habitat_has_no_fault(measured_habitat: Habitat) -> None:
    report(measured_habitat, 6)
    looking.look_for_faults(measured_habitat, clock.now())
    assert WatchCode.MODEL_DRIFT not in codes(measured_habitat)
    assert ForetoldHour.objects.filter(channel__habitat=measured_habitat).count() >= 5 * 24 * 6


@pytest.mark.sweep
@pytest.mark.parametrize(("fault", "heater"), [(Fault.LAMP_DARK, 0), (Fault.STUCK_ON, 1)])
def test_a_planted_fault_is_told_within_hours_by_its_name_and_ends_when_it_is_mended(
    measured_habitat: Habitat, fault: Fault, heater: int
) -> None:
    now = clock.now()
    report(measured_habitat, 7, (Planted(fault, now - 7 * HOUR, now + HOUR, heater),))
    looking.look_for_faults(measured_habitat, now)
    row = codes(measured_habitat)[WatchCode.MODEL_DRIFT]
    assert row.told["suspects"].startswith(f"{fault.value}:")
    Sample.objects.all().delete()
    Hour.objects.all().delete()
    report(measured_habitat, 7)
    looking.look_for_faults(measured_habitat, now)
    row.refresh_from_db()
    assert row.ended_at is not None


def out_of_band(habitat: Habitat, place: str, value: float, minutes: int = 90) -> None:
    one = Channel.objects.get(habitat=habitat, place=place)
    now = clock.now().replace(second=0, microsecond=0)
    given = [Given(one.pk, now - timedelta(minutes=turn), value) for turn in range(0, minutes, 5)]
    intake.take({one.pk: one}, given, now)


def test_out_of_band_is_told_once_carried_on_and_ended(measured_habitat: Habitat) -> None:
    out_of_band(measured_habitat, "warm-air", 34.0)
    new = looking.look(measured_habitat, clock.now())
    assert WatchCode.READING_OUT.value in {row.code for row in new}
    assert looking.look(measured_habitat, clock.now()) == []
    Sample.objects.filter(value=34.0, at__gte=clock.now() - timedelta(minutes=12)).delete()
    out_of_band(measured_habitat, "warm-air", 29.5, minutes=10)
    looking.look(measured_habitat, clock.now() + timedelta(minutes=1))
    assert WatchCode.READING_OUT.value not in codes(measured_habitat)


def test_what_is_so_every_afternoon_is_told_once_and_stays_put_aside(measured_habitat: Habitat, client: Client) -> None:
    out_of_band(measured_habitat, "warm-air", 34.0)
    looking.look(measured_habitat, clock.now())
    row = codes(measured_habitat)[WatchCode.READING_OUT.value]
    client.post(reverse("metering:quiet", args=[row.pk]), {"days": "3"})
    Sample.objects.all().delete()
    looking.look(measured_habitat, clock.now() + timedelta(minutes=1))
    row.refresh_from_db()
    assert row.ended_at is not None
    out_of_band(measured_habitat, "warm-air", 34.2)
    assert looking.look(measured_habitat, clock.now() + timedelta(minutes=2)) == []
    again = codes(measured_habitat)[WatchCode.READING_OUT.value]
    assert again.pk == row.pk
    assert again.quiet_until is not None


def test_a_danger_is_told_before_an_hour_is_over(measured_habitat: Habitat) -> None:
    out_of_band(measured_habitat, "basking-surface", 52.0, minutes=25)
    looking.look(measured_habitat, clock.now())
    assert codes(measured_habitat)[WatchCode.READING_DANGER.value].level == "measure"


def test_what_was_a_danger_by_day_is_told_as_past_by_night(measured_habitat: Habitat, monkeypatch: pytest.MonkeyPatch) -> None:
    """The light went out at 20:00: nobody is sent to a cold stone at night, and the day's danger is not forgotten either."""
    day = clock.now().replace(hour=20, minute=0)
    monkeypatch.setattr(clock, "now", lambda: day)
    out_of_band(measured_habitat, "basking-surface", 52.0, minutes=180)
    night = day + 3 * HOUR
    monkeypatch.setattr(clock, "now", lambda: night)
    out_of_band(measured_habitat, "basking-surface", 21.0, minutes=150)
    looking.look(measured_habitat, night)
    row = codes(measured_habitat)[WatchCode.READING_DANGER.value]
    assert abs(row.since - (day - 3 * HOUR)) <= timedelta(minutes=10)
    said = telling.of(row, clock.today(), METRIC)
    assert "stood over" in said.said
    assert "until 18 Oct, 19:55" in said.said
    assert "Go there now" not in said.first
    Sample.objects.filter(at__gt=night - timedelta(minutes=32)).delete()
    out_of_band(measured_habitat, "basking-surface", 52.0, minutes=30)  # it burns at night: that is now
    looking.look(measured_habitat, night)
    row.refresh_from_db()
    assert "Go there now" in telling.of(row, clock.today(), METRIC).first


def test_a_channel_that_falls_silent_is_told(measured_habitat: Habitat) -> None:
    out_of_band(measured_habitat, "warm-air", 29.0, minutes=40)
    assert looking.look(measured_habitat, clock.now() + 6 * HOUR)
    assert codes(measured_habitat)[WatchCode.LOGGER_SILENT.value].channel.place == "warm-air"  # type: ignore[union-attr]


def test_a_logger_that_comes_by_files_is_never_silent(measured_habitat: Habitat) -> None:
    one = Channel.objects.get(habitat=measured_habitat, place="warm-air")
    now = clock.now()
    given = [Given(one.pk, now - timedelta(minutes=5 * turn), 29.0) for turn in range(20)]
    intake.take({one.pk: one}, given, now, by_file=True)
    looking.look(measured_habitat, now + 48 * HOUR)
    assert WatchCode.LOGGER_SILENT.value not in codes(measured_habitat)


def test_an_old_lamp_is_told(make_habitat: Make) -> None:
    habitat = make_habitat(uv_lamps__0__fitted=(clock.today() - timedelta(days=900)).isoformat())
    looking.look(habitat, clock.now())
    assert WatchCode.LAMP_OLD.value in codes(habitat)


def test_what_an_hour_was_foretold_stays_when_the_plan_changes(measured_habitat: Habitat) -> None:
    report(measured_habitat, 1)
    plan, until = mapping.plan_of(measured_habitat), foretelling.full_hour(clock.now())
    foretelling.foretell_day(measured_habitat, plan, until)
    before = dict(ForetoldHour.objects.values_list("pk", "mean"))
    other = plan.model_copy(update={"heaters": ()})
    foretelling.foretell_day(measured_habitat, other, until)
    assert dict(ForetoldHour.objects.values_list("pk", "mean")) == before


# Letters


class Post:
    """A real SMTP server that keeps what it is sent."""

    def __init__(self) -> None:
        self.letters: list[Any] = []
        self.refuses = False

    async def handle_DATA(self, server: Any, session: Any, envelope: Any) -> str:  # noqa: N802 - aiosmtpd's own name
        if self.refuses:
            return "451 come again later"
        self.letters.append(message_from_bytes(envelope.content, policy=policy.default))
        return "250 kept"


@pytest.fixture
def post(settings: Any) -> Iterator[Post]:
    kept = Post()
    port = free_port()
    controller = Controller(kept, hostname="127.0.0.1", port=port)
    controller.start()
    settings.EMAIL_BACKEND = "django.core.mail.backends.smtp.EmailBackend"
    settings.EMAIL_HOST, settings.EMAIL_PORT, settings.MAIL_URL = "127.0.0.1", port, f"smtp://127.0.0.1:{port}"
    yield kept
    controller.stop()


def wants(owner: Keeper, which: str) -> None:
    owner.email, owner.letters = "keeper@example.org", which
    owner.save()


def test_a_danger_is_written_at_once_and_only_once(measured_habitat: Habitat, owner: Keeper, post: Post) -> None:
    wants(owner, Keeper.Letters.DANGERS)
    out_of_band(measured_habitat, "basking-surface", 52.0, minutes=25)
    out_of_band(measured_habitat, "cool-air", 31.5)
    tasks.look_room(measured_habitat.room_id)
    tasks.look_room(measured_habitat.room_id)
    assert len(post.letters) == 1
    letter = post.letters[0]
    assert letter["To"] == "keeper@example.org"
    text = letter.get_content()
    assert "danger" in text
    assert "Go there now" in text
    assert reverse("keeping:now", args=[measured_habitat.pk]) in text
    assert "Air, cool end" not in text  # that can wait, and was not asked for


def test_the_rest_comes_in_the_morning_in_the_keepers_own_units(measured_habitat: Habitat, owner: Keeper, post: Post) -> None:
    wants(owner, Keeper.Letters.ALL)
    owner.temperature_unit = "degF"
    owner.save()
    out_of_band(measured_habitat, "warm-air", 34.0)
    looking.look(measured_habitat, clock.now())
    assert letters.send(clock.now(), measured_habitat.room_id, morning=False) == 0
    assert letters.send(clock.now(), measured_habitat.room_id, morning=True) == 1
    assert "93 °F" in post.letters[0].get_content()
    assert letters.send(clock.now(), measured_habitat.room_id, morning=True) == 0


def test_a_letter_that_did_not_go_is_tried_again(measured_habitat: Habitat, owner: Keeper, post: Post) -> None:
    wants(owner, Keeper.Letters.DANGERS)
    out_of_band(measured_habitat, "basking-surface", 52.0, minutes=25)
    post.refuses = True
    tasks.look_room(measured_habitat.room_id)
    assert not Letter.objects.exists()
    post.refuses = False
    tasks.look_room(measured_habitat.room_id)
    assert len(post.letters) == 1


def test_each_room_is_looked_at_by_a_job_of_its_own_once(measured_habitat: Habitat, habitat: Habitat, other: Keeper) -> None:
    """Rooms share the workers, one room's jobs follow one another, and one that waits is not put into the queue again."""
    theirs = Room.objects.get(members=other)
    Channel.objects.create(room=theirs, place="room-air", code="porch", made_at=clock.now())
    Room.objects.create(name="empty")
    for _turn in range(2):
        tasks.look(0)
        tasks.look_hourly(0)
        tasks.learn(0)
    jobs = ProcrastinateJob.objects.filter(task_name__startswith="keeping.").values_list("task_name", "args", "lock")
    room, lock = measured_habitat.room_id, f"keeping.watch.{measured_habitat.room_id}"
    assert sorted((name, args["room"], held) for name, args, held in jobs) == [
        ("keeping.look_room", room, lock),
        ("keeping.look_room", theirs.pk, f"keeping.watch.{theirs.pk}"),
        ("keeping.look_room_hourly", room, lock),
    ]


def test_nobody_elses_animals_are_written_of(measured_habitat: Habitat, other: Keeper, post: Post) -> None:
    wants(other, Keeper.Letters.ALL)
    out_of_band(measured_habitat, "basking-surface", 52.0, minutes=25)
    tasks.look_room(measured_habitat.room_id)
    assert letters.send(clock.now(), measured_habitat.room_id, morning=True) == 0


def test_letters_need_an_address(client: Client, owner: Keeper) -> None:
    answer = client.post(reverse("accounts:account"), {"email": "", "letters": "all"})
    assert answer.status_code == 422
    client.post(reverse("accounts:account"), {"email": "me@example.org", "letters": "all", "password": "oyster-catcher-7"})
    owner.refresh_from_db()
    assert (owner.email, owner.letters) == ("me@example.org", "all")


def test_the_calendar_has_what_the_watch_tells(measured_habitat: Habitat, owner: Keeper) -> None:
    out_of_band(measured_habitat, "warm-air", 34.0)
    looking.look(measured_habitat, clock.now())
    intent = Intent(owner, clock.now())
    _made, token = sharing.subscribe(measured_habitat.room, owner, "all", intent, feeds_only=False, by_day=False)
    answer = Client().get(reverse("rota:subscribed", args=[token]))
    summaries = [str(event["SUMMARY"]) for event in Calendar.from_ical(answer.content).walk("VEVENT")]
    assert any("Air, warm end has stood over" in summary for summary in summaries)


def test_one_habitat_that_cannot_be_read_does_not_stop_the_others(make_habitat: Make, caplog: pytest.LogCaptureFixture) -> None:
    seen = []

    def work(thing: str, _now: Any) -> None:
        seen.append(thing)
        if thing == "bad":
            raise ValueError(thing)

    tasks.each(["bad", "good"], work, clock.now())
    assert seen == ["bad", "good"]
    assert "failed for bad" in caplog.text


# Pages


def test_the_live_page_shows_values_against_their_bands_and_how_heaters_were_switched(
    measured_habitat: Habitat, client: Client
) -> None:
    report(measured_habitat, 1.2)
    page = client.get(reverse("metering:live", args=[measured_habitat.pk]))
    text = page.content.decode()
    assert {row["channel"].place for row in page.context["rows"]} == set(PLACES)
    assert all(row["value"] for row in page.context["rows"])
    assert "In the last day it gave" in text
    assert 'class="pin' in text
    part = client.get(reverse("metering:live", args=[measured_habitat.pk]), HTTP_HX_REQUEST="true").content.decode()
    assert "<html" not in part


def test_what_was_read_long_ago_is_not_judged_any_more(
    measured_habitat: Habitat, client: Client, monkeypatch: pytest.MonkeyPatch
) -> None:
    out_of_band(measured_habitat, "warm-air", 34.0)
    page = reverse("keeping:now", args=[measured_habitat.pk])
    assert "too high" in client.get(page).content.decode()
    later = clock.now() + timedelta(hours=3)
    monkeypatch.setattr(clock, "now", lambda: later)
    row = next(one for one in client.get(page).context["measured"] if one["channel"].place == "warm-air")
    assert (row["mark"], row["silent"]) == (None, True)


def test_a_habitat_where_nothing_reports_says_what_to_do(habitat: Habitat, client: Client) -> None:
    for name in ("metering:live", "metering:charts"):
        assert "Set up what reports" in client.get(reverse(name, args=[habitat.pk])).content.decode()


def test_a_chart_has_a_line_a_foretold_one_a_band_and_a_table(measured_habitat: Habitat, client: Client) -> None:
    report(measured_habitat, 2)
    looking.look_for_faults(measured_habitat, clock.now())
    warm = Channel.objects.get(habitat=measured_habitat, place="warm-air")
    chart = client.get(reverse("metering:chart", args=[warm.pk]), {"span": "days"}).context["chart"]
    assert chart["drawn"]["line"]
    assert chart["drawn"]["foretold"]
    assert chart["drawn"]["bands"]
    assert len(chart["rows"]) >= 47
    assert all(row["mean"] for row in chart["rows"])


@pytest.mark.parametrize(
    "query",
    [
        "span=never",
        "from=yesterday&to=now",
        "from=2026-11-02T00:00&to=2026-11-01T00:00",
        "from=0001-01-01T00:00&to=2026-01-01T00:00",
    ],
)
def test_a_span_that_is_none_shows_a_day(measured_habitat: Habitat, client: Client, query: str) -> None:
    page = client.get(reverse("metering:charts", args=[measured_habitat.pk]) + f"?{query}")
    assert page.context["span"].name == "day"


@pytest.mark.parametrize("span", ["day", "month", "year"])
def test_charts_ask_as_often_for_a_year_as_for_a_day(measured_habitat: Habitat, client: Client, span: str) -> None:
    report(measured_habitat, 1)
    warm = Channel.objects.get(habitat=measured_habitat, place="warm-air")
    with CaptureQueriesContext(connection) as asked:
        client.get(reverse("metering:chart", args=[warm.pk]), {"span": span})
    assert len(asked) <= 24


def test_charts_go_on_paper(measured_habitat: Habitat, client: Client) -> None:
    report(measured_habitat, 1)
    answer = client.get(reverse("metering:paper", args=[measured_habitat.pk]), {"span": "week"})
    assert answer["Content-Type"] == "application/pdf"
    assert answer.content.startswith(b"%PDF")


def test_a_notice_is_put_aside_with_a_reason_and_is_quiet(measured_habitat: Habitat, client: Client) -> None:
    out_of_band(measured_habitat, "warm-air", 34.0)
    looking.look(measured_habitat, clock.now())
    row = codes(measured_habitat)[WatchCode.READING_OUT.value]
    page = client.get(reverse("keeping:watch"))
    assert [one.notice.pk for one in page.context["notices"]] == [row.pk]
    client.post(reverse("metering:quiet", args=[row.pk]), {"days": "3", "reason": "the fan is being mended"})
    page = client.get(reverse("keeping:watch"))
    assert page.context["notices"] == []
    assert "the fan is being mended" in page.content.decode()
    client.post(reverse("metering:quiet", args=[row.pk]), {"days": "9999"})
    row.refresh_from_db()
    assert row.quiet_until == clock.today() + timedelta(days=3)


def test_the_watch_asks_as_often_for_ten_habitats_as_for_one(make_habitat: Make, client: Client) -> None:
    def asked() -> int:
        with CaptureQueriesContext(connection) as queries:
            client.get(reverse("keeping:watch"))
        return len(queries)

    equip(make_habitat())
    asked()
    one = asked()
    for number in range(4):
        equip(make_habitat(name=f"Shelf {number}"))
    asked()
    assert asked() <= one + 1


def test_what_reports_is_set_up_on_the_page(habitat: Habitat, client: Client) -> None:
    page = reverse("metering:channels", args=[habitat.room_id])
    gun = Instrument.objects.create(room=habitat.room, name="gun", kind="infrared")
    wrong = client.post(page, {"habitat": habitat.pk, "source": "warm-air", "instrument": gun.pk})
    assert wrong.status_code == 422
    assert not Channel.objects.exists()
    for source in ("warm-air", "power-0", "warm-air"):
        assert client.post(page, {"habitat": habitat.pk, "source": source}).status_code == 302
    assert sorted(Channel.objects.values_list("code", flat=True)) == [
        "test-shelf-power-1", "test-shelf-warm-air", "test-shelf-warm-air-2",
    ]  # fmt: skip
    client.post(page, {"source": "room-air"})
    assert Channel.objects.get(place="room-air").habitat is None
    client.post(reverse("planner:part", args=[habitat.pk]), {"do": "add", "part": "probes.0", "version": habitat.version})
    (lies,) = mapping.plan_of(Habitat.objects.get(pk=habitat.pk)).probes
    client.post(page, {"habitat": habitat.pk, "source": "own-0"})
    own = Channel.objects.get(place="own")
    assert (own.x_m, own.height_m) == (pytest.approx(lies.x_m), pytest.approx(lies.height_m))


def test_a_check_in_ice_is_kept_and_taken_off(habitat: Habitat, client: Client) -> None:
    stick = Instrument.objects.create(room=habitat.room, name="stick", kind="thermometer")
    page = reverse("metering:check", args=[stick.pk])
    assert client.post(page, {"how": "ice", "shown": "lukewarm"}).status_code == 422
    assert client.post(page, {"how": "ice", "shown": "33.8F"}).status_code == 302
    stick.refresh_from_db()
    assert stick.reads_high == pytest.approx(1.0)
    other = Instrument.objects.create(room=habitat.room, name="other", kind="thermometer")
    page = reverse("metering:check", args=[other.pk])
    assert client.post(page, {"how": "beside", "shown": "25.0", "true": "26"}).status_code == 422  # beside which?
    assert client.post(page, {"how": "beside", "shown": "25.0", "true": "26", "beside": stick.pk}).status_code == 302
    other.refresh_from_db()
    assert other.reads_high == pytest.approx(0.0)  # the other one reads a kelvin high
    assert Correction.objects.get(instrument=other).against == stick


def test_the_section_is_coloured_by_what_is_measured(measured_habitat: Habitat) -> None:
    now = clock.now()
    report(measured_habitat, 1)
    plan = mapping.plan_of(measured_habitat)
    frame = section.frame_of(plan)
    flat = np.full((29, 61), 25.0)
    pins = picture.pins(measured_habitat, plan, now)
    hot = [picture.Pin(one.channel, one.x_m, one.height_m, one.foretold + 6.0, one.foretold) for one in pins]
    bent = picture.bent(flat, frame, [one for one in hot if one.channel.place == "warm-air"])
    assert bent.max() > 29.0
    far = bent[:, -1] if bent[:, 0].max() > bent[:, -1].max() else bent[:, 0]
    assert far.max() < 26.0


# The simulated room through the real address


def test_simulate_reports_through_the_address(
    measured_habitat: Habitat, live_server: Any, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    _device, key = devices.make(measured_habitat.room_id, "hub", clock.now())
    monkeypatch.setenv("RIDGEBACK_DEVICE_KEY", key)
    name = Room.objects.get(pk=measured_habitat.room_id).name
    call_command("simulate", address=live_server.url, room=name, days=0.2, once=True)
    assert Sample.objects.filter(channel__habitat=measured_habitat).count() > 100
    assert Sample.objects.filter(channel__place="room-air").exists()


def test_every_place_of_the_demo_is_read_by_an_instrument_that_can() -> None:
    for place, meter in READ_BY.items():
        assert METERS[meter][0] in EVERY[place].kinds


def test_what_was_ended_is_not_revived_by_a_page_of_before(measured_habitat: Habitat, owner: Keeper) -> None:
    device, key = devices.make(measured_habitat.room_id, "hub", clock.now())
    channel = Channel.objects.filter(habitat=measured_habitat).first()
    assert channel is not None
    intent = Intent(owner, clock.now())
    what_reports.revoke_device(device, intent)
    what_reports.end_channel(channel, intent)
    for late in (what_reports.renew_key, what_reports.revoke_device):
        with pytest.raises(Refused):
            late(device, intent)
    with pytest.raises(Refused):
        what_reports.end_channel(channel, intent)
    assert devices.known(key) is None


# What is reported teaches the plan


def test_a_week_of_reports_is_a_reading_of_each_place_by_day_and_by_night(measured_habitat: Habitat) -> None:
    report(measured_habitat, 8)
    plan = mapping.plan_of(measured_habitat)
    found = reported(measured_habitat, plan, clock.now())
    assert {item.place for item in found} == set(PLACES)
    assert len(found) == 8
    assert all(item.days >= 5 for item in found)
    warm = {item.at.hour: item.value for item in found if item.place == "warm-air"}
    assert set(warm) == {7, 19}  # the hours before the light comes and goes
    assert warm[19] > warm[7]


def test_a_broken_lamp_teaches_nothing(measured_habitat: Habitat) -> None:
    report(measured_habitat, 8)
    since = {"since": clock.now() - timedelta(days=9), "looked_at": clock.now()}
    Notice.objects.create(room=measured_habitat.room, habitat=measured_habitat, code="reading.drift", level="measure", **since)
    assert reported(measured_habitat, mapping.plan_of(measured_habitat), clock.now()) == []


@pytest.mark.sweep
def test_a_plan_that_learns_by_itself_comes_nearer_to_what_is_measured(measured_habitat: Habitat, client: Client) -> None:
    report(measured_habitat, 8)
    plan, until = mapping.plan_of(measured_habitat), foretelling.full_hour(clock.now())
    page = reverse("planner:readings", args=[measured_habitat.pk])
    assert "Learn anew each night" in client.get(page).content.decode()
    client.post(reverse("planner:learn-by-itself", args=[measured_habitat.pk]), {"do": "on"})
    tasks.learn_room(measured_habitat.room_id)
    after = Habitat.objects.select_related("company", "head__profile", "room").get(pk=measured_habitat.pk)
    learnt = mapping.plan_of(after)
    assert learnt.calibration is not None
    known = foretelling.placed(measured_habitat, plan)
    hours = reading.hours_of([channel.pk for channel in known.channels], until - timedelta(days=1), until)
    read = np.array([measured.by_clock(hours[channel.pk].items()) for channel in known.channels])
    temperatures = [
        place for place, channel in enumerate(known.channels) if channel.place in ("basking-surface", "warm-air", "cool-air")
    ]

    def off(one: Any) -> float:
        told = foretelling._mean_of_day(measured_habitat, one, known, until)
        return float(np.nanmean(np.abs(read - told)[temperatures]))

    assert off(learnt) < 0.8 * off(plan)
    tasks.learn_room(measured_habitat.room_id)  # nothing moved since: no revision of the same
    assert Habitat.objects.get(pk=measured_habitat.pk).version == after.version


def test_a_danger_stands_at_the_head_of_the_round(measured_habitat: Habitat, client: Client) -> None:
    out_of_band(measured_habitat, "basking-surface", 52.0, minutes=25)
    looking.look(measured_habitat, clock.now())
    text = client.get(reverse("keeping:round")).content.decode()
    assert "Before anything else" in text
    assert "Go there now" in text
    row = codes(measured_habitat)[WatchCode.READING_DANGER.value]
    client.post(reverse("metering:quiet", args=[row.pk]), {"days": "1", "reason": "seen, lamp is off"})
    assert "Before anything else" not in client.get(reverse("keeping:round")).content.decode()
