"""What a file may hold: every limit is said clearly, and a file at its limit is still read."""

import json
import time
import uuid

import pytest

from warmdraft.errors import DocumentError, LayoutError
from warmdraft.jobfile import parse_json, read_job, read_layout
from warmdraft.moments import as_utc, moment_of
from warmdraft.teardown import layout_of, plan_way

JOB = {"format": "warm-draft/job", "version": 1}
READING = {"kind": "outlet_flow", "value": 90, "unit": "cfm"}
LOOK = {"check": "hood_flap_opens", "result": "half"}
TEST = {"part": "door_switch", "instrument": "digital", "isolated": True, "reading": "open"}
PIECE = {"piece": "straight", "length": {"value": 10, "unit": "mm"}, "material": "galvanised"}


def log(minutes):
    return {"kind": "hood_flow", "unit": "cfm", "minutes": minutes, "values": [90.0] * len(minutes)}


def read(**keys):
    return read_job(parse_json(json.dumps(JOB | keys).encode()))


@pytest.mark.parametrize(
    ("key", "row", "most"),
    [("readings", READING, 2_000), ("findings", LOOK, 1_000), ("meter", TEST, 500), ("logs", log([*range(8)]), 20)],
)
def test_lists_have_an_end(key, row, most):
    assert len(getattr(read(**{key: [row] * most}).document, key)) == most
    with pytest.raises(DocumentError, match=rf"\$\.{key}: has {most + 1} entries; give at most {most}"):
        read(**{key: [row] * (most + 1)})


def test_a_run_has_at_most_200_pieces():
    vent = {"diameter": {"value": 4, "unit": "in"}}
    read(vent=vent | {"pieces": [PIECE] * 200})
    with pytest.raises(DocumentError, match=r"\$\.vent\.pieces: has 201 entries"):
        read(vent=vent | {"pieces": [PIECE] * 201})


def nested(levels):
    """A key of one's own with so many levels below the document's own."""
    value = 1
    for _ in range(levels):
        value = [value]
    return value


@pytest.mark.parametrize(
    ("keys", "said"),
    [
        ({"x-own": nested(28)}, None),
        ({"x-own": nested(30)}, "nested over 30 levels"),
        ({"x-own": nested(900)}, "nested over 30 levels"),
        ({"notes": "n" * 10_000}, None),
        ({"notes": "n" * 10_001}, r"\$\.notes: has 10001 characters"),
        ({"x-a": ["n" * 9_000] * 7}, None),
        ({"x-a": ["n" * 9_000] * 4, "x-b": ["n" * 9_000] * 4}, r"\$\.x-[ab]: keys of your own"),
        ({"logs": [log([0, 1, 2, 3, 4, 100_000])]}, None),
        ({"logs": [log([0, 1, 2, 3, 4, 1e300])]}, "minutes: lie outside 0 to 100000"),
        ({"logs": [log([-1e308, 1, 2, 3, 4, 5])]}, "minutes: lie outside 0 to 100000"),
        ({"logs": [log([*range(8)]) | {"values": [90.0] * 7 + [0.0]}]}, None),  # a moment without any flow
        ({"readings": [READING | {"at": "2027-02-03T10:20:00+01:00"}]}, None),
        ({"readings": [READING | {"at": "0001-01-01T00:00:00+14:00"}]}, "between 2000 and 2100"),
        ({"readings": [READING | {"at": "9999-12-31T23:59:59-12:00"}]}, "between 2000 and 2100"),
        ({"readings": [READING | {"at": "2026-11-25T09:00:00"}]}, "has no offset"),
    ],
)
def test_what_a_file_may_hold(keys, said):
    if said is None:
        read(**keys)
    else:
        with pytest.raises(DocumentError, match=said):
            read(**keys)


def test_a_moment_is_one_whatever_its_offset():
    assert moment_of("2026-11-25T09:00:00+23:59") == moment_of("2026-11-24T09:01:00Z")
    with pytest.raises(ValueError, match="no offset"):
        as_utc(moment_of("2026-11-25T09:00:00Z").replace(tzinfo=None))


def tangled(operations, choices=3):
    """A layout whose every operation may be reached in many ways, each with another driver."""
    rows = []
    for i in range(operations):
        before = [f"o{j}" for j in range(max(0, i - 12), i)]
        needs = [before[k::choices] for k in range(choices)] if i > 6 else []
        rows.append({
            "id": f"o{i}", "does": "x", "open_minutes": 0.5 + i % 3 / 2, "close_minutes": 0.5 + i % 2 / 2,
            "driver": f"d{(i * 7) % 11}", "needs": needs, "reaches": [f"p{i}"], "fasteners": [],
        })  # fmt: skip
    return {"format": "warm-draft/layout", "version": 1, "name": str(uuid.uuid4()), "driver_change_minutes": 0.4,
            "operations": rows}  # fmt: skip


def test_a_tangled_layout_costs_no_more_than_its_budget():
    """The best way known is given when the time is up: unproven, but a way, and how far it may be off is said."""
    began = time.thread_time()
    plan = plan_way(layout_of(tangled(120)), ("p119",), seconds=1.0)
    assert plan.operations[-1].id == "o119" and not plan.optimal and 0 < plan.gap_minutes < plan.total_minutes
    assert time.thread_time() - began < 3 * 1.0  # building the graph and putting the order down are not counted


def test_a_layout_has_at_most_200_operations():
    read_layout(tangled(200))
    with pytest.raises((DocumentError, LayoutError), match="at most 200 operations"):
        read_layout(tangled(201))
