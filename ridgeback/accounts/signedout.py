"""Somebody signed out while a page was open: the whole page goes to the sign-in, not a piece of it."""

from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.shortcuts import resolve_url
from django.utils.http import urlencode
from django_htmx.http import HttpResponseClientRedirect

Respond = Callable[[HttpRequest], HttpResponse]


def signed_out_while_open(respond: Respond) -> Respond:
    """Middleware: answer an htmx request that is sent to the sign-in with a redirect of the browser, back to where it was."""

    def answer(request: HttpRequest) -> HttpResponse:
        response = respond(request)
        sign_in = resolve_url(settings.LOGIN_URL)
        if request.htmx and response.status_code == 302 and response["Location"].startswith(sign_in):  # type: ignore[attr-defined]
            back = request.htmx.current_url_abs_path or "/"  # type: ignore[attr-defined]
            return HttpResponseClientRedirect(f"{sign_in}?{urlencode({'next': back})}")
        return response

    return answer
