"""Charts under the hand: dragged over to look closer."""

from datetime import datetime, timedelta
from urllib.parse import parse_qs, urlsplit

import pytest
from playwright.sync_api import Page, expect

from ridgeback import clock
from ridgeback.rooms.models import Habitat
from ridgeback.series import intake
from ridgeback.series.intake import Given
from ridgeback.series.models import Channel
from tests.browser.placing import stands


@pytest.fixture
def channel(demo: str) -> Channel:
    habitat, now = Habitat.objects.get(name="Dune table"), clock.now().replace(second=0, microsecond=0)
    one = Channel.objects.create(room=habitat.room, habitat=habitat, place="warm-air", code="warm", made_at=now)
    given = [Given(one.pk, now - timedelta(minutes=10 * turn), 25.0 + turn % 6) for turn in range(300)]
    intake.take({one.pk: one}, given, now)
    return one


def test_a_chart_is_dragged_over_to_look_closer_and_back_leads_back(signed_in: Page, live_server: object, channel: Channel) -> None:
    page = signed_in
    page.goto(f"{live_server.url}/channels/{channel.pk}/?span=day")  # type: ignore[attr-defined]
    chart = page.locator("svg[data-since]")
    box = stands(chart)
    middle = box["y"] + box["height"] / 2
    page.mouse.move(box["x"] + 0.4 * box["width"], middle)
    page.mouse.down()
    page.mouse.move(box["x"] + 0.6 * box["width"], middle, steps=4)
    page.mouse.up()
    page.wait_for_url("**from=*")
    asked = parse_qs(urlsplit(page.url).query)
    hours = (datetime.fromisoformat(asked["to"][0]) - datetime.fromisoformat(asked["from"][0])).total_seconds() / 3600
    assert 4.0 < hours < 6.5  # a fifth of the drawing, without its margins
    expect(page.locator("svg[data-since] .line")).to_have_count(1)
    page.go_back()
    page.wait_for_url("**span=day")


def test_a_page_with_charts_says_the_same_in_a_table(signed_in: Page, live_server: object, channel: Channel) -> None:
    page = signed_in
    page.goto(f"{live_server.url}/habitats/{channel.habitat_id}/charts/?span=day")  # type: ignore[attr-defined]
    page.locator("summary", has_text="The same as a table").first.click()
    expect(page.locator(".series table tbody tr").first).to_be_visible()


def test_a_phone_shows_all_that_is_asked_of_a_file(signed_in: Page, live_server: object, channel: Channel) -> None:
    page = signed_in
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"{live_server.url}/rooms/{channel.room_id}/readings/file/")  # type: ignore[attr-defined]
    table = "Time,Basking side,Cool RH\n2026-11-28 00:00,30.1,55\n2026-11-28 00:10,30.2,56\n"
    page.set_input_files("[name=file]", {"name": "shed.csv", "mimeType": "text/csv", "buffer": table.encode()})
    page.get_by_role("button", name="Bring it in").click()
    expect(page.get_by_role("heading", name="shed.csv")).to_be_visible()
    for shown in [*page.locator("main select").all(), *page.locator("main td", has_text="30.1").all()]:
        box = stands(shown)
        assert box["x"] >= 0
        assert box["x"] + box["width"] <= 390


def test_a_phone_shows_every_field_of_an_instrument(signed_in: Page, live_server: object, demo: str) -> None:
    page = signed_in
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"{live_server.url}/instruments/")  # type: ignore[attr-defined]
    fields = page.locator("table .price, table button").all()
    assert fields
    for shown in fields:
        box = stands(shown)
        assert box["x"] + box["width"] <= 390
