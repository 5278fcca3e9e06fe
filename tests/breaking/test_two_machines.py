"""Two machines behind a small proxy, on one database: no request needs the one that answered the one before."""

import http.client
import itertools
import json
import os
import threading
import uuid
from concurrent.futures import ThreadPoolExecutor
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from tempfile import TemporaryDirectory

import psycopg
import pytest

from breaking import _App
from load import Client
from warm import cluster, serve

AT = {"at": "2026-11-25T09:00:00+00:00"}
LEAD = ("tobin@skellmere.example", serve.SIGN_IN[1])
#: What docs/operating.md says one machine holds of a database's connections: two web processes of four and one to hear
#: by, a health check's, and the worker's.
MOST_CONNECTIONS = 20


class _Proxy(BaseHTTPRequestHandler):
    """Sends each request to the next machine."""

    protocol_version = "HTTP/1.1"
    machines = itertools.cycle([0])

    def _pass_on(self):
        body = self.rfile.read(int(self.headers.get("Content-Length", 0)))
        line = http.client.HTTPConnection("127.0.0.1", next(self.machines), timeout=60)
        headers = {name: value for name, value in self.headers.items() if name.lower() != "connection"}
        line.request(self.command, self.path, body, headers | {"X-Forwarded-For": self.client_address[0]})
        answer = line.getresponse()
        told = answer.read()
        self.send_response(answer.status)
        for name, value in answer.getheaders():
            if name.lower() not in ("transfer-encoding", "connection", "content-length"):
                self.send_header(name, value)
        self.send_header("Content-Length", str(len(told)))
        self.end_headers()
        self.wfile.write(told)
        line.close()

    do_GET = do_PUT = do_POST = do_DELETE = _pass_on

    def log_message(self, *_):
        pass


@pytest.fixture(scope="module")
def two():
    """The proxy's address, the two machines', and the database's."""
    with TemporaryDirectory(dir="/var/tmp" if os.geteuid() == 0 else None) as name, pytest.MonkeyPatch.context() as own:
        own.delenv("DJANGO_SETTINGS_MODULE", raising=False)  # the apps have their own
        folder = Path(name)
        folder.chmod(0o755)
        app = _App(folder, Path(os.environ["WARM_WEB_DIST"]))
        logs = folder / "second" / "logs"
        logs.mkdir(parents=True)
        port = cluster.free_port()
        second = serve.launch(app.url, app.key, port, logs / "web.log", app.built)
        _Proxy.machines = itertools.cycle([app.port, port])
        proxy = ThreadingHTTPServer(("127.0.0.1", 0), _Proxy)
        threading.Thread(target=proxy.serve_forever, daemon=True).start()
        try:
            yield f"http://127.0.0.1:{proxy.server_port}", [app.address, f"http://127.0.0.1:{port}"], app.url
        finally:
            proxy.shutdown()
            serve.end(second)
            app.end()


def get(client, path):
    status, body = client.ask("GET", f"/api/v1{path}")
    assert status == 200, (path, status, body[:200])
    return json.loads(body)


def put(client, path, body):
    status, told = client.ask("PUT", f"/api/v1{path}", body)
    return status, json.loads(told)


def as_on(client, address):
    """The same sitting, asking one machine itself."""
    other = object.__new__(Client)
    host, port = address.removeprefix("http://").split(":")
    other.line, other.cookies = http.client.HTTPConnection(host, int(port), timeout=60), client.cookies
    return other


@pytest.mark.slow  # two machines of processes
def test_whichever_machine_is_asked_the_answer_is_the_same(two):
    proxy, machines, url = two
    client = Client(proxy, *LEAD)
    each = [as_on(client, machine) for machine in machines]
    open_jobs = [row["id"] for row in get(client, "/jobs") if not row["handed_over"]]
    job = open_jobs[0]

    def alike(path):
        one, other = (get(machine, path) for machine in each)
        assert one == other, path
        return one

    reading = {"kind": "outlet_flow", "typed": "91", "unit": "cfm"} | AT
    for i in range(6):  # one after the other, by turns
        status, told = put(client, f"/jobs/{job}/readings/{uuid.uuid4()}", reading | {"typed": str(90 + i)})
        assert status == 200 and len(alike(f"/jobs/{job}")["readings"]) == len(told["readings"])
    with ThreadPoolExecutor(8) as pool:  # and at once
        row = uuid.uuid4()
        same = list(
            pool.map(lambda i: put(as_on(client, machines[i % 2]), f"/jobs/{job}/readings/{row}", reading), range(8))
        )
    assert {status for status, _ in same} == {200}
    assert sum(fact["id"] == str(row) for fact in alike(f"/jobs/{job}")["readings"]) == 1

    # what one hands over the other has learned, shut, and lists
    status, _ = put(each[0], f"/jobs/{job}/record/{uuid.uuid4()}", AT | {"override": "sold"})
    assert status == 200
    assert (
        alike(f"/jobs/{job}")["handed_over"] and put(each[1], f"/jobs/{job}/readings/{uuid.uuid4()}", reading)[0] == 409
    )
    for path in (f"/jobs/{open_jobs[1]}", f"/jobs/{open_jobs[2]}", "/jobs?which=handed_over", "/jobs?q=kennels",
                 "/places", "/people", f"/jobs/{job}/history", f"/jobs/{job}/record"):  # fmt: skip
        alike(path)
    assert job in {row["id"] for row in alike("/jobs?which=handed_over")}

    # guesses are counted together; a sitting that ends here is over there
    codes = []
    for i in range(10):
        guess = Client.__new__(Client)
        guess.line, guess.cookies = http.client.HTTPConnection(machines[i % 2].removeprefix("http://"), timeout=60), {}
        guess.ask("GET", "/api/v1/session")
        codes.append(guess.ask("POST", "/api/v1/session", {"email": "wren@skellmere.example", "password": "no"})[0])
    assert codes == [401] * 8 + [429] * 2
    with psycopg.connect(url) as line:
        (held,) = line.execute(
            "SELECT count(*) FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()"
        ).fetchone()
    assert held <= 2 * MOST_CONNECTIONS, held
    assert each[0].ask("DELETE", "/api/v1/session")[0] == 204
    assert each[1].ask("GET", "/api/v1/me")[0] == 401


@pytest.mark.slow  # waits for the limit of time
def test_a_hundred_and_fifty_clients_that_never_end_a_request_hold_nobody_up_for_good(two):
    """Their threads come back when their time is over."""
    import socket
    import time

    from config.worker import WITHIN

    _, machines, _ = two
    host, port = machines[1].removeprefix("http://").split(":")
    slow = [socket.create_connection((host, int(port))) for _ in range(150)]
    for line in slow:
        line.sendall(b"PUT /api/v1/session HTTP/1.1\r\nHost: x\r\nContent-Length: 1000\r\n")
    began = time.monotonic()
    answered = None
    while answered != 200 and time.monotonic() - began < 4 * WITHIN:
        try:
            asked = http.client.HTTPConnection(host, int(port), timeout=10)
            asked.request("GET", "/api/v1/session")
            answered = asked.getresponse().status
        except OSError:
            continue
    for line in slow:
        line.close()
    assert answered == 200 and time.monotonic() - began < 3.5 * WITHIN
