"""A machine of no known layout, opened by hand; and a known one that is otherwise than its layout has it."""

import pytest

from warmdraft.errors import DocumentError
from warmdraft.jobfile import read_job, read_layout
from warmdraft.teardown import document_of, layout, layout_names, layout_of, plan_way
from warmdraft.work import layout_as_found, state_of

SAFE = [{"step": f"make_safe.{name}", "state": "done"} for name in ("load_out", "unplug", "cool", "hands")]
WHEEL = [{"kind": "working", "fault": "blower_wheel_fouled"}]


def operation(name, does, reaches=(), screws=0, **more):
    fasteners = [{"kind": "hex_head", "count": screws, "state": "out"}] if screws else []
    row = {"id": name, "does": does, "open_minutes": 2, "close_minutes": 2, "driver": None, "needs": [],
           "reaches": list(reaches), "fasteners": fasteners}  # fmt: skip
    return row | more


ADDED = [
    {"operation": operation("own_1", "Back panel off", screws=8)},
    {"operation": operation("own_2", "Duct out", screws=2), "after": "own_1"},
    {"operation": operation("own_3", "Wheel off", ["blower_wheel"], wires=[
        {"device": "motor", "terminal": "plug", "colour": "white"}]), "after": "own_2"},
]  # fmt: skip


def job(added=(), marks=(), **more):
    document = {"format": "warm-draft/job", "version": 1, "complaints": ["rumbles"], "causes": WHEEL,
                "marks": [*SAFE, *marks], "added": list(added)}  # fmt: skip
    return state_of(read_job({key: part for key, part in (document | more).items() if part}).facts)


def off(*names, minutes=None):
    return [
        {"step": f"open.{name}", "state": "done"}
        | ({"at": f"2026-11-26T08:{minutes * i:02d}:00+00:00"} if minutes else {})
        for i, name in enumerate(names)
    ]


def test_what_comes_off_by_hand_is_on_the_bench_and_goes_back_in_reverse():
    begun = job(ADDED[:1], off("own_1"))
    assert begun.next.code == "find_way_in", "the wheel is not reached yet"
    assert [place.state for place in begun.bench.compartments] == ["open"]
    whole = job(ADDED, off("own_1", "own_2", "own_3"))
    assert whole.facts.by_hand and whole.next.code == "do_step" and whole.next.stage == "mend"
    closing = [step.operation.id for step in whole.plan.close if step.operation]
    assert closing == ["own_3", "own_2", "own_1"]
    assert not whole.bench.gate.clear, "the same gate as on any machine"
    codes = {(row.code, row.step) for row in whole.bench.gate.discrepancies}
    assert ("still_off", "open.own_1") in codes and ("wire_off", "open.own_3") in codes


def test_what_was_found_by_hand_is_a_layout_with_its_minutes_and_counts():
    counted = [{"step": "open.own_1", "what": "fastener", "key": "hex_head", "state": "out", "count": 9}]
    state = job(ADDED, off("own_1", "own_2", "own_3", minutes=4), counts=counted)
    found = layout_as_found(state, "mine", "Boot room")
    assert found.title == "Boot room" and found.operation("own_2").open_minutes == 4
    assert found.operation("own_1").fasteners[0].count == 9
    again = read_layout(document_of(found))
    assert again == found and [op.id for op in plan_way(again, ["blower_wheel"]).operations] == [
        "own_1", "own_2", "own_3",
    ]  # fmt: skip
    assert layout_as_found(job(machine={"layout": "two_motors"}), "mine", "x") is None


@pytest.mark.parametrize("name", layout_names())
def test_a_layout_is_the_same_again_from_its_document(name):
    assert layout_of(document_of(layout(name))) == layout(name)


def test_a_step_is_put_in_between_and_taken_back():
    machine = {"layout": "top_screen_rear_duct"}
    plain = job(machine=machine)
    odd = {"operation": operation("own_9", "A sheet of tape over the panel", screws=3), "after": "pull_out"}
    with_it = job([odd], off("pull_out", "own_9"), machine=machine)
    assert {step.id for step in with_it.plan.open} == {step.id for step in plain.plan.open} | {"open.own_9"}
    closing = [step.operation.id for step in with_it.plan.close if step.operation]
    assert closing.index("own_9") < closing.index("pull_out"), "what came off after it goes back before it"
    back = read_job({
        "format": "warm-draft/job", "version": 1, "machine": machine, "causes": WHEEL, "withdrawn": {"added": [odd]},
    })  # fmt: skip
    assert "open.own_9" not in {step.id for step in state_of(back.facts).plan.open}


def test_what_is_not_there_need_not_come_off():
    machine = {"layout": "top_screen_rear_duct"}
    plain = [step.id for step in job(machine=machine).plan.open]
    assert "open.cord_cover" in plain
    bare = job((), [{"step": "open.cord_cover", "state": "not_there"}], machine=machine)
    assert [step.id for step in bare.plan.open] == [step for step in plain if step != "open.cord_cover"]
    assert bare.plan.no_way is None and "close.cord_cover" not in {step.id for step in bare.plan.close}


@pytest.mark.parametrize("after", ["own_1", "own_2", "nothing"])
def test_nothing_comes_off_after_itself_or_after_what_came_later(after):
    first = {"operation": operation("own_1", "Back panel off"), "after": after}
    second = {"operation": operation("own_2", "Duct out", ["blower_wheel"]), "after": "own_1"}
    state = job([first, second], off("own_1", "own_2"))
    assert [step.operation.id for step in state.plan.close if step.operation] == ["own_2", "own_1"]


def test_the_latest_of_an_operation_holds():
    edited = {"operation": operation("own_1", "Back panel off", ["blower_wheel"], screws=7)}
    state = job([*ADDED[:1], edited], off("own_1"))
    assert state.facts.layout.operation("own_1").fasteners[0].count == 7
    assert state.next.stage == "mend"


@pytest.mark.parametrize(
    ("changes", "path"),
    [
        ({"added": [{"operation": operation("a", "x") | {"needs": [["b"]]}}]}, "$.added[0].operation.needs"),
        ({"added": [{"operation": {"id": "a"}}]}, "$.added[0].operation.does"),
        ({"added": [{"operation": operation("a", "x")}] * 201}, "$.added"),
        ({"marks": [{"step": "mend.clear_hood", "state": "not_there"}]}, "$.marks[0].state"),
    ],
)
def test_what_cannot_be_is_named_by_its_place(changes, path):
    with pytest.raises(DocumentError) as error:
        read_job({"format": "warm-draft/job", "version": 1} | changes)
    assert error.value.path == path
