"""QR codes as SVG, for a page and for paper."""

import io
from typing import Final

import segno
from django.utils.safestring import SafeString, mark_safe

ERROR: Final = "m"  # a seventh of it may be dirty


def qr_svg(text: str) -> SafeString:
    """An address as a QR code: an `svg` without a size of its own, dark on nothing."""
    made = io.BytesIO()
    segno.make(text, error=ERROR, micro=False).save(
        made, kind="svg", xmldecl=False, svgns=True, omitsize=True, svgclass="qr", lineclass=None
    )
    return mark_safe(made.getvalue().decode())
