"""What was found, fitted and agreed on a job, as JSON; and the scale that lint is graded on."""

from __future__ import annotations

from dataclasses import dataclass

from warmdraft.airway import healthy_state, solve
from warmdraft.answers.quantity import Quantity, quantity
from warmdraft.errors import DocumentError
from warmdraft.faults import supposed_state
from warmdraft.repair import GRADES, acts, free_share, lint_fault, severity_of
from warmdraft.teardown import LINE, name_at, step_of
from warmdraft.words import Words
from warmdraft.work import Agreement, JobState


@dataclass(slots=True)
class LintFoundAnswer:
    """What was found where something was cleaned. line: as steps name it; grade: of the scale; grams: null where it was
    not weighed; of: the last drawing of the scale."""

    id: str | None
    line: str
    text: str
    grade: int | None
    of: int
    grams: float | None
    objects: str
    by: str


@dataclass(slots=True)
class FittedAnswer:
    """A part that was fitted."""

    part: str
    text: str
    number: str
    count: int


@dataclass(slots=True)
class AgreementAnswer:
    """What the customer agreed to last."""

    id: str | None
    total: str
    currency: str
    name: str
    signature: str


@dataclass(slots=True)
class DealtAnswer:
    """What was found, fitted and agreed."""

    lint: list[LintFoundAnswer]
    fitted: list[FittedAnswer]
    agreed: AgreementAnswer | None


@dataclass(slots=True)
class GradeAnswer:
    """A drawing of the scale. free: share of the way that is free; flow: what it takes from the outlet on this machine
    while all else is healthy."""

    grade: int
    free: float
    flow: Quantity
    text: str


@dataclass(slots=True)
class LintAnswer:
    """The scale of a place; act: as what is found there names it; vanes: how many there are to clean, null where it is
    no wheel."""

    act: str
    grades: list[GradeAnswer]
    vanes: int | None


def agreement_answer(agreed: Agreement) -> AgreementAnswer:
    """An agreement as it is shown."""
    return AgreementAnswer(agreed.id, str(agreed.total), agreed.currency, agreed.name, agreed.signature)


def dealt_answer(state: JobState, words: Words) -> DealtAnswer:
    """What was found, fitted and agreed."""
    facts, agreed = state.facts, state.facts.agreement()
    return DealtAnswer(
        lint=[
            LintFoundAnswer(
                row.id,
                step_of(LINE, row.act),
                words.act(row.act),
                row.grade,
                GRADES - 1,
                row.grams,
                row.objects,
                row.by,
            )
            for row in facts.lint
            if not row.withdrawn
        ],
        fitted=[
            FittedAnswer(row.part, words.thing("part", row.part), row.number, row.count)
            for row in facts.parts_said()
            if row.state == "used"
        ],
        agreed=agreement_answer(agreed) if agreed else None,
    )


def lint_answer(state: JobState, line: str, words: Words) -> LintAnswer:
    """The scale of what a line takes away. Raises DocumentError for a line that takes no lint away."""
    name = name_at(LINE, line)
    act = acts().get(name or "")
    fault = lint_fault(act) if act else None
    if act is None or fault is None:
        raise DocumentError("$.line", f"'{line}' takes no lint away; give a line that cleans or clears")
    machine = state.facts.machine
    healthy = float(solve(healthy_state(machine.airway), machine.airway.fan).outlet[0])
    rows = []
    for grade in range(GRADES):
        air = solve(supposed_state(machine.airway, ((fault.name, severity_of(fault, grade)),)), machine.airway.fan)
        lost = healthy - float(air.outlet[0])
        free = free_share(fault, grade)
        text = words.word("lint", "clean" if grade == 0 else "of").format(
            free=f"{100 * free:.0f} %", flow=words.quantity(lost, "flow")
        )
        rows.append(GradeAnswer(grade, free, quantity(lost, "m3/s"), text))
    return LintAnswer(act.name, rows, machine.drive.vanes if act.part in ("blower_wheel", "wheel_face") else None)
