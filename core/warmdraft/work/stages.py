"""Where a job stands, and what comes next. Derived from its facts, never stored."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal, get_args

from warmdraft.diagnosis import Verdict, explains_heat
from warmdraft.faults import stops_the_job
from warmdraft.proof import Proof

StageName = Literal["complaint", "make_safe", "measure", "cause", "open", "mend", "close", "prove", "hand_over"]
NextCode = Literal[
    "handed_over", "say_complaint", "stop", "make_safe", "measure_again", "check", "choose_cause", "ask_again",
    "find_way_in", "do_step", "gate", "confirm_cause", "measure_after", "measure_more", "prove_also", "not_mended",
    "hand_over",
]  # fmt: skip
STAGES: tuple[StageName, ...] = get_args(StageName)
#: A place this probable is worth opening a machine for without another check (own assumption).
SURE_ENOUGH = 0.8
#: And a fault this probable where mending it is expected to be quicker than any check (own assumption).
LIKELY_ENOUGH = 0.5


State = Literal["done", "open", "not_needed"]


@dataclass(frozen=True, slots=True)
class Standing:
    """What the stages are judged by. steps: ids by stage; settled: ids marked done, recorded or said to be impossible.

    wants_cause: the work goes by a cause, not by orders or upkeep alone; works: there is something for hands to do now;
    probes: checks that somebody ordered and that are still open, by their steps; way_known: hands can get to it.
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
    proof: Proof
    one_shot_opened: bool = False
    #: What is asked before a place is blamed, by zone: what would acquit it costs next to nothing.
    ask_first: Mapping[str, str] = field(default_factory=dict)
    gate_clear: bool = True
    wants_cause: bool = True
    works: bool = False
    probes: Mapping[str, str | None] = field(default_factory=dict)
    way_known: bool = True
    #: Lines that the customer has not agreed to, who agreed to others.
    unagreed: tuple[str, ...] = ()
    #: What is asked for after the work and was not done, by somebody who can: checks, in their order.
    unproven: tuple[str, ...] = ()

    @property
    def hands(self) -> bool:
        """Whether it is known what hands are to do: the cause is, or none is asked for."""
        return self.working_cause is not None or (not self.wants_cause and self.works)


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
                state = "done" if job.complaints or job.works else "open"
            case "measure":
                enough = job.facts_before >= 3 or (job.facts_before and job.hands)
                state = "done" if enough else "open" if job.wants_cause else "not_needed"
            case "cause":
                state = "done" if job.working_cause else "open" if job.wants_cause else "not_needed"
            case "make_safe":
                state = "done" if all_settled else "open"
            case "open" | "mend":
                state = "open"
                if job.hands or steps:
                    state = "not_needed" if not steps else "done" if all_settled else "open"
                if stage == "open" and not job.way_known:
                    state = "open"
            case "close":
                closed = all_settled and job.gate_clear
                said = job.confirmed_cause or not job.wants_cause
                state = "done" if job.hands and closed and said else "open"
            case "prove":
                shown = job.proof.acceptance.decision == "accept" or not job.proof.settles
                done = job.facts_after and shown and not job.proof.holds and not job.unproven
                state = "done" if done else "open"
            case "hand_over":
                state = "done" if job.handed_over else "open"
        rows.append(StageState(stage, state, settled, len(steps)))
    return tuple(rows)


def next_step(job: Standing) -> NextStep:
    """What comes next, in the order of the work."""
    if job.handed_over:
        return NextStep("handed_over", "hand_over")
    if not job.complaints and not job.works:
        return NextStep("say_complaint", "complaint")
    if any(stops_the_job(complaint) for complaint in job.complaints) and "complaint.stopped" not in job.settled:
        return NextStep("stop", "complaint", "complaint.stopped")
    states = {row.stage: row for row in stage_states(job)}
    if states["make_safe"].state == "open":
        return NextStep("make_safe", "make_safe", _first_open(job, "make_safe"))
    if not job.hands:
        return _probe(job) or _towards_a_cause(job)
    if job.unagreed:
        return NextStep("ask_again", "cause", job.unagreed[0])
    if not job.way_known:
        return NextStep("find_way_in", "open")
    hands: tuple[StageName, ...] = ("open", "mend", "close")
    for stage in hands:
        step = _first_open(job, stage)
        if step:
            return NextStep("do_step", stage, step)
    if not job.gate_clear:
        return NextStep("gate", "close")
    if job.wants_cause and not job.confirmed_cause:
        return NextStep("confirm_cause", "close")
    return _towards_a_proof(job)


def _probe(job: Standing) -> NextStep | None:
    """The way to what somebody wants to look at or to meter inside, then that; None where nobody does."""
    if not job.probes:
        return None
    if not job.way_known:
        return NextStep("find_way_in", "open")
    opens = _first_open(job, "open")
    if opens is not None:
        return NextStep("do_step", "open", opens)
    step, check = next(iter(job.probes.items()))
    return NextStep("do_step", "mend", step) if check is None else NextStep("check", "measure", check)


def _towards_a_proof(job: Standing) -> NextStep:
    settles = job.proof.settles[0].check if job.proof.settles else None
    if job.proof.code == "not_measured":
        # what was read before is read again: only that compares
        return NextStep("measure_after", "prove", next(iter(job.proof.again), settles or "outlet_flow"))
    if settles is not None:
        return NextStep("measure_more", "prove", settles)
    if job.proof.goes_back:
        return NextStep("not_mended", "cause")
    if job.proof.acceptance.decision == "measure_more" and job.proof.compares.after:
        return NextStep("measure_more", "prove", job.proof.compares.after[0])
    if job.unproven:
        return NextStep("prove_also", "prove", job.unproven[0])
    return NextStep("hand_over", "hand_over")


def _first_open(job: Standing, stage: StageName) -> str | None:
    return next((step for step in job.steps.get(stage, ()) if step not in job.settled), None)


def check_first(verdict: Verdict) -> str | None:
    """The check to do before anything is mended; None where going on to mend is the better choice."""
    quickest = verdict.choices[0]
    likely = {row.fault: row.probability for row in verdict.faults}
    mends = quickest.do == "mend" and likely[quickest.subject] >= LIKELY_ENOUGH
    worth = [row for row in verdict.next_checks if row.worth_it]
    if not worth or mends or verdict.sure.probability >= SURE_ENOUGH:
        return None
    return max(worth, key=lambda row: row.rate_in_round).check


def _towards_a_cause(job: Standing) -> NextStep:
    if job.verdict.misfits:
        return NextStep("measure_again", "measure", job.verdict.misfits[0].reading)
    check = check_first(job.verdict)
    if check is None and not job.facts_before and job.verdict.next_checks:
        check = job.verdict.next_checks[0].check  # nobody mends on a complaint alone
    if check is not None:
        return NextStep("check", "measure", check)
    # a blown fuse is a victim: the work goes by what made the heat
    named = next(row for row in job.verdict.faults if not job.one_shot_opened or explains_heat(row.fault))
    if named.zone in job.ask_first:
        return NextStep("check", "measure", job.ask_first[named.zone])
    return NextStep("choose_cause", "cause", named.fault)
