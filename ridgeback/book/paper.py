"""The sheet of a species on two pages of paper."""

from typing import Any

from django.contrib.staticfiles import finders
from django.http import HttpRequest
from django.template.loader import render_to_string

from husbandry.species.profile import Profile
from ridgeback import clock
from ridgeback.book import sheet
from ridgeback.units import KeeperUnits


def pdf(request: HttpRequest, profile: Profile, units: KeeperUnits) -> bytes:
    """Return the sheet as a PDF of two A4 pages; nothing is fetched but the program's own files."""
    import weasyprint  # its first import takes seconds: only who prints waits

    def own_files(url: str, *args: Any, **more: Any) -> Any:
        name = url.partition("own:")[2]
        path = finders.find(name) if name else None
        if path is None:
            raise ValueError(f"{url} is not one of the program's files")
        return weasyprint.default_url_fetcher(f"file://{path}")

    text = render_to_string("book/paper.html", sheet.context(profile, units) | {"units": units, "today": clock.today()}, request)
    document = weasyprint.HTML(string=text, url_fetcher=own_files, base_url="own:")
    return bytes(document.write_pdf() or b"")
