"""A clock that jumps: nothing is lost or deleted, every page opens, nobody is locked out for years."""

from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from django.test import Client
from django.urls import reverse

from launch import backups
from launch.backups import Schedule
from ridgeback import clock
from ridgeback.accounts import tasks as account_tasks
from ridgeback.accounts.models import Keeper, Try
from ridgeback.archive import deleting
from ridgeback.archive import tasks as archive_tasks
from ridgeback.archive.models import Deletion
from ridgeback.daybook.models import Event
from ridgeback.keeping import tasks as keeping_tasks
from ridgeback.rooms.models import Habitat
from ridgeback.series import tasks as series_tasks
from ridgeback.series.models import Channel, Sample

pytestmark = pytest.mark.django_db
TRUE = clock.now()
Jump = Callable[[timedelta], None]
BACK, AHEAD = timedelta(days=-2400), timedelta(days=2400)  # an empty battery; a time from nowhere
PAGES = ("rooms:habitats", "keeping:round", "keeping:watch", "keeping:animals", "rota:calendar", "accounts:account")


@pytest.fixture
def jump(monkeypatch: pytest.MonkeyPatch) -> Jump:
    """Set the program's clock apart from the true one by so much."""

    def to(by: timedelta) -> None:
        monkeypatch.setattr(clock, "now", lambda: datetime.now(UTC) + by)

    return to


@pytest.fixture
def kept(habitat: Habitat, owner: Keeper) -> Channel:
    """Two readings, an entry, and a room that is to be deleted in thirty days."""
    channel = Channel.objects.create(room=habitat.room, habitat=habitat, place="warm-air", code="warm", made_at=TRUE)
    for days in (1, 300):
        Sample.objects.create(channel=channel, at=TRUE - timedelta(days=days), value=25.0)
    Event.objects.create(room=habitat.room, habitat=habitat, kind=Event.Kind.NOTED, at=TRUE, payload={"note": "before"})
    deleting.ask(habitat, owner, TRUE, clock.today())
    return channel


@pytest.mark.sweep
@pytest.mark.parametrize("by", [BACK, AHEAD])
def test_every_page_opens_and_what_is_written_is_kept(
    by: timedelta, jump: Jump, kept: Channel, habitat: Habitat, owner: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    own = [
        reverse(name, args=[habitat.pk]) for name in ("planner:bench", "keeping:now", "metering:live", "keeping:habitat-daybook")
    ]
    pages = [*map(reverse, PAGES), *own, reverse("metering:chart", args=[kept.pk])]
    for apart in (by, timedelta(0)):
        jump(apart)
        client = client_of(owner)
        keeping_tasks.look_room(habitat.room_id)
        keeping_tasks.look_room_hourly(habitat.room_id)
        for page in pages:
            assert client.get(page).status_code == 200, (apart, page)
        day = {"day": clock.today().isoformat(), "time": "", "note": f"at {apart}", "once": str(apart)}
        client.post(reverse("keeping:write-habitat", args=[habitat.pk, "note"]), day)
    said = {event.payload.get("note") for event in Event.objects.filter(kind=Event.Kind.NOTED)}
    assert said == {"before", f"at {by}", f"at {timedelta(0)}"}


def test_a_night_years_ahead_deletes_nothing(jump: Jump, kept: Channel, habitat: Habitat) -> None:
    nightly = (archive_tasks.delete_due, series_tasks.let_go)
    for night in range(2):
        jump(timedelta(days=night))
        for task in nightly:
            task(0)
    jump(AHEAD)
    for task in nightly:
        task(0)
    assert Habitat.objects.filter(pk=habitat.pk).exists()
    assert Sample.objects.count() == 2
    jump(timedelta(days=31))  # set right; the first night only looks
    for task in nightly:
        task(0)
    assert Deletion.objects.count() == 1
    jump(timedelta(days=32))
    for task in nightly:
        task(0)
    assert Deletion.objects.count() == 0
    account_tasks.clear(0)


@pytest.mark.sweep
def test_guesses_of_the_future_lock_nobody_out(jump: Jump, owner: Keeper) -> None:
    jump(AHEAD)
    for number in range(35):
        Client().post(reverse("accounts:sign-in"), {"username": f"nobody{number}", "password": "guess"})
    assert Client().post(reverse("accounts:sign-in"), {"username": "nobody", "password": "guess"}).status_code == 429
    jump(timedelta(0))
    assert Try.objects.count() >= 30
    assert Client().post(reverse("accounts:sign-in"), {"username": "tansy", "password": "oyster-catcher-7"}).status_code == 302


def test_a_backup_of_the_future_keeps_no_other_from_being_made(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("RIDGEBACK_BACKUP_FOLDER", str(tmp_path))
    (tmp_path / f"ridgeback-{datetime.now(UTC) + AHEAD:{backups.STAMP}}-daily.zip").touch()
    assert Schedule(tmp_path, own_database=True).due()
    (tmp_path / f"ridgeback-{datetime.now(UTC):{backups.STAMP}}-daily.zip").touch()
    assert not Schedule(tmp_path, own_database=True).due()
