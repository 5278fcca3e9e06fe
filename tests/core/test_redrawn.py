"""The vent drawn anew: what a plan is in the way of, the ways out on one machine, what they take, built and proven."""

from decimal import Decimal

import pytest

from warmdraft.answers import (
    Shop,
    expected_answer,
    quote_answer,
    redrawn_answer,
    vent_answer,
    whole_answer,
    work_answer,
)
from warmdraft.errors import DocumentError
from warmdraft.jobfile import read_job
from warmdraft.stock import Figures, Item, Offer
from warmdraft.units import FOOT_M
from warmdraft.vent import built_of, code_profiles, levels_of
from warmdraft.words import words_for
from warmdraft.work import state_of
from warmdraft.work.redrawn import ways_out


def ft(value: float) -> dict:
    return {"value": value, "unit": "ft"}


def inch(value: float) -> dict:
    return {"value": value, "unit": "in"}


def thing(kind: str, corner: list[int], opposite: list[int]) -> dict:
    return {"kind": kind, "corner": corner, "opposite": opposite}


CHOSEN = {"outlet": "back", "face": "+y", "diameter": inch(4), "material": "galvanised",
          "elbow": {"style": "smooth", "radius": inch(6)}}  # fmt: skip
BUILT = [{"step": f"mend.{step}", "state": "done"} for step in ("old_run_out", "build_run", "fit_new_hood")]
BUILD = built_of(4, "galvanised", "smooth", 6)


def job(of=None, **changes) -> dict:
    plan = {"cells": [14, 10, 8], "cell": ft(1), "machine": [5, 6, 0], "outdoors": ["+y"], "things": []} | changes
    read = [("outlet_flow", 85, "cfm"), ("outlet_static_pressure", 1.1, "inH2O")]
    return {
        "format": "warm-draft/job", "version": 1, "machine": {"layout": "door_screen_bulkhead"} | (of or {}),
        "complaints": ["long_drying"], "plan": plan,
        "readings": [{"kind": kind, "value": value, "unit": unit} for kind, value, unit in read],
    }  # fmt: skip


def found(document: dict, build=BUILD):
    state = state_of(read_job(document).facts)
    layout = state.facts.layout
    return ways_out(state.facts.new_run.plan, build, state.before, state.cause, layout.parts if layout else ())


def ways(document: dict, build=BUILD) -> dict:
    return {(way.outlet, way.face): way for way in found(document, build).ways}


def why(document: dict) -> dict:
    return {(row.outlet, row.face): row for row in found(document).closed}


def test_straight_out_of_the_back_is_the_least_there_is():
    way = ways(job())["back", "+y"]
    assert way.found.way.elbows == 0
    assert way.found.length_m == pytest.approx(1 * FOOT_M)
    assert way.fits
    assert way.flow_m3s[0] < way.flow_m3s[1] < way.flow_m3s[2]


def test_a_hood_keeps_away_from_windows_and_from_the_ground():
    apart = code_profiles()["residential-model"].hood_from_openings_m
    window = thing("window", [4, 9], [7, 9])
    plan = read_job(job(things=[window])).facts.new_run.plan
    hoods = plan.hoods("+y")
    assert hoods
    assert min(plan.things[0].distance_m(hood.cell, plan.cell_m) for hood in hoods) >= apart - 1e-9
    assert ways(job(things=[window]))["back", "+y"].found.way.elbows > 0
    below = {"value": -0.2, "unit": "m"}  # the ground outside is higher than the floor
    assert min(hood.cell[2] for hood in read_job(job(ground=below)).facts.new_run.plan.hoods("+y")) == 2
    assert min(hood.cell[2] for hood in read_job(job()).facts.new_run.plan.hoods("+y")) == 0


def test_a_hole_that_is_there_may_be_used_however_near_a_window():
    hole = {"cell": [5, 9, 0], "heading": "+y"}
    way = ways(job(things=[thing("window", [0, 9], [13, 9])], holes=[]))
    assert ("back", "+y") not in way
    kept = ways(job(things=[thing("window", [6, 9], [9, 9])], holes=[hole]))["back", "+y"]
    assert kept.found.way.cells[-1] == (5, 9, 0)


def test_outlets_that_cannot_be_used_say_why():
    shut = why(job(things=[thing("hose", [5, 8, 0], [6, 8, 0]), thing("cupboard", [4, 7], [4, 7])]))
    assert shut["back", None].why == "blocked" and shut["back", None].between == (("hose", 1),)
    assert shut["left", None].why == "blocked"
    assert shut["base", None].why == "off_the_plan"
    assert why(job({"layout": "top_screen_rear_duct"}))["left", None].why == "no_kit"
    # a grid finer than the room a side outlet wants
    cell = {"value": 0.1, "unit": "m"}
    near = job(cell=cell, cells=[12, 20, 20], machine=[2, 8, 0])
    assert why(near)["left", None].why == "no_room"
    assert why(near)["left", None].room_m == pytest.approx(0.2)


def test_where_no_way_leads_it_says_what_the_least_in_the_way_is():
    walls = [thing("wall", [0, 8], [13, 8]), thing("joist", [0, 9], [13, 9])]
    shut = why(job(things=walls))["right", "+y"]
    assert shut.why == "no_way" and shut.between == (("wall", 1),)
    glass = why(job(things=[thing("window", [0, 9, 0], [13, 9, 7])]))["back", "+y"]
    assert glass.why == "no_hood"
    answer = redrawn_answer(state_of(read_job(job(things=walls)).facts), BUILD, Shop(Figures("EUR")), words_for())
    assert any("1 × wall not to be drilled" in row.text for row in answer.closed)


@pytest.mark.parametrize(
    ("kind", "levels"),
    [("joist", (7, 7)), ("wall", (0, 7)), ("window", (2, 6)), ("hose", (0, 3)), ("door", (0, 6))],
)
def test_a_thing_reaches_as_far_as_such_things_do(kind, levels):
    assert levels_of(kind, 8, FOOT_M) == levels


def test_wider_bore_and_wider_bends_lose_less_and_mitred_ones_take_more_of_the_length():
    document = job(things=[thing("window", [4, 9], [7, 9])])
    drop = {bend: ways(document, bend)["back", "+y"] for bend in (
        built_of(4, "galvanised", "mitred", 6), BUILD, built_of(4, "galvanised", "smooth", 10),
        built_of(5, "galvanised", "smooth", 10))}  # fmt: skip
    lost = [way.verdict.pressure_drop_pa for way in drop.values()]
    assert lost == sorted(lost, reverse=True)
    mitred, smooth = list(drop.values())[:2]
    assert mitred.verdict.allowance.allowed_m < smooth.verdict.allowance.allowed_m
    assert [row.code for row in list(drop.values())[-1].verdict.warnings] == ["other_bore", "lint_settles"]


def test_what_the_answer_says_of_a_way_is_what_the_vent_says_of_its_pieces():
    state = state_of(read_job(job(things=[thing("window", [4, 9], [7, 9])])).facts)
    shop = Shop(Figures("EUR", hour=Decimal(60)), _catalogue())
    answer = redrawn_answer(state, BUILD, shop, words_for())
    way = next(row for row in answer.side if row.outlet == "back")
    vent = {"format": "warm-draft/vent", "version": 1, "flow": {"value": 0.075, "unit": "m3/s"}} | way.vent
    told = vent_answer(vent, words_for())
    assert told.pressure_drop.value == pytest.approx(way.pressure_drop.value)
    assert told.allowed_length.value - told.length.value == pytest.approx(way.left.value)
    duct = [row for row in way.parts if row.part.startswith("duct_") and row.part[5].isdigit()]
    assert sum(row.count for row in duct) == len(way.bars)
    priced = sum(Decimal(row.cost) for row in way.parts)
    assert Decimal(way.cost) == priced + Decimal(60) * Decimal(str(way.work_minutes)) / 60
    assert not way.unpriced and way.cuts_proven


def _catalogue() -> tuple[Item, ...]:
    prices = {"duct_24in": "8.10", "duct_60in": "15.60", "duct_elbow": "6.20", "hood": "18", "duct_support": "2",
              "metal_tape": "7", "transition_duct": "11", "clamps": "1.50", "sealant": "5"}  # fmt: skip
    return tuple(Item(part, part, offers=(Offer("North", Decimal(price)),)) for part, price in prices.items())


def test_chosen_it_stands_in_the_works_with_its_parts_and_the_old_run_is_left_alone():
    document = job(chosen=CHOSEN, things=[thing("window", [4, 9], [7, 9])])
    document["causes"] = [{"kind": "working", "fault": "vent_run_packed"}]
    state = state_of(read_job(document).facts)
    lines = {line.act.name: line for line in state.works.lines}
    assert lines["run.fit"].wanted and lines["run.fit"].because[0].kind == "drawn"
    assert lines["run.clean"].became == "not_needed"
    quote = quote_answer(state, Shop(Figures("EUR", hour=Decimal(60)), _catalogue()), words_for())
    needed = {row.part: row.count for row in quote.needed}
    assert needed["duct_elbow"] == state.new_run.pieces[:-1].count(BUILD.bend)
    assert needed["clamps"] == 2
    row = next(row for row in quote.rows if row.line == "run.fit")
    assert not row.unpriced
    told = work_answer(read_job(document), words_for(), ())
    assert "the vent is drawn anew" in next(line.because.text for line in told.lines if line.act == "fit")


def test_an_outlet_that_is_moved_opens_the_machine_for_it():
    document = job(chosen=CHOSEN | {"outlet": "left"}) | {"causes": [{"kind": "working", "fault": "run_overlong"}]}
    state = state_of(read_job(document).facts)
    assert [line.act.name for line in state.works.wanted] == ["side_outlet.fit", "run.fit"]
    assert state.plan.way.operations


@pytest.mark.parametrize(("read", "kept"), [(172, "as_promised"), (100, "short")])
def test_built_it_is_held_against_what_was_promised(read, kept):
    document = job(chosen=CHOSEN) | {"causes": [{"kind": "working", "fault": "run_overlong"}], "marks": BUILT}
    after = [("outlet_flow", read, "cfm"), ("outlet_static_pressure", 0.2 if read > 150 else 1.0, "inH2O")]
    document["readings"] += [
        {"kind": kind, "value": value, "unit": unit, "phase": "after"} for kind, value, unit in after
    ]
    state = state_of(read_job(document).facts)
    answer = expected_answer(state, words_for())
    assert ("As promised" in answer.kept) == (kept == "as_promised")
    assert (state.proof.code == "proven") == (kept == "as_promised")
    row = next(row for row in state.proof.rows if row.kind == "outlet_static_pressure")
    before = next(row for row in state_of(read_job(job()).facts).proof.rows if row.kind == "outlet_static_pressure")
    assert row.healthy < before.healthy  # a short run asks for less pressure than a usual one


def test_before_it_is_built_the_machine_is_the_old_one():
    document = job(chosen=CHOSEN) | {"marks": BUILT[:1]}
    state = state_of(read_job(document).facts)
    assert state.after.machine == state.facts.machine != state.rebuilt


def test_nothing_fits_and_it_says_by_how_much():
    far = job(cells=[40, 30, 9], machine=[1, 20, 0], outdoors=["+x"], things=[thing("wall", [2, 0, 0], [2, 27, 8])])
    state = state_of(read_job(far).facts)
    answer = redrawn_answer(state, built_of(4, "galvanised", "mitred", 6), Shop(Figures("EUR")), words_for())
    assert answer.side and not any(way.fits for way in answer.side)
    assert "Nothing fits" in answer.none and "booster" in answer.none
    nowhere = redrawn_answer(state_of(read_job(job(outdoors=[])).facts), BUILD, Shop(Figures("EUR")), words_for())
    assert "say which walls are outdoors" in nowhere.none


@pytest.mark.parametrize(
    ("changes", "path", "says"),
    [
        ({"machine": [14, 0, 0]}, "$.plan.machine", "lies outside the plan"),
        ({"things": [thing("wall", [0, 0], [0, 10])]}, "$.plan.things[0]", "lies outside the plan"),
        ({"things": [thing("tree", [0, 0], [0, 1])]}, "$.plan.things[0].kind", "give one of wall, joist"),
        ({"things": [thing("wall", [0], [0, 1])]}, "$.plan.things[0].corner", r"give \[x, y\]"),
        ({"outdoors": ["-z"]}, "$.plan.outdoors[0]", "give one of"),
        ({"ground": {"value": 3, "unit": "cfm"}}, "$.plan.ground", "is not a length"),
        ({"chosen": CHOSEN | {"outlet": "top"}}, "$.plan.chosen.outlet", "give one of back, left, right, base"),
        ({"cell": {"value": 0, "unit": "ft"}}, "$.plan.cell", "give one above 0"),
    ],
)
def test_a_plan_that_is_none_is_named(changes, path, says):
    with pytest.raises(DocumentError, match=says) as caught:
        read_job(job(**changes))
    assert caught.value.path.startswith(path)


def test_what_is_behind_it_stands_at_the_step_where_it_goes_back():
    document = job(chosen=CHOSEN, behind={"joins": "semi_rigid", "stands_out": inch(4)})
    document |= {"causes": [{"kind": "working", "fault": "run_overlong"}]}
    told = whole_answer(read_job(document), words_for())
    for step in (*told.mend, *told.close):
        marked = any("mark that on the floor" in row for row in step.cautions)
        assert marked == (step.id in ("mend.build_run", "close.vent_round")), step.id
    deep = job(behind={"joins": "semi_rigid", "stands_out": {"value": 3, "unit": "m"}})
    with pytest.raises(DocumentError, match="no depth of what is behind a machine"):
        read_job(deep)
