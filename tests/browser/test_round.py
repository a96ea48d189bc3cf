"""The round with the network cut: what is pressed is kept on the phone, shown again from its cache, and sent once."""

from collections.abc import Callable
from typing import Any

import pytest
from playwright.sync_api import Error, Page, expect

from ridgeback.daybook.models import Event
from ridgeback.rooms.models import Animal, Habitat

READY = """async () => {
  await navigator.serviceWorker.ready;
  return !!navigator.serviceWorker.controller && !!(await caches.match('/round/'));
}"""


@pytest.fixture
def phone(page: Page, live_server: Any, sign_in: Callable[[], None]) -> Page:
    sign_in()
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"{live_server.url}/round/")
    page.wait_for_function(READY)
    return page


def opened_again(page: Page) -> None:
    """Reload a page without a network; on a busy machine the emulated cut meets the worker's own start now and then."""
    for _ in range(8):
        try:
            page.reload()
        except Error:
            page.wait_for_timeout(700)
        else:
            return
    page.reload()


def test_a_round_without_a_network_is_kept_shown_again_and_sent_once(phone: Page) -> None:
    done, weighed = Event.objects.filter(kind="job.done").count(), Event.objects.filter(kind="animal.weighed").count()
    habitat, animal = Habitat.objects.get(name="Mudflat shelf"), Animal.objects.get(name="Samphire")
    phone.context.set_offline(True)
    turn = phone.locator(f".turn[data-habitat='{habitat.pk}'][data-job='water']")
    turn.get_by_role("button", name="Done").click()
    expect(turn.locator(".sent")).to_contain_text("not sent yet")
    form = phone.locator(f"form[data-animal='{animal.pk}']")
    form.locator("input").fill("59 g")
    form.get_by_role("button", name="Write").click()
    expect(phone.locator("#waiting")).to_contain_text("2 entries")
    opened_again(phone)  # out of the phone's own cache
    expect(phone.locator("#waiting")).to_contain_text("2 entries")
    expect(phone.locator(f".turn[data-habitat='{habitat.pk}'][data-job='water'] .sent")).to_contain_text("not sent yet")
    assert Event.objects.filter(kind="job.done").count() == done
    phone.context.set_offline(False)
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
