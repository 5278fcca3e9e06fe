"""Who speaks: the renderer of each language."""

from __future__ import annotations

from dataclasses import dataclass

from warmdraft.errors import CatalogueError
from warmdraft.tables import SOURCE_LANGUAGE, languages
from warmdraft.words.drill import DrillWords
from warmdraft.words.happened import HistoryWords
from warmdraft.words.learning import LearningWords
from warmdraft.words.numbers import METRIC, UnitHabits
from warmdraft.words.protocol import Words
from warmdraft.words.upkeep import UpkeepWords
from warmdraft.words.verdicts import VerdictWords


@dataclass(frozen=True)
class Speaker(VerdictWords, HistoryWords, UpkeepWords, LearningWords, DrillWords):
    """Sentences by the tables of a language: all that English asks for."""


#: Languages whose grammar asks for more than tables: each a class of its own, by its name.
_OF_THEIR_OWN: dict[str, type[Speaker]] = {}


def words_for(language: str = SOURCE_LANGUAGE, habits: UnitHabits = METRIC) -> Words:
    """The renderer of a language for a person's units. Raises CatalogueError for a language that there is not."""
    if language not in languages():
        raise CatalogueError(f"'{language}' is no language here; give one of {', '.join(languages())}")
    return _OF_THEIR_OWN.get(language, Speaker)(habits, language)
