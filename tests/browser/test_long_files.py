"""A file too long for one request, sent by a browser in parts."""

import json
from collections.abc import Callable

import pytest
from django.urls import reverse
from playwright.sync_api import Page, Route, expect

from ridgeback.daybook.models import Event
from ridgeback.keeping import tasks
from ridgeback.keeping.models import DaybookFile
from ridgeback.rooms.models import Room
from ridgeback.uploads.models import Part, Upload

NOTES = 1400


@pytest.fixture
def long_daybook() -> bytes:
    """Some 10 MB, most of them the blanks of a file that is easy to read: what takes time is the sending."""
    entries = [
        {"key": place, "kind": "note", "at": "2026-03-01T09:00:00+00:00", "payload": {"note": f"{place} " + "quiet " * 300}}
        for place in range(1, NOTES + 1)
    ]
    return json.dumps({"format": "ridgeback-daybook/1", "animals": [], "entries": entries}, indent=230).encode()


def test_a_long_daybook_is_sent_in_parts_goes_on_after_a_break_and_is_taken_in(
    page: Page, live_server: object, sign_in: Callable[[], None], long_daybook: bytes
) -> None:
    sign_in()
    room = Room.objects.get(name="Saltmarsh Lane Learning Room")
    page.goto(f"{live_server.url}{reverse('keeping:bring-in', args=[room.pk])}")  # type: ignore[attr-defined]
    parts: list[str] = []

    def broken(route: Route) -> None:
        parts.append(route.request.method)
        if len(parts) == 2:
            route.abort("connectionreset")
        elif len(parts) == 4:
            route.fulfill(status=403)
        else:
            route.continue_()

    page.route("**/uploads/*/", broken)
    page.get_by_label("File").set_input_files({"name": "years.json", "mimeType": "application/json", "buffer": long_daybook})
    page.get_by_role("button", name="Bring it in").click()
    # The second part broke off and was sent again by itself; then the server refused: the keeper is told, and presses again.
    expect(page.get_by_role("status").filter(has_text="The server did not take this file")).to_be_visible()
    assert Part.objects.count() == 1
    page.unroute("**/uploads/*/")
    page.get_by_role("button", name="Bring it in").click()
    page.wait_for_url("**/daybook/files/*/")
    expect(page.locator("#progress")).to_contain_text("You may leave this page")
    assert Upload.objects.get().received == len(long_daybook)
    tasks.take_file(DaybookFile.objects.get().pk)
    expect(page.locator("#progress")).to_contain_text(f"0 animals and {NOTES} entries are new.")
    assert Event.objects.filter(room=room, kind="note", payload__note__startswith=f"{NOTES} ").count() == 1
    assert not Part.objects.exists()
