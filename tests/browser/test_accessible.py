"""axe-core on every page: no serious fault."""

from collections.abc import Callable
from datetime import timedelta
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Page

from husbandry.species.book import find
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.book import own
from ridgeback.daybook.writing import Intent
from ridgeback.home import demo_instruments
from ridgeback.metering import looking
from ridgeback.metering.stand_ins import StandIn
from ridgeback.rooms.models import Animal, Habitat
from ridgeback.series import intake
from ridgeback.series.intake import Given
from ridgeback.series.models import Channel, TableFile
from ridgeback.sharing import actions
from ridgeback.sharing.models import PublicPage
from ridgeback.sharing.summary import PARTS
from tests.browser.placing import extent
from tests.sample import WHOLE, in_turn

AXE = (Path(__file__).resolve().parents[1] / "vendor" / "axe-core" / "axe.min.js").read_text()
STEPS = ("animal", "room", "enclosure", "heat", "light", "moisture", "food")


def faults(page: Page, only: str = "") -> list[str]:
    """Serious faults, of all rules or of one: by night nothing but colours is another."""
    asked = {"resultTypes": ["violations"]} | ({"runOnly": [only]} if only else {})
    result = page.evaluate("asked => axe.run(document, asked)", asked)
    serious = [item for item in result["violations"] if item["impact"] in ("serious", "critical")]
    return [f"{item['id']}: {node['html'][:140]}" for item in serious for node in item["nodes"]]


def at_night(page: Page, server: str) -> None:
    """The night look put on this page; its filter is taken off, as axe reckons with the colours below it."""
    page.emulate_media(reduced_motion="reduce")  # a button on its way from one colour to the other is neither
    page.evaluate("Object.assign(document.documentElement.dataset, {look: 'night', bsTheme: 'dark'})")
    page.add_style_tag(url=f"{server}/static/css/night.css")
    page.evaluate("document.documentElement.style.filter = 'none'")


def test_before_signing_in(page: Page, live_server: Any, transactional_db: None) -> None:
    for path in ("/account/sign-in/", "/nowhere/", "/account/reset/MQ/no-token/"):
        page.goto(live_server.url + path)
        page.evaluate(AXE)
        assert faults(page) == [], path
        at_night(page, live_server.url)
        assert faults(page) == [], path


def test_pages_of_addresses_given_out(page: Page, live_server: Any, demo: str) -> None:
    """An invitation, a sitter's begin and their round, the page behind a code: on a phone, without an account."""
    habitat = Habitat.objects.get(name="Dune table")
    owner, today = Keeper.objects.get(username="keeper"), clock.today()
    intent = Intent(owner, clock.now())
    invited = actions.invite(habitat.room, actions.Invited("Nettie", "viewer", today), intent)[1]
    sits = actions.let_sit(habitat.room, actions.Sits("Teasel", today, today, "Tansy, 555 0100"), intent)[1]
    PublicPage.objects.create(habitat=habitat, token="shown", shows=list(PARTS), made_at=clock.now())
    page.set_viewport_size({"width": 390, "height": 844})
    for path in (f"/join/{invited}/", "/see/shown/", f"/sit/{sits}/", "/round/"):
        page.goto(live_server.url + path)
        if path.startswith("/sit/"):
            page.get_by_role("button", name="Begin today’s round").click()
            page.wait_for_url("**/round/")
        page.evaluate(AXE)
        assert faults(page) == [], path
        assert extent(page)[0] <= 390, path
        at_night(page, live_server.url)
        assert faults(page) == [], path


def enlarged_is_wider(page: Page) -> bool:
    """Whether a desk's page with letters twice as large is wider than its window (WCAG 2.2, 1.4.4)."""
    page.set_viewport_size({"width": 1280, "height": 800})
    page.evaluate("document.documentElement.style.fontSize = '200%'")
    return bool(page.evaluate("document.documentElement.scrollWidth > innerWidth"))


SIZES = ((1280, 800), (390, 844))  # a desk, a phone


@pytest.fixture
def looked_at(page: Page, live_server: Any, sign_in: Callable[[], None], outside: list[str]) -> Callable[[list[str]], None]:
    """No page is wider than its window, at either size or with letters twice as large, nor has it a serious fault.

    Of the pages every fourth is looked at, by turns of the commits (tests/sample.py); for faults by day at one size and by night at
    the other, by turns too. `./test all` looks at every page in all four ways.
    """

    def look(paths: list[str]) -> None:
        sign_in()
        found: dict[str, list[str]] = {}
        for place, path in in_turn(enumerate(paths)):
            page.goto(live_server.url + path)
            page.evaluate(AXE)
            for look in ("day", "night"):
                if look == "night":
                    at_night(page, live_server.url)
                for turn, (width, height) in enumerate(SIZES):
                    page.set_viewport_size({"width": width, "height": height})
                    looks = WHOLE or (place + turn + (look == "night")) % 2 == 0
                    wrong = faults(page, "color-contrast" if look == "night" and not WHOLE else "") if looks else []
                    if extent(page)[0] > width:
                        wrong.append("wider than the window")
                    if wrong:
                        found[f"{path} at {width} by {look}"] = wrong
            if enlarged_is_wider(page):
                found[f"{path} with letters twice as large"] = ["wider than the window"]
        assert found == {}
        assert outside == []

    return look


def test_every_step_and_every_page_of_a_habitat(looked_at: Callable[[list[str]], None]) -> None:
    pk = Habitat.objects.get(name="Driftwood long box").pk
    pages = ("what-if", "lamp", "rig", "week", "readings", "year", "outdoors", "compare", "feeding", "schools")
    looked_at(
        [
            *(f"/habitats/{pk}/?step={step}&season=summer" for step in STEPS),
            *(f"/habitats/{pk}/{page}/" for page in pages),
            f"/habitats/{pk}/space/?nominal=glass-90&ground=5cm",
        ]
    )


def test_every_other_page_of_a_keeper(looked_at: Callable[[list[str]], None]) -> None:
    habitat, fed = (Habitat.objects.get(name=name) for name in ("Driftwood long box", "Dune table"))
    mine = own.copy(habitat.room, find("axolotl"), Intent(None, clock.now()))
    looked_at(
        [
            *("/habitats/", "/habitats/new/", "/habitats/import/", "/pantry/", "/instruments/", "/review/"),
            *(
                "/species/",
                "/species/leopard-gecko/",
                "/species/compare/?a=axolotl&b=savanna-monitor",
                "/species/mine/",
                "/species/sources/",
            ),
            f"/species/mine/{mine.pk}/?section=2",
            *(f"/habitats/{fed.pk}/{page}/" for page in ("feeding", "salad", "condition", "chores")),
            *(f"/calendar/?view={view}" for view in ("day", "week", "month", "day&by=habitat")),
            f"/calendar/move/?habitat={habitat.pk}&job=feed&planned={clock.today()}",
            *(f"/rooms/{habitat.room_id}/{page}/" for page in ("climate", "people", "tokens")),
            *("/api/", "/account/delete/"),
            f"/habitats/{habitat.pk}/public/",
            *("/calendar/share/", "/account/", "/account/password/", "/account/people/"),
        ]
    )


def test_every_page_of_keeping(looked_at: Callable[[list[str]], None]) -> None:
    habitat, animal = Habitat.objects.get(name="Mudflat shelf"), Animal.objects.get(name="Samphire")
    of_habitat = ("now", "daybook", "daybook/write/habitat-cleaned", "animals/new")
    of_animal = ("", "daybook/", "daybook/write/animal-weighed/", "daybook/write/animal-shed/", "move/", "describe/", "leave/")
    looked_at(
        [
            *(
                "/round/",
                f"/round/order/{habitat.room_id}/",
                "/animals/",
                "/animals/due/",
                "/watch/",
                f"/rooms/{habitat.room_id}/daybook/",
            ),
            *(f"/habitats/{habitat.pk}/{page}/" for page in of_habitat),
            *(f"/animals/{animal.pk}/{page}" for page in of_animal),
        ]
    )


def test_every_page_of_what_is_measured(looked_at: Callable[[list[str]], None]) -> None:
    habitat, animal = Habitat.objects.select_related("room").get(name="Mudflat shelf"), Animal.objects.get(name="Samphire")
    demo_instruments.equip_once("a key", clock.now())
    channels = {channel.pk: channel for channel in Channel.objects.filter(room=habitat.room).select_related("instrument", "animal")}
    stand_in, now = StandIn.of(habitat), clock.now().replace(second=0, microsecond=0)
    shown = stand_in.readings(now - timedelta(hours=26), now, timedelta(minutes=20))
    intake.take(channels, [Given(channel.pk, at, value) for channel, at, value in shown], now)
    looking.look_for_faults(habitat, now)
    warm = next(channel for channel in channels.values() if channel.place == "warm-air" and channel.habitat_id == habitat.pk)
    content = b"When,Warm end\n2026-11-01 10:00,25.5\n2026-11-01 10:10,25.7\n"
    file = TableFile.objects.create(room=habitat.room, name="log.csv", content=content, at=now)
    meter = habitat.room.instruments.get(name="hub thermometers")
    looked_at(
        [
            *(f"/habitats/{habitat.pk}/{page}" for page in ("live/", "charts/?span=days")),
            f"/channels/{warm.pk}/",
            f"/rooms/{habitat.room_id}/channels/?habitat={habitat.pk}",
            f"/rooms/{habitat.room_id}/readings/file/",
            f"/readings/files/{file.pk}/",
            f"/instruments/{meter.pk}/check/",
            f"/animals/{animal.pk}/sick-or-season/",
            "/pantry/cultures/",
            "/account/",
        ]
    )
