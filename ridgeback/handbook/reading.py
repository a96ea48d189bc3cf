"""The handbook's pages: Markdown with a head in TOML, one folder for each language."""

import re
import tomllib
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Final

from django.conf import settings
from django.utils.translation import get_language
from markdown_it import MarkdownIt

CONTENT: Final = Path(__file__).with_name("content")
FENCE: Final = "+++\n"
SECTION: Final = re.compile(r"^## (.+)$", re.MULTILINE)
DRAWN: Final = re.compile(r"<p>\{([a-z]+)\}</p>")


@dataclass(frozen=True)
class Section:
    """A part of a page under its own heading; `html` may hold places for drawings, `text` is what a search looks through."""

    ident: str
    title: str
    html: str
    text: str


@dataclass(frozen=True)
class Page:
    """A page of the handbook. `views` are the addresses of the program that it explains."""

    key: str
    title: str
    summary: str
    views: tuple[str, ...]
    sections: tuple[Section, ...]


def language() -> str:
    """The language of the request, where the handbook has it, else English."""
    asked = (get_language() or "").partition("-")[0]
    return asked if (CONTENT / asked).is_dir() and asked in dict(settings.LANGUAGES) else "en"


@cache
def pages(tongue: str) -> tuple[Page, ...]:
    """All pages in one language, in their order."""
    return tuple(_read(path) for path in sorted((CONTENT / tongue).glob("*.md")))


def _read(path: Path) -> Page:
    _nothing, head, body = path.read_text(encoding="utf-8").split(FENCE, 2)
    about = tomllib.loads(head)
    parts = SECTION.split(body)[1:]
    sections = tuple(
        _section(place, title, text) for place, (title, text) in enumerate(zip(parts[::2], parts[1::2], strict=True), 1)
    )
    return Page(path.stem, about["title"], about["summary"], tuple(about["views"]), sections)


def _section(place: int, title: str, text: str) -> Section:
    html = MarkdownIt("commonmark", {"html": False}).render(text)
    return Section(f"part-{place}", title, html, re.sub(r"<[^>]+>|\{[a-z]+\}", " ", html))


def page(key: str) -> Page | None:
    """A page of the language of the request by its key."""
    return next((one for one in pages(language()) if one.key == key), None)


def page_of(view: str) -> Page | None:
    """The page that explains an address of the program."""
    return next((one for one in pages(language()) if view in one.views), None)
