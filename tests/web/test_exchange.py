"""Plans and feeds that leave and come back."""

from collections.abc import Callable
from datetime import date, timedelta
from itertools import pairwise

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.urls import reverse
from icalendar import Calendar

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.planner import mapping
from ridgeback.rooms.models import Habitat, Room
from tests.plans import TODAY, plan


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


@pytest.fixture(autouse=True)
def _fixed_day(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(clock, "today", lambda: TODAY)


def test_an_exported_plan_comes_back_the_same(client: Client, habitat: Habitat, owner: Keeper) -> None:
    exported = client.get(reverse("planner:export", args=[habitat.pk]))
    assert exported["Content-Disposition"] == 'attachment; filename="test-shelf-plan.json"'
    room = Room.objects.get(members=owner)
    file = SimpleUploadedFile("plan.json", exported.content, content_type="application/json")
    response = client.post(reverse("rooms:import"), {"room": room.pk, "file": file})
    newest = Habitat.objects.order_by("-pk")[0]
    assert response.status_code == 302
    assert newest.pk != habitat.pk
    assert mapping.plan_of(newest) == mapping.plan_of(Habitat.objects.get(pk=habitat.pk))


def test_a_faulty_plan_is_refused_by_field_and_nothing_is_half_imported(client: Client, habitat: Habitat, owner: Keeper) -> None:
    room = Room.objects.get(members=owner)
    text = plan().model_dump_json().replace('"set_c":33.0', '"set_c":90')
    response = client.post(reverse("rooms:import"), {"room": room.pk, "text": text})
    page = response.content.decode()
    assert "heaters.0.thermostat.set_c" in page
    assert "was that meant?" in page
    assert Habitat.objects.count() == 1


def test_the_calendar_file_opens_in_icalendar(client: Client, habitat: Habitat) -> None:
    calendar = Calendar.from_ical(client.get(reverse("rota:menu-calendar", args=[habitat.pk])).content)
    events = calendar.walk("VEVENT")
    days = [event.decoded("dtstart").date() for event in events]
    assert days == sorted(set(days))
    assert all(isinstance(day, date) and TODAY <= day < TODAY + timedelta(days=28) for day in days)
    assert {str(event["uid"]) for event in events} == {f"feed-{habitat.pk}-{day.isoformat()}@ridgeback" for day in days}
    assert any("multivitamin" in str(event["summary"]) for event in events)
    # Of what comes in turn each feed holds one, and no feed the same as the one before.
    told = [str(event["description"]) for event in events]
    assert all(sum(food in text for food in ("cricket", "roach", "mealworm", "locust")) == 1 for text in told)
    assert all(earlier != later for earlier, later in pairwise(told))


def test_the_feeding_page_shows_each_feed_and_why(client: Client, habitat: Habitat) -> None:
    page = client.get(reverse("rota:menu", args=[habitat.pk])).content.decode()
    exported = Calendar.from_ical(client.get(reverse("rota:menu-calendar", args=[habitat.pk])).content)
    assert page.count('<details class="beat ') == len(exported.walk("VEVENT"))
    assert "every 14 days; every 4.67 feeds at this interval" in page
