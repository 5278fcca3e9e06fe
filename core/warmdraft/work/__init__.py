"""The job in the order people work: its facts, what makes it safe, the steps, where it stands, what comes next.

On top of diagnosis, teardown, repair and proof; `state_of` is the one way from facts to all that follows from them.
"""

from warmdraft.work.departures import with_departures
from warmdraft.work.drawn import parts_drawn
from warmdraft.work.facts import JobFacts, in_force
from warmdraft.work.found import layout_as_found
from warmdraft.work.lines import Became, Because, Brings, Line, Reason, Works, brings_of, works_of
from warmdraft.work.opening import as_it_stands
from warmdraft.work.plan import Step, Wanted, WorkPlan, parts_of, qualification_of, safety_acts, work_plan
from warmdraft.work.recorded import (
    Added,
    Agreement,
    Cause,
    Counted,
    DrawnRun,
    Fact,
    Finding,
    LintFound,
    Logged,
    Mark,
    Metered,
    Observation,
    OldPart,
    Ordered,
    PartSaid,
    PartState,
    Phase,
    Reading,
    Sounded,
    WayChoice,
)
from warmdraft.work.stages import (
    STAGES,
    NextStep,
    StageName,
    StageState,
    Standing,
    check_first,
    next_step,
    stage_states,
)
from warmdraft.work.state import Bench, JobState, Viewer, state_of, taken_of, verdict_of, wanted_of

__all__ = [
    "STAGES",
    "Added",
    "Agreement",
    "Became",
    "Because",
    "Bench",
    "Brings",
    "Cause",
    "Counted",
    "DrawnRun",
    "Fact",
    "Finding",
    "JobFacts",
    "JobState",
    "Line",
    "LintFound",
    "Logged",
    "Mark",
    "Metered",
    "NextStep",
    "Observation",
    "OldPart",
    "Ordered",
    "PartSaid",
    "PartState",
    "Phase",
    "Reading",
    "Reason",
    "Sounded",
    "StageName",
    "StageState",
    "Standing",
    "Step",
    "Viewer",
    "Wanted",
    "WayChoice",
    "WorkPlan",
    "Works",
    "as_it_stands",
    "brings_of",
    "check_first",
    "in_force",
    "layout_as_found",
    "next_step",
    "parts_drawn",
    "parts_of",
    "qualification_of",
    "safety_acts",
    "stage_states",
    "state_of",
    "taken_of",
    "verdict_of",
    "wanted_of",
    "with_departures",
    "work_plan",
    "works_of",
]
