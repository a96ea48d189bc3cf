"""A room taken along whole and brought in elsewhere: nothing lost, nothing half; an account deleted with what is its own."""

import html
import io
import json
import zipfile
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from django.apps import apps
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.urls import reverse
from PIL import Image

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.archive import deleting, tasks
from ridgeback.archive.models import ArchiveFile
from ridgeback.archive.reading_in import NoArchiveError, read_in
from ridgeback.archive.tables import LEFT_OUT, TABLES, schema
from ridgeback.archive.writing_out import write_out
from ridgeback.daybook.models import Event, Photo
from ridgeback.planner import mapping
from ridgeback.rooms import keepers
from ridgeback.rooms.models import Habitat, Membership, Room
from ridgeback.series.models import Channel, Hour, Sample
from tests.database import bring_demo

Clients = Callable[[Keeper], Client]
Rows = dict[str, list[dict[str, Any]]]


def archived(room: Room) -> bytes:
    file = io.BytesIO()
    write_out(room, file, clock.now())
    return file.getvalue()


def rows_of(archive: bytes) -> Rows:
    """The rows of each table, with places in place of keys: alike for two rooms that hold the same."""
    with zipfile.ZipFile(io.BytesIO(archive)) as file:
        found = {table.label: [json.loads(line) for line in file.read(table.name).decode().splitlines()] for table in TABLES}
    shapes = schema()
    place = {label: {row.get("id", at): at for at, row in enumerate(rows)} for label, rows in found.items()}
    for table in TABLES:
        for row in found[table.label]:
            for name, said in shapes[table.name].items():
                of = said.removeprefix("id of ")
                if said.startswith("id of ") and row[name] is not None:
                    row[name] = place[of][row[name]]
                elif said == "name of a keeper" and row[name]:
                    row[name] = row[name].removesuffix(" (elsewhere)")
                elif said == "name of a file":
                    row[name] = "a file"
            row.pop("id", None)
            row.pop("created_at", None)
            if table.label == "daybook.Event":
                for name, of in (("partner", "rooms.Animal"), ("clutch", "daybook.Event")):
                    if isinstance(row["payload"].get(name), int):
                        row["payload"][name] = place[of].get(row["payload"][name])
            if table.label == "electrics.RoomWiring":
                feeds = row["document"].get("feeds", {})
                row["document"]["feeds"] = {str(place["rooms.Habitat"][int(key)]): feed for key, feed in feeds.items()}
    return found


@pytest.fixture
def demo_room(db: None) -> Room:
    bring_demo(whole=True)
    return Room.objects.get()


def test_every_table_goes_along_or_is_left_out_by_name() -> None:
    ours = {model._meta.label for model in apps.get_models() if model.__module__.startswith("ridgeback.")}
    assert {table.label for table in TABLES} | LEFT_OUT == ours
    assert not {table.label for table in TABLES} & LEFT_OUT


@pytest.mark.sweep
def test_a_room_comes_through_whole(demo_room: Room, other: Keeper) -> None:
    """The demo's room, with its builds, clutches, photos and readings, taken in by somebody else: nothing is lost."""
    event = Event.objects.filter(room=demo_room, habitat__isnull=False).first()
    assert event is not None
    picture = io.BytesIO()
    Image.new("RGB", (40, 30), "green").save(picture, "JPEG")
    about = {"room": demo_room, "habitat": event.habitat, "kind": Event.Kind.PHOTO, "payload": {}}
    Photo.objects.create(event=Event.objects.create(**about, at=clock.now()), jpeg=picture.getvalue(), width=40, height=30)
    channel = Channel.objects.filter(room=demo_room).first() or Channel.objects.create(
        room=demo_room, place="warm-air", code="warm", made_at=clock.now()
    )
    for hours in range(3):
        at = clock.now() - timedelta(hours=hours)
        Sample.objects.create(channel=channel, at=at, value=25.0 + hours)
        Hour.objects.create(channel=channel, at=at, count=4, mean=25.0, low=24.5, high=25.5)
    before = archived(demo_room)
    room = read_in(io.BytesIO(before), other, clock.now())
    assert room.pk != demo_room.pk
    one, two = rows_of(before), rows_of(archived(room))
    for label, rows in one.items():
        assert len(rows) == len(two[label]), label
        for was, now in zip(rows, two[label], strict=True):
            assert was == now, label
    assert sum(map(len, one.values())) > 400
    for habitat in Habitat.objects.filter(room=room):
        assert mapping.plan_of(habitat).name == habitat.name  # each plan is read as before
    assert Membership.objects.get(room=room).keeper == other


def test_it_is_taken_along_and_brought_in_by_hand(habitat: Habitat, owner: Keeper, other: Keeper, client_of: Clients) -> None:
    answer = client_of(owner).get(reverse("archive:take-out", args=[habitat.room_id]))
    data = b"".join(answer.streaming_content)
    file = SimpleUploadedFile("room.zip", data, "application/zip")
    brought = client_of(other).post(reverse("archive:bring-in"), {"file": file}, follow=True)
    assert brought.context["waits"]
    taken_in()
    page = html.unescape(client_of(other).get(brought.request["PATH_INFO"]).content.decode())
    assert f"{habitat.room.name} is here, with everything in it." in page
    assert client_of(owner).get(brought.request["PATH_INFO"]).status_code == 404
    mine = Habitat.objects.get(room__membership__keeper=other)
    assert client_of(other).get(reverse("planner:bench", args=[mine.pk])).status_code == 200
    assert client_of(owner).get(reverse("planner:bench", args=[mine.pk])).status_code == 404
    # Who wrote it elsewhere is told by name, and signs in nowhere.
    wrote = {event.author.username for event in Event.objects.filter(room=mine.room) if event.author}
    assert wrote == {f"{owner.username} (elsewhere)"}
    assert not Keeper.objects.get(username=f"{owner.username} (elsewhere)").is_active


def test_only_an_owner_takes_a_room_along(habitat: Habitat, other: Keeper, client_of: Clients) -> None:
    Membership.objects.create(room=habitat.room, keeper=other, role="keeper")
    assert client_of(other).get(reverse("archive:take-out", args=[habitat.room_id])).status_code == 403


def taken_in() -> ArchiveFile:
    """What the worker makes of the last archive that was brought."""
    made = ArchiveFile.objects.latest("pk")
    tasks.take_in(made.pk)
    tasks.take_in(made.pk)  # twice does nothing twice
    made.refresh_from_db()
    assert made.upload is None
    return made


def test_a_long_archive_comes_in_parts(habitat: Habitat, owner: Keeper, other: Keeper, client_of: Clients) -> None:
    client, data, at = client_of(other), archived(habitat.room), 0
    address = client.post(reverse("uploads:begin-mine"), headers={"Upload-Length": str(len(data))})["Location"]
    assert client_of(owner).get(address).status_code == 404
    for begins in range(0, len(data), 5000):
        at, part = begins, data[begins : begins + 5000]
        sent = client.patch(address, part, "application/offset+octet-stream", headers={"Upload-Offset": str(at)})
        assert sent.status_code == 204
    before = Room.objects.count()
    client.post(reverse("archive:bring-in"), {"upload": address.split("/")[-2]})
    assert taken_in().state == "taken"
    assert Room.objects.count() == before + 1


def test_a_damaged_archive_is_told_and_makes_nothing(habitat: Habitat, other: Keeper, client_of: Clients) -> None:
    data = archived(habitat.room)
    answer = client_of(other).post(reverse("archive:bring-in"), {"file": SimpleUploadedFile("room.zip", data[:-400])}, follow=True)
    before = Room.objects.count()
    assert taken_in().state == "failed"
    assert "Nothing was written." in client_of(other).get(answer.request["PATH_INFO"]).content.decode()
    assert Room.objects.count() == before
    empty = client_of(other).post(reverse("archive:bring-in"), follow=True)
    assert "Choose it again." in empty.content.decode()


def test_why_an_archive_failed_is_told_in_its_keepers_language(habitat: Habitat, other: Keeper, client_of: Clients) -> None:
    data, why = archived(habitat.room)[:-400], {}
    for tongue in ("en", "de"):
        Keeper.objects.filter(pk=other.pk).update(language=tongue)
        client_of(other).post(reverse("archive:bring-in"), {"file": SimpleUploadedFile("room.zip", data)})
        why[tongue] = taken_in().failed
    assert "archive" in why["en"]
    assert why["de"]
    assert why["de"] != why["en"]


def changed(archive: bytes, name: str, make: Callable[[str], str]) -> bytes:
    """The same archive with one file of another content."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(archive)) as before, zipfile.ZipFile(out, "w") as after:
        for one in before.namelist():
            text = before.read(one)
            after.writestr(one, make(text.decode()) if one == name else text)
    return out.getvalue()


def test_what_is_no_archive_makes_nothing(habitat: Habitat, other: Keeper) -> None:
    good = archived(habitat.room)
    wrong = [
        b"",
        b"not a zip",
        good[: len(good) // 2],
        changed(good, "archive.json", lambda text: text.replace("ridgeback-room/1", "something-else/9")),
        changed(good, "rooms-room.jsonl", lambda text: text * 2),
        changed(good, "rooms-room.jsonl", lambda _text: ""),
        changed(good, "rooms-habitat.jsonl", lambda _text: "[]\n"),
        changed(good, "rooms-habitat.jsonl", lambda _text: "not json\n"),
        changed(good, "planner-planrevision.jsonl", lambda _text: ""),
        changed(good, "daybook-event.jsonl", lambda text: text.replace('"kind"', '"kin"')),
        changed(good, "daybook-event.jsonl", lambda text: text.replace('"at": "', '"at": "yesterday ')),
    ]
    central = good.index(b"PK\x01\x02")
    for place, byte in ((6, 0x54), (9, 0x08), (10, 0x63)):  # a version, a name as UTF-8 that is none, a packing that is not known
        broken = bytearray(good)
        broken[central + place] = byte
        broken[central + 46] = 0xFF
        wrong.append(bytes(broken))
    rooms = Room.objects.count()
    for data in wrong:
        with pytest.raises(NoArchiveError):
            read_in(io.BytesIO(data), other, clock.now())
    assert Room.objects.count() == rooms


def test_an_archive_tells_its_own_shape(habitat: Habitat) -> None:
    with zipfile.ZipFile(io.BytesIO(archived(habitat.room))) as file:
        about = json.loads(file.read("archive.json"))
        assert about["format"] == "ridgeback-room/1"
        for table in TABLES:
            for line in file.read(table.name).decode().splitlines():
                assert set(json.loads(line)) == set(about["schema"][table.name])
        assert about["rows"]["rooms-habitat.jsonl"] == 1


def test_an_account_goes_with_what_is_nobody_elses(habitat: Habitat, owner: Keeper, other: Keeper, client_of: Clients) -> None:
    shared = Room.objects.create(name="shared")
    for keeper in (owner, other):
        Membership.objects.create(room=shared, keeper=keeper, role="owner")
    Event.objects.create(room=shared, kind=Event.Kind.NOTED, at=clock.now(), author=owner, payload={"note": "stays"})
    client, url = client_of(owner), reverse("archive:delete-account")
    assert [one["room"] for one in client.get(url).context["rooms"]] == [habitat.room]
    assert client.post(url, {"password": "wrong"}).status_code == 422
    assert Keeper.objects.filter(pk=owner.pk).exists()
    assert client.post(url, {"password": "oyster-catcher-7"}).status_code == 302
    assert client.get(reverse("rooms:habitats")).status_code == 302  # signed out
    assert deleting.carry_out(clock.today() + deleting.grace() - timedelta(days=1)) == 0
    assert deleting.carry_out(clock.today() + deleting.grace()) == 1
    assert not Keeper.objects.filter(pk=owner.pk).exists()
    assert not Habitat.objects.filter(pk=habitat.pk).exists()
    assert Event.objects.get(room=shared).author is None


def test_somebody_has_to_look_after_it(db: None, client_of: Clients) -> None:
    warden = keepers.add("warden", "oyster-catcher-9", administrator=True)
    answer = client_of(warden).post(reverse("archive:delete-account"), {"password": "oyster-catcher-9"})
    assert answer.status_code == 403
    assert Keeper.objects.filter(pk=warden.pk).exists()
