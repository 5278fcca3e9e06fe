"""The tray and the gate: every discrepancy is caught, and a correct closing is let through."""

import random
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from warmdraft.teardown import (
    NOWHERE,
    SURPRISE,
    TOOLS,
    Fastener,
    Operation,
    Tally,
    Wire,
    fastener_keys,
    gate,
    layout,
    layout_names,
    plan_way,
    step_of,
    tray,
)
from warmdraft.words import words_for

B = "door_screen_bulkhead"


def at(op: Operation) -> str:
    """The step that takes it off."""
    return step_of("open", op.id)


def correct(operations) -> list[Tally]:
    """Everything said that a correct closing says: loosened ones tightened, wires on, parts new, tools counted."""
    said = []
    for op in operations:
        said += [Tally(at(op), "fastener", key, "tight", f.count)
                 for key, f in zip(fastener_keys(op), op.fasteners, strict=True) if f.state == "loosened"]  # fmt: skip
        said += [Tally(at(op), "wire", wire.key, "on") for wire in op.wires]
        said += [Tally(at(op), "part", part, "renewed") for part in op.uses_up]
        said += [Tally(at(op), "part", part, "stays") for part in op.carries_over]
    tools = {op.driver for op in operations} - {None}
    return [*said, Tally(NOWHERE, "tool", TOOLS, "counted", len(tools))]


def random_operations(rng: random.Random) -> list[Operation]:
    rows = []
    for i in range(rng.randint(1, 8)):
        fasteners = tuple(
            Fastener(rng.choice(["hex_head", "pan_head"]), rng.randint(1, 9), rng.choice(["out", "out", "loosened"]),
                     rng.choice([None, 10.0, 16.0]))
            for _ in range(rng.randint(0, 3))
        )  # fmt: skip
        wires = tuple(Wire(f"device {k}", f"terminal {k}", "red", rng.random() < 0.2) for k in range(rng.randint(0, 3)))
        rows.append(
            Operation(f"o{i}", f"take {i} off", 1, 1, rng.choice([None, "hex-1/4", "cross-2"]), fasteners=fasteners,
                      wires=wires, uses_up=("tie",) if rng.random() < 0.3 else (),
                      carries_over=("clip",) if rng.random() < 0.3 else ())
        )  # fmt: skip
    return rows


def judged(operations, opened, closed, said, undone=()):
    return gate(tray(operations, opened, closed, said), said, undone)


@settings(max_examples=150, deadline=None)
@given(seed=st.integers(0, 10**6))
def test_a_correct_closing_is_let_through(seed):
    rng = random.Random(seed)
    operations = random_operations(rng)
    every = {op.id for op in operations}
    said = correct(operations)
    rng.shuffle(said)
    places = tray(operations, every, every, said)
    assert gate(places, said).discrepancies == ()
    assert not any(place.full for place in places)
    # counting differently on the way out and finding as many again on the way back is correct too
    op = rng.choice(operations)
    for key, fastener in zip(fastener_keys(op), op.fasteners, strict=True):
        came = max(1, fastener.count + rng.choice([-1, 1]))
        back = "tight" if fastener.state == "loosened" else "back"
        said += [
            Tally(at(op), "fastener", key, fastener.state, came),
            Tally(at(op), "fastener", key, back, came),
        ]
    assert judged(operations, every, every, said).clear


def errors_of(operations, rng):
    """Every human error that could be made with these: what is said or not said differently, and what must be named."""
    rows = []
    for op in operations:
        rows.append(("still_off", at(op), op.id, lambda said, closed, op=op: (said, closed - {op.id})))
        for key, f in zip(fastener_keys(op), op.fasteners, strict=True):
            if f.state == "loosened":
                rows.append(("still_loose", at(op), key, lambda said, closed, op=op, key=key: (
                    [t for t in said if (t.step, t.key, t.state) != (at(op), key, "tight")], closed)))  # fmt: skip
                rows.append(("still_loose", at(op), key, lambda said, closed, op=op, key=key, f=f: (
                    [*said, Tally(at(op), "fastener", key, "tight", f.count - 1)], closed)))  # fmt: skip
            else:
                rows.append(("left_over", at(op), key, lambda said, closed, op=op, key=key, f=f: (
                    [*said, Tally(at(op), "fastener", key, "back", f.count - 1)], closed)))  # fmt: skip
                rows.append(("left_over", at(op), key, lambda said, closed, op=op, key=key, f=f: (
                    [*said, Tally(at(op), "fastener", key, "out", f.count + 1),
                     Tally(at(op), "fastener", key, "back", f.count)], closed)))  # fmt: skip
                rows.append(("more_than_came", at(op), key, lambda said, closed, op=op, key=key, f=f: (
                    [*said, Tally(at(op), "fastener", key, "back", f.count + 1)], closed)))  # fmt: skip
            end = "tight" if f.state == "loosened" else "back"
            rows.append(("missing", at(op), key, lambda said, closed, op=op, key=key, f=f, end=end: (
                [*said, Tally(at(op), "fastener", key, "missing", 1),
                 Tally(at(op), "fastener", key, end, f.count - 1)], closed)))  # fmt: skip
        for wire in op.wires:
            code = "ground_off" if wire.ground else "wire_off"
            rows.append((code, at(op), wire.key, lambda said, closed, op=op, wire=wire: (
                [t for t in said if (t.step, t.key) != (at(op), wire.key)], closed)))  # fmt: skip
            rows.append(("wire_contradicts", at(op), wire.key, lambda said, closed, op=op, wire=wire: (
                [*said, Tally(at(op), "wire", wire.key, "noted", note="red"),
                 Tally(at(op), "wire", wire.key, "noted", note="blue")], closed)))  # fmt: skip
        for part, code in [*((p, "used_up") for p in op.uses_up), *((p, "carried_over") for p in op.carries_over)]:
            rows.append((code, at(op), part, lambda said, closed, op=op, part=part: (
                [t for t in said if (t.step, t.key) != (at(op), part)], closed)))  # fmt: skip
    if any(op.driver for op in operations):
        rows.append(("tools", NOWHERE, TOOLS, lambda said, closed: (
            [*said, Tally(NOWHERE, "tool", TOOLS, "counted", 0)], closed)))  # fmt: skip
    rows.append(("nowhere", NOWHERE, "a screw", lambda said, closed: (
        [*said, Tally(NOWHERE, "fastener", "a screw", "left_over", 1)], closed)))  # fmt: skip
    rng.shuffle(rows)
    return rows


@settings(max_examples=150, deadline=None)
@given(seed=st.integers(0, 10**6))
def test_the_gate_catches_every_error(seed):
    rng = random.Random(seed)
    operations = random_operations(rng)
    every = {op.id for op in operations}
    for code, step, subject, err in errors_of(operations, rng):
        said, closed = err(correct(operations), set(every))
        held = judged(operations, every, closed, said)
        assert (code, step, subject) in {(p.code, p.step, p.subject) for p in held.discrepancies}, code
        assert not held.clear


@pytest.mark.parametrize("name", layout_names())
def test_opening_then_closing_empties_the_tray(name):
    lay = layout(name)
    plan = plan_way(lay, lay.parts)
    opened: set[str] = set()
    for op in plan.operations:
        opened.add(op.id)
    ids = {op.id for op in plan.operations}
    full = tray(plan.operations, ids, set(), [])
    assert all(place.full for place in full)
    assert sum(row.left for place in full for row in place.fasteners) == sum(
        f.count for op in plan.operations for f in op.fasteners
    )
    said = correct(plan.operations)
    closed: set[str] = set()
    for op in plan.closing:
        closed.add(op.id)
    empty = tray(plan.operations, ids, closed, said)
    assert not any(place.full for place in empty)
    assert gate(empty, said).clear
    for problem in gate(full, []).discrepancies:
        text = words_for().discrepancy(problem, lay)
        assert text and "{" not in text


def test_a_missing_one_passes_with_a_reason_and_stands():
    op = layout(B).operation("duct_cover")
    key = fastener_keys(op)[0]
    said = [
        *correct([op]),
        Tally(at(op), "fastener", key, "missing", 1),
        Tally(at(op), "fastener", key, "back", 4),
    ]
    assert [p.code for p in judged([op], {op.id}, {op.id}, said).discrepancies] == ["missing"]
    said.append(Tally(at(op), "fastener", key, "missing", 1, "fell into the wall, ordered"))
    held = judged([op], {op.id}, {op.id}, said)
    assert held.clear and [p.reason for p in held.accepted] == ["fell into the wall, ordered"]
    words = words_for().discrepancy(held.accepted[0], layout(B))
    assert words == (
        "1 hex head screw, 18 mm, coarse thread, zinc, into plastic missing at: duct cover off the blower: "
        "fell into the wall, ordered"
    )


def test_a_surprise_is_counted_and_all_of_it_goes_back():
    op = replace(layout(B).operation("wheel_cover"), driver=None)
    key = fastener_keys(op)[0]
    said = [Tally(at(op), "fastener", key, "out", 4)]
    (place,) = tray([op], {op.id}, set(), said)
    assert (place.fasteners[0].came, place.fasteners[0].differs, place.fasteners[0].left) == (4, True, 4)
    (place,) = tray([op], {op.id}, {op.id}, said)
    assert (place.fasteners[0].back, place.fasteners[0].left) == (4, 0)


def test_settled_notes_no_longer_contradict():
    op = layout(B).operation("thermostats")
    wire = op.wires[0].key
    said = [Tally(at(op), "wire", wire, "noted", note=colour, by=by)
            for colour, by in (("blue", "Ines"), ("violet", "Wren"))]  # fmt: skip
    (place,) = tray([op], {op.id}, set(), said)
    assert place.wires[0].contradicts and [note.by for note in place.wires[0].notes] == ["Ines", "Wren"]
    said.append(Tally(at(op), "wire", wire, "noted", 0, "blue", "Ines"))
    (place,) = tray([op], {op.id}, set(), said)
    assert not place.wires[0].contradicts


def test_a_wire_goes_by_the_latest_word():
    op = layout(B).operation("front_plugs")
    wire = op.wires[0].key
    for states, off in ((["on", "off", "on"], False), (["on", "off"], True), ([], True)):
        said = [Tally(at(op), "wire", wire, state) for state in states]
        assert tray([op], {op.id}, set(), said)[0].wires[0].off is off


def test_fasteners_keep_their_name_when_a_count_is_corrected():
    twice = Fastener("hex_head", 2, "out", 10.0)
    op = Operation("x", "x", 1, 1, fasteners=(twice, twice, Fastener("nut", 1, "out")))
    assert fastener_keys(op) == ("hex_head 10 mm", "hex_head 10 mm #2", "nut")


def test_a_surprise_panel_has_a_compartment_of_its_own_and_has_to_go_back():
    op = replace(layout(B).operation("wheel_cover"), driver=None)
    name = step_of(SURPRISE, "plate behind the drum")
    said = [Tally(name, "fastener", "pan_head", "out", 3)]
    place = tray([op], {op.id}, {op.id}, said)[-1]
    assert (place.step, place.state, place.fasteners[0].left) == (name, "open", 3)
    held = judged([op], {op.id}, {op.id}, said)
    assert [(p.code, p.step, p.counted) for p in held.discrepancies] == [("left_over", name, 0)]
    assert words_for().discrepancy(held.discrepancies[0], layout(B)) == (
        "3 pan head screws left over: they belong back at: plate behind the drum."
    )
    assert judged([op], {op.id}, {op.id}, [*said, Tally(name, "fastener", "pan_head", "back", 3)]).clear
    assert judged([op], {op.id}, {op.id}, [*said, Tally(name, "fastener", "pan_head", "out", 0)]).clear
