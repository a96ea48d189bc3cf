"""Keepers, rooms and habitats for the web tests."""

import shutil
import tempfile
from collections.abc import Callable, Iterator, Mapping
from pathlib import Path
from typing import Any

import pytest
from django.conf import settings
from django.contrib.auth import BACKEND_SESSION_KEY, HASH_SESSION_KEY, SESSION_KEY
from django.contrib.sessions.backends.db import SessionStore
from django.template.loader import render_to_string
from django.test import Client
from django.utils import translation

from ridgeback import clock
from ridgeback.accounts.models import Keeper, SignedIn
from ridgeback.accounts.sessions import SEEN
from ridgeback.planner import revisions
from ridgeback.rooms import keepers
from ridgeback.rooms.models import Habitat, Room
from ridgeback.web import paper
from tests.jobs import emptied
from tests.plans import plan
from tests.quick import quick_passwords

__all__ = ["emptied", "quick_passwords"]  # used by every test of this folder


@pytest.fixture
def folder() -> Iterator[Path]:
    """A folder that PostgreSQL's user reaches."""
    made = Path(tempfile.mkdtemp(prefix="ridgeback-kept-"))
    made.chmod(0o755)
    yield made
    shutil.rmtree(made, ignore_errors=True)


@pytest.fixture(autouse=True)
def _plain_static_files(settings: Any) -> None:
    settings.STORAGES = settings.STORAGES | {"staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"}}


@pytest.fixture(autouse=True)
def _in_english() -> Iterator[None]:
    """A request leaves its language behind in the thread; the next test does not begin with it."""
    with translation.override("en"):
        yield


class NoPaper:
    """A sheet that is not laid out: the words on it."""

    def __init__(self, template: str, context: Mapping[str, Any]) -> None:
        self.words = render_to_string(template, dict(context))

    def write_pdf(self, *_given: Any, **_more: Any) -> bytes:
        return b"%PDF-" + self.words.encode()


@pytest.fixture
def no_paper(monkeypatch: pytest.MonkeyPatch) -> None:
    """Printed pages are their words, where it is asked who may have them or what is told on them: each takes seconds."""
    monkeypatch.setattr(paper, "laid_out", NoPaper)


@pytest.fixture
def owner(db: None) -> Keeper:
    return keepers.add("tansy", "oyster-catcher-7")


@pytest.fixture
def other(db: None) -> Keeper:
    return keepers.add("sedge", "oyster-catcher-8")


@pytest.fixture
def make_habitat(owner: Keeper) -> Callable[..., Habitat]:
    def make(**changes: Any) -> Habitat:
        room = Room.objects.get(members=owner)
        return revisions.create(room, plan(**changes), owner, clock.now())

    return make


@pytest.fixture
def habitat(make_habitat: Callable[..., Habitat]) -> Habitat:
    return make_habitat()


@pytest.fixture
def client_of() -> Callable[[Keeper], Client]:
    """Signs a keeper in by a session alone: signing in by the form asks twenty things more."""

    def sign_in(keeper: Keeper) -> Client:
        session = SessionStore()
        session[SESSION_KEY] = str(keeper.pk)
        session[BACKEND_SESSION_KEY] = "django.contrib.auth.backends.ModelBackend"
        session[HASH_SESSION_KEY] = keeper.get_session_auth_hash()
        session[SEEN] = clock.now().isoformat()
        session.create_model_instance(dict(session.items())).save(force_insert=True)
        about = {"keeper": keeper, "browser": "", "since": clock.now(), "seen_at": clock.now()}
        SignedIn.objects.create(session=session.session_key, **about)
        client = Client()
        client.cookies[settings.SESSION_COOKIE_NAME] = str(session.session_key)
        return client

    return sign_in
