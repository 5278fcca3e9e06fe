"""Where a job stands, and what comes next. Derived from its facts, never stored."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

from warmdraft.diagnosis import Verdict, explains_heat
from warmdraft.faults import stops_the_job

StageName = Literal["complaint", "make_safe", "measure", "cause", "open", "mend", "close", "prove", "hand_over"]
NextCode = Literal[
    "handed_over", "say_complaint", "stop", "make_safe", "measure_again", "check", "choose_cause", "do_step", "gate",
    "confirm_cause", "measure_after", "hand_over",
]  # fmt: skip
STAGES: tuple[StageName, ...] = get_args(StageName)
#: A place this probable is worth opening a machine for without another check (own assumption).
SURE_ENOUGH = 0.8

State = Literal["done", "open", "not_needed"]


@dataclass(frozen=True, slots=True)
class Standing:
    """What the stages are judged by. steps: ids by stage; settled: ids marked done or said to be impossible.

    gate_clear: nothing that came off is left over.
    """

    complaints: tuple[str, ...]
    steps: dict[str, tuple[str, ...]]
    settled: frozenset[str]
    facts_before: int
    facts_after: int
    working_cause: str | None
    confirmed_cause: str | None
    handed_over: bool
    verdict: Verdict
    one_shot_opened: bool = False
    gate_clear: bool = True


@dataclass(frozen=True, slots=True)
class StageState:
    """One stage: its state, and how many of its steps are settled."""

    stage: StageName
    state: State
    settled: int
    of: int


@dataclass(frozen=True, slots=True)
class NextStep:
    """The one thing to do next: a code, the stage it is done at, and what it is about (a check, a step, a reading)."""

    code: NextCode
    stage: StageName
    subject: str | None = None


def stage_states(job: Standing) -> tuple[StageState, ...]:
    """All nine stages in order."""
    rows = []
    for stage in STAGES:
        steps = job.steps.get(stage, ())
        settled = sum(step in job.settled for step in steps)
        all_settled = settled == len(steps)
        state: State = "open"
        match stage:
            case "complaint":
                state = "done" if job.complaints else "open"
            case "measure":
                state = "done" if job.facts_before >= 3 or (job.facts_before and job.working_cause) else "open"
            case "cause":
                state = "done" if job.working_cause else "open"
            case "make_safe":
                state = "done" if all_settled else "open"
            case "open" | "mend":
                state = "open"
                if job.working_cause:
                    state = "not_needed" if not steps else "done" if all_settled else "open"
            case "close":
                closed = all_settled and job.gate_clear
                state = "done" if job.working_cause and closed and job.confirmed_cause else "open"
            case "prove":
                state = "done" if job.facts_after else "open"
            case "hand_over":
                state = "done" if job.handed_over else "open"
        rows.append(StageState(stage, state, settled, len(steps)))
    return tuple(rows)


def next_step(job: Standing) -> NextStep:
    """What comes next, in the order of the work."""
    if job.handed_over:
        return NextStep("handed_over", "hand_over")
    if not job.complaints:
        return NextStep("say_complaint", "complaint")
    if any(stops_the_job(complaint) for complaint in job.complaints) and "complaint.stopped" not in job.settled:
        return NextStep("stop", "complaint", "complaint.stopped")
    states = {row.stage: row for row in stage_states(job)}
    if states["make_safe"].state == "open":
        return NextStep("make_safe", "make_safe", _first_open(job, "make_safe"))
    if not job.working_cause:
        return _towards_a_cause(job)
    hands: tuple[StageName, ...] = ("open", "mend", "close")
    for stage in hands:
        step = _first_open(job, stage)
        if step:
            return NextStep("do_step", stage, step)
    if not job.gate_clear:
        return NextStep("gate", "close")
    if not job.confirmed_cause:
        return NextStep("confirm_cause", "close")
    if not job.facts_after:
        return NextStep("measure_after", "prove", "outlet_flow")
    return NextStep("hand_over", "hand_over")


def _first_open(job: Standing, stage: StageName) -> str | None:
    return next((step for step in job.steps.get(stage, ()) if step not in job.settled), None)


def _towards_a_cause(job: Standing) -> NextStep:
    if job.verdict.misfits:
        return NextStep("measure_again", "measure", job.verdict.misfits[0].reading)
    best = job.verdict.next_checks[0] if job.verdict.next_checks else None
    sure = job.facts_before > 0 and job.verdict.sure.probability >= SURE_ENOUGH
    if best is not None and best.worth_it and not sure:
        return NextStep("check", "measure", best.check)
    # a blown fuse is a victim: the work goes by what made the heat
    named = (row.fault for row in job.verdict.faults if not job.one_shot_opened or explains_heat(row.fault))
    return NextStep("choose_cause", "cause", next(named))
