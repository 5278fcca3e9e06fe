"""From facts to a verdict: posterior over fault and severity, what speaks for it, and the check most worth doing next.

May import checks, faults, airway, machine, air, errors. Imports numpy and the standard library.
"""

from warmdraft.diagnosis.case import Case, FindingFact, ReadingFact
from warmdraft.diagnosis.consequences import Consequence, explains_heat, opened_one_shots
from warmdraft.diagnosis.verdict import MODEL_VERSION, Verdict, diagnose

__all__ = ["MODEL_VERSION", "Case", "Consequence", "FindingFact", "ReadingFact", "Verdict", "diagnose",
           "explains_heat", "opened_one_shots"]  # fmt: skip
