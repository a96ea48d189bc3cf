"""A headless Chromium on pages served from loopback, with a keeper signed in."""

import os
import threading
import time
from collections.abc import Callable, Iterator
from typing import Any

import pytest
from django.conf import settings
from django.contrib.auth import get_user_model
from django.core.signals import request_finished, request_started
from django.db import connection
from django.test import Client
from playwright.sync_api import BrowserContext, Page, Request, expect

from launch.machine import CHROMIUM, HEADLESS
from tests.database import bring_demo
from tests.jobs import emptied
from tests.quick import quick_passwords
from tests.sample import WHOLE

__all__ = ["emptied", "quick_passwords"]  # used by every test of this folder

os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")
LONGEST_REQUEST_S = 20.0
QUIET_S = 0.3
expect.set_options(timeout=15_000)  # ms: a busy machine answers in its own time


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args: dict[str, Any]) -> dict[str, Any]:
    quiet = ["--no-sandbox", "--disable-gpu", "--disable-background-networking", "--disable-component-update", "--no-first-run"]
    quiet += ["--disable-software-rasterizer", "--disable-gpu-rasterization", "--disable-extensions"]
    quiet.append("--in-process-gpu")  # nothing is drawn by a graphics card: a process of its own for it only takes time
    # Debian's build without windows where it is there; `./test all` takes the whole Chromium (decision 0129).
    path = HEADLESS if HEADLESS.exists() and not WHOLE else CHROMIUM
    return {**browser_type_launch_args, "executable_path": str(path), "args": quiet}


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args: dict[str, Any]) -> dict[str, Any]:
    return {**browser_context_args, "viewport": {"width": 1280, "height": 800}, "locale": "en-GB"}


class Elsewhere:
    """A server that somebody else has started on the tests' database (benchmarks/pair.py): two web machines behind a proxy."""

    def __init__(self, url: str, own: Any) -> None:
        self.url, self.own = url, own

    def __getattr__(self, name: str) -> Any:
        return getattr(self.own, name)


@pytest.fixture(scope="session")
def live_server(live_server: Any) -> Any:
    """Where the pages are served: by the tests themselves, or where RIDGEBACK_PAIR says."""
    address = os.environ.get("RIDGEBACK_PAIR")
    return Elsewhere(address, live_server) if address else live_server


@pytest.fixture(autouse=True)
def _plain_static_files(settings: Any) -> None:
    settings.STORAGES = settings.STORAGES | {"staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"}}


@pytest.fixture(autouse=True)
def _served_to_its_end(transactional_db: None, page: Page) -> Iterator[None]:
    """No request is left when a test ends: emptying the tables under one that reads them is a deadlock now and then.

    A request may have been sent and not been taken up yet when the page closes: it is quiet when nothing has been open for a while.
    """
    lock, open_ones, last = threading.Lock(), 0, time.monotonic()

    def count(by: int) -> Callable[..., None]:
        def counted(**_sent: Any) -> None:
            nonlocal open_ones, last
            with lock:
                open_ones, last = open_ones + by, time.monotonic()

        return counted

    begun, ended = count(1), count(-1)
    request_started.connect(begun)
    request_finished.connect(ended)
    yield
    for each in page.context.pages:
        each.close()
    closed = time.monotonic()
    until = closed + LONGEST_REQUEST_S
    while (open_ones > 0 or others_at_work() or time.monotonic() - max(last, closed) < QUIET_S) and time.monotonic() < until:
        time.sleep(0.05)
    request_started.disconnect(begun)
    request_finished.disconnect(ended)


def others_at_work() -> bool:
    """Tell whether a server's thread is inside a transaction of the test's database."""
    with connection.cursor() as cursor:
        cursor.execute(
            "select count(*) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()"
            " and backend_type = 'client backend' and state <> 'idle'"
        )
        return bool(cursor.fetchone()[0])


@pytest.fixture
def demo(transactional_db: None) -> str:
    """The demo room; returns the keeper's password."""
    return bring_demo()


@pytest.fixture
def outside(page: Page, live_server: Any) -> list[str]:
    """Collects every request that does not go to the page's own server, and every script error."""
    found: list[str] = []

    def watch(request: Request) -> None:
        if not request.url.startswith((live_server.url, "data:", "blob:")):
            found.append(request.url)

    page.on("request", watch)
    page.on("pageerror", lambda error: found.append(f"script error: {error}"))
    page.on("console", lambda message: _note(found, message.text) if message.type == "error" else None)
    return found


def _note(found: list[str], said: str) -> None:
    """Note what the console says is wrong: not a plan that was changed meanwhile, nor a request that a newer one took the place of.

    Of that one its end is told first, then that it was broken off.
    """
    if said.startswith("htmx:sendAbort"):
        ended = [place for place, one in enumerate(found) if one.startswith("console: htmx:afterRequest")]
        if ended:
            del found[ended[-1]]
    elif "409" not in said:
        found.append(f"console: {said}")


@pytest.fixture
def sign_in_to(live_server: Any, demo: str, client: Client) -> Callable[[BrowserContext], None]:
    """Signs the keeper in: by the session's cookie alone, for typing it each time takes seconds of every test."""

    def go(context: BrowserContext) -> None:
        client.force_login(get_user_model().objects.get(username="keeper"))
        cookie = client.cookies[settings.SESSION_COOKIE_NAME]
        context.add_cookies([{"name": cookie.key, "value": cookie.value, "url": live_server.url}])

    return go


@pytest.fixture
def sign_in(page: Page, sign_in_to: Callable[[BrowserContext], None]) -> Callable[[], None]:
    """Signs the keeper in where the test's own page is."""
    return lambda: sign_in_to(page.context)


@pytest.fixture
def bench(page: Page, live_server: Any, sign_in: Callable[[], None], outside: list[str]) -> Iterator[Callable[..., Page]]:
    """Opens a habitat's plan by name; afterwards nothing may have left the machine."""

    def open_bench(name: str, query: str = "step=heat&season=winter&phase=day") -> Page:
        from ridgeback.rooms.models import Habitat

        sign_in()
        page.goto(f"{live_server.url}/habitats/{Habitat.objects.get(name=name).pk}/?{query}")
        return page

    yield open_bench
    assert outside == []


@pytest.fixture
def signed_in(page: Page, sign_in: Callable[[], None], outside: list[str]) -> Page:
    """A page of the demo's keeper."""
    sign_in()
    return page
