"""What a workshop takes as it grows: room in the database, time on a core, and its way out and in."""

from __future__ import annotations

import os
import resource
import tempfile
import time
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import urlsplit, urlunsplit

import psycopg

from warm import serve

#: Jobs that are laid out to see what one takes.
JOBS = 1_000
NAME = "Skellmere Works That Grow"


@dataclass(frozen=True)
class Grown:
    """kilobytes: of the database, a job; cpu: seconds on a core, a job from its opening to its record; out, back:
    seconds to write a workshop of JOBS jobs out and to bring it in again; file: kilobytes of it, a job."""

    kilobytes: float
    cpu: float
    out: float
    back: float
    file: float


def _manage(*arguments: str) -> str:
    return serve.manage(os.environ["DATABASE_URL"], serve.FOR_TESTS, *arguments, doing=arguments[0])


def _size() -> int:
    with psycopg.connect(os.environ["DATABASE_URL"], autocommit=True) as line:
        line.execute("VACUUM")
        row = line.execute("SELECT pg_database_size(current_database())").fetchone()
    assert row is not None
    return int(row[0])


def _cpu(*arguments: str) -> float:
    before = resource.getrusage(resource.RUSAGE_CHILDREN)
    _manage(*arguments)
    after = resource.getrusage(resource.RUSAGE_CHILDREN)
    return after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime


def grown(stories: int) -> Grown:
    """Measure it. stories: jobs that the demo lays out through the app's own services."""
    idle = _cpu("demo", "--is-there")
    cpu = (_cpu("demo", "--reset") - idle) / stories
    before = _size()
    _manage("demo", "--large", "--jobs", str(JOBS), "--one", NAME)
    kilobytes = (_size() - before) / 1000 / JOBS
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "whole.zip"
        began = time.monotonic()
        _manage("workshop_out", NAME, str(file))
        out = time.monotonic() - began
        size = file.stat().st_size / 1000 / JOBS
        other = _empty_database()
        began = time.monotonic()
        serve.manage(other, serve.FOR_TESTS, "workshop_in", str(file), doing="bringing it in")
        back = time.monotonic() - began
    return Grown(kilobytes, cpu, out, back, size)


def _empty_database() -> str:
    """A database beside this one, with tables and nothing in them."""
    name = "grown_in"
    with psycopg.connect(os.environ["DATABASE_URL"], autocommit=True) as line:
        line.execute(f"DROP DATABASE IF EXISTS {name}")
        line.execute(f"CREATE DATABASE {name}")
    parts = urlsplit(os.environ["DATABASE_URL"])
    url = urlunsplit(parts._replace(path=f"/{name}"))
    serve.manage(url, serve.FOR_TESTS, "migrate", "--no-input", doing="its tables")
    return url
