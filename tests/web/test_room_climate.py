"""The page of a room: asked in the keeper's units, worked out with all its enclosures, written into their plans."""

from collections.abc import Callable
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from ridgeback.accounts.models import Keeper
from ridgeback.planner import mapping
from ridgeback.rooms.models import Habitat, Membership, Room

ROOM = {
    "length_m": "400", "width_m": "3 m", "height_m": "8 ft", "holds": "flat", "loss_w_k": "", "changes": "closed", "heated": "on",
    "summer-day_c": "25", "summer-night_c": "22", "summer-humidity_percent": "50", "summer-outside_c": "21",
    "winter-day_c": "20", "winter-night_c": "64.4 F", "winter-humidity_percent": "40", "winter-outside_c": "4",
}  # fmt: skip


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


@pytest.fixture
def url(habitat: Habitat) -> str:
    return reverse("planner:room", args=[habitat.room_id])


def text(client: Client, url: str) -> str:
    return " ".join(client.get(url).content.decode().split())


def test_a_room_is_asked_for_and_worked_out_with_its_enclosures(
    client: Client, habitat: Habitat, make_habitat: Callable[..., Habitat], url: str
) -> None:
    twelve: dict[str, Any] = {"heaters__0__watts": 150.0}
    for number in range(4):
        make_habitat(name=f"Box {number}", **twelve)
    make_habitat(name="Pen", outdoors={"day_c": [20] * 12, "night_c": [10] * 12, "sun_kwh_m2": [3] * 12})
    page = text(client, url)
    assert "5 enclosures heat and moisten the room" in page
    assert "One more stands out of doors" in page
    assert 'value="22"' in page  # what the plans say of their room is asked about first
    assert client.post(url, ROOM).status_code == 302
    kept = Room.objects.get(pk=habitat.room_id).climate
    assert kept["length_m"] == 4.0
    assert kept["height_m"] == pytest.approx(2.438, abs=0.001)
    assert kept["winter"]["night_c"] == pytest.approx(18.0)
    page = text(client, url)
    assert "In summer they draw" in page
    assert "less for them" in page
    assert "Write this room into the 5 plans" in page
    assert page.count("?step=heat") == 5


def test_the_room_is_written_into_the_plans_once_each_as_a_revision(client: Client, habitat: Habitat, url: str) -> None:
    client.post(url, ROOM)
    press = {"do": "write", "once": "a-press"}
    assert client.post(url, press).status_code == 302
    after = Habitat.objects.get(pk=habitat.pk)
    plan = mapping.plan_of(after)
    assert plan.room.summer.day_c > 25.0
    assert plan.room.winter.day_c == pytest.approx(20.0, abs=0.3)  # the heating gives less first
    client.post(url, press)
    client.post(url, {"do": "write", "once": "another"})
    assert Habitat.objects.get(pk=habitat.pk).version == after.version == habitat.version + 1
    assert "All plans have this room." in text(client, url)


def test_an_hourly_room_gives_way_to_the_one_that_is_written(
    client: Client, make_habitat: Callable[..., Habitat], url: str
) -> None:
    """Left in the plan, its curve would go on counting while the page says that all plans have this room."""
    hourly = make_habitat(name="Hourly", room__summer__curve_c=[30.0] * 24)
    client.post(url, ROOM)
    client.post(url, {"do": "write", "once": "a-press"})
    plan = mapping.plan_of(Habitat.objects.get(pk=hourly.pk))
    assert plan.room.summer.curve_c == ()
    assert plan.room_c("summer", "day") == pytest.approx(plan.room.summer.day_c)
    assert "All plans have this room." in text(client, url)


@pytest.mark.parametrize(
    ("changes", "said"),
    [
        ({"length_m": "wide"}, "is not a number"),
        ({"height_m": "8"}, "That cannot be"),  # 8 cm
        ({"winter-outside_c": ""}, "This field is required"),
        ({"summer-day_c": "250"}, "That cannot be"),
        ({"loss_w_k": "-3"}, "That cannot be"),
        ({"holds": "castle"}, "valid choice"),
    ],
)
def test_what_cannot_be_a_room_is_said_at_its_field(client: Client, url: str, changes: dict[str, str], said: str) -> None:
    answer = client.post(url, ROOM | changes)
    assert answer.status_code == 422
    assert said in answer.content.decode()
    assert Room.objects.get().climate is None


def test_who_only_looks_writes_nothing(client: Client, owner: Keeper, habitat: Habitat, url: str) -> None:
    client.post(url, ROOM)
    Membership.objects.filter(keeper=owner).update(role=Membership.Role.VIEWER)
    assert client.post(url, {"do": "write", "once": "x"}).status_code == 403
    assert client.post(url, ROOM | {"changes": "open"}).status_code == 403
    assert Habitat.objects.get(pk=habitat.pk).version == habitat.version
