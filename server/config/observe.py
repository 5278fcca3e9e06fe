"""What whoever runs the server sees: one line a request, our mistakes with where they were made, figures.

Nothing personal in any.
"""

import logging
import re
import sys
import time
import traceback
import uuid
from collections.abc import Callable
from typing import Any

from django.conf import settings
from django.core.signals import got_request_exception
from django.dispatch import receiver
from django.http import HttpRequest, HttpResponse
from django.utils.crypto import constant_time_compare
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
#: Methods there are figures of; whatever else somebody invents is one more, together.
_METHODS = frozenset({"GET", "HEAD", "POST", "PUT", "DELETE", "OPTIONS"})
#: What may stand in the words of an error and is somebody's: e-mails, tokens, and what a database says of a row.
_SOMEBODYS = re.compile(r"[^\s@'\"(<]+@[^\s@'\")>]+|\b[A-Za-z0-9_-]{24,}\b|(?m:^DETAIL:.*$)")


def without_persons(text: str) -> str:
    """A text for a log, with what may be somebody's taken out."""
    return _SOMEBODYS.sub("…", text)


def request_id_of(request: HttpRequest) -> str:
    """What a request is found under in the log."""
    return str(getattr(request, "warm_id", "none"))


def _route_of(request: HttpRequest) -> str:
    match = request.resolver_match
    return match.route if match else "none"  # the pattern, never the address: that may hold a token


def note_error(request: HttpRequest) -> None:
    """Write down the error that is being handled: traceback, route, request id."""
    told = without_persons("".join(traceback.format_exception(*sys.exc_info())))
    log.error("error", extra={"request_id": request_id_of(request), "route": _route_of(request), "traceback": told})


@receiver(got_request_exception)
def _on_exception(sender: Any, request: HttpRequest | None = None, **_: Any) -> None:
    """What no handler of the API took: an error of a middleware, of the front end's route."""
    if request is not None:
        note_error(request)


class RequestLog:
    """Gives each request an id, and writes one line about it: which route, how it went, how long it took."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        began = time.perf_counter()
        given = request.headers.get("X-Request-ID", "")
        request_id = given if _ID.fullmatch(given) else uuid.uuid4().hex
        request.warm_id = request_id  # type: ignore[attr-defined]
        response = self.get_response(request)
        seconds = time.perf_counter() - began
        response.headers["X-Request-ID"] = request_id
        route = _route_of(request)
        method = request.method if request.method in _METHODS else "other"
        REQUESTS.labels(method, route, response.status_code).inc()
        SECONDS.labels(route).observe(seconds)
        level = logging.ERROR if response.status_code >= 500 else logging.INFO
        log.log(
            level,
            "request",
            extra={
                "request_id": request_id, "method": method, "route": route, "status": response.status_code,
                "ms": round(seconds * 1000, 1),
            },
        )  # fmt: skip
        return response


def metrics(request: HttpRequest) -> HttpResponse:
    """Figures in Prometheus's text format: to this machine, or to whoever has the token."""
    token = request.headers.get("Authorization", "").removeprefix("Bearer ")
    asked_for = settings.METRICS_TOKEN
    known = constant_time_compare(token, asked_for) if asked_for else _from_here(request)
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


#: What proxies say of whom they ask for: with any of these a request is not this machine's own.
_PROXIED = ("X-Forwarded-For", "X-Forwarded-Host", "X-Forwarded-Proto", "X-Real-IP", "Forwarded", "Via")


def _from_here(request: HttpRequest) -> bool:
    here = request.META.get("REMOTE_ADDR") in ("127.0.0.1", "::1")
    return here and not any(name in request.headers for name in _PROXIED)


def queue_counts() -> tuple[int, int]:
    """Jobs of the worker that wait, and those that were tried to the end and are dead."""
    jobs = ProcrastinateJob.objects
    return jobs.filter(status__in=["todo", "doing"]).count(), jobs.filter(status="failed").count()
