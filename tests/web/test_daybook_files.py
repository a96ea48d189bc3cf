"""A daybook that goes out and comes in elsewhere: without loss, once, however long it is, and in parts."""

import base64
import io
import json
from collections.abc import Callable
from datetime import date, timedelta
from typing import Any

import pytest
from asgiref.sync import async_to_sync
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import Client
from django.urls import reverse
from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateJob

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent
from ridgeback.keeping import documents_in, exchange, tasks
from ridgeback.keeping.actions import taking_in
from ridgeback.keeping.actions.animals import Newcomer, leave, welcome
from ridgeback.keeping.actions.entries import correct_entry, whose_animal, write_entry
from ridgeback.keeping.models import DaybookFile
from ridgeback.planner import revisions
from ridgeback.rooms.models import Animal, Habitat, Membership, Room
from ridgeback.rooms.residents import living_in
from ridgeback.uploads import arriving
from ridgeback.uploads.models import Part, Upload
from ridgeback.uploads.reading import opened
from ridgeback.uploads.tasks import let_go, retry_stalled
from tests.plans import plan
from tests.web.sending import bring

Make = Callable[..., Habitat]
TODAY = clock.today()


@pytest.fixture
def intent(owner: Keeper) -> Intent:
    return Intent(owner, clock.now())


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


def come(habitat: Habitat, intent: Intent, *names: str, **facts: Any) -> list[Animal]:
    told = {"species": habitat.species, "sex": "female", "hatched": date(2024, 9, 1)} | facts
    coming = [Newcomer(told | {"name": name}) for name in names]
    return welcome(habitat.pk, intent, coming, TODAY - timedelta(days=100), TODAY)


def document(room: Room) -> str:
    out = io.StringIO()
    events = Event.every.filter(room=room).order_by("at", "id")
    exchange.write_document(out, room, Animal.objects.filter(room=room).order_by("id"), events)
    return out.getvalue()


def everything(room: Room) -> str:
    """A room's daybook as JSON, without the keys, which are another room's."""
    told = json.loads(document(room))
    for one in [*told["entries"], *(home for animal in told["animals"] for home in animal["residences"])]:
        del one["habitat_key"]
    names = {one["key"]: one["name"] for one in told["animals"]}
    for one in told["animals"]:
        one |= {"key": 0, "mother_id": names.get(one["mother_id"]), "father_id": names.get(one["father_id"])}
    keys = {one["key"]: place for place, one in enumerate(told["entries"])}
    for one in told["entries"]:
        one |= {"key": 0, "animal": names.get(one["animal"]), "replaces": keys.get(one["replaces"])}
        for name, known in (("clutch", keys), ("partner", names)):
            if name in one["payload"]:
                one["payload"][name] = known[one["payload"][name]]
    return json.dumps(told | {"room": ""}, sort_keys=True)


def test_a_rooms_daybook_goes_out_and_comes_in_elsewhere_without_loss_and_once(
    habitat: Habitat, intent: Intent, other: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    mother, father = come(habitat, intent, "Samphire", "Sedge", marks="a missing toe")
    told = {"eggs": 2, "partner": father.pk, "incubator_c": 29.0}
    clutch = write_entry(whose_animal(mother), intent, clock.now() - timedelta(days=9), "breeding.clutch", told, TODAY)
    write_entry(whose_animal(mother), intent, clock.now(), "breeding.candled", {"clutch": clutch.pk, "good": 2}, TODAY)
    first = write_entry(whose_animal(mother), intent, clock.now() - timedelta(days=3), "animal.weighed", {"mass_kg": 0.06}, TODAY)
    correct_entry(first.pk, intent, first.at, {"mass_kg": 0.061, "note": "tub forgotten; “früh”"}, TODAY)
    leave(father.pk, intent, TODAY, "lent", "", TODAY)
    sent = document(habitat.room).encode()
    room = Room.objects.get(members=other)
    revisions.create(room, plan(), other, clock.now())
    Event.every.filter(room=room).delete()
    assert bring(client_of(other), room, sent).outcome["animals"] == 2
    assert everything(room) == everything(habitat.room)
    assert bring(client_of(other), room, sent).outcome == {"animals": 0, "entries": 0}


@pytest.mark.parametrize(
    "broken",
    [
        b"\xff\xfe", b"[]", b"{}", b'{"format": "ridgeback-daybook/9", "animals": [], "entries": []}', b"{" * 9000,
        b'{"format": "ridgeback-daybook/1", "animals": [], "entries": [{"key": 1, "kind": "note", "at": "2026-01-01",'
        b' "payload": {}}]}',
        *(
            b'{"format": "ridgeback-daybook/1", "animals": [], "entries": [{"key": 1, "at": "2026-01-01T00:00:00Z",' + one + b"}]}"
            for one in (
                b'"kind": "animal.fed", "payload": {}', b'"kind": "animal.fed", "payload": {"outcome": "eaten", "foods": [3]}',
                b'"kind": "job.done", "payload": {"job": "water"}', b'"kind": "rota.moved", "payload": {"job": "water", "to": 3}',
                b'"kind": "habitat.read", "payload": {"place": "the-moon", "value": 3}', b'"kind": "no.such", "payload": {}',
            )
        ),
        b'{"format": "ridgeback-daybook/1", "animals": [], "entries": [{"key": 1, "kind": "animal.shed",'
        b' "at": "2026-01-01T00:00:00+00:00", "payload": {"came": 3}}]}',
    ],
)  # fmt: skip
def test_a_file_from_another_planet_is_refused_whole(
    habitat: Habitat, owner: Keeper, client_of: Callable[[Keeper], Client], broken: bytes
) -> None:
    before = Event.every.count()
    assert bring(client_of(owner), habitat.room, broken).state == "failed"
    assert Event.every.count() == before
    assert not Upload.objects.exists()


def told(*entries: dict[str, Any]) -> bytes:
    """A daybook of entries alone."""
    every = [{"key": place, "at": "2026-03-01T09:00:00+00:00", "kind": "note"} | one for place, one in enumerate(entries, start=1)]
    return json.dumps({"format": "ridgeback-daybook/1", "animals": [], "entries": every}).encode()


def test_two_entries_that_are_alike_stay_two_and_do_not_become_four(habitat: Habitat, client: Client) -> None:
    raw = told({"payload": {"note": "a cricket"}}, {"payload": {"note": "a cricket"}})
    assert bring(client, habitat.room, raw).outcome["entries"] == 2
    assert bring(client, habitat.room, raw).outcome["entries"] == 0
    assert Event.objects.filter(kind="note").count() == 2


def test_what_was_broken_off_is_gone_on_with_and_nothing_is_there_twice(
    habitat: Habitat, owner: Keeper, client: Client, monkeypatch: pytest.MonkeyPatch
) -> None:
    notes = [{"payload": {"note": f"number {place}"}} for place in range(30)]
    notes[29] |= {"replaces": 1}
    monkeypatch.setattr(taking_in, "STEP", 10)
    write, steps = taking_in.Taking._write, []

    def break_off(taking: taking_in.Taking, lines: Any) -> None:
        if len(steps) == 2:
            raise OSError("the machine went down")
        steps.append(len(lines))
        write(taking, lines)

    monkeypatch.setattr(taking_in.Taking, "_write", break_off)
    made = bring(client, habitat.room, told(*notes))
    assert (made.state, Event.objects.filter(kind="note").count()) == ("failed", 20)
    page = client.get(reverse("keeping:daybook-file", args=[made.pk])).content.decode()
    assert "Part of it is written already" in page
    monkeypatch.setattr(taking_in.Taking, "_write", write)
    assert bring(client, habitat.room, told(*notes)).outcome["entries"] == 10
    last = Event.objects.get(payload__note="number 29")
    assert last.replaces == Event.objects.get(payload__note="number 0")
    assert Event.objects.filter(kind="note").count() == 30


def test_an_entry_has_one_that_stands_in_its_place(habitat: Habitat, client: Client) -> None:
    """The first correction of it: a file of another copy that corrected it too leaves that as it is."""
    first, second, third = ({"payload": {"note": f"{word} shed"}} for word in ("half a", "a whole", "no"))
    bring(client, habitat.room, told(first, second | {"replaces": 1}))
    bring(client, habitat.room, told(first, third | {"replaces": 1}))
    was, corrected, other = (Event.every.get(payload=one["payload"]) for one in (first, second, third))
    assert (corrected.replaces, other.replaces) == (was, None)


@pytest.mark.parametrize(
    ("entries", "why"),
    [
        (({"payload": {}}, {"key": 1, "payload": {}}), "key 1"),
        (({"payload": {}}, {"payload": {}, "replaces": 1}, {"payload": {}, "replaces": 1}), "key 1"),
        (({"kind": "breeding.candled", "payload": {"clutch": 7, "good": 1}},), "clutch"),
        (({"at": "2999-01-01T00:00:00+00:00", "payload": {}},), "(at)"),
        (({"at": "0001-01-01T00:00:00+00:00", "payload": {}},), "(at)"),
        (({"payload": {"note": "a" * 3000}},), "entry 1"),
        (({"payload": {}, "taken_back_at": "0001-01-01T00:00:00"},), "taken_back_at"),
        (({"payload": {}, "written_at": "9999-12-31T23:59:59+00:00"},), "written_at"),
    ],
)
def test_what_contradicts_itself_is_refused_and_named(habitat: Habitat, client: Client, entries: Any, why: str) -> None:
    before = Event.every.count()
    made = bring(client, habitat.room, told(*entries))
    assert made.state == "failed"
    assert why in made.outcome["failed"]
    assert Event.every.count() == before


def test_an_animal_that_a_file_does_not_bring_is_nobody_here(
    habitat: Habitat, intent: Intent, client: Client, other: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    mother, father = come(habitat, intent, "Samphire", "Sedge")
    write_entry(whose_animal(mother), intent, clock.now(), "breeding.clutch", {"eggs": 2, "partner": father.pk}, TODAY)
    raw = client.get(reverse("keeping:animal-json", args=[mother.pk])).getvalue()
    room = Room.objects.get(members=other)
    assert bring(client_of(other), room, raw).state == "taken"
    assert "partner" not in Event.objects.get(room=room, kind="breeding.clutch").payload
    # Where it was written it is known who that is.
    assert bring(client, habitat.room, raw).outcome == {"animals": 0, "entries": 0}


def test_two_habitats_of_one_name_keep_what_is_theirs(
    make_habitat: Make, intent: Intent, owner: Keeper, other: Keeper, client: Client, client_of: Callable[[Keeper], Client]
) -> None:
    shelves = [make_habitat(name="Shelf"), make_habitat(name="Shelf")]
    for place, shelf in enumerate(shelves):
        come(shelf, intent, f"Sedge {place}")
        Event.objects.create(room=shelf.room, habitat=shelf, kind="note", at=clock.now(), payload={"note": str(place)})
    raw = client.get(reverse("keeping:room-json", args=[shelves[0].room_id])).getvalue()
    assert bring(client, shelves[0].room, raw).outcome == {"animals": 0, "entries": 0}
    room = Room.objects.get(members=other)
    theirs = [revisions.create(room, plan(name="Shelf"), other, clock.now()) for _place in range(2)]
    assert bring(client_of(other), room, raw).outcome["animals"] == 2
    for place, shelf in enumerate(theirs):
        assert Event.objects.get(habitat=shelf, kind="note").payload == {"note": str(place)}
        assert [one.animal.called for one in living_in([shelf.pk])[shelf.pk]] == [f"Sedge {place}"]
    # A table knows them by their names alone.
    table = client.get(reverse("keeping:room-csv", args=[shelves[0].room_id])).getvalue()
    assert "bear the name 'Shelf'" in bring(client, shelves[0].room, table).outcome["failed"]


# Long files


def head_of(size: int, name: str = "daybook.json") -> dict[str, str]:
    return {
        "Tus-Resumable": "1.0.0",
        "Upload-Length": str(size),
        "Upload-Metadata": f"filename {base64.b64encode(name.encode()).decode()}",
    }


def part(client: Client, address: str, begins: int, content: bytes) -> Any:
    kind = "application/offset+octet-stream"
    return client.patch(address, content, content_type=kind, headers={"Tus-Resumable": "1.0.0", "Upload-Offset": str(begins)})


def test_a_file_in_parts_is_taken_in_as_one(habitat: Habitat, owner: Keeper, client: Client) -> None:
    raw = told(*({"payload": {"note": f"number {place}"}} for place in range(50)))
    answer = client.post(reverse("uploads:begin", args=[habitat.room_id]), headers=head_of(len(raw)))
    address = answer["Location"]
    assert (answer.status_code, answer["Tus-Resumable"]) == (201, "1.0.0")
    for begins in range(0, len(raw), 1000):
        # A part that is sent again, and one that leaves a gap, are told where to go on.
        again = part(client, address, max(0, begins - 1000), raw[begins : begins + 10])
        assert (again.status_code, again.headers.get("Upload-Offset")) == ((409, str(begins)) if begins else (204, "10"))
        if not begins:
            assert part(client, address, 10, raw[10:1000]).status_code == 204
            continue
        assert part(client, address, begins, raw[begins : begins + 1000])["Upload-Offset"] == str(min(begins + 1000, len(raw)))
        told_so = client.head(address)
        assert (told_so["Upload-Offset"], told_so["Upload-Length"]) == (str(min(begins + 1000, len(raw))), str(len(raw)))
    upload = Upload.objects.get()
    assert opened(upload).read() == raw
    form = {"upload": str(upload.pk), "once": "one press"}
    page = reverse("keeping:bring-in", args=[habitat.room_id])
    answer = client.post(page, form)
    # A second press leads to the same page, and the file waits once.
    assert client.post(page, form)["Location"] == answer["Location"]
    # Nor is a file that waits brought a second time by another page, or let go of for later ones.
    assert client.post(page, form | {"once": "another page"}).status_code == 422
    for _later in range(5):
        client.post(reverse("uploads:begin", args=[habitat.room_id]), headers=head_of(10))
    made = DaybookFile.objects.get()
    assert [job.args for job in ProcrastinateJob.objects.filter(task_name="keeping.take_file")] == [{"pk": made.pk}]
    tasks.take_file(made.pk)
    made.refresh_from_db()
    assert (made.state, made.name, made.outcome["entries"]) == ("taken", "daybook.json", 50)
    assert not Upload.objects.filter(claimed=True).exists()
    assert not Part.objects.exists()


def test_an_upload_reads_as_a_file_from_anywhere(owner: Keeper, habitat: Habitat) -> None:
    raw = bytes(range(256)) * 40
    upload = arriving.begin(habitat.room_id, owner, "any", len(raw))
    for begins in range(0, len(raw), 999):
        arriving.add(upload, begins, raw[begins : begins + 999])
    file, twin = opened(upload), io.BytesIO(raw)
    for place, whence, count in ((0, 0, 5), (990, 0, 20), (-300, 2, 1000), (-50, 1, 10), (5000, 0, -1), (20_000, 0, 4)):
        assert file.seek(place, whence) == twin.seek(place, whence)
        assert file.read(count) == twin.read(count)
    with pytest.raises(OSError, match="beginning"):
        file.seek(-len(raw) - 1, io.SEEK_END)


@pytest.mark.parametrize(
    ("change", "status"),
    [
        ({"Upload-Length": "0"}, 400), ({"Upload-Length": "-5"}, 400), ({"Upload-Length": "many"}, 400),
        ({"Upload-Length": str(arriving.LARGEST_BYTES + 1)}, 413), ({"Upload-Metadata": "filename \x7f,,,"}, 201),
        ({"Upload-Metadata": "filename AA=="}, 201),
    ],
)  # fmt: skip
def test_what_is_announced_amiss_is_refused(habitat: Habitat, client: Client, change: dict[str, str], status: int) -> None:
    answer = client.post(reverse("uploads:begin", args=[habitat.room_id]), headers=head_of(20) | change)
    assert answer.status_code == status
    assert Upload.objects.filter(name="").count() == (status == 201)


def test_parts_are_taken_from_who_began_and_may_write_and_never_beyond_what_was_said(
    habitat: Habitat, owner: Keeper, other: Keeper, client: Client, client_of: Callable[[Keeper], Client]
) -> None:
    begin = reverse("uploads:begin", args=[habitat.room_id])
    address = client.post(begin, headers=head_of(20))["Location"]
    Membership.objects.create(room=habitat.room, keeper=other, role=Membership.Role.KEEPER)
    assert part(client_of(other), address, 0, b"x").status_code == 404
    assert client_of(other).head(address).status_code == 404
    assert part(client, address, 0, b"x" * 21).status_code == 409
    assert client.patch(address, b"x", content_type="text/plain", headers={"Upload-Offset": "0"}).status_code == 415
    # What has not arrived is not read, nor by anybody else.
    page = reverse("keeping:bring-in", args=[habitat.room_id])
    key = Upload.objects.get().pk
    assert client.post(page, {"upload": str(key)}).status_code == 422
    assert part(client, address, 0, b"x" * 20).status_code == 204
    assert client_of(other).post(page, {"upload": str(key)}).status_code == 422
    Membership.objects.filter(keeper=owner, room=habitat.room).update(role=Membership.Role.VIEWER)
    assert client.post(begin, headers=head_of(20)).status_code == 403
    assert client.post(page, {"upload": str(key)}).status_code == 403


def test_of_files_that_nobody_came_back_for_the_latest_stay_for_a_week(
    habitat: Habitat, owner: Keeper, client: Client, monkeypatch: pytest.MonkeyPatch
) -> None:
    for size in range(1, 6):
        client.post(reverse("uploads:begin", args=[habitat.room_id]), headers=head_of(size))
    assert set(Upload.objects.values_list("size", flat=True)) == {3, 4, 5}
    let_go(0)
    assert Upload.objects.count() == 3
    now = clock.now()
    monkeypatch.setattr(clock, "now", lambda: now + timedelta(days=8))
    let_go(0)
    assert not Upload.objects.exists()


@pytest.mark.parametrize("turn", ["once", "and again, where nothing is left of the first"])
@pytest.mark.django_db(transaction=True)
def test_what_a_worker_was_at_when_it_died_is_begun_again_and_what_one_is_at_is_not(
    habitat: Habitat, owner: Keeper, client: Client, turn: str
) -> None:
    raw = told({"payload": {"note": "quiet"}})
    for _turn in range(2):
        client.post(reverse("keeping:bring-in", args=[habitat.room_id]), {"file": SimpleUploadedFile("daybook.json", raw)})
    with connection.cursor() as cursor:
        cursor.execute(
            "insert into procrastinate_workers (last_heartbeat) values (now() - interval '1 hour'), (now()) returning id"
        )
        dead, alive = (row[0] for row in cursor.fetchall())
        first, second = ProcrastinateJob.objects.filter(task_name="keeping.take_file").order_by("id").values_list("id", flat=True)
        for job, worker in ((first, dead), (second, alive)):
            cursor.execute(
                "update procrastinate_jobs set status = 'doing', worker_id = %s, lock = null where id = %s", [worker, job]
            )
    async_to_sync(retry_stalled)(app.job_manager)
    assert ProcrastinateJob.objects.get(id=first).status == "todo"
    assert ProcrastinateJob.objects.get(id=second).status == "doing"


def swollen(entry: str) -> bytes:
    return b'{"format": "ridgeback-daybook/1", "animals": [], "entries": [' + entry.encode()


@pytest.mark.sweep
@pytest.mark.parametrize(
    "raw",
    [
        swollen('{"key": 1, "note": "' + "x" * 3_000_000),
        swollen("[" * 200_000),
        swollen('{"a":' * 200_000),
        swollen('{"key": 1, "kind": "note", "payload": {"note": [' + "0," * 30_000 + "0]}}]}"),
        swollen("9" * 3_000_000),
        swollen("1e999]}"),
        swollen("NaN]}"),
        b'{"format": "ridgeback-daybook/1", "animals": [], "entries": {}}',
        b'{"format": "ridgeback-daybook/1", "animals": [], "entries": [], "entries": []}',
        b'{"format": "ridgeback-daybook/1", "entries": []}',
        b"date,kind,what\n2026-03-01,note," + b"x" * 2_000_000,
        b"date,kind,what\n2026-0\x003-01,note,x",
        b'date,kind,what\n2026-03-01,note,"' + b"x\n" * 200_000,
    ],
    ids=range(13),
)
def test_what_would_swell_is_refused_in_little_memory(habitat: Habitat, client: Client, raw: bytes) -> None:
    made = bring(client, habitat.room, raw)
    assert made.state == "failed", made.outcome
    assert "went wrong" not in made.outcome["failed"]


def test_the_mark_of_a_byte_order_is_no_fault(habitat: Habitat, client: Client) -> None:
    assert bring(client, habitat.room, b"\xef\xbb\xbf" + told({"payload": {"note": "früh"}})).outcome["entries"] == 1


@pytest.mark.sweep
def test_no_more_of_a_daybook_is_held_than_one_step(habitat: Habitat, client: Client) -> None:
    import tracemalloc

    raw = told(*({"payload": {"note": f"{place} " + "long " * 300}} for place in range(4000)))
    assert len(raw) > 6e6
    tracemalloc.start()
    found = documents_in.Document(lambda: io.BytesIO(raw))
    assert sum(1 for _entry in found.entries()) == 4000
    _now, peak = tracemalloc.get_traced_memory()
    tracemalloc.stop()
    assert peak < 0.3 * len(raw) + 2e6
