"""Before and after the work, beside healthy."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from warmdraft.airway import reading_dimensions
from warmdraft.answers.quantity import Quantity, maybe, quantity
from warmdraft.proof import Proof
from warmdraft.units import UNITS
from warmdraft.words import Words


@dataclass(slots=True)
class ComparisonAnswer:
    """A kind of reading before and after, beside healthy; difference in words."""

    kind: str
    heat_on: bool
    healthy: Quantity
    healthy_low: Quantity
    healthy_high: Quantity
    before: Quantity | None
    after: Quantity | None
    standing: Literal["as_healthy", "low", "high"]
    text: str


@dataclass(slots=True)
class ProofAnswer:
    """Whether the work is shown to have helped; regained: share of the missing flow that came back."""

    code: Literal["not_measured", "proven", "better", "unchanged"]
    text: str
    regained: float | None
    rows: list[ComparisonAnswer]


def proof_answer(found: Proof, words: Words) -> ProofAnswer:
    """The proof with its words."""
    rows = []
    for row in found.rows:
        unit = UNITS[reading_dimensions()[row.kind]].canonical
        rows.append(
            ComparisonAnswer(
                kind=row.kind,
                heat_on=row.heat_on,
                healthy=quantity(row.healthy, unit),
                healthy_low=quantity(row.healthy_low, unit),
                healthy_high=quantity(row.healthy_high, unit),
                before=maybe(row.before, unit),
                after=maybe(row.after, unit),
                standing=row.standing,
                text=words.comparison(row),
            )
        )
    return ProofAnswer(found.code, words.word("proof", found.code), found.regained, rows)
