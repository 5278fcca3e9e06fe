"""The scale that lint is graded on, and what each drawing stands for in the airway."""

import pytest

from warmdraft.answers import lint_answer
from warmdraft.errors import DocumentError
from warmdraft.faults import catalogue
from warmdraft.jobfile import read_job
from warmdraft.repair import GRADES, acts, free_share, lint_fault, severity_of
from warmdraft.words import words_for
from warmdraft.work import state_of

GRADED = [act for act in acts().values() if lint_fault(act)]


def a_state(**more):
    document = {"format": "warm-draft/job", "version": 1, "machine": {"profile": "full-size-electric"}} | more
    return state_of(read_job(document).facts)


@pytest.mark.parametrize("act", GRADED, ids=lambda act: act.name)
def test_each_drawing_takes_more_air_than_the_one_before(act):
    answer = lint_answer(a_state(), f"line.{act.name}", words_for())
    assert [row.grade for row in answer.grades] == list(range(GRADES))
    flows, free = [row.flow.value for row in answer.grades], [row.free for row in answer.grades]
    assert flows == sorted(flows)
    assert flows[0] == pytest.approx(0, abs=1e-9)
    assert free == sorted(free, reverse=True)
    assert free[0] == 1
    fault = lint_fault(act)
    assert severity_of(fault, GRADES - 1) == pytest.approx(fault.range[1])
    assert (answer.vanes is not None) is act.part.endswith(("wheel", "wheel_face"))


def test_half_the_way_takes_four_times_the_pressure():
    """Δp ∝ 1/A² at the same flow: continuity and Bernoulli."""
    fault = catalogue()["lint_duct_packed"]
    for grade in range(GRADES):
        assert severity_of(fault, grade) * free_share(fault, grade) ** 2 == pytest.approx(1)


def test_what_takes_no_lint_away_has_no_scale():
    for line in ("line.motor.replace", "mend.clean_vanes", "line.nothing.such"):
        with pytest.raises(DocumentError):
            lint_answer(a_state(), line, words_for())
