"""The job in the order people work: what makes it safe, the steps, where it stands, and what comes next.

On top of diagnosis, teardown, repair and proof.
"""

from warmdraft.work.plan import Step, WorkPlan, safety_acts, work_plan
from warmdraft.work.stages import STAGES, JobFacts, NextStep, StageState, next_step, stage_states

__all__ = [
    "STAGES",
    "JobFacts",
    "NextStep",
    "StageState",
    "Step",
    "WorkPlan",
    "next_step",
    "safety_acts",
    "stage_states",
    "work_plan",
]
