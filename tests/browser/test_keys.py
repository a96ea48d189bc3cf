"""Finding and help by keys: opened, walked through, closed; words of the page told; switched off; never while one types."""

import re
from collections.abc import Callable
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from tests.browser.choosing import searchable
from tests.browser.test_accessible import AXE, faults


@pytest.fixture
def at(page: Page, live_server: Any, sign_in: Callable[[], None], outside: list[str]) -> Callable[[str], Page]:
    def go(path: str) -> Page:
        sign_in()
        page.goto(live_server.url + path)
        return page

    return go


def test_anything_is_found_by_keys_alone(at: Callable[[str], Page], outside: list[str]) -> None:
    page = at("/habitats/")
    page.keyboard.press("/")
    page.keyboard.type("driftwod")
    first = page.locator("#find-hits a").first
    expect(first).to_contain_text("Driftwood long box")
    page.evaluate(AXE)
    assert faults(page) == []
    page.keyboard.press("ArrowDown")
    expect(first).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Driftwood long box")
    assert outside == []


def test_keys_go_places_and_not_while_one_types(at: Callable[[str], Page]) -> None:
    page = at("/habitats/")
    page.keyboard.press("g")
    page.keyboard.press("p")
    page.wait_for_url("**/pantry/")
    page.goto(page.url.replace("/pantry/", "/habitats/new/"))
    page.locator("#id_animal_name").fill("")
    page.locator("#id_animal_name").press_sequentially("g p / ? n")
    expect(page.locator("#id_animal_name")).to_have_value("g p / ? n")
    expect(page.locator("dialog[open]")).to_have_count(0)


def test_help_tells_of_the_words_and_marks_that_stand_there(at: Callable[[str], Page], outside: list[str]) -> None:
    page = at("/habitats/")
    page.get_by_role("link", name="Dune table", exact=True).first.click()
    page.wait_for_url("**/habitats/*/**")
    expect(page.locator("#drawing")).to_be_visible()
    page.keyboard.press("?")
    help_ = page.locator("#help")
    expect(help_).to_contain_text("How a plan is read")
    expect(help_.locator("dt", has_text=re.compile("^warm end$"))).to_be_visible()
    expect(help_.locator("dt", has_text=re.compile("^gravid$"))).to_be_hidden()
    expect(help_.locator('[data-mark="v-inside"]')).to_be_visible()
    expect(help_.locator('[data-mark="beat-refused"]')).to_be_hidden()
    page.evaluate(AXE)
    assert faults(page) == []
    # A word on the page is pressed: its meaning comes to the top, and nothing else happens.
    before = page.url
    page.locator(".band-name", has_text="Warm-end air").first.click(position={"x": 8, "y": 8})
    expect(help_.locator(".words > div").first).to_contain_text("warm end")
    assert page.url == before
    page.keyboard.press("Escape")
    expect(help_).to_be_hidden()
    assert outside == []


def test_single_keys_can_be_switched_off(at: Callable[[str], Page]) -> None:
    page = at("/habitats/")
    page.keyboard.press("?")
    page.get_by_label("Single keys do something").uncheck()
    page.keyboard.press("Escape")
    page.locator("h1").click()
    page.keyboard.press("/")
    page.keyboard.press("?")
    expect(page.locator("dialog[open]")).to_have_count(0)
    page.reload()
    page.get_by_role("link", name=re.compile("^Help")).click()  # the panel itself is still there
    expect(page.get_by_label("Single keys do something")).not_to_be_checked()


def test_a_long_list_is_typed_in_and_changes_nothing_by_being_left(at: Callable[[str], Page], outside: list[str]) -> None:
    page = at("/habitats/new/")
    field = searchable(page, "Species")
    field.press_sequentially("kalifornia kingsnake", delay=10)
    expect(page.locator(".autocomplete__option").first).to_have_text("California king snake")
    page.keyboard.press("Tab")
    expect(page.locator("#id_species")).to_have_value("california-king-snake")
    expect(page.locator("#new-answer")).to_contain_text("Lampropeltis")
    expect(page.locator("#new-answer svg.likeness")).to_be_visible()
    field.click()  # opened, looked at, left: it stays
    page.keyboard.press("Tab")
    expect(field).to_have_value("California king snake")
    expect(page.locator("#id_species")).to_have_value("california-king-snake")
    field.fill("zzzzqqq")  # nothing is called like that: what was chosen stays
    expect(page.locator(".autocomplete__option").first).to_have_text("Nothing is called like that.")
    page.keyboard.press("Tab")
    expect(field).to_have_value("California king snake")
    page.evaluate(AXE)
    assert faults(page) == []
    assert outside == []


def test_a_choice_in_the_plan_is_saved_as_before(bench: Callable[..., Page]) -> None:
    page = bench("Mudflat shelf", "step=heat")
    field = page.locator(".chooser input").first
    name = field.get_attribute("id")
    field.fill("radiant")
    expect(page.locator(".autocomplete__option--focused")).to_have_text("radiant panel")
    page.keyboard.press("Enter")
    expect(page.locator(".saved")).to_have_text(re.compile("state 2"))
    expect(page.locator(f"#{name}")).to_have_value("radiant panel")


def test_an_example_is_filled_in_by_one_press_and_planned_by_the_next(at: Callable[[str], Page], outside: list[str]) -> None:
    page = at("/habitats/new/")
    expect(page.locator(".chooser")).to_be_visible()
    page.get_by_role("button", name="red-eyed tree frog").click()
    expect(searchable(page, "Species")).to_have_value("red-eyed tree frog")
    expect(page.locator("#new-answer")).to_contain_text("decided by its")
    page.keyboard.press("Enter")  # the button to go on is where the hand is
    page.wait_for_url(re.compile(r"/habitats/\d+/"))
    expect(page.get_by_role("heading", name="Reed corner")).to_be_visible()
    assert outside == []
