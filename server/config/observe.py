"""What whoever runs the server sees: one line a request, figures, and whether all is well. Nothing personal in any."""

import logging
import re
import time
import uuid
from collections.abc import Callable
from typing import Any

from django.conf import settings
from django.db import DatabaseError, connection
from django.db.migrations.executor import MigrationExecutor
from django.http import HttpRequest, HttpResponse, JsonResponse
from procrastinate.contrib.django.models import ProcrastinateJob
from prometheus_client import (
    CONTENT_TYPE_LATEST,
    REGISTRY,
    CollectorRegistry,
    Counter,
    Histogram,
    generate_latest,
    multiprocess,
)

log = logging.getLogger("warm.request")
_ID = re.compile(r"[A-Za-z0-9-]{8,64}")
REQUESTS = Counter("warm_requests", "Requests answered.", ["method", "route", "status"])
SECONDS = Histogram(
    "warm_request_seconds", "Time to the answer; a stream counts to its first byte.", ["route"],
    buckets=(0.005, 0.01, 0.025, 0.05, 0.1, 0.2, 0.5, 1, 2.5, 10),
)  # fmt: skip
#: A job that waits longer than this has no worker, s.
WAITS_TOO_LONG = 300


class RequestLog:
    """Gives each request an id, and writes one line about it: which route, how it went, how long it took."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        began = time.perf_counter()
        given = request.headers.get("X-Request-ID", "")
        request_id = given if _ID.fullmatch(given) else uuid.uuid4().hex
        response = self.get_response(request)
        seconds = time.perf_counter() - began
        response.headers["X-Request-ID"] = request_id
        match = request.resolver_match
        route = match.route if match else "none"  # the pattern, never the address: that may hold a token
        REQUESTS.labels(request.method, route, response.status_code).inc()
        SECONDS.labels(route).observe(seconds)
        level = logging.ERROR if response.status_code >= 500 else logging.INFO
        log.log(
            level,
            "request",
            extra={
                "request_id": request_id, "method": request.method, "route": route, "status": response.status_code,
                "ms": round(seconds * 1000, 1),
            },
        )  # fmt: skip
        return response


def metrics(request: HttpRequest) -> HttpResponse:
    """Figures in Prometheus's text format: to this machine, or to whoever has the token."""
    token = request.headers.get("Authorization", "").removeprefix("Bearer ")
    known = token == settings.METRICS_TOKEN if settings.METRICS_TOKEN else _from_here(request)
    if not known:
        return HttpResponse(status=404)
    registry = REGISTRY
    if settings.METRICS_DIR:  # each process leaves its own there: added up
        registry = CollectorRegistry()
        multiprocess.MultiProcessCollector(registry)  # type: ignore[no-untyped-call]
    waiting, dead = queue_counts()
    gauges = {"warm_jobs_waiting": waiting, "warm_jobs_dead": dead}
    lines = "".join(f"# TYPE {name} gauge\n{name} {count}\n" for name, count in gauges.items())
    return HttpResponse(generate_latest(registry) + lines.encode(), content_type=CONTENT_TYPE_LATEST)


def _from_here(request: HttpRequest) -> bool:
    return request.META.get("REMOTE_ADDR") in ("127.0.0.1", "::1") and "X-Forwarded-For" not in request.headers


def queue_counts() -> tuple[int, int]:
    """Jobs of the worker that wait, and those that were tried to the end and are dead."""
    jobs = ProcrastinateJob.objects
    return jobs.filter(status__in=["todo", "doing"]).count(), jobs.filter(status="failed").count()


def _waits_s() -> float:
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT coalesce(extract(epoch FROM max(now() - coalesce(e.at, now()))), 0) "
            "FROM procrastinate_jobs j JOIN procrastinate_events e ON e.job_id = j.id AND e.type = 'deferred' "
            "WHERE j.status = 'todo' AND (j.scheduled_at IS NULL OR j.scheduled_at < now())"
        )
        return float(cursor.fetchone()[0])


def healthz(request: HttpRequest) -> JsonResponse:
    """Whether this process can do its work: database, migrations, queue. 503 where it cannot."""
    report: dict[str, Any] = {"database": "ok", "migrations": "ok", "queue": "ok"}
    try:
        executor = MigrationExecutor(connection)
        missing = executor.migration_plan(executor.loader.graph.leaf_nodes())
        if missing:
            report["migrations"] = f"{len(missing)} to apply; run manage.py migrate"
        waiting, dead = queue_counts()
        waits = _waits_s()
        report |= {"jobs_waiting": waiting, "jobs_dead": dead, "oldest_waits_s": round(waits)}
        if waits > WAITS_TOO_LONG:
            report["queue"] = "jobs wait and no worker takes them; start one"
    except DatabaseError as error:
        report["database"] = f"no answer: {type(error).__name__}"
    # dead jobs and a slow queue are for people to look at; a process that can't serve must not be sent requests
    well = report["database"] == "ok" and report["migrations"] == "ok"
    return JsonResponse(report, status=200 if well else 503)
