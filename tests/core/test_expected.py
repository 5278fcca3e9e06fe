"""What the work is expected to give, before it is done."""

import numpy as np
import pytest

from warmdraft.airway import Conditions
from warmdraft.answers import expected_answer
from warmdraft.checks import NINE_IN_TEN, reading_sd
from warmdraft.heat import Load
from warmdraft.jobfile import read_job, simulated_job
from warmdraft.machine import profile, profile_names
from warmdraft.words import words_for
from warmdraft.work import state_of
from warmdraft.work.expected import expected_of, minutes_at

SUCTION = [{"kind": "blower_inlet_suction", "value": 0.95, "unit": "inH2O"}]


def a_state(fault="lint_duct_packed", readings=SUCTION, **more):
    document = {
        "format": "warm-draft/job", "version": 1, "complaints": ["long_drying"], "readings": readings,
        "machine": {"profile": "full-size-electric", "layout": "top_screen_rear_duct"},
        "causes": [{"kind": "working", "fault": fault}],
    }  # fmt: skip
    return state_of(read_job(document | more).facts)


@pytest.mark.parametrize("name", profile_names())
def test_less_air_takes_longer_and_the_published_test_stands_at_the_healthy_end(name):
    """Healthy: the published energy test, 26 min (US DOE 10 CFR 430 B, appendix D1, from memory)."""
    machine = profile(name)
    flows = [machine.airway.rated_flow_m3s * share for share in (1.0, 0.7, 0.45)]
    minutes = [minutes_at(machine, flow, Conditions(), Load()) or 999.0 for flow in flows]
    assert minutes == sorted(minutes)
    if name == "full-size-electric":
        assert minutes[0] == pytest.approx(26, abs=2)


def test_one_suction_tells_whether_opening_is_worth_it():
    """High suction before the wheel: the trouble is upstream, inside. Little of it: it may well be the vent."""
    packed, open_way = a_state(), a_state(readings=[SUCTION[0] | {"value": 0.2}])
    inside, outside = (expected_of(state, Conditions()).opening for state in (packed, open_way))
    assert inside.inside > outside.inside
    assert inside.flow_m3s > 0.01
    assert inside.in_vain == pytest.approx(1 - inside.inside)
    assert inside.minutes > 15


def test_what_is_promised_is_more_than_there_is_and_no_more_than_healthy():
    found = expected_of(a_state(), Conditions())
    assert found.after_m3s[0] < found.after_m3s[1] < found.after_m3s[2]
    assert found.now_m3s[1] < found.after_m3s[1]
    assert found.minutes_after <= found.minutes_now
    gains = {row.act.name: row for row in found.gains}
    assert 0 < gains["lint_duct.clean"].chance <= 1


def test_the_promise_is_kept_by_the_model_s_own_world():
    """A machine drawn with the fault, mended, reads what was promised in nine cases of ten or so."""
    kept = 0
    for seed in range(20):
        document = {"format": "warm-draft/job", "version": 1, "machine": {"profile": "full-size-electric"},
                    "suppose": [{"fault": "lint_duct_packed"}]}  # fmt: skip
        rng = np.random.default_rng(seed)
        drawn = [part.model_dump(exclude_none=True) for part in simulated_job(read_job(document), rng).readings or []]
        before = [row for row in drawn if row["kind"] in ("outlet_flow", "blower_inlet_suction")]
        found = expected_of(a_state(readings=before), Conditions())
        healed = simulated_job(read_job(document | {"suppose": []}), np.random.default_rng(seed)).readings or []
        flow = next(part for part in healed if part.kind == "outlet_flow").value
        low, median, high = found.after_m3s
        share, absolute = reading_sd("outlet_flow", None)
        off = NINE_IN_TEN * np.hypot((high - low) / 2 / NINE_IN_TEN, share * flow + absolute)
        kept += abs(flow - median) <= off
    assert kept >= 15


def test_it_is_told_in_this_persons_units():
    answer = expected_answer(a_state(), words_for("en", {"flow": "cfm"}))
    assert "cfm ±" in answer.text
    assert answer.opening.startswith("Worth opening?")
