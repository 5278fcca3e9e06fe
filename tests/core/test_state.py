"""The state of a job: one function from a document to all that a screen shows, on the command line as in the web."""

import json
import uuid

import pytest

from strategies import exact_readings, plain
from warmdraft.__main__ import main
from warmdraft.airway import READING_KINDS
from warmdraft.answers import job_answer, ways_answer
from warmdraft.errors import DocumentError
from warmdraft.jobfile import read_job, upgraded
from warmdraft.jobfile.simulate import as_document
from warmdraft.teardown import NOWHERE, TOOLS, code_of, key_of, layout, layout_document, modern_step, with_codes
from warmdraft.units import UNITS
from warmdraft.words import words_for
from warmdraft.work import STAGES, Viewer, state_of

LAYOUT = "door_screen_bulkhead"
FAULT = "blower_wheel_fouled"
MACHINE = {"layout": LAYOUT, "connection": "plug", "variant": {"front_hold": "clips"}}
ALSO = [{"also": ["drum_seal"]}]


def ids():
    number = 0
    while True:
        number += 1
        yield str(uuid.UUID(int=number))


def whole_job(**changes):
    """A job in the middle of closing: measured, opened, counted, with a screw too few and a wire still off."""
    new, minute = ids(), iter(range(10_000))
    exact = exact_readings(((FAULT, 0.5),))
    when = lambda: f"2026-11-26T08:{next(minute):02d}:00+00:00"  # noqa: E731
    state = state_of(
        read_job({
            "format": "warm-draft/job", "version": 1, "machine": MACHINE, "ways": ALSO,
            "causes": [{"kind": "working", "fault": FAULT}],
        }).facts
    )  # fmt: skip
    steps = [step.id for step in state.plan.open]
    cover = next(op for op in state.facts.layout.operations if op.id == "duct_cover")
    document = {
        "format": "warm-draft/job", "version": 1, "title": "Rumbles",
        "machine": MACHINE,
        "complaints": ["rumbles"],
        "readings": [
            {"id": next(new), "kind": kind, "value": exact[kind], "unit": UNITS[READING_KINDS[kind]].canonical,
             "at": when(), "by": "Ines"}
            for kind in ("outlet_flow", "outlet_static_pressure", "blower_inlet_suction")
        ],
        "marks": [
            *({"id": next(new), "step": f"make_safe.{name}", "state": "done", "at": when()}
              for name in ("load_out", "unplug", "cool", "hands")),
            *({"id": next(new), "step": step, "state": "done", "at": when(), "by": "Ines"} for step in steps),
            {"id": next(new), "step": "close.duct_cover", "state": "done", "at": when()},
        ],
        "counts": [
            {"id": next(new), "step": "open.duct_cover", "what": "fastener",
             "key": f"{cover.fasteners[0].kind} {cover.fasteners[0].length_mm:g} mm", "state": "back", "count": 4},
            {"id": next(new), "step": "surprise.tape over the felt", "what": "fastener", "key": "screw", "state": "out",
             "count": 2},
        ],
        "ways": [{"id": next(new)} | ALSO[0]],
        "causes": [{"id": next(new), "kind": "working", "fault": FAULT, "at": when(), "by": "Ines"}],
    }  # fmt: skip
    return document | changes


def test_the_command_line_prints_all_that_a_screen_shows(tmp_path, capsys):
    file = tmp_path / "job.json"
    file.write_text(json.dumps(whole_job()))
    assert main(["job", str(file)]) == 0
    told = json.loads(capsys.readouterr().out)
    assert [row["stage"] for row in told["stages"]] == list(STAGES)
    assert told["verdict"]["faults"][0]["fault"] == FAULT
    assert told["next"]["code"] == "do_step" and told["next"]["stage"] == "mend"
    assert "drum felt" in told["bench"]["reach"] and told["open"][0]["id"].startswith("open.")
    places = {row["step"]: row for row in told["bench"]["compartments"]}
    assert places["open.duct_cover"]["state"] == "closed"
    assert places["open.duct_cover"]["fasteners"][0]["left"] == 1
    odd = places["surprise.tape over the felt"]
    assert odd["back"] is None and odd["fasteners"][0]["text"] == "2 screws"
    held = {(row["code"], row["step"]) for row in told["bench"]["gate"]["discrepancies"]}
    assert {("left_over", "open.duct_cover"), ("left_over", "surprise.tape over the felt")} <= held
    assert not told["bench"]["gate"]["clear"] and told["proof"]["code"] == "not_measured"
    assert told["bench"]["taken"]["close.duct_cover"] == 1.0


def test_a_document_is_read_and_written_without_loss():
    document = whole_job()
    assert json.loads(json.dumps(as_document(read_job(document).document))) == document


def test_what_was_taken_back_speaks_for_nothing_and_is_not_forgotten():
    document = whole_job()
    first, *rest = document["readings"]
    again = rest[0] | {"id": str(uuid.uuid4()), "supersedes": first["id"], "kind": first["kind"],
                       "value": first["value"], "unit": first["unit"]}  # fmt: skip
    job = read_job(document | {"readings": [*rest, again], "withdrawn": {"readings": [first]}})
    answer = job_answer(state_of(job.facts), words_for())
    by_id = {row.id: row for row in answer.readings}
    assert by_id[first["id"]].withdrawn and not by_id[first["id"]].in_force
    assert by_id[again["id"]].in_force and job.facts.number_of("before") == 3
    unsaid = read_job(document | {"readings": rest, "withdrawn": {"readings": [again]}} | {"readings": [first, *rest]})
    assert first["id"] in unsaid.facts.speaking, "what stands in for it was taken back"


def test_a_layout_goes_along_and_is_what_the_state_goes_by():
    own = layout_document(LAYOUT) | {"name": "mine"}
    own["operations"] = [row | {"open_minutes": 7.0} for row in own["operations"]]
    answer = job_answer(state_of(read_job(whole_job(layout=own)).facts), words_for())
    assert {step.minutes for step in answer.open} == {7.0}


def test_who_looks_changes_what_is_asked_next_and_nothing_else():
    facts = read_job(whole_job()).facts
    free, bound = state_of(facts), state_of(facts, Viewer(carries=frozenset(), qualified=frozenset()))
    assert free.verdict.faults == bound.verdict.faults and free.stages == bound.stages
    assert len(bound.verdict.next_checks) < len(free.verdict.next_checks)


def test_ways_stand_side_by_side_for_a_file_too():
    found = ways_answer(state_of(read_job(whole_job(marks=[])).facts), words_for())
    assert (found.ways and found.ways[0].longer == 0 and found.used_up == ["cable tie"]) or found.ways
    assert all("_" not in name for row in found.ways for name in (*row.also_reaches, *row.drivers))


def of_release_05(document):
    """The same job as 0.5 wrote it: what hands did under x-job, screws and wires by English words."""
    words = {"hex_head 18 mm": "hex head 18 mm", "screw": "screw"}
    counts = [
        row | {"key": words[row["key"]], "step": row["step"].replace("surprise.", "open.surprise: "), "note": ""}
        for row in document["counts"]
    ]
    machine = {key: part for key, part in document["machine"].items() if key == "layout"}
    own = {"counts": counts, "marks": document["marks"], "ways": document["ways"],
           "causes": [row | {"severity": None} for row in document["causes"]],
           "machine": {"id": "x", "name": "left", "supply": "plug", "variant": {"front_hold": "clips"}}}  # fmt: skip
    rest = {key: part for key, part in document.items() if key not in own}
    return rest | {"machine": machine, "x-job": own}


def test_a_file_of_release_05_is_the_same_job():
    now = whole_job()
    assert plain(job_answer(state_of(read_job(of_release_05(now)).facts), words_for())) == plain(
        job_answer(state_of(read_job(now).facts), words_for())
    )
    assert upgraded(now) is now


@pytest.mark.parametrize(
    ("changes", "path"),
    [
        ({"marks": [{"step": "open.x", "state": "gone"}]}, "$.marks[0].state"),
        ({"counts": [{"what": "wire", "key": "k", "state": "tight"}]}, "$.counts[0].state"),
        ({"counts": [{"what": "screw", "key": "k", "state": "out"}]}, "$.counts[0].what"),
        ({"causes": [{"kind": "guessed", "fault": FAULT}]}, "$.causes[0].kind"),
        ({"ways": [{"also": "drum"}]}, "$.ways[0].also"),
        ({"machine": {"layout": LAYOUT, "variant": {"front_hold": "glue"}}}, "$.machine.variant.front_hold"),
        ({"machine": {"layout": LAYOUT, "variant": {"colour": "red"}}}, "$.machine.variant"),
        ({"machine": {"connection": "battery"}}, "$.machine.connection"),
        ({"layout": {"format": "warm-draft/layout"}}, "$.layout.version"),
        ({"x-job": {"marks": [{"step": "open.x", "state": "gone"}]}}, "$.x-job.marks[0].state"),
        ({"marks": [{"id": str(uuid.UUID(int=1)), "step": "a", "state": "done"}] * 2}, "$.marks[1].id"),
    ],
)
def test_what_is_wrong_is_named_by_its_place(changes, path):
    document = {"format": "warm-draft/job", "version": 1} | changes
    with pytest.raises(DocumentError) as error:
        read_job(document)
    assert error.value.path == path


@pytest.mark.parametrize(
    ("what", "old", "now"),
    [
        ("fastener", "hex washer head 13 mm #2", "hex_washer_head 13 mm #2"),
        ("fastener", "my own stud 9 mm", "my own stud 9 mm"),
        ("wire", "gas valve · coil plug, two pins", "gas_valve · coil_plug_two_pins"),
        ("wire", "my relay · left", "my relay · left"),
        ("part", "cover for the old hole", "cover_for_the_old_hole"),
        ("part", "belt switch", "belt_switch"),
        ("tool", "in the bag", TOOLS),
    ],
)
def test_names_of_earlier_releases_are_read_as_codes(what, old, now):
    assert key_of(what, old) == now == key_of(what, now)


def test_a_layout_of_words_is_the_layout_of_codes():
    assert with_codes(layout_document(LAYOUT)) == layout_document(LAYOUT)
    words = {
        "fasteners": [{"kind": "pan head", "count": 1, "state": "out", "thread": "left-hand"}],
        "uses_up": ["foam seal"], "wires": [{"device": "door switch", "terminal": "plug", "colour": "Grey"}],
    }  # fmt: skip
    (row,) = with_codes({"operations": [words]})["operations"]
    assert row["fasteners"][0] == {"kind": "pan_head", "count": 1, "state": "out", "thread": "left_hand"}
    assert row["wires"] == [{"device": "door_switch", "terminal": "plug", "colour": "grey"}]
    assert row["uses_up"] == ["foam_seal"] and "carries_over" not in row


def test_steps_of_surprises_have_a_name_of_their_own():
    assert modern_step("open.surprise: a plate") == "surprise.a plate"
    assert modern_step("open.lint_screen") == "open.lint_screen" and modern_step(NOWHERE) == NOWHERE


@pytest.mark.parametrize("name", ["fastener", "finish", "thread", "device", "terminal", "colour", "part", "gear"])
def test_every_layout_speaks_in_codes(name):
    from warmdraft.tables import table
    from warmdraft.teardown import layout_names

    known = table("hardware")[name]
    for lay in map(layout, layout_names()):
        for op in lay.operations:
            used = {
                "fastener": [f.kind for f in op.fasteners], "finish": [f.finish for f in op.fasteners],
                "thread": [f.thread for f in op.fasteners], "device": [w.device for w in op.wires],
                "terminal": [w.terminal for w in op.wires], "colour": [w.colour for w in op.wires],
                "part": [*op.reaches, *op.uses_up, *op.carries_over], "gear": list(op.gear),
            }[name]  # fmt: skip
            assert all(code is None or (code in known and code_of(name, code) == code) for code in used), op.id
