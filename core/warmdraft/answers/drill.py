"""A drill as JSON: what the hidden machine gives when it is asked, and how it went."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from warmdraft.answers.quantity import Quantity, reading_quantity
from warmdraft.checks import checks
from warmdraft.drill import Drilled, Hidden, Move, UnsafeCode, World, drilled, ladder
from warmdraft.errors import DocumentError, DrillError
from warmdraft.jobfile import Job, read_job
from warmdraft.teardown import layout_names
from warmdraft.words import Words
from warmdraft.work import JobFacts


@dataclass(slots=True)
class GaveAnswer:
    """What a check gives on the hidden machine: a reading's value, or a look's result."""

    check: str
    value: Quantity | None
    result: str | None


@dataclass(slots=True)
class MoveAnswer:
    """An act and what it cost; mended: of mending, whether that was it."""

    do: Literal["check", "mend"]
    subject: str
    minutes: float
    gave: GaveAnswer | None
    mended: bool
    text: str


@dataclass(slots=True)
class AdviceAnswer:
    """In the place of an own act (at: from 0) another, and the minutes that were to be expected to be saved."""

    at: int
    do: Literal["check", "mend"]
    subject: str
    saved_minutes: float
    text: str


@dataclass(slots=True)
class UnsafeAnswer:
    """An act that was not safe."""

    code: UnsafeCode
    subject: str
    text: str


@dataclass(slots=True)
class DrillAnswer:
    """How a drill went, beside what the tool would have done on the same machine."""

    found: bool
    minutes: float
    better_minutes: float
    own: list[MoveAnswer]
    better: list[MoveAnswer]
    advice: list[AdviceAnswer]
    unsafe: list[UnsafeAnswer]


@dataclass(slots=True)
class RungAnswer:
    """A case of the ladder as it is offered."""

    name: str
    level: int
    level_text: str
    title: str


@dataclass(slots=True)
class FoundAnswer:
    """What was hidden in a case: a fault, or a kind of reading that lied, and by what factor."""

    fault: str | None
    reading: str | None
    text: str


def ladder_answer(words: Words) -> list[RungAnswer]:
    """The cases there are, the plainest first."""
    return [RungAnswer(row.name, row.level, words.level(row.level), words.rung(row.name)) for row in ladder().values()]


#: Parts of a job file that a case made of it keeps: nothing of people, places, days, and of what was found and done.
_KEPT = ("machine", "air", "vent", "complaints", "circumstances")


def case_of_rung(name: str) -> tuple[dict[str, Any], dict[str, float]]:
    """A case of the ladder as a job file that hides it, and what lies. Raises DocumentError for a name there is not."""
    if name not in ladder():
        raise DocumentError("$.case", f"'{name}' is no case; give one of {', '.join(ladder())}")
    rung = ladder()[name]
    return _case(rung.job, list(rung.wrong)), dict(rung.lies)


def case_of_past(value: Any) -> dict[str, Any]:
    """A case made of a job of the past: its machine, what was complained of, and the cause that was confirmed; without
    names. Raises DocumentError where no cause was."""
    facts = read_job(value).facts
    confirmed = [row for row in facts.causes if row.kind == "confirmed"]
    if not confirmed:
        raise DocumentError("$.causes", "nobody confirmed a cause of this job; take one that was proven")
    cause = confirmed[-1]
    return _case(value, [{"fault": cause.fault} | ({"severity": cause.severity} if cause.severity else {})])


def _case(parts: Mapping[str, Any], wrong: list[Any]) -> dict[str, Any]:
    """A job file of the parts that are kept; what somebody typed in their own words (keys with x-, notes) is not."""
    kept = {key: _nameless(parts[key]) for key in _KEPT if key in parts}
    if kept.get("machine", {}).get("layout") not in layout_names():  # one's own layout is called by a place
        kept.get("machine", {}).pop("layout", None)
    document = {"format": "warm-draft/job", "version": 1, **kept, "suppose": wrong}
    read_job(document)
    return document


def _nameless(value: Any) -> Any:
    if isinstance(value, Mapping):
        return {
            key: part if key == "code_profile" else _nameless(part)  # a law's title names nobody
            for key, part in value.items() if not key.startswith("x-") and key not in _NAMES
        }  # fmt: skip
    return [_nameless(part) for part in value] if isinstance(value, list) else value


#: Keys that hold somebody's own words.
_NAMES = ("notes", "note", "title", "name", "by")


def hidden_wrong(hidden: Hidden, words: Words) -> list[FoundAnswer]:
    """What was hidden, once it may be told."""
    faults = [FoundAnswer(name, None, words.fault(name)) for name, _ in hidden.wrong]
    lies = [FoundAnswer(None, kind, words.lies(kind, factor)) for kind, factor in hidden.lies.items()]
    return faults + lies


def hidden_in(job: Job, seed: int, lies: Mapping[str, float] | None = None) -> Hidden:
    """The case that a job supposes: its machine, with nothing of it known. Raises DocumentError."""
    facts = job.facts
    bare = JobFacts(
        machine=facts.machine, kinds=facts.kinds, air_told=facts.air_told, connection=facts.connection,
        supply_named=facts.supply_named, circumstances=facts.circumstances, complaints=facts.complaints, run=facts.run,
        layout=facts.layout, taught=facts.taught,
    )  # fmt: skip
    try:
        return Hidden(bare, job.suppose, seed, lies or {})
    except DrillError as error:
        raise DocumentError("$.suppose", str(error)) from None


def drill_answer(value: Any, words: Words, seed: int, asked: Sequence[str] = ()) -> Any:
    """What a hidden machine gives where something is asked; else how the drill went. Raises DocumentError."""
    job = read_job(value)
    hidden = hidden_in(job, seed)
    if asked:
        return {"gave": [gave(World(hidden), name) for name in asked]}
    return drilled_answer(drilled(job.facts, hidden), words)


def gave(world: World, name: str, times_before: int = 0) -> GaveAnswer:
    """What a check gives. Raises DocumentError for one that nobody can ask."""
    check = checks().get(name)
    try:
        if check is None or not world.can(check):
            raise DrillError(f"'{name}' is no check that a drill can answer")
        if check.observes:
            value = world.read(check.observes, check.instrument, check.heat, times_before)
            return GaveAnswer(name, reading_quantity(check.observes, value), None)
        return GaveAnswer(name, None, world.look(name))
    except DrillError as error:
        raise DocumentError("$", str(error)) from None


def drilled_answer(found: Drilled, words: Words) -> DrillAnswer:
    """How it went, with its words."""
    return DrillAnswer(
        found=found.found,
        minutes=found.minutes,
        better_minutes=found.better_minutes,
        own=[_move(move, words) for move in found.own],
        better=[_move(move, words) for move in found.better],
        advice=[
            AdviceAnswer(row.at, row.do, row.subject, row.saved, words.advice(row, found.own[row.at]))
            for row in found.advice
        ],
        unsafe=[UnsafeAnswer(row.code, row.subject, words.unsafe(row)) for row in found.unsafe],
    )


def _move(move: Move, words: Words) -> MoveAnswer:
    given = None
    if move.do == "check":
        told = isinstance(move.gave, str)
        kind = checks()[move.subject].observes or move.subject
        given = GaveAnswer(move.subject, None if told else reading_quantity(kind, float(move.gave or 0.0)),
                           move.gave if isinstance(move.gave, str) else None)  # fmt: skip
    return MoveAnswer(move.do, move.subject, move.minutes, given, move.mended, words.act_of(move.do, move.subject))
