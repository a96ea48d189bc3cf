"""What pages share: the version an edit began at, a file to take along."""

from django.http import Http404, HttpRequest, HttpResponse
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
