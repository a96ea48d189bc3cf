"""Sending a file to its importer, as the pages do."""

from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.urls import reverse

from ridgeback.keeping import tasks
from ridgeback.keeping.models import DaybookFile
from ridgeback.rooms.models import Habitat, Room
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
    posted = {"version": habitat.version, "rig": raw.decode(errors="replace")}
    return client.post(reverse("planner:take-rig", args=[habitat.pk]), posted)


def bring(client: Client, room: Room, raw: bytes, name: str = "daybook.csv") -> DaybookFile:
    """Bring a daybook into a room as its page does, and let the worker take it in."""
    answer = client.post(reverse("keeping:bring-in", args=[room.pk]), {"file": SimpleUploadedFile(name, raw)})
    assert answer.status_code == 302
    made = DaybookFile.objects.filter(room=room).latest("pk")
    assert answer["Location"] == reverse("keeping:daybook-file", args=[made.pk])
    tasks.take_file(made.pk)
    made.refresh_from_db()
    return made
