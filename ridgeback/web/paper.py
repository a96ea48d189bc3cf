"""Pages on paper: a template laid out as a PDF, with the program's own fonts and nothing else from outside."""

from collections.abc import Mapping
from typing import Any, Final

from django.contrib.staticfiles import finders
from django.http import HttpResponse
from django.template.loader import render_to_string

FONTS: Final = ("vendor/bitter/bitter-latin-wght-normal.woff2", "vendor/source-sans-3/source-sans-3-latin-wght-normal.woff2")


def printed(template: str, context: Mapping[str, Any], name: str) -> HttpResponse:
    """Answer with a template as a PDF, shown where it is opened, under a file's name."""
    answer = HttpResponse(bytes(laid_out(template, context).write_pdf() or b""), content_type="application/pdf")
    answer["Content-Disposition"] = f'inline; filename="{name}.pdf"'
    return answer


def laid_out(template: str, context: Mapping[str, Any]) -> Any:
    """Lay a template out on pages of paper; nothing is read but the program's own fonts."""
    import weasyprint  # its first import takes seconds: only who prints waits
    from weasyprint.urls import URLFetcher

    bitter, source_sans = (f"file://{finders.find(font)}" for font in FONTS)
    own = {bitter, source_sans}

    class OwnFonts(URLFetcher):
        def fetch(self, url: str, headers: Any = None) -> Any:
            if url not in own:
                raise ValueError(f"{url} is not one of the program's files")
            return super().fetch(url, headers)

    html = render_to_string(template, {**context, "bitter": bitter, "source_sans": source_sans})
    fetcher = OwnFonts(allowed_protocols=["file"], allow_redirects=False)
    return weasyprint.HTML(string=html, url_fetcher=fetcher).render()
