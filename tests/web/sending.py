"""Sending a file to its importer, as the pages do."""

from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.urls import reverse

from ridgeback import clock
from ridgeback.keeping import tasks
from ridgeback.keeping.models import DaybookFile
from ridgeback.rooms.models import Habitat, Room
from ridgeback.series import tasks as series_tasks
from ridgeback.series.models import Channel, TableFile
from tests.anyfile import AnyFile


def send(client: Client, habitat: Habitat, item: AnyFile) -> Any:
    """Send one file; the answer is a page or a redirect, never a broken one."""
    raw = item.text.encode(errors="surrogatepass")
    upload = {"file": SimpleUploadedFile("any.txt", raw)}
    if item.to == "plan":
        return client.post(reverse("rooms:import"), {"room": habitat.room_id} | upload)
    if item.to == "profile":
        return client.post(reverse("book:take-in"), {"room": habitat.room_id} | upload)
    if item.to == "pantry":
        return client.post(reverse("pantry:bring-in", args=[habitat.room_id]), upload)
    if item.to == "daybook":
        answer = client.post(reverse("keeping:bring-in", args=[habitat.room_id]), upload)
        if raw:
            made = DaybookFile.objects.latest("pk")
            tasks.take_file(made.pk)
            made.refresh_from_db()
            assert made.state != "waits"
            assert "went wrong" not in made.outcome.get("failed", ""), item.text[:300]
        return answer
    if item.to == "readings":
        return _readings(client, habitat, upload)
    posted = {"version": habitat.version, "rig": raw.decode(errors="replace")}
    return client.post(reverse("planner:take-rig", args=[habitat.pk]), posted)


def _readings(client: Client, habitat: Habitat, upload: dict[str, Any]) -> Any:
    """Bring a logger's file, say of its first column of values that it is a warm end's, and let the worker take it in."""
    about = {"room": habitat.room, "habitat": habitat, "place": "warm-air", "code": "warm"}
    channel, _made = Channel.objects.get_or_create(**about, defaults={"made_at": clock.now()})
    answer = client.post(reverse("metering:bring-file", args=[habitat.room_id]), upload)
    if answer.status_code != 302:
        return answer
    made = TableFile.objects.latest("pk")
    page = client.get(answer["Location"])
    assert page.status_code == 200, made.name
    for at, one in enumerate(page.context.get("columns") or ()):
        if one["column"].kind == "value":
            said = {f"column-{at}": str(channel.pk), "zone": "Europe/Berlin", "order": "dm"}
            answer = client.post(answer["Location"], said)
            break
    series_tasks.take_file(made.pk)
    made.refresh_from_db()
    assert made.outcome.get("failed") != "went_wrong"
    return answer


def bring(client: Client, room: Room, raw: bytes, name: str = "daybook.csv") -> DaybookFile:
    """Bring a daybook into a room as its page does, and let the worker take it in."""
    answer = client.post(reverse("keeping:bring-in", args=[room.pk]), {"file": SimpleUploadedFile(name, raw)})
    assert answer.status_code == 302
    made = DaybookFile.objects.filter(room=room).latest("pk")
    assert answer["Location"] == reverse("keeping:daybook-file", args=[made.pk])
    tasks.take_file(made.pk)
    made.refresh_from_db()
    return made
