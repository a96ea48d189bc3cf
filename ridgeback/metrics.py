"""Figures for Prometheus at `/metrics`, for whoever knows RIDGEBACK_METRICS_TOKEN; without that setting there is no such page.

Counted are requests by page, method and status, and the seconds they take; read when asked are the jobs of the worker.
Nothing is told of rooms, animals or people. All web processes count into one folder (PROMETHEUS_MULTIPROC_DIR, set by the server).
"""

import os
import secrets
import time
from collections.abc import Callable, Iterable
from typing import Any, Final

from django.conf import settings
from django.contrib.auth.decorators import login_not_required
from django.db import DatabaseError, connection
from django.http import Http404, HttpRequest, HttpResponse
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_GET
from prometheus_client import CONTENT_TYPE_LATEST, REGISTRY, CollectorRegistry, Counter, Histogram, generate_latest
from prometheus_client.core import GaugeMetricFamily
from prometheus_client.multiprocess import MultiProcessCollector

from ridgeback.logs import route_of

Respond = Callable[[HttpRequest], HttpResponse]
FOLDER: Final = "PROMETHEUS_MULTIPROC_DIR"
SECONDS: Final = (0.02, 0.05, 0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 30.0)
REQUESTS: Final = Counter("ridgeback_requests", "Requests answered", ["route", "method", "status"])
TOOK: Final = Histogram("ridgeback_request_seconds", "Seconds until a request was answered", ["route"], buckets=SECONDS)
METHODS: Final = frozenset({"GET", "POST", "HEAD", "OPTIONS", "PATCH", "PUT", "DELETE"})
JOBS: Final = "select status::text, count(*) from procrastinate_jobs group by 1"


def counted(respond: Respond) -> Respond:
    """Middleware: count each request."""

    def answer(request: HttpRequest) -> HttpResponse:
        began = time.perf_counter()
        response = respond(request)
        route = route_of(request)
        method = request.method if request.method in METHODS else "other"
        REQUESTS.labels(route, method, response.status_code).inc()
        TOOK.labels(route).observe(time.perf_counter() - began)
        return response

    return answer


class OfTheDatabase:
    """What the database knows when it is asked."""

    def collect(self) -> Iterable[Any]:
        """Whether it answers, and the worker's jobs by their state."""
        up = GaugeMetricFamily("ridgeback_database_up", "1 where the database answers")
        jobs = GaugeMetricFamily("ridgeback_jobs", "Jobs of the worker by state", labels=["state"])
        try:
            with connection.cursor() as cursor:
                cursor.execute(JOBS)
                for state, many in cursor.fetchall():
                    jobs.add_metric([state], many)
            up.add_metric([], 1)
        except DatabaseError:
            up.add_metric([], 0)
        yield up
        yield jobs


@never_cache
@login_not_required
@require_GET
def metrics(request: HttpRequest) -> HttpResponse:
    """All figures in Prometheus' own form. 404 without the setting or with another token."""
    given = request.headers.get("Authorization", "").removeprefix("Bearer ")
    wanted = settings.METRICS_TOKEN
    if not wanted or not secrets.compare_digest(given.encode(), wanted.encode()):
        raise Http404
    registry = CollectorRegistry()
    if os.environ.get(FOLDER):
        MultiProcessCollector(registry)
    registry.register(OfTheDatabase())
    text = generate_latest(registry) if os.environ.get(FOLDER) else generate_latest(REGISTRY) + generate_latest(registry)
    return HttpResponse(text, content_type=CONTENT_TYPE_LATEST)
