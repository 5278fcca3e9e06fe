"""English: its words are the tables of data/words/en, and what our own tables say."""

from __future__ import annotations

from dataclasses import dataclass

from warmdraft.words.bench import BenchWords
from warmdraft.words.happened import HistoryWords
from warmdraft.words.verdicts import VerdictWords


@dataclass(frozen=True)
class English(VerdictWords, BenchWords, HistoryWords):
    """The renderer that there is; another language is another such class, and its own tables."""
