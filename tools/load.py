"""Many clients at once against a running app: how long each request takes, signed in."""

from __future__ import annotations

import http.client
import json
import statistics
import threading
import time
import uuid
from collections.abc import Callable
from urllib.parse import urlparse

CLIENTS = 20


class Client:
    """One signed-in person with a connection kept open."""

    def __init__(self, url: str, email: str, password: str) -> None:
        place = urlparse(url)
        self.line = http.client.HTTPConnection(place.hostname or "", place.port, timeout=60)
        self.cookies: dict[str, str] = {}
        self.ask("GET", "/api/v1/session")
        status, _ = self.ask("POST", "/api/v1/session", {"email": email, "password": password})
        assert status == 200, status

    def ask(self, method: str, path: str, body: object = None) -> tuple[int, bytes]:
        """One request; status and body."""
        headers = {"Cookie": "; ".join(f"{k}={v}" for k, v in self.cookies.items()), "Content-Type": "application/json",
                   "X-CSRFToken": self.cookies.get("csrftoken", "")}  # fmt: skip
        told = None if body is None else json.dumps(body)
        try:
            self.line.request(method, path, told, headers)
            answer = self.line.getresponse()
        except (http.client.RemoteDisconnected, ConnectionError):  # kept open without a word: once more, on a new one
            self.line.close()
            self.line.request(method, path, told, headers)
            answer = self.line.getresponse()
        for name, value in answer.getheaders():
            if name.lower() == "set-cookie":
                key, _, rest = value.partition("=")
                self.cookies[key] = rest.split(";")[0]
        return answer.status, answer.read()


def p95_seconds(clients: list[Client], ask: Callable[[Client, int], tuple[int, bytes]], each: int) -> float:
    """95th percentile over all clients asking at once, `each` times; every answer has to be a good one."""
    spans: list[float] = []
    bad: list[int] = []

    def run(client: Client) -> None:
        for i in range(each):
            began = time.perf_counter()
            status, _ = ask(client, i)
            spans.append(time.perf_counter() - began)
            if status not in (200, 204):
                bad.append(status)

    threads = [threading.Thread(target=run, args=(client,)) for client in clients]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert not bad, bad[:5]
    return statistics.quantiles(spans, n=20)[-1]


def verdict_under_load(url: str, email: str, password: str) -> tuple[float, float, float]:
    """p95 of doing nothing, of the verdict when nothing has changed, and when every request adds a reading; seconds."""
    clients = [Client(url, email, password) for _ in range(CLIENTS)]
    rows = json.loads(clients[0].ask("GET", "/api/v1/jobs")[1])
    open_jobs = [row["id"] for row in rows if not row["handed_over"]]

    def job(client: Client) -> str:
        return str(open_jobs[clients.index(client) % len(open_jobs)])

    def reading(client: Client, i: int) -> tuple[int, bytes]:
        facts = {"kind": "outlet_flow", "typed": f"{90 + i}", "unit": "cfm", "at": "2026-11-25T09:00:00+00:00"}
        return client.ask("PUT", f"/api/v1/jobs/{job(client)}/readings/{uuid.uuid4()}", facts)

    for client in clients:  # warm up
        client.ask("GET", f"/api/v1/jobs/{job(client)}")
    nothing = p95_seconds(clients, lambda client, _: client.ask("GET", "/api/v1/nothing"), 30)
    same = p95_seconds(clients, lambda client, _: client.ask("GET", f"/api/v1/jobs/{job(client)}"), 30)
    return nothing, same, p95_seconds(clients, reading, 8)
