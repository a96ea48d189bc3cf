"""What a page costs a browser, the first time and again: requests, bytes over the wire, first and largest paint, layout that jumps.

PYTHONPATH=. .venv-test/bin/python benchmarks/pages.py ADDRESS PASSWORD      (a fresh demo, served by ./start)
"""

import sys
from typing import Any, Final

from playwright.sync_api import BrowserContext, sync_playwright

PAGES: Final = ("habitats/", "habitats/1/?step=heat", "round/", "calendar/?view=week", "species/", "species/corn-snake/", "pantry/",
                "animals/", "habitats/new/", "review/", "handbook/02-reading-a-plan/", "find/?q=gecko")  # fmt: skip
WINDOWS: Final = (("desk", 1280, 800), ("phone", 390, 844))
SETTLE_MS: Final = 1200
WATCH: Final = """() => {
  window.seen = {lcp: 0, cls: 0};
  const watch = (type, take) => new PerformanceObserver((list) => list.getEntries().forEach(take)).observe({type, buffered: true});
  watch("largest-contentful-paint", (one) => { window.seen.lcp = one.startTime; });
  watch("layout-shift", (one) => { if (!one.hadRecentInput) window.seen.cls += one.value; });
}"""
TOLD: Final = """() => ({...window.seen, fcp: (performance.getEntriesByName("first-contentful-paint")[0] || {}).startTime || 0,
  nodes: document.querySelectorAll("*").length})"""


def measured(context: BrowserContext, address: str) -> dict[str, Any]:
    """One visit: what was asked for and how many bytes came, and when something was seen."""
    page = context.new_page()
    talk = context.new_cdp_session(page)
    talk.send("Network.enable")
    came = {"requests": 0, "bytes": 0}

    def ended(event: dict[str, Any]) -> None:
        came["bytes"] += int(event["encodedDataLength"])
        came["requests"] += event["encodedDataLength"] > 0

    talk.on("Network.loadingFinished", ended)
    page.add_init_script(f"({WATCH})()")
    page.goto(address)
    page.wait_for_timeout(SETTLE_MS)
    told: dict[str, Any] = page.evaluate(TOLD)
    page.close()
    return told | came


def main() -> None:
    """Print a row for each page, window, and first or second visit."""
    address, password = sys.argv[1].rstrip("/") + "/", sys.argv[2]
    print("| page | window | visit | requests | kB | first paint, ms | largest, ms | shift | nodes |")
    print("|---|---|---|---|---|---|---|---|---|")
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox", "--disable-gpu"])
        entry = browser.new_context()
        page = entry.new_page()
        page.goto(f"{address}account/sign-in/")
        page.fill("[name=username]", "keeper")
        page.fill("[name=password]", password)
        page.click("main button[type=submit]")
        page.wait_for_url("**/habitats/")
        signed_in = entry.storage_state()
        entry.close()
        for name, width, height in WINDOWS:
            for path in PAGES:
                context = browser.new_context(viewport={"width": width, "height": height}, storage_state=signed_in)
                for visit in ("first", "again"):
                    one = measured(context, address + path)
                    said = f"{one['requests']} | {one['bytes'] / 1000:.0f} | {one['fcp']:.0f} | {one['lcp']:.0f} | {one['cls']:.3f}"
                    print(f"| {path} | {name} | {visit} | {said} | {one['nodes']} |", flush=True)
                context.close()
        browser.close()


if __name__ == "__main__":
    main()
