"""What the tests of ./warm share."""

import os
import shutil
from pathlib import Path

import pytest

from warm import cluster


@pytest.fixture(scope="module")
def folder(tmp_path_factory, request):
    """A folder for several states, which the database's own user may pass through; their clusters end with it."""
    base = Path("/var/tmp") if os.geteuid() == 0 else tmp_path_factory.mktemp("states")
    made = base / f"warm-draft-{request.module.__name__.rpartition('.')[2]}-{os.getpid()}"
    made.mkdir()
    made.chmod(0o755)
    yield made
    for own in made.glob("*/postgresql"):
        cluster.stop(cluster.Cluster(own))
    shutil.rmtree(made, ignore_errors=True)
