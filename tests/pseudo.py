"""A pseudo-language: every text that goes through gettext comes out in brackets, accented and half as long again."""

import re
from collections.abc import Iterator
from contextlib import contextmanager
from html.parser import HTMLParser
from typing import Any, Final

from django.utils import translation

OPENS, CLOSES = "⟦", "⟧"
LONGER: Final = 0.4
ACCENTS: Final = str.maketrans("aeiouAEIOUnc", "áéíóúÁÉÍÓÚñç")
KEPT: Final = re.compile(r"(%\(\w+\)[sd]|%%|%[sd]|<[^>]*>|&\w+;|\{\w*\})")
VOID: Final = {"area", "base", "br", "col", "embed", "hr", "img", "input", "link", "meta", "source", "track", "wbr"}
SILENT: Final = {"script", "style", "title"}
SPOKEN: Final = ("aria-label", "alt", "placeholder", "title", "data-label")


def pseudo(text: str) -> str:
    """A text in the pseudo-language; placeholders and tags stay."""
    if not text.strip():
        return text
    told = "".join(part if KEPT.fullmatch(part) else part.translate(ACCENTS) for part in KEPT.split(text))
    return f"{OPENS}{told}{'~' * round(LONGER * len(KEPT.sub('', text)))}{CLOSES}"


@contextmanager
def spoken() -> Iterator[None]:
    """The program speaks the pseudo-language."""
    fakes: dict[str, Any] = {
        "gettext": pseudo,
        "pgettext": lambda _context, text: pseudo(text),
        "ngettext": lambda one, many, n: pseudo(one if n == 1 else many),
        "npgettext": lambda _context, one, many, n: pseudo(one if n == 1 else many),
    }
    translation.gettext("")  # Django chooses what to call at the first call
    translation.ngettext("", "", 1)
    translation.pgettext("", "")
    translation.npgettext("", "", "", 1)
    kept = {name: getattr(translation._trans, name) for name in fakes}  # type: ignore[attr-defined]
    try:
        for name, fake in fakes.items():
            setattr(translation._trans, name, fake)  # type: ignore[attr-defined]
        yield
    finally:
        for name, one in kept.items():
            setattr(translation._trans, name, one)  # type: ignore[attr-defined]


class Texts(HTMLParser):
    """Collects what is read or spoken of a page that stands in no brackets and is of interest, each with the tag it stands in."""

    def __init__(self, interest: str) -> None:
        super().__init__(convert_charrefs=True)
        self.interest = interest
        self.open: list[str] = []
        self.depth = 0  # of brackets
        self.found: list[str] = []

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if tag not in VOID:
            self.open.append(tag)
        for name, value in attrs:
            if name in SPOKEN and value:
                self._look(value, f"{tag}@{name}", 0)

    def handle_endtag(self, tag: str) -> None:
        while tag in self.open and self.open.pop() != tag:
            pass

    def handle_data(self, data: str) -> None:
        if not SILENT & set(self.open):
            self.depth = self._look(data, self.open[-1] if self.open else "", self.depth)

    def _look(self, text: str, where: str, depth: int) -> int:
        bare = ""
        for letter in text:
            if letter == OPENS:
                depth += 1
            elif letter == CLOSES:
                depth = max(0, depth - 1)
            elif depth == 0:
                bare += letter
        for piece in re.split(r"\s{2,}|\n", bare):
            if re.search(self.interest, piece):
                self.found.append(f"{where}: {piece.strip()}")
        return depth


def bare(html: str, interest: str = r"[A-Za-z]{3}") -> list[str]:
    """The texts of a page that did not go through gettext and hold what is of interest, each once."""
    looked = Texts(interest)
    looked.feed(html)
    return list(dict.fromkeys(looked.found))
