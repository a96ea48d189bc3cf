"""The sheet of a species on two pages of paper."""

from datetime import date
from typing import Any

from django.contrib.staticfiles import finders
from django.template.loader import render_to_string

from husbandry.species.profile import Profile
from ridgeback.book import sheet
from ridgeback.units import KeeperUnits


def pdf(profile: Profile, units: KeeperUnits, today: date) -> bytes:
    """Return the sheet as a PDF."""
    return bytes(document(profile, units, today).write_pdf() or b"")


def document(profile: Profile, units: KeeperUnits, today: date) -> Any:
    """Lay the sheet out on two A4 pages; nothing is fetched but the program's own files."""
    import weasyprint  # its first import takes seconds: only who prints waits

    def own_files(url: str, *args: Any, **more: Any) -> Any:
        name = url.partition("own:")[2]
        path = finders.find(name) if name else None
        if path is None:
            raise ValueError(f"{url} is not one of the program's files")
        return weasyprint.default_url_fetcher(f"file://{path}")

    text = render_to_string("book/paper.html", sheet.context(profile, units) | {"units": units, "today": today})
    return weasyprint.HTML(string=text, url_fetcher=own_files, base_url="own:").render()
