"""The proof of a repair: readings beside each other, the decision, and what would settle what is open."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from warmdraft.airway import reading_kinds
from warmdraft.checks import checks
from warmdraft.diagnosis import opened_one_shots
from warmdraft.diagnosis.case import Case
from warmdraft.diagnosis.flow import READ_AS_FLOW
from warmdraft.faults import about
from warmdraft.proof.accept import ACCEPT_FROM, Acceptance, After, acceptance_of, after_work, amiss_before
from warmdraft.proof.compare import Comparison, compare
from warmdraft.proof.settle import Settles, settling
from warmdraft.repair import Act, acts

ProofCode = Literal["not_measured", "proven", "shown", "better", "left", "unchanged", "lower", "short"]
#: What a machine is not handed over with, unless a lead answers for it; nor with what surely falls short.
HOLDS: tuple[ProofCode, ...] = ("not_measured", "unchanged", "lower")
#: Less than this of a fault, as a share of what was there, is not told (own assumption).
HELD_FROM = 0.1
#: What shows above all whether the work helped.
_ABOVE_ALL = READ_AS_FLOW[0]


@dataclass(frozen=True, slots=True)
class Compares:
    """Checks that show whether the work helped, before it and after it; done ones are left out."""

    before: tuple[str, ...]
    after: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Proof:
    """Whether the work is shown to have helped.

    code: not_measured (nothing after that speaks of it), proven (accepted), shown (every line is, the air was not
    measured), better (more air, not yet accepted), left (the air is there, a line is not), unchanged, lower (less air
    than before), short (not accepted, and no flow read before and after it to compare); regained: share of the missing
    flow that came back, None where it cannot be said; settles: checks that would most likely settle what is open, best
    first; again: checks that told something before the work and were not done since; compares: what still has to be
    read before it and after it; held: the fault that was mended and how much of what was there is still there, a share,
    None where that is not open; overheated: the machine got too hot, so that nobody uses it until its air is
    proven; line: gauge pressure at NODES after it, Pa, None where nothing was read.
    """

    code: ProofCode
    acceptance: Acceptance
    regained: float | None
    rows: tuple[Comparison, ...]
    settles: tuple[Settles, ...]
    again: tuple[str, ...]
    compares: Compares
    held: tuple[str, float] | None
    overheated: bool
    line: tuple[float, ...] | None

    @property
    def nothing_changed(self) -> bool:
        """Whether it was measured, and the work has not helped."""
        return self.code in ("unchanged", "lower")

    @property
    def holds(self) -> bool:
        """Whether a machine is not handed over with it, unless a lead answers for it."""
        rejected = self.code == "short" and self.acceptance.decision == "reject"
        return self.code in HOLDS or rejected or self.too_hot_to_use

    @property
    def too_hot_to_use(self) -> bool:
        """Whether it got too hot, and its air is not proven."""
        return self.overheated and self.acceptance.conformity < ACCEPT_FROM

    @property
    def goes_back(self) -> bool:
        """Whether what was found since sends one back to the cause: it is not the work that is missing, but the air, or
        something of what was mended is still there."""
        failed = self.code in HOLDS or self.code == "left" or self.acceptance.decision == "reject"
        return self.measured and failed

    @property
    def measured(self) -> bool:
        """Whether anything after the work speaks of it."""
        return self.code != "not_measured"


def proof(before: Case, after: Case, causes: Sequence[str] = (), mended: Sequence[Act] = ()) -> Proof:
    """Judge the work by everything read and seen after it. causes: faults that were mended, empty where nobody said;
    mended: all that was done.

    >>> from warmdraft.diagnosis import Case, ReadingFact
    >>> from warmdraft.machine import profile
    >>> machine = profile('full-size-electric')
    >>> of = lambda flow, pressure: Case(machine, readings=(
    ...     ReadingFact('outlet_flow', flow), ReadingFact('outlet_static_pressure', pressure)))
    >>> found = proof(of(0.05, 330.0), of(0.081, 96.0), ('transition_crushed',))
    >>> found.code, found.acceptance.decision, round(found.regained, 1)
    ('proven', 'accept', 1.0)
    """
    found, known = _proof(before.anybodys, after.anybodys, tuple(causes), tuple(act.name for act in mended))
    return replace(found, settles=settling(known, after, found.acceptance.lines))


@lru_cache(maxsize=64)
def _proof(before: Case, after: Case, causes: tuple[str, ...], mended: tuple[str, ...]) -> tuple[Proof, After]:
    """The same whoever asks, but for the checks that would settle what is open."""
    rows = compare(before, after, causes[0] if causes else None)
    flow = next((r for kind in READ_AS_FLOW for r in rows if r.kind == kind and r.after), None)
    regained, gained = None, flow is None and any(_came_right(row) for row in rows)
    if flow is not None and flow.after is not None and flow.before is not None and flow.before < flow.healthy_low:
        regained = (flow.after - flow.before) / (flow.healthy - flow.before)
        gained = flow.change_low is not None and flow.change_low > 0
    known = after_work(before, after, causes)
    found = acceptance_of(known, after, causes, [acts()[name] for name in mended], gained)
    line = tuple(known.nodes().tolist()) if after.readings else None
    again = _not_done_again(before, after, rows)
    compares = Compares(_flow_to_read(before), tuple(dict.fromkeys((*again, *_flow_to_read(after)))))
    air = any(reading_kinds()[reading.kind].tells_flow for reading in after.readings)
    code, overheated = _code(found, flow, air), got_too_hot(before)
    held = _held(before, known, found, causes) if code in ("better", "left", "short") else None
    return Proof(code, found, regained, rows, (), again, compares, held, overheated, line), known


def got_too_hot(before: Case) -> bool:
    """Whether the machine overheated: somebody says so, or a one-shot part has opened.

    >>> from warmdraft.machine import profile
    >>> got_too_hot(Case(profile('full-size-electric'), complaints=frozenset({'overheats'})))
    True
    """
    return "hot" in about(before.complaints) or bool(opened_one_shots(before))


def _held(before: Case, known: After, found: Acceptance, causes: Sequence[str]) -> tuple[str, float] | None:
    """What of a cause is still there, of what was: where its line is not proven and readings speak of both."""
    for line in found.lines:
        if line.fault and line.fault in causes and not line.proven and before.readings and known.readings_speak:
            was = amiss_before(before, line.fault)
            share = known.amiss(line.fault) / was if was > 0 else 0.0
            if share >= HELD_FROM:
                return line.fault, min(share, 1.0)
    return None


def _came_right(row: Comparison) -> bool:
    """A reading of the air was off before the work and is as healthy since, by more than it may be mistaken."""
    if not reading_kinds()[row.kind].tells_flow or row.stood in (None, "as_healthy") or row.standing != "as_healthy":
        return False
    return row.change_low is not None and row.change_high is not None and not row.change_low <= 0 <= row.change_high


def _flow_to_read(case: Case) -> tuple[str, ...]:
    """What is measured before the work and after it above all, where it was not."""
    return () if any(reading.kind == _ABOVE_ALL for reading in case.readings) else (_ABOVE_ALL,)


def _not_done_again(before: Case, after: Case, rows: Sequence[Comparison]) -> tuple[str, ...]:
    """Readings, the flow first, and what was heard: that compares only when it is done once more."""
    kinds = {row.kind for row in rows if row.after is None} - {row.kind for row in rows if row.after is not None}
    read: dict[str, str] = {}  # the first check of each kind
    for name, check in checks().items():
        if check.observes in kinds:
            read.setdefault(check.observes, name)
    done = {finding.check for finding in after.findings}
    heard = [
        finding.check for finding in before.findings
        if (check := checks()[finding.check]).recorded and finding.result in check.results[1:]
        and finding.check not in done
    ]  # fmt: skip
    return (*(read[kind] for kind in sorted(read, key=lambda kind: kind != _ABOVE_ALL)), *dict.fromkeys(heard))


def _code(found: Acceptance, flow: Comparison | None, air: bool) -> ProofCode:
    """flow: where it was read; air: something was read that tells of it."""
    if not air:
        of_faults = [line for line in found.lines if line.fault is not None]
        left = any(line.proven is False for line in found.lines)
        return "shown" if of_faults and all(line.proven for line in of_faults) and not left else "not_measured"
    if found.decision == "accept":
        return "proven"
    enough = found.conformity >= ACCEPT_FROM
    if flow is None or flow.change is None or flow.change_low is None or flow.change_high is None:
        return "left" if enough else "short"
    if flow.change_low > 0:
        return "left" if enough else "better"
    return "lower" if flow.change_high < 0 else "unchanged"
