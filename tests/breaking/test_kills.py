"""kill -9 of the web, the worker and the database under load: the short form; ./warm bench kills 200 times."""

import os
from pathlib import Path

import pytest

from breaking import break_it


@pytest.mark.slow
def test_what_was_acknowledged_is_there_once_whatever_is_killed(monkeypatch):
    monkeypatch.delenv("DJANGO_SETTINGS_MODULE", raising=False)  # the app has its own
    broken = break_it(int(os.environ.get("WARM_KILLS", "3")), Path(os.environ["WARM_WEB_DIST"]))
    assert broken.acknowledged >= sum(broken.kills.values())
    assert (broken.lost, broken.doubled, broken.stuck) == (0, 0, []), broken
