"""What stands there, told by a visitor: presses on a drawing that grows, a photo under it, the proposed layout beside it."""

import struct
import zlib
from collections.abc import Callable
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from tests.browser.choosing import choose
from tests.browser.placing import extent, stands
from tests.browser.test_accessible import AXE, faults


@pytest.fixture
def review(page: Page, live_server: Any, transactional_db: None, outside: list[str]) -> Callable[[], Page]:
    """The review's page for somebody without an account."""

    def opened() -> Page:
        page.goto(f"{live_server.url}/review/")
        return page

    return opened


def picture(width: int, height: int) -> bytes:
    """A grey PNG."""
    raw = b"".join(b"\0" + b"\x88" * width for _row in range(height))

    def chunk(name: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))

    head = struct.pack(">IIBBBBB", width, height, 8, 0, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(raw)) + chunk(b"IEND", b"")


def press(page: Page, name: str, along: float, back: float) -> None:
    """Choose a thing on the palette and press on the floor, at shares of the drawing from the left and from the top."""
    marks = page.locator("#told-floor .told-mark").count()
    page.get_by_role("button", name=name, exact=True).click()
    box = stands(page.locator("#told-floor"))
    page.mouse.click(box["x"] + along * box["width"], box["y"] + back * box["height"])
    expect(page.locator("#told-floor .told-mark")).to_have_count(marks + 1)


@pytest.mark.sweep
@pytest.mark.parametrize("size", [(1280, 800), (390, 844)], ids=["desk", "phone"])
def test_a_visitor_tells_a_set_up_by_presses_and_has_it_looked_at(
    review: Callable[[], Page], outside: list[str], size: tuple[int, int]
) -> None:
    page = review()
    page.set_viewport_size({"width": size[0], "height": size[1]})
    choose(page, "species", "corn snake")
    page.get_by_label("box, inside").fill("4 x 2 x 2 ft")
    page.get_by_label("room by day").fill("70 F")
    page.keyboard.press("Tab")
    expect(page.locator("#told-floor")).to_be_visible()
    page.locator("#told-floor").scroll_into_view_if_needed()
    press(page, "heat mat under the ground", 0.25, 0.4)
    press(page, "hide", 0.3, 0.3)
    press(page, "hide", 0.8, 0.3)
    press(page, "bowl of water", 0.6, 0.7)
    ends = [page.locator('[name="hide-end"]').nth(place).input_value() for place in range(2)]
    assert ends == ["warm", "cool"]
    # The second is moved by the keys, to the middle: its line follows.
    mark = page.locator('.told-mark[data-group="hide"][data-row="1"]')
    mark.focus()
    before = float(mark.get_attribute("data-x") or 0)
    page.keyboard.press("Shift+ArrowLeft")
    expect(page.locator('.told-mark[data-group="hide"][data-row="1"]')).to_have_attribute("data-x", f"{before - 0.1:.4g}")
    page.get_by_role("button", name="Look at it").click()
    expect(page.get_by_role("heading", name="One question")).to_be_visible()
    expect(page.locator("#said")).to_be_visible()
    page.locator(".review-ask").get_by_role("button", name="no", exact=True).click()
    expect(page.get_by_role("heading", name="Tonight, and free")).to_be_visible()
    page.locator("#proposed").scroll_into_view_if_needed()  # it is worked out for whoever comes to it
    expect(page.locator("#proposed .two-states figure")).to_have_count(2)
    expect(page.locator(".mending").filter(has_text="thermostat").first).to_be_visible()
    page.evaluate(AXE)
    assert faults(page) == []
    assert extent(page)[0] <= size[0]
    assert outside == []


def test_a_photo_lies_under_the_drawing_and_goes_nowhere(review: Callable[[], Page], outside: list[str]) -> None:
    page = review()
    choose(page, "species", "leopard gecko")
    page.get_by_label("box, inside").fill("90 x 45 x 45")
    page.keyboard.press("Tab")
    expect(page.locator("#told-floor")).to_be_visible()
    sent: list[str] = []
    page.on("request", lambda request: sent.append(request.url))
    page.get_by_label("A photo from above").set_input_files(
        {"name": "box.png", "mimeType": "image/png", "buffer": picture(200, 160)}
    )
    image = page.locator("#told-floor image.told-photo")
    expect(image).to_be_attached()
    box = stands(image)
    for along, back in ((0.1, 0.2), (0.9, 0.8)):  # where the box stands in the picture
        page.mouse.click(box["x"] + along * box["width"], box["y"] + back * box["height"])
    expect(page.locator("#told-floor")).to_have_class("drawing floorplan no-moisture no-uv on-photo")
    floor = stands(page.locator("#told-floor > g .outline"))
    laid = stands(image)
    # The corners that were pressed are the floor's.
    assert laid["x"] + 0.1 * laid["width"] == pytest.approx(floor["x"], abs=4)
    assert laid["x"] + 0.9 * laid["width"] == pytest.approx(floor["x"] + floor["width"], abs=4)
    assert laid["y"] + 0.2 * laid["height"] == pytest.approx(floor["y"], abs=4)
    assert laid["y"] + 0.8 * laid["height"] == pytest.approx(floor["y"] + floor["height"], abs=4)
    assert sent == []
    press(page, "bowl of water", 0.6, 0.7)
    expect(page.locator("#told-floor image.told-photo")).to_be_attached()  # it lies under the next drawing too
    assert outside == []
