"""What pages share: the version an edit began at, a file to take along."""

import io
import tempfile
from collections.abc import Callable
from typing import IO

from django.http import FileResponse, Http404, HttpRequest, HttpResponse
from django.utils.text import slugify

from ridgeback.web import typed


def version_of(request: HttpRequest) -> int:
    """The version an edit began at."""
    version = typed.whole(request.POST.get("version"))
    if version is None:
        raise Http404
    return version


def download(data: bytes, content_type: str, name: str, ending: str) -> HttpResponse:
    response = HttpResponse(data, content_type=content_type)
    response["Content-Disposition"] = f'attachment; filename="{slugify(name) or "habitat"}-{ending}"'
    return response


def written(write: Callable[[IO[bytes]], None], content_type: str, name: str, ending: str) -> FileResponse:
    """A file to take along that may be long: written to the disk first, and closed when it has been sent.

    The server sends a file without a thread of its own, so that a phone that is slow to fetch it keeps nobody else waiting.
    """
    file = tempfile.TemporaryFile()  # noqa: SIM115  # the response closes it
    try:
        write(file)
    except BaseException:
        file.close()
        raise
    file.seek(0)
    return FileResponse(file, as_attachment=True, filename=f"{slugify(name) or 'habitat'}-{ending}", content_type=content_type)


def written_text(write: Callable[[IO[str]], None], content_type: str, name: str, ending: str) -> FileResponse:
    """The same for a file of text, in UTF-8."""

    def encoded(file: IO[bytes]) -> None:
        out = io.TextIOWrapper(file, encoding="utf-8", newline="")
        write(out)
        out.detach()

    return written(encoded, f"{content_type}; charset=utf-8", name, ending)
