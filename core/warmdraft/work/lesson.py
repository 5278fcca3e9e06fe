"""What a job teaches once it is known what it was."""

from __future__ import annotations

from warmdraft.learning import Counts, counted
from warmdraft.work.state import JobState

#: What was confirmed, and nobody showed by a proof, counts for so much of a job (own choice).
UNSHOWN = 0.5


def lesson_of(state: JobState) -> Counts:
    """What a job counts: its confirmed cause, by how well the work showed it; nothing before one is confirmed, or where
    the proof speaks against it.

    Line by line: what was mended because of the cause has to be shown, and nothing of it disproven.
    """
    if state.confirmed is None:
        return Counts()
    return counted(state.before, state.confirmed.fault, shown_of(state, state.confirmed.fault))


def shown_of(state: JobState, fault: str) -> float:
    """How well the work showed that it was this fault: 1 where its lines are proven and the air is accepted, 0 where
    something speaks against it."""
    found = state.proof.acceptance
    lines = [line.proven for line in found.lines if line.fault == fault]
    if found.decision == "reject" or False in lines:
        return 0.0
    return 1.0 if found.decision == "accept" and all(lines) else UNSHOWN
