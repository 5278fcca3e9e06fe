"""Ways side by side, what to do along, the kit, recognising, learning, layouts as documents, and the verb `plan`."""

import itertools
import json
import random

import numpy as np
import pytest

from strategies import lines_for
from warmdraft.__main__ import main
from warmdraft.answers import plan_answer
from warmdraft.errors import DocumentError
from warmdraft.faults import catalogue
from warmdraft.jobfile import read_layout
from warmdraft.repair import repair_of
from warmdraft.tables import table, texts
from warmdraft.teardown import (
    Marked,
    choices_of,
    corrected_count,
    fits_also,
    kit_of,
    layout,
    layout_document,
    layout_names,
    learned_minutes,
    minutes_taken,
    plan_way,
    questions,
    recognise,
    ways,
    with_minutes,
    worth_doing_along,
)
from warmdraft.words import words_for
from warmdraft.work import Wanted, work_plan

C = "lower_panel_keyholes"


def variants(name):
    dims = [[("energy", e) for e in ("electric", "gas")], [("supply", s) for s in ("plug", "hard_wired")]]
    dims += [[(choice.name, answer) for answer in choice.answers] for choice in choices_of(name)]
    return [frozenset(chosen) for chosen in itertools.product(*dims)]


@pytest.mark.parametrize("name", layout_names())
def test_every_variant_is_a_sound_document(name):
    for variant in variants(name):
        lay = read_layout(layout_document(name, variant))
        assert lay == layout(name, variant)
        assert 15 <= len(lay.operations) <= 45
        for op in lay.operations:
            assert op.area in texts("bench")["area"] and op.driver in {None, *table("drivers")}
            assert op.back and (op.check or op.area == "top" or not op.fasteners), f"{op.id}: how it goes back"
        other = "gas" if ("energy", "electric") in variant or name == "compact_front_duct" else "electric"
        wanted = {part for fault, row in catalogue().items() if row.energy != other for part in repair_of(fault).reach}
        assert wanted <= set(lay.parts), wanted - set(lay.parts)
        assert all(part in table("hardware")["part"] for part in lay.parts)
        if ("energy", "gas") in variant and name != "compact_front_duct":
            assert "burner" in lay.parts
        assert any(wire.ground for op in lay.operations for wire in op.wires)


def test_the_cramped_way_and_the_whole_front_stand_side_by_side():
    rows = ways(layout(C), ["blower_wheel"])
    assert words_for().way(rows[0]) == "by the lower panel, wheel from below"
    assert "by the whole front" in words_for().way(rows[1])
    assert rows[1].longer > 20 and {"drum_seal", "rollers"} <= set(rows[1].also_reaches)
    assert words_for().why_this_way(rows[0], rows).startswith("Quickest: 42 min less")
    assert "42 min longer" in words_for().why_this_way(rows[1], rows)
    assert any("cramped" in text for text in words_for().schools(rows))


@pytest.mark.parametrize("name", layout_names())
def test_ways_are_distinct_and_the_first_is_the_quickest(name):
    lay = layout(name)
    rows = ways(lay, ["blower_wheel"])
    assert 1 <= len(rows) <= 3
    assert [row.longer for row in rows] == sorted(row.longer for row in rows) and rows[0].longer == 0
    assert len({row.by for row in rows}) == len(rows)
    for row in rows:
        assert words_for().way(row) and words_for().why_this_way(row, rows)


def test_what_is_worth_doing_along_spares_what_it_says():
    lay = layout("top_screen_rear_duct")
    base = plan_way(lay, ["blower_wheel"]).total_minutes
    rows = worth_doing_along(lay, ["blower_wheel"])
    assert rows and rows[0].minutes_spared == max(row.minutes_spared for row in rows)
    for row in rows:
        both = plan_way(lay, ["blower_wheel", row.part]).total_minutes
        assert both - base == pytest.approx(row.minutes_more, abs=1e-6)
        assert plan_way(lay, [row.part]).total_minutes - row.minutes_more == pytest.approx(row.minutes_spared)


@pytest.mark.parametrize(
    ("driver", "fits"),
    # 25.4 mm to the inch: 5/16 in is 7.94 mm, 7/16 in is 11.11 mm; 1/4 in (6.35 mm) has no metric neighbour in 0.2 mm
    [("hex-5/16", ("hex-8mm",)), ("hex-7/16", ("hex-11mm",)), ("hex-1/4", ()), ("hex-11mm", ("hex-7/16",)), ("?", ())],
)
def test_what_fits_in_place_of_a_driver(driver, fits):
    assert fits_also(driver) == fits


def test_the_kit_names_drivers_parts_and_gear():
    kit = kit_of(plan_way(layout(C), ["lint_duct_seal"]))
    assert kit.tools[0].driver in ("hex-5/16", "cross-2")
    assert kit.used_up == () and {"gloves", "mask"} <= set(kit.gear)


def test_inches_are_as_wide_as_they_are():
    for name, row in table("drivers").items():
        size = name.removeprefix("hex-")
        if "/" in size:
            over, under = map(int, size.split("/"))
            assert row["across_mm"] == pytest.approx(25.4 * over / under, abs=1e-9)


def test_a_few_looks_recognise_a_layout():
    rng, asked, right, times = random.Random(3), 0, 0, 0
    for name in layout_names():
        shows = table(f"layouts/{name}")["recognise"]
        for _ in range(20):
            answers: dict[str, str] = {}
            while (found := recognise(answers)).next is not None:
                question = found.next[0]
                answers[question.name] = rng.choice(shows[question.name])
            asked, times, right = asked + len(answers), times + 1, right + (found.layouts[0][0] == name)
    assert right / times > 0.95
    assert asked / times < 5  # of nine that could be asked


def test_the_first_look_gains_the_most_for_its_time_and_odd_machines_are_said():
    found = recognise({})
    assert found.next is not None and not found.known
    assert sum(p for _, p in found.layouts) == pytest.approx(1)
    odd = {"screen": "top", "motors": "two", "belts": "two", "wheel_seat": "d_clamp", "top_held": "covers"}
    assert recognise(odd).none_of_them
    assert set(questions()) == set(table("recognise"))


def test_one_odd_day_spoils_no_estimate():
    usual = [5.0, 5.5, 4.8, 5.2, 5.1]
    calm, odd = learned_minutes(4.0, usual), learned_minutes(4.0, [*usual, 44.0])
    assert 4.6 < calm < 5.3
    assert odd < 1.15 * calm
    assert learned_minutes(4.0, []) == 4.0
    mean = float(np.exp(np.mean(np.log([4.0, 4.0, *usual]))))
    assert calm == pytest.approx(mean, rel=0.02)  # without an odd day, nearly the plain mean with the estimate twice


def test_estimates_come_to_what_is_taken():
    assert learned_minutes(4.0, [9.0] * 40) == pytest.approx(9.0, rel=0.05)
    lay = with_minutes(layout(C), {"open.lower_panel": [3.0] * 30})
    assert lay.operation("lower_panel").open_minutes == pytest.approx(3.0, rel=0.1)
    assert lay.operation("lower_panel").close_minutes == layout(C).operation("lower_panel").close_minutes


def test_minutes_run_from_mark_to_mark_and_a_break_says_nothing():
    marks = [Marked("open.a", 0), Marked("open.b", 4), Marked("open.c", 100), Marked("open.d", 103)]
    assert minutes_taken(marks) == {"open.b": 4, "open.d": 3}


@pytest.mark.parametrize(
    ("expected", "here", "elsewhere", "count"),
    [(4, None, [], 4), (4, 5, [4, 4], 5), (4, None, [5], 4), (4, None, [5, 5, 4], 5), (4, None, [5, 6], 4)],
)
def test_counts_come_from_this_machine_or_from_two_that_agree(expected, here, elsewhere, count):
    assert corrected_count(expected, here, elsewhere) == count


def test_a_stuck_step_is_planned_around_and_where_nothing_else_goes_that_is_said():
    lay = layout("top_screen_rear_duct")
    first = work_plan(lines_for("blower_wheel_fouled"), lay, "plug", "electric")
    assert "open.rear_clip" in [step.id for step in first.open]
    opened = ("pull_out", "slot_screws", "vent_off", "cord_cover", "rear_panel", "lint_duct")
    stuck = work_plan(lines_for("blower_wheel_fouled"), lay, "plug", "electric",
                      Wanted(opened=opened, impossible=frozenset({"rear_clip"})))  # fmt: skip
    ids = [step.id.removeprefix("open.") for step in stuck.open]
    assert tuple(ids[:6]) == opened and "rear_clip" not in ids and "drum" in ids
    assert stuck.no_way is None
    assert {op.id for op in stuck.way.closing} == set(ids)
    none = work_plan(
        lines_for("blower_wheel_fouled"), lay, "plug", "electric", Wanted(impossible=frozenset({"rear_panel"}))
    )
    assert none.no_way and "rear_panel" in {op.id for op in none.way.closing}


def test_a_step_says_its_driver_what_else_fits_and_when_it_stays_in_the_hand():
    steps = {step.id: step for step in work_plan(lines_for("lint_duct_packed"), layout(C), "plug", "electric").open}
    words = words_for().step(steps["open.lower_panel"])
    assert words.driver == "5/16 in hex driver"
    assert words.driver_also == ("8 mm hex driver",)
    close = work_plan(lines_for("lint_duct_packed"), layout(C), "plug", "electric").close
    back = words_for().step(next(step for step in close if step.id == "close.filter_housing"))
    assert back.check[0].startswith("Seated all round")
    assert not any(step.id == "close.count_screws" for step in close), "the gate counts"


def test_plan_on_the_command_line(tmp_path, capsys):
    file = tmp_path / "layout.json"
    file.write_text(json.dumps(layout_document(C)))
    assert main(["plan", "--reach", "blower_wheel,lint_duct", str(file)]) == 0
    told = json.loads(capsys.readouterr().out)
    plan = plan_way(layout(C), ["blower_wheel", "lint_duct"])
    assert told["operations"] == [op.id for op in plan.operations]
    assert told["closing"] == [op.id for op in plan.closing]
    assert told["total_minutes"] == pytest.approx(
        told["open_minutes"] + told["close_minutes"] + 0.4 * told["driver_changes"]
    )
    assert told["optimal"] is True
    assert told["fasteners"] == {"out": sum(f.count for op in plan.operations for f in op.fasteners), "loosened": 0}
    assert main(["plan", "--reach", "blower_wheel", "--avoid", "wheel_from_below", str(file)]) == 0
    assert json.loads(capsys.readouterr().out)["fasteners"]["loosened"] == 2


def _broken(**change):
    document = json.loads(json.dumps(layout_document(C)))
    return document | change


def _with(at: int, **change):
    document = _broken()
    document["operations"][at] |= change
    return document


@pytest.mark.parametrize(
    ("document", "reach", "says"),
    [
        ([], "x", "$: [] is not a layout"),
        (_broken(version=2), "x", "$.version"),
        (_broken(moon=1), "x", "$.moon: 'moon' is not known here"),
        (_with(0, open_minutes=-1), "x", "$.operations[0].open_minutes: -1 is no number of minutes"),
        (_with(0, open_minutes="2"), "x", "$.operations[0].open_minutes: '2' is not a number"),
        (_with(0, needs=[["moon"]]), "x", "$.operations[0].needs[0][0]: 'moon' is no operation"),
        (_with(0, needs=[[]]), "x", "$.operations[0].needs[0]: offers nothing"),
        (_with(0, needs=[["pull_out"]]), "x", "needs go in a circle: pull_out → pull_out"),
        (_with(1, id="pull_out"), "x", "$.operations[1].id: 'pull_out' stands twice"),
        (_with(0, close_before=["moon"]), "x", "$.operations[0].close_before[0]"),
        (_with(0, close_before=["pull_out"]), "x", "cannot go back before itself"),
        (_with(0, fasteners=[{"kind": "hex head", "count": -1, "state": "out"}]), "x", "fasteners[0].count"),
        (_with(0, fasteners=[{"kind": "hex head", "count": 1.5, "state": "out"}]), "x", "fasteners[0].count"),
        (_with(0, fasteners=[{"kind": "hex head", "count": 1, "state": "lost"}]), "x", "fasteners[0].state"),
        (_with(0, latch="glue"), "x", "$.operations[0].latch: 'glue' is not a latch"),
        (_with(0, shows=["moon"]), "x", "$.operations[0].shows: 'moon' is no shape"),
        (_broken(), "moon", "$.operations: nothing reaches 'moon'"),
    ],
)
def test_a_broken_layout_is_named_by_its_place(document, reach, says):
    with pytest.raises(DocumentError) as error:
        plan_answer(document, [reach])
    assert says in str(error.value)


def test_options_of_plan_are_checked(tmp_path, capsys):
    file = tmp_path / "layout.json"
    file.write_text(json.dumps(layout_document(C)))
    for arguments, says in (
        (["plan", str(file)], "--reach: is missing"),
        (["plan", "--reach", "a,,b", str(file)], "empty name"),
        (["plan", "--reach", "belt", "--people", "-1", str(file)], "negative"),
        (["vent", "--reach", "belt", str(file)], "are for plan"),
    ):
        with pytest.raises(SystemExit) as left:
            main(arguments)
        assert left.value.code == 2
        assert says in capsys.readouterr().err
    assert main(["plan", "--reach", "belt", "--avoid", "moon", str(file)]) == 2
    assert "'moon' is none of them" in capsys.readouterr().err


@pytest.mark.parametrize("name", layout_names())
def test_steps_keep_their_places_as_they_are_done(name):
    lay = layout(name)
    first = [step.operation.id for step in work_plan(lines_for("blower_wheel_fouled"), lay, "plug", "electric").open]
    for done in range(len(first)):
        plan = work_plan(lines_for("blower_wheel_fouled"), lay, "plug", "electric", Wanted(opened=tuple(first[:done])))
        assert [step.operation.id for step in plan.open] == first
        left = plan_way(lay, ["blower_wheel"], opened=set(first[:done]), in_hand=plan.way.in_hand)
        assert plan.way.total_minutes <= left.total_minutes + 3 * lay.driver_change_minutes
