"""From facts to a verdict: posterior over fault and severity, what speaks for it, and the check most worth doing next.

May import checks, faults, airway, machine, air, errors. Imports numpy and the standard library.
"""

from warmdraft.diagnosis.case import Case, FindingFact, ReadingFact
from warmdraft.diagnosis.choices import TRIES, Choice
from warmdraft.diagnosis.consequences import Consequence, explains_heat, opened_one_shots
from warmdraft.diagnosis.evidence import conditions_of
from warmdraft.diagnosis.headline import Headline, HeadlineCode, headline_of
from warmdraft.diagnosis.lamps import Lamps, LampState, lamps_of
from warmdraft.diagnosis.minutes import mending_minutes
from warmdraft.diagnosis.settings import OTHER_KIND_SHARE, OTHERWISE, USUAL_VENT, SettingCode
from warmdraft.diagnosis.story import likeliest_story
from warmdraft.diagnosis.sure import Otherwise, Sure
from warmdraft.diagnosis.told import (
    SUSPICIONS,
    Gain,
    Suspicion,
    Weighs,
    faults_told,
    gain_of,
    learned_told,
    otherwise_told,
    pairs_told,
    suspicion_of,
    weighs,
)
from warmdraft.diagnosis.verdict import MODEL_VERSION, Verdict, Weighed, diagnose, weigh, with_next

__all__ = [
    "MODEL_VERSION", "OTHERWISE", "OTHER_KIND_SHARE", "SUSPICIONS", "TRIES", "USUAL_VENT", "Case", "Choice",
    "Consequence", "FindingFact", "Gain", "Headline", "HeadlineCode", "LampState", "Lamps", "Otherwise", "ReadingFact",
    "SettingCode", "Sure", "Suspicion", "Verdict", "Weighed", "Weighs", "conditions_of", "diagnose", "explains_heat",
    "faults_told", "gain_of", "headline_of", "lamps_of", "learned_told", "likeliest_story", "mending_minutes",
    "opened_one_shots", "otherwise_told", "pairs_told", "suspicion_of", "weigh", "weighs", "with_next",
]  # fmt: skip
