"""The sheet of a species on two pages of paper."""

from datetime import date
from typing import Any

from django.contrib.staticfiles import finders
from django.template.loader import render_to_string

from husbandry.species.profile import Profile
from ridgeback.book import sheet
from ridgeback.units import KeeperUnits

FONTS = ("vendor/bitter/bitter-latin-wght-normal.woff2", "vendor/source-sans-3/source-sans-3-latin-wght-normal.woff2")


def pdf(profile: Profile, units: KeeperUnits, today: date) -> bytes:
    """Return the sheet as a PDF."""
    return bytes(document(profile, units, today).write_pdf() or b"")


def fonts() -> dict[str, str]:
    """The addresses of the program's own fonts, for a template's font faces."""
    bitter, source_sans = (f"file://{finders.find(name)}" for name in FONTS)
    return {"bitter": bitter, "source_sans": source_sans}


def laid_out(html: str) -> Any:
    """Lay out a page of HTML; nothing is read but the program's own fonts."""
    import weasyprint  # its first import takes seconds: only who prints waits
    from weasyprint.urls import URLFetcher

    own = set(fonts().values())

    class OwnFonts(URLFetcher):
        def fetch(self, url: str, headers: Any = None) -> Any:
            if url not in own:
                raise ValueError(f"{url} is not one of the program's files")
            return super().fetch(url, headers)

    fetcher = OwnFonts(allowed_protocols=["file"], allow_redirects=False)
    return weasyprint.HTML(string=html, url_fetcher=fetcher).render()


def document(profile: Profile, units: KeeperUnits, today: date) -> Any:
    """Lay the sheet out on two A4 pages."""
    context = sheet.context(profile, units) | {"units": units, "today": today} | fonts()
    return laid_out(render_to_string("book/paper.html", context))
