"""Whether this process can do its work, within a second, whatever state the rest is in.

Answered before anything else looks at the request: a balancer asks over plain HTTP, by this machine's address. Asks the
database on a connection of its own, one question at a time: neither a busy pool nor a hundred balancers hold it up.
"""

import threading
import time
from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor
from concurrent.futures import TimeoutError as TookTooLong
from functools import lru_cache
from typing import Any

import psycopg
from django.db.migrations.loader import MigrationLoader
from django.http import HttpRequest, HttpResponse, JsonResponse

from shared.database import WORKER_GONE_AFTER, connection_parts

#: Who asks is answered within this time, s; and an answer is as good for so long.
PATIENCE, GOOD_FOR = 0.9, 0.5
#: A job that waits longer than this has no worker, s.
WAITS_TOO_LONG = 300

_QUEUE = """
SELECT count(*) FILTER (WHERE status IN ('todo', 'doing')), count(*) FILTER (WHERE status = 'failed'),
       coalesce(extract(epoch FROM max(now() - e.at) FILTER (
           WHERE j.status = 'todo' AND (j.scheduled_at IS NULL OR j.scheduled_at < now()))), 0)
FROM procrastinate_jobs j LEFT JOIN procrastinate_events e ON e.job_id = j.id AND e.type = 'deferred'
WHERE j.status IN ('todo', 'doing', 'failed')
"""
_WORKERS = "SELECT count(*) FROM procrastinate_workers WHERE last_heartbeat > now() - make_interval(secs => %s)"


@lru_cache(maxsize=1)
def _our_migrations() -> frozenset[tuple[str, str]]:
    loader = MigrationLoader(None)
    replaced = {key for migration in loader.disk_migrations.values() for key in migration.replaces}
    return frozenset(loader.disk_migrations) - replaced


def _look() -> dict[str, Any]:
    report: dict[str, Any] = {"database": "ok", "migrations": "ok", "queue": "ok", "worker": "ok"}
    try:
        with psycopg.connect(**connection_parts(), connect_timeout=2, options="-c statement_timeout=800") as line:
            there = {(app, name) for app, name in line.execute("SELECT app, name FROM django_migrations")}
            missing = _our_migrations() - there
            if missing:
                report["migrations"] = f"{len(missing)} to apply; run manage.py migrate"
            waiting, dead, waits = line.execute(_QUEUE).fetchone() or (0, 0, 0)
            (workers,) = line.execute(_WORKERS, [WORKER_GONE_AFTER]).fetchone() or (0,)
    except psycopg.Error as error:
        return report | {"database": f"no answer: {type(error).__name__}"}
    report |= {"jobs_waiting": waiting, "jobs_dead": dead, "oldest_waits_s": round(waits)}
    if waits > WAITS_TOO_LONG:
        report["queue"] = "jobs wait and no worker takes them; start one"
    if not workers:
        report["worker"] = "none shows a sign of life; start one"
    return report


class _Health:
    def __init__(self) -> None:
        self.lock = threading.Lock()
        self.asking: Future[dict[str, Any]] | None = None
        self.asked_at = 0.0
        self.pool = ThreadPoolExecutor(max_workers=1, thread_name_prefix="health")

    def report(self) -> dict[str, Any]:
        with self.lock:
            old = self.asking is None or (self.asking.done() and time.monotonic() - self.asked_at > GOOD_FOR)
            if old:
                self.asking, self.asked_at = self.pool.submit(_look), time.monotonic()
            asking = self.asking
        assert asking is not None
        try:
            return asking.result(timeout=PATIENCE)
        except TookTooLong:
            return {"database": "no answer within a second", "migrations": "not known", "queue": "not known",
                    "worker": "not known"}  # fmt: skip


_health = _Health()


class HealthFirst:
    """Answers /healthz before redirects, hosts and sessions are looked at."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if request.path_info != "/healthz":
            return self.get_response(request)
        report = _health.report()
        # dead jobs and a slow queue are for people to look at; a process that can't serve must not be sent requests
        well = report["database"] == "ok" and report["migrations"] == "ok"
        return JsonResponse(report, status=200 if well else 503)
