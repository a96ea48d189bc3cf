from django.contrib.auth.decorators import login_not_required
from django.urls import URLPattern, path
from django.views.decorators.csrf import csrf_exempt

from ridgeback.api import pages, webhook_pages
from ridgeback.api.v1 import api

app_name = "api"


def _by_token() -> list[URLPattern]:
    """The addresses of the API itself: a token speaks there, no session and no cookie."""
    found = [one for one in api.urls[0] if isinstance(one, URLPattern) and one.name != "api-root"]
    for one in found:
        one.callback = csrf_exempt(login_not_required(one.callback))
    return found


urlpatterns = [
    path("api/", pages.reference, name="reference"),
    path("api/v1/openapi.json", pages.openapi, name="openapi"),
    path("api/v1/", (_by_token(), "api-v1", "api-v1")),
    path("rooms/<int:pk>/tokens/", pages.tokens, name="tokens"),
    path("tokens/<int:pk>/end/", pages.end_token, name="end-token"),
    path("rooms/<int:pk>/webhooks/", webhook_pages.webhooks, name="webhooks"),
    path("webhooks/<int:pk>/end/", webhook_pages.end_webhook, name="end-webhook"),
    path("webhooks/<int:pk>/try/", webhook_pages.try_webhook, name="try-webhook"),
]
