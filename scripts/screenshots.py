#!/usr/bin/env python3
"""Take the pictures of docs/screenshots from a fresh demo: `python scripts/screenshots.py ADDRESS PASSWORD`.

Run by hand with .venv-test's Python while ./start serves a fresh demo; look at every picture before committing it.
"""

import sys
from pathlib import Path

from playwright.sync_api import sync_playwright

TARGET = Path(__file__).resolve().parents[1] / "docs" / "screenshots"
LAYERS = ("heat", "uv", "moisture")
DESK, PHONE = (1280, 800), (390, 844)
# file name -> habitat's name ("" for none), address after it, window; on the bench, the layers that are to be shown
PICTURES = {
    "habitats": ("", "/habitats/", DESK),
    "species-sheet": ("", "/species/leopard-gecko/", DESK),
    "plan-heat": ("Dune table", "?step=heat&season=winter", DESK),
    "plan-furniture": ("Reed column", "?step=furniture&season=winter", DESK),
    "rig": ("Shingle ridge", "rig/?now=yes", DESK),
    "readings": ("Dune table", "readings/", DESK),
    "night": ("Mudflat shelf", "?step=heat&season=winter", DESK),
    "menu": ("Saltern box", "feeding/", DESK),
    "calendar-week": ("", "/calendar/?view=week", DESK),
    "pantry": ("", "/pantry/", DESK),
    "now": ("Driftwood long box", "now/", DESK),
    "animal": ("", "animal:Samphire", DESK),
    "live": ("Mudflat shelf", "live/", DESK),
    "charts": ("Dune table", "charts/?span=days", DESK),
    "phone-round": ("", "/round/", PHONE),
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
        for name, (habitat, rest, size, *layers) in PICTURES.items():
            page.set_viewport_size({"width": size[0], "height": size[1]})
            page.context.add_cookies([{"name": "ridgeback_look", "value": "night" if name == "night" else "day", "url": address}])
            link, animal = rest.removeprefix("link:"), rest.removeprefix("animal:")
            if animal != rest:
                page.goto(f"{address}/animals/")
                page.get_by_role("link", name=animal, exact=True).first.click()
            elif link != rest:
                page.goto(f"{address}/habitats/")
                page.get_by_role("link", name=link).first.click()
            else:
                page.goto(address + (f"{homes[habitat]}{rest}" if habitat else rest))
            page.wait_for_timeout(300)
            for layer in LAYERS if layers else ():
                button = page.locator(f".layer.{layer}")
                if (button.get_attribute("aria-pressed") == "true") != (layer in layers):
                    button.click()
            page.wait_for_function("() => !document.querySelector('.looking')")  # what would mend it has been tried
            page.screenshot(path=TARGET / f"{name}.png")
            print(name)
        browser.close()


if __name__ == "__main__":
    main()
