"""What jobs count, and what counts make of our tables, as JSON and in words."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from warmdraft.jobfile import read_job
from warmdraft.jobfile.learning_schema import CountsDocument, counts_document
from warmdraft.jobfile.strict import read_as
from warmdraft.learning import WORTH_JOBS, Counts, Lessons, lessons_of, together
from warmdraft.words import Words
from warmdraft.work import lesson_of, state_of


@dataclass(slots=True)
class CauseMoveAnswer:
    """Where `holds` holds, a fault is so many times likelier than our tables say."""

    holds: str
    fault: str
    times: float
    counted: float
    expected: float
    jobs: float
    text: str


@dataclass(slots=True)
class LookMoveAnswer:
    """A row of a check's table gives a result with another share."""

    check: str
    row: str
    result: str
    ours: float
    taught: float
    counted: float
    of: float
    text: str


@dataclass(slots=True)
class LessonsAnswer:
    """What counts teach. worth_jobs: our own tables count like so many jobs."""

    jobs: float
    worth_jobs: float
    causes: list[CauseMoveAnswer]
    looks: list[LookMoveAnswer]


def counts_of(value: Any) -> Counts:
    """What a document counts: one of counts, or a job. Raises DocumentError."""
    if isinstance(value, dict) and value.get("format") == "warm-draft/counts":
        return read_as(CountsDocument, value, "counts of jobs").counts()
    return lesson_of(state_of(read_job(value).facts))


def learn_answer(value: Any, words: Words) -> Any:
    """Of counts, what they teach; of a job, what it counts, as `warm-draft/counts`. Raises DocumentError."""
    counts = counts_of(value)
    if value.get("format") == "warm-draft/counts":
        return lessons_answer(lessons_of(counts), words)
    return counts_document(counts)


def together_answer(counts: list[Counts]) -> dict[str, Any]:
    """Counts added up, as one `warm-draft/counts`."""
    return counts_document(together(counts))


def lessons_answer(lessons: Lessons, words: Words) -> LessonsAnswer:
    """What counts teach, with its words."""
    return LessonsAnswer(
        jobs=lessons.jobs,
        worth_jobs=WORTH_JOBS,
        causes=[
            CauseMoveAnswer(row.holds, row.fault, row.times, row.counted, row.expected, row.jobs, words.cause_move(row))
            for row in lessons.causes
        ],
        looks=[
            LookMoveAnswer(
                row.check, row.row, row.result, row.ours, row.taught, row.counted, row.of, words.look_move(row)
            )
            for row in lessons.looks
        ],
    )
