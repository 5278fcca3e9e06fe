"""The list of works: everything found, ordered or due is a line, with why it is there and what became of it.

A line is an act on a part. The tool proposes lines; people order, take and decline them. Nothing here is stored but
what was ordered and decided: the rest follows from the facts.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal, get_args

from warmdraft.checks import NO_EVIDENCE, checks
from warmdraft.diagnosis import Case, Verdict, explains_heat
from warmdraft.errors import LayoutError
from warmdraft.meter import parts
from warmdraft.repair import (
    BUILD,
    OF_A_RUN,
    Act,
    ActKind,
    ActStep,
    Stands,
    acts,
    along_of,
    mend_of_part,
    name_of,
    parts_along,
    repair_of,
)
from warmdraft.teardown import Along, Layout, step_of, worth_doing_along
from warmdraft.vent import MOVED, Outlet
from warmdraft.work.facts import JobFacts
from warmdraft.work.recorded import Mark, NewRun

Reason = Literal["cause", "consequence", "measured", "second", "order", "drawn", "upkeep", "along"]
Became = Literal["open", "done", "taken", "declined", "not_possible", "not_needed"]
#: Reasons by their weight: a line that stands for several says the first.
_WEIGHT: tuple[Reason, ...] = get_args(Reason)
#: A second fault is offered from this probability on, and has to be mended from even odds on (own assumptions).
SECOND_OFFERED, SECOND_MUST = 0.1, 0.5
#: The complaint that asks for the whole lint way and no cause.
SERVICE = "service_due"


@dataclass(frozen=True, slots=True)
class Because:
    """Why a line is there. fault: the cause, or the second of two; of: the fault a part opened for; verdict: what a
    meter or a look (check) gave; minutes_more, minutes_spared: of a part along; order: the id of an order."""

    kind: Reason
    fault: str | None = None
    of: str | None = None
    verdict: str | None = None
    check: str | None = None
    probability: float | None = None
    minutes_more: float | None = None
    minutes_spared: float | None = None
    order: str | None = None


@dataclass(frozen=True, slots=True)
class Line:
    """One line of works. because: why, the weightiest first; stands: it must be, or is offered; became: what became
    of it, by whom and why; unreached: parts that this machine's layout has no way to."""

    act: Act
    because: tuple[Because, ...]
    stands: Stands
    became: Became
    why: str = ""
    by: str = ""
    unreached: tuple[str, ...] = ()

    @property
    def wanted(self) -> bool:
        """Whether hands go to it: it must be, or was taken, and nobody said otherwise."""
        return self.became in ("taken", "done") or (self.became == "open" and self.stands == "must")


@dataclass(frozen=True, slots=True)
class Brings:
    """A part that may turn out to be needed once it is open: how probably, and with what."""

    part: str
    probability: float
    act: Act


@dataclass(frozen=True, slots=True)
class Works:
    """The list: what has to be or was taken, in the order of the work; then what is offered, best first.

    waiting: what is done as soon as its cause is known, never alone. settled: names of steps of lines that are done, or
    not possible, by their marks or by what was recorded.
    """

    lines: tuple[Line, ...]
    waiting: tuple[Line, ...]
    settled: frozenset[str]

    @property
    def wanted(self) -> tuple[Line, ...]:
        """What hands go to."""
        return tuple(line for line in self.lines if line.wanted)

    def line(self, name: str) -> Line | None:
        """The line of an act, by its name."""
        return next((line for line in self.lines if line.act.name == name), None)


def brings_of(lines: Sequence[Line]) -> tuple[Brings, ...]:
    """Parts to bring for lines, the most probable first; what a line uses up for certain is not among them."""
    certain = {part for line in lines for part in line.act.uses_up}
    found: dict[str, list[tuple[float, Act]]] = {}
    for line in lines:
        for part, probability in line.act.brings:
            if part not in certain:
                found.setdefault(part, []).append((probability, line.act))
    rows = []
    for part, given in found.items():
        spared = 1.0
        for probability, _ in given:
            spared *= 1 - probability
        rows.append(Brings(part, 1 - spared, max(given, key=lambda row: row[0])[1]))
    return tuple(sorted(rows, key=lambda row: (-row.probability, row.part)))


#: Causes less probable than this fill no van (own assumption).
_LEAST_CAUSE = 0.05


def brings_of_verdict(verdict: Verdict, acts_for: Callable[[str], Sequence[Act]]) -> tuple[Brings, ...]:
    """Parts to bring while nobody knows the cause: what each probable one would use up, and may need besides; the most
    probable first. acts_for: what is done for a fault."""
    missed: dict[str, float] = {}
    first: dict[str, Act] = {}
    for row in verdict.faults:
        if row.probability < _LEAST_CAUSE:
            continue
        for act in acts_for(row.fault):
            for part, share in (*((part, 1.0) for part in act.uses_up), *act.brings):
                # causes exclude one another: their chances add; what one act may need is its own
                missed[part] = missed.get(part, 0.0) + row.probability * share
                first.setdefault(part, act)
    rows = [Brings(part, min(1.0, chance), first[part]) for part, chance in missed.items()]
    return tuple(sorted(rows, key=lambda row: (-row.probability, row.part)))


class _Asked:
    """Lines as they are asked for, each act once."""

    def __init__(self) -> None:
        self.reasons: dict[str, list[Because]] = {}
        self.must: set[str] = set()

    def ask(self, act: Act, because: Because, stands: Stands = "must") -> None:
        self.reasons.setdefault(act.name, []).append(because)
        if stands == "must":
            self.must.add(act.name)

    def has_part(self, part: str) -> bool:
        return any(acts()[name].part == part for name in self.reasons)

    def does_more_than(self, act: Act) -> bool:
        """Whether something that has to be done is done to the part that an act is within."""
        return act.within is not None and any(acts()[name].part == act.within for name in self.must)


def works_of(
    facts: JobFacts, before: Case, after: Case, verdict: Verdict, causes: Sequence[str], layout: Layout | None
) -> Works:
    """The list of works of a job.

    before, after: what its facts give the diagnosis, of both phases; causes: what is taken for the cause, none while
    nobody knows; layout: the way into the machine, None where it is not known.
    """
    found = {finding.check: finding.result for finding in before.findings}
    reached = layout.parts if layout else ()
    energy = facts.machine.heat.energy
    repairs = [repair_of(cause, found, energy, reached) for cause in causes]
    asked, waiting = _Asked(), _Asked()
    for repair in repairs:
        for act in repair.acts:
            asked.ask(act, Because("cause", fault=repair.fault))
    _measured(asked, waiting, before, verdict, causes)
    _second(asked, verdict, causes, found, energy, reached)
    for order in facts.ordered():
        asked.ask(acts()[name_of(order.part, order.act)], Because("order", order=order.id))
    for name in built_by(facts.new_run):
        asked.ask(acts()[name], Because("drawn"))
    if SERVICE in facts.complaints:
        for act in acts().values():
            if act.upkeep and not asked.does_more_than(act):
                asked.ask(act, Because("upkeep"))
    decided, done = facts.decided(), _Done(facts, before, after)
    taken = {name for name, mark in decided.items() if mark.state == "taken"}
    if layout is not None:
        must = {name for name in asked.must | (taken & asked.reasons.keys())
                if decided.get(name) is None or decided[name].state == "taken"}  # fmt: skip
        for row in _along(layout, frozenset(must), facts):
            offered = along_of(row.part)
            if offered is not None and not asked.has_part(row.part) and not asked.does_more_than(offered):
                because = Because("along", minutes_more=row.minutes_more, minutes_spared=row.minutes_spared)
                asked.ask(offered, because, "offer")
    for name in decided:  # what somebody decided stays in sight, though nothing proposes it any more
        if name not in asked.reasons and name in acts():
            asked.ask(acts()[name], Because("along"), "offer")
    covered = {step.id for name in asked.reasons for step in acts()[name].steps}
    for act in acts().values():  # and so does what hands did, whatever the work goes by since
        if act.name not in asked.reasons and done.by_hand(act) and not covered.issuperset(s.id for s in act.steps):
            asked.ask(act, Because("along"), "offer")
    lines = [_line(name, reasons, name in asked.must, decided.get(name), done, layout)
             for name, reasons in asked.reasons.items()]  # fmt: skip
    lines = _without_what_is_replaced(lines, decided)
    return Works(
        lines=_in_order(lines),
        waiting=tuple(_line(name, rows, True, None, done, layout) for name, rows in waiting.reasons.items()),
        settled=frozenset(step_of("mend", step.id) for line in lines for step in line.act.steps
                          if done.of(step) != "open"),
    )  # fmt: skip


def _measured(asked: _Asked, waiting: _Asked, before: Case, verdict: Verdict, causes: Sequence[str]) -> None:
    """What a meter failed, and what a look names; a one-shot part only with its cause."""
    for finding in before.findings:
        metered = checks()[finding.check].meters
        if metered is not None and finding.result in ("failed", "suspect"):
            act = mend_of_part(metered)
            if parts()[metered].one_shot and finding.result == "failed":
                of = _heats(causes, verdict)
                (asked if causes else waiting).ask(act, Because("consequence", of=of))
            else:
                stands: Stands = "must" if finding.result == "failed" else "offer"
                asked.ask(act, Because("measured", verdict=finding.result, check=finding.check), stands)
        for act in acts().values():
            asks = act.found.get(finding.check, {}).get(finding.result)
            if asks is not None:
                asked.ask(act, Because("measured", verdict=finding.result, check=finding.check), asks)


def _heats(causes: Sequence[str], verdict: Verdict) -> str | None:
    """What let the machine get too hot: of the causes, else the likeliest that would."""
    return next((fault for fault in (*causes, *(row.fault for row in verdict.faults)) if explains_heat(fault)), None)


def _second(
    asked: _Asked,
    verdict: Verdict,
    causes: Sequence[str],
    found: Mapping[str, str],
    energy: str,
    reached: Sequence[str],
) -> None:
    """The other of two faults, where both are likely at once."""
    likely: dict[str, float] = {}
    for pair, probability in verdict.pairs:
        both = verdict.pair_share * probability
        for cause in causes:
            if cause in pair:
                other = next((fault for fault in pair if fault != cause), cause)
                if other not in causes:
                    likely[other] = likely.get(other, 0.0) + both
    for fault, probability in likely.items():
        if probability >= SECOND_OFFERED:
            stands: Stands = "must" if probability >= SECOND_MUST else "offer"
            for act in repair_of(fault, found, energy, reached).acts:
                asked.ask(act, Because("second", fault=fault, probability=probability), stands)


def _along(layout: Layout, names: frozenset[str], facts: JobFacts) -> tuple[Along, ...]:
    """Parts near what is opened anyway."""
    reach = tuple(sorted({part for name in names for part in acts()[name].reach if part in layout.parts}))
    if not any(acts()[name].needs_opening for name in names):
        return ()
    impossible = frozenset(facts.marked("open", "not_possible")) & {op.id for op in layout.operations}
    try:
        return worth_doing_along(layout, reach, parts=parts_along(), avoid=impossible)
    except LayoutError:  # what was said to be impossible leaves no way: nothing lies near
        return ()


class _Done:
    """Which steps of acts are done, by marks and by what was recorded."""

    def __init__(self, facts: JobFacts, before: Case, after: Case) -> None:
        self.marks = facts.settled()
        found = {"before": before, "after": after}
        self.recorded = {phase: {finding.check for finding in case.findings if finding.result not in NO_EVIDENCE}
                         for phase, case in found.items()}  # fmt: skip
        self.by = {fact.check: fact.by for fact in facts.findings}

    def by_hand(self, act: Act) -> bool:
        """Whether each of an act's steps is marked done."""
        marks = [self.marks.get(step_of("mend", step.id)) for step in act.steps]
        return bool(marks) and all(mark is not None and mark.state == "done" for mark in marks)

    def of(self, step: ActStep) -> Literal["open", "done", "not_possible"]:
        mark = self.marks.get(step_of("mend", step.id))
        if mark is not None:
            return "done" if mark.state == "done" else "not_possible"
        phases = ("after",) if step.after else ("before", "after")
        return "done" if step.check and any(step.check in self.recorded[phase] for phase in phases) else "open"


def _line(
    name: str, reasons: list[Because], must: bool, mark: Mark | None, done: _Done, layout: Layout | None
) -> Line:  # fmt: skip
    act = acts()[name]
    states = [done.of(step) for step in act.steps]
    became: Became = "open"
    why, by = "", ""
    if "open" not in states:
        became = "done" if states[0] == "done" else "not_possible"
        marks = [row for step in act.steps if (row := done.marks.get(step_of("mend", step.id))) is not None]
        why, by = (marks[-1].why, marks[-1].by) if marks else ("", "")
    if mark is not None and mark.state in ("taken", "declined", "not_needed", "not_possible"):
        if not (mark.state == "taken" and became != "open"):
            became = mark.state
        why, by = mark.why, mark.by
    missing = tuple(part for part in act.reach if act.needs_opening and (layout is None or part not in layout.parts))
    reasons = sorted(reasons, key=lambda because: _WEIGHT.index(because.kind))
    return Line(act, tuple(reasons), "must" if must else "offer", became, why, by, missing)


#: What is not done any more to a part that was found to want a new one; and to one that is built anew.
_FOR_THE_OLD_ONE: tuple[ActKind, ...] = ("clean", "refit")
_FOR_THE_OLD_RUN: tuple[ActKind, ...] = (*_FOR_THE_OLD_ONE, "clear", "repair", "replace")


def built_by(new_run: NewRun | None) -> tuple[str, ...]:
    """Acts that a run which was drawn anew and chosen asks for; none while nothing is chosen."""
    if new_run is None or new_run.chosen is None:
        return ()
    return building(new_run.chosen.outlet)


def building(outlet: Outlet) -> tuple[str, ...]:
    """Acts that a run from an outlet asks for, in their order."""
    moved = MOVED.get(outlet)
    return (BUILD,) if moved is None else (name_of(moved, "fit"), BUILD)


def _without_what_is_replaced(lines: Sequence[Line], decided: Mapping[str, Mark]) -> list[Line]:
    """Nobody cleans what is then thrown away: such lines are not needed, but where somebody wants them."""
    found = {line.act.part for line in lines if line.act.act == "replace" and line.stands == "must" and line.wanted
             and any(because.kind == "measured" for because in line.because)}  # fmt: skip
    anew = {part for line in lines if line.act.name == BUILD and line.wanted for part in OF_A_RUN}

    def needless(act: Act) -> bool:
        replaced = act.part in found and act.act in _FOR_THE_OLD_ONE
        return replaced or (act.part in anew and act.act in _FOR_THE_OLD_RUN)

    return [
        replace(line, became="not_needed")
        if needless(line.act) and line.became == "open"
        and line.act.name not in decided and not any(because.kind == "order" for because in line.because)
        else line
        for line in lines
    ]  # fmt: skip


def _in_order(lines: Sequence[Line]) -> tuple[Line, ...]:
    """What must be or was taken in the order of the work, then the offers: the likeliest, then what spares most."""

    def offered(line: Line) -> tuple[float, float, int]:
        first = line.because[0]
        if first.kind == "along":
            return (1.0, (first.minutes_more or 0) - (first.minutes_spared or 0), line.act.order)
        return (0.0, -(first.probability or 0), line.act.order)

    musts = [line for line in lines if line.stands == "must" or line.became in ("taken", "done")]
    rest = [line for line in lines if line not in musts]
    return (*sorted(musts, key=lambda line: line.act.order), *sorted(rest, key=offered))


def probing(line: Line) -> bool:
    """Whether a line is ordered to find something out: it may be gone to before any cause is known."""
    return line.act.finds_out and any(because.kind == "order" for because in line.because)
