"""Sending a file to its importer, as the pages do."""

from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.urls import reverse

from ridgeback.rooms.models import Habitat
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
    posted = {"version": habitat.version, "rig": raw.decode(errors="replace")}
    return client.post(reverse("planner:take-rig", args=[habitat.pk]), posted)
