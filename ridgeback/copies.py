"""Pages that only read may be read from a copy of the database that follows it (a streaming replica, DATABASE_REPLICA_URL).

A copy is a moment behind. So whoever has just written reads from the database itself for a while; so does a request from its first
write on; and so does everybody while the copy is away or further behind than it may be. Sessions, accounts and what programs ask by
the API always come from the database itself.
"""

import threading
import time
from collections.abc import Callable
from contextvars import ContextVar
from typing import Any, Final

from django.conf import settings
from django.db import DatabaseError, connections
from django.http import HttpRequest, HttpResponse

from ridgeback.edge import PROGRAMS

Respond = Callable[[HttpRequest], HttpResponse]
COPY: Final = "replica"
COOKIE: Final = "wrote"
BEHIND_S: Final = 5.0  # further behind than this it is not read from
WROTE_S: Final = 10  # for so long whoever wrote reads from the database itself: longer than a copy may be behind
LOOKED_AT_EVERY_S: Final = 2.0
AWAY_S: Final = 20.0
READING: Final = frozenset({"GET", "HEAD"})
# Who somebody is and whether they may come in is never asked of a copy.
NEVER: Final = frozenset({"accounts", "sessions", "auth", "axes", "otp_totp", "otp_static", "procrastinate"})
# Seconds behind: none where everything that came was applied, for a database that rests sends nothing.
BEHIND: Final = """
    select case when not pg_is_in_recovery() then 0
                when not exists (select 1 from pg_stat_wal_receiver) then 1e9
                when pg_last_wal_receive_lsn() = pg_last_wal_replay_lsn() then 0
                else coalesce(extract(epoch from clock_timestamp() - pg_last_xact_replay_timestamp()), 1e9) end
"""
_from_copy: ContextVar[bool] = ContextVar("from_copy", default=False)


class Copies:
    """Django's router: a request that only reads is sent to the copy until it writes."""

    def db_for_read(self, model: Any, **_hints: Any) -> str:
        """Where a model's rows are read."""
        return COPY if _from_copy.get() and model._meta.app_label not in NEVER else "default"

    def db_for_write(self, model: Any, **_hints: Any) -> str:
        """Where they are written; what is read after that in the same request is read there too."""
        if model._meta.app_label not in NEVER:
            _from_copy.set(False)
        return "default"

    def allow_relation(self, one: Any, other: Any, **_hints: Any) -> bool:
        """The copy has the same rows."""
        return True

    def allow_migrate(self, db: str, app_label: str, **_hints: Any) -> bool:
        """Only the database itself is changed."""
        return db == "default"


class Health:
    """Whether the copy is there and close behind, asked anew every two seconds by whoever comes."""

    def __init__(self) -> None:
        self.lock, self.until, self.good = threading.Lock(), 0.0, False

    def well(self) -> bool:
        with self.lock:
            now = time.monotonic()
            if now >= self.until:
                self.good = _close_behind()
                self.until = now + (LOOKED_AT_EVERY_S if self.good else AWAY_S)
            return self.good

    def away(self) -> None:
        """It failed while it was read from."""
        with self.lock:
            self.good, self.until = False, time.monotonic() + AWAY_S


def _close_behind() -> bool:
    try:
        with connections[COPY].cursor() as cursor:
            cursor.execute(BEHIND)
            return float(cursor.fetchone()[0]) <= BEHIND_S
    except DatabaseError:
        connections[COPY].close()
        return False


health: Final = Health()


def read_from_copy(respond: Respond) -> Respond:
    """Middleware: choose where a request reads, where there is a copy; a page that the copy fails at is read from the database."""
    if COPY not in settings.DATABASES:
        return respond

    def answer(request: HttpRequest) -> HttpResponse:
        reads = request.method in READING
        if not (reads and COOKIE not in request.COOKIES and not request.path.startswith(PROGRAMS) and health.well()):
            response = respond(request)
            return response if reads else _wrote(response)
        token = _from_copy.set(True)
        try:
            response = respond(request)
            only_read = _from_copy.get()
        finally:
            _from_copy.reset(token)
        if response.status_code == 503 and only_read:
            health.away()
            connections[COPY].close()
            return respond(request)
        return response if only_read else _wrote(response)

    return answer


def _wrote(response: HttpResponse) -> HttpResponse:
    response.set_cookie(COOKIE, "1", max_age=WROTE_S, httponly=True, samesite="Lax", secure=settings.HTTPS)
    return response
