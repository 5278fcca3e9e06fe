"""A job as it is shown: its state, rendered in a language and in somebody's units."""

from __future__ import annotations

from dataclasses import dataclass, replace

from warmdraft.answers.bench import BenchAnswer, bench_answer
from warmdraft.answers.dealt import DealtAnswer, dealt_answer
from warmdraft.answers.facts import (
    CauseAnswer,
    FindingAnswer,
    LogAnswer,
    MarkAnswer,
    MeterAnswer,
    ReadingAnswer,
    SoundFactAnswer,
    cause_answer,
    finding_answers,
    log_answers,
    mark_answer,
    meter_answers,
    reading_answers,
    sound_fact_answers,
)
from warmdraft.answers.proof import ProofAnswer, ProvingAnswer, proof_answer, proving_answer
from warmdraft.answers.room import PUSHED_BACK, clearance_cautions
from warmdraft.answers.run import RunAnswer, run_answer
from warmdraft.answers.steps import NextAnswer, StageAnswer, StepAnswer, next_answer, stage_answer, step_answer
from warmdraft.answers.verdict import VerdictAnswer, verdict_answer
from warmdraft.answers.works import WorksAnswer, works_answer
from warmdraft.faults import stops_the_job
from warmdraft.words import Words
from warmdraft.work import JobState, Step


@dataclass(slots=True)
class AddedAnswer:
    """An operation that stands in no layout: the fact's id, the operation's, and what it does."""

    id: str
    operation: str
    does: str


@dataclass(slots=True)
class AbsentAnswer:
    """A step of the layout that this machine does not have."""

    step: str
    does: str


@dataclass(slots=True, kw_only=True)
class JobAnswer:
    """Everything that follows from a job's facts: facts, verdict, works, stages, steps, bench, proof, what comes next.

    settled: steps that are done or not possible, by their marks or by what was recorded; stop: what has to be read
    before anything else; by_hand: nobody knew the way in before; added, absent: what this machine has besides its
    layout, or has not; circuit: what to meter first; opened: one-shot parts that opened.
    """

    complaints: list[str]
    circumstances: list[str]
    stop: str | None
    readings: list[ReadingAnswer]
    findings: list[FindingAnswer]
    meter: list[MeterAnswer]
    logs: list[LogAnswer]
    sounds: list[SoundFactAnswer]
    run: RunAnswer | None
    supply: str
    circuit: str | None
    opened: list[str]
    marks: list[MarkAnswer]
    settled: list[str]
    working_cause: CauseAnswer | None
    proposed_cause: CauseAnswer | None
    confirmed_cause: CauseAnswer | None
    handed_over: bool
    verdict: VerdictAnswer
    stages: list[StageAnswer]
    next: NextAnswer
    safety: list[StepAnswer]
    wants_cause: bool
    works: WorksAnswer
    open: list[StepAnswer]
    mend: list[StepAnswer]
    close: list[StepAnswer]
    bench: BenchAnswer | None
    known_layout: bool
    by_hand: bool
    added: list[AddedAnswer]
    absent: list[AbsentAnswer]
    proof: ProofAnswer
    proving: list[ProvingAnswer]
    dealt: DealtAnswer


def job_answer(state: JobState, words: Words) -> JobAnswer:
    """The state of a job with its words."""
    facts, plan = state.facts, state.plan
    pushed = clearance_cautions(state, words)

    def step_of_it(step: Step) -> StepAnswer:
        said = step_answer(step, words)
        return replace(said, cautions=[*said.cautions, *pushed]) if step.id in PUSHED_BACK and pushed else said

    stops = [complaint for complaint in facts.complaints if stops_the_job(complaint)]
    return JobAnswer(
        complaints=list(facts.complaints),
        circumstances=list(facts.circumstances),
        stop=words.stop(stops[0]) if stops else None,
        readings=reading_answers(state),
        findings=finding_answers(state),
        meter=meter_answers(state, words),
        logs=log_answers(state, words),
        sounds=sound_fact_answers(state, words),
        run=run_answer(facts.run, state.run, words) if facts.run is not None and state.run is not None else None,
        supply=facts.supply,
        circuit=state.circuit,
        opened=list(state.opened),
        marks=[mark_answer(mark) for mark in state.settled.values()],
        settled=sorted(state.settled.keys() | state.recorded),
        working_cause=cause_answer(state.working, words),
        proposed_cause=cause_answer(state.proposed, words),
        confirmed_cause=cause_answer(state.confirmed, words),
        handed_over=facts.handed_over,
        verdict=verdict_answer(state.before, state.verdict, words),
        stages=[stage_answer(row) for row in state.stages],
        next=next_answer(state.next, words),
        safety=[step_answer(step, words) for step in state.safety],
        wants_cause=state.wants_cause,
        works=works_answer(state.works, words),
        open=[step_answer(step, words) for step in plan.open] if plan else [],
        mend=[step_of_it(step) for step in plan.mend] if plan else [],
        close=[step_of_it(step) for step in plan.close] if plan else [],
        bench=bench_answer(state.bench, plan, words),
        by_hand=facts.by_hand,
        added=[
            AddedAnswer(row.id or "", row.operation.id, row.operation.does) for row in facts.added if not row.withdrawn
        ],
        absent=[
            AbsentAnswer(step, words.named_step(step, facts.told_layout))
            for step, mark in state.settled.items()
            if mark.state == "not_there"
        ],
        known_layout=plan.known_layout if plan else facts.layout is not None,
        proof=proof_answer(state.proof, words),
        proving=[proving_answer(row, words) for row in state.proving],
        dealt=dealt_answer(state, words),
    )
