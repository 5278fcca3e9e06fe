"""The likeliest story as supposed faults: what a machine is taken to be when something is reckoned forward from it."""

from __future__ import annotations

from warmdraft.diagnosis.case import Case
from warmdraft.diagnosis.verdict import Verdict

#: From this share on a pair of faults is likelier than a single one.
_PAIR_SHARE = 0.5


def likeliest_story(case: Case, verdict: Verdict) -> tuple[tuple[str, float | None], ...] | None:
    """(fault, severity) of the likeliest story, severities at their middle; None while nothing is known.

    >>> from warmdraft.diagnosis import diagnose
    >>> from warmdraft.machine import profile
    >>> case = Case(profile('full-size-electric'))
    >>> likeliest_story(case, diagnose(case)) is None
    True
    """
    if not (case.readings or case.findings):
        return None
    if verdict.pair_share > _PAIR_SHARE:
        return tuple((fault, None) for fault in verdict.pairs[0][0])
    first = verdict.faults[0]
    return ((first.fault, first.severity[1] if first.severity else None),)
