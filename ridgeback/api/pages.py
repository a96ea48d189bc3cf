"""The API's own pages: what it offers, as a page and as OpenAPI, and a room's tokens."""

from typing import Any

from django.contrib import messages
from django.contrib.auth.decorators import login_not_required
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from ridgeback import clock
from ridgeback.api import access
from ridgeback.api.models import Token
from ridgeback.api.v1 import api
from ridgeback.daybook.writing import intent_of, writing
from ridgeback.rooms.access import keeper_of, owned_room_or_404, rooms_of


def openapi_schema() -> dict[str, Any]:
    """The API as an OpenAPI document."""
    return dict(api.get_openapi_schema(path_prefix="/api/v1/"))


@login_not_required
@require_GET
def openapi(request: HttpRequest) -> HttpResponse:
    """The API as OpenAPI."""
    return JsonResponse(openapi_schema())


@login_not_required
@require_GET
def reference(request: HttpRequest) -> HttpResponse:
    """The API as a page."""
    schema = openapi_schema()
    rows = [
        {
            "method": method.upper(),
            "path": path,
            "said": about.get("description", ""),
            "asks": [f"{one['name']} ({one['in']})" for one in about.get("parameters", ())],
            "takes": _name(about.get("requestBody", {}).get("content", {}).get("application/json", {}).get("schema", {})),
            "gives": [
                {"code": code, "what": _name(answer.get("content", {}).get("application/json", {}).get("schema", {}))}
                for code, answer in about["responses"].items()
            ],
        }
        for path, methods in schema["paths"].items()
        for method, about in methods.items()
    ]
    shapes = [
        {
            "name": name,
            "said": shape.get("description", ""),
            "fields": [{"name": field, "type": _name(of)} for field, of in shape.get("properties", {}).items()],
        }
        for name, shape in sorted(schema["components"]["schemas"].items())
    ]
    return render(request, "api/reference.html", {"rows": rows, "shapes": shapes, "about": schema["info"]["description"]})


def _name(schema: dict[str, Any]) -> str:
    """A schema in a word."""
    if "$ref" in schema:
        return str(schema["$ref"]).rpartition("/")[2]
    if schema.get("type") == "array":
        return f"[{_name(schema.get('items', {}))}]"
    if "anyOf" in schema:
        return " | ".join(_name(one) for one in schema["anyOf"])
    return str(schema.get("type", ""))


@require_http_methods(["GET", "POST"])
def tokens(request: HttpRequest, pk: int) -> HttpResponse:
    """A room's tokens; a new one is shown once."""
    room = owned_room_or_404(request, pk)
    if request.method == "POST":
        name = request.POST.get("name", "").strip()[:60]
        scopes = [scope for scope in access.SCOPES if scope in request.POST.getlist("scopes")]
        if not name or not scopes:
            messages.error(request, _("Say which program it is for, and what it may do."))
        else:
            intent = intent_of(request)
            with writing(intent, room=room.pk):
                _made, token = access.make(room, keeper_of(request), name, scopes, intent.at)
            request.session["fresh_token"] = token
        return redirect("api:tokens", room.pk)
    context = {
        "room": room,
        "tokens": Token.objects.filter(room=room, ended_at__isnull=True).select_related("made_by").order_by("made_at"),
        "scopes": access.SCOPES.items(),
        "fresh": request.session.pop("fresh_token", None),
    }
    return render(request, "api/tokens.html", context)


@require_POST
def end_token(request: HttpRequest, pk: int) -> HttpResponse:
    """End a token: its program is answered nothing more."""
    found = get_object_or_404(Token, pk=pk, room__in=rooms_of(keeper_of(request)), ended_at__isnull=True)
    owned_room_or_404(request, found.room_id)
    with writing(intent_of(request), room=found.room_id):
        Token.objects.filter(pk=found.pk).update(ended_at=clock.now())
    return redirect("api:tokens", found.room_id)
