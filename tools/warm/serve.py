"""Start and stop the app."""

from __future__ import annotations

import contextlib
import fcntl
import hashlib
import json
import os
import secrets
import signal
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from warm import cluster, environment, system
from warm.places import PYTHON, ROOT, VENV, Places
from warm.say import Trouble, phase, quietly

DEFAULT_PORT = 8800
#: The key of whatever is thrown away afterwards: nothing of it is ever reached from outside.
FOR_TESTS = "for tests only, and long enough to be taken as a key"
#: Where ./warm stand-in answers; another set of instruments is told by WARM_INSTRUMENTS.
STAND_IN = "anemometer=127.0.0.1:5171,manometer=127.0.0.1:5172,thermometer=127.0.0.1:5173,clamp_meter=127.0.0.1:5174"
SIGN_IN = ("ines@skellmere.example", "warm-draft-demo")


@dataclass(frozen=True)
class Running:
    """The keepers of a running app's processes: web and worker."""

    pid: int
    port: int
    worker: int


def _port() -> int:
    told = os.environ.get("WARM_PORT", str(DEFAULT_PORT))
    if not told.isdigit() or not 0 < int(told) < 65536:
        raise Trouble(f"WARM_PORT is '{told}'; give a number from 1 to 65535")
    return int(told)


def _listening(port: int) -> bool:
    with socket.socket() as probe:
        return probe.connect_ex(("127.0.0.1", port)) == 0


def _alive(pid: int) -> bool:
    """Whether the process is there and is one of ours, not a later one that got its number."""
    try:
        command = Path(f"/proc/{pid}/cmdline").read_bytes()
        return b"config/gunicorn.py" in command or b"server/manage.py\0work" in command
    except OSError:
        return False


def _running(places: Places) -> Running | None:
    try:
        told = json.loads(places.running.read_text())
        app = Running(told["pid"], told["port"], told.get("worker", 0))
    except (OSError, ValueError, KeyError):
        return None
    return app if _alive(app.pid) or _alive(app.worker) else None


def secret(places: Places) -> str:
    """The key that signs sessions, made once."""
    if not places.secret.is_file():
        places.secret.touch(mode=0o600)
        places.secret.write_text(secrets.token_urlsafe(48))
    return places.secret.read_text()


def database_url(places: Places) -> str:
    """The server that was asked for, or our own, started."""
    given = os.environ.get("DATABASE_URL")
    if given:
        return given
    own = cluster.make(places.cluster)
    return own.url(cluster.start(own))


def manage(url: str, key: str, *arguments: str, doing: str) -> str:
    """Run a command of the server."""
    env = environment.python_env(DATABASE_URL=url, WARM_SECRET_KEY=key)
    return quietly([str(PYTHON), "server/manage.py", *arguments], doing, "Look at the lines above.", env=env,
                   cwd=str(ROOT))  # fmt: skip


def prepare(places: Places, demo: bool = True) -> tuple[str, str, Path]:
    """Everything before the web process: packages, front end, database; the demo where there is no workshop yet.

    Returns the database URL, the secret key and the folder of the front end.
    """
    places.make()
    environment.python(dev=False)
    system.printing()
    built = environment.front_end()
    url, key = database_url(places), secret(places)
    with phase("tables"):
        manage(url, key, "migrate", "--no-input", doing="bringing the tables up to date")
    # its password is printed for everybody: never beside TLS, which is how the world comes in
    if demo and os.environ.get("WARM_HTTPS") != "1":
        with phase("demo workshop"):
            manage(url, key, "demo", doing="laying out the demo workshop")
    return url, key, built


def _figures(state: Path) -> Path:
    """Where web processes leave their figures: in memory where that is a file system, for they are written at each
    request, and a full disk must not end a process."""
    name = f"warm-draft-{hashlib.sha256(str(state).encode()).hexdigest()[:10]}-{os.geteuid()}"
    memory = Path("/dev/shm")
    return memory / name if os.access(memory, os.W_OK) else state / "figures"


def _env(url: str, key: str, port: int, log: Path, built: Path) -> dict[str, str]:
    """What web and worker are told; what the caller's environment says already stands."""
    state = log.parent.parent
    figures = _figures(state)
    figures.mkdir(mode=0o700, exist_ok=True)
    usual = {"WARM_POOL": "4", "WARM_HEARTBEAT": "10", "WARM_INSTRUMENTS": STAND_IN, "WARM_MAIL": str(state / "mail"),
             "WARM_ADDRESS": f"http://127.0.0.1:{port}", "PROMETHEUS_MULTIPROC_DIR": str(figures)}  # fmt: skip
    return environment.python_env(**(usual | {name: os.environ[name] for name in usual if name in os.environ}),
                                  DATABASE_URL=url, WARM_SECRET_KEY=key, OPENBLAS_NUM_THREADS="1",
                                  WARM_WEB_DIST=str(built))  # fmt: skip


def _keep(command: list[str], log: Path, env: dict[str, str]) -> subprocess.Popen[bytes]:
    """Start a process with its keeper, which starts it again should it die and keeps its log small."""
    path = os.pathsep.join(filter(None, (str(ROOT / "tools"), env.get("PYTHONPATH"))))
    return subprocess.Popen(
        [sys.executable, "-m", "warm.keep", str(log), *command], stdin=subprocess.DEVNULL, stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL, start_new_session=True, env=env | {"PYTHONPATH": path}, cwd=ROOT,
    )  # fmt: skip


def launch_worker(url: str, key: str, port: int, log: Path, built: Path) -> int:
    """Start the worker: mails, housekeeping. The pid of its keeper."""
    env = _env(url, key, port, log, built) | {"WARM_POOL": "0"}
    return _keep([str(PYTHON), "server/manage.py", "work"], log, env).pid


def launch(url: str, key: str, port: int, log: Path, built: Path) -> int:
    """Start the web process and wait until it answers; the pid of its keeper."""
    env = _env(url, key, port, log, built)
    for figures in _figures(log.parent.parent).glob("*.db"):
        figures.unlink()  # of processes that are gone
    web = _keep(
        [str(VENV / "bin" / "gunicorn"), "--config", str(ROOT / "server" / "config" / "gunicorn.py"), "--chdir",
         "server", "--bind", f"127.0.0.1:{port}"], log, env,
    )  # fmt: skip
    deadline = time.monotonic() + 120
    while time.monotonic() < deadline:
        if web.poll() is not None:
            break
        try:
            urllib.request.urlopen(f"http://127.0.0.1:{port}/api/v1/session", timeout=5)
            return web.pid
        except (urllib.error.URLError, OSError):
            time.sleep(0.1)
    end(web.pid)
    raise Trouble(f"the web process does not answer; its log is {log}")


def children(pid: int) -> list[int]:
    """A process's children."""
    told = subprocess.run(["ps", "-o", "pid=", "--ppid", str(pid)], capture_output=True, text=True).stdout
    return [int(line) for line in told.split()]


def serving(web: int) -> list[int]:
    """The processes that answer requests, below a keeper and gunicorn's own."""
    return [process for master in children(web) for process in children(master)]


def _lock_of(places: Places) -> Path:
    return places.state / "starting"


@contextlib.contextmanager
def _alone(places: Places) -> Iterator[None]:
    """One start or stop of an instance at a time: whoever comes second waits, and finds what the first has done."""
    with _lock_of(places).open("a") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        yield


def end(pid: int) -> None:
    """TERM, wait, KILL: the process and its children."""
    for sign, patience in ((signal.SIGTERM, 12.0), (signal.SIGKILL, 2.0)):
        try:
            os.killpg(pid, sign)
        except (ProcessLookupError, PermissionError):
            return
        deadline = time.monotonic() + patience
        while time.monotonic() < deadline and _alive(pid):
            with contextlib.suppress(ChildProcessError):
                os.waitpid(pid, os.WNOHANG)
            time.sleep(0.05)
        if not _alive(pid):
            return


def start(places: Places, demo: bool = True) -> int:
    """Set up, start, print where."""
    port = _port()
    if not _lock_of(places).exists():  # the first start: nothing is begun where the port is another's
        _free(port)
    places.make()
    with _alone(places):
        return _start(places, port, demo)


def _free(port: int) -> None:
    if _listening(port):
        raise Trouble(f"port {port} is in use by another program; choose another: WARM_PORT={port + 1} ./warm start")


def _start(places: Places, port: int, demo: bool) -> int:
    running = _running(places)
    if running is not None:
        print(f"Already running at http://127.0.0.1:{running.port}/ (./warm stop stops it)")
        return 0
    _free(port)
    began = time.monotonic()
    url, key, built = prepare(places, demo)
    with phase("web and worker"):
        pid = launch(url, key, port, places.logs / "web.log", built)
        worker = launch_worker(url, key, port, places.logs / "worker.log", built)
    places.running.write_text(json.dumps({"pid": pid, "port": port, "worker": worker}))
    print(f"\nWarm Draft runs at http://127.0.0.1:{port}/  ({time.monotonic() - began:.0f} s)")
    shown = manage(url, key, "demo", "--is-there", doing="looking who is there").strip()
    if shown == "demo":
        print(f"Demo sign-in: {SIGN_IN[0]}  password: {SIGN_IN[1]}")
    elif shown == "nobody":
        print("No workshop yet. The first: ./warm workshop NAME E-MAIL-OF-ITS-LEAD")
    return 0


def stop(places: Places) -> int:
    """Stop what start started, and nothing else."""
    if not places.state.is_dir():
        print("Nothing of this checkout was running.")
        return 0
    with _alone(places):
        return _stop(places)


def _stop(places: Places) -> int:
    running = _running(places)
    if running is not None:
        with phase("web and worker"):
            end(running.worker)
            end(running.pid)
    places.running.unlink(missing_ok=True)
    own = cluster.Cluster(places.cluster)
    if own.data.exists() and cluster.running_port(own) is not None:
        with phase("database"):
            cluster.stop(own)
    elif running is None:
        print("Nothing of this checkout was running.")
    return 0


def _with_tables(places: Places) -> tuple[str, str]:
    places.make()
    environment.python(dev=False)
    url, key = database_url(places), secret(places)
    manage(url, key, "migrate", "--no-input", doing="bringing the tables up to date")
    return url, key


def demo(places: Places, large: bool) -> int:
    """Reset the demo workshop; large: with the jobs of years."""
    url, key = _with_tables(places)
    with phase("demo workshop"):
        manage(url, key, "demo", "--reset", doing="resetting the demo workshop")
    if large:
        with phase("the jobs of years"):
            manage(url, key, "demo", "--large", doing="laying out the jobs of years")
    return 0


def by_hand(places: Places, command: str, *arguments: str) -> int:
    """A command of the server's, with what it prints."""
    url, key = _with_tables(places)
    os.environ.setdefault("WARM_MAIL", str(places.mail))  # where the app's own worker sends it
    print(manage(url, key, command, *arguments, doing=f"./warm {command.replace('_', '-')}").strip())
    return 0
