"""The job in the order people work: its facts, what makes it safe, the steps, where it stands, what comes next.

On top of diagnosis, teardown, repair and proof; `state_of` is the one way from facts to all that follows from them.
"""

from warmdraft.work.facts import (
    Cause,
    Counted,
    DrawnRun,
    Fact,
    Finding,
    JobFacts,
    Logged,
    Mark,
    Metered,
    Observation,
    Phase,
    Reading,
    WayChoice,
    in_force,
)
from warmdraft.work.plan import Step, Wanted, WorkPlan, qualification_of, safety_acts, wanted_parts, work_plan
from warmdraft.work.stages import STAGES, NextStep, StageName, StageState, Standing, next_step, stage_states
from warmdraft.work.state import Bench, JobState, Viewer, state_of, taken_of, verdict_of, wanted_of

__all__ = [
    "STAGES",
    "Bench",
    "Cause",
    "Counted",
    "DrawnRun",
    "Fact",
    "Finding",
    "JobFacts",
    "JobState",
    "Logged",
    "Mark",
    "Metered",
    "NextStep",
    "Observation",
    "Phase",
    "Reading",
    "StageName",
    "StageState",
    "Standing",
    "Step",
    "Viewer",
    "Wanted",
    "WayChoice",
    "WorkPlan",
    "in_force",
    "next_step",
    "qualification_of",
    "safety_acts",
    "stage_states",
    "state_of",
    "taken_of",
    "verdict_of",
    "wanted_of",
    "wanted_parts",
    "work_plan",
]
