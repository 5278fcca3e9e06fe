"""The job in the order people work: what makes it safe, the steps, where it stands, and what comes next.

On top of diagnosis, teardown, repair and proof.
"""

from warmdraft.work.plan import Step, Wanted, WorkPlan, qualification_of, safety_acts, wanted_parts, work_plan
from warmdraft.work.stages import STAGES, JobFacts, NextStep, StageState, next_step, stage_states

__all__ = [
    "STAGES",
    "JobFacts",
    "NextStep",
    "StageState",
    "Step",
    "Wanted",
    "WorkPlan",
    "next_step",
    "qualification_of",
    "safety_acts",
    "stage_states",
    "wanted_parts",
    "work_plan",
]
