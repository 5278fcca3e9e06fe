"""Databases of every earlier release open: a dump of each, brought up to date, then all of it asked for."""

import gzip
import json
import os
import subprocess
import sys
import uuid
from pathlib import Path

import psycopg
import pytest

ROOT = Path(__file__).resolve().parents[2]
DUMPS = sorted((Path(__file__).parent / "released").glob("*.sql.gz"))


def _release(dump: Path) -> str:
    return dump.name.removesuffix(".sql.gz")


@pytest.fixture(scope="module")
def opened():
    """Of each release: the jobs and how many readings each had, and what came of opening all of it."""
    names = {_release(dump): f"old_{uuid.uuid4().hex[:8]}" for dump in DUMPS}
    server = os.environ["DATABASE_URL"].rsplit("/", 1)[0]
    held = {}
    with psycopg.connect(os.environ["DATABASE_URL"], autocommit=True) as link:
        for dump in DUMPS:
            link.execute(f'CREATE DATABASE "{names[_release(dump)]}"')
            with psycopg.connect(f"{server}/{names[_release(dump)]}", autocommit=True) as old:
                old.execute(gzip.decompress(dump.read_bytes()).decode())
                read = old.execute("SELECT job_id::text, count(*) FROM public.jobs_reading GROUP BY job_id")
                held[_release(dump)] = (
                    {row[0]: row[1] for row in read},
                    {row[0] for row in old.execute("SELECT id::text FROM public.jobs_job")},
                )
        paths = os.pathsep.join(map(str, (ROOT, ROOT / "core", ROOT / "server")))
        done = subprocess.run([sys.executable, "-m", "tests.server.opened", *names.values()], cwd=ROOT,
                              capture_output=True, text=True, env=os.environ | {"PYTHONPATH": paths})  # fmt: skip
        for name in names.values():
            link.execute(f'DROP DATABASE "{name}" WITH (FORCE)')
    assert done.returncode == 0, done.stderr[-3000:]
    found = map(json.loads, done.stdout.splitlines()[-len(names) :])
    return {release: (*held[release], what) for release, what in zip(names, found, strict=True)}


@pytest.mark.parametrize("release", [_release(dump) for dump in DUMPS])
def test_a_database_of_an_earlier_release_is_brought_up_to_date_and_opens_whole(release, opened):
    before, jobs, found = opened[release]
    assert jobs and found["jobs"].keys() == jobs
    for job_id, job in found["jobs"].items():
        assert {job["job"], job["history"], job["record"], job["ways"]} == {200}, job_id
        assert job["readings"] == job["exported"] == before.get(job_id, 0), job_id
    assert sum(found["listed"]) == len(jobs)
    # counts and layouts that were written with English words stand in codes, and still speak for the same screws
    if release >= "0.4":
        assert ("fastener", "hex_head 18 mm") in {tuple(key) for key in found["keys"]}
        assert ("wire", "door_switch · plug") in {tuple(key) for key in found["keys"]}
        assert not any("hex head" in key or "door switch" in key for _, key in found["keys"])
        assert any("hex head" in text for job in found["jobs"].values() for text in job["counted"])
        (own,) = found["layouts"]
        kinds = {row["kind"] for op in own["operations"] for row in op["fasteners"]}
        assert "hex_head" in kinds and not any(" " in kind for kind in kinds)


def test_there_is_a_dump_of_every_release_there_was():
    assert [dump.name for dump in DUMPS] == [f"0.{n}.sql.gz" for n in range(1, 6)]
