"""What is proven after the work, in the order in which one walks: the list that Prove goes down."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from typing import Any, Literal

from warmdraft.checks import checks
from warmdraft.diagnosis import Case
from warmdraft.diagnosis.next_check import checks_left
from warmdraft.faults import ABOUT, About, about, catalogue
from warmdraft.proof import got_too_hot
from warmdraft.tables import rows

When = Literal["always"] | About
#: What a row may be asked for: always, or only where the job is about that.
WHEN = ("always", *ABOUT)


@dataclass(frozen=True, slots=True)
class ToProve:
    """One row of the list. checks: any of them shows it; must: it is asked for, not only offered."""

    name: str
    checks: tuple[str, ...]
    when: When
    must: bool


@dataclass(frozen=True, slots=True)
class Proving:
    """One row as it stands. check: the one to do, or the one that was done; None where this person can do none of them;
    done: it was, or was said to be impossible here."""

    name: str
    check: str | None
    must: bool
    done: bool


def _row(name: str, row: dict[str, Any]) -> ToProve:
    return ToProve(name, tuple(row["checks"]), row["when"], row["must"])


@cache
def to_prove() -> dict[str, ToProve]:
    """The whole list, in its order."""
    return rows("proving", _row)


def proving_names() -> tuple[str, ...]:
    """Names of its rows."""
    return tuple(to_prove())


def proving_of(before: Case, after: Case, causes: Sequence[str]) -> tuple[Proving, ...]:
    """What this job asks to be proven, in order. causes: what was mended.

    >>> from warmdraft.machine import profile
    >>> case = Case(profile('full-size-electric'), complaints=frozenset({'rumbles'}))
    >>> [row.name for row in proving_of(case, case, ()) if row.must]
    ['flap', 'flow', 'sound']
    """
    asked = _asked(before, causes)
    done = {finding.check for finding in after.findings}
    read = {reading.kind for reading in after.readings}
    was = {finding.check for finding in before.findings} | {reading.kind for reading in before.readings}
    can = {check.name for check in checks_left(after, frozenset())}
    found = []
    for row in to_prove().values():
        if row.when not in asked:
            continue
        shown = next((name for name in row.checks if name in done or checks()[name].observes in read), None)
        # what was done before is done again where it can be: only that compares
        able = sorted((name for name in row.checks if name in can), key=lambda name: name not in was)
        found.append(Proving(row.name, shown or next(iter(able), None), row.must, shown is not None))
    return tuple(found)


def _asked(before: Case, causes: Sequence[str]) -> set[When]:
    asked: set[When] = {"always", *about(before.complaints | before.circumstances)}
    if got_too_hot(before):
        asked.add("hot")
    if any(catalogue()[cause].late for cause in causes):
        asked.add("time")
    if any(checks()[row.check].heard and row.result in checks()[row.check].results[1:] for row in before.findings):
        asked.add("noise")
    return asked
