"""Acceptance after the work: each reading before and after, a decision with its risk, and what would settle it.

May import repair, diagnosis, airway, checks. Imports numpy and the standard library.
"""

from warmdraft.proof.accept import (
    ACCEPT_FROM,
    LIMIT_SHARE,
    REJECT_BELOW,
    Acceptance,
    Decision,
    Line,
    Shows,
    promised_flow,
)
from warmdraft.proof.compare import Comparison, Keeps, Standing, compare
from warmdraft.proof.prove import HOLDS, Proof, ProofCode, got_too_hot, proof
from warmdraft.proof.reference import own_reference
from warmdraft.proof.settle import Settles

__all__ = [
    "ACCEPT_FROM",
    "HOLDS",
    "LIMIT_SHARE",
    "REJECT_BELOW",
    "Acceptance",
    "Comparison",
    "Decision",
    "Keeps",
    "Line",
    "Proof",
    "ProofCode",
    "Settles",
    "Shows",
    "Standing",
    "compare",
    "got_too_hot",
    "own_reference",
    "promised_flow",
    "proof",
]
