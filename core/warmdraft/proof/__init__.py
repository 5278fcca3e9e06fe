"""Acceptance after the work: each reading before and after, against what a healthy machine reads.

May import diagnosis, airway, checks. Imports numpy and the standard library.
"""

from warmdraft.proof.compare import Comparison, Proof, ProofCode, Standing, compare, proof

__all__ = ["Comparison", "Proof", "ProofCode", "Standing", "compare", "proof"]
