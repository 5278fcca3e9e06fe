"""Databases of every earlier release open: a dump of each, brought up to date, then all of it asked for."""

import gzip
import json
import os
import subprocess
import sys
import uuid
from pathlib import Path

import dj_database_url
import psycopg
import pytest
from django.conf import settings

ROOT = Path(__file__).resolve().parents[2]
DUMPS = sorted((Path(__file__).parent / "released").glob("*.sql.gz"))


def _run(url: str, *arguments: str) -> str:
    done = subprocess.run(
        [sys.executable, *arguments], cwd=ROOT, capture_output=True, text=True,
        env=os.environ | {"DATABASE_URL": url, "PYTHONPATH": os.pathsep.join(map(str, (ROOT, ROOT / "core",
                                                                                       ROOT / "server")))},
    )  # fmt: skip
    assert done.returncode == 0, done.stderr[-3000:]
    return done.stdout


@pytest.fixture
def database():
    """A fresh database beside the one of the tests; its address."""
    ours = dj_database_url.parse(os.environ["DATABASE_URL"])
    name = f"old_{uuid.uuid4().hex[:8]}"
    url = f"postgres://{ours['USER']}:{ours['PASSWORD']}@{ours['HOST']}:{ours['PORT']}/"
    with psycopg.connect(os.environ["DATABASE_URL"], autocommit=True) as link:
        link.execute(f'CREATE DATABASE "{name}"')
        yield url + name
        link.execute(f'DROP DATABASE "{name}" WITH (FORCE)')


@pytest.mark.parametrize("dump", DUMPS, ids=lambda dump: dump.name.removesuffix(".sql.gz"))
def test_a_database_of_an_earlier_release_is_brought_up_to_date_and_opens_whole(dump, database):
    with psycopg.connect(database, autocommit=True) as link:
        link.execute(gzip.decompress(dump.read_bytes()).decode())
        before = {
            row[0]: row[1]
            for row in link.execute("SELECT job_id::text, count(*) FROM public.jobs_reading GROUP BY job_id")
        }
        jobs = {row[0] for row in link.execute("SELECT id::text FROM public.jobs_job")}
    _run(database, str(settings.ROOT / "server" / "manage.py"), "migrate", "-v0")
    found = json.loads(_run(database, "-m", "tests.server.opened").splitlines()[-1])
    assert jobs and found["jobs"].keys() == jobs
    for job_id, job in found["jobs"].items():
        assert {job["job"], job["history"], job["record"], job["ways"]} == {200}, job_id
        assert job["readings"] == job["exported"] == before.get(job_id, 0), job_id
    assert sum(found["listed"]) == len(jobs)
    # counts and layouts that were written with English words stand in codes, and still speak for the same screws
    release = dump.name.removesuffix(".sql.gz")
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
