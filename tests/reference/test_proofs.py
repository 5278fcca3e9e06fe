"""Nothing unrepaired passes, and what is repaired does. The bench draws more of each (./warm bench proofs)."""

from dataclasses import replace

import numpy as np
import pytest

import generator as g
from proofs import FAULTS, FLOW_ONLY, READ, Machine, decided, told, weighted
from warmdraft.proof import ACCEPT_FROM, REJECT_BELOW, proof

DRAWS = 40


@pytest.fixture(scope="module")
def left():
    """Shares accepted though nothing was mended, by fault, named and not."""
    return {named: {f: told(f, DRAWS, 3, done=False, named=named).accepted for f in FAULTS} for named in (True, False)}


def test_an_unrepaired_fault_does_not_pass(left):
    for shares in left.values():
        assert weighted(shares) <= 0.05
        assert max(shares.values()) <= 0.10 + 2 / DRAWS, shares  # two draws of luck


def test_a_repaired_machine_is_let_through():
    shares = {f: told(f, DRAWS, 4).accepted for f in FAULTS}
    assert weighted(shares) >= 0.9, shares


def test_three_readings_decide_with_the_risk_that_is_told():
    """Repairs that went fully, in part, or not at all: JCGM 106's specific risk, held against what was true."""
    found = decided(2 * DRAWS, 9)
    assert found.wrongly <= 0.05
    assert found.through >= 0.8
    assert found.true == pytest.approx(found.said, abs=0.2)  # the few that are open


def test_a_worse_instrument_never_passes_more_easily():
    """Half repaired: as much flow as a mild fault leaves."""
    passed = [told("blower_wheel_slipping", DRAWS, 5, done=False, kinds=FLOW_ONLY, instrument=instrument).accepted
              for instrument in ("anemometer_traverse", "vane_anemometer", "anemometer_near_bend")]  # fmt: skip
    assert max(passed) <= 0.05
    healthy = [told("transition_crushed", DRAWS, 6, kinds=FLOW_ONLY, instrument=instrument).accepted
               for instrument in ("anemometer_traverse", "anemometer_near_bend")]  # fmt: skip
    assert healthy[0] >= healthy[1]


@pytest.mark.parametrize("done", [True, False])
def test_the_true_flow_lies_where_it_says(done):
    within = {fault: told(fault, DRAWS, 7, done=done).within for fault in ("hood_blocked", "lint_duct_packed")}
    assert np.mean(list(within.values())) >= 0.8  # nine in ten, less the luck of the draws


def test_what_is_said_to_settle_it_does_so_as_often_as_it_says():
    rng = np.random.default_rng(8)
    said, settled = [], []
    for fault in FAULTS * 12:
        machine = Machine(fault, rng, done=bool(rng.random() < 0.6))
        before, after = machine.case(machine.before, READ), machine.case(machine.after, FLOW_ONLY)
        first = next(iter(proof(before, after, (fault,)).settles), None)
        if first is None or first.check not in g.KINDS:
            continue
        more = tuple(fact for _ in range(first.times) for fact in machine.case(machine.after, (first.check,)).readings)
        found = proof(before, replace(after, readings=(*after.readings, *more)), (fault,)).acceptance
        said.append(first.chance)
        decided = found.conformity >= ACCEPT_FROM or found.conformity < REJECT_BELOW
        settled.append(decided and not any(line.proven is None for line in found.lines))
    assert len(said) >= 30 and np.ptp(said) > 0.2
    assert np.mean(settled) == pytest.approx(np.mean(said), abs=0.15)
