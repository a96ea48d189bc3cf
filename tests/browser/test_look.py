"""The looks: by night the screen gives red light alone; a choice is kept; what moves stands still where that is asked for."""

import io
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import Page

from ridgeback.rooms.models import Habitat
from tests.browser.placing import letters_in


def light(page: Page) -> Any:
    """The light of the window as it is seen, once it is drawn: rows, columns, red and green and blue from 0 to 255."""
    page.wait_for_load_state()  # a window that is between two pages cannot be photographed
    letters_in(page)
    return np.asarray(Image.open(io.BytesIO(page.screenshot())).convert("RGB"), dtype=float)


def test_by_night_there_is_red_light_alone(page: Page, live_server: Any, sign_in: Callable[[], None], outside: list[str]) -> None:
    sign_in()
    pk = Habitat.objects.get(name="Driftwood long box").pk
    page.goto(f"{live_server.url}/habitats/")
    by_day = light(page).mean()
    page.get_by_role("button", name="Night: red light only").click()
    for path in ("/habitats/", f"/habitats/{pk}/?step=heat", "/round/", "/species/corn-snake/", f"/habitats/{pk}/public/"):
        page.goto(live_server.url + path)
        seen = light(page)
        red, green, blue = seen[..., 0], seen[..., 1], seen[..., 2]
        assert blue.max() <= 2, path
        assert (green <= 0.3 * red + 4).all(), path
        assert seen.mean() < 0.12 * by_day, path  # little of it
        assert red.max() > 200, path  # and yet it is read
    page.get_by_role("button", name="Day", exact=True).click()
    assert light(page).mean() > 0.8 * by_day
    assert outside == []


@pytest.mark.parametrize("path", ["/habitats/", "/round/"])
def test_on_paper_it_is_day(page: Page, live_server: Any, sign_in: Callable[[], None], path: str) -> None:
    sign_in()
    page.context.add_cookies([{"name": "ridgeback_look", "value": "night", "url": live_server.url}])
    page.goto(live_server.url + path)
    page.emulate_media(media="print")
    assert light(page).mean() > 200


def test_nothing_moves_where_that_is_asked_for(page: Page, live_server: Any, sign_in: Callable[[], None]) -> None:
    sign_in()
    page.emulate_media(reduced_motion="reduce")
    page.goto(f"{live_server.url}/habitats/{Habitat.objects.get(name='Dune table').pk}/")
    longest = page.evaluate(
        """Math.max(...[...document.querySelectorAll("*")].flatMap((one) => {
             const style = getComputedStyle(one);
             const times = [style.transitionDuration, style.animationDuration];
             return times.map((text) => Math.max(...text.split(", ").map(parseFloat)));
           }))"""
    )
    assert longest < 0.001
