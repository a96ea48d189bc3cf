"""The book in the hand: one key for every basis, search while one types, an own profile checked at every field."""

import re
from collections.abc import Callable
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from tests.browser.choosing import choose, searchable


@pytest.fixture
def book(page: Page, live_server: Any, sign_in: Callable[[], None]) -> str:
    sign_in()
    return f"{live_server.url}/species/"


def test_one_key_opens_and_closes_where_every_number_comes_from(page: Page, book: str, outside: list[str]) -> None:
    page.goto(f"{book}leopard-gecko/")
    basis = page.get_by_text("From memory").first
    expect(basis).to_be_hidden()
    page.keyboard.press("b")
    expect(basis).to_be_visible()
    expect(page.locator(".stage-column .basis").first).to_be_visible()
    page.keyboard.press("b")
    expect(basis).to_be_hidden()
    page.get_by_role("button", name=re.compile("Where every number")).click()
    expect(basis).to_be_visible()
    assert outside == []


def test_the_shelf_narrows_while_one_types_and_says_what_it_does_not_have(page: Page, book: str) -> None:
    page.goto(book)
    page.get_by_label("Any of its names").press_sequentially("leapord", delay=15)
    expect(page).to_have_url(re.compile("q=leapord$|q=leapord&"))  # what is shown answers the whole word
    expect(page.get_by_role("link", name="leopard gecko")).to_be_visible()
    expect(page.get_by_role("link", name="corn snake")).to_be_hidden()
    page.get_by_label("Any of its names").fill("Varanus komodoensis")
    expect(page.get_by_role("alert")).to_contain_text("no Varanus komodoensis")
    expect(page).to_have_url(re.compile("q=Varanus"))


def test_an_own_profile_is_checked_at_the_field_and_saved_with_its_reason(page: Page, book: str, outside: list[str]) -> None:
    page.goto(f"{book}corn-snake/")
    page.get_by_role("button", name="Make it mine").click()
    page.get_by_role("link", name="Adult", exact=True).click()
    page.wait_for_load_state("load")  # nobody types before the page's scripts are there
    row = page.locator("tr", has=page.get_by_role("rowheader", name="Night", exact=True))
    row.get_by_label("from").fill("88F")
    row.get_by_label("to").fill("90F")
    row.get_by_label("to").press("Tab")
    expect(page.get_by_text("The night is warmer than the cool end by day.")).to_be_visible()
    row.get_by_label("from").fill("59 F")
    row.get_by_label("to").fill("24")
    row.get_by_label("Night: your reason").fill("a cold house")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_text("Saved.")).to_be_visible()
    expect(row.get_by_label("from")).to_have_value("15")
    expect(row).to_contain_text("Your own (a cold house)")
    assert outside == []


def test_choosing_another_species_redraws_both_sides(page: Page, book: str) -> None:
    page.goto(f"{book}compare/?a=corn-snake&b=royal-python")
    choose(page, "Species", "axolotl", nth=1)
    expect(page.get_by_role("columnheader", name="Axolotl, adult")).to_be_visible()
    page.get_by_label("Stage").nth(1).select_option("larva")
    expect(page.get_by_role("columnheader", name="Axolotl, larva")).to_be_visible()
    expect(page.get_by_role("columnheader", name="Corn snake, adult")).to_be_visible()


def test_a_new_habitat_finds_its_species_and_answers_while_one_types(
    page: Page, live_server: Any, book: str, outside: list[str]
) -> None:
    page.goto(f"{live_server.url}/habitats/new/")
    searchable(page, "Species").press_sequentially("uromastix", delay=15)
    expect(page.locator(".autocomplete__option").first).to_have_text("Saharan uromastyx")
    page.keyboard.press("Enter")
    beside = page.locator("#new-answer")
    expect(beside.get_by_role("heading", name="Saharan uromastyx")).to_be_visible()
    expect(page.locator("#id_species")).to_have_value("uromastyx")
    page.get_by_label("or its age").press_sequentially("2 years", delay=15)
    expect(beside).to_contain_text("juvenile, decided by its age")
    page.get_by_label("An enclosure I have").fill("60 x 30 x 30")
    expect(beside).to_contain_text("yours is too small for it")
    page.get_by_label("Habitat's name").fill("Pebble shore")
    page.get_by_label("An enclosure I have").fill("180 x 90 x 75")
    page.get_by_role("button", name="Work out the first plan").dblclick()
    expect(page).to_have_url(re.compile(r"/habitats/\d+/"), timeout=30_000)  # the second press breaks off the first's way there
    page.go_back()
    expect(page.get_by_text("Working out the first plan")).to_be_hidden()
    page.goto(f"{live_server.url}/habitats/")
    expect(page.get_by_role("link", name="Pebble shore", exact=True)).to_have_count(1)
    assert outside == []


def test_back_from_a_plan_made_at_the_second_try_shows_the_form_and_makes_no_second(
    page: Page, live_server: Any, book: str, outside: list[str]
) -> None:
    """A weight that can mean two things is asked about first; the page that asked is no dead end for the browser's Back."""
    page.goto(f"{live_server.url}/habitats/new/")
    choose(page, "Species", "corn snake")
    expect(page.locator("#new-answer").get_by_role("heading", name="Corn snake")).to_be_visible()
    page.get_by_label("Habitat's name").fill("Backwash")
    page.get_by_label("Weight").fill("1,150")
    page.get_by_role("button", name="Work out the first plan").click()
    expect(page.get_by_text("can mean")).to_be_visible()
    page.get_by_label("Weight").fill("1150 g")
    page.get_by_role("button", name="Work out the first plan").click()
    page.wait_for_url(re.compile(r"/habitats/\d+/"))
    page.go_back()
    expect(page).to_have_url(f"{live_server.url}/habitats/new/")
    expect(page.get_by_role("button", name="Work out the first plan")).to_be_visible()
    page.goto(f"{live_server.url}/habitats/")
    expect(page.get_by_role("link", name="Backwash", exact=True)).to_have_count(1)
    assert outside == []
