"""The day played in the section, a place read with the pointer, a rig searched and taken."""

import re
from collections.abc import Callable

from playwright.sync_api import Page, expect

from tests.browser.placing import stands

Bench = Callable[[str], Page]


def test_the_day_is_played_and_read_under_the_pointer(bench: Bench) -> None:
    page = bench("Mudflat shelf")
    spot = page.locator("#label-spot tspan").first
    evening = spot.text_content() or ""
    page.locator("#clock").focus()
    for _ in range(3):
        page.keyboard.press("ArrowLeft")
    expect(page.locator("#clock-said")).to_have_text(re.compile(r"^\d\d:\d\d$"))
    page.locator("#clock").fill("13")
    expect(page.locator("#clock-said")).to_have_text("07:00")
    expect(spot).not_to_have_text(evening)
    box = stands(page.locator("#drawing"))
    page.mouse.move(box["x"] + box["width"] * 0.6, box["y"] + box["height"] * 0.5)
    expect(page.locator("#pointer")).to_have_text(re.compile(r"air -?\d+\.\d °C · \d+ % · UVI 0\.0"))
    page.mouse.move(box["x"] + box["width"] * 0.6, box["y"] + box["height"] * 0.88)
    expect(page.locator("#pointer")).to_have_text(re.compile(r"ground -?\d+\.\d °C"))
    page.get_by_role("button", name="play the day").click()
    expect(page.locator("#clock-said")).not_to_have_text("07:00")
    page.get_by_role("button", name="pause").click()


def test_a_rig_is_searched_with_its_progress_and_taken(bench: Bench) -> None:
    page = bench("Driftwood long box")
    page.get_by_text("Work out", exact=True).click()
    page.get_by_role("link", name="Suggest a rig").click()
    page.get_by_role("button", name="Search").click()
    first = page.locator(".rig").first
    expect(first).to_be_visible(timeout=20_000)
    expect(first).to_contain_text("thermostat at")
    first.get_by_role("button", name="Plan with this rig").click()
    expect(page.locator(".saved")).to_have_text(re.compile("saved, state"))
