"""The round with the network cut: what is pressed is kept on the phone, shown again from its cache, and sent once."""

import time
from collections.abc import Callable, Iterator
from typing import Any
from urllib.parse import urlsplit

import pytest
from playwright.sync_api import Page, expect

from ridgeback.daybook.models import Event
from ridgeback.rooms.models import Animal, Habitat
from tests.browser.keyboard import tab_to
from tests.browser.line import Line

LONGEST_S = 30.0
READY = """async () => {
  await navigator.serviceWorker.ready;
  return !!navigator.serviceWorker.controller && !!(await caches.match('/round/', { ignoreVary: true }));
}"""


@pytest.fixture
def line(live_server: Any) -> Iterator[Line]:
    made = Line(urlsplit(live_server.url).port or 80)
    yield made
    made.cut()


@pytest.fixture
def phone(page: Page, line: Line, sign_in: Callable[[], None]) -> Page:
    sign_in()
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"{line.url}/round/")
    until = time.monotonic() + LONGEST_S
    while not page.evaluate(READY):  # wait_for_function takes a promise for true
        assert time.monotonic() < until, "the round was never kept"
        page.wait_for_timeout(100)
    return page


def test_a_round_without_a_network_is_kept_shown_again_and_sent_once(phone: Page, line: Line) -> None:
    done, weighed = Event.objects.filter(kind="job.done").count(), Event.objects.filter(kind="animal.weighed").count()
    habitat, animal = Habitat.objects.get(name="Mudflat shelf"), Animal.objects.get(name="Samphire")
    line.cut()
    turn = phone.locator(f".turn[data-habitat='{habitat.pk}'][data-job='water']")
    turn.get_by_role("button", name="Done").click()
    expect(turn.locator(".sent")).to_contain_text("not sent yet")
    form = phone.locator(f"form[data-animal='{animal.pk}']")
    form.locator("input").fill("59 g")
    form.get_by_role("button", name="Write").click()
    expect(phone.locator("#waiting")).to_contain_text("2 entries")
    phone.reload()  # out of the phone's own cache
    expect(phone.locator("#waiting")).to_contain_text("2 entries")
    expect(phone.locator(f".turn[data-habitat='{habitat.pk}'][data-job='water'] .sent")).to_contain_text("not sent yet")
    assert Event.objects.filter(kind="job.done").count() == done
    line.mend()
    phone.evaluate("window.dispatchEvent(new Event('online'))")
    expect(phone.locator("#waiting")).to_be_hidden()
    assert Event.objects.filter(kind="job.done").count() == done + 1
    assert Event.objects.filter(kind="animal.weighed").count() == weighed + 1
    phone.reload()
    expect(phone.locator(f".turn[data-habitat='{habitat.pk}'][data-job='water'] .became")).to_have_text("done")


def test_a_doubted_weight_waits_for_the_keeper_and_one_that_is_forgotten_is_gone(phone: Page) -> None:
    animal, before = Animal.objects.get(name="Samphire"), Event.objects.filter(kind="animal.weighed").count()
    form = phone.locator(f"form[data-animal='{animal.pk}']")
    for press, more in (("Forget it", 0), ("It is so", 1)):
        form.locator("input").fill("5800")
        form.get_by_role("button", name="Write").click()
        expect(form.locator(".sent")).to_contain_text("is that right?")
        form.get_by_role("button", name=press).click()
        expect(phone.locator("#waiting")).to_be_hidden()
        assert Event.objects.filter(kind="animal.weighed").count() == before + more


def test_a_round_by_keyboard_alone(phone: Page) -> None:
    page, animal = phone, Animal.objects.get(name="Samphire")
    done, weighed = Event.objects.filter(kind="job.done").count(), Event.objects.filter(kind="animal.weighed").count()
    habitat = Habitat.objects.get(name="Mudflat shelf")
    turn = page.locator(f".turn[data-habitat='{habitat.pk}'][data-job='water']")
    tab_to(page, turn.get_by_role("button", name="Done"), most=300)
    page.keyboard.press("Enter")
    expect(turn.locator(".sent")).to_contain_text("written down")
    assert page.evaluate("turn => turn.contains(document.activeElement)", turn.element_handle())  # the hand stays where it was
    form = page.locator(f"form[data-animal='{animal.pk}']")
    tab_to(page, form.locator("input"), most=300)
    page.keyboard.type("59 g")
    page.keyboard.press("Enter")
    expect(form.locator(".sent")).to_contain_text("written down")
    expect(page.locator("#waiting")).to_be_hidden()
    assert Event.objects.filter(kind="job.done").count() == done + 1
    assert Event.objects.filter(kind="animal.weighed").count() == weighed + 1
