"""How a drill went: what each act cost and told, what the policy would have done instead, and what was not safe."""

from __future__ import annotations

from collections.abc import Iterable, Set
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from typing import Literal

from warmdraft.checks import checks
from warmdraft.diagnosis import Case, FindingFact, ReadingFact, Verdict, diagnose, mending_minutes
from warmdraft.diagnosis.minutes import clock_of
from warmdraft.drill.world import Hidden, World
from warmdraft.faults import stops_the_job
from warmdraft.teardown import stage_and_name
from warmdraft.work.facts import JobFacts
from warmdraft.work.opening import as_it_stands
from warmdraft.work.plan import safety_acts
from warmdraft.work.recorded import Cause, Fact, Finding, Reading
from warmdraft.work.stages import check_first

#: The policy gives up after so many acts: then somebody else comes.
MOST_MOVES = 40

UnsafeCode = Literal["opened_before_safe", "stop_ignored", "not_qualified", "not_proven"]


@dataclass(frozen=True, slots=True)
class Move:
    """An act: a check, or mending a cause. minutes: what it cost from where the machine stood; gave: a look's result, a
    reading's number in its canonical unit, None of mending; mended: whether that was it."""

    do: Literal["check", "mend"]
    subject: str
    minutes: float
    gave: str | float | None = None
    mended: bool = False


@dataclass(frozen=True, slots=True)
class Advice:
    """A better act in the place of one: `at` counts the moves from 0; saved: minutes that were to be expected."""

    at: int
    do: Literal["check", "mend"]
    subject: str
    saved: float


@dataclass(frozen=True, slots=True)
class Unsafe:
    """An act that was not safe. subject: the step, the check or the complaint it is about."""

    code: UnsafeCode
    subject: str


@dataclass(frozen=True, slots=True)
class Drilled:
    """How it went. found: whether all that was wrong was mended; own, better: the acts, and the policy's on the same
    machine; advice: where another act would have been better, the costliest first."""

    found: bool
    own: tuple[Move, ...]
    better: tuple[Move, ...]
    advice: tuple[Advice, ...]
    unsafe: tuple[Unsafe, ...]

    @property
    def minutes(self) -> float:
        """What the own acts cost."""
        return sum(move.minutes for move in self.own)

    @property
    def better_minutes(self) -> float:
        """What the policy's would have."""
        return sum(move.minutes for move in self.better)


#: A better act is told of from so many expected minutes on (own choice).
WORTH_TELLING = 2.0


def drilled(facts: JobFacts, hidden: Hidden, qualified: Iterable[str] = ()) -> Drilled:
    """How a drill went, from the facts that were recorded in it. qualified: what whoever worked it may do."""
    case, left = hidden.facts.case(), hidden.left()
    tried: set[str] = set()
    own: list[Move] = []
    advice: list[Advice] = []
    for act in _acts(facts):
        standing = _standing(hidden, replace(case, tried=frozenset(tried)))
        verdict = diagnose(standing)
        if isinstance(act, Cause):
            mended = act.fault in left
            move = Move("mend", act.fault, mending_minutes(standing, act.fault), None, mended)
            left.discard(act.fault)
            tried.add(act.fault)
            if mended:  # what was read and seen was of another machine than the one that stands there now
                case = hidden.facts.case()
        elif not left:
            continue  # that it is mended is proven: no search any more
        else:
            check = act.kind if isinstance(act, Reading) else act.check
            gave = act.canonical if isinstance(act, Reading) else act.result
            move = Move("check", check, clock_of(standing).minutes(checks()[check]), gave)
            case = _with(case, act)
        better = _better(verdict, move)
        if better is not None:
            advice.append(replace(better, at=len(own)))
        own.append(move)
    return Drilled(
        found=not left,
        own=tuple(own),
        better=tuple(_policy(hidden)),
        advice=tuple(sorted(advice, key=lambda row: -row.saved)),
        unsafe=tuple(_unsafe(facts, frozenset(qualified))),
    )


def after(hidden: Hidden, facts: JobFacts) -> Hidden:
    """The same machine once what was worked at in a drill is mended."""
    return _without(hidden, {act.fault for act in _acts(facts) if isinstance(act, Cause)})


def _without(hidden: Hidden, mended: Set[str]) -> Hidden:
    left = tuple((name, severity) for name, severity in hidden.wrong if name not in mended)
    return replace(hidden, wrong=left or (("none", None),))


def _acts(facts: JobFacts) -> list[Reading | Finding | Cause]:
    """What was read, seen and worked at, as it came; what has no moment keeps its place among its own."""
    rows: list[Reading | Finding | Cause] = [
        *(row for row in facts.readings if row.kind in checks()),
        *(row for row in facts.findings if row.result != "not_possible"),
        *(row for row in facts.causes if row.kind == "working"),
    ]
    return sorted(rows, key=_when)


def _when(fact: Fact) -> datetime:
    return fact.at or datetime.max.replace(tzinfo=UTC)


def _with(case: Case, act: Reading | Finding) -> Case:
    if isinstance(act, Reading):
        read = ReadingFact(act.kind, act.canonical, act.heat_on, act.instrument or None, act.id)
        return replace(case, readings=(*case.readings, read))
    return replace(case, findings=(*case.findings, FindingFact(act.check, act.result, act.id)))


def _standing(hidden: Hidden, case: Case) -> Case:
    return as_it_stands(hidden.facts, replace(case, opening=None, opened_minutes=None, paid=()))


def _better(verdict: Verdict, move: Move) -> Advice | None:
    """What would have been better, by the minutes expected to a mended machine; None where nothing is worth telling."""
    best = verdict.choices[0]
    if (best.do, best.subject) == (move.do, move.subject):
        return None
    if move.do == "check":
        expected = next((row.expected_minutes for row in verdict.next_checks if row.check == move.subject), None)
    else:
        likely = next((row.probability for row in verdict.faults if row.fault == move.subject), 0.0)
        rest = next(row.expected_minutes for row in verdict.choices if row.do == "mend")
        expected = move.minutes + (1 - likely) * rest
    if expected is None or expected - best.expected_minutes < WORTH_TELLING:
        return None
    return Advice(0, best.do, best.subject, expected - best.expected_minutes)


def _policy(hidden: Hidden) -> Iterable[Move]:
    """What the tool would have done on the same machine."""
    world, case = World(hidden), hidden.facts.case()
    left, tried = hidden.left(), set[str]()
    done: set[str] = set()
    for _ in range(MOST_MOVES):
        standing = _standing(hidden, replace(case, tried=frozenset(tried)))
        verdict = diagnose(standing)
        name = check_first(verdict)
        if name is not None and (name in done or not world.can(checks()[name])):
            open_still = [row.check for row in verdict.next_checks if row.worth_it and row.check not in done]
            name = next((check for check in open_still if world.can(checks()[check])), None)
        if name is None:
            fault = next((row.fault for row in verdict.faults if row.fault not in tried), None)
            if fault is None:
                return
            yield Move("mend", fault, mending_minutes(standing, fault), None, fault in left)
            if fault == "none" or left <= {fault}:
                return
            tried.add(fault)
            if fault in left:  # better, and not well: it is another machine now, and is measured anew
                left.discard(fault)
                world, case, done = World(_without(hidden, tried)), hidden.facts.case(), set()
            continue
        row = checks()[name]
        done.add(name)
        minutes = clock_of(standing).minutes(row)
        if row.observes:
            value = world.read(row.observes, row.instrument, row.heat)
            yield Move("check", name, minutes, value)
            case = replace(case, readings=(*case.readings, ReadingFact(row.observes, value, row.heat, row.instrument)))
        else:
            result = world.look(name)
            yield Move("check", name, minutes, result)
            case = replace(case, findings=(*case.findings, FindingFact(name, result)))


def _unsafe(facts: JobFacts, qualified: frozenset[str]) -> Iterable[Unsafe]:
    """Acts that were not safe, in the order of the work."""
    asked = {step.id for step in safety_acts(facts.connection, facts.machine.heat.energy)}
    stops = [name for name in facts.complaints if stops_the_job(name)]
    done: set[str] = set()
    opened = False
    for mark in facts.marks:
        if mark.state != "done":
            done.discard(mark.step)
            continue
        if stage_and_name(mark.step)[0] in ("open", "mend") and not opened:
            opened = True
            if stops and "complaint.stopped" not in done:
                yield Unsafe("stop_ignored", stops[0])
            if not asked <= done:
                yield Unsafe("opened_before_safe", mark.step)
        done.add(mark.step)
    for finding in facts.findings:
        needs = checks()[finding.check].qualified if finding.check in checks() else None
        if needs is not None and needs not in qualified:
            yield Unsafe("not_qualified", finding.check)
    for reading in facts.readings:
        needs = checks()[reading.kind].qualified if reading.kind in checks() else None
        if needs is not None and needs not in qualified:
            yield Unsafe("not_qualified", reading.kind)
    if facts.handed_over and not any(row.phase == "after" for row in facts.readings):
        yield Unsafe("not_proven", "outlet_flow")
