"""A row is the whole change, up to the screen: the stories of one_row_more.py on a core that has one more of each."""

import os
import subprocess
import sys
from pathlib import Path

import dj_database_url
import pytest
from tests.more_rows import with_more_rows

ROOT = Path(__file__).resolve().parents[2]


@pytest.mark.slow  # a test run of its own
def test_one_row_more_of_each_catalogue_reaches_the_screen(tmp_path):
    paths = [str(with_more_rows(tmp_path)), "server", "tools", ".", "tests/core"]
    ours = dj_database_url.parse(os.environ["DATABASE_URL"])
    apart = f"postgres://{ours['USER']}:{ours['PASSWORD']}@{ours['HOST']}:{ours['PORT']}/one_row_more"
    done = subprocess.run(
        [sys.executable, "-m", "pytest", "-q", "--no-header", "-p", "no:cacheprovider", "--show-capture=no", "-o",
         f"pythonpath={' '.join(paths)}", "tests/browser/one_row_more.py"],
        cwd=ROOT, capture_output=True, text=True, env=os.environ | {"DATABASE_URL": apart, "PYTHONPATH": paths[0]},
    )  # fmt: skip
    assert done.returncode == 0, done.stdout[-6000:]
