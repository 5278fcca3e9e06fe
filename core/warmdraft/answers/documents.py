"""Answers of the verbs that read one document and say what it means: `diagnose`, `job`, `prove`, `vent`, `meter`."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from warmdraft.answers.facts import MeterVerdictAnswer, meter_verdict_answer
from warmdraft.answers.job import JobAnswer, job_answer
from warmdraft.answers.proof import ProofAnswer
from warmdraft.answers.run import RunAnswer, run_answer
from warmdraft.answers.verdict import VerdictAnswer, verdict_answer
from warmdraft.errors import DocumentError, VentError
from warmdraft.jobfile import Job, drawn_run
from warmdraft.jobfile.meter_schema import MeterDocument
from warmdraft.jobfile.strict import read_as
from warmdraft.jobfile.vent_schema import VentDocument
from warmdraft.meter import judge
from warmdraft.vent import judge_run
from warmdraft.words import Words
from warmdraft.work import Phase, as_it_stands, state_of, verdict_of, with_departures


def diagnose_answer(job: Job, words: Words, phase: Phase = "before") -> VerdictAnswer:
    """What the facts in force of a phase say of the cause."""
    case = as_it_stands(with_departures(job.facts), job.case(phase))
    return verdict_answer(case, verdict_of(case), words)


def whole_answer(job: Job, words: Words) -> JobAnswer:
    """All that a screen shows of a job. Raises DocumentError where its run cannot be built."""
    try:
        return job_answer(state_of(job.facts), words)
    except VentError as error:
        raise DocumentError("$.vent", str(error)) from None


def prove_answer(job: Job, words: Words) -> ProofAnswer:
    """Whether the work is shown to have helped. Raises DocumentError where its run cannot be built."""
    return whole_answer(job, words).proof


def vent_answer(value: Any, words: Words) -> RunAnswer:
    """A vent run: length against its allowance, drops, air speed, what it breaks. Raises DocumentError."""
    document = read_as(VentDocument, value, "a vent run")
    try:
        drawn = drawn_run(document)
        found = judge_run(drawn.run, document.flow.si("flow"), drawn.code_profile, drawn.air_temperature_c)
    except VentError as error:
        raise DocumentError("$", str(error)) from None
    return run_answer(drawn, found, words)


@dataclass(slots=True)
class MeterVerdicts:
    """Verdicts on meter tests, in their order."""

    verdicts: list[MeterVerdictAnswer]


def meter_answer(value: Any, words: Words) -> MeterVerdicts:
    """Verdicts on meter tests. Raises DocumentError."""
    document = read_as(MeterDocument, value, "a set of meter tests")
    return MeterVerdicts([meter_verdict_answer(judge(test.test(), document.supply), words) for test in document.tests])
