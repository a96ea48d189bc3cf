"""The daybook as files without loss, a notebook out of a spreadsheet, and whether it is sick or in its season."""

import io
import zipfile
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse
from PIL import Image

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook.models import Event, Photo
from ridgeback.daybook.writing import Intent
from ridgeback.keeping import with_photos
from ridgeback.keeping.actions.animals import Newcomer, welcome
from ridgeback.keeping.actions.entries import whose_animal, write_entry_surely
from ridgeback.keeping.shapes import UnreadableDaybookError
from ridgeback.keeping.with_photos import unpacked
from ridgeback.rooms.models import Animal, Habitat
from tests.web.sending import bring

Make = Callable[..., Habitat]


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


@pytest.fixture
def animal(habitat: Habitat, owner: Keeper) -> Animal:
    coming = [Newcomer({"name": "Sedge", "species": habitat.species, "sex": "female"})]
    return welcome(habitat.pk, Intent(owner, clock.now()), coming, clock.today() - timedelta(days=300), clock.today())[0]


def note(animal: Animal, owner: Keeper, days: int, kind: str, **payload: Any) -> Event:
    at = clock.now() - timedelta(days=days)
    return write_entry_surely(whose_animal(animal), Intent(owner, clock.now()), at, kind, payload, clock.today())


def picture(colour: str = "green", **how: Any) -> bytes:
    made = io.BytesIO()
    Image.new("RGB", (60, 40), colour).save(made, "JPEG", **how)
    return made.getvalue()


def test_photos_go_out_and_come_in_again_as_they_were(
    animal: Animal, owner: Keeper, other: Keeper, client: Client, client_of: Callable[[Keeper], Client]
) -> None:
    event = note(animal, owner, 3, Event.Kind.PHOTO, note="in the morning")
    Photo.objects.create(event=event, jpeg=picture(), width=60, height=40)
    sent = client.get(reverse("keeping:room-json", args=[animal.room_id]) + "?photos=1")
    assert sent["Content-Type"] == "application/zip"
    raw = sent.getvalue()
    room = other.room_set.get()
    assert bring(client_of(other), room, raw, "daybook.zip").state == "taken"
    kept = Photo.objects.get(event__room=room)
    assert bytes(kept.jpeg) == picture()
    bring(client_of(other), room, raw, "daybook.zip")
    assert Photo.objects.filter(event__room=room).count() == 1


def test_a_strangers_picture_is_made_bare_and_what_is_none_is_refused(animal: Animal, owner: Keeper, client: Client) -> None:
    event = note(animal, owner, 3, Event.Kind.PHOTO)
    Photo.objects.create(event=event, jpeg=picture(), width=60, height=40)
    sent = client.get(reverse("keeping:room-json", args=[animal.room_id]) + "?photos=1").getvalue()
    Photo.objects.all().delete()
    told = Image.Exif()
    told[0x010F] = "where it was taken"
    for raw, state in ((picture(exif=told), "taken"), (b"no picture", "failed")):
        made = io.BytesIO()
        with zipfile.ZipFile(io.BytesIO(sent)) as old, zipfile.ZipFile(made, "w") as new:
            new.writestr("daybook.json", old.read("daybook.json"))
            new.writestr(f"photos/{event.pk}.jpg", raw)
        assert bring(client, animal.room, made.getvalue(), "daybook.zip").state == state
    assert b"where it was taken" not in bytes(Photo.objects.get().jpeg)
    assert bring(client, animal.room, b"PK\x03\x04 broken", "daybook.zip").state == "failed"


@pytest.mark.parametrize("method", [zipfile.ZIP_DEFLATED, zipfile.ZIP_LZMA])
def test_an_archive_damaged_on_its_way_or_of_another_make_is_refused(animal: Animal, client: Client, method: int) -> None:
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", method) as new:
        new.writestr("daybook.json", client.get(reverse("keeping:room-json", args=[animal.room_id])).getvalue())
    damaged = bytearray(made.getvalue())
    damaged[42 + 20 : 42 + 60] = b"\xff" * 40  # behind the entry's own header
    assert bring(client, animal.room, bytes(damaged), "daybook.zip").state == "failed"


def test_whichever_byte_of_an_archive_is_another_it_is_read_or_refused() -> None:
    """An unknown version or packing, a name in no encoding, a length cut off: found by fuzzing (benchmarks/guided.py)."""
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as new:
        new.writestr("daybook.json", b"{}")
        new.writestr("photos/1.jpg", picture())
    whole = made.getvalue()
    refused = 0
    for place in (*range(80), *range(whole.index(b"PK\x01\x02"), len(whole))):
        for byte in (0x00, 0x54, 0xFF):
            try:
                with unpacked(io.BytesIO(whole[:place] + bytes([byte]) + whole[place + 1 :])) as archive:
                    archive.look_through(lambda _done: None)
                    archive.document().read()
            except UnreadableDaybookError:
                refused += 1
    assert refused > 100


def test_an_archive_that_would_swell_is_refused_before_it_does(
    animal: Animal, client: Client, monkeypatch: pytest.MonkeyPatch
) -> None:
    sent = client.get(reverse("keeping:room-json", args=[animal.room_id])).getvalue()
    monkeypatch.setattr(with_photos, "LARGEST_BYTES", 60_000_000)

    def archive(count: int, padding: int) -> bytes:
        made = io.BytesIO()
        with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as new:
            new.writestr("daybook.json", sent)
            for key in range(count):
                new.writestr(f"photos/{key}.jpg", picture() + bytes(padding))
        return made.getvalue()

    for count, padding in ((1, 8_000_000), (9, 7_000_000)):
        assert "too large" in bring(client, animal.room, archive(count, padding), "daybook.zip").outcome["failed"]
    assert bring(client, animal.room, archive(2, 7_000_000), "daybook.zip").state == "taken"


def test_our_own_table_comes_in_again_without_loss_and_once(animal: Animal, owner: Keeper, client: Client) -> None:
    note(animal, owner, 9, Event.Kind.WEIGHED, mass_kg=0.0581, note='=before, the meal; "so"')
    note(animal, owner, 8, Event.Kind.SHED, came="pieces", stuck=["toes"])
    note(animal, owner, 7, Event.Kind.SIGN, what="open-mouth")
    page = reverse("keeping:room-csv", args=[animal.room_id])
    sent = client.get(page).getvalue()
    before = list(Event.every.filter(room=animal.room_id).order_by("at", "id").values_list("kind", "payload", "animal_id"))
    assert bring(client, animal.room, sent).state == "taken"
    assert Event.every.filter(room=animal.room_id).count() == len(before)
    Event.every.filter(room=animal.room_id).delete()
    assert bring(client, animal.room, sent).state == "taken"
    assert list(Event.every.filter(room=animal.room_id).order_by("at", "id").values_list("kind", "payload", "animal_id")) == before
    assert client.get(page).getvalue().decode().splitlines()[0] == sent.decode().splitlines()[0]


def test_a_notebook_out_of_a_spreadsheet(animal: Animal, client: Client) -> None:
    text = (
        "Date;Kind;Animal;What;Note\n"
        "3 March 2026;weight;sedge;2.05 oz;after a shed\n"
        "2026-03-09;shed;Sedge;in pieces;\n"
        "13.04.2026;note;Sedge;;dug a new burrow\n"
    )
    assert bring(client, animal.room, text.encode("utf-8-sig")).state == "taken"
    weighed = Event.objects.get(animal=animal, kind=Event.Kind.WEIGHED, at__date="2026-03-03")
    assert weighed.payload["mass_kg"] == pytest.approx(0.0581, abs=1e-4)
    assert weighed.payload["note"] == "after a shed"
    assert Event.objects.get(animal=animal, kind=Event.Kind.SHED).payload["came"] == "pieces"
    assert Event.objects.get(animal=animal, kind=Event.Kind.NOTED).payload["note"] == "dug a new burrow"


@pytest.mark.parametrize(
    ("line", "why"),
    [
        ("2026-03-03;weight;Nobody;50 g", "line 2"),
        ("2026-03-03;unicorn;Sedge;50 g", "no kind of entry"),
        ("2026-03-03;weight;Sedge;heavy", "line 2"),
        ("2026-03-03;weight;Sedge;", "line 2"),
        ("tomorrow;weight;Sedge;50 g", "to come"),
        ("3/4/2026;weight;Sedge;50 g", "line 2"),
        ("sometime;weight;Sedge;50 g", "line 2"),
    ],
)
def test_a_line_that_cannot_be_read_is_named_and_nothing_is_written(animal: Animal, client: Client, line: str, why: str) -> None:
    line = line.replace("tomorrow", (clock.today() + timedelta(days=1)).isoformat())
    before = Event.every.count()
    good = "2026-03-04;weight;Sedge;50 g"
    made = bring(client, animal.room, f"date;kind;animal;what\n{line}\n{good}\n".encode())
    assert made.state == "failed"
    assert why in client.get(reverse("keeping:daybook-file", args=[made.pk])).content.decode()
    assert Event.every.count() == before


@pytest.mark.parametrize("raw", [b"\xff\xfe\x00", b"a,b\n1,2\n", b"{", b"PK"])
def test_a_file_of_another_planet_is_told(animal: Animal, client: Client, raw: bytes) -> None:
    assert bring(client, animal.room, raw).state == "failed"


def shares(client: Client, animal: Animal) -> dict[str, int]:
    page = client.get(reverse("keeping:sick-or-season", args=[animal.pk]))
    assert page.status_code == 200
    return {side["code"]: side["percent"] for side in page.context["sides"]}


def test_weight_lost_and_a_sign_speak_for_an_illness(animal: Animal, owner: Keeper, client: Client) -> None:
    before = shares(client, animal)
    for days, mass_kg in ((90, 0.06), (76, 0.061), (62, 0.06), (48, 0.0605), (34, 0.06), (20, 0.056), (0, 0.05)):
        note(animal, owner, days, Event.Kind.WEIGHED, mass_kg=mass_kg)
    note(animal, owner, 2, Event.Kind.SIGN, what="open-mouth")
    after = shares(client, animal)
    assert after["ill"] > before["ill"] + 30
    text = client.get(reverse("keeping:sick-or-season", args=[animal.pk])).content.decode()
    assert "A reptile veterinarian is to be asked" in text
    assert "It has lost a tenth of its weight or more." in text


def test_what_would_tell_more_is_named(animal: Animal, client: Client) -> None:
    text = client.get(reverse("keeping:sick-or-season", args=[animal.pk])).content.decode()
    assert "weigh it now" in text
    assert "none was looked at lately" in text


def test_a_female_with_a_clutch_is_looked_at_herself_and_her_next_laying_is_told(
    animal: Animal, owner: Keeper, client: Client
) -> None:
    for days in (95, 64, 33):
        note(animal, owner, days, Event.Kind.LAID, eggs=2, good=2)
    note(animal, owner, 3, Event.Kind.CONDITION, score=2)
    page = client.get(reverse("keeping:animal", args=[animal.pk]))
    assert page.context["breeding"].next_laying == clock.today() - timedelta(days=2)
    said = " ".join(page.context["female"])
    assert "2 of 5" in said
    assert "calcium to phosphorus" in said


def test_meals_are_drawn_by_how_they_were_taken(animal: Animal, habitat: Habitat, owner: Keeper, client: Client) -> None:
    for days, outcome in ((70, "eaten"), (63, "eaten"), (56, "part"), (49, "refused"), (42, "refused")):
        at = clock.now() - timedelta(days=days)
        said = {"outcome": outcome, "products": [], "foods": []}
        Event.objects.create(room=habitat.room, habitat=habitat, animal=animal, kind=Event.Kind.FED, at=at, payload=said)
    drawn = client.get(reverse("keeping:animal", args=[animal.pk])).context["meals"]
    assert [mark["code"] for mark in drawn["marks"]] == ["eaten", "eaten", "part", "refused", "refused"]
    assert sum(row["offered"] for row in drawn["months"]) == 5
