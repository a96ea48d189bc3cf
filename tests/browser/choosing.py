"""Choosing from a long list as a keeper does: typed, and taken from what is found."""

from playwright.sync_api import Locator, Page, expect


def searchable(page: Page, label: str, nth: int = 0) -> Locator:
    """Return the field of that label that is typed into.

    It stands in the place of a plain list once the page's script has run; the plain list has
    the same role and name, so a field of that role may still be the list.
    """
    return page.locator("input").and_(page.get_by_role("combobox", name=label)).nth(nth)


def choose(page: Page, label: str, name: str, nth: int = 0) -> None:
    """Choose the entry of that name from the list with a label."""
    field = searchable(page, label, nth)
    field.fill(name)
    found = page.locator(".autocomplete__menu--visible .autocomplete__option", has_text=name).first
    found.click()
    expect(field).to_have_value(name)
