"""The list of works: where lines come from, what becomes of them, and the one way in to all of them."""

import json

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from strategies import exact_readings
from warmdraft.__main__ import main
from warmdraft.airway import READING_KINDS
from warmdraft.answers import work_answer
from warmdraft.checks import checks, legs, legs_to
from warmdraft.errors import DocumentError
from warmdraft.faults import catalogue, fault_names
from warmdraft.jobfile import read_job
from warmdraft.meter import parts as metered_parts
from warmdraft.repair import NEEDS_NO_OPENING, act_of_check, acts, mend_of_part, repair_of
from warmdraft.teardown import layout, layout_names
from warmdraft.units import UNITS
from warmdraft.words import words_for
from warmdraft.work import brings_of_verdict, parts_drawn, state_of

WORDS = words_for()
A = "top_screen_rear_duct"


def job(**changes):
    return {"format": "warm-draft/job", "version": 1, "machine": {"layout": A}} | changes


def work(document, *causes):
    return work_answer(read_job(document), WORDS, causes)


def by_name(answer):
    return {f"{line.part}.{line.act}": line for line in answer.lines}


def metered(part, reading, **more):
    return {"part": part, "instrument": "digital", "isolated": True, "reading": reading} | more


def mark(step, state="done", **more):
    return {"step": step, "state": state} | more


@pytest.mark.parametrize("energy", ["electric", "gas"])
@pytest.mark.parametrize("name", layout_names())
def test_every_cause_on_every_machine_is_lines_with_steps_and_one_way_to_all_of_them(name, energy):
    parts = layout(name, frozenset({("energy", energy)})).parts
    for fault in (fault for fault, row in catalogue().items() if row.energy in (energy, None)):
        answer = work(job(machine={"layout": name, "energy": energy}), fault)
        musts = [line for line in answer.lines if line.stands == "must"]
        assert musts and all(line.steps for line in answer.lines)
        assert {line.because.fault for line in musts if line.because.kind == "cause"} == {fault}
        assert len({(line.part, line.act) for line in answer.lines}) == len(answer.lines)
        assert not set(answer.unreached) & set(parts), "a part that the layout has is reached"
        reached = set(answer.plan.reaches) if answer.plan else set()
        assert set(answer.reach) <= reached and (answer.plan is None) == (not answer.reach)
        for line in musts:
            wanted = set(acts()[f"{line.part}.{line.act}"].reach) - NEEDS_NO_OPENING
            assert wanted <= reached | set(answer.unreached)
        assert answer.unreached == [] or (energy == "gas" and name == "compact_front_duct")


@pytest.mark.parametrize("name", layout_names())
def test_whatever_a_machine_has_something_can_be_done_to_and_the_list_gets_to_it(name):
    for energy in ("electric", "gas"):
        lay = layout(name, frozenset({("energy", energy)}))
        for part in lay.parts:
            own = [act for act in acts().values() if act.part == part]
            assert own, f"nothing can be done to {part}"
            ordered = work(job(machine={"layout": name, "energy": energy},
                               works=[{"part": act.part, "act": act.act} for act in own]))  # fmt: skip
            for act in own:
                line = by_name(ordered)[act.name]
                assert line.stands == "must" and line.because.kind == "order" and line.steps and line.text
                if act.needs_opening:
                    assert set(act.reach) - NEEDS_NO_OPENING <= set(ordered.reach) <= set(ordered.plan.reaches)


@pytest.mark.parametrize("name", layout_names())
def test_every_layout_gets_to_every_electrical_part_it_names(name):
    for part in layout(name).electrical:
        act, energy = mend_of_part(part), checks()[f"meter_{part}"].energy or "electric"
        lay = layout(name, frozenset({("energy", energy)}))
        assert act.needs_opening <= (set(act.reach) <= set(lay.parts)), part


INSIDE = [name for name, check in checks().items() if check.access == "open" and check.results and not check.logs]


@pytest.mark.parametrize("name", INSIDE)
def test_every_look_inside_is_an_act_on_the_part_it_looks_at(name):
    opens = {leg.reaches for leg in legs_to(checks()[name]) if leg.reaches} - {None}
    act = act_of_check(name)
    assert act is not None and act.finds_out
    assert opens <= set(act.reach) or opens <= {"blower_wheel"}, (opens, act.reach)  # the open duct shows the wheel too
    assert all(leg in legs() for leg in checks()[name].first)


def test_acts_hold_together():
    ids = [step.id for act in acts().values() for step in act.steps]
    assert len(set(ids)) == len(ids), "a step belongs to one act"
    assert {act.act for act in acts().values()} == set(table_of_contract())
    known = {part for name in layout_names() for energy in ("electric", "gas")
             for part in layout(name, frozenset({("energy", energy)})).parts}  # fmt: skip
    for act in acts().values():
        assert set(act.reach) <= known | {"transition"}, act.name
        if not act.finds_out:
            assert act.shows or act.name in {"drum_motor.clean", "drum_motor.replace", "room.clean", "use.adjust"}
        for step in act.steps:
            assert step.minutes > 0 and WORDS.act(act.name)
        for check in act.shows:  # the first result is a good one, also where one cannot tell
            row = checks()[check]
            rest = row.rows.get("rest", (1.0,))
            assert not row.results or rest[0] >= 0.3, f"{act.name} is shown by {check}"
    assert len([act for act in acts().values() if act.along]) >= 20


def table_of_contract():
    return ["look", "meter", "clean", "replace", "fit", "refit", "adjust", "clear", "repair"]


def test_a_blown_fuse_is_replaced_with_its_cause_never_alone_and_never_forgotten():
    blown = job(complaints=["no_start"], meter=[metered("thermal_fuse", "open")])
    alone = state_of(read_job(blown).facts)
    assert [line.act.name for line in alone.works.waiting] == ["thermal_fuse.replace"]
    assert "thermal_fuse.replace" not in {line.act.name for line in alone.works.lines}
    for fault in fault_names():
        line = by_name(work(blown, fault))["thermal_fuse.replace"]
        assert line.stands == "must" and line.because.kind == "consequence"
    assert by_name(work(blown, "lint_duct_packed"))["thermal_fuse.replace"].because.of == "lint_duct_packed"
    assert "thermal_fuse" in work(blown, "hood_blocked").reach, "the vent is at fault, and the machine is opened for it"


@pytest.mark.parametrize("part", [name for name, row in metered_parts().items() if not row.one_shot])
def test_what_a_meter_failed_is_mended(part):
    # 200 V at the receptacle, a shorted coil to the cabinet, an open contact: failed on any supply
    reading = {"receptacle": {"value": 2, "unit": "V"}, "element_to_cabinet": {"value": 3, "unit": "ohm"}}
    more = {"temperature": {"value": 22, "unit": "degC"}} if part == "thermistor" else {}
    found = job(meter=[metered(part, reading.get(part, "open"), **more)])
    line = by_name(work(found, "none"))[mend_of_part(part).name]
    assert (line.stands, line.because.kind, line.because.verdict) == ("must", "measured", "failed")


@pytest.mark.parametrize(
    ("findings", "name", "stands"),
    [
        ([("rear_felt_lamp", "gap")], "drum_seal.replace", "must"),
        ([("rear_felt_lamp", "worn")], "drum_seal.replace", "offer"),
        ([("hood_look", "blocked")], "hood.clear", "must"),
        ([("wheel_lamp", "caught")], "blower_wheel.clear", "must"),
        ([("behind_look", "flat")], "transition.replace", "must"),
        ([("terminals_look", "melted")], "heater_terminals.repair", "must"),
        ([("wheel_rim", "vane_gone")], "blower_wheel.replace", "must"),
        ([("wheel_rim", "warped")], "blower_wheel.replace", "must"),
        ([("wheel_rim", "rub_mark")], "blower_wheel.replace", "offer"),
        ([("wheel_rim", "rub_mark")], "blower_housing.look", "must"),
        ([("wheel_hub", "hub_worn")], "blower_wheel.replace", "must"),
        ([("wheel_hub", "clamp_worn")], "blower_wheel.repair", "must"),
        ([("wheel_hub", "shaft_grooved")], "motor.replace", "must"),
    ],
)
def test_what_a_look_names_is_on_the_list(findings, name, stands):
    found = job(findings=[{"check": check, "result": result} for check, result in findings])
    line = by_name(work(found, "lint_screen_blinded"))[name]
    assert (line.stands, line.because.kind, line.because.verdict) == (stands, "measured", findings[0][1])


def test_a_wheel_that_is_replaced_is_not_cleaned_first_unless_somebody_says_so():
    cracked = {"findings": [{"check": "wheel_rim", "result": "vane_gone"}]}
    lines = by_name(work(job(**cracked), "blower_wheel_fouled"))
    assert lines["blower_wheel.replace"].stands == "must"
    became = state_of(
        read_job(job(**cracked, causes=[{"kind": "working", "fault": "blower_wheel_fouled"}])).facts
    ).works
    assert became.line("blower_wheel.clean").became == "not_needed"
    assert "blower_wheel.clean" not in {line.act.name for line in became.wanted}
    ordered = job(
        **cracked,
        causes=[{"kind": "working", "fault": "blower_wheel_fouled"}],
        works=[{"part": "blower_wheel", "act": "clean"}],
    )
    assert state_of(read_job(ordered).facts).works.line("blower_wheel.clean").became == "open"
    whole = job(
        findings=[{"check": "wheel_rim", "result": "whole"}],
        causes=[{"kind": "working", "fault": "blower_wheel_fouled"}],
    )
    assert state_of(read_job(whole).facts).works.line("blower_wheel.clean").became == "open"


@pytest.mark.parametrize(
    ("fault", "findings", "meter", "energy", "name", "expected"),
    [
        ("drum_seal_leaking", [], [], "electric", A, ["drum_seal.replace"]),
        ("drum_seal_leaking", [("front_felt_lamp", "gap")], [], "electric", A, ["front_seal.replace"]),
        ("switch_open", [], ["belt_switch"], "electric", A, ["belt_switch.replace"]),
        ("switch_open", [], ["start_switch"], "electric", A, ["start_switch.replace"]),
        ("switch_open", [], [], "electric", A, ["door_switch.meter"]),
        ("cycling_thermostat_off", [], [], "electric", "compact_front_duct", ["cycling_thermostat.replace"]),
        ("heat_source_weak", [], ["heating_element"], "electric", A, ["heating_element.replace"]),
        ("heat_source_weak", [], [], "gas", A, ["burner.look", "burner.clean"]),
        ("igniter_failed", [], [], "gas", A, ["igniter.meter"]),
        ("igniter_failed", [], ["igniter"], "gas", A, ["igniter.replace"]),
        ("flame_sensor_stuck", [("igniter_glow", "glows")], [], "gas", A, ["flame_sensor.replace"]),
        ("blower_still", [], [], "electric", "belt_driven_blower", ["blower_wheel.look", "blower_belt.refit"]),
        ("blower_still", [], [], "electric", A, ["blower_wheel.look", "blower_wheel.refit"]),
        ("motor_not_starting", [], [], "electric", "two_motors", ["drum_motor.meter"]),
    ],
)  # fmt: skip
def test_what_was_found_narrows_a_cause(fault, findings, meter, energy, name, expected):
    found = job(
        machine={"layout": name, "energy": energy},
        findings=[{"check": check, "result": result} for check, result in findings],
        meter=[metered(part, "open") for part in meter],
    )
    lines = work(found, fault).lines
    assert [f"{line.part}.{line.act}" for line in lines if line.because.kind == "cause"] == expected


def test_the_thermostat_is_got_to_where_this_machine_has_it_and_a_switch_opens_its_own_corner():
    # on the compact it sits on the front's duct: the drum stays in
    compact = work(job(machine={"layout": "compact_front_duct"}), "cycling_thermostat_off")
    assert "drum" not in compact.plan.operations and compact.reach == ["cycling_thermostat"]
    door = work(job(machine={"layout": "compact_front_duct"}, meter=[metered("door_switch", "open")]), "switch_open")
    assert "drum" not in door.plan.operations and door.plan.total_minutes < 15


def test_two_faults_are_two_lines_and_one_way():
    both = work(job(), "lint_duct_packed", "blower_wheel_fouled")
    names = by_name(both)
    assert names["lint_duct.clean"].because.fault == "lint_duct_packed"
    assert names["blower_wheel.clean"].because.fault == "blower_wheel_fouled"
    alone = work(job(), "blower_wheel_fouled").plan.total_minutes
    assert alone <= both.plan.total_minutes < alone + work(job(), "lint_duct_packed").plan.total_minutes


@pytest.mark.parametrize(
    ("first", "second", "kinds"),
    [
        (("hood_blocked", 40.0), ("lint_duct_packed", 25.0), ("outlet_flow", "outlet_static_pressure",
                                                             "screen_duct_suction", "blower_inlet_suction",
                                                             "hood_static_pressure")),
        (("transition_crushed", 80.0), ("blower_wheel_fouled", 0.6), ("outlet_flow", "outlet_static_pressure",
                                                                     "screen_duct_suction", "wall_static_pressure")),
    ],
)  # fmt: skip
def test_the_second_of_two_faults_is_a_line_with_its_probability(first, second, kinds):
    exact = exact_readings((first, second))
    found = job(complaints=["overheats"], readings=[
        {"kind": kind, "value": exact[kind], "unit": UNITS[READING_KINDS[kind]].canonical} for kind in kinds
    ])  # fmt: skip
    lines = work(found, first[0]).lines
    line = next(line for line in lines if line.because.kind == "second" and line.because.fault == second[0])
    assert line.stands == "must" and line.because.probability >= 0.5
    seconds = [line for line in lines if line.because.kind == "second"]
    assert all((line.stands == "must") == (line.because.probability >= 0.5) for line in seconds)


def test_a_service_gets_the_whole_lint_way_and_asks_for_no_cause():
    due = job(complaints=["service_due"], marks=[mark(f"make_safe.{name}") for name in
                                                 ("load_out", "unplug", "cool", "hands")])  # fmt: skip
    state = state_of(read_job(due).facts)
    lines = [line for line in state.works.lines if line.because[0].kind == "upkeep"]
    assert {line.act.part for line in lines} >= {
        "lint_screen", "lint_duct", "wheel_face", "blower_housing", "exhaust_pipe", "transition", "run", "hood",
        "cabinet_floor",
    }  # fmt: skip
    assert state.next.code == "do_step" and state.next.stage == "open"
    assert {row.stage: row.state for row in state.stages}["cause"] == "not_needed"
    order = [line.act.part for line in lines if not line.act.finds_out]
    assert order.index("lint_screen") < order.index("lint_duct") < order.index("exhaust_pipe") < order.index("run")


def test_a_look_inside_is_got_to_before_any_cause_and_what_is_open_stays_open():
    safe = [mark(f"make_safe.{name}") for name in ("load_out", "unplug", "cool", "hands")]
    asked = job(complaints=["no_start"], marks=safe, works=[{"part": "thermal_fuse", "act": "meter"}])
    state = state_of(read_job(asked).facts)
    assert state.next.code == "do_step" and state.next.stage == "open" and state.bench is not None
    opened = [mark(step.id) for step in state.plan.open]
    there = state_of(read_job(asked | {"marks": [*safe, *opened]}).facts)
    assert (there.next.code, there.next.subject) == ("check", "meter_thermal_fuse")
    blown = asked | {"marks": [*safe, *opened], "meter": [metered("thermal_fuse", "open")]}
    found = state_of(read_job(blown).facts)
    assert found.works.line("thermal_fuse.meter").became == "done"
    assert found.next.code in ("check", "choose_cause")
    mending = state_of(read_job(blown | {"causes": [{"kind": "working", "fault": "lint_duct_packed"}]}).facts)
    assert {step.id for step in mending.plan.open} >= {row["step"] for row in opened}
    assert {"lint_duct", "thermal_fuse"} <= set(mending.plan.reach)
    assert mending.bench.compartments[0].state == "open"


def test_without_a_layout_the_next_thing_is_the_way_in():
    safe = [mark(f"make_safe.{name}") for name in ("load_out", "unplug", "cool", "hands")]
    unknown = job(machine={}, complaints=["rumbles"], marks=safe,
                  causes=[{"kind": "working", "fault": "blower_wheel_fouled"}])  # fmt: skip
    state = state_of(read_job(unknown).facts)
    assert (state.next.code, state.next.stage) == ("find_way_in", "open")
    outside = state_of(read_job(unknown | {"causes": [{"kind": "working", "fault": "hood_blocked"}]}).facts)
    assert (outside.next.code, outside.next.stage) == ("do_step", "mend")
    assert work(job(machine={}), "blower_wheel_fouled").unreached == ["blower_wheel"]


WHEEL = {"causes": [{"kind": "working", "fault": "blower_wheel_fouled"}]}


@pytest.mark.parametrize(
    ("marks", "became", "wanted"),
    [
        ([], "open", False),
        ([mark("line.drum_seal.replace", "taken")], "taken", True),
        ([mark("line.drum_seal.replace", "declined", why="customer says no", by="Ines")], "declined", False),
        ([mark("line.drum_seal.replace", "taken"), mark("line.drum_seal.replace", "undone")], "open", False),
        ([mark("line.drum_seal.replace", "not_needed")], "not_needed", False),
        ([mark("mend.replace_felt")], "open", False),
        ([mark(f"mend.{step}") for step in ("cut_felt", "replace_felt", "test_felt")], "done", True),
    ],
)
def test_an_offer_is_taken_declined_and_undone(marks, became, wanted):
    state = state_of(read_job(job(machine={"layout": "door_screen_bulkhead"}, marks=marks) | WHEEL).facts)
    line = state.works.line("drum_seal.replace")
    assert (line.became, line.wanted) == (became, wanted)
    assert ("drum_seal" in state.plan.reach) == wanted
    assert ("mend.replace_felt" in {step.id for step in state.plan.mend}) == wanted
    if became == "declined":
        assert (line.why, line.by) == ("customer says no", "Ines")


def test_parts_taken_along_as_files_said_it_before_are_lines_that_are_taken():
    old = state_of(read_job(job(ways=[{"also": ["drum_seal", "rollers"]}]) | WHEEL).facts)
    assert {line.act.name for line in old.works.lines if line.became == "taken"} == {
        "drum_seal.replace", "rollers.look",
    }  # fmt: skip


@pytest.mark.parametrize(
    ("changes", "path", "said"),
    [
        ({"works": [{"part": "flux_capacitor", "act": "fit"}]}, "$.works[0].part", "is not a part"),
        ({"works": [{"part": "thermal_fuse", "act": "clean"}]}, "$.works[0].act", "no act on 'thermal_fuse'"),
        ({"works": [{"part": "thermal_fuse", "act": "polish"}]}, "$.works[0].act", "give one of"),
        ({"works": [{"part": "hood", "act": "clear"}] * 2}, "$.works[1]", "stands twice"),
        ({"marks": [mark("line.hood.polish", "taken")]}, "$.marks[0].step", "no line of works"),
        ({"marks": [mark("line.hood.clear", "done")]}, "$.marks[0].state", "nothing to say of a line"),
        ({"marks": [mark("mend.clear_hood", "declined", why="no")]}, "$.marks[0].state", "nothing to say of a step"),
        ({"marks": [mark("line.hood.clear", "declined")]}, "$.marks[0].why", "with a reason"),
        ({"marks": [mark("line.hood.clear", "declined", why="no ladder"), mark("mend.clear_hood")]}, "$.marks[1]",
         "take one of the two back"),
        ({"works": [{"part": "hood", "act": "clear", "id": "x"}]}, "$.works[0].id", ""),
        ({"works": [{"part": "hood", "act": "clear"}] * 201}, "$.works", "at most 200"),
    ],
)  # fmt: skip
def test_what_cannot_be_is_one_clear_error_that_names_its_place(changes, path, said):
    with pytest.raises(DocumentError) as error:
        read_job(job(**changes))
    assert error.value.path == path and said in error.value.message


orders = st.lists(st.sampled_from(list(acts())), min_size=1, max_size=6, unique=True)


@settings(max_examples=60, deadline=None)
@given(st.sampled_from(layout_names()), orders, st.data())
def test_any_orders_are_one_valid_plan_and_an_undone_line_leaves_no_orphan(name, names, data):
    ordered = [dict(zip(("part", "act"), one.split("."), strict=True)) for one in names]
    answer = work(job(machine={"layout": name}, works=ordered))
    lines = by_name(answer)
    parts = layout(name).parts
    for one in names:
        assert lines[one].stands == "must"
        inside = set(acts()[one].reach) - NEEDS_NO_OPENING
        assert inside & set(parts) <= set(answer.reach) and inside - set(parts) <= set(answer.unreached)
    if answer.plan:
        assert set(answer.reach) <= set(answer.plan.reaches) and answer.plan.optimal
        assert sorted(answer.plan.closing) == sorted(answer.plan.operations)
    gone = data.draw(st.sampled_from(names))
    left = [row for row, one in zip(ordered, names, strict=True) if one != gone]
    undone = work(job(machine={"layout": name}, works=left))
    assert undone == work(job(machine={"layout": name}, works=left[::-1]))
    still = [line for line in undone.lines if line.wanted]
    assert {f"{line.part}.{line.act}" for line in still} == set(names) - {gone}
    assert set(undone.reach) <= {part for line in still for part in acts()[f"{line.part}.{line.act}"].reach}


def test_what_may_be_needed_is_brought_the_most_probable_first():
    brings = work(job(), "blower_wheel_slipping").brings
    shares = [row.probability for row in brings]
    assert shares == sorted(shares, reverse=True) and all(0 < share <= 1 for share in shares)
    assert brings[0].part == "wheel_clamp" and brings[0].because.part == "blower_wheel"
    assert "blower_wheel" not in {row.part for row in work(job(), "blower_wheel_damaged").brings}


def test_work_on_the_command_line(tmp_path, capsys):
    file = tmp_path / "job.json"
    file.write_text(json.dumps(job(works=[{"part": "side_outlet", "act": "fit"}])))
    assert main(["work", "--cause", "lint_duct_packed,hood_blocked", str(file)]) == 0
    said = json.loads(capsys.readouterr().out)
    assert set(said) >= {"lines", "reach", "plan", "unreached", "brings"}
    assert said["unreached"] == ["side_outlet"], "this layout has no way to it, and it is not lost"
    line = next(line for line in said["lines"] if line["part"] == "lint_duct")
    assert set(line) >= {"part", "act", "because", "stands", "steps", "minutes", "needs_opening"}
    assert line["because"]["kind"] == "cause" and line["because"]["fault"] == "lint_duct_packed"
    assert main(["work", "--cause", "gremlins", str(file)]) == 2
    assert "'gremlins' is no fault" in capsys.readouterr().err
    with pytest.raises(SystemExit):
        main(["diagnose", "--cause", "none", str(file)])


@pytest.mark.parametrize(
    ("changes", "kind", "fault"),
    [
        ({"confirmed": [{"fault": "hood_blocked"}, {"fault": "idler_worn"}]}, "cause", {"hood_blocked", "idler_worn"}),
        ({}, None, set()),
        ({"readings": [{"kind": "outlet_flow", "value": 20, "unit": "cfm"},
                       {"kind": "hood_static_pressure", "value": 320, "unit": "Pa"},
                       {"kind": "outlet_static_pressure", "value": 330, "unit": "Pa"}],
          "findings": [{"check": "hood_look", "result": "blocked"}]}, "cause", {"hood_blocked"}),
    ],
)  # fmt: skip
def test_the_cause_is_what_is_confirmed_else_what_is_likely_enough(changes, kind, fault):
    lines = work(job(complaints=["overheats"], **changes)).lines
    assert {line.because.fault for line in lines if line.because.kind == "cause"} == fault


def test_repairs_are_of_known_acts():
    for fault in fault_names():
        assert repair_of(fault).main in repair_of(fault).acts


@pytest.mark.parametrize("energy", ["electric", "gas"])
@pytest.mark.parametrize("name", layout_names())
def test_whatever_can_be_done_inside_a_machine_is_touched_somewhere_on_its_cutaway(name, energy):
    lay = layout(name, frozenset({("energy", energy)}))
    found = parts_drawn(lay, energy)
    assert set(found) <= set(lay.drawing["shapes"]) and all(found.values())
    touched = {part for parts in found.values() for part in parts}
    inside = {act.part for act in acts().values() if act.reach and set(act.reach) <= set(lay.parts)}
    of_the_other = {"heating_element"} if energy == "gas" else {"igniter", "valve_coils", "flame_sensor"}
    assert inside - of_the_other <= touched
    assert not touched & of_the_other


def test_while_nobody_knows_the_cause_the_verdict_says_what_to_bring():
    """Chances of causes that exclude one another add; a part that a cause uses up is as probable as the cause."""
    state = state_of(read_job(job(findings=[{"check": "wheel_lamp", "result": "cracked"}])).facts)
    likely = {row.fault: row.probability for row in state.verdict.faults}
    brings = {row.part: row.probability for row in brings_of_verdict(state.verdict, state.acts_for)}
    assert brings["blower_wheel"] >= likely["blower_wheel_damaged"] * 0.99
    assert all(0 < chance <= 1 for chance in brings.values())
    assert list(brings.values()) == sorted(brings.values(), reverse=True)
    assert brings["blower_wheel"] > brings.get("motor", 0)
