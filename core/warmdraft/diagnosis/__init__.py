"""From facts to a verdict: posterior over fault and severity, what speaks for it, and the check most worth doing next.

May import checks, faults, airway, machine, air, errors. Imports numpy and the standard library.
"""

from warmdraft.diagnosis.case import Case, FindingFact, ReadingFact
from warmdraft.diagnosis.consequences import Consequence, explains_heat, opened_one_shots
from warmdraft.diagnosis.evidence import conditions_of
from warmdraft.diagnosis.headline import Headline, HeadlineCode, headline_of
from warmdraft.diagnosis.lamps import Lamps, LampState, lamps_of
from warmdraft.diagnosis.story import likeliest_story
from warmdraft.diagnosis.verdict import MODEL_VERSION, Verdict, diagnose

__all__ = [
    "MODEL_VERSION", "Case", "Consequence", "FindingFact", "Headline", "HeadlineCode", "LampState", "Lamps",
    "ReadingFact", "Verdict", "conditions_of", "diagnose", "explains_heat", "headline_of", "lamps_of",
    "likeliest_story",    "opened_one_shots",
]  # fmt: skip
