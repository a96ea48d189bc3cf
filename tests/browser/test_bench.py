"""The plan as a keeper works it: dragging, keys, units, saving, coming back."""

import json
import re
from collections.abc import Callable
from datetime import date
from typing import Any

import pytest
from playwright.sync_api import APIResponse, Locator, Page, Route, expect

from tests.browser.keyboard import tab_to
from tests.browser.placing import extent, stands

Bench = Callable[..., Page]


def number(page: Page, key: str) -> Locator:
    return page.locator(f'[data-key="{key}"]')


def drag(page: Page, handle: Locator, dx: float, dy: float, steps: int = 8) -> None:
    expect(page.locator(".looking")).to_have_count(0)  # what mends the findings has been told: the page stands still
    place = stands(handle.locator(".grip"))
    x, y = place["x"] + place["width"] / 2, place["y"] + place["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + dx, y + dy, steps=steps)
    page.mouse.up()


def test_the_lamp_is_dragged_until_the_basking_band_turns_inside(bench: Bench) -> None:
    page = bench("Driftwood long box")
    band = page.locator("#band-basking_surface")
    expect(band).to_have_class(re.compile("dangerous"))
    handle = page.locator('#drawing [data-part="heaters.0"].handle')
    for _ in range(8):
        drag(page, handle, 0, -32)
        page.wait_for_timeout(250)
        expect(page.locator(".htmx-request")).to_have_count(0)  # a slow machine's answer is still on its way
        if "inside" in (band.get_attribute("class") or ""):
            break
    expect(band).to_have_class(re.compile("inside"))
    expect(page.locator(".saved")).not_to_have_text("saved, state 1")
    page.wait_for_timeout(600)  # on a busy machine the last answer is still on its way
    expect(page.locator(".htmx-request")).to_have_count(0)
    before = number(page, "basking_surface").inner_text(), number(page, "warm_air").inner_text()
    page.reload()
    assert (number(page, "basking_surface").inner_text(), number(page, "warm_air").inner_text()) == before
    expect(page.locator("#band-basking_surface")).to_have_class(re.compile("inside"))


def test_numbers_follow_while_the_hand_moves_and_only_letting_go_saves(bench: Bench) -> None:
    page = bench("Driftwood long box")
    first = number(page, "basking_surface").inner_text()
    grip = stands(page.locator('#drawing [data-part="heaters.0"].handle .grip'))
    page.mouse.move(grip["x"] + 10, grip["y"] + 10)
    page.mouse.down()
    page.mouse.move(grip["x"] + 10, grip["y"] - 40, steps=5)
    expect(number(page, "basking_surface")).not_to_have_text(first)
    expect(page.locator(".saved")).to_have_text("saved, state 1")
    page.mouse.up()
    expect(page.locator(".saved")).to_have_text("saved, state 2")
    page.get_by_role("button", name="Undo").click()
    expect(number(page, "basking_surface")).to_have_text(first)


def test_what_was_asked_for_a_state_before_changes_no_number(bench: Bench) -> None:
    """The findings of a dragged state come late, after it was undone: the page shows the state it is in."""
    page = bench("Driftwood long box")
    page.wait_for_load_state("networkidle")
    first = number(page, "basking_surface").inner_text()
    held: list[tuple[Route, APIResponse]] = []
    page.route("**/findings/**", lambda route: held.append((route, route.fetch())))
    grip = stands(page.locator('#drawing [data-part="heaters.0"].handle .grip'))
    page.mouse.move(grip["x"] + 10, grip["y"] + 10)
    page.mouse.down()
    page.mouse.move(grip["x"] + 10, grip["y"] - 40, steps=5)
    expect(number(page, "basking_surface")).not_to_have_text(first)
    page.mouse.up()
    expect(page.locator(".saved")).to_have_text("saved, state 2")
    wait_until(page, lambda: len(held) == 1)
    page.get_by_role("button", name="Undo").click()
    expect(page.locator(".saved")).to_have_text("saved, state 3")
    wait_until(page, lambda: len(held) == 2)
    for route, answer in reversed(held):
        route.fulfill(response=answer)
        page.wait_for_timeout(300)
        expect(number(page, "basking_surface")).to_have_text(first)
    page.unroute_all(behavior="ignoreErrors")


def wait_until(page: Page, true: Callable[[], bool]) -> None:
    for _turn in range(300):
        if true():
            return
        page.wait_for_timeout(50)
    raise AssertionError("it never came")


def test_from_above_a_lamp_is_dragged_to_the_back_and_the_section_follows(bench: Bench) -> None:
    page = bench("Driftwood long box")
    first = number(page, "basking_surface").inner_text()
    handle = page.locator('#floor [data-part="heaters.0"].handle')
    handle.scroll_into_view_if_needed()
    before = float(handle.get_attribute("data-h") or "0")
    drag(page, handle, 30, -60)
    expect(page.locator(".saved")).to_have_text("saved, state 2")
    expect(number(page, "basking_surface")).not_to_have_text(first)
    assert float(handle.get_attribute("data-h") or "0") > before + 0.02
    expect(page.locator('#drawing [data-part="heaters.0"].handle')).to_have_attribute(
        "data-x", handle.get_attribute("data-x") or ""
    )
    expect(page.locator('input[name="heaters.0.y_m"]')).not_to_have_value("")
    handle.focus()
    page.keyboard.press("Shift+ArrowDown")
    expect(page.locator(".saved")).to_have_text("saved, state 3")


@pytest.mark.sweep
@pytest.mark.parametrize("size", [(1280, 800), (390, 844)], ids=["desk", "phone"])
def test_nothing_moves_under_the_hand_while_findings_come_and_go(bench: Bench, size: tuple[int, int]) -> None:
    page = bench("Driftwood long box")
    page.set_viewport_size({"width": size[0], "height": size[1]})
    expect(page.locator(".looking")).to_have_count(0)
    handle = page.locator('#floor [data-part="heaters.0"].handle')
    handle.scroll_into_view_if_needed()
    grip = stands(handle.locator(".grip"))
    x, y = grip["x"] + grip["width"] / 2, grip["y"] + grip["height"] / 2
    more = iter([12, 0, 0, 0])

    def told(route: Route) -> None:
        if "near=yes" in (route.request.post_data or ""):  # findings come when the hand rests
            return route.continue_()
        answer = route.fetch()
        said = '<div class="finding"><p>one thing more</p></div>' * next(more)
        return route.fulfill(response=answer, body=re.sub(r'(<section id="findings"[^>]*>)', rf"\1{said}", answer.text()))

    page.route("**/preview/", told)
    page.mouse.move(x, y)
    page.mouse.down()
    places = [stands(page.locator("#floor"))]
    for step in (1, 2):
        page.mouse.move(x + 8 * step, y)
        expect(page.get_by_text("one thing more")).to_have_count(12 if step == 1 else 0)
        places.append(stands(page.locator("#floor")))
    page.mouse.up()
    first, *later = [place["y"] for place in places]
    assert later == [pytest.approx(first, abs=1)] * 2


# The fifth of a second that a hand rests ends when the test says so.
HELD_REST = """() => {
  const later = window.setTimeout.bind(window);
  window.setTimeout = (what, ms, ...more) => (ms === 200 ? ((window.comes = what), 0) : later(what, ms, ...more));
}"""


def test_the_day_and_the_other_drawing_come_when_the_hand_rests(bench: Bench) -> None:
    """On the way the numbers and the drawing in hand follow; the day's curves and the floor plan stand until the hand does."""
    page = bench("Driftwood long box")
    sent: list[str] = []
    page.on("request", lambda asked: sent.append(asked.post_data or "") if asked.url.endswith(("/preview/", "/move/")) else None)

    def drawn() -> list[str]:
        return [page.locator(where).inner_html() for where in ("#strip svg", "#floor-scene")]

    first, before = number(page, "basking_surface").inner_text(), drawn()
    page.evaluate(HELD_REST)
    grip = stands(page.locator('#drawing [data-part="heaters.0"].handle .grip'))
    page.mouse.move(grip["x"] + 10, grip["y"] + 10)
    page.mouse.down()
    page.mouse.move(grip["x"] + 60, grip["y"] - 30, steps=4)
    expect(number(page, "basking_surface")).not_to_have_text(first)
    assert drawn() == before
    pale = page.locator("#strip")
    expect(pale).to_have_css("opacity", "0.35")  # it is of the place before
    assert sent
    assert all("near=yes" in one for one in sent)
    page.evaluate("() => window.comes()")  # the hand has rested for its fifth of a second
    wait_until(page, lambda: all(now != then for now, then in zip(drawn(), before, strict=True)))
    expect(pale).to_have_css("opacity", "1")
    assert "near=yes" not in sent[-1]
    page.mouse.up()
    expect(page.locator(".saved")).to_have_text("saved, state 2")
    assert "shown=yes" in sent[-1]


def test_arrow_keys_move_by_a_centimetre_and_with_shift_by_five(bench: Bench) -> None:
    page = bench("Driftwood long box")
    height = page.get_by_label("Above the floor")
    expect(height).to_have_value("46")
    page.locator('#drawing [data-part="heaters.0"].handle').focus()
    page.keyboard.press("ArrowUp")
    expect(height).to_have_value("47")
    page.keyboard.press("Shift+ArrowUp")
    expect(height).to_have_value("52")
    page.keyboard.press("ArrowRight")
    expect(page.get_by_label("From the left")).to_have_value("31")
    expect(page.locator('#drawing [data-part="heaters.0"].handle')).to_be_focused()


def test_what_is_unfolded_stays_so_while_its_numbers_change(bench: Bench) -> None:
    page = bench("Driftwood long box")
    sure, basking, day = (page.locator(name) for name in ("#certainty", "#band-basking_surface", "#over-the-day"))
    for each in (sure, basking, day):
        each.locator("summary").first.click()
    before = basking.locator(".band-number").inner_text()
    page.locator('#drawing [data-part="heaters.0"].handle').focus()
    page.keyboard.press("Shift+ArrowDown")
    expect(page.get_by_label("Above the floor")).to_have_value("41")
    expect(basking.locator(".band-number")).not_to_have_text(before)
    for each in (sure, basking, day):
        expect(each).to_have_attribute("open", "")
    basking.locator("summary").click()
    page.keyboard.press("Escape")
    page.locator('#drawing [data-part="heaters.0"].handle').focus()
    page.keyboard.press("Shift+ArrowDown")
    expect(page.get_by_label("Above the floor")).to_have_value("36")
    expect(day).to_have_attribute("open", "")
    expect(basking).not_to_have_attribute("open", "")


def test_a_wrong_unit_is_caught_and_mended_with_one_press(bench: Bench) -> None:
    page = bench("Dune table")
    field = page.get_by_label("Set to").first
    field.fill("97")
    field.press("Enter")  # which leaves the field where it is, and its heater where it hangs
    expect(page.get_by_text("97 °F would be 36.1 °C: was that meant?")).to_be_visible()
    page.get_by_role("button", name="Use 97 °F").click()
    expect(page.get_by_label("Set to").first).to_have_value("36.11")
    expect(page.get_by_text("was that meant?")).to_have_count(0)


def test_a_dead_server_is_said_and_taken_back_when_it_answers(bench: Bench, outside: list[str]) -> None:
    page = bench("Driftwood long box")
    handle = page.locator('#drawing [data-part="heaters.0"].handle')
    expect(page.locator(".looking")).to_have_count(0)  # what does not come is what the hand asks for, and nothing else
    page.context.set_offline(True)
    handle.focus()
    page.keyboard.press("ArrowUp")
    expect(page.get_by_text("The server does not answer")).to_be_visible()
    page.context.set_offline(False)
    page.keyboard.press("ArrowUp")
    expect(page.locator(".saved")).to_have_text("saved, state 2")
    expect(page.locator("#trouble")).to_be_hidden()
    outside.clear()  # the browser's own words about being offline


def test_an_answer_that_never_comes_holds_nothing_up(bench: Bench, outside: list[str]) -> None:
    """On a wireless net an answer may be lost without a word: after a while what waits behind it is sent."""
    page = bench("Driftwood long box")
    expect(page.locator(".looking")).to_have_count(0)
    form = page.locator("#inputs")
    assert json.loads(form.get_attribute("hx-request") or "")["timeout"] <= 30_000
    form.evaluate("""(form) => {  // short for the answer that is lost, and as ever for what is sent after it
      const usual = form.getAttribute("hx-request");
      form.setAttribute("hx-request", '{"timeout": 800}');
      document.addEventListener("htmx:timeout", () => form.setAttribute("hx-request", usual), {once: true});
    }""")
    page.route("**/preview/", lambda route: None)
    page.locator('#drawing [data-part="heaters.0"].handle').focus()
    page.keyboard.press("ArrowUp")
    expect(page.locator(".saved")).to_have_text("saved, state 2")
    outside.clear()  # the browser's own words about what never came


def test_the_ground_rises_under_what_stands_on_it(bench: Bench) -> None:
    page = bench("Mudflat shelf", "step=ground&season=winter&phase=day")
    stone = page.locator('[id="handle-things.0"]')
    before = stone.get_attribute("data-h")
    page.locator("#handle-ground").focus()
    page.keyboard.press("Shift+ArrowUp")
    expect(page.get_by_role("textbox", name="Depth").first).to_have_value("12")
    expect(stone).not_to_have_attribute("data-h", before or "")


def test_a_finding_is_mended_by_its_button(bench: Bench) -> None:
    page = bench("Driftwood long box")
    for _press in range(6):
        if "dangerous" not in (page.locator("#band-basking_surface").get_attribute("class") or ""):
            break
        expect(page.locator("#findings .looking")).to_have_count(0)
        page.locator("#findings button.mend").first.click()
        page.wait_for_timeout(800)
    expect(page.locator("#band-basking_surface")).not_to_have_class(re.compile("dangerous"))


def test_layers_seasons_and_night(bench: Bench) -> None:
    page = bench("Mudflat shelf")
    dots = page.locator("#scene .dots")
    expect(dots).to_be_hidden()
    page.get_by_role("button", name="moisture").click()
    expect(dots).to_be_visible()
    page.get_by_role("button", name="warmth").click()
    expect(page.locator("#scene image")).to_be_hidden()
    day = number(page, "warm_air").inner_text()
    page.get_by_role("link", name="night").click()
    expect(page.get_by_text("A winter night")).to_be_visible()
    assert number(page, "warm_air").inner_text() != day
    page.get_by_role("link", name="summer").click()
    expect(page.get_by_text("A summer night")).to_be_visible()


def test_two_tabs_do_not_overwrite_each_other(bench: Bench, context: Any) -> None:
    page = bench("Dune table")
    second = context.new_page()
    second.goto(page.url)
    page.get_by_label("Power").first.fill("60")
    page.get_by_label("Power").first.press("Tab")
    expect(page.locator(".saved")).to_have_text("saved, state 2")
    second.get_by_label("Power").first.fill("90")
    second.get_by_label("Power").first.press("Tab")
    expect(second.get_by_text("Changed twice")).to_be_visible()
    second.get_by_role("link", name="Keep what stands now").click()
    expect(second.get_by_label("Power").first).to_have_value("60")


def test_a_plan_from_nothing_by_keyboard_alone(page: Page, live_server: Any, demo: str, outside: list[str]) -> None:
    page.goto(f"{live_server.url}/account/sign-in/")
    tab_to(page, page.get_by_label("Username"))
    page.keyboard.type("keeper")
    page.keyboard.press("Tab")
    page.keyboard.type(demo)
    page.keyboard.press("Enter")
    page.wait_for_url("**/habitats/")
    tab_to(page, page.get_by_role("link", name="New habitat").first)
    page.keyboard.press("Enter")
    expect(page.locator(".chooser")).to_be_visible()
    tab_to(page, page.get_by_label("Species"))
    page.keyboard.type("corn snaek")
    expect(page.locator(".autocomplete__option--focused")).to_have_text("corn snake")  # leaving the field takes it
    for label, text in (
        ("Animal's name", "Glasswort"),
        ("or its age", "4 years"),
        ("Weight", "1.1 lb"),
        ("Habitat's name", "Keyboard box"),
    ):
        tab_to(page, page.get_by_label(label, exact=False).first)
        page.keyboard.type(text)
    page.keyboard.press("Enter")
    page.wait_for_url(re.compile(r"/habitats/\d+/"))
    expect(page.get_by_role("heading", name="Keyboard box")).to_be_visible()
    tab_to(page, page.locator("#tape").get_by_role("link", name=re.compile("^Heat")))
    page.keyboard.press("Enter")
    page.wait_for_url("**step=heat**")
    surface = page.locator("#band-basking_surface")
    expect(surface).to_have_class(re.compile("inside"))
    handle = page.locator('#drawing [data-part="heaters.0"].handle')
    before = page.get_by_label("Above the floor").first.input_value()
    tab_to(page, handle)
    page.keyboard.press("ArrowDown")
    expect(page.get_by_label("Above the floor").first).not_to_have_value(before)
    tab_to(page, page.get_by_label("Power").first)
    page.keyboard.press("Control+a")
    page.keyboard.type("60")
    page.keyboard.press("Tab")
    expect(page.locator(".saved")).to_have_text("saved, state 3")
    page.reload()
    expect(page.get_by_label("Power").first).to_have_value("60")
    assert outside == []


@pytest.mark.sweep
@pytest.mark.parametrize("size", [(1280, 800), (390, 844)], ids=["desk", "phone"])
def test_the_drawing_stays_in_sight_at_every_step(bench: Bench, size: tuple[int, int]) -> None:
    page = bench("Dune table")
    page.set_viewport_size({"width": size[0], "height": size[1]})
    for step in ("animal", "room", "enclosure", "heat", "light", "moisture", "food"):
        page.goto(re.sub("step=[a-z]+", f"step={step}", page.url))
        expect(page.locator("#drawing")).to_be_in_viewport(ratio=0.95)
        assert extent(page)[0] <= size[0]
    page.mouse.wheel(0, 2000)
    page.wait_for_timeout(100)
    if size[0] < 900:
        expect(page.locator("#drawing")).to_be_in_viewport(ratio=0.95)


def test_a_date_typed_by_keyboard_is_saved_when_its_field_is_left(bench: Bench) -> None:
    """Digit by digit the year goes through 2, 20 and 202: none of them is ever kept."""
    from ridgeback.planner import mapping
    from ridgeback.rooms.models import Habitat

    def hatched() -> object:
        return mapping.plan_of(Habitat.objects.select_related("head").get(name="Driftwood long box")).animal.hatched

    page = bench("Driftwood long box", "step=animal&season=winter&phase=day")
    field = page.locator('input[name="animal.hatched"]')
    before = hatched()
    field.focus()
    field.press_sequentially("03032025", delay=40)
    page.wait_for_timeout(400)
    assert hatched() == before
    expect(page.locator(".saved")).to_have_text("saved, state 1")
    page.locator('input[name="animal.name"]').focus()
    expect(page.locator(".saved")).to_have_text("saved, state 2")
    assert hatched() == date(2025, 3, 3)


def test_what_is_offered_comes_when_it_was_tried_and_is_pressed(bench: Bench) -> None:
    page = bench("Driftwood long box")
    button = page.locator("#findings button.mend").first
    expect(button).to_be_visible()
    before = page.locator("#findings .finding").count()
    button.click()
    expect(page.locator(".saved")).to_have_text("saved, state 2")
    expect(page.locator("#findings .looking")).to_have_count(0)
    assert page.locator("#findings .finding").count() <= before
