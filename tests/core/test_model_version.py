"""MODEL_VERSION moves when figures move: a set of answers is held to it."""

import json

import pytest

from model_answers import KEPT, answers
from warmdraft.diagnosis import MODEL_VERSION

#: Another machine's arithmetic may differ in the fourth digit; a changed model differs in the first three.
_ALIKE = 2e-3


def _figures(value):
    """Every number of an answer with its place."""
    rows = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    if not isinstance(value, dict | list):
        yield (), value
    for key, part in rows:
        for place, figure in _figures(part):
            yield (key, *place), figure


def test_the_version_moves_when_the_figures_do():
    kept = json.loads(KEPT.read_text())
    assert kept["version"] == MODEL_VERSION, (
        "the model has a new version; write its answers: PYTHONPATH=core python tests/core/model_answers.py"
    )
    was, now = dict(_figures(kept["answers"])), dict(_figures(answers()))
    moved = {
        place: (was.get(place), now.get(place))
        for place in {**was, **now}
        if now.get(place) != (
            was.get(place) if isinstance(was.get(place), str)
            else pytest.approx(was[place], rel=_ALIKE, abs=1e-4) if place in was else None
        )
    }  # fmt: skip
    assert not moved, f"figures moved and MODEL_VERSION did not; raise it and write the answers anew: {moved}"
