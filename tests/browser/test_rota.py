"""The rota under the hand: dragging a turn, the reason of a meal, a bowl that adds up while it is mixed, a round on the phone."""

import re
from typing import Any

from playwright.sync_api import Page, expect

from ridgeback.daybook.models import Event
from ridgeback.rooms.models import Habitat


def test_a_feed_dragged_to_another_day_says_what_it_does_and_is_moved(signed_in: Page, live_server: Any) -> None:
    page = signed_in
    page.goto(f"{live_server.url}/calendar/?view=week")
    on = page.locator("a[aria-label='Later']").get_attribute("href")
    page.goto(f"{live_server.url}{on}")  # a week with nothing behind it
    row = page.locator("tr", has=page.get_by_role("link", name="Mudflat shelf"))
    chip = row.locator("a.chip.meal").first
    planned = chip.get_attribute("data-planned")
    target = row.locator(f"td:not(:has(a.chip.meal)):not([data-day='{planned}'])").last
    to = target.get_attribute("data-day")
    chip.drag_to(target)
    slip = page.locator("#moving .move-slip")
    expect(slip).to_contain_text("Feed, Samphire")
    assert slip.locator("li").count() or "no harm" in slip.inner_text()
    slip.get_by_role("button", name="Move it").click()
    expect(page.get_by_role("status")).to_contain_text("moved to")
    moved = Event.objects.get(kind=Event.Kind.MOVED)
    assert (moved.payload["planned"], moved.payload["to"]) == (planned, to)
    there = page.locator("tr", has=page.get_by_role("link", name="Mudflat shelf")).locator(f"td[data-day='{to}'] a.chip.meal")
    expect(there).to_have_count(1)


def test_each_meal_opens_its_reason_by_keyboard(signed_in: Page, live_server: Any) -> None:
    page = signed_in
    page.goto(f"{live_server.url}/habitats/{Habitat.objects.get(name='Mudflat shelf').pk}/feeding/")
    beat = page.locator("details.beat.planned").first
    beat.locator("summary").focus()
    page.keyboard.press("Enter")
    expect(beat.locator(".why")).to_contain_text("Every 3 days")
    expect(beat.locator(".why")).to_contain_text("plain calcium")
    over = page.evaluate(
        """(why) => { const box = why.getBoundingClientRect();
            return document.elementFromPoint(box.x + box.width / 2, box.bottom - 6).closest('.why') === why }""",
        beat.locator(".why").element_handle(),
    )
    assert over  # nothing of the next row lies over it


def test_the_bowl_adds_up_while_grams_are_typed(signed_in: Page, live_server: Any) -> None:
    page = signed_in
    page.goto(f"{live_server.url}/habitats/{Habitat.objects.get(name='Dune table').pk}/salad/")
    before = page.locator("#salad-sums .bowl-ratio b").inner_text()
    page.get_by_label("lamb's lettuce, g").fill("300")
    expect(page.locator("#salad-sums .total")).to_contain_text(re.compile(r"^3\d\d"))
    expect(page.locator("#salad-sums")).to_contain_text("far more than one feed")
    expect(page.locator("#salad-sums .bowl-ratio b")).not_to_have_text(before)
    expect(page.locator("#salad-sums")).to_contain_text("mg of plain calcium")


def test_a_round_on_the_phone_is_done_with_a_thumb(signed_in: Page, live_server: Any) -> None:
    page = signed_in
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"{live_server.url}/calendar/")
    heights = page.locator(".due-end .btn").evaluate_all("all => all.map((one) => one.getBoundingClientRect().height)")
    assert min(heights) >= 38
    round_of_water = page.locator("section.round", has_text="Fresh water")
    round_of_water.get_by_role("button", name="all 3 done").click()
    expect(page.locator("section.round", has_text="Fresh water").locator(".state-word").first).to_have_text("done")
    meal = page.locator("li.due-row", has_text="Thrift").filter(has=page.locator(".outcomes"))
    meal.get_by_role("button", name="eaten Thrift").click()
    expect(page.locator("li.due-row.eaten", has_text="Thrift")).to_have_count(1)
    page.locator("li.due-row.eaten", has_text="Thrift").get_by_role("button", name="take back").click()
    expect(page.locator("li.due-row.eaten")).to_have_count(0)
