"""axe-core on every page: no serious fault."""

from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Page

AXE = (Path(__file__).resolve().parents[1] / "vendor" / "axe-core" / "axe.min.js").read_text()
STEPS = ("animal", "room", "enclosure", "heat", "light", "moisture", "food")


def faults(page: Page) -> list[str]:
    page.evaluate(AXE)
    result = page.evaluate("axe.run(document, {resultTypes: ['violations']})")
    serious = [item for item in result["violations"] if item["impact"] in ("serious", "critical")]
    return [f"{item['id']}: {node['html'][:140]}" for item in serious for node in item["nodes"]]


def test_before_signing_in(page: Page, live_server: Any, transactional_db: None) -> None:
    for path in ("/account/sign-in/", "/nowhere/", "/account/reset/MQ/no-token/"):
        page.goto(live_server.url + path)
        assert faults(page) == [], path


@pytest.mark.parametrize("size", [(1280, 800), (390, 844)], ids=["desk", "phone"])
def test_every_page_of_a_keeper(
    page: Page, live_server: Any, sign_in: Callable[[], None], outside: list[str], size: tuple[int, int]
) -> None:
    from husbandry.species.book import find
    from ridgeback import clock
    from ridgeback.book import own
    from ridgeback.daybook.writing import Intent
    from ridgeback.rooms.models import Habitat

    sign_in()
    page.set_viewport_size({"width": size[0], "height": size[1]})
    habitat = Habitat.objects.get(name="Driftwood long box")
    pk = habitat.pk
    mine = own.copy(habitat.room, find("axolotl"), Intent(None, clock.now()))
    pages = [
        "/habitats/",
        "/habitats/new/",
        "/habitats/import/",
        f"/habitats/{pk}/feeding/",
        "/species/",
        "/species/leopard-gecko/",
        "/species/compare/?a=axolotl&b=savanna-monitor",
        "/species/mine/",
        f"/species/mine/{mine.pk}/?section=2",
        f"/habitats/{pk}/space/?nominal=glass-90&ground=5cm",
        f"/habitats/{pk}/schools/",
        *(f"/habitats/{pk}/{page}/" for page in ("what-if", "lamp", "rig", "week", "readings", "year", "outdoors", "compare")),
        *(f"/habitats/{Habitat.objects.get(name='Dune table').pk}/{page}/" for page in ("feeding", "salad", "condition", "chores")),
        *(f"/calendar/?view={view}" for view in ("day", "week", "month", "day&by=habitat")),
        f"/calendar/move/?habitat={pk}&job=feed&planned={clock.today()}",
        "/calendar/share/",
        "/pantry/",
        "/instruments/",
    ]
    pages += ["/account/", "/account/password/", "/account/people/"]
    pages += [f"/habitats/{pk}/?step={step}&season=summer" for step in STEPS]
    found = {}
    for path in pages:
        page.goto(live_server.url + path)
        if wrong := faults(page):
            found[path] = wrong
        if page.evaluate("document.documentElement.scrollWidth") > size[0]:
            found.setdefault(path, []).append("wider than the window")
    assert found == {}
    assert outside == []
