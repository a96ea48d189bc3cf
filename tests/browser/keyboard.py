"""The keyboard alone."""

from playwright.sync_api import Locator, Page

# A part of a drawing shows it by a ring of its own.
SEEN = """(element) => { const style = getComputedStyle(element);
  return element instanceof SVGElement || style.outlineStyle !== 'none' || style.boxShadow !== 'none' }"""


def tab_to(page: Page, target: Locator, most: int = 80) -> None:
    """Reach a control with the Tab key alone, and see that it shows where the keyboard is."""
    for _ in range(most):
        if target.evaluate("(element) => element === document.activeElement"):
            assert target.evaluate(SEEN), f"nothing shows that the keyboard is at {target}"
            return
        page.keyboard.press("Tab")
    raise AssertionError(f"the keyboard does not reach {target}")
