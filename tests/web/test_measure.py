"""Limits: who asks far too often waits; a room's pictures take no more than they may."""

import io
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.urls import reverse
from PIL import Image

from ridgeback import clock
from ridgeback.accounts import rates
from ridgeback.accounts.models import Keeper
from ridgeback.daybook import quota
from ridgeback.daybook.models import Photo
from ridgeback.rooms.models import Habitat
from ridgeback.web.bucket import Bucket

pytestmark = pytest.mark.django_db


def test_one_account_that_asks_for_ever_waits_and_others_do_not(
    owner: Keeper, other: Keeper, client_of: Callable[[Keeper], Client], settings: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    settings.RATES = True
    monkeypatch.setattr(rates, "OF_ACCOUNT", Bucket(burst=5.0, a_second=0.5))
    now = clock.now()
    monkeypatch.setattr(clock, "now", lambda: now)
    client, page = client_of(owner), reverse("accounts:account")
    answers = [client.get(page).status_code for _ in range(7)]
    assert answers == [200] * 5 + [429] * 2
    refused = client.get(page)
    assert refused["Retry-After"] == "2"
    assert client.get("/health").status_code == 200
    # Each client here has middleware of its own, as each process has: what counts is the name that it counts by.
    counted = rates.Counted()
    assert [counted.wait_s("account 1", rates.OF_ACCOUNT, now) for _ in range(6)] == [0.0] * 5 + [2.0]
    assert counted.wait_s("account 2", rates.OF_ACCOUNT, now) == 0.0
    assert counted.wait_s("account 1", rates.OF_ACCOUNT, now + timedelta(seconds=4)) == 0.0


def test_who_has_no_account_is_counted_by_address(settings: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    settings.RATES = True
    monkeypatch.setattr(rates, "OF_ADDRESS", Bucket(burst=3.0, a_second=0.01))
    client = Client()
    assert [client.get(reverse("accounts:sign-in")).status_code for _ in range(4)] == [200, 200, 200, 429]
    assert client.get(reverse("accounts:sign-in"), REMOTE_ADDR="10.0.0.9").status_code == 200
    assert client.get("/api/v1/room").json()["problems"] == []


def test_the_longest_unseen_is_forgotten(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(rates, "REMEMBERED", 100)
    counted = rates.Counted()
    for number in range(500):
        counted.wait_s(f"address {number}", rates.OF_ADDRESS, clock.now())
    assert len(counted.left) == 100


def test_a_rooms_pictures_take_no_more_than_they_may(
    habitat: Habitat, owner: Keeper, client_of: Callable[[Keeper], Client], settings: Any
) -> None:
    raw = io.BytesIO()
    Image.effect_noise((900, 900), 80).convert("RGB").save(raw, "PNG")
    client, url = client_of(owner), reverse("keeping:write-habitat", args=[habitat.pk, "photo"])

    def send(once: str) -> int:
        day = {"day": clock.today().isoformat(), "time": "", "note": "", "once": once}
        return client.post(url, day | {"picture": SimpleUploadedFile("a.png", raw.getvalue())}, follow=True).status_code

    send("1")
    assert Photo.objects.count() == 1
    taken = quota.pictures_bytes(habitat.room_id)
    assert taken == len(bytes(Photo.objects.get().jpeg))
    settings.PICTURES_MB = 1.9 * taken / 1_000_000
    send("2")
    assert Photo.objects.count() == 1
    settings.PICTURES_MB = 2.1 * taken / 1_000_000
    send("3")
    assert Photo.objects.count() == 2


@pytest.mark.parametrize("age", ["40000", "9999 years", "1e9"])
def test_an_age_beyond_the_calendar_is_no_server_error(age: str, owner: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    client, told = client_of(owner), {"species": "corn-snake", "age": age}
    assert client.get(reverse("rooms:answer"), told).status_code == 200
    assert client.post(reverse("rooms:new"), told | {"name": "Backwash"}).status_code == 200  # the form again, with its faults
