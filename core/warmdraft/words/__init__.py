"""Codes and quantities turned into sentences: one renderer a language, behind one protocol.

May import work and all below it. The command line and the web use the same.
"""

from warmdraft.words.numbers import METRIC, UNIT_LOOK, UnitHabits
from warmdraft.words.protocol import Sentences, StepWords, Words
from warmdraft.words.search import search_terms, words_in, words_version
from warmdraft.words.speaker import words_for

__all__ = [
    "METRIC",
    "UNIT_LOOK",
    "Sentences",
    "StepWords",
    "UnitHabits",
    "Words",
    "search_terms",
    "words_for",
    "words_in",
    "words_version",
]
