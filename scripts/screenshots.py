#!/usr/bin/env python3
"""Take the pictures of docs/screenshots from a fresh demo: `python scripts/screenshots.py ADDRESS PASSWORD`.

Run by hand with .venv-test's Python while ./start serves a fresh demo; look at every picture before committing it.
"""

import sys
from pathlib import Path

from playwright.sync_api import sync_playwright

TARGET = Path(__file__).resolve().parents[1] / "docs" / "screenshots"
DESK, PHONE = (1280, 800), (390, 844)
# file name -> habitat's name ("" for none), address after it, window
PICTURES = {
    "habitats": ("", "/habitats/", DESK),
    "new-habitat": ("", "/habitats/new/", DESK),
    "species": ("", "/species/", DESK),
    "species-sheet": ("", "/species/leopard-gecko/", DESK),
    "compare": ("", "/species/compare/?a=ridge-tailed-monitor&b=leopard-tortoise", DESK),
    "own-profile": ("", "/species/mine/1/?section=2", DESK),
    "space": ("Saltern box", "space/", DESK),
    "schools": ("Mudflat shelf", "schools/", DESK),
    "plan-water": ("Tideline tank", "?step=moisture&season=summer", DESK),
    "plan-animal": ("Dune table", "?step=animal&season=winter", DESK),
    "plan-heat": ("Mudflat shelf", "?step=heat&season=winter", DESK),
    "plan-mistake": ("Driftwood long box", "?step=heat&season=summer", DESK),
    "plan-light": ("Dune table", "?step=light&season=summer", DESK),
    "plan-food": ("Mudflat shelf", "?step=food", DESK),
    "feeding": ("Mudflat shelf", "feeding/", DESK),
    "phone-plan": ("Dune table", "?step=heat&season=winter", PHONE),
    "phone-habitats": ("", "/habitats/", PHONE),
}


def main() -> None:
    address, password = sys.argv[1].rstrip("/"), sys.argv[2]
    TARGET.mkdir(exist_ok=True)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox", "--disable-gpu"])
        page = browser.new_page(locale="en-GB")
        page.goto(f"{address}/account/sign-in/")
        page.fill("#id_username", "keeper")
        page.fill("#id_password", password)
        page.keyboard.press("Enter")
        page.wait_for_url("**/habitats/")
        homes = {link.inner_text(): link.get_attribute("href") for link in page.locator(".habitat h3 a").all()}
        for name, (habitat, rest, size) in PICTURES.items():
            page.set_viewport_size({"width": size[0], "height": size[1]})
            page.goto(address + (f"{homes[habitat]}{rest}" if habitat else rest))
            page.wait_for_timeout(300)
            page.screenshot(path=TARGET / f"{name}.png")
            print(name)
        browser.close()


if __name__ == "__main__":
    main()
