"""How long somebody takes who tells a set-up by presses: keystroke-level model for the hand, the clock for the program.

PYTHONPATH=. .venv-test/bin/python benchmarks/telling.py ADDRESS      (no account: the visitor's page; at 1280x800 and at 390x844)

The hand is slowed down to what the model gives: a key 0.28 s, pointing at something 1.10 s, the hand from the keys to the mouse or
back 0.40 s, making up one's mind 1.35 s before each thing. The whole is read from the clock.
Card, Moran and Newell (1980). The keystroke-level model for user performance time with interactive systems. Communications of the
ACM 23 (7), 396-410.
"""

import sys
import time
from dataclasses import dataclass, field
from typing import Final

from playwright.sync_api import Locator, Page, expect, sync_playwright

KEY_S: Final = 0.28
POINT_S: Final = 1.10
HOME_S: Final = 0.40
MIND_S: Final = 1.35
WINDOWS: Final = ((1280, 800), (390, 844))
# What stands there: a thing, and where on the floor it is pressed, as shares from the left and the back.
THINGS: Final = (
    ("heat mat under the ground", 0.25, 0.4),
    ("hide", 0.3, 0.3),
    ("hide", 0.8, 0.3),
    ("bowl of water", 0.6, 0.7),
)


@dataclass
class Hand:
    """A keeper at a page: what they press and type, and how long they waited for answers."""

    page: Page
    presses: int = 0
    keys: int = 0
    waited_s: float = 0.0
    typing: bool = field(default=False)

    def _to(self, *, keys: bool) -> None:
        time.sleep(MIND_S + (HOME_S if self.typing != keys else 0.0))
        self.typing = keys

    def _point(self) -> None:
        time.sleep(POINT_S + KEY_S)
        self.presses += 1

    def press(self, what: Locator) -> None:
        """Point at something and press it."""
        self._to(keys=False)
        self._point()
        what.click()

    def type(self, where: Locator, text: str) -> None:
        """Press into a field, type, and leave it by Tab."""
        self.press(where)
        self._to(keys=True)
        self.keys += len(text) + 1
        where.press_sequentially(text, delay=1000 * KEY_S)
        where.press("Tab")

    def press_floor(self, along: float, back: float) -> None:
        """Press a place on the floor drawn."""
        self._to(keys=False)
        self._point()
        box = self.page.locator("#told-floor").bounding_box()
        assert box is not None
        self.page.mouse.click(box["x"] + along * box["width"], box["y"] + back * box["height"])

    def wait(self, for_what: Locator) -> None:
        """Wait for an answer."""
        began = time.perf_counter()
        expect(for_what).to_be_visible(timeout=60_000)
        self.waited_s += time.perf_counter() - began


def told(page: Page, address: str) -> tuple[Hand, int]:
    """Tell the set-up and answer what is asked until nothing is; return the hand and how many questions there were."""
    hand = Hand(page)
    page.goto(f"{address}review/")
    hand.type(page.locator("input[role=combobox]").first, "corn")
    hand.type(page.get_by_label("box, inside"), "4 x 2 x 2 ft")
    hand.type(page.get_by_label("room by day"), "70 F")
    hand.wait(page.locator("#told-floor"))
    page.locator("#told-floor").scroll_into_view_if_needed()
    for name, along, back in THINGS:
        marks = page.locator("#told-floor .told-mark").count()
        hand.press(page.get_by_role("button", name=name, exact=True))
        hand.press_floor(along, back)
        expect(page.locator("#told-floor .told-mark")).to_have_count(marks + 1)
    hand.press(page.get_by_role("button", name="Look at it"))
    hand.wait(page.locator("#said"))
    asked = 0
    while page.locator(".review-ask").count() and asked < 12:
        question = page.locator(".review-ask").inner_text()
        answers = page.locator(".review-ask button")
        no = page.locator(".review-ask").get_by_role("button", name="no", exact=True)
        hand.press(no if no.count() else answers.first)
        asked += 1
        began = time.perf_counter()
        page.wait_for_function(
            "before => (document.querySelector('.review-ask') || {innerText: ''}).innerText !== before",
            arg=question,
            timeout=60_000,
        )
        hand.waited_s += time.perf_counter() - began
    expect(page.get_by_role("heading", name="Tonight, and free")).to_be_visible(timeout=60_000)
    return hand, asked


def main() -> None:
    """Print a row for each window."""
    address = sys.argv[1].rstrip("/") + "/"
    print("| window | presses | keys | questions answered | of it waited for the program, s | from the open page to the findings |")
    print("|---|---|---|---|---|---|")
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox", "--disable-gpu"])
        for width, height in WINDOWS:
            page = browser.new_context(viewport={"width": width, "height": height}).new_page()
            began = time.perf_counter()
            hand, asked = told(page, address)
            minutes, seconds = divmod(round(time.perf_counter() - began), 60)
            row = f"{hand.presses} | {hand.keys} | {asked} | {hand.waited_s:.1f} | {minutes} min {seconds} s"
            print(f"| {width} x {height} | {row} |")
        browser.close()


if __name__ == "__main__":
    main()
