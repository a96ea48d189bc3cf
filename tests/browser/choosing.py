"""Choosing from a long list as a keeper does: typed, and taken from what is found."""

from playwright.sync_api import Page, expect


def choose(page: Page, label: str, name: str, nth: int = 0) -> None:
    """Choose the entry of that name from the list with a label."""
    field = page.get_by_role("combobox", name=label).nth(nth)
    field.fill(name)
    found = page.locator(".autocomplete__menu--visible .autocomplete__option", has_text=name).first
    found.click()
    expect(field).to_have_value(name)
