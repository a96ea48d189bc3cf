"""The sitter's card on paper."""

from datetime import date
from typing import Any

from django.template.loader import render_to_string

from ridgeback.book import paper


def sitter_card(room: str, habitats: list[dict[str, Any]], begin: date, end: date, today: date) -> bytes:
    """Return the card as a PDF: what is daily, what on which day, and whom to call."""
    context = {"room": room, "habitats": habitats, "begin": begin, "end": end, "today": today}
    return bytes(paper.laid_out(render_to_string("rota/sitter.html", context | paper.fonts())).write_pdf() or b"")
