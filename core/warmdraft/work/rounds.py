"""A second round: what was mended did not help, the cause is another, and all is mended, closed and proven anew.

What was read after the first repair is read before the second one. What made the machine safe, and what was looked at
as it was closed, was done before it ran again: it is asked for once more.
"""

from __future__ import annotations

from collections.abc import Hashable, Sequence
from dataclasses import replace
from datetime import datetime
from typing import Any, TypeVar

from warmdraft.proof import proof
from warmdraft.tables import table
from warmdraft.teardown import stage_and_name
from warmdraft.work.facts import JobFacts
from warmdraft.work.recorded import Finding, Mark, Observation, Reading

_Seen = TypeVar("_Seen", bound=Observation)


def this_round(facts: JobFacts) -> tuple[JobFacts, tuple[str, ...]]:
    """The facts as they stand for the round that is worked on now, and the causes that were mended before it without
    any change; in the first round the facts as they are, and none.

    A round begins where the work goes by another cause than the one that was confirmed. Facts whose moment nobody knows
    stay where they are.
    """
    tried: list[str] = []
    while (place := _next_turn(facts)) is not None:
        was, began = facts.causes[place - 1].fault, facts.causes[place].at
        unchanged = proof(facts.case("before"), _until(facts, began).case("after"), (was,)).nothing_changed
        tried += [was] if unchanged else []
        facts = replace(
            facts,
            readings=_moved(facts.readings, began, unchanged),
            findings=_moved(facts.findings, began, unchanged),
            meter=tuple(_before_it(row, began) for row in facts.meter),
            logs=tuple(_before_it(row, began) for row in facts.logs),
            sounds=tuple(_before_it(row, began) for row in facts.sounds),
            marks=tuple(mark for mark in facts.marks if not _asked_again(mark, began)),
            causes=facts.causes[place:],
        )
    return facts, tuple(tried)


def _next_turn(facts: JobFacts) -> int | None:
    """Place of the first cause that the work went by after another one was confirmed; None where there is none."""
    for place, cause in enumerate(facts.causes[1:], 1):
        before = facts.causes[place - 1]
        if cause.kind == "working" and before.kind == "confirmed" and cause.fault != before.fault:
            return place
    return None


def _is_old(at: datetime | None, began: datetime | None) -> bool:
    return at is not None and began is not None and at <= began


def _until(facts: JobFacts, turn: datetime | None) -> JobFacts:
    """What had been read, seen and heard when a round began: what came after it says nothing of the repair before."""

    def then(rows: Sequence[_Seen]) -> tuple[_Seen, ...]:
        return tuple(row for row in rows if not (row.at is not None and turn is not None and row.at > turn))

    return replace(facts, readings=then(facts.readings), findings=then(facts.findings), meter=then(facts.meter),
                   logs=then(facts.logs), sounds=then(facts.sounds))  # fmt: skip


def _before_it(fact: _Seen, began: datetime | None) -> _Seen:
    """What was seen after the repair before, as it counts now: before the work."""
    return replace(fact, phase="before") if fact.phase == "after" and _is_old(fact.at, began) else fact


def _moved(facts: Sequence[_Seen], began: datetime | None, unchanged: bool) -> tuple[_Seen, ...]:
    """The same of readings and looks, in place of those they repeat. unchanged: the repair before did nothing, so what
    was not repeated still holds; else it does not."""
    again = {_what(fact) for fact in facts if fact.phase == "after" and _is_old(fact.at, began) and not fact.withdrawn}
    if not again:
        return tuple(facts)
    kept = [fact for fact in facts if fact.phase == "after" or (unchanged and _what(fact) not in again)]
    return tuple(_before_it(fact, began) for fact in kept)


def _what(fact: Any) -> Hashable:
    if isinstance(fact, Reading):
        return fact.kind, fact.heat_on
    return fact.check if isinstance(fact, Finding) else None


def _asked_again(mark: Mark, began: datetime | None) -> bool:
    """Whether a mark is of the round before, and of what is done anew in each."""
    stage, name = stage_and_name(mark.step)
    done_anew = stage == "make_safe" or (stage == "close" and name in table("closing"))
    return done_anew and _is_old(mark.at, began)
