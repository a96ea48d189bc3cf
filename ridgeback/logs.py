"""Logs for whoever runs it: a line for each request or fault, with a number that the error page shows too, and nothing of anybody.

No names, addresses, paths or values: a path may hold a secret address, an exception's words may hold what somebody typed. What is
said is the name of the page, the status, the time it took, and for a fault its kind and the lines of the program it came through.
"""

import json
import logging
import secrets
import time
import traceback
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path
from typing import Any, Final

from django.core.exceptions import ImproperlyConfigured
from django.db import InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse
from django.urls import Resolver404, resolve

Respond = Callable[[HttpRequest], HttpResponse]
ROOT: Final = Path(__file__).resolve().parent.parent
HEADER: Final = "X-Request-Id"
FRAMES: Final = 8
# Faults whose own words are about machines and never about people.
OF_MACHINES: Final = (OperationalError, InterfaceError, ImproperlyConfigured)
# What passes by itself: where in the program it was noticed says nothing.
PASSING: Final = (OperationalError, InterfaceError)
SAID: Final = ("number", "route", "method", "status", "ms", "bytes")
access: Final = logging.getLogger("ridgeback.access")


def numbered(respond: Respond) -> Respond:
    """Middleware, the outermost: each request has a number, which its answer carries; one line of it is logged."""

    def answer(request: HttpRequest) -> HttpResponse:
        request.number = secrets.token_hex(5)  # type: ignore[attr-defined]
        began = time.perf_counter()
        response = respond(request)
        response[HEADER] = number_of(request)
        if access.isEnabledFor(logging.INFO):
            size = None if response.streaming else len(response.content)
            told = {
                "number": number_of(request),
                "route": route_of(request),
                "method": request.method,
                "status": response.status_code,
            }
            access.info("", extra=told | {"ms": round(1000 * (time.perf_counter() - began)), "bytes": size})
        return response

    return answer


def number_of(request: HttpRequest | None) -> str:
    """The number of a request; "" for what never got one."""
    return str(getattr(request, "number", ""))


def route_of(request: HttpRequest) -> str:
    """The name of the page that is asked for: never the path, which may hold a secret address."""
    match = request.resolver_match
    if match is None:
        try:
            match = resolve(request.path_info)
        except Resolver404:
            return "nowhere"
    return match.view_name or "nowhere"


class Plainly(logging.Filter):
    """Puts a page's name and the request's number where Django would write its path."""

    def filter(self, record: logging.LogRecord) -> bool:
        request = getattr(record, "request", None)
        if isinstance(request, HttpRequest):
            record.route, record.number, record.method = route_of(request), number_of(request), request.method
            record.msg, record.args = "", ()
            record.status = getattr(record, "status_code", "")
        return True


class Lines(logging.Formatter):
    """One line for each record: as JSON, or as words for a terminal."""

    def __init__(self, form: str = "text") -> None:
        super().__init__()
        self.form = form

    def format(self, record: logging.LogRecord) -> str:
        """A record as one line."""
        told: dict[str, Any] = {"at": datetime.fromtimestamp(record.created, UTC).isoformat(timespec="milliseconds")}
        told |= {"level": record.levelname.lower(), "from": record.name}
        told |= {name: getattr(record, name) for name in SAID if getattr(record, name, None) not in (None, "")}
        if text := record.getMessage():
            told["says"] = text
        if record.exc_info and record.exc_info[1] is not None:
            told |= fault(record.exc_info[1])
        if self.form == "json":
            return json.dumps(told, default=str)
        about = " ".join(f"{name}={value}" for name, value in told.items() if name not in ("at", "level", "from", "says"))
        return " ".join(part for part in (told["at"], told["level"], told["from"], str(told.get("says", "")), about) if part)


def fault(error: BaseException) -> dict[str, str]:
    """A fault's kind, its words where they are a machine's, and the lines of the program it came through."""
    told = {"fault": f"{type(error).__module__}.{type(error).__qualname__}"}
    if isinstance(error, OF_MACHINES):
        told["words"] = (str(error).splitlines() or [""])[0][:200]
    if isinstance(error, PASSING):
        return told
    frames = [
        f"{Path(frame.filename).relative_to(ROOT)}:{frame.lineno}"
        for frame in traceback.extract_tb(error.__traceback__)
        if Path(frame.filename).is_relative_to(ROOT) and ".venv" not in frame.filename
    ]
    last = traceback.extract_tb(error.__traceback__)[-1:]
    ends = [f"{Path(frame.filename).name}:{frame.lineno}" for frame in last]
    return told | {"at_lines": " > ".join([*frames[-FRAMES:], *ends])}
