"""Foam and felt: how long they are cut, and what a gap in them costs on this machine."""

import math

import pytest

from warmdraft.air import opening_conductance
from warmdraft.answers import seal_answer
from warmdraft.errors import DocumentError, SealError
from warmdraft.jobfile import read_job
from warmdraft.mending import Edge, cut_length
from warmdraft.words import words_for
from warmdraft.work import state_of


def a_state(profile="full-size-electric"):
    document = {
        "format": "warm-draft/job",
        "version": 1,
        "complaints": ["long_drying"],
        "machine": {"profile": profile},
    }
    return state_of(read_job(document).facts)


def test_a_felt_is_cut_by_the_circumference_and_foam_closes_when_pressed():
    """Circumference π·d; overlap 10 mm: own assumption."""
    assert cut_length("felt", Edge(0.66), 0.02) == pytest.approx(math.pi * 0.66 + 0.02)
    assert cut_length("foam", Edge(0.2, 0.1)) == pytest.approx(0.61)
    for wrong in (Edge(0.0), Edge(3.0), Edge(0.2, -0.1)):
        with pytest.raises(SealError):
            cut_length("foam", wrong)


def test_a_gap_passes_what_an_orifice_does():
    """One square inch under 1 inH2O: 4005·√Δp ft/min (ASHRAE's velocity pressure of standard air)
    by a coefficient of 0.61 over 1/144 ft² gives 17.0 cfm."""
    inch2, cfm = 0.0254**2, 4.719474432e-4
    flow = opening_conductance(inch2) * math.sqrt(249.089) / cfm
    assert flow == pytest.approx(4005 * 0.61 / 144, rel=0.01)


@pytest.mark.parametrize("cuts", ["foam", "felt"])
@pytest.mark.parametrize("profile", ["full-size-electric", "compact-electric-50hz"])
def test_a_larger_gap_costs_more_air_and_more_minutes(cuts, profile):
    answer = seal_answer(a_state(profile), cuts, "26 in", "", "", words_for("en", {"length": "in", "flow": "cfm"}))
    flows = [gap.flow.value for gap in answer.gaps]
    assert flows == sorted(flows)
    assert flows[0] > 0
    minutes = [math.inf if gap.minutes is None else gap.minutes for gap in answer.gaps]
    assert minutes == sorted(minutes)
    assert minutes[0] >= 0
    assert answer.round
    assert "in" in answer.text


def test_what_is_no_length_is_named():
    for across, down, path in (("wide", "", "$.across"), ("20 cm", "3 V", "$.down")):
        with pytest.raises(DocumentError) as caught:
            seal_answer(a_state(), "foam", across, down, "", words_for())
        assert caught.value.path == path
