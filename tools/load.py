"""Many clients at once against a running app: how long each request takes, signed in."""

from __future__ import annotations

import http.client
import json
import random
import statistics
import threading
import time
import uuid
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import urlparse

from warm.serve import serving

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
        """One request; status and body. body: bytes as they are, anything else as JSON."""
        headers = {"Cookie": "; ".join(f"{k}={v}" for k, v in self.cookies.items()), "Content-Type": "application/json",
                   "X-CSRFToken": self.cookies.get("csrftoken", "")}  # fmt: skip
        told = body if body is None or isinstance(body, bytes) else json.dumps(body)
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


def marks_under_load(url: str, email: str, password: str) -> tuple[float, float, float]:
    """p95 of doing nothing and of marking a step of opening, s; and marks a second. Each client marks its own steps."""
    clients = [Client(url, email, password) for _ in range(CLIENTS)]
    rows = json.loads(clients[0].ask("GET", "/api/v1/jobs")[1])
    jobs = [row["id"] for row in rows if not row["handed_over"]]
    for client in clients:  # warm up: both processes know the machines
        for job in jobs:
            client.ask("GET", f"/api/v1/jobs/{job}")
    nothing = p95_seconds(clients, lambda client, _: client.ask("GET", "/api/v1/nothing"), 30)
    each = 8

    def mark(client: Client, i: int) -> tuple[int, bytes]:
        job = jobs[clients.index(client) % len(jobs)]
        step = {"step": f"open.step_{i % 4}", "state": "done" if i % 2 else "undone", "at": "2026-11-25T09:00:00+00:00"}
        return client.ask("PUT", f"/api/v1/jobs/{job}/marks/{uuid.uuid4()}", step)

    began = time.perf_counter()
    p95 = p95_seconds(clients, mark, each)
    return nothing, p95, CLIENTS * each / (time.perf_counter() - began)


@dataclass
class Working:
    """What came of people working at once: p95 by kind of request, s; bad answers; memory of the web, kB."""

    p95: dict[str, float]
    requests: int
    errors: list[str]
    memory_early: int
    memory_late: int


def working(url: str, email: str, password: str, people: int, seconds: float, web: int) -> Working:
    """People who open the list, open a job, read, mark, draw, look who is there; each waits a little between two acts.

    web: the pid of the web's keeper; the memory of the processes that answer is watched.
    """
    clients = [Client(url, email, password) for _ in range(people)]
    jobs = [row["id"] for which in ("open", "earlier")
            for row in json.loads(clients[0].ask("GET", f"/api/v1/jobs?which={which}")[1])]  # fmt: skip
    at = {"at": "2026-11-25T09:00:00+00:00"}
    acts: dict[str, Callable[[Client, str], tuple[int, bytes]]] = {
        "nothing": lambda c, _: c.ask("GET", "/api/v1/nothing"),
        "list": lambda c, _: c.ask("GET", "/api/v1/jobs?which=open"),
        "found": lambda c, _: c.ask("GET", "/api/v1/jobs?q=kennels"),
        "job": lambda c, job: c.ask("GET", f"/api/v1/jobs/{job}"),
        "here": lambda c, job: c.ask("GET", f"/api/v1/jobs/{job}/here"),
        "history": lambda c, job: c.ask("GET", f"/api/v1/jobs/{job}/history"),
        "mark": lambda c, job: c.ask("PUT", f"/api/v1/jobs/{job}/marks/{uuid.uuid4()}",
                                     {"step": "make_safe.unplug", "state": "done"} | at),
        "reading": lambda c, job: c.ask("PUT", f"/api/v1/jobs/{job}/readings/{uuid.uuid4()}",
                                        {"kind": "hood_flow", "typed": "88", "unit": "cfm"} | at),
    }  # fmt: skip
    spans: dict[str, list[float]] = {name: [] for name in acts}
    errors: list[str] = []
    ends = time.monotonic() + seconds

    def work(client: Client, draw: random.Random) -> None:
        mine = draw.choice(jobs)
        while time.monotonic() < ends:
            name = draw.choices(list(acts), weights=(3, 1, 0.5, 4, 3, 0.3, 1, 0.5))[0]
            began = time.perf_counter()
            status, _ = acts[name](client, mine)
            spans[name].append(time.perf_counter() - began)
            if status not in (200, 204):
                errors.append(f"{name}: {status}")
            time.sleep(draw.uniform(1.0, 4.0))

    threads = [threading.Thread(target=work, args=(c, random.Random(i))) for i, c in enumerate(clients)]
    for thread in threads:
        thread.start()
    time.sleep(seconds * 0.3)
    early = _memory_kb(web)
    for thread in threads:
        thread.join()
    p95 = {name: statistics.quantiles(times, n=20)[-1] for name, times in spans.items() if len(times) >= 20}
    return Working(p95, sum(map(len, spans.values())), errors, early, _memory_kb(web))


def _memory_kb(web: int) -> int:
    """Resident memory of the processes that answer, without what they share."""
    total = 0
    for pid in serving(web):
        lines = Path(f"/proc/{pid}/smaps_rollup").read_text().splitlines()
        total += next(int(line.split()[1]) for line in lines if line.startswith("Pss:"))
    return total
