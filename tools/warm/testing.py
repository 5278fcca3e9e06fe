"""`./warm test`: everything, on a throw-away database and free ports, so that it disturbs nothing that runs."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

from warm import cluster, environment, serve, system
from warm.places import PYTHON, ROOT, VENV, WEB

#: Every screen for axe, in both themes and widths, and in a language: as long as all stories, so it runs beside them.
_SCREENS = (
    "tests/browser/test_screens.py",
    "tests/browser/test_access.py",
    "tests/browser/test_language.py",
    "tests/browser/test_in_sight.py",
)
#: Every route by everybody, with anything: apart from the other server tests, so that neither is too long.
_WALKS = tuple(
    f"tests/server/test_{name}.py" for name in ("tenancy", "fuzz", "races", "starve", "two_at_once", "old_databases")
)
#: Hosts of package registries: none of them stands in a lock, so that any mirror serves.
REGISTRIES = ("registry.npmjs", "pypi.org", "pythonhosted", "npmmirror", "yarnpkg")


@dataclass(frozen=True)
class Check:
    """One thing that has to hold."""

    name: str
    command: list[str]
    cwd: Path = ROOT
    #: A cluster to itself: two runs cannot copy one template at once.
    database: bool = False


#: No check takes this long, s, on a machine four times as slow as the one they were written on: it hangs. CI gives the
#: whole run little more than twice as much, and prints nothing of what it had to end itself.
LONGEST = 2400.0
#: One more than the least machine has cores: stories wait for a person's pace, and others work meanwhile.
_LANES = 3
#: Acts at the bench that the browser draws as the core does, or the front end's tests fail.
_BENCH_CASES = 2000


def _binary(name: str) -> str:
    return str(VENV / "bin" / name)


def _pytest(*arguments: str) -> list[str]:
    return [str(PYTHON), "-m", "pytest", "-q", "--tb=short", "--show-capture=no", *arguments]


def _static() -> list[Check]:
    """Nothing runs: together under a minute, and first, so that a slip is known at once."""
    return [
        Check("format, Python", [_binary("ruff"), "format", "--check", "."]),
        Check("lint, Python", [_binary("ruff"), "check", "."]),
        Check("types, core and tools", [_binary("mypy"), "core/warmdraft", "tools"]),
        Check("types, server", [_binary("mypy"), "server"]),
        Check("import contracts", [_binary("lint-imports")]),
        Check("format and lint, TypeScript", ["npx", "biome", "ci", "."], WEB),
        Check("types, TypeScript", ["npx", "tsc"], WEB),
    ]


def _quick() -> list[Check]:
    return [
        Check("front-end unit tests", ["npx", "vitest", "run"], WEB),
        Check("generated files are current", [str(PYTHON), "tools/generated.py", "--check"]),
        Check("core runs alone", [str(PYTHON), "tools/core_alone.py"]),
    ]


def _core() -> list[Check]:
    return [
        Check("core tests", _pytest("tests/core")),
        Check("tests of ./warm itself", _pytest("tests/tools")),
        Check("reference tests", _pytest("tests/reference")),
        Check("docstring examples", _pytest("--doctest-modules", "core/warmdraft")),
    ]


def _database() -> list[Check]:
    return [
        Check("migrations are complete", [str(PYTHON), "server/manage.py", "makemigrations", "--check", "--dry-run"]),
        Check("server tests", _pytest("tests/server", *(f"--ignore={path}" for path in _WALKS)), database=True),
        Check("server, every route", _pytest(*_WALKS), database=True),
        Check("browser, stories", _pytest("tests/browser", *(f"--ignore={path}" for path in _SCREENS)), database=True),
        Check("browser, screens", _pytest(*_SCREENS), database=True),
    ]


def _waiting() -> list[Check]:
    """Mostly waits for processes to come back: a lane of its own, beside those that work."""
    return [Check("kills under load", _pytest("tests/breaking"))]


def _slow_first(checks: list[Check]) -> list[Check]:
    """Long ones begin early, so that all lanes end together."""
    slow = ("browser, stories", "server tests", "reference tests", "browser, screens", "server, every route",
            "core tests")  # fmt: skip
    return sorted(checks, key=lambda check: slow.index(check.name) if check.name in slow else len(slow))


def _no_registry_in_a_lock() -> str:
    found = [
        f"{path.relative_to(ROOT)} names {host}"
        for path in (ROOT / "requirements.lock", ROOT / "requirements-dev.lock", WEB / "package-lock.json")
        for host in REGISTRIES
        if host in path.read_text()
    ]
    return "\n".join(found)


class Report:
    """Prints each check with its time, the output of those that failed, and the closing line."""

    def __init__(self) -> None:
        self.passed = 0
        self.failed: list[str] = []

    def told(self, name: str, seconds: float, trouble: str) -> None:
        mark = "FAILED" if trouble else "ok"
        print(f"{mark:7}{seconds:6.1f} s  {name}", flush=True)
        if trouble:
            self.failed.append(name)
            print("\n".join(f"    {line}" for line in trouble.splitlines()[-120:]), flush=True)
        else:
            self.passed += 1

    def run(self, check: Check, env: dict[str, str]) -> None:
        began = time.monotonic()
        try:
            done = subprocess.run(check.command, cwd=check.cwd, env=env, stdout=subprocess.PIPE, text=True,
                                  stderr=subprocess.STDOUT, stdin=subprocess.DEVNULL, timeout=LONGEST)  # fmt: skip
            trouble = "" if done.returncode == 0 else done.stdout.strip() or f"exit {done.returncode}"
        except subprocess.TimeoutExpired as hanging:
            said = (hanging.stdout or b"").decode(errors="replace").strip()  # bytes, also where text was asked for
            trouble = f"{said}\nnot at its end after {LONGEST:.0f} s, and ended"
        self.told(check.name, time.monotonic() - began, trouble)

    def call(self, name: str, check: Callable[[], str]) -> None:
        began = time.monotonic()
        self.told(name, time.monotonic() - began, check())

    def closing(self) -> int:
        print(f"\n{self.passed} passed, {len(self.failed)} failed")
        return 1 if self.failed else 0


def _environment(path: str, **more: str) -> dict[str, str]:
    env = environment.python_env(OPENBLAS_NUM_THREADS="1", **more)
    env["PATH"] = f"{VENV / 'bin'}{os.pathsep}{path}"
    for name in ("WARM_PORT", "DJANGO_SETTINGS_MODULE"):
        env.pop(name, None)
    return env


def _set_up() -> tuple[str, Path]:
    """All that a run needs: the PATH with Node, the folder of the front end."""
    environment.python(dev=True)
    system.printing()
    path = environment.npm_packages()
    return path, environment.front_end()


def run(arguments: list[str]) -> int:
    """Run every check; with names as arguments, only those whose name holds one of them."""
    began = time.monotonic()
    path, built = _set_up()
    browser = system.chromium()
    env = _environment(path, WARM_SECRET_KEY=serve.FOR_TESTS, WARM_CHROMIUM=browser, WARM_WEB_DIST=str(built),
                       WARM_PYTHON=str(PYTHON), WARM_CASES=str(_BENCH_CASES))  # fmt: skip
    env["DATABASE_URL"] = "postgres://nobody@127.0.0.1/none"  # for those that ask no database
    report = Report()

    def wanted(checks: list[Check]) -> list[Check]:
        return [check for check in checks if not arguments or any(word in check.name for word in arguments)]

    checks, waiting = wanted(_static() + _slow_first(_quick() + _core() + _database())), wanted(_waiting())
    envs = {check.name: env | {"DATABASE_URL": cluster.throw_away()} if check.database else env for check in checks}
    with ThreadPoolExecutor(max_workers=_LANES) as pool, ThreadPoolExecutor(max_workers=1) as aside:
        for check in waiting:
            aside.submit(report.run, check, env)
        list(pool.map(lambda check: report.run(check, envs[check.name]), checks))
    if not arguments:
        report.call("no registry host in a lock", _no_registry_in_a_lock)
    print(f"{time.monotonic() - began:.0f} s in all")
    return report.closing()


def with_app(arguments: list[str]) -> int:
    """Run a script of ours beside an app of its own with the demo data: throw-away database, free port."""
    path, built = _set_up()
    browser = system.chromium()
    url, key, port = cluster.throw_away(), serve.FOR_TESTS, cluster.free_port()
    serve.manage(url, key, "migrate", "--no-input", doing="making the tables")
    serve.manage(url, key, "demo", doing="laying out the demo workshop")
    with tempfile.TemporaryDirectory() as folder:
        logs = Path(folder) / "logs"
        logs.mkdir()
        pid = serve.launch(url, key, port, logs / "web.log", built)
        try:
            env = _environment(path, DATABASE_URL=url, WARM_CHROMIUM=browser, WARM_URL=f"http://127.0.0.1:{port}",
                               WARM_WEB_PID=str(pid),
                               WARM_WEB_DIST=str(built))  # fmt: skip
            return subprocess.run([str(PYTHON), *arguments], env=env, cwd=ROOT, stdout=sys.stdout).returncode
        finally:
            serve.end(pid)
