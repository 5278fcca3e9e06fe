"""Parts and what the customer agreed to, as clients give them."""

from typing import Any

from jobs.facts.bodies import AgreementIn, LintIn, OldPartIn, PartIn
from jobs.facts.inputs import checked, given, refuse
from jobs.facts.values import DealingValues
from warmdraft.jobfile.stock_schema import AgreementSection, LintSection, OldPartSection, PartSaidSection
from warmdraft.mending import PROPERTIES
from warmdraft.stock import MARKED, key_of, marks_typed


def old_part_values(body: OldPartIn) -> DealingValues:
    """Columns of an old part: its marks in the file's own units."""
    marks, wrong = marks_typed(body.kind, body.marks)
    if wrong:
        name, message = next(iter(wrong.items()))
        raise refuse(f"$.marks.{name}", message)
    if marks is None:
        raise refuse("$.marks", "nothing was read; give one mark at least")
    said = {
        name: {"value": value, "unit": MARKED[name][1]} if name in MARKED else value
        for name in PROPERTIES
        if (value := getattr(marks, name)) is not None
    }
    document: dict[str, Any] = {"marks": {"kind": body.kind, **said}}
    checked(
        OldPartSection, document, {f"marks.{name}.value": f"marks.{name}" for name in said} | {"marks.kind": "kind"}
    )
    return DealingValues(what="old_part", document=document, at=body.at)


def part_values(body: PartIn) -> DealingValues:
    """Columns of what became of a part."""
    said = {"number": body.number, "price": body.price or "", "store": body.store}
    document = {"part": body.part, "state": body.state, "count": body.count} | given(said)
    checked(PartSaidSection, document, {})
    return DealingValues(what="part", document=document, key=key_of(body.number), at=body.at)


def agreement_values(body: AgreementIn) -> DealingValues:
    """Columns of what the customer agreed to."""
    document: dict[str, Any] = {"lines": body.lines, "total": body.total, "currency": body.currency}
    document |= given({"name": body.name.strip(), "signature": body.signature})
    checked(AgreementSection, document, {})
    return DealingValues(what="agreement", document=document, at=body.at)


def lint_values(body: LintIn) -> DealingValues:
    """Columns of what was found where something was cleaned."""
    document: dict[str, Any] = {"act": body.act} | given({"objects": body.objects.strip()})
    document |= {key: said for key, said in (("grade", body.grade), ("grams", body.grams)) if said is not None}
    if len(document) == 1:
        raise refuse("$.grade", "nothing is said of it; give a grade, grams, or what else lay there")
    checked(LintSection, document, {})
    return DealingValues(what="lint", document=document, at=body.at)
