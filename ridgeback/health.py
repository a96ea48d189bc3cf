"""The health page and the error pages."""

import sys

from django.contrib.auth.decorators import login_not_required
from django.db import InterfaceError, OperationalError, connection, transaction
from django.db.migrations.executor import MigrationExecutor
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import render
from django.template.loader import get_template
from django.utils.translation import gettext as _
from django.views.decorators.cache import never_cache

from ridgeback import logs
from ridgeback.edge import PROGRAMS


@never_cache
@transaction.non_atomic_requests
@login_not_required
def health(request: HttpRequest) -> HttpResponse:
    """Say in one word whether the application and its database answer."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("select 1")
    except OperationalError:
        return HttpResponse("no database\n", status=503, content_type="text/plain")
    return HttpResponse("well\n", content_type="text/plain")


@never_cache
@transaction.non_atomic_requests
@login_not_required
def ready(request: HttpRequest) -> HttpResponse:
    """Say in one word whether it can take requests: the database answers, can be written to, and is of this program's version."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("select pg_is_in_recovery()")
            if cursor.fetchone()[0]:
                return HttpResponse("read only\n", status=503, content_type="text/plain")
        executor = MigrationExecutor(connection)
        if executor.migration_plan(executor.loader.graph.leaf_nodes()):
            return HttpResponse("not migrated\n", status=503, content_type="text/plain")
    except OperationalError:
        return HttpResponse("no database\n", status=503, content_type="text/plain")
    return HttpResponse("ready\n", content_type="text/plain")


def _page(request: HttpRequest, status: int, title: str, advice: str) -> HttpResponse:
    if request.path.startswith(PROGRAMS):
        return JsonResponse({"error": f"{title}. {advice}", "problems": []}, status=status)
    return render(request, "error.html", {"title": title, "advice": advice, "status": status}, status=status)


def bad_request(request: HttpRequest, exception: Exception) -> HttpResponse:
    return _page(request, 400, _("That request made no sense"), _("Go back, reload the page and try again."))


def forbidden(request: HttpRequest, exception: Exception) -> HttpResponse:
    return _page(
        request,
        403,
        _("Not allowed"),
        _("Your account may not do this here: it may look, or its days are over. Ask who owns the room."),
    )


def not_found(request: HttpRequest, exception: Exception) -> HttpResponse:
    return _page(request, 404, _("Nothing here"), _("The page does not exist, or it belongs to a room you are not a member of."))


@login_not_required
def server_error(request: HttpRequest) -> HttpResponse:
    """What broke: 503 where the database is away or busy, for that passes by itself; else 500."""
    # No database and no context processors here: either may be what failed.
    away = isinstance(sys.exc_info()[1], OperationalError | InterfaceError)
    number, status = logs.number_of(request), 503 if away else 500
    response: HttpResponse
    if request.path.startswith(PROGRAMS):
        said = "The database is away; ask again in a moment." if away else f"Something broke here; its number is {number}."
        response = JsonResponse({"error": said, "problems": []}, status=status)
    else:
        response = HttpResponse(get_template("error_plain.html").render({"away": away, "number": number}), status=status)
    if away:
        response["Retry-After"] = "5"
    return response


def csrf_failure(request: HttpRequest, reason: str = "") -> HttpResponse:
    return _page(request, 403, _("This page had grown old"), _("Reload it and try again; nothing was saved."))
