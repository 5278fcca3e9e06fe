"""Before and after the work, beside healthy; the decision, and what would settle it."""

from __future__ import annotations

from dataclasses import dataclass

from warmdraft.airway import reading_dimensions
from warmdraft.answers.quantity import NodePressure, Quantity, line, maybe, quantity
from warmdraft.proof import Comparison, Decision, Keeps, Line, Proof, ProofCode, Settles, Shows, Standing
from warmdraft.units import UNITS
from warmdraft.words import Words
from warmdraft.work import Proving


@dataclass(slots=True)
class ComparisonAnswer:
    """A kind of reading before and after, beside what was promised and healthy; difference in words: text of what was
    read after the work, was of what was read before it."""

    kind: str
    heat_on: bool
    healthy: Quantity
    healthy_low: Quantity
    healthy_high: Quantity
    before: Quantity | None
    after: Quantity | None
    standing: Standing
    expected: Quantity | None
    keeps: Keeps | None
    change: Quantity | None
    change_low: Quantity | None
    change_high: Quantity | None
    text: str
    was: str


@dataclass(slots=True)
class LineAnswer:
    """What was mended, and whether it is shown; fault: what it was to take away; by: what shows it."""

    fault: str | None
    part: str
    act: str
    proven: bool | None
    by: Shows | None
    text: str


@dataclass(slots=True)
class SettlesAnswer:
    """A check that may settle what is open: how often, the minutes it takes, the chance that it does."""

    check: str
    times: int
    minutes: float
    chance: float
    text: str


@dataclass(slots=True)
class FlowInterval:
    """A flow: 5, 50 and 95 %."""

    low: Quantity
    median: Quantity
    high: Quantity


@dataclass(slots=True)
class ProvingAnswer:
    """What this job asks to be proven. check: how, null where this person can do none of what shows it; must: it is
    asked for before the record; done: it was."""

    name: str
    check: str | None
    must: bool
    done: bool
    text: str
    why: str


@dataclass(slots=True)
class ComparesAnswer:
    """Checks that show whether the work helped, before it and after it."""

    before: list[str]
    after: list[str]


@dataclass(slots=True)
class ProofAnswer:
    """Whether the work is shown to have helped; regained: share of the missing flow that came back.

    holds: whether only a lead hands it over so; advice: what settles it; again: checks that told something before and
    were not done since; compares: checks that show whether the work helped, by when they are done, and were not done
    then; line: the draft line after the work, null where nothing was read.
    """

    code: ProofCode
    text: str
    advice: str
    holds: bool
    decision: Decision
    conformity: float
    risk: float
    limit: Quantity
    flow: FlowInterval
    regained: float | None
    rows: list[ComparisonAnswer]
    lines: list[LineAnswer]
    settles: list[SettlesAnswer]
    again: list[str]
    compares: ComparesAnswer
    line: list[NodePressure] | None


def proving_answer(row: Proving, words: Words) -> ProvingAnswer:
    """A row of what is proven, with its words."""
    does = words.check(row.check) if row.check else ""
    return ProvingAnswer(row.name, row.check, row.must, row.done, does, words.word("proving", row.name))


def proof_answer(found: Proof, words: Words) -> ProofAnswer:
    """The proof with its words."""
    decided = found.acceptance
    said = words.proof(found)
    low, median, high = (quantity(flow, "m3/s") for flow in decided.flow_m3s)
    return ProofAnswer(
        code=found.code,
        text=said.text,
        advice=said.why,
        holds=found.holds,
        decision=decided.decision,
        conformity=decided.conformity,
        risk=1 - decided.conformity,
        limit=quantity(decided.limit_m3s, "m3/s"),
        flow=FlowInterval(low, median, high),
        regained=found.regained,
        rows=[_row(row, words) for row in found.rows],
        lines=[_line(line, words) for line in decided.lines],
        settles=[_settles(row, words) for row in found.settles],
        again=list(found.again),
        compares=ComparesAnswer(list(found.compares.before), list(found.compares.after)),
        line=None if found.line is None else line(found.line),
    )


def _row(row: Comparison, words: Words) -> ComparisonAnswer:
    unit = UNITS[reading_dimensions()[row.kind]].canonical
    apart = "K" if unit == "degC" else unit  # a difference of temperatures has no offset
    return ComparisonAnswer(
        kind=row.kind,
        heat_on=row.heat_on,
        healthy=quantity(row.healthy, unit),
        healthy_low=quantity(row.healthy_low, unit),
        healthy_high=quantity(row.healthy_high, unit),
        before=maybe(row.before, unit),
        after=maybe(row.after, unit),
        standing=row.standing,
        expected=maybe(row.expected, unit),
        keeps=row.keeps,
        change=maybe(row.change, apart),
        change_low=maybe(row.change_low, apart),
        change_high=maybe(row.change_high, apart),
        text=words.comparison(row),
        was=words.was(row),
    )


def _line(line: Line, words: Words) -> LineAnswer:
    return LineAnswer(line.fault, line.part, line.act, line.proven, line.by, words.proof_line(line))


def _settles(row: Settles, words: Words) -> SettlesAnswer:
    return SettlesAnswer(row.check, row.times, row.minutes, row.chance, words.settles(row))
