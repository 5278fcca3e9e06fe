"""Drills: a hidden machine that answers like a real one, and a score that says what would have been better."""

import json
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import numpy as np
import pytest
from pytest import approx

from strategies import exact_readings
from warmdraft.__main__ import main
from warmdraft.checks import OWN_ERROR_SHARE, checks, reading_sd
from warmdraft.drill import Hidden, World, drilled
from warmdraft.errors import DrillError
from warmdraft.machine import profile
from warmdraft.teardown import layout
from warmdraft.work import Cause, Finding, JobFacts, Mark, Reading

FACTS = JobFacts(profile("full-size-electric"), complaints=("long_drying",), layout=layout("top_screen_rear_duct"))
CRUSHED = Hidden(FACTS, (("transition_crushed", 60.0),), 3)
BEGAN = datetime(2026, 11, 27, 10, tzinfo=UTC)


def at(minute):
    return BEGAN + timedelta(minutes=minute)


def worked(hidden, *acts, **more):
    """A drill's facts: checks by name as the machine answers them, causes with a sign before them."""
    world, readings, findings, causes = World(hidden), [], [], []
    for minute, act in enumerate(acts):
        if act.startswith("!"):
            causes.append(Cause(kind="working", fault=act[1:], at=at(minute)))
        elif checks()[act].observes:
            value = world.read(act)
            readings.append(Reading(kind=act, value=value, unit="m3/s", canonical=value, at=at(minute)))
        else:
            findings.append(Finding(check=act, result=world.look(act), at=at(minute)))
    facts = replace(hidden.facts, readings=tuple(readings), findings=tuple(findings), causes=tuple(causes), **more)
    return drilled(facts, hidden)


def test_the_same_question_has_the_same_answer_whatever_was_asked_before():
    one, other = World(CRUSHED), World(CRUSHED)
    other.look("hood_air"), other.read("outlet_static_pressure")
    assert one.read("outlet_flow") == other.read("outlet_flow") and one.look("behind_look") == other.look("behind_look")
    assert one.read("outlet_flow") != World(replace(CRUSHED, seed=4)).read("outlet_flow")


def test_readings_err_as_their_instruments_do():
    """About what the model predicts, with the scatter between machines (12 %) and the instrument's own; a reading that
    is taken again errs by what is new of it alone."""
    exact = exact_readings((("transition_crushed", 60.0),))["outlet_flow"]
    worlds = [World(replace(CRUSHED, seed=seed)) for seed in range(300)]
    first = np.array([world.read("outlet_flow") for world in worlds])
    again = np.array([world.read("outlet_flow", times_before=1) for world in worlds])
    share, absolute = reading_sd("outlet_flow", None)
    own = share * exact + absolute
    assert np.median(first) == approx(exact, rel=0.04)
    assert own * 0.85 < first.std() < own + 0.12 * exact
    assert (first - again).std() == approx(own * np.sqrt(2 * (1 - OWN_ERROR_SHARE)), rel=0.15)


def test_looks_are_drawn_from_their_tables():
    table = dict(
        zip(checks()["behind_look"].results, checks()["behind_look"].row_of("transition_crushed"), strict=True)
    )
    middle = Hidden(FACTS, (("transition_crushed", None),), 0)
    seen = [World(replace(middle, seed=seed)).look("behind_look") for seed in range(400)]
    for result, share in table.items():
        assert seen.count(result) / 400 == approx(share, abs=4 * np.sqrt(share * (1 - share) / 400) + 0.005), result


def test_a_reading_may_lie():
    honest, liar = World(CRUSHED), World(replace(CRUSHED, lies={"outlet_flow": 2.0}))
    assert liar.read("outlet_flow") == approx(2 * honest.read("outlet_flow"))
    assert liar.read("outlet_static_pressure") == honest.read("outlet_static_pressure")


def test_two_faults_are_both_to_be_mended():
    hidden = Hidden(FACTS, (("transition_crushed", 60.0), ("lint_screen_blinded", 12.0)), 5)
    assert not worked(hidden, "outlet_flow", "!transition_crushed").found
    assert worked(hidden, "outlet_flow", "!transition_crushed", "!lint_screen_blinded").found


def test_what_would_have_been_better_is_said_where_it_was_better():
    found = worked(CRUSHED, "outlet_flow", "!blower_wheel_fouled", "behind_look", "!transition_crushed")
    assert found.found and [move.mended for move in found.own] == [False, False, False, True]
    assert found.minutes > found.better_minutes > 10
    worst = found.advice[0]
    assert worst.at == 1 and worst.saved > 20  # the machine was opened for a guess
    assert all(one.saved >= other.saved for one, other in zip(found.advice, found.advice[1:], strict=False))


def test_whoever_does_what_the_tool_says_is_told_nothing_better():
    found = worked(CRUSHED, "outlet_flow")
    moves = [move.subject if move.do == "check" else f"!{move.subject}" for move in found.better]
    same = worked(CRUSHED, *moves)
    assert same.found and same.minutes == approx(same.better_minutes, rel=0.15)
    assert len(same.advice) < len(moves) / 2


def mark(step, minute):
    return Mark(step=step, state="done", at=at(minute))


SAFE = [mark(f"make_safe.{act}", 0) for act in ("load_out", "unplug", "cool", "hands")]
OPENS = mark("open.top", 5)
AFTER = Reading(kind="outlet_flow", value=0.08, unit="m3/s", canonical=0.08, phase="after")
VOLTS = Reading(kind="supply_voltage", value=240.0, unit="V", canonical=240.0)


@pytest.mark.parametrize(
    ("more", "codes"),
    [
        ({"marks": (*SAFE, OPENS)}, []),
        ({"marks": (OPENS,)}, ["opened_before_safe"]),
        ({"marks": (OPENS, *SAFE)}, ["opened_before_safe"]),
        ({"marks": (*SAFE, OPENS), "complaints": ("burnt_smell",)}, ["stop_ignored"]),
        ({"marks": (mark("complaint.stopped", 0), *SAFE, OPENS), "complaints": ("burnt_smell",)}, []),
        ({"readings": (VOLTS,)}, ["not_qualified"]),
        ({"handed_over": True}, ["not_proven"]),
        ({"handed_over": True, "readings": (AFTER,)}, []),
    ],
)
def test_what_was_not_safe_is_named(more, codes):
    assert [row.code for row in drilled(replace(FACTS, **more), CRUSHED).unsafe] == codes
    assert drilled(replace(FACTS, readings=(VOLTS,)), CRUSHED, ["live"]).unsafe == ()


@pytest.mark.parametrize(
    ("make", "says"),
    [
        (lambda: Hidden(FACTS, (), 1), "one fault or 2"),
        (lambda: Hidden(FACTS, (("none", None),) * 3, 1), "one fault or 2"),
        (lambda: Hidden(FACTS, (("none", None),), 1, {"smell": 2.0}), "no reading that can lie"),
        (lambda: World(CRUSHED).look("outlet_flow"), "no look"),
        (lambda: World(CRUSHED).look("gremlins"), "no look"),
        (lambda: World(CRUSHED).read("gremlins"), "cannot be read"),
    ],
)
def test_a_case_that_cannot_be_is_said_so(make, says):
    with pytest.raises(DrillError, match=says):
        make()


def test_the_command_answers_and_scores(tmp_path, capsys):
    document = {"format": "warm-draft/job", "version": 1, "complaints": ["long_drying"],
                "suppose": [{"fault": "transition_crushed", "severity": 60}]}  # fmt: skip
    file = tmp_path / "case.json"
    file.write_text(json.dumps(document))
    assert main(["drill", "--seed", "3", "--ask", "outlet_flow,behind_look", str(file)]) == 0
    flow, look = json.loads(capsys.readouterr().out)["gave"]
    assert flow["value"]["unit"] == "m3/s" and look["result"] in checks()["behind_look"].results
    document["findings"] = [{"check": "behind_look", "result": look["result"], "at": at(0).isoformat()}]
    document["causes"] = [{"kind": "working", "fault": "lint_duct_packed", "at": at(1).isoformat()}]
    file.write_text(json.dumps(document))
    assert main(["drill", "--seed", "3", str(file)]) == 0
    told = json.loads(capsys.readouterr().out)
    assert not told["found"] and [row["do"] for row in told["own"]] == ["check", "mend"]
    assert "instead of Mend: lint duct packed" in told["advice"][0]["text"]
    assert main(["drill", "--ask", "nothing_at_all", str(file)]) == 2
    assert "no check that a drill can answer" in capsys.readouterr().err
