"""Addresses of our own: where a form was sent from, and where it leads back to."""

from urllib.parse import urlsplit

from django.http import HttpRequest
from django.utils.http import url_has_allowed_host_and_scheme


def back_of(request: HttpRequest, otherwise: str) -> str:
    """Where a form says it stood, if that is a page of ours, else `otherwise`."""
    return own_address(request, request.POST.get("back", "")) or otherwise


def own_address(request: HttpRequest, address: str) -> str:
    """The address if it leads to a page of this very site, else nothing."""
    good = url_has_allowed_host_and_scheme(address, allowed_hosts={request.get_host()}, require_https=request.is_secure())
    return address if good and address.startswith("/") else ""


def sent_from(request: HttpRequest) -> dict[str, str]:
    """For the templates: the page whose form was sent, where that is answered by a page and not by an address."""
    if request.method != "POST":
        return {}
    asked = urlsplit(request.headers.get("Referer", ""))
    if asked.netloc != request.get_host():
        return {}
    return {"sent_from": own_address(request, asked.path + (f"?{asked.query}" if asked.query else ""))}
