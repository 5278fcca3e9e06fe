"""With the part in the hand: which way it turns, by torque; and whether a new part is the old one's like."""

import itertools
from dataclasses import fields, replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from warmdraft.answers import match_answer, wheel_answer, wheel_bench_answer
from warmdraft.errors import DocumentError
from warmdraft.mending import ATTACHMENTS, ENDS, PROPERTIES, Part, Seat, matched, turns_of
from warmdraft.repair import acts
from warmdraft.teardown import layout, layout_names
from warmdraft.words import words_for
from warmdraft.work import Because, Line, work_plan

TURNS = ("clockwise", "counterclockwise")
#: Along the shaft, out of its free end, is +1: seen from there, clockwise goes round −1 by the right-hand rule.
SPIN = {"clockwise": -1, "counterclockwise": 1}


def spin(turn: str, seen_from: str) -> int:
    """Which way round the axis that points out of the free end a turn goes that is seen from one side."""
    return SPIN[turn] * (1 if seen_from == "free_end" else -1)


def moves(hand: str, round_axis: int) -> int:
    """Which way a screwed part moves along the axis when it is turned against the shaft: a right-hand screw moves as
    the right hand's thumb when its fingers turn; −1 is home, onto the shaft."""
    return round_axis if hand == "right" else -round_axis


@pytest.mark.parametrize("attachment", ATTACHMENTS)
def test_its_own_work_screws_it_tight_and_it_comes_off_the_other_way(attachment):
    """All combinations, by torque: its load holds a wheel back, a belt pulls a pulley ahead of its shaft."""
    ways = itertools.product(("load", "driver"), TURNS, ENDS, (None, "left", "right"), (None, *TURNS), ENDS)
    for role, runs, seen_from, hand, arrow, kneels in ways:
        found = turns_of(Seat(attachment, role, runs, seen_from, hand, arrow, kneels))
        if attachment == "d_clamp":
            assert found is None
            continue
        # what the part does against the shaft as it works: a load lags, a driver leads
        slips = spin(runs, seen_from) * (-1 if role == "load" else 1)
        off = spin(found.off, kneels)
        assert moves(found.hand, off) == 1, "turned off, it moves away from the shaft"
        assert spin(found.on, kneels) == -off
        marked = arrow is not None or hand is not None
        assert found.decided_by == ("mark" if marked else "rule")
        tight = moves(found.hand, slips) == -1
        assert tight or marked, "unmarked, its own work never loosens it"
        assert found.contradiction is not tight
        assert spin(found.by_rule, kneels) == -slips
        if arrow:
            assert off == spin(arrow, "free_end")
        elif hand:
            assert found.hand == hand


def test_a_load_comes_off_the_way_it_runs():
    for runs in TURNS:
        assert turns_of(Seat("threaded_hub", "load", runs, "free_end")).off == runs
    # the two ends of one shaft: pulley and wheel, each seen from its own face, have one hand
    wheel = turns_of(Seat("threaded_hub", "load", "clockwise", "free_end"))
    pulley = turns_of(Seat("threaded_hub", "driver", "counterclockwise", "free_end"))
    assert wheel.hand == pulley.hand == "left"


WHEEL = {"format": "warm-draft/wheel", "version": 1, "attachment": "threaded_hub", "role": "load", "runs": "clockwise",
         "seen_from": "free_end"}  # fmt: skip


def test_a_mark_against_the_rule_wins_and_is_said():
    said = wheel_answer(WHEEL | {"hand": "right"}, words_for())
    assert (said.off, said.decided_by, said.contradiction) == ("counterclockwise", "mark", True)
    assert any("The rule says clockwise" in line for line in said.text)
    said = wheel_answer(WHEEL | {"hand": "right", "arrow": "clockwise"}, words_for())
    assert (said.off, said.hand, said.contradiction) == ("clockwise", "left", False)


def test_a_left_hand_thread_takes_no_power_driver_and_a_clamp_is_drawn():
    said = wheel_answer(WHEEL, words_for())
    assert any("power driver" in line for line in said.text) and said.free[0].way == "oil"
    assert all(row.risk for row in said.free) and {row.asks for row in said.schools}
    drawn = wheel_answer(WHEEL | {"attachment": "d_clamp"}, words_for())
    assert len(drawn.text) == 1 and drawn.free == [] and drawn.hand is None
    assert (drawn.off, drawn.on, drawn.decided_by, drawn.contradiction) == (None, None, "pull", False)


def test_the_bench_has_an_answer_to_whatever_is_asked_and_the_same_as_the_verb():
    bench = wheel_bench_answer(words_for())
    assert len(bench.turns) == 2 * 2 * 2 * 5
    for row in bench.turns:
        marked = {} if row.mark == "none" else {"arrow" if row.mark in TURNS else "hand": row.mark}
        asked = WHEEL | {"role": row.role, "runs": row.runs, "seen_from": row.kneels, "kneels": row.kneels} | marked
        said = wheel_answer(asked, words_for())
        assert (said.hand, said.off, said.on, said.contradiction, said.text) == (
            row.hand, row.off, row.on, row.contradiction, row.text)  # fmt: skip


@pytest.mark.parametrize("name", layout_names())
def test_every_layout_says_how_its_wheel_sits_wherever_it_comes_off(name):
    for operation in layout(name).operations:
        assert ("blower_wheel" in operation.reaches) <= (operation.attachment is not None), operation.id


@pytest.mark.parametrize(
    ("change", "path", "said"),
    [
        ({"runs": "left"}, "$.runs", "give one of clockwise, counterclockwise"),
        ({"attachment": "glued"}, "$.attachment", "give one of threaded_hub"),
        ({"hand": None}, "$.hand", "leave the key out"),
        ({"kneels": "front"}, "$.kneels", "give one of free_end, shaft_side"),
        ({"spin": 1}, "$.spin", "is not known here"),
    ],
)
def test_a_wheel_that_cannot_be_is_one_clear_error(change, path, said):
    with pytest.raises(DocumentError) as error:
        wheel_answer(WHEEL | change, words_for())
    assert error.value.path == path and said in error.value.message


LIMIT = Part("high_limit", "self", opens_at=121.0, closes_at=99.0, voltage=250.0, current=25.0, terminals=2,
             mounting="two screws")  # fmt: skip


@pytest.mark.parametrize(
    ("new", "verdict", "codes"),
    [
        ({}, "fits", []),
        ({"opens_at": 122.5}, "fits", []),
        ({"opens_at": 122.6}, "refused", ["opens_at_differs"]),
        ({"opens_at": 96.0, "closes_at": 80.0}, "refused", ["opens_at_differs", "differential_differs"]),
        ({"closes_at": 102.0}, "fits", []),
        ({"closes_at": 103.0}, "refused", ["differential_differs"]),
        ({"voltage": 125.0}, "refused", ["voltage_too_low"]),
        ({"voltage": 277.0, "current": 40.0}, "fits", []),
        ({"current": 15.0}, "refused", ["current_too_low"]),
        ({"resets": "no"}, "refused", ["resets_differs"]),
        ({"terminals": 4}, "refused", ["terminals_differ"]),
        ({"mounting": "Two  screws"}, "fits", []),
        ({"mounting": "clip", "kind": "thermal_cutoff"}, "refused", ["kind_differs", "mounting_differs"]),
    ],
)
def test_a_look_alike_is_refused_with_all_that_differs(new, verdict, codes):
    found = matched(LIMIT, replace(LIMIT, **new))
    assert (found.verdict, [row.code for row in found.reasons]) == (verdict, codes)


def test_what_one_does_not_say_is_asked_for_and_what_nobody_asks_is_not():
    assert matched(LIMIT, replace(LIMIT, current=None, mounting=None)).missing == ("current", "mounting")
    bare = replace(LIMIT, closes_at=None, terminals=None, mounting=None)
    assert matched(bare, bare).verdict == "fits"  # a limit is not asked where it closes
    cycling = replace(bare, kind="cycling_thermostat")
    assert matched(cycling, cycling).missing == ("closes_at",)
    element = Part("heating_element", power=5400.0, voltage=240.0)
    assert matched(element, replace(element, power=5508.0)).verdict == "fits"
    assert matched(element, replace(element, power=5600.0)).reasons[0].code == "power_differs"
    assert matched(Part("thermistor"), Part("thermistor")).missing == ("r25",)
    assert matched(Part("thermistor", r25=10_000.0), Part("thermistor", r25=10_150.0)).verdict == "refused"
    assert matched(Part("door_switch"), Part("door_switch")).verdict == "fits"


def parts():
    number = st.none() | st.sampled_from([10.0, 10.05, 10.1, 12.0, 120.0, 240.0])
    names = {"resets": st.none() | st.sampled_from(["no", "self", "by_hand"]),
             "terminals": st.none() | st.integers(2, 4),
             "mounting": st.none() | st.sampled_from(["clip", "two screws"])}  # fmt: skip
    kinds = st.sampled_from(
        ["thermal_fuse", "high_limit", "cycling_thermostat", "heating_element", "thermistor", "motor"]
    )
    return st.builds(Part, kind=kinds, **{name: names.get(name, number) for name in PROPERTIES})


@given(parts(), parts())
def test_of_any_two_parts_the_verdict_is_one_and_holds(old, new):
    found = matched(old, new)
    assert (found.verdict == "refused") == bool(found.reasons)
    assert (found.verdict == "ask") == bool(found.missing) and sorted(found.missing) == list(found.missing)
    for row in found.reasons:
        assert None not in (getattr(old, row.property), getattr(new, row.property))
    # more that is known never turns a refusal into a fit
    if found.verdict == "refused":
        known = {field.name: getattr(new, field.name) or getattr(old, field.name) for field in fields(Part)}
        assert matched(old, Part(**known)).verdict == "refused"
    assert matched(old, old).verdict != "refused"


MATCH = {"format": "warm-draft/part-match", "version": 1}


def test_a_refusal_is_said_in_a_persons_units_and_no_bridge_is_offered():
    old = {"kind": "high_limit", "resets": "self", "opens_at": {"value": 250, "unit": "degF"},
           "voltage": {"value": 250, "unit": "V"}, "current": {"value": 25, "unit": "A"}}  # fmt: skip
    new = old | {"opens_at": {"value": 96, "unit": "degC"}}
    said = match_answer(MATCH | {"old": old, "new": new}, words_for())
    assert said.verdict == "refused" and "96 °C" in said.reasons[0].text and "121 °C" in said.reasons[0].text
    assert "Never bridge it" in said.text
    asked = match_answer(MATCH | {"old": old, "new": {"kind": "high_limit"}}, words_for())
    assert asked.verdict == "ask" and asked.missing == ["current", "opens_at", "resets", "voltage"]


@pytest.mark.parametrize(
    ("new", "path", "said"),
    [
        ({"kind": "limit switch"}, "$.new.kind", "is not a part; give one of"),
        ({"kind": "high_limit", "resets": "maybe"}, "$.new.resets", "give one of no, self, by_hand"),
        ({"kind": "high_limit", "opens_at": {"value": 900, "unit": "degC"}}, "$.new.opens_at.value", "no machine has"),
        ({"kind": "high_limit", "current": {"value": 25, "unit": "V"}}, "$.new.current.unit", "A"),
        ({"kind": "high_limit", "terminals": 0}, "$.new.terminals", "give one from 1"),
        ({}, "$.new.kind", "missing"),
    ],
)
def test_a_part_that_cannot_be_is_one_clear_error(new, path, said):
    with pytest.raises(DocumentError) as error:
        match_answer(MATCH | {"old": {"kind": "high_limit"}, "new": new}, words_for())
    assert error.value.path == path and said in error.value.message


def closing_of(name: str):
    """Steps of closing a machine of a layout whose wheel was off."""
    line = Line(acts()["blower_wheel.replace"], (Because("order"),), "must", "open")
    return work_plan([line], layout(name), "plug", "electric").close


@pytest.mark.parametrize("name", [name for name in layout_names() if "blower_wheel" in layout(name).parts])
def test_on_again_the_wheel_is_asked_of_one_by_one_and_what_fails_opens_its_seat(name):
    """Common practice, no source: no slip, no touch, no wobble, then once more behind its cover."""
    close = closing_of(name)
    seats = [i for i, step in enumerate(close) if step.operation and step.operation.attachment
             and step.operation.role in (None, "load")]  # fmt: skip
    if not seats:
        return
    seat = seats[0]
    names = [step.id.removeprefix("close.") for step in close]
    assert names[seat + 1 : seat + 4] == ["fit_slip", "fit_touch", "fit_wobble"]
    cover = names.index("fit_cover")
    pulled = names.index("pull_out") if "pull_out" in names else len(names)
    assert seat < cover < pulled, "before the machine is pushed back"
    for at, step in enumerate(close):
        assert bool(step.goes_back) is step.id.startswith("close.fit_")
        assert all(close[i].id != step.id for i in range(at)), "each once"
        if step.goes_back:
            assert close[seat].id in step.goes_back
            assert {close.index(next(row for row in close if row.id == back)) for back in step.goes_back} <= set(
                range(at)
            )
