"""The handbook and the help: every page has some, every link and drawing is there, every word is found where it is used."""

import re
from collections.abc import Callable

import pytest
from django.conf import settings as django_settings
from django.test import Client
from django.urls import get_resolver, reverse
from django.urls.resolvers import URLPattern, URLResolver

from ridgeback.accounts.models import Keeper
from ridgeback.handbook import pictures, reading
from ridgeback.language.glossary import KEYS, MARKS, WORDS

TONGUES = [code for code, _name in django_settings.LANGUAGES]


def names(patterns: list[URLPattern | URLResolver], space: str = "") -> set[str]:
    found: set[str] = set()
    for item in patterns:
        if isinstance(item, URLResolver):
            found |= names(item.url_patterns, f"{item.namespace}:" if item.namespace else space)
        else:
            found.add(f"{space}{item.name}")
    return found


@pytest.mark.parametrize("tongue", TONGUES)
def test_every_address_that_is_explained_exists_and_is_explained_once(tongue: str) -> None:
    explained = [view for page in reading.pages(tongue) for view in page.views]
    assert set(explained) <= names(get_resolver().url_patterns)
    assert len(explained) == len(set(explained))


@pytest.mark.parametrize("tongue", TONGUES)
def test_all_languages_tell_the_same(tongue: str) -> None:
    """The same pages, explaining the same addresses, in as many parts, with the same drawings."""

    def shape(of: str) -> list[tuple[str, tuple[str, ...], list[list[str]]]]:
        return [(one.key, one.views, [reading.DRAWN.findall(part.html) for part in one.sections]) for one in reading.pages(of)]

    assert shape(tongue) == shape("en")


def test_every_page_is_shown_with_its_drawings(db: None) -> None:
    client = Client()
    assert client.get(reverse("handbook:contents")).status_code == 200
    for page in reading.pages("en"):
        shown = client.get(reverse("handbook:page", args=[page.key])).content.decode()
        assert all(part.title in shown for part in page.sections)
        body = shown[shown.index("<main") : shown.index("</main>")]
        assert not re.search(r"\{[a-z]+\}", body), page.key  # no drawing is left out
    assert client.get(reverse("handbook:page", args=["no-such-page"])).status_code == 404
    used = {name for page in reading.pages("en") for part in page.sections for name in reading.DRAWN.findall(part.html)}
    assert used == set(pictures.DRAWINGS)


def test_words_lead_to_pages_and_are_written_as_their_forms_say(db: None) -> None:
    keys = {page.key for page in reading.pages("en")}
    page = Client().get(reverse("handbook:words")).content.decode()
    for word in WORDS:
        assert word.page in keys, word.key
        assert f'id="{word.key}"' in page
        assert all(form == form.strip() and form for form in str(word.forms).split("|")), word.key


def test_every_mark_that_is_drawn_has_its_meaning() -> None:
    """The shapes of the page's symbols that say how something stands."""
    symbols = (django_settings.ROOT / "ridgeback" / "templates" / "_symbols.html").read_text(encoding="utf-8")
    drawn = set(re.findall(r'symbol id="([a-zA-Z0-9-]+)"', symbols)) - {"ridge"}
    assert drawn == set(MARKS)


def test_the_help_of_a_page_is_about_that_page(owner: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    client = client_of(owner)
    beside = client.get(reverse("handbook:help"), {"view": "planner:bench"}).content.decode()
    assert "How a plan is read" in beside
    assert all(f"<kbd>{key}</kbd>" in beside for key, _said in KEYS)
    assert client.get(reverse("handbook:help"), {"view": "no:such"}).status_code == 200
