"""Where things stand on a page, once it stands still.

A page is drawn in the machine's own letters until the program's have come; then every line may be wider or narrower,
and what lies below moves. What is measured before that is measured by chance.
"""

from typing import TypedDict

from playwright.sync_api import Locator, Page


class Box(TypedDict):
    """A rectangle of the window, in CSS pixels."""

    x: float
    y: float
    width: float
    height: float


def letters_in(page: Page) -> None:
    """Wait until no letters are on their way and the page has been laid out with them."""
    page.evaluate(
        """() => new Promise((done) => requestAnimationFrame(
            () => document.fonts.ready.then(() => requestAnimationFrame(() => done(true)))))"""
    )


def stands(locator: Locator) -> Box:
    """Return where the one thing stands; it has to be drawn."""
    locator.wait_for()
    letters_in(locator.page)
    box = locator.bounding_box()
    assert box is not None, f"{locator} is not drawn"
    return Box(x=box["x"], y=box["y"], width=box["width"], height=box["height"])


def extent(page: Page) -> tuple[int, int]:
    """Return the page's whole width and height, in CSS pixels."""
    letters_in(page)
    width, height = page.evaluate("[document.documentElement.scrollWidth, document.documentElement.scrollHeight]")
    return int(width), int(height)
