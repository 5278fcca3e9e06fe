"""The room around a machine: how far back it may go, the air it takes, a riser in words."""

import math

import pytest

from warmdraft.airway import healthy_state, solve
from warmdraft.answers import RiserAsked, clearance_answer, makeup_answer, riser_answer
from warmdraft.errors import DocumentError, VentError
from warmdraft.jobfile import read_job
from warmdraft.machine import profile
from warmdraft.units import INCH_M, UNITS
from warmdraft.vent import Behind, below_outdoors_pa, open_share_pushed, opening_for_m2, stands_off_m
from warmdraft.words import words_for
from warmdraft.work import state_of
from warmdraft.work.room import clearance, starved

MACHINE = profile("full-size-electric")
STATE = state_of(read_job({"format": "warm-draft/job", "version": 1}).facts)
US = words_for(habits={"length": "in", "flow": "cfm", "pressure": "inH2O"})
CFM = UNITS["flow"].names["cfm"]


def test_bends_ask_for_more_room_than_a_straight_joint_and_a_box_in_the_wall_gives_it_back():
    bore = 4 * INCH_M
    straight, rigid, semi = (stands_off_m(Behind(bore, joins)) for joins in ("opposite", "two_elbows", "semi_rigid"))
    assert straight < rigid < semi
    assert stands_off_m(Behind(bore, "semi_rigid", recess_m=0.1)) == pytest.approx(semi - 0.1)
    assert stands_off_m(Behind(bore, "opposite", stands_out_m=0.2)) == pytest.approx(0.225)
    # common practice, no source: about a foot behind a machine with a semi-rigid piece to one side
    assert 0.25 <= semi <= 0.35


@pytest.mark.parametrize("height", [0.02, 0.05, 0.09])
def test_a_flattened_pipe_keeps_its_circumference(height):
    """Plane geometry: two half circles and two straights as long round as the circle was."""
    bore = 0.1
    straight = (math.pi * bore - math.pi * height) / 2
    area = math.pi * height**2 / 4 + height * straight
    assert open_share_pushed(bore, bore - height) == pytest.approx(area / (math.pi * bore**2 / 4))


def test_pushed_further_it_gives_less_and_is_pulled_forward_before_the_worst():
    found = clearance(MACHINE, Behind(4 * INCH_M, "semi_rigid"))
    flows = [found.flow_m3s, *(row.flow_m3s for row in found.pushed)]
    assert flows == sorted(flows, reverse=True)
    assert flows[-1] < found.below_m3s < found.flow_m3s
    assert found.flow_m3s == pytest.approx(float(solve(healthy_state(MACHINE.airway), MACHINE.airway.fan).vent[0]))


def test_a_room_that_is_let_no_air_starves_its_machine():
    wide, narrow = starved(MACHINE, 0.0, 0.2), starved(MACHINE, 0.0, 0.005)
    assert wide.below_pa < 1 and wide.flow_m3s == pytest.approx(wide.freely_m3s, rel=0.01)
    assert narrow.below_pa > 50 and narrow.flow_m3s < 0.9 * narrow.freely_m3s
    # what comes in by the opening at that pressure is what goes out
    assert below_outdoors_pa(narrow.flow_m3s, 0.005) == pytest.approx(narrow.below_pa, rel=1e-6)
    assert starved(MACHINE, 0.05, 0.02).below_pa > starved(MACHINE, 0.0, 0.02).below_pa


def test_an_opening_passes_what_is_published_of_a_square_foot():
    """Air at standard density through a sharp-edged square foot under 0.1 inH2O: V = 4005·√0.1 ft/min (the velocity
    pressure constant of the ventilation handbooks), times 0.61."""
    foot2 = (12 * INCH_M) ** 2
    flow = 0.61 * 4005 * math.sqrt(0.1) * CFM
    assert below_outdoors_pa(flow, foot2) == pytest.approx(24.9, rel=0.01)
    assert opening_for_m2(flow, 24.9) == pytest.approx(foot2, rel=0.01)


def test_it_is_told_in_the_units_of_who_reads():
    answer = clearance_answer(STATE, "semi_rigid", 4, "", "4", US)
    assert answer.text[0] == "Its back stays 12 in from the wall: mark that on the floor."
    assert "mm" in clearance_answer(STATE, "semi_rigid", 4, "", "100", words_for()).text[0]
    pipes = clearance_answer(STATE, "opposite", 4, "", "8 in", words_for())
    assert "What stands out from the wall asks for it." in pipes.text


def test_a_closet_without_enough_air_is_told_with_its_danger():
    answer = makeup_answer(STATE, 60, False, "110", True, US)
    assert answer.spills
    assert any("carbon monoxide" in row and "licensed person" in row for row in answer.text)
    assert any(row.startswith("A closet wants 100 in²") for row in answer.text)
    assert any("200 cfm" in row for row in answer.text)
    enough = makeup_answer(STATE, 400, True, "", True, US)
    assert not enough.spills
    assert any("there is as much" in row for row in enough.text)


def test_a_riser_is_told_with_who_falls_short_and_where_lint_settles():
    asked = RiserAsked(8, 4, "10", "3", 1, "10", "", "open")
    answer = riser_answer(STATE, asked, US)
    assert len(answer.patterns) == 10
    assert sum(flow is not None for flow in answer.patterns[-2].flows) == 4
    assert any("all of them on" in row for row in answer.text)
    wide = riser_answer(STATE, RiserAsked(3, 12, "", "", 1, "", "", "open"), US)
    assert any(row.startswith("Lint settles between 1 and 2") for row in wide.text)
    assert any(
        "fan at the end" in row for row in riser_answer(STATE, RiserAsked(3, 6, "", "", 1, "", "0.2", "flap"), US).text
    )


@pytest.mark.parametrize(
    ("ask", "error", "says"),
    [
        (lambda: clearance_answer(STATE, "opposite", 4, "much", "", US), DocumentError, "recess"),
        (lambda: clearance_answer(STATE, "opposite", 4, "", "9 ft", US), VentError, "no depth"),
        (lambda: makeup_answer(STATE, 60, False, "10 psi", False, US), DocumentError, "others"),
        (lambda: riser_answer(STATE, RiserAsked(3, 6, "a lot", "", 1, "", "", "open"), US), DocumentError, "storey"),
    ],
)
def test_what_cannot_be_read_is_named(ask, error, says):
    with pytest.raises(error, match=says):
        ask()
