"""Pages that only read come from the copy that follows, until somebody writes, or the copy is away or behind."""

from collections.abc import Callable, Iterator
from typing import Any

import pytest
from django.db import connections
from django.http import HttpRequest, HttpResponse
from django.test import Client, RequestFactory
from django.test.utils import CaptureQueriesContext
from django.urls import reverse

from ridgeback import copies
from ridgeback.accounts.models import Keeper
from ridgeback.rooms.models import Habitat

pytestmark = pytest.mark.django_db(transaction=True, databases="__all__")


@pytest.fixture(scope="module", autouse=True)
def _another_connection(django_db_setup: None) -> Iterator[None]:
    """The same database by another connection stands in for a copy; what is asked of it can be counted."""
    connections.databases[copies.COPY] = connections.databases["default"] | {"ATOMIC_REQUESTS": False}
    yield
    del connections.databases[copies.COPY]


@pytest.fixture
def copy(settings: Any, monkeypatch: pytest.MonkeyPatch) -> Iterator[None]:
    """Requests that only read are sent to it."""
    settings.DATABASE_ROUTERS = ["ridgeback.copies.Copies"]
    settings.MIDDLEWARE = ["ridgeback.copies.read_from_copy", *(m for m in settings.MIDDLEWARE if "copies" not in m)]
    monkeypatch.setattr(copies, "health", copies.Health())
    yield
    connections[copies.COPY].close()


def asked(client: Client, url: str) -> tuple[int, int]:
    """How much a page asks of the copy, and of the database itself of what a copy may be asked."""
    copies.health.well()
    with CaptureQueriesContext(connections[copies.COPY]) as copy, CaptureQueriesContext(connections["default"]) as own:
        assert client.get(url).status_code == 200
    rooms = [query for query in own.captured_queries if '"rooms_habitat"' in query["sql"]]
    return len(copy.captured_queries), len(rooms)


def test_a_page_that_reads_comes_from_the_copy_and_after_a_write_from_the_database(
    copy: None, habitat: Habitat, owner: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    client, page = client_of(owner), reverse("planner:bench", args=[habitat.pk])
    client.get(page)  # what is worked out at the first look is written
    client.cookies.pop(copies.COOKIE, None)
    of_copy, of_own = asked(client, page)
    assert of_copy > 0
    assert of_own == 0
    client.post(reverse("rooms:set-aside", args=[habitat.pk]))
    assert asked(client, reverse("rooms:habitats"))[0] == 0
    assert 0 < int(client.cookies[copies.COOKIE]["max-age"]) <= 60


def test_who_may_come_in_is_never_asked_of_a_copy(copy: None, owner: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    client = client_of(owner)
    client.get(reverse("rooms:habitats"))
    client.cookies.pop(copies.COOKIE, None)
    with CaptureQueriesContext(connections[copies.COPY]) as told:
        client.get(reverse("rooms:habitats"))
    tables = " ".join(query["sql"] for query in told.captured_queries)
    assert "django_session" not in tables
    assert 'FROM "accounts_keeper"' not in tables


def test_a_copy_that_is_behind_or_away_is_not_read_from(
    copy: None, owner: Keeper, client_of: Callable[[Keeper], Client], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(copies, "BEHIND", "select 3600")
    assert not copies.Health().well()
    monkeypatch.setattr(copies, "BEHIND", "select no_such_thing()")
    assert not copies.Health().well()
    monkeypatch.setattr(copies, "health", copies.Health())
    assert asked(client_of(owner), reverse("rooms:habitats"))[0] == 0


def test_a_page_at_which_the_copy_fails_is_read_from_the_database(copy: None) -> None:
    asked_of: list[str] = []

    def respond(request: HttpRequest) -> HttpResponse:
        asked_of.append(copies.Copies().db_for_read(Habitat))
        return HttpResponse(status=503 if asked_of[-1] == copies.COPY else 200)

    answer = copies.read_from_copy(respond)
    assert answer(RequestFactory().get("/habitats/")).status_code == 200
    assert asked_of == [copies.COPY, "default"]
    assert answer(RequestFactory().get("/habitats/")).status_code == 200
    assert asked_of[2:] == ["default"]  # it is left alone for a while


def test_a_request_reads_where_it_wrote(copy: None) -> None:
    read: list[str] = []

    def respond(request: HttpRequest) -> HttpResponse:
        router = copies.Copies()
        read.append(router.db_for_read(Habitat))
        router.db_for_write(Habitat)
        read.append(router.db_for_read(Habitat))
        return HttpResponse()

    response = copies.read_from_copy(respond)(RequestFactory().get("/habitats/"))
    assert read == [copies.COPY, "default"]
    assert copies.COOKIE in response.cookies
    assert copies.Copies().db_for_read(Habitat) == "default"  # and the next request begins anew


def test_programs_and_posts_ask_the_database_itself(copy: None) -> None:
    read: list[str] = []

    def respond(request: HttpRequest) -> HttpResponse:
        read.append(copies.Copies().db_for_read(Habitat))
        return HttpResponse()

    answer = copies.read_from_copy(respond)
    answer(RequestFactory().get("/api/v1/habitats/"))
    answer(RequestFactory().post("/habitats/"))
    assert read == ["default", "default"]


def test_a_replica_that_rests_counts_as_close_behind() -> None:
    """The question itself, asked of a server that is no copy: it is never behind itself."""
    with connections["default"].cursor() as cursor:
        cursor.execute(copies.BEHIND)
        assert cursor.fetchone()[0] == 0
