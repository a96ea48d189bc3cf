"""The animal room's phone, tall enclosures, and what goes in and out as files."""

import json
import re
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from icalendar import Calendar
from playwright.sync_api import Browser, BrowserContext, Page, expect

from tests.browser.choosing import choose
from tests.browser.placing import extent, letters_in, stands
from tests.plans import document

Bench = Callable[..., Page]


@pytest.fixture
def phone(browser: Browser, live_server: Any, sign_in_to: Callable[[BrowserContext], None]) -> Iterator[Page]:
    """A small touch screen with the keeper signed in."""
    context = browser.new_context(viewport={"width": 390, "height": 844}, has_touch=True, is_mobile=True, locale="en-GB")
    page = context.new_page()
    sign_in_to(context)
    page.goto(f"{live_server.url}/habitats/")
    yield page
    context.close()


def touch_drag(page: Page, selector: str, dx: float, dy: float) -> None:
    """Drag with one finger, as the browser's own protocol reports it."""
    page.wait_for_load_state("load")  # the scripts listen
    expect(page.locator(".looking")).to_have_count(0)  # what mends the findings has been told: the page stands still
    box = stands(page.locator(f"{selector} .grip"))
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    session = page.context.new_cdp_session(page)

    def send(kind: str, at: float) -> None:
        points = [] if kind == "touchEnd" else [{"x": x + dx * at, "y": y + dy * at}]
        session.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})

    send("touchStart", 0.0)
    for step in range(1, 7):
        send("touchMove", step / 6)
    send("touchEnd", 1.0)


def test_a_finger_moves_the_lamp_and_not_the_page(phone: Page) -> None:
    phone.get_by_role("link", name="Driftwood long box", exact=True).tap()
    surface = phone.locator('[data-key="basking_surface"]')
    before = surface.inner_text()
    touch_drag(phone, '#drawing [data-part="heaters.0"].handle', 0, -30)
    expect(surface).not_to_have_text(before)
    expect(phone.locator(".saved")).to_have_text("saved, state 2")
    assert phone.evaluate("window.scrollY") == 0


def test_what_is_pressed_with_wet_hands_is_large_enough(phone: Page) -> None:
    """About 40 px high (common practice for touch, no source)."""
    phone.get_by_role("link", name="Driftwood long box", exact=True).tap()
    for locator in (
        phone.locator(".pair a"),
        phone.locator(".mend"),
        phone.locator(".band summary"),
        phone.locator("#inputs select"),
    ):
        for one in locator.all():
            box = one.bounding_box()
            if box is not None and box["height"] > 0:  # what lies folded has none
                assert box["height"] >= 38, one.inner_text()


def test_the_list_and_the_feeds_fit_the_phone(phone: Page) -> None:
    for path in ("/habitats/", phone.locator(".habitat-end a").first.get_attribute("href") or ""):
        phone.goto(re.sub(r"/habitats/.*", path, phone.url))
        assert extent(phone)[0] <= 390


def test_a_list_stands_where_it_stood_after_a_chore_and_a_part_are_written(phone: Page) -> None:
    """Nobody with wet hands finds the way back down a list of fifty turns, nor to the lamp that was taken away."""
    root = re.sub(r"/habitats/.*", "/", phone.url)
    phone.goto(root + "calendar/?view=day")
    done = phone.get_by_role("button", name=re.compile("^done "))
    done.nth(min(6, done.count() - 1)).scroll_into_view_if_needed()
    stood = phone.evaluate("window.scrollY")
    assert stood > 300
    done.nth(min(6, done.count() - 1)).click()
    expect(phone.get_by_role("button", name=re.compile("^take back"))).to_have_count(1)
    phone.wait_for_function("stood => Math.abs(window.scrollY - stood) < 60", arg=stood)
    phone.goto(root + "habitats/")
    phone.get_by_role("link", name="Driftwood long box", exact=True).tap()
    take = phone.get_by_role("button", name="take away").last
    take.scroll_into_view_if_needed()
    stood = phone.evaluate("window.scrollY")
    take.click()
    expect(phone.locator(".saved")).to_have_text("saved, state 2")
    assert phone.evaluate("window.scrollY") <= stood + 60


def test_long_tables_stand_stacked_on_a_phone_and_the_week_begins_at_today(phone: Page) -> None:
    """No figure of a table lies beyond the glass; what must be swiped (the week) is swiped to today already."""
    phone.get_by_role("link", name="Driftwood long box", exact=True).tap()
    phone.wait_for_url(re.compile(r"/habitats/\d+/"))
    habitat = re.sub(r"(/habitats/\d+/).*", r"\1", phone.url)
    root = re.sub(r"/habitats/.*", "/", habitat)
    phone.locator(".mend").first.click()
    expect(phone.locator(".saved")).to_have_text("saved, state 2")
    for address in (habitat + "chores/", habitat + "what-if/", habitat + "compare/", root + "pantry/"):
        phone.goto(address)
        phone.locator("table.stacked").first.wait_for()
        letters_in(phone)
        cells = phone.locator("table.stacked td:visible").evaluate_all(
            "cells => cells.map(cell => [cell.getBoundingClientRect().left, cell.getBoundingClientRect().right, cell.innerText])"
        )
        assert len(cells) > 3, address
        assert [cell for cell in cells if cell[0] < 0 or cell[1] > 390] == [], address
    phone.goto(root + "calendar/?view=week")
    today, first = stands(phone.locator("thead .today")), stands(phone.locator("thead th").first)
    assert first["x"] + first["width"] - 1 <= today["x"] <= 390 - today["width"] / 2


def test_a_tall_cage_stands_beside_its_day(page: Page, bench: Bench) -> None:
    bench("Mudflat shelf")
    page.get_by_role("link", name="New habitat").click()
    choose(page, "Species", "crested gecko")
    page.get_by_label("Habitat's name").fill("Kelp column")
    page.get_by_label("Weight").fill("42 g")
    page.get_by_role("button", name="Work out the first plan").click()
    page.wait_for_url(re.compile(r"/habitats/\d+/"))
    drawing, strip = stands(page.locator("#drawing")), stands(page.locator("#strip"))
    assert drawing["height"] > 1.3 * drawing["width"]
    assert strip["x"] >= drawing["x"] + drawing["width"]
    # Drawing and day stay in sight; under the day lies the floor plan, a glance further down.
    assert strip["y"] + strip["height"] <= 800
    assert drawing["y"] + drawing["height"] <= 800
    assert extent(page)[1] <= 1.4 * 800


def test_a_plan_goes_out_and_comes_back_as_a_file(page: Page, bench: Bench, tmp_path: Path) -> None:
    bench("Dune table")
    page.get_by_text("Share", exact=True).click()
    with page.expect_download() as coming:
        page.get_by_role("link", name="Plan as JSON").click()
    kept = tmp_path / coming.value.suggested_filename
    coming.value.save_as(kept)
    assert json.loads(kept.read_text())["name"] == "Dune table"
    page.goto(re.sub(r"/habitats/.*", "/habitats/import/", page.url))
    page.get_by_label("File").set_input_files(kept)
    page.get_by_role("button", name="Import").click()
    expect(page.get_by_role("heading", name="Dune table")).to_be_visible()
    expect(page.locator(".saved")).to_have_text("saved, state 1")


def test_a_faulty_file_is_answered_by_field_and_kept_in_the_form(page: Page, bench: Bench) -> None:
    bench("Dune table")
    page.goto(re.sub(r"/habitats/.*", "/habitats/import/", page.url))
    page.get_by_label("or paste it here").fill(json.dumps(document(room__winter__day_c=72)))
    page.get_by_role("button", name="Import").click()
    expect(page.get_by_text("room.winter.day_c")).to_be_visible()
    expect(page.get_by_text("72 °F would be 22.2 °C")).to_be_visible()
    expect(page.get_by_label("or paste it here")).to_have_value(re.compile("Test shelf"))


def test_the_feeds_leave_as_a_calendar_file(page: Page, bench: Bench, tmp_path: Path) -> None:
    bench("Mudflat shelf", "step=food")
    page.get_by_role("link", name="Each feed and why").click()
    with page.expect_download() as coming:
        page.get_by_role("link", name="Calendar file").click()
    kept = tmp_path / "feeding.ics"
    coming.value.save_as(kept)
    events = Calendar.from_ical(kept.read_bytes()).walk("VEVENT")
    coming_meals = page.locator(".beat.planned, .beat.due, .beat.late")
    assert len(events) == coming_meals.count()


def test_the_reason_opens_with_a_key(page: Page, bench: Bench) -> None:
    bench("Driftwood long box")
    band = page.locator("#band-basking_surface summary")
    band.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_text("W/m² from the lamps")).to_be_visible()
    expect(page.locator("#band-basking_surface").get_by_text("Common practice, no source")).to_be_visible()
    page.keyboard.press("Enter")
    expect(page.get_by_text("W/m² from the lamps")).to_be_hidden()


def test_the_page_stands_without_scripts(browser: Browser, live_server: object, demo: str) -> None:
    context = browser.new_context(java_script_enabled=False, locale="en-GB")
    page = context.new_page()
    page.goto(f"{live_server.url}/account/sign-in/")  # type: ignore[attr-defined]
    page.get_by_label("Username").fill("keeper")
    page.get_by_label("Password").fill(demo)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("link", name="Driftwood long box", exact=True).click()
    page.get_by_label("Power").fill("35")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_label("Power")).to_have_value("35")
    page.get_by_role("link", name="Show the changes that would mend this").click()
    page.locator("#findings button.mend").first.click()
    expect(page.locator(".saved")).to_have_text("saved, state 3")
    context.close()
