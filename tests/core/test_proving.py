"""What is proven after the work: the list by what the job is about, what holds a machine, what is left of a cause."""

from typing import Any

import pytest

from warmdraft.answers import whole_answer
from warmdraft.checks import checks
from warmdraft.diagnosis import Case, ReadingFact
from warmdraft.jobfile import read_job
from warmdraft.machine import profile
from warmdraft.proof import proof
from warmdraft.words import words_for
from warmdraft.work import state_of
from warmdraft.work.proving import to_prove

MACHINE = profile("full-size-electric")
AFTER = {"phase": "after"}


def document(**changes: Any) -> dict[str, Any]:
    return {
        "format": "warm-draft/job", "version": 1, "complaints": ["long_drying"],
        "readings": [
            {"kind": "outlet_flow", "value": 80, "unit": "cfm"},
            {"kind": "outlet_static_pressure", "value": 330, "unit": "Pa"},
        ],
        "confirmed": [{"fault": "transition_crushed"}],
    } | changes  # fmt: skip


def state(**changes: Any):
    return state_of(read_job(document(**changes)).facts)


def read(*pairs: tuple[str, float]) -> Case:
    return Case(MACHINE, readings=tuple(ReadingFact(kind, value) for kind, value in pairs))


@pytest.mark.parametrize(
    ("changes", "asked"),
    [
        ({}, {"flap", "flow", "pressure", "hot_load"}),
        ({"complaints": ["overheats"]}, {"flap", "flow", "pressure", "heat", "limit_cycle"}),
        ({"complaints": ["rumbles"]}, {"flap", "flow", "pressure", "sound"}),
        ({"complaints": ["long_drying"], "circumstances": ["slow_after_an_hour"]},
         {"flap", "flow", "pressure", "hot_load", "long_run"}),
        ({"complaints": ["no_heat"], "meter": [
            {"part": "thermal_fuse", "instrument": "digital", "isolated": True, "reading": "open"}]},
         {"flap", "flow", "pressure", "heat", "limit_cycle"}),
    ],
)  # fmt: skip
def test_the_list_asks_for_what_the_job_is_about_in_its_order(changes, asked):
    names = [row.name for row in state(**changes).proving]
    assert set(names) == asked
    assert names == [name for name in to_prove() if name in asked]


def test_what_was_done_after_the_work_is_done_and_before_it_is_not():
    found = [{"check": "hood_flap_opens", "result": "half"}]
    rows = {row.name: row for row in state(findings=found).proving}
    assert not rows["flap"].done
    rows = {row.name: row for row in state(findings=[found[0] | {"result": "full"} | AFTER]).proving}
    assert rows["flap"].done


def test_what_cannot_be_seen_here_is_not_asked_for_again():
    said = [{"check": "hood_flap_opens", "result": "not_possible"} | AFTER]
    assert {row.name: row.done for row in state(findings=said).proving}["flap"]


def test_what_was_read_before_is_read_again():
    """Only the same reading compares: who measured at the hood measures there again."""
    rows = {row.name: row for row in state(readings=[{"kind": "hood_flow", "value": 60, "unit": "cfm"}]).proving}
    assert rows["flow"].check == "hood_flow"


@pytest.mark.parametrize("row", to_prove().values(), ids=to_prove())
def test_each_row_is_shown_by_something_that_can_be_recorded(row):
    assert all(checks()[name].observes or checks()[name].results for name in row.checks)


def test_a_machine_that_got_too_hot_waits_for_its_air():
    """Common practice, no source: it stays out of use until air is proven."""
    poor = read(("outlet_flow", 0.06), ("outlet_static_pressure", 240))
    better, hot = read(("outlet_flow", 0.05), ("outlet_static_pressure", 330)), frozenset({"overheats"})
    cold = proof(better, poor, ("transition_crushed",))
    heated = proof(Case(MACHINE, readings=better.readings, complaints=hot), poor, ("transition_crushed",))
    assert cold.acceptance.conformity < 0.95
    assert (cold.too_hot_to_use, heated.too_hot_to_use, heated.holds) == (False, True, True)
    good = read(("outlet_flow", 0.081), ("outlet_static_pressure", 96))
    assert not proof(Case(MACHINE, readings=better.readings, complaints=hot), good, ("transition_crushed",)).holds


@pytest.mark.parametrize(
    ("after", "share"),
    [
        ((0.05, 330.0), None),  # no change: that says it
        ((0.066, 200.0), (0.1, 0.6)),  # more than half of it went
        ((0.081, 96.0), None),  # it is gone
    ],
)
def test_what_is_left_of_a_cause_is_told_as_a_share_of_what_was_there(after, share):
    kinds = ("outlet_flow", "outlet_static_pressure")
    before = read(*zip(kinds, (0.05, 330.0), strict=True))
    held = proof(before, read(*zip(kinds, after, strict=True)), ("transition_crushed",)).held
    if share is None:
        assert held is None
    else:
        assert held is not None
        assert held[0] == "transition_crushed"
        assert share[0] <= held[1] <= share[1]


def test_a_reading_stands_beside_what_was_promised():
    good = [*document()["readings"], {"kind": "outlet_flow", "value": 168, "unit": "cfm"} | AFTER]
    rows = whole_answer(read_job(document(readings=good)), words_for()).proof.rows
    flow = next(row for row in rows if row.kind == "outlet_flow")
    assert flow.keeps == "as_promised"
    assert flow.text.endswith("as promised")
    poor = [*document()["readings"], {"kind": "outlet_flow", "value": 110, "unit": "cfm"} | AFTER]
    rows = whole_answer(read_job(document(readings=poor)), words_for()).proof.rows
    flow = next(row for row in rows if row.kind == "outlet_flow")
    assert flow.keeps == "under_promise"
    assert flow.text.endswith("under what was promised")


def at(minute: int) -> dict[str, str]:
    return {"at": f"2026-11-26T09:{minute:02d}:00+00:00"}


def second_round(**changes: Any):
    """The hood was cleared and confirmed, and nothing changed; now the work goes by the transition."""
    return state(**{
        "readings": [
            {"kind": "outlet_flow", "value": 80, "unit": "cfm"} | at(1),
            {"kind": "outlet_static_pressure", "value": 330, "unit": "Pa"} | at(2),
            {"kind": "outlet_flow", "value": 84, "unit": "cfm"} | AFTER | at(20),
        ],
        "confirmed": [],
        "causes": [
            {"kind": "working", "fault": "hood_blocked"} | at(3),
            {"kind": "confirmed", "fault": "hood_blocked"} | at(15),
            {"kind": "working", "fault": "transition_crushed"} | at(30),
        ],
        "marks": [{"step": step, "state": "done"} | at(10) for step in
                  ("make_safe.unplug", "mend.clear_hood", "close.power_plug", "close.vent_round")],
    } | changes)  # fmt: skip


def test_after_a_failed_proof_another_cause_begins_a_round_of_its_own():
    found = second_round()
    assert found.cause == "transition_crushed"
    assert found.confirmed is None
    assert found.proof.code == "not_measured"  # of what is mended now, nothing was read yet
    # what was read after the first repair is what the machine read before the second one
    assert [round(row.value, 4) for row in found.before.readings if row.kind == "outlet_flow"] == [0.0396]
    # nothing had changed: what was not repeated still holds, and the hood is not what it most likely is
    assert {row.kind for row in found.before.readings} == {"outlet_flow", "outlet_static_pressure"}
    assert found.before.tried == {"hood_blocked"}
    assert found.verdict.faults[0].fault != "hood_blocked"


def test_it_ran_in_between_so_it_is_made_safe_and_looked_at_as_it_closes_once_more():
    found = second_round()
    assert "make_safe.unplug" not in found.settled
    assert "close.power_plug" not in found.settled
    assert "close.vent_round" not in found.settled
    assert "mend.clear_hood" in found.settled
    assert found.next.stage == "make_safe"


def test_what_helped_in_part_leaves_only_what_was_read_since():
    some = second_round(readings=[
        {"kind": "outlet_flow", "value": 80, "unit": "cfm"} | at(1),
        {"kind": "outlet_static_pressure", "value": 330, "unit": "Pa"} | at(2),
        {"kind": "outlet_flow", "value": 125, "unit": "cfm"} | AFTER | at(20),
    ])  # fmt: skip
    assert {row.kind for row in some.before.readings} == {"outlet_flow"}
    assert some.before.tried == frozenset()


def test_what_was_done_in_the_first_round_stays_on_the_list():
    done = {line.act.name for line in second_round().works.lines if line.became == "done"}
    assert "hood.clear" in done


def test_the_second_round_is_proven_by_what_is_read_in_it():
    again = {"kind": "outlet_flow", "value": 168, "unit": "cfm"} | AFTER | at(50)
    first = second_round().facts
    found = second_round(readings=[
        {"kind": "outlet_flow", "value": 80, "unit": "cfm"} | at(1),
        {"kind": "outlet_flow", "value": 84, "unit": "cfm"} | AFTER | at(20), again,
    ])  # fmt: skip
    row = next(row for row in found.proof.rows if row.kind == "outlet_flow")
    assert (round(row.before, 4), round(row.after, 4)) == (0.0396, 0.0793)
    assert first.readings[-1].phase == "before"


def test_what_the_second_round_reads_says_nothing_of_the_first_repair():
    """Good readings at the end leave the first repair one that did nothing, and the pressure from before in force."""
    again = {"kind": "outlet_flow", "value": 168, "unit": "cfm"} | AFTER | at(50)
    rows = [
        {"kind": "outlet_flow", "value": 80, "unit": "cfm"} | at(1),
        {"kind": "outlet_static_pressure", "value": 330, "unit": "Pa"} | at(2),
        {"kind": "outlet_flow", "value": 84, "unit": "cfm"} | AFTER | at(20),
    ]  # fmt: skip
    once, at_last = second_round(readings=rows), second_round(readings=[*rows, again])
    assert at_last.before == once.before
    assert at_last.before.tried == {"hood_blocked"}
    assert {row.kind for row in at_last.before.readings} == {"outlet_flow", "outlet_static_pressure"}
