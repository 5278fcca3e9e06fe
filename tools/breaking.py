"""Proof by breaking: kill web, worker and database at random while people write, and count what is there afterwards.

Every write the server acknowledged is there once, none twice, and no job of the worker is stuck. Writers do as the
outbox does: the same id again until there is an answer. Run by ./warm bench (200 kills) and, short, by ./warm test.
"""

from __future__ import annotations

import contextlib
import http.client
import json
import os
import random
import signal
import tempfile
import threading
import time
import uuid
from collections import Counter
from dataclasses import dataclass, field
from pathlib import Path

from load import Client
from warm import cluster, serve
from warm.serve import children, serving

WRITERS = 4
#: The worker's sign of life here, s: what a killed one left is taken up after six of them and up to ten seconds more.
HEARTBEAT = 1
#: A worker's job is stuck when it is still in hand this long after the last kill, s: many times what that takes, since
#: the short form runs beside all the other tests on the same two cores.
STUCK_AFTER = 8 * (6 * HEARTBEAT + 10.0)
#: A write has found no answer when it has none this long after the last kill, s: more than a request's own patience.
ANSWERED_WITHIN = 120.0


@dataclass
class Broken:
    """What came of it."""

    kills: Counter[str] = field(default_factory=Counter)
    acknowledged: int = 0
    lost: int = 0
    doubled: int = 0
    #: What each is, how it stands, how often it was tried.
    stuck: list[str] = field(default_factory=list)
    tries: int = 0


class _App:
    """An app of its own that may be killed part by part and comes back."""

    def __init__(self, folder: Path, built: Path) -> None:
        os.environ["WARM_HEARTBEAT"] = str(HEARTBEAT)
        self.pg = cluster.make(folder / "pg")  # as in real life: what is acknowledged is on disk
        self.db_port = cluster.start(self.pg)
        self.url, self.key, self.built = self.pg.url(self.db_port), serve.FOR_TESTS, built
        serve.manage(self.url, self.key, "migrate", "--no-input", doing="making the tables")
        serve.manage(self.url, self.key, "demo", doing="laying out the demo workshop")
        self.port = cluster.free_port()
        self.logs = folder / "logs"
        self.logs.mkdir()
        self.web = self.worker = 0
        self.start_web()
        self.start_worker()

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def start_web(self) -> None:
        self.web = serve.launch(self.url, self.key, self.port, self.logs / "web.log", self.built)

    def start_worker(self) -> None:
        self.worker = serve.launch_worker(self.url, self.key, self.port, self.logs / "worker.log", self.built)

    def kill(self, what: str) -> None:
        """kill -9, and start it again."""
        match what:
            case "web process":  # one of the two that serve; their master starts another
                processes = serving(self.web)
                if processes:
                    _kill(random.choice(processes))
            case "web":
                os.killpg(self.web, signal.SIGKILL)
                self.start_web()
            case "worker":
                for process in children(self.worker):  # its keeper starts another
                    _kill(process)
            case _:
                postmaster = int((self.pg.data / "postmaster.pid").read_text().split()[0])
                os.kill(postmaster, signal.SIGSTOP)  # or it has one more child, which outlives it and holds its memory
                family = (postmaster, *children(postmaster))
                for pid in family:
                    _kill(pid)
                while any(_state(pid) != "Z" for pid in family):
                    time.sleep(0.02)
                # where nobody takes note of the dead their number stays, and the file would count as in use
                (self.pg.data / "postmaster.pid").unlink(missing_ok=True)
                cluster.start(self.pg, again_on=self.db_port)

    def end(self) -> None:
        serve.end(self.worker)
        serve.end(self.web)
        cluster.stop(self.pg)


def _kill(pid: int) -> None:
    with contextlib.suppress(ProcessLookupError):
        os.kill(pid, signal.SIGKILL)


def _state(pid: int) -> str:
    try:
        return Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()[0]
    except OSError:
        return "Z"


def _until_answered(client: Client, path: str, body: object, result: Broken) -> None:
    """Repeat a write until it is acknowledged, as the outbox does."""
    while True:
        result.tries += 1
        try:
            status, told = client.ask("PUT", path, body)
        except (OSError, http.client.HTTPException):
            client.line.close()
            time.sleep(0.1)
            continue
        if status == 200:
            return
        if status < 500:
            raise AssertionError(f"{path}: {status} {told[:200]!r}")
        time.sleep(0.1)


def break_it(kills: int, built: Path, seed: int = 7) -> Broken:
    """Kill at random under load; what was acknowledged is counted afterwards."""
    rng = random.Random(seed)
    result = Broken()
    with tempfile.TemporaryDirectory(dir="/var/tmp" if os.geteuid() == 0 else None) as name:
        folder = Path(name)
        folder.chmod(0o755)
        app = _App(folder, built)
        try:
            written = _under_load(app, kills, rng, result)
            _count(app, written, result)
        finally:
            app.end()
    return result


def _write_of(kind: str, row: str, job: str) -> tuple[str, dict[str, str]]:
    """Path and body of a write with an id of the client's own."""
    at = {"at": "2026-11-25T09:00:00+00:00"}
    match kind:
        case "reading":
            return f"jobs/{job}/readings/{row}", {"kind": "outlet_flow", "typed": "90", "unit": "cfm"} | at
        case "mark":
            return f"jobs/{job}/marks/{row}", {"step": f"open.{row}", "state": "done"} | at
        case _:
            return f"invitations/{row}", {"email": f"{row}@lake.example", "role": "trainee"}


def _under_load(app: _App, kills: int, rng: random.Random, result: Broken) -> dict[str, set[str]]:
    written: dict[str, set[str]] = {"reading": set(), "mark": set(), "invitation": set()}
    failed: list[BaseException] = []
    over = threading.Event()
    lead = ("tobin@skellmere.example", serve.SIGN_IN[1])
    clients = [Client(app.address, *lead) for _ in range(WRITERS)]
    rows = json.loads(clients[0].ask("GET", "/api/v1/jobs")[1])
    jobs = [row["id"] for row in rows if not row["handed_over"]]

    def write(client: Client, draw: random.Random) -> None:
        try:
            while not over.is_set():
                kind, row = draw.choice(list(written)), str(uuid.uuid4())
                path, body = _write_of(kind, row, draw.choice(jobs))
                _until_answered(client, f"/api/v1/{path}", body, result)
                written[kind].add(row)
                time.sleep(0.05)
        except BaseException as error:
            failed.append(error)

    # should the app not come up again, what went wrong is told: nobody waits for those who still write to it
    threads = [threading.Thread(target=write, args=(c, random.Random(rng.random())), daemon=True) for c in clients]
    for thread in threads:
        thread.start()
    for _ in range(kills):
        before, ends = sum(map(len, written.values())), time.monotonic() + 10
        while sum(map(len, written.values())) < before + WRITERS and time.monotonic() < ends and not failed:
            time.sleep(0.02)  # something has come through since the last one
        time.sleep(rng.uniform(0, 0.3))
        what = rng.choice(["web process", "web process", "web", "worker", "database"])
        app.kill(what)
        result.kills[what] += 1
    time.sleep(2)
    over.set()
    ends = time.monotonic() + ANSWERED_WITHIN
    for thread in threads:
        thread.join(timeout=max(0.0, ends - time.monotonic()))
    if failed:
        raise failed[0]
    assert not any(thread.is_alive() for thread in threads), f"a write has no answer after {ANSWERED_WITHIN:.0f} s"
    result.acknowledged = sum(len(ids) for ids in written.values())
    return written


def _count(app: _App, written: dict[str, set[str]], result: Broken) -> None:
    """Hold what is in the database against what was acknowledged."""
    import psycopg

    with psycopg.connect(app.url, autocommit=True) as line:

        def rows(query: str) -> list[str]:
            return [str(row[0]) for row in line.execute(query).fetchall()]

        tables = {"reading": "jobs_reading", "mark": "jobs_mark", "invitation": "people_invitation"}
        logged = {
            "reading": "SELECT after->>'id' FROM jobs_happening WHERE what = 'reading_recorded'",
            "mark": "SELECT after->>'id' FROM jobs_happening WHERE what = 'step_done'",
            "invitation": "SELECT split_part(after->>'email', '@', 1) FROM people_act WHERE what = 'invited'",
        }
        for kind, ids in written.items():
            there, told = Counter(rows(f"SELECT id FROM {tables[kind]}")), Counter(rows(logged[kind]))
            result.lost += sum(there[row] == 0 or told[row] == 0 for row in ids)
            result.doubled += sum(there[row] > 1 or told[row] > 1 for row in ids)
        # housekeeping comes all the time; mails are what was asked for
        stuck = """SELECT concat_ws(' ', task_name, status, attempts, scheduled_at) FROM procrastinate_jobs
                   WHERE status = 'failed' OR task_name = 'post' AND status IN ('todo', 'doing')"""
        ends = time.monotonic() + STUCK_AFTER
        while time.monotonic() < ends and rows(stuck):
            time.sleep(1)
        result.stuck = rows(stuck)
        # a mail goes out at least once for each invitation: sent ones leave the queue, and their files stay
        mails = "".join(file.read_text() for file in (app.logs.parent / "mail").glob("*"))
        result.lost += sum(f"{row}@lake.example" not in mails for row in written["invitation"])
