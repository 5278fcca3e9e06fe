"""A job's facts as they are shown: as they were given, and what they mean."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal

from warmdraft.airway import reading_dimensions
from warmdraft.answers.quantity import Quantity, maybe, quantity
from warmdraft.answers.sound import SoundAnswer, sound_answer
from warmdraft.meter import MeterVerdict, parts
from warmdraft.trend import LOG_KINDS
from warmdraft.units import UNITS
from warmdraft.words import Words
from warmdraft.work import Cause, JobState, Mark, Observation, Phase
from warmdraft.work.recorded import MarkState


@dataclass(slots=True, kw_only=True)
class ObservationAnswer:
    """What readings, findings, meter tests and logs share; in_force: nothing stands in for it, nobody took it back.

    id, at: empty where a file does not say.
    """

    id: str
    phase: Phase
    heat_on: bool
    supersedes: str | None
    withdrawn: bool
    in_force: bool
    by: str
    at: datetime | None


@dataclass(slots=True, kw_only=True)
class ReadingAnswer(ObservationAnswer):
    """A reading; canonical: its number in the kind's canonical unit."""

    kind: str
    typed: str
    value: float
    unit: str
    canonical: Quantity
    instrument: str


@dataclass(slots=True, kw_only=True)
class FindingAnswer(ObservationAnswer):
    """A finding."""

    check: str
    result: str
    why: str


@dataclass(slots=True)
class Sentence:
    """A code and its words."""

    code: str
    text: str


@dataclass(slots=True)
class MeterVerdictAnswer:
    """What a meter's reading means, and what to do then; expected: what a good one would show."""

    part: str
    verdict: Literal["good", "failed", "suspect", "repeat", "working_as_meant"]
    means: Sentence
    then: Sentence
    expected: Quantity | None


@dataclass(slots=True, kw_only=True)
class MeterAnswer(ObservationAnswer):
    """A meter test with its verdict."""

    part: str
    typed: str
    instrument: Literal["digital", "analogue"]
    isolated: bool | None
    part_hot: bool
    between: str | None
    verdict: MeterVerdictAnswer


@dataclass(slots=True, kw_only=True)
class LogAnswer(ObservationAnswer):
    """A log over a run, canonical unit, with the shape that was found in it and the line to draw."""

    kind: str
    unit: str
    instrument: str
    minutes: list[float]
    values: list[float]
    fitted_minutes: list[float]
    fitted: list[float]
    shape: str
    probability: float
    text: str


@dataclass(slots=True, kw_only=True)
class SoundFactAnswer(ObservationAnswer):
    """What a recording told. part: where it was held, as it was said; healthy: of a machine of the kind that runs
    well."""

    part: str
    healthy: bool
    heard: SoundAnswer


@dataclass(slots=True)
class MarkAnswer:
    """The mark in force of a step."""

    id: str
    step: str
    state: MarkState
    why: str
    by: str
    at: datetime | None


@dataclass(slots=True)
class CauseAnswer:
    """A cause chosen, proposed or confirmed."""

    fault: str
    severity: float | None
    text: str
    by: str
    at: datetime | None
    heat_unexplained: bool


def meter_verdict_answer(found: MeterVerdict, words: Words) -> MeterVerdictAnswer:
    """A verdict on a meter test with its words."""
    unit = "V" if parts()[found.part].kind == "supply" else "ohm"
    return MeterVerdictAnswer(
        part=found.part,
        verdict=found.verdict,
        means=Sentence(found.means, words.meter_means(found)),
        then=Sentence(found.then, words.meter_then(found)),
        expected=maybe(found.expected, unit),
    )


def _common(fact: Observation, state: JobState) -> dict[str, Any]:
    return {
        "id": fact.id or "", "phase": fact.phase, "heat_on": fact.heat_on, "supersedes": fact.supersedes,
        "withdrawn": fact.withdrawn, "in_force": fact.id in state.facts.speaking, "by": fact.by, "at": fact.at,
    }  # fmt: skip


def reading_answers(state: JobState) -> list[ReadingAnswer]:
    """All readings, those taken back too."""
    return [
        ReadingAnswer(
            kind=fact.kind, typed=fact.typed or f"{fact.value:g}", value=fact.value, unit=fact.unit,
            canonical=quantity(fact.canonical, UNITS[reading_dimensions()[fact.kind]].canonical),
            instrument=fact.instrument, **_common(fact, state),
        )
        for fact in state.facts.readings
    ]  # fmt: skip


def finding_answers(state: JobState) -> list[FindingAnswer]:
    """All findings."""
    return [
        FindingAnswer(check=fact.check, result=fact.result, why=fact.why, **_common(fact, state))
        for fact in state.facts.findings
    ]


def meter_answers(state: JobState, words: Words) -> list[MeterAnswer]:
    """All meter tests with their verdicts."""
    return [
        MeterAnswer(
            part=fact.test.part, typed=fact.typed, instrument=fact.test.instrument, isolated=fact.isolated,
            part_hot=fact.test.part_hot, between=fact.between, verdict=meter_verdict_answer(found, words),
            **_common(fact, state),
        )
        for fact, found in zip(state.facts.meter, state.meter, strict=True)
    ]  # fmt: skip


def log_answers(state: JobState, words: Words) -> list[LogAnswer]:
    """All logs with their shapes."""
    return [
        LogAnswer(
            kind=fact.series.kind, unit=UNITS[LOG_KINDS[fact.series.kind]].canonical, instrument=fact.instrument,
            minutes=list(fact.series.minutes), values=list(fact.series.values),
            fitted_minutes=list(trend.minutes), fitted=list(trend.fitted), shape=trend.shape,
            probability=trend.probability[trend.shape], text=words.trend(trend), **_common(fact, state),
        )
        for fact, trend in zip(state.facts.logs, state.trends, strict=True)
    ]  # fmt: skip


def sound_fact_answers(state: JobState, words: Words) -> list[SoundFactAnswer]:
    """All recordings with what they told."""
    return [
        SoundFactAnswer(
            part=fact.part, healthy=fact.healthy, heard=sound_answer(fact, state.facts, words), **_common(fact, state),
        )
        for fact in state.facts.sounds
    ]  # fmt: skip


def mark_answer(mark: Mark) -> MarkAnswer:
    """A mark in force."""
    return MarkAnswer(mark.id or "", mark.step, mark.state, mark.why, mark.by, mark.at)


def cause_answer(cause: Cause | None, words: Words) -> CauseAnswer | None:
    """A cause as it stands on the record."""
    if cause is None:
        return None
    text = words.cause(cause.fault, cause.heat_unexplained)
    return CauseAnswer(cause.fault, cause.severity, text, cause.by, cause.at, cause.heat_unexplained)
