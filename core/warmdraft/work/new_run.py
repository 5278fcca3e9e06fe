"""The run that is to be built, of a plan and what was chosen of it."""

from __future__ import annotations

from warmdraft.air import ROOM_TEMPERATURE_C
from warmdraft.machine import Machine
from warmdraft.vent import VentRun, Ways, best_way
from warmdraft.work.facts import JobFacts

#: The step with which the old run is gone and the new one is what the machine blows into.
BUILT = "build_run"


def healthy_flow(machine: Machine) -> float:
    """What a new run is reckoned at, m³/s: the machine's rated flow."""
    return machine.airway.rated_flow_m3s


def run_chosen(facts: JobFacts) -> VentRun | None:
    """The run that was chosen of a plan; None where nothing was, or where it is there no more. Raises VentError."""
    new = facts.new_run
    if new is None or new.chosen is None:
        return None
    plan, chosen = new.plan, new.chosen
    begin = plan.begins(chosen.outlet)
    blocked = plan.blocked()
    if begin is None or begin.cell in blocked:
        return None
    ends = plan.ends(chosen.face)
    found = best_way(Ways(plan.size, blocked, begin), ends, chosen.build, plan.cell_m, healthy_flow(facts.machine),
                     ROOM_TEMPERATURE_C)  # fmt: skip
    return None if found is None else found.run
