"""The calendar over a collection: day, week, month, moving, rounds, private addresses, files."""

import csv
import io
from collections.abc import Callable
from datetime import UTC, date, datetime, timedelta
from typing import Any

import pytest
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django.urls import reverse
from icalendar import Calendar

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent
from ridgeback.rooms.models import Habitat, Room
from ridgeback.rota import history, sharing
from ridgeback.rota.models import RotaCard, Subscription
from ridgeback.units import METRIC
from tests.plans import TODAY

VIEWS = ("day", "week", "month")


@pytest.fixture(autouse=True)
def _a_fixed_day(monkeypatch: pytest.MonkeyPatch) -> None:
    noon = datetime(2026, 11, 24, 12, tzinfo=UTC)
    monkeypatch.setattr(clock, "today", lambda: TODAY)
    monkeypatch.setattr(clock, "now", lambda: noon)


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


def calendar(client: Client, view: str = "day", day: str = "") -> str:
    return client.get(reverse("rota:calendar"), {"view": view, "day": day}).content.decode()


@pytest.mark.parametrize("view", VIEWS)
def test_the_calendar_makes_as_many_queries_for_six_habitats_as_for_one(client: Client, make_habitat: Any, view: str) -> None:
    make_habitat(name="first")
    calendar(client, view)
    with CaptureQueriesContext(
        connection,
    ) as few:
        calendar(client, view)
    for number in range(5):
        make_habitat(name=f"further {number}")
    calendar(client, view)  # their cards are made
    with CaptureQueriesContext(connection) as many:
        calendar(client, view)
    assert len(many) == len(few)
    assert len(many) <= 9


def test_cards_are_made_once_and_again_when_plan_or_log_moves_on(client: Client, habitat: Habitat) -> None:
    calendar(client)
    made = RotaCard.objects.get(habitat=habitat)
    calendar(client)
    assert RotaCard.objects.get(habitat=habitat).document == made.document
    client.post(reverse("rota:fed", args=[habitat.pk]), {"outcome": "eaten"})
    calendar(client)
    assert RotaCard.objects.get(habitat=habitat).logged > made.logged
    RotaCard.objects.update(document={"format": 1, "card": {"of": "another shape"}}, logged=Habitat.objects.get().logged)
    assert "Fresh water" in calendar(client)


def test_a_whole_round_is_done_at_once_and_taken_back_one_by_one(client: Client, make_habitat: Any) -> None:
    first, second = make_habitat(name="first"), make_habitat(name="second")
    turns = [f"{habitat.pk}:2026-11-24:water" for habitat in (first, second)]
    client.post(reverse("rota:done"), {"turn": turns})
    shown = calendar(client)
    assert "all 2 done<span" not in shown.split("Fresh water")[1].split("</section>")[0]
    event = Event.objects.filter(habitat=first, kind=Event.Kind.DONE).get()
    client.post(reverse("rota:calendar-take-back"), {"event": f"{event.pk}:{first.pk}", "back": "/calendar/"})
    assert Event.objects.filter(kind=Event.Kind.DONE).count() == 1


@pytest.mark.parametrize("turn", ["", "x:2026-11-24:water", "1:2026-11-24:brush-its-teeth", "1:tomorrow:water"])
def test_a_chore_nobody_knows_is_not_written_down(client: Client, habitat: Habitat, turn: str) -> None:
    assert client.post(reverse("rota:done"), {"turn": [turn]}).status_code == 404
    assert not Event.objects.filter(kind=Event.Kind.DONE).exists()


def test_somebody_elses_chore_stops_the_whole_round(
    client: Client, habitat: Habitat, other: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    assert client_of(other).post(reverse("rota:done"), {"turn": [f"{habitat.pk}:2026-11-24:water"]}).status_code == 404
    assert not Event.objects.filter(kind=Event.Kind.DONE).exists()


def test_the_month_counts_what_was_done_and_what_is_due(client: Client, habitat: Habitat) -> None:
    client.post(reverse("rota:fed", args=[habitat.pk]), {"outcome": "eaten", "day": "2026-11-20"})
    shown = calendar(client, "month")
    assert shown.count('class="cell') == 42  # November 2026 begins on a Sunday
    day = " ".join(shown.split("day=2026-11-20")[1].split("</a>")[0].split())
    assert "<b>1</b> Feed" in day
    assert "Fresh water" not in shown  # every single day


@pytest.mark.parametrize("query", [{"view": "century"}, {"day": "yesterday"}, {"day": "2031-01-01"}])
def test_a_day_too_far_or_a_view_unknown_does_not_exist(client: Client, habitat: Habitat, query: dict[str, str]) -> None:
    assert client.get(reverse("rota:calendar"), query).status_code == 404


def test_moving_a_feed_says_what_it_does_before_it_is_done(client: Client, habitat: Habitat) -> None:
    client.post(reverse("rota:fed", args=[habitat.pk]), {"outcome": "eaten", "told": "1", "product": ["plain calcium"]})
    asked: dict[str, Any] = {"habitat": habitat.pk, "job": "feed", "planned": "2026-11-27", "to": "2026-12-01"}
    said = client.get(reverse("rota:move"), asked, HTTP_HX_REQUEST="true").content.decode()
    assert "since the meal before; the rule is 3 days" in said
    assert "<html" not in said
    client.post(reverse("rota:move"), asked)
    moved = history.moves_of([habitat.pk], TODAY)[habitat.pk]
    assert moved["feed"] == {date(2026, 11, 27): date(2026, 12, 1)}
    # From where it stands now it goes on, and back to where it was.
    client.post(reverse("rota:move"), asked | {"planned": "2026-12-01", "to": "2026-11-28"})
    assert history.moves_of([habitat.pk], TODAY)[habitat.pk]["feed"] == {date(2026, 11, 27): date(2026, 11, 28)}
    again = client.get(reverse("rota:move"), asked | {"planned": "2026-11-28", "to": "2026-11-29"}).content.decode()
    assert "<li>5 days since the meal before; the rule is 3 days.</li>" in again  # not one day since where it stands itself
    assert "Multivitamin goes from 28 Nov to 29 Nov." in again
    harmless = client.get(reverse("rota:move"), asked | {"planned": "2026-11-30", "to": "2026-12-01"}).content.decode()
    assert "That does no harm" in harmless
    client.post(reverse("rota:move"), asked | {"planned": "2026-11-30", "to": "2026-11-20"})
    assert len(history.moves_of([habitat.pk], TODAY)[habitat.pk]["feed"]) == 1  # that day is over


def test_the_rooms_days_move_what_may_wait(client: Client, habitat: Habitat) -> None:
    client.post(reverse("rota:room-days", args=[habitat.room_id]), {"weekday": ["1", "4", "x"]})
    assert Room.objects.get(pk=habitat.room_id).weekdays == [1, 4]
    chores = calendar(client, "day", "2026-11-27")  # a Friday
    assert "Fresh water" in chores
    client.post(reverse("rota:room-days", args=[habitat.room_id]), {"weekday": list("0123456")})
    assert Room.objects.get(pk=habitat.room_id).weekdays == []


def address(client: Client) -> str:
    return str(client.get(reverse("rota:share")).context["fresh"])


MISTED = {"misting": {"times": [{"at": "07:30", "grams": 40}, {"at": "20:00", "grams": 40}]}}


def test_a_private_address_is_shown_once_answers_without_signing_in_and_is_taken_back(client: Client, make_habitat: Any) -> None:
    habitat = make_habitat(**MISTED)
    client.post(reverse("rota:subscribe"), {"room": habitat.room_id, "name": "the sitter"})
    url = address(client)
    assert "/c/" in url
    assert client.get(reverse("rota:share")).context["fresh"] is None
    row = Subscription.objects.get()
    assert row.sha256 not in url
    read = Client().get(url.replace("http://testserver", ""))
    events = Calendar.from_ical(read.content).walk("VEVENT")
    said = {str(event["summary"]).split(":")[0].split(" +")[0] for event in events}
    assert said >= {"Fresh water", f"Feed {habitat.company.name or habitat.name}"}
    timed = next(event for event in events if str(event["summary"]).startswith("Mist"))
    assert timed.decoded("dtstart").tzinfo is None  # by the clock on the reader's wall (RFC 5545, form 1)
    assert len({str(event["uid"]) for event in events}) == len(events)
    assert Subscription.objects.get().read_at is not None
    client.post(reverse("rota:revoke", args=[row.pk]))
    assert Client().get(url).status_code == 404


def test_an_address_dies_with_the_membership_and_feeds_alone_are_feeds_alone(
    client: Client, habitat: Habitat, owner: Keeper
) -> None:
    _row, token = sharing.subscribe(habitat.room, owner, "feeds", Intent(owner, clock.now()), feeds_only=True, by_day=False)
    read = Client().get(reverse("rota:subscribed", args=[token]))
    assert all(str(event["summary"]).startswith("Feed") for event in Calendar.from_ical(read.content).walk("VEVENT"))
    habitat.room.membership_set.all().delete()
    assert Client().get(reverse("rota:subscribed", args=[token])).status_code == 404


def test_the_csv_has_every_turn_and_no_formula(client: Client, make_habitat: Any) -> None:
    make_habitat(name="=SUM(A1)", animal={"name": "@Thrift", "mass_kg": 0.06, "length_m": 0.12})
    rows = list(csv.DictReader(io.StringIO(client.get(reverse("rota:csv")).content.decode())))
    assert {row["habitat"] for row in rows} == {"'=SUM(A1)"}
    assert {row["animal"] for row in rows} == {"'@Thrift"}
    assert any(row["what"] == "Feed" and "plain calcium" in row["powders"] for row in rows)
    assert [row["date"] for row in rows] == sorted(row["date"] for row in rows)


def test_the_sitters_card_is_a_pdf_of_what_is_due(client: Client, make_habitat: Any) -> None:
    habitat = make_habitat(**MISTED)
    days = {"room": habitat.room_id, "from": "2026-11-24", "until": "2026-11-30"}
    answer = client.get(reverse("rota:sitter"), days)
    assert answer["Content-Type"] == "application/pdf"
    assert answer.content.startswith(b"%PDF")
    (one,) = sharing.sitter([Habitat.objects.select_related("company", "room").get()], TODAY, 7, TODAY, METRIC)
    assert "Fresh water" in one["daily"]
    assert sum(row["feed"] for row in one["days"]) == 2  # every third day
    assert any("socket" in caution for caution in one["cautions"])  # the mister's
    assert client.get(reverse("rota:sitter"), days | {"until": "2027-06-01"}).status_code == 302
    assert client.get(reverse("rota:sitter"), days | {"from": "2026-11-01"}).status_code == 302


def test_a_lamp_and_a_stage_to_come_are_told_on_their_day(client: Client, make_habitat: Any) -> None:
    fitted = (TODAY - timedelta(days=330)).isoformat()
    lamp = {"kind": "slim-6", "tube_m": 0.5, "x_m": 0.3, "height_m": 0.4, "fitted": fitted}
    make_habitat(uv_lamps=[lamp])
    assert "Replace the UV lamp" in calendar(client, "month", "2026-12-20")


@pytest.mark.parametrize("number", ["abc", "²", "-1", "9" * 40, "9" * 5000, "1.5", ""])
def test_a_number_that_is_none_finds_nothing_and_breaks_nothing(client: Client, habitat: Habitat, number: str) -> None:
    """Whatever is sent for a key or a count: not found, or told; never a broken page."""
    here = [habitat.pk]
    for name, args, posted in (
        ("rota:done", [], {"turn": f"{number}:2026-11-24:water"}),
        ("rota:calendar-fed", [], {"meal": f"{number}:eaten"}),
        ("rota:calendar-take-back", [], {"event": number}),
        ("rota:subscribe", [], {"room": number, "name": "Sitter"}),
        ("rota:fast", here, {"version": number, "end": "0"}),
    ):
        assert client.post(reverse(name, args=args), posted).status_code == 404, name
    for address in (f"{reverse('rota:sitter')}?room={number}", f"{reverse('rota:move')}?habitat={number}"):
        assert client.get(address).status_code == 404, address
    for name, posted in (
        ("rota:take-back", {"event": number}),
        ("rota:fed", {"outcome": "eaten", "ate": number}),
        ("rota:fast", {"version": "1", "end": number}),
    ):
        assert client.post(reverse(name, args=here), posted).status_code == 302, name
    client.post(reverse("rota:chores", args=here), {"version": "1", "own": number, "days-deep-clean": number})
    assert client.get(reverse("rota:chores", args=here)).status_code == 200


def lines_of(content: bytes) -> list[Any]:
    return list(Calendar.from_ical(content).walk("VEVENT"))


def test_the_file_carries_times_targets_and_days_without_food(client: Client, make_habitat: Any) -> None:
    fast = {"first": "2026-12-01", "last": "2026-12-06", "why": "shed"}
    make_habitat(feeding={"starts": "2026-11-24", "fasts": [fast]})
    events = lines_of(client.get(reverse("rota:file")).content)
    feed = next(event for event in events if str(event["summary"]).startswith("Feed"))
    begins = feed.decoded("dtstart")
    assert (begins.hour, begins.minute) == (20, 0)  # at dusk: when the lamps go out
    assert "Keep: basking surface 31–35 °C, warm end" in str(feed["description"])
    assert "at night" in str(feed["description"])
    fasting = next(event for event in events if str(event["summary"]).startswith("No food for Sedge"))
    assert (fasting.decoded("dtstart"), fasting.decoded("dtend")) == (date(2026, 12, 1), date(2026, 12, 7))
    thermometers = next(event for event in events if str(event["summary"]).startswith("Read the thermometers"))
    assert "Keep: " in str(thermometers["description"])


def test_a_habitats_day_can_be_one_entry(client: Client, make_habitat: Any) -> None:
    habitat = make_habitat(**MISTED)
    singly = lines_of(client.get(reverse("rota:file")).content)
    by_day = lines_of(client.get(reverse("rota:file"), {"days": "1"}).content)
    days = [event.decoded("dtstart") for event in by_day]
    assert len(days) == len(set(days))
    assert len(by_day) < len(singly) / 3
    first = next(event for event in by_day if event.decoded("dtstart") == TODAY)
    assert str(first["summary"]).endswith("to do")
    told = str(first["description"]).split("\n")
    assert any(line.startswith("07:30 Mist") for line in told)
    assert any("Fresh water" in line for line in told)
    assert told[-1].startswith("Keep: ")
    assert int(str(first["summary"]).rpartition(": ")[2].split()[0]) == len(told) - 1
    client.post(reverse("rota:subscribe"), {"name": "Sitter", "room": habitat.room_id, "by_day": "1"})
    address = client.get(reverse("rota:share")).context["fresh"].replace("http://testserver", "")
    assert len(lines_of(Client().get(address).content)) == len(by_day)


def test_the_sitters_card_says_what_it_is_kept_at_and_when_nothing_is_given(make_habitat: Any) -> None:
    fast = {"first": "2026-11-20", "last": "2026-11-26", "why": "vet"}
    make_habitat(feeding={"starts": "2026-11-24", "fasts": [fast]})
    habitats = [Habitat.objects.select_related("company", "room").get()]
    (one,) = sharing.sitter(habitats, TODAY, 7, TODAY, METRIC)
    assert one["kept"].startswith("Keep: basking surface 31–35 °C")
    assert [(item["first"], item["last"], str(item["why"])) for item in one["fasts"]] == [
        (TODAY, date(2026, 11, 26), "the vet's word")
    ]
    assert f"{one['card'].feed_at:%H:%M}" == "20:00"
