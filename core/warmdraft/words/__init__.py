"""Codes and quantities turned into sentences; one renderer a language. English is the one there is.

May import diagnosis, checks, faults, units, errors. The command line and the web use the same.
"""

from warmdraft.words.bench import (
    along_words,
    area_words,
    fastener_words,
    part_words,
    problem_words,
    school_words,
    way_words,
    why_words,
)
from warmdraft.words.english import METRIC, English, UnitHabits
from warmdraft.words.happened import from_file_words, happened
from warmdraft.words.headline import headline
from warmdraft.words.lamps import lamps
from warmdraft.words.search import search_terms, words_in, words_version

__all__ = [
    "METRIC",
    "English",
    "UnitHabits",
    "along_words",
    "area_words",
    "fastener_words",
    "from_file_words",
    "happened",
    "headline",
    "lamps",
    "part_words",
    "problem_words",
    "school_words",
    "search_terms",
    "way_words",
    "why_words",
    "words_in",
    "words_version",
]
